using System.Text;
using System.Text.RegularExpressions;
using Walkdown.Core.Addressing;
using Walkdown.Core.Links;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Register;

/// <summary>
/// Reads a cell as people write it into the one notation of the register: numbers with a point and without a unit, words in lower case,
/// hardware
/// addresses with colons. Anything that could be read two ways is refused, never guessed.
/// </summary>
public static partial class CellText
{
    private static readonly ImmutableHashSet<string> Nothing =
    [
        "-",
        "--",
        "\u2013",
        "\u2014",
        "n/a",
        "na",
        "n.a.",
        "tbc",
        "tbd",
        "t.b.c.",
        "t.b.a.",
        "tba",
        "?",
        "none",
        "nil",
        "unknown",
    ];

    private static readonly ImmutableDictionary<string, string> Synonyms = new Dictionary<string, string>
    {
        ["configuration:permanent link"] = "permanent-link",
        ["configuration:pl"] = "permanent-link",
        ["configuration:permanent"] = "permanent-link",
        ["configuration:ch"] = "channel",
        ["material:copper"] = "solid-copper",
        ["material:cu"] = "solid-copper",
        ["material:solid"] = "solid-copper",
        ["material:bare copper"] = "solid-copper",
        ["material:stranded"] = "stranded-copper",
        ["material:cca"] = "copper-clad-aluminium",
        ["material:copper clad aluminium"] = "copper-clad-aluminium",
        ["material:copper clad aluminum"] = "copper-clad-aluminium",
        ["screened:y"] = "yes",
        ["screened:true"] = "yes",
        ["screened:1"] = "yes",
        ["screened:x"] = "yes",
        ["screened:ftp"] = "yes",
        ["screened:stp"] = "yes",
        ["screened:f utp"] = "yes",
        ["screened:s ftp"] = "yes",
        ["screened:n"] = "no",
        ["screened:false"] = "no",
        ["screened:0"] = "no",
        ["screened:utp"] = "no",
        ["screened:u utp"] = "no",
        ["screened:unshielded"] = "no",
        ["scheme:t568a"] = "A",
        ["scheme:568a"] = "A",
        ["scheme:t568b"] = "B",
        ["scheme:568b"] = "B",
        ["reach:floor"] = "ground",
        ["reach:steps"] = "ladder",
        ["reach:step ladder"] = "ladder",
        ["reach:stepladder"] = "ladder",
        ["reach:mewp"] = "lift",
        ["reach:scissor lift"] = "lift",
        ["reach:boom"] = "lift",
        ["reach:cherry picker"] = "lift",
        ["reach:tower"] = "lift",
    }.ToImmutableDictionary();

    [GeneratedRegex(@"[\s\u00a0]+", RegexOptions.NonBacktracking)]
    private static partial Regex Blanks { get; }

    /// <summary>A text without the signs that nobody sees: two labels that look the same are the same.</summary>
    public static string Visible(string text)
    {
        if (!text.AsSpan().ContainsAnyInRange('\u007f', '\uffff') && !text.AsSpan().ContainsAnyInRange('\0', '\u0008'))
            return text;
        var seen = new StringBuilder(text.Length);
        foreach (var c in text)
            if (
                c is '\t' or '\n' or '\r'
                || (
                    CharUnicodeInfo.GetUnicodeCategory(c) is not (UnicodeCategory.Format or UnicodeCategory.Control)
                    && c is not ('\u115f' or '\u1160' or '\u3164' or '\uffa0' or >= '\ufe00' and <= '\ufe0f')
                )
            )
                seen.Append(c is '\u00a0' or '\u2007' or '\u202f' or '\u3000' ? ' ' : c);
        return seen.ToString().Trim();
    }

    [GeneratedRegex(@"^[+-]?[1-9][0-9]{0,2}([.,])[0-9]{3}(?=[^0-9]*$)")]
    private static partial Regex TwoWays { get; }

    [GeneratedRegex(@"(?<=[0-9])[\s\u00a0\u202f'](?=[0-9]{3}([^0-9]|$))")]
    private static partial Regex Grouping { get; }

