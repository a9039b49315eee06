using Walkdown.Core.Cabling;

namespace Walkdown.Core.Acceptance;

/// <summary>What makes earlier readings void only where it was done, or said: work at one end of the run, work at the recorder that shows
/// the device, or a later reading of another check, such as a cover that was cleaned after the look by night (CAPABILITIES, "What a later
/// action makes void").</summary>
public sealed record Voiding
{
    /// <summary>Id of the act in the catalogue; null: a reading does it.</summary>
    public string? Act { get; init; }

    /// <summary>The end of the run that the act was done at; null: it was done at the recorder.</summary>
    public CableEnd? End { get; init; }

    /// <summary>The act is on the Card of the recorder that shows the device, not on its own.</summary>
    public bool AtRecorder { get; init; }

    /// <summary>The check whose later reading does it; itself it is made void by no reading.</summary>
    public CheckId? Check { get; init; }

    /// <summary>Words of that reading that do it, as of <see cref="Occasion.Says"/>; empty: any.</summary>
    public ImmutableArray<string> Says { get; init; } = [];
}
