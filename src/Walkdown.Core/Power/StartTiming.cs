namespace Walkdown.Core.Power;

/// <summary>How a device came up: not timed, within its time, so early that it was none yet, or late, which is a fault.</summary>
public enum StartTiming
{
    /// <summary>Nobody timed it.</summary>
    NotTimed,

    /// <summary>In time.</summary>
    InTime,

    /// <summary>Too early.</summary>
    TooEarly,

    /// <summary>Too late.</summary>
    TooLate,
}
