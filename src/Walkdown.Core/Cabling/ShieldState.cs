namespace Walkdown.Core.Cabling;

/// <summary>Whether a shield arrives.</summary>
public enum ShieldState
{
    /// <summary>There is none.</summary>
    NotFitted,

    /// <summary>It does.</summary>
    Continuous,

    /// <summary>It does not.</summary>
    Open,
}
