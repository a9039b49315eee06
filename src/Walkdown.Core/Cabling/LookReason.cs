namespace Walkdown.Core.Cabling;

/// <summary>Why to look there.</summary>
public enum LookReason
{
    /// <summary>There is no fault.</summary>
    NoFault,

    /// <summary>Another cable, or another label: before any other work.</summary>
    WrongCableOrWrongLabelBeforeAnyOtherWork,

    /// <summary>The open lies at the near end.</summary>
    OpenDistanceIsAtTheNearEnd,

    /// <summary>The open lies at the far end.</summary>
    OpenDistanceIsAtTheFarEnd,

    /// <summary>Opens at both ends.</summary>
    OpenDistancesAtBothEnds,

    /// <summary>The open lies within the run.</summary>
    OpenDistanceIsInsideTheRun,

    /// <summary>A lost conductor shows again through a short beyond it.</summary>
    LostConductorReappearsThroughAShortBeyondIt,

    /// <summary>A lost conductor is still shorted on the near side.</summary>
    LostConductorStillShortedOnTheNearSide,

    /// <summary>Nothing arrives: another cable, or no far unit.</summary>
    NothingArrivesWrongCableOrRemoteUnitNotPlugged,

    /// <summary>Two pairs only, or a shared sheath.</summary>
    TwoPairCableOrSharedSheath,

    /// <summary>A whole pair is dark.</summary>
    WholePairDarkNotTerminatedOrDamaged,

    /// <summary>Conductors of several pairs are dark: one jack is not punched down.</summary>
    ConductorsOfDifferentPairsDarkOneJackNotPunchedDown,

    /// <summary>One conductor is dark: its contact is not seated.</summary>
    SingleConductorDarkContactNotSeated,

    /// <summary>A plug is upside down.</summary>
    PlugFittedUpsideDown,

    /// <summary>The ends follow two schemes.</summary>
    TwoEndsUseDifferentPairColourSchemes,

    /// <summary>A short, usually in a plug or jack.</summary>
    ShortUsuallyInAPlugOrJack,

    /// <summary>The same wrong order at both ends.</summary>
    SameWrongOrderAtBothEnds,

    /// <summary>Drain wire or clamp is not bonded.</summary>
    DrainOrShieldClampNotBonded,

    /// <summary>The order is set at a termination.</summary>
    TerminationOrderIsSetAtATermination,
}
