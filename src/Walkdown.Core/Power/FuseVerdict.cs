namespace Walkdown.Core.Power;

/// <summary>Whether a fuse fits.</summary>
public enum FuseVerdict
{
    /// <summary>Nothing to check by.</summary>
    NotChecked,

    /// <summary>It does.</summary>
    Ok,

    /// <summary>The cable burns first.</summary>
    FuseDoesNotProtectTheCable,

    /// <summary>It blows in normal use.</summary>
    FuseTooSmall,
}
