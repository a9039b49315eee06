namespace Walkdown.Core.Power;

/// <summary>What a low-voltage run does.</summary>
public enum RunVerdict
{
    /// <summary>It works.</summary>
    Ok,

    /// <summary>Too low.</summary>
    Low,

    /// <summary>Too high.</summary>
    High,

    /// <summary>No state in which it works.</summary>
    NoSolution,
}
