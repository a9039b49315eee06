namespace Walkdown.Core.Acceptance;

/// <summary>Conditions under which a reading is taken. <see cref="Any"/> asks for none.</summary>
[Flags]
public enum Condition
{
    /// <summary>Nothing said.</summary>
    Any = 0,

    /// <summary>On the bench, before it is fitted.</summary>
    Bench = 1,

    /// <summary>Cover on.</summary>
    CoverOn = 2,

    /// <summary>Cover off.</summary>
    CoverOff = 4,

    /// <summary>Built-in infrared off.</summary>
    InfraredOff = 8,

    /// <summary>Built-in infrared on.</summary>
    InfraredOn = 16,

    /// <summary>Heater on.</summary>
    HeaterOn = 32,

    /// <summary>After dark.</summary>
    Dark = 64,

    /// <summary>After the screws are tight.</summary>
    Locked = 128,

    /// <summary>After a restart.</summary>
    Restarted = 256,
}
