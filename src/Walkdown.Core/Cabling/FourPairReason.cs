namespace Walkdown.Core.Cabling;

/// <summary>Why four pairs carry power, or do not.</summary>
public enum FourPairReason
{
    /// <summary>They do.</summary>
    Ok,

    /// <summary>Neither pair set works.</summary>
    NeitherPairSetWorks,

    /// <summary>Only one pair set does.</summary>
    FallsBackToOnePairSet,
}
