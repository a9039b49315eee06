namespace Walkdown.Core.Power;

/// <summary>What a run does to a device's voltage.</summary>
public enum DeviceVoltageVerdict
{
    /// <summary>It works.</summary>
    Ok,

    /// <summary>No voltage at which it works.</summary>
    NoSolution,

    /// <summary>It draws more than its class.</summary>
    DeviceDrawsMoreThanItsClass,

    /// <summary>Too low.</summary>
    DeviceVoltageLow,

    /// <summary>Too much current.</summary>
    CurrentOverLimit,

    /// <summary>The source gives more than its class.</summary>
    SourcePowerOverClass,
}
