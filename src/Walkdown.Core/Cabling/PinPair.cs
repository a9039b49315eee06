namespace Walkdown.Core.Cabling;

/// <summary>A pair of pins of the eight-way plug. Both colour schemes use the same pin pairs (ISO/IEC 11801, TIA-568).</summary>
public readonly record struct PinPair(int First, int Second)
{
    /// <summary>The four pairs.</summary>
    public static readonly ImmutableArray<PinPair> All = [new(1, 2), new(3, 6), new(4, 5), new(7, 8)];

    /// <summary>The pairs of one device where two share a cable.</summary>
    public static readonly ImmutableArray<PinPair> Shared = [All[0], All[1]];

    /// <summary>The pair that a pin is of.</summary>
    public static PinPair Of(int pin) =>
        pin switch
        {
            1 or 2 => All[0],
            3 or 6 => All[1],
            4 or 5 => All[2],
            7 or 8 => All[3],
            _ => throw new ArgumentOutOfRangeException(nameof(pin)),
        };

    /// <summary>Whether a pin is of it.</summary>
    public bool Has(int pin) => pin == First || pin == Second;

    /// <summary>Such as 1-2.</summary>
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
