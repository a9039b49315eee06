namespace Walkdown.Core.Acceptance;

/// <summary>What should be done before a row, elsewhere than in a row of its Card: work on the device, or a check on the Card of the
/// recorder that shows it.</summary>
public sealed record Need
{
    /// <summary>The kind of work that must be on record.</summary>
    public string? Act { get; init; }

    /// <summary>The check that must be in on the recorder's Card.</summary>
    public CheckId? Recorder { get; init; }
}
