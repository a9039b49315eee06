namespace Walkdown.Core.Power;

/// <summary>What a tapped run does.</summary>
public enum TappedVerdict
{
    /// <summary>Every tap works.</summary>
    Ok,

    /// <summary>A tap is outside its range.</summary>
    OutOfRange,

    /// <summary>No state in which it works.</summary>
    NoSolution,
}
