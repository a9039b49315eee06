using Walkdown.Core.Optics;

namespace Walkdown.Core.Acceptance;

/// <summary>How a head should look, as somebody planned it. The last one that was agreed is what its Card expects; those after it are
/// being talked about.</summary>
public sealed record PlannedView : CardEvent
{
    /// <summary>The head.</summary>
    public required Guid HeadId { get; init; }

    /// <summary>The view.</summary>
    public required ViewDesign Design { get; init; }

    /// <summary>Who agreed to it, by name; null: nobody yet.</summary>
    public string? AgreedBy { get; init; }

    /// <summary>The picture of it, taken at the trial aim; null: the view alone was agreed.</summary>
    public Entries.ReadingEvidence? Picture { get; init; }
}
