namespace Walkdown.Core.Acceptance;

/// <summary>Time that has to pass before a row can be taken: sealant that cures, a housing that cools, a device that comes up.</summary>
public sealed record Wait
{
    /// <summary>The check whose reading begins it; null: an act does.</summary>
    public CheckId? After { get; init; }

    /// <summary>The kind of work that begins it; null: a reading does.</summary>
    public string? AfterAct { get; init; }

    /// <summary>The figure of the limit set that says how many minutes.</summary>
    public required string Minutes { get; init; }
}
