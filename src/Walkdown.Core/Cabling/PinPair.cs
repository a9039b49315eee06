namespace Walkdown.Core.Cabling;

/// <summary>A pair of pins of the eight-way plug. Both colour schemes use the same pin pairs (ISO/IEC 11801, TIA-568).</summary>
public readonly record struct PinPair(int First, int Second)
{
    public static readonly ImmutableArray<PinPair> All = [new(1, 2), new(3, 6), new(4, 5), new(7, 8)];

    /// <summary>The pairs of one device where two share a cable.</summary>
    public static readonly ImmutableArray<PinPair> Shared = [All[0], All[1]];

    public static PinPair Of(int pin) =>
        pin switch
        {
            1 or 2 => All[0],
            3 or 6 => All[1],
            4 or 5 => All[2],
            7 or 8 => All[3],
            _ => throw new ArgumentOutOfRangeException(nameof(pin)),
        };

    public bool Has(int pin) => pin == First || pin == Second;

    public override string ToString() =>
        (First, Second) switch
        {
            (1, 2) => "1-2",
            (3, 6) => "3-6",
            (4, 5) => "4-5",
            (7, 8) => "7-8",
            _ => $"{First}-{Second}",
        };
}

/// <summary>Which colours sit on 1-2 and 3-6. Judged is the pair of ends, not the letter.</summary>
public enum WiringScheme
{
    T568A,
    T568B,
}

/// <summary>Names of the insulation colours by pin, as message codes (<c>colour.white-orange</c>).</summary>
public static class Insulation
{
    private static readonly string[] B = ["white-orange", "orange", "white-green", "blue", "white-blue", "green", "white-brown", "brown"];
    private static readonly string[] A = ["white-green", "green", "white-orange", "blue", "white-blue", "orange", "white-brown", "brown"];

    public static string On(int pin, WiringScheme scheme) => (scheme == WiringScheme.T568A ? A : B)[pin - 1];
}
