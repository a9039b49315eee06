namespace Walkdown.Core.Acceptance;

/// <summary>Whether one reading counts, and if not, why not.</summary>
public enum Standing
{
    /// <summary>It counts.</summary>
    Counts,

    /// <summary>A later one takes its place.</summary>
    Superseded,

    /// <summary>It was taken back.</summary>
    Withdrawn,

    /// <summary>Work done since voids it.</summary>
    VoidedByAct,

    /// <summary>The unit that it was of is gone.</summary>
    UnitGone,

    /// <summary>The instrument's calibration had run out.</summary>
    OutOfCalibration,

    /// <summary>Conditions found do not cover the row's.</summary>
    ConditionsDiffer,

    /// <summary>A reference check after it was out.</summary>
    InstrumentInDoubt,
}
