namespace Walkdown.Core.Measures;

/// <summary>A sentence by code; the words are in texts/. An argument that begins with '@' is itself a code; one that begins with '@@' is a
/// text that begins with '@'.</summary>
public sealed record Message(string Code, params ImmutableArray<string> Args)
{
    /// <summary>What somebody typed, as an argument: however it begins, it is never taken for a code.</summary>
    public static string Said(string text) => text.StartsWith('@') ? "@@" + text[1..] : text;

    /// <summary>A number as an argument: invariant, at most <paramref name="decimals"/> places.</summary>
    public static string Number(double value, int decimals = 2)
    {
        var rounded = Math.Round(value, decimals, MidpointRounding.AwayFromZero);
        return Math.Abs(rounded) < MostWhole && rounded == Math.Truncate(rounded)
            ? ((long)rounded).ToString(CultureInfo.InvariantCulture)
            : rounded.ToString(decimals < Formats.Length ? Formats[decimals] : FormatOf(decimals), CultureInfo.InvariantCulture);
    }

    /// <summary>Up to here a whole number is the same by either way of writing it.</summary>
    private const double MostWhole = 1e15;

    private static readonly ImmutableArray<string> Formats = [.. Enumerable.Range(0, 7).Select(FormatOf)];

    private static string FormatOf(int decimals) => "0." + new string('#', decimals);

    /// <summary>By content.</summary>
    public bool Equals(Message? other) => other is not null && Code == other.Code && Args.AsSpan().SequenceEqual(other.Args.AsSpan());

    /// <summary>By its code and how many arguments it has.</summary>
    public override int GetHashCode() => HashCode.Combine(Code, Args.IsDefault ? 0 : Args.Length);
}
