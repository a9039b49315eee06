namespace Walkdown.Core.Power;

/// <summary>How a source gives power.</summary>
public enum SourceMode
{
    /// <summary>By class.</summary>
    Standard,

    /// <summary>The older high power.</summary>
    LegacyHighPower,

    /// <summary>Without asking.</summary>
    Passive,
}
