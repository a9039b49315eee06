namespace Walkdown.Core.Power;

/// <summary>The low-voltage supplies in use, with the range that a device must see.</summary>
public enum SupplyRange
{
    /// <summary>12 V direct.</summary>
    V12Dc,

    /// <summary>24 V alternating.</summary>
    V24Ac,

    /// <summary>24 V direct.</summary>
    V24Dc,
}
