namespace Walkdown.Core.Power;

/// <summary>What a device is set to ask.</summary>
public enum DeviceSetting
{
    /// <summary>By its class.</summary>
    Standard,

    /// <summary>The older high power.</summary>
    LegacyHighPower,
}
