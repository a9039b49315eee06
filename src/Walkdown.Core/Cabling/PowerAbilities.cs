namespace Walkdown.Core.Cabling;

/// <summary>Which pair sets carry power, and why.</summary>
/// <param name="A">Pairs 1-2 and 3-6.</param>
/// <param name="AReason">Why.</param>
/// <param name="B">Pairs 4-5 and 7-8.</param>
/// <param name="BReason">Why.</param>
/// <param name="FourPair">All four.</param>
/// <param name="FourPairReason">Why.</param>
public sealed record PowerAbilities(
    Ability A,
    PairSetReason AReason,
    Ability B,
    PairSetReason BReason,
    Ability FourPair,
    FourPairReason FourPairReason
);
