using Walkdown.Core.Measures;

namespace Walkdown.Core.Register;

/// <summary>
/// Reads a port in the forms that people write: <c>7</c>, <c>Port 7</c>, <c>Port 7 / Switch 2</c>, <c>K3/7</c>, <c>K3 SW2 P7</c>,
/// <c>Gi1/0/7</c>, <c>1/7</c>. What could be a day, or
/// could be parted in more than one way, is refused.
/// </summary>
public static class PortText
{
    private const int Most = 60;

    private static readonly ImmutableHashSet<string> PortWords =
    [
        "port",
        "p",
        "pt",
        "prt",
        "ports",
        "outlet",
        "porta",
        "puerto",
        "poort",
        "anschluss",
        "steckplatz",
    ];
    private static readonly ImmutableHashSet<string> SwitchWords = ["switch", "sw", "swi", "stack", "unit", "commutateur", "conmutador"];
    private static readonly ImmutableHashSet<string> CabinetWords =
    [
        "cabinet",
        "cab",
        "rack",
        "schrank",
        "verteiler",
        "baie",
        "armoire",
        "armario",
        "armadio",
        "kast",
    ];
    private static readonly ImmutableHashSet<string> Interfaces =
    [
        "gi",
        "gig",
        "ge",
        "gigabitethernet",
        "fa",
        "fe",
        "fastethernet",
        "te",
        "tengigabitethernet",
        "xe",
        "twe",
        "et",
        "eth",
        "ethernet",
        "lan",
        "swp",
        "fi",
        "fivegigabitethernet",
        "tw",
        "twogigabitethernet",
    ];
    private static readonly ImmutableHashSet<string> Months =
    [
        "jan",
        "feb",
        "mar",
        "apr",
        "may",
        "jun",
        "jul",
        "aug",
        "sep",
        "oct",
        "nov",
        "dec",
        "mai",
        "okt",
        "dez",
        "sept",
        "january",
        "february",
        "march",
        "april",
        "june",
        "july",
        "august",
        "september",
        "october",
        "november",
        "december",
    ];

    private readonly record struct Token(string Text, int From, int To)
    {
        public bool IsNumber => Text.All(char.IsAsciiDigit);
        public string Plain => Text.ToLowerInvariant();
        public int LettersFirst => Text.TakeWhile(char.IsAsciiLetter).Count();
    }

    /// <summary>The parts; or what is wrong.</summary>
    public static (PortParts? Parts, CellRead Wrong) Read(Cell cell)
    {
        if (cell.Odd == CellOddity.Date)
            return (null, new(null, new("cell.port-date", cell.Text), new("cell.port-date.mend")));
        var text = CellText.Visible(cell.Text).Trim();
        if (text.Length > Most)
            return Unclear(text);
        var tokens = Parted(text);
        if (IsDay(text, tokens))
            return (null, new(null, new("cell.port-date", text), new("cell.port-date.mend")));
        if (tokens is [{ IsNumber: true } alone])
            return (new(null, null, alone.Text), default);
        // A workbook's number with nothing behind its point.
        if (tokens is [{ IsNumber: true } whole, { Text: "0" }] && text == $"{whole.Text}.0")
            return (new(null, null, whole.Text), default);
        if (tokens.Count == 0 || text.Contains('.') || text.Contains(','))
            return Unclear(text);
        if (Interface(text, tokens) is { } named)
            return (named, default);
        if (tokens.All(t => t.IsNumber))
            return tokens.Count is 2 or 3 && text.All(c => char.IsAsciiDigit(c) || c is '/' or ':')
                ? (new(null, text[..tokens[^2].To], tokens[^1].Text), default)
                : Unclear(text);
        return ByWords(text, tokens) is { } parts ? (parts, default) : Unclear(text);
    }

    private static (PortParts?, CellRead) Unclear(string text) =>
        (null, new(null, new("cell.port-unclear", Message.Said(text.Length > 40 ? text[..40] : text)), new("cell.port-unclear.mend")));

    private static List<Token> Parted(string text)
    {
        var tokens = new List<Token>();
        for (var i = 0; i < text.Length; )
        {
            if (!char.IsLetterOrDigit(text[i]))
            {
                i++;
                continue;
            }
            var from = i;
            while (i < text.Length && char.IsLetterOrDigit(text[i]))
                i++;
            tokens.Add(new(text[from..i], from, i));
        }
        return tokens;
    }

