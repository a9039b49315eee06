using System.Collections.Frozen;

namespace Walkdown.Core.Measures;

/// <summary>Names of Core as they stand in message codes and in JSON: <c>TooClose</c> is <c>tooClose</c>.</summary>
public static class Codes
{
    /// <summary>A word of an enumeration as the texts have it: camel case.</summary>
    public static string Of<T>(T value)
        where T : struct, Enum => Known<T>.Words.TryGetValue(value, out var word) ? word : WordOf(value);

    private static string WordOf<T>(T value)
        where T : struct, Enum
    {
        var name = value.ToString();
        return char.ToLowerInvariant(name[0]) + name[1..];
    }

    private static class Known<T>
        where T : struct, Enum
    {
        public static readonly FrozenDictionary<T, string> Words = Enum.GetValues<T>().Distinct().ToFrozenDictionary(v => v, WordOf);
    }
}
