namespace Walkdown.Core.Measures;

/// <summary>Names of Core as they stand in message codes and in JSON: <c>TooClose</c> is <c>tooClose</c>.</summary>
public static class Codes
{
    /// <summary>A word of an enumeration as the texts have it: camel case.</summary>
    public static string Of(Enum value)
    {
        var name = value.ToString();
        return char.ToLowerInvariant(name[0]) + name[1..];
    }
}
