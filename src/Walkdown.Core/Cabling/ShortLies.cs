namespace Walkdown.Core.Cabling;

/// <summary>Where a short can lie.</summary>
public enum ShortLies
{
    /// <summary>Anywhere.</summary>
    Anywhere,

    /// <summary>Beyond the open.</summary>
    BetweenTheOpenAndTheFarEnd,

    /// <summary>Before the open.</summary>
    BetweenTheOpenAndTheNearEnd,
}