    /// <summary>Reads a cell for a column.</summary>
    /// <param name="cell">The cell as it came.</param>
    /// <param name="sign">The file's decimal sign, where it is known.</param>
    /// <param name="kinds">Device kinds by the words people use for them, in <see cref="Plain"/> notation.</param>
    /// <returns>The canonical text; null for an empty cell; or what is wrong.</returns>
    /// <param name="field">The column.</param>
    public static CellRead Read(RegisterField field, Cell cell, DecimalSign sign, IReadOnlyDictionary<string, string> kinds)
    {
        if (cell.Odd == CellOddity.NoResult)
            return Wrong(new("cell.no-result"), new("cell.no-result.mend"));
        if (cell.Odd == CellOddity.Error)
            return Wrong(new("cell.error", Message.Said(cell.Text)), new("cell.error.mend"));
        if (cell.Odd == CellOddity.Date)
            return Wrong(new("cell.date", cell.Text), new("cell.date.mend"));
        var text = Blanks.Replace(Visible(cell.Text), " ").Trim();
        if (text.Length == 0 || Nothing.Contains(text.ToLowerInvariant()))
            return default;
        if (text.Length > field.Most)
            return Wrong(
                new("cell.too-long", text[..Math.Min(20, text.Length)], text.Length.ToString(CultureInfo.InvariantCulture)),
                new("cell.too-long.mend", field.Most.ToString(CultureInfo.InvariantCulture))
            );
        return field.Kind switch
        {
            FieldKind.Number => Number(field, text, cell.IsNumber, sign),
            FieldKind.Whole => Whole(field, text, cell.IsNumber, sign),
            FieldKind.Word => Word(field, text),
            FieldKind.Address => Address(text),
            FieldKind.HardwareAddress => HardwareAddress(text),
            FieldKind.Channels => Channels(text),
            FieldKind.DeviceKind => kinds.TryGetValue(Plain(text), out var kind)
                ? new(kind)
                : Wrong(new("cell.kind", text), new("cell.kind.mend")),
            _ => new(text),
        };
    }

    /// <summary>True for an empty cell, and for one that says that there is nothing.</summary>
    public static bool SaysNothing(string text) =>
        text.Length < 40 && Visible(text).Trim().ToLowerInvariant() is var plain && (plain.Length == 0 || Nothing.Contains(plain));

    /// <summary>A text as it is compared: lower case, letters and digits only, single blanks between.</summary>
    public static string Plain(string text)
    {
        var plain = new StringBuilder(text.Length);
        foreach (var c in text.Normalize(NormalizationForm.FormD))
        {
            if (CharUnicodeInfo.GetUnicodeCategory(c) == UnicodeCategory.NonSpacingMark)
                continue;
            if (char.IsLetterOrDigit(c))
                plain.Append(char.ToLowerInvariant(c));
            else if (plain.Length > 0 && plain[^1] != ' ')
                plain.Append(' ');
        }
        return plain.ToString().TrimEnd();
    }

    /// <summary>What a file's texts show of its decimal sign: a separator that can be nothing else.</summary>
    public static DecimalSign SignOf(IEnumerable<Cell> numberCells)
    {
        bool comma = false,
            point = false;
        foreach (var text in numberCells.Where(c => c is { IsNumber: false, Text.Length: < 60 }).Select(c => Grouping.Replace(c.Text, "")))
        {
            var separators = text.Count(c => c is '.' or ',');
            if (separators == 0 || TwoWays.IsMatch(text))
                continue;
            var last = text.LastIndexOfAny(['.', ',']);
            var grouped = separators > 1 && text.Count(c => c == text[last]) > 1;
            if (text[last] == ',' != grouped)
                comma = true;
            else
                point = true;
        }
        return comma == point ? DecimalSign.Unknown
            : comma ? DecimalSign.Comma
            : DecimalSign.Point;
    }

    private static CellRead Wrong(Message what, Message mend) => new(null, what, mend);

    private static (double? Value, CellRead Wrong) Parse(RegisterField field, string text, bool isNumber, DecimalSign sign)
    {
        var t = Grouping.Replace(text, "");
        if (!isNumber)
        {
            if (t.Contains('.') && t.Contains(','))
                t = t.LastIndexOf('.') > t.LastIndexOf(',') ? t.Replace(",", "") : t.Replace(".", "");
            if (t.Count(c => c == '.') > 1)
                t = t.Replace(".", "");
            if (t.Count(c => c == ',') > 1)
                t = t.Replace(",", "");
            if (TwoWays.Match(t) is { Success: true } shape)
            {
                if (sign == DecimalSign.Unknown)
                    return (
                        null,
                        Wrong(
                            new("cell.two-ways", text),
                            new("cell.two-ways.mend", t.Replace(shape.Groups[1].Value, "."), t.Replace(shape.Groups[1].Value, ""))
                        )
                    );
                if (shape.Groups[1].Value == (sign == DecimalSign.Comma ? "." : ","))
                    t = t.Replace(shape.Groups[1].Value, "");
            }
        }
        var parsed = QuantityText.Parse(t, field.Unit);
        if (parsed.Value is not { } quantity)
            return (
                null,
                Wrong(
                    new("cell.number", text),
                    field.Unit == Unit.None ? new("cell.number.mend") : new("cell.number.mend-unit", "@unit." + Codes.Of(field.Unit))
                )
            );
        // A length in feet has no more places than it had.
        var value = Math.Round(quantity.Value, 3);
        if (value < field.Min || value > field.Max)
            return (
                null,
                Wrong(new("cell.range", text), new("cell.range.mend", Message.Number(field.Min, 3), Message.Number(field.Max, 3)))
            );
        return (value, default);
    }

