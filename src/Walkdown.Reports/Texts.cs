using System.Collections.Concurrent;
using System.Text.Json;
using Walkdown.Core.Measures;

namespace Walkdown.Reports;

/// <summary>The words people read, by message code: what ships, and on top of it what catalogue files bring.</summary>
public sealed class Texts
{
    private static readonly ConcurrentDictionary<string, IReadOnlyDictionary<string, string>> ShippedByLanguage = new();
    private readonly IReadOnlyDictionary<string, string> _words;

    public Texts(string language, IReadOnlyDictionary<string, string>? added = null)
    {
        Language = language;
        var words = new Dictionary<string, string>(Shipped(language));
        foreach (var (code, text) in added ?? new Dictionary<string, string>()) words[code] = text;
        _words = words;
    }

    public string Language { get; }

    public IReadOnlyDictionary<string, string> All => _words;

    public static IReadOnlyDictionary<string, string> Shipped(string language) => ShippedByLanguage.GetOrAdd(language, static name =>
    {
        var words = new Dictionary<string, string>();
        foreach (var part in typeof(Texts).Assembly.GetManifestResourceNames().Where(n => n == $"texts/{name}.json" || n.StartsWith($"texts/{name}.", StringComparison.Ordinal)))
        {
            using var stream = typeof(Texts).Assembly.GetManifestResourceStream(part)!;
            foreach (var (code, text) in JsonSerializer.Deserialize<Dictionary<string, string>>(stream)!) words[code] = text;
        }
        return words;
    });

    /// <summary>The text of a code, or the code itself: a missing text must be seen, not hidden.</summary>
    public string this[string code] => _words.TryGetValue(code, out var text) ? text : code;

    public string Or(string code, string otherwise) => _words.TryGetValue(code, out var text) ? text : otherwise;

    public string Say(Message message) => Fill(this[message.Code], message.Args);

    public string Fill(string text, IReadOnlyList<string> args)
    {
        for (var i = 0; i < args.Count; i++)
            text = text.Replace($"{{{i}}}", args[i].StartsWith('@') ? this[args[i][1..]] : args[i], StringComparison.Ordinal);
        return text;
    }
}
