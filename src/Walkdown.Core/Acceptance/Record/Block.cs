namespace Walkdown.Core.Acceptance;

/// <summary>The Card cannot be worked on: by whom it is held up, why, and until when. Set aside: put off by the technician's own
/// choice.</summary>
public sealed record Block : CardEvent
{
    /// <summary>Who holds it up; the technician's own choice where <see cref="SetAside"/>.</summary>
    public required string BlockedBy { get; init; }

    /// <summary>Why.</summary>
    public required string Reason { get; init; }

    /// <summary>When it should be free again, where somebody said so.</summary>
    public DateOnly? Until { get; init; }

    /// <summary>Put off by the technician's own choice.</summary>
    public bool SetAside { get; init; }
}