    /// <summary>What a spreadsheet made of 1/7, and days as people write them.</summary>
    private static bool IsDay(string text, List<Token> tokens) =>
        tokens.Count is 2 or 3
        && (
            tokens.Any(t => Months.Contains(t.Plain)) && tokens.Any(t => t.IsNumber)
            || (tokens.Count == 3 ? tokens : []).Any(t =>
                t is { IsNumber: true, Text.Length: 4 } && int.Parse(t.Text, CultureInfo.InvariantCulture) is > 1900 and < 2100
            )
            || tokens is [{ IsNumber: true, Text.Length: 4 } year, { IsNumber: true }]
                && text.Contains('-')
                && int.Parse(year.Text, CultureInfo.InvariantCulture) is > 1900 and < 2100
        );

    private static PortParts? Interface(string text, List<Token> tokens)
    {
        var first = tokens[0];
        var letters = first.LettersFirst;
        if (letters == 0 || !Interfaces.Contains(first.Plain[..letters]))
            return null;
        var digits = letters < first.Text.Length ? first.Text[letters..] : "";
        if (digits.Any(c => !char.IsAsciiDigit(c)) || tokens.Skip(1).Any(t => !t.IsNumber))
            return null;
        var numbers = (digits.Length > 0 ? 1 : 0) + tokens.Count - 1;
        return numbers switch
        {
            0 or > 4 => null,
            1 => new PortParts(null, null, digits.Length > 0 ? digits : tokens[^1].Text),
            _ => new PortParts(null, text[..tokens[^2].To], tokens[^1].Text),
        };
    }

    private static PortParts? ByWords(string text, List<Token> tokens)
    {
        string? port = null,
            onSwitch = null,
            cabinet = null;
        var left = new List<Token>();
        for (var i = 0; i < tokens.Count; i++)
        {
            var (token, plain) = (tokens[i], tokens[i].Plain);
            var next = i + 1 < tokens.Count ? tokens[i + 1] : (Token?)null;
            var letters = token.LettersFirst;
            var (word, digits) = (plain[..letters], token.Text[letters..]);
            if (digits.Length > 0 && digits.All(char.IsAsciiDigit) && PortWords.Contains(word))
            {
                if (port is not null)
                    return null;
                port = digits;
            }
            else if (digits.Length > 0 && SwitchWords.Contains(word))
            {
                if (onSwitch is not null)
                    return null;
                onSwitch = token.Text;
            }
            else if (PortWords.Contains(plain) && next is { IsNumber: true } number)
            {
                if (port is not null)
                    return null;
                (port, i) = (number.Text, i + 1);
            }
            else if (SwitchWords.Contains(plain) && next is { } name)
            {
                if (onSwitch is not null || PortWords.Contains(name.Plain))
                    return null;
                (onSwitch, i) = (text[token.From..name.To], i + 1);
            }
            else if (CabinetWords.Contains(plain) && next is { } which)
            {
                if (cabinet is not null)
                    return null;
                (cabinet, i) = (which.IsNumber ? text[token.From..which.To] : which.Text, i + 1);
            }
            else if (PortWords.Contains(plain) || SwitchWords.Contains(plain) || CabinetWords.Contains(plain))
                return null;
            else
                left.Add(token);
        }
        if (port is null)
        {
            if (left.Count == 0 || !left[^1].IsNumber || left[^1].To != text.Length)
                return null;
            port = left[^1].Text;
            left.RemoveAt(left.Count - 1);
        }
        if (left.Count > 0)
        {
            // What is left over names the cabinet: in one piece, and by more than a number.
            if (
                cabinet is not null
                || left.All(t => t.IsNumber)
                || left.Zip(left.Skip(1)).Any(p => tokens.Any(t => t.From >= p.First.To && t.To <= p.Second.From))
            )
                return null;
            cabinet = text[left[0].From..left[^1].To];
        }
        return port.Length <= 4 && (cabinet is not null || onSwitch is not null || left.Count == 0)
            ? new PortParts(cabinet, onSwitch, port)
            : null;
    }
}
