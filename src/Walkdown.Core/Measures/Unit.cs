namespace Walkdown.Core.Measures;

/// <summary>The units a reading, a limit or an expectation may carry. Texts: <c>unit.metre</c> and so on.</summary>
public enum Unit
{
    /// <summary>None.</summary>
    None,

    /// <summary>m.</summary>
    Metre,

    /// <summary>ohm.</summary>
    Ohm,

    /// <summary>V.</summary>
    Volt,

    /// <summary>W.</summary>
    Watt,

    /// <summary>A.</summary>
    Ampere,

    /// <summary>Mb/s.</summary>
    MegabitPerSecond,

    /// <summary>degree Celsius.</summary>
    DegreeCelsius,

    /// <summary>ns.</summary>
    Nanosecond,

    /// <summary>percent.</summary>
    Percent,

    /// <summary>s.</summary>
    Second,

    /// <summary>A count.</summary>
    Count,

    /// <summary>degree of angle.</summary>
    Degree,

    /// <summary>min.</summary>
    Minute,

    /// <summary>dB: a ratio.</summary>
    Decibel,

    /// <summary>dBm: a power against one milliwatt.</summary>
    DecibelMilliwatt,

    /// <summary>px.</summary>
    Pixel,

    /// <summary>px/m.</summary>
    PixelPerMetre,

    /// <summary>ms.</summary>
    Millisecond,

    /// <summary>lx.</summary>
    Lux,

    /// <summary>GB, of 10^9 bytes.</summary>
    Gigabyte,

    /// <summary>d.</summary>
    Day,

    /// <summary>Events an hour.</summary>
    PerHour,

    /// <summary>mm.</summary>
    Millimetre,

    /// <summary>millivolt.</summary>
    Millivolt,

    /// <summary>megahertz.</summary>
    Megahertz,

    /// <summary>km/h.</summary>
    KilometrePerHour,
}
