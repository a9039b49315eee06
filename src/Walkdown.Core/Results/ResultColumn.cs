using System.Text.RegularExpressions;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Cabling;
using Walkdown.Core.Register;

namespace Walkdown.Core.Results;

/// <summary>One column: a field of its own, or the readings of one function under one condition (docs/formats.md, "Instrument
/// results").</summary>
/// <param name="Function">Name of the tester's function, such as <c>loop-resistance</c>; for <see cref="ResultField.Reading"/>.</param>
/// <param name="Part">Pair, where the heading names one.</param>
/// <param name="UnitText">Unit that stands in the heading.</param>
/// <param name="Field">What stands in it.</param>
/// <param name="Under">The condition.</param>
public sealed record ResultColumn(
    ResultField Field,
    string? Function = null,
    string Part = "",
    Condition Under = Condition.Any,
    string UnitText = ""
)
{
    private static readonly (ResultField Field, string[] Words)[] Fields =
    [
        (ResultField.Run, ["run", "cable", "cable id", "cable label", "label", "link", "circuit", "id", "name", "device", "camera", "tag"]),
        (ResultField.Function, ["function", "test", "check", "measurement", "parameter", "quantity"]),
        (ResultField.Part, ["part", "pair", "pairs"]),
        (ResultField.Condition, ["condition", "state", "mode"]),
        (ResultField.Value, ["value", "result", "reading", "measured"]),
        (ResultField.Unit, ["unit", "units"]),
        (ResultField.Time, ["time", "taken at", "date", "timestamp", "date time", "tested", "tested at", "test time"]),
        (ResultField.Instrument, ["instrument", "serial", "tester", "meter", "instrument serial", "serial number", "unit serial"]),
        (ResultField.RemoteLabel, ["remote label", "far label", "label found", "remote id"]),
        (ResultField.Sent, ["sent", "probes sent", "packets sent"]),
        (ResultField.Received, ["received", "probes received", "packets received", "replies"]),
    ];

    private static readonly (string Function, string[] Words)[] Functions =
    [
        ("wire-map", ["wire map", "wiremap", "map", "pin map", "pinout"]),
        ("length", ["length", "cable length", "len"]),
        ("loop-resistance", ["loop resistance", "loop", "resistance", "dc loop", "loop ohms"]),
        ("unbalance", ["unbalance", "resistance unbalance", "imbalance"]),
        ("delay", ["delay", "propagation delay", "prop delay"]),
        ("poe-volts", ["poe volts", "poe voltage", "volts", "voltage", "volts at device", "device volts"]),
        ("poe-watts", ["poe watts", "watts", "power", "watts at device"]),
        ("poe-class", ["poe class", "class", "power class"]),
        ("link-speed", ["link speed", "speed", "negotiated speed"]),
        ("duplex", ["duplex"]),
        ("supply-volts", ["supply volts", "dc volts", "12 v", "12 v volts", "supply voltage"]),
        ("supply-stray", ["stray volts", "ac volts"]),
        ("port-watts", ["port watts", "watts at port"]),
        ("flaps", ["flaps", "link drops"]),
    ];

    private static readonly (Condition Under, string[] Words)[] Conditions =
    [
        (Condition.InfraredOn, ["infrared on", "ir on", "infraredon", "night"]),
        (Condition.InfraredOff, ["infrared off", "ir off", "infraredoff", "day"]),
        (Condition.HeaterOn, ["heater on", "heateron", "heater"]),
    ];

    /// <summary>Reads a heading; null where it says nothing known.</summary>
    public static ResultColumn? Read(string heading)
    {
        var unit = Regex.Match(heading, @"[\(\[]\s*([^\)\]]{1,12})\s*[\)\]]", RegexOptions.CultureInvariant) is { Success: true } m
            ? m.Groups[1].Value
            : "";
        var plain = CellText.Plain(unit.Length > 0 ? heading.Replace(unit, "", StringComparison.Ordinal) : heading);
        if (plain.Length == 0)
            return null;
        if (Field(plain) is { } field)
            return new(field, UnitText: unit);
        var under = Condition.Any;
        foreach (var (condition, words) in Conditions)
        foreach (var word in words)
            if (under == Condition.Any && Cut(ref plain, word))
                under = condition;
        var part = "";
        foreach (var pair in PinPair.All)
        {
            var word = pair.ToString().Replace('-', ' ');
            if (part.Length == 0 && (Cut(ref plain, word) || Cut(ref plain, word.Replace(" ", "", StringComparison.Ordinal))))
                part = pair.ToString();
        }
        Cut(ref plain, "pair");
        // A unit may stand bare behind the words: "length m".
        foreach (var (function, words) in Functions)
        foreach (var word in words)
        {
            if (plain == word)
                return new(ResultField.Reading, function, part, under, unit);
            if (
                plain.StartsWith(word + " ", StringComparison.Ordinal)
                && plain[(word.Length + 1)..] is { Length: <= 5 } bare
                && IsUnit(bare)
            )
                return new(ResultField.Reading, function, part, under, unit.Length > 0 ? unit : bare);
        }
        return null;

        static ResultField? Field(string text)
        {
            foreach (var (found, words) in Fields)
                if (words.Contains(text))
                    return found;
            return null;
        }

        static bool Cut(ref string text, string word)
        {
            var padded = $" {text} ";
            var at = padded.IndexOf($" {word} ", StringComparison.Ordinal);
            if (at < 0)
                return false;
            text = (padded[..at] + " " + padded[(at + word.Length + 2)..]).Trim();
            return true;
        }
    }

    private static bool IsUnit(string text) =>
        text is "m" or "ft" or "ohm" or "ohms" or "v" or "w" or "ns" or "km" or "mohm" or "mb s" or "cm";

    /// <summary>Name of a function as people write it, or null.</summary>
    public static string? FunctionOf(string text)
    {
        var plain = CellText.Plain(text);
        foreach (var (function, words) in Functions)
            if (plain == function.Replace('-', ' ') || words.Contains(plain))
                return function;
        return plain is "probes" or "loss" or "ping" ? "probes"
            : plain is "counters" or "errors" ? "counters"
            : plain is "uplink load" ? "uplink-load"
            : null;
    }

    /// <summary>A condition by its word; null: it is none.</summary>
    public static Condition? ConditionOf(string text)
    {
        var plain = CellText.Plain(text);
        if (plain.Length == 0 || plain is "any" or "none")
            return Condition.Any;
        foreach (var (condition, words) in Conditions)
            if (words.Contains(plain))
                return condition;
        return null;
    }

    /// <summary>Eight far pins as text: <c>12345678</c>, <c>1 2 3 6 5 4 7 8</c>, with <c>-</c>, <c>0</c> or <c>x</c> for an open one. Null
    /// where it is no map.</summary>
    public static ImmutableArray<ImmutableArray<int>>? MapOf(string text)
    {
        var pins = text.Where(c => !char.IsWhiteSpace(c) && c is not (',' or ';' or '/')).ToArray();
        if (pins.Length != 8)
            return null;
        var map = ImmutableArray.CreateBuilder<ImmutableArray<int>>(8);
        foreach (var pin in pins)
        {
            if (pin is '-' or '0' or 'x' or 'X' or 'o' or 'O')
                map.Add([]);
            else if (pin is >= '1' and <= '8')
                map.Add([pin - '0']);
            else
                return null;
        }
        return map.ToImmutable();
    }
}
