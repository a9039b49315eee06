using System.Collections.Concurrent;
using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json;
using System.Text.RegularExpressions;
using Walkdown.Core.Measures;

namespace Walkdown.Reports;

/// <summary>The words people read, by message code: what ships, and on top of it what catalogue files bring.</summary>
public sealed partial class Texts
{
    private static readonly ConcurrentDictionary<string, IReadOnlyDictionary<string, string>> ShippedByLanguage = new();
    private readonly IReadOnlyDictionary<string, string> _words;

    /// <param name="added">What catalogue files bring in this language.</param>
    public Texts(string language, IReadOnlyDictionary<string, string>? added = null)
    {
        Language = language;
        // What another language lacks is said in English: a word too many is better than a code.
        var words = new Dictionary<string, string>(Shipped("en"));
        if (language != "en")
            foreach (var (code, text) in Shipped(language))
            {
                words[code] = text;
                // English of one would stand before its own of many.
                if (!Shipped(language).ContainsKey(code + One))
                    words.Remove(code + One);
            }
        foreach (var (code, text) in added ?? new Dictionary<string, string>())
            words[code] = text;
        _words = words;
    }

    public string Language { get; }

    /// <summary>Languages that ship, English first.</summary>
    public static ImmutableArray<string> Languages { get; } =
    [
        .. typeof(Texts)
            .Assembly.GetManifestResourceNames()
            .Where(n => n.StartsWith("texts/", StringComparison.Ordinal))
            .Select(n => n["texts/".Length..].Split('.')[0])
            .Distinct()
            .OrderBy(l => l == "en" ? "" : l, StringComparer.Ordinal),
    ];

    public IReadOnlyDictionary<string, string> All => _words;

    public static IReadOnlyDictionary<string, string> Shipped(string language) =>
        ShippedByLanguage.GetOrAdd(
            language,
            static name =>
            {
                var words = new Dictionary<string, string>();
                foreach (
                    var part in typeof(Texts)
                        .Assembly.GetManifestResourceNames()
                        .Where(n => n == $"texts/{name}.json" || n.StartsWith($"texts/{name}.", StringComparison.Ordinal))
                )
                {
                    using var stream = typeof(Texts).Assembly.GetManifestResourceStream(part)!;
                    foreach (var (code, text) in JsonSerializer.Deserialize<Dictionary<string, string>>(stream)!)
                        words[code] = text;
                }
                return words;
            }
        );

    /// <summary>The text of a code, or the code itself: a missing text must be seen, not hidden.</summary>
    public string this[string code] => _words.TryGetValue(code, out var text) ? text : code;

    public string Or(string code, string otherwise) => _words.TryGetValue(code, out var text) ? text : otherwise;

    /// <summary>The text of a message, filled. One of something has a text of its own, where the language has one.</summary>
    public string Say(Message message) =>
        Fill(message.Args is ["1", ..] && _words.TryGetValue(message.Code + One, out var one) ? one : this[message.Code], message.Args);

    private const string One = ".one";

    [GeneratedRegex(@"\{(\d)\}", RegexOptions.NonBacktracking)]
    private static partial Regex Hole { get; }

    /// <summary>Puts the arguments in, each once: a code after @ by its text, a number as the language writes it. What stands in an
    /// argument is never looked at again.</summary>
    public string Fill(string text, IReadOnlyList<string> args) =>
        args.Count == 0
            ? text
            : Hole.Replace(text, hole => hole.Groups[1].Value[0] - '0' is var i && i < args.Count ? Argument(args[i]) : hole.Value);

    /// <summary>One at sign begins a code, or a list of codes that have one each. Two begin a text that somebody typed and that begins with
    /// one (<see cref="Message.Said"/>).</summary>
    private string Argument(string arg) =>
        arg.StartsWith("@@", StringComparison.Ordinal) ? arg[1..]
        : arg.StartsWith('@') ? string.Join(", ", arg[1..].Split(", @").Select(code => this[code]))
        : Local(Phrase(arg));

    /// <summary>A printed phrase of the catalogue, such as a limit's purpose, in this language where it is known; a number in it stands for
    /// any.</summary>
    public string Phrase(string english)
    {
        if (Language == "en" || english.Length == 0)
            return english;
        if (_words.TryGetValue("phrase." + english, out var text))
            return text;
        var from = english.AsSpan().IndexOfAny("0123456789");
        if (from < 0)
            return english;
        var to = from;
        while (to < english.Length && char.IsAsciiDigit(english[to]))
            to++;
        return _words.TryGetValue($"phrase.{english[..from]}{{0}}{english[to..]}", out text)
            ? text.Replace("{0}", english[from..to], StringComparison.Ordinal)
            : english;
    }

    public string Number(double value, int decimals) => Local(value.ToString("F" + decimals, CultureInfo.InvariantCulture));

    /// <summary>A number that was written with a point, as the language writes it; anything else as it is.</summary>
    public string Local(string number) =>
        Decimal == "." || !IsNumber(number) ? number : number.Replace(".", Decimal, StringComparison.Ordinal);

    public string Date(DateOnly date) =>
        Fill(
            this["format.date"],
            [
                date.Day.ToString(CultureInfo.InvariantCulture),
                "@month." + date.Month.ToString(CultureInfo.InvariantCulture),
                date.Year.ToString(CultureInfo.InvariantCulture),
            ]
        );

    private string Decimal => Or("format.decimal", ".");

    private static bool IsNumber(string text)
    {
        var digits = text.AsSpan().TrimStart("+-\u2212");
        return digits.Length > 0
            && digits.IndexOf('.') == digits.LastIndexOf('.')
            && digits[0] != '.'
            && digits.IndexOfAnyExcept("0123456789.") < 0;
    }
}
