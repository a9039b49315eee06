namespace Walkdown.Core.Cabling;

/// <summary>Why a pair set carries power, or does not.</summary>
public enum PairSetReason
{
    /// <summary>It does.</summary>
    Ok,

    /// <summary>Its conductors are shorted.</summary>
    SupplyConductorsShorted,

    /// <summary>It is shorted through the far end's winding.</summary>
    SupplyShortedThroughFarEndWinding,

    /// <summary>It is open.</summary>
    SupplyOpen,

    /// <summary>It lands on two different bridges.</summary>
    SupplyLandsOnTwoDifferentBridges,

    /// <summary>One conductor carries all the current.</summary>
    OneConductorOfAPairCarriesAllTheCurrent,

    /// <summary>It is spread over more than two pairs.</summary>
    SupplySpreadOverMoreThanTwoPairs,
}
