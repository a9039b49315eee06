namespace Walkdown.Core.Measures;

/// <summary>Whether an instrument's calibration holds on a day.</summary>
public enum CalibrationStatus
{
    /// <summary>It does.</summary>
    Valid,

    /// <summary>It does, not for long.</summary>
    DueSoon,

    /// <summary>It has run out.</summary>
    Expired,

    /// <summary>There is none on record.</summary>
    NoRecord,

    /// <summary>The day is before it.</summary>
    TestBeforeCalibration,
}