    private static CellRead Number(RegisterField field, string text, bool isNumber, DecimalSign sign)
    {
        var (value, wrong) = Parse(field, text, isNumber, sign);
        return value is { } number ? new(number.ToString("R", CultureInfo.InvariantCulture)) : wrong;
    }

    private static CellRead Whole(RegisterField field, string text, bool isNumber, DecimalSign sign)
    {
        if (field.Id == "power_class" && ClassWord.Match(text) is { Success: true } shape)
            text = shape.Groups[1].Value;
        var (value, wrong) = Parse(field, text, isNumber, sign);
        if (value is not { } number)
            return wrong;
        if (number != Math.Floor(number))
            return Wrong(new("cell.whole", text), new("cell.whole.mend"));
        if (field.Unit == Unit.MegabitPerSecond && !Negotiated.SpeedsMbps.Contains((int)number))
            return Wrong(new("cell.speed", text), new("cell.speed.mend"));
        return new(((int)number).ToString(CultureInfo.InvariantCulture));
    }

    [GeneratedRegex(
        @"^(?:poe\s*)?(?:class|cl|klasse|classe|clase|klasse)\.?\s*([0-9])$",
        RegexOptions.IgnoreCase | RegexOptions.NonBacktracking | RegexOptions.CultureInvariant
    )]
    private static partial Regex ClassWord { get; }

    private static CellRead Word(RegisterField field, string text)
    {
        var plain = Plain(text);
        var word = field.Words.FirstOrDefault(w => Plain(w) == plain) ?? Synonyms.GetValueOrDefault($"{field.Id}:{plain}");
        return word is not null ? new(word) : Wrong(new("cell.word", text), new("cell.word.mend", string.Join(", ", field.Words)));
    }

    private static CellRead Address(string text)
    {
        var bare = text.Split('/')[0].Trim();
        return Ipv4Address.Read(bare) is { } address ? new(address.ToString()) : Wrong(new("cell.address", text), new("cell.address.mend"));
    }

    private static CellRead HardwareAddress(string text)
    {
        // A schedule is typed by people: signs between may be mixed, digits may not be missing.
        return Addressing.HardwareAddress.Read(string.Concat(text.Where(c => c is not (':' or '-' or '.' or ' ')))) is { } address
            ? new(address.ToString())
            : Wrong(new("cell.hardware-address", text), new("cell.hardware-address.mend"));
    }

    [GeneratedRegex(
        @"^(?:ch(?:annel)?|d|a)?\.?\s*([0-9]{1,4})(?:\.0+)?(?:\s*-\s*([0-9]{1,4}))?$",
        RegexOptions.IgnoreCase | RegexOptions.NonBacktracking
    )]
    private static partial Regex ChannelShape { get; }

    private static CellRead Channels(string text)
    {
        var channels = new List<int>();
        foreach (
            var part in text.Replace("channels", "", StringComparison.OrdinalIgnoreCase)
                .Split([' ', '/', ',', ';', '+', '&'], StringSplitOptions.RemoveEmptyEntries)
                .Where(p => !p.TrimEnd('.').Equals("ch", StringComparison.OrdinalIgnoreCase))
        )
        {
            var shape = ChannelShape.Match(part);
            var from = shape.Success ? int.Parse(shape.Groups[1].Value, CultureInfo.InvariantCulture) : 0;
            var to = shape.Success && shape.Groups[2].Success ? int.Parse(shape.Groups[2].Value, CultureInfo.InvariantCulture) : from;
            if (from < 1 || to < from || to > 1024 || to - from > 7)
                return Wrong(new("cell.channel", part), new("cell.channel.mend"));
            channels.AddRange(Enumerable.Range(from, to - from + 1));
        }
        return channels.Count == 0 ? default : new(string.Join(' ', channels));
    }
}
