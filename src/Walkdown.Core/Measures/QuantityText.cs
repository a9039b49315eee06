using System.Text.RegularExpressions;

namespace Walkdown.Core.Measures;

/// <summary>
/// Reads a number as it is typed on site: comma or point as the decimal sign, a unit or none, a prefix or none
/// (<c>53,1</c>, <c>53.1 V</c>, <c>53100 mV</c>). Anything that could be read two ways is refused, never guessed.
/// </summary>
public static partial class QuantityText
{
    /// <summary>What was read, or why it was not.</summary>
    public readonly record struct Parsed(Quantity? Value, Message? Refused);

    [GeneratedRegex(
        @"^([+-]?)([0-9]{0,9})(?:([.,])([0-9]{0,9}))?\s*([^0-9\s.,+-][^0-9]{0,11})?$",
        RegexOptions.CultureInvariant | RegexOptions.NonBacktracking
    )]
    private static partial Regex Shape { get; }

    [GeneratedRegex(
        "^([0-9]{1,4})\\s*(?:'|\u2032|\u2019|ft\\.?|feet|foot)\\s*"
            + "([0-9]{1,2}(?:[.,][0-9]{1,3})?)\\s*(?:\"|\u2033|\u201d|''|in\\.?|inch|inches)?$",
        RegexOptions.CultureInvariant | RegexOptions.IgnoreCase | RegexOptions.NonBacktracking
    )]
    private static partial Regex FeetAndInches { get; }

    /// <summary>Parses <paramref name="text"/> into <paramref name="wanted"/>.</summary>
    /// <returns>A quantity in the wanted unit, or a message: number.empty, number.too-long, number.two-signs, number.unreadable,
    /// number.unit.</returns>
    public static Parsed Parse(string text, Unit wanted)
    {
        var trimmed = text.Trim().Replace('\u00a0', ' ').Replace('\u2212', '-');
        if (trimmed.Length == 0)
            return Refuse("number.empty");
        if (trimmed.Length > 32)
            return Refuse("number.too-long");
        if (wanted == Unit.Metre && FeetAndInches.Match(trimmed) is { Success: true } feet)
            return new Parsed(
                new Quantity(
                    double.Parse(feet.Groups[1].Value, CultureInfo.InvariantCulture) * 0.3048
                        + double.Parse(feet.Groups[2].Value.Replace(',', '.'), CultureInfo.InvariantCulture) * 0.0254,
                    wanted
                ),
                null
            );
        if (trimmed.Count(c => c is '.' or ',') > 1)
            return Refuse("number.two-signs", trimmed);
        var match = Shape.Match(trimmed);
        if (!match.Success || (match.Groups[2].Length == 0 && match.Groups[4].Length == 0))
            return Refuse("number.unreadable", trimmed);
        var unit = match.Groups[5].Value.Trim();
        if (Factor(unit, wanted) is not { } factor)
            return Refuse("number.unit", unit, "@unit." + Codes.Of(wanted));
        var digits = $"{match.Groups[1].Value}{match.Groups[2].Value}.{match.Groups[4].Value}0";
        return new Parsed(new Quantity(double.Parse(digits, NumberStyles.Float, CultureInfo.InvariantCulture) * factor, wanted), null);
    }

    private static Parsed Refuse(string code, params ImmutableArray<string> args) => new(null, new Message(code, args));

    /// <summary>Units that take no prefix: a kilo-day is a slip.</summary>
    private static bool IsAlone(Unit unit) =>
        unit
            is Unit.Nanosecond
                or Unit.Percent
                or Unit.DegreeCelsius
                or Unit.Degree
                or Unit.Minute
                or Unit.Count
                or Unit.Decibel
                or Unit.DecibelMilliwatt
                or Unit.Pixel
                or Unit.PixelPerMetre
                or Unit.Millisecond
                or Unit.Gigabyte
                or Unit.Day
                or Unit.PerHour;

    /// <summary>Prefixes keep their case (m is milli, M is mega); the unit itself may be typed in any case.</summary>
    private static double? Factor(string unit, Unit wanted)
    {
        if (unit.Length == 0)
            return 1;
        string[] names = wanted switch
        {
            Unit.Metre => ["m"],
            Unit.Ohm => ["ohm", "ohms", "\u03a9", "\u2126"],
            Unit.Volt => ["v", "volt", "volts"],
            Unit.Watt => ["w", "watt", "watts"],
            Unit.Ampere => ["a", "amp", "amps"],
            Unit.MegabitPerSecond => ["b/s", "bit/s", "bps"],
            Unit.DegreeCelsius => ["c", "\u00b0c"],
            Unit.Nanosecond => ["ns"],
            Unit.Percent => ["%"],
            Unit.Second => ["s", "sec", "seconds"],
            Unit.Count => ["x"],
            Unit.Degree => ["\u00b0", "deg", "degrees"],
            Unit.Minute => ["min", "minutes"],
            Unit.Decibel => ["db"],
            Unit.DecibelMilliwatt => ["dbm"],
            Unit.Pixel => ["px", "pixel", "pixels"],
            Unit.PixelPerMetre => ["px/m"],
            Unit.Millisecond => ["ms"],
            Unit.Lux => ["lx", "lux"],
            Unit.Gigabyte => ["gb"],
            Unit.Day => ["d", "day", "days"],
            Unit.PerHour => ["/h", "an hour", "per hour"],
            _ => [],
        };
        if (
            wanted == Unit.Metre
            && unit.ToLowerInvariant().TrimEnd('.')
                is "metre"
                    or "metres"
                    or "meter"
                    or "meters"
                    or "mtr"
                    or "mtrs"
                    or "mts"
                    or "metro"
                    or "metri"
                    or "metros"
                    or "m\u00e8tre"
                    or "m\u00e8tres"
                    or "m"
        )
            return 1;
        if (wanted == Unit.Second && unit is "min" or "minutes")
            return 60;
        if (wanted == Unit.Millisecond && unit is "s")
            return 1000;
        if (wanted == Unit.Gigabyte && unit.ToLowerInvariant() is "tb" or "mb")
            return unit.ToLowerInvariant() == "tb" ? 1000 : 1e-3;
        if (wanted == Unit.Metre && unit.ToLowerInvariant().TrimEnd('.') is "ft" or "feet" or "foot" or "'" or "\u2032" or "\u2019")
            return 0.3048;
        if (wanted == Unit.Metre && unit is "cm")
            return 0.01;
        var inBase = wanted == Unit.MegabitPerSecond ? 1e-6 : 1;
        foreach (var name in names)
        {
            if (!unit.EndsWith(name, StringComparison.OrdinalIgnoreCase))
                continue;
            double? prefix = unit[..^name.Length] switch
            {
                "" => 1,
                "m" => 1e-3,
                "k" => 1e3,
                "M" => 1e6,
                "G" => 1e9,
                "\u00b5" or "u" => 1e-6,
                _ => null,
            };
            if (prefix is { } p && (!IsAlone(wanted) || p == 1))
                return p * inBase;
        }
        return null;
    }
}
