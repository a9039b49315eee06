namespace Walkdown.Core.Acceptance;

/// <summary>What a named person says of a reading.</summary>
public enum RulingSays
{
    /// <summary>In, by eye.</summary>
    In,

    /// <summary>Out, by eye.</summary>
    Out,

    /// <summary>Unexpected, and right, with why.</summary>
    Explained,
}
