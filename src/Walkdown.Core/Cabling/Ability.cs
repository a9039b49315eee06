namespace Walkdown.Core.Cabling;

/// <summary>Whether something works over a run.</summary>
public enum Ability
{
    /// <summary>It does.</summary>
    Yes,

    /// <summary>It does with less.</summary>
    Degraded,

    /// <summary>It does not.</summary>
    No,
}
