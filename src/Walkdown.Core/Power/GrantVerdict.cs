namespace Walkdown.Core.Power;

/// <summary>What a source grants.</summary>
public enum GrantVerdict
{
    /// <summary>Enough.</summary>
    Ok,

    /// <summary>Enough by the older setting.</summary>
    OkByLegacySetting,

    /// <summary>Less: functions may switch off.</summary>
    ReducedPowerFunctionsMaySwitchOff,

    /// <summary>Less: set the device to the older high power.</summary>
    DeviceLimitsItselfSetTheDeviceToLegacyHighPower,

    /// <summary>The device may draw more than it was granted.</summary>
    OverloadRiskDeviceMayDrawMoreThanGranted,

    /// <summary>A source that does not ask: do not connect blind.</summary>
    PassiveSourceNoDetectionDoNotConnectBlind,

    /// <summary>Too little.</summary>
    SourceTooSmall,
}
