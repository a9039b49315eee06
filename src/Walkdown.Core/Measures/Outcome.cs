namespace Walkdown.Core.Measures;

/// <summary>What a decision comes to.</summary>
public enum Outcome
{
    /// <summary>In.</summary>
    In,

    /// <summary>Too close to tell.</summary>
    TooClose,

    /// <summary>Out.</summary>
    Out,
}
