namespace Walkdown.Core.Cabling;

/// <summary>What a wire map is, what it costs in speeds and power, and which end to open first and why.</summary>
public sealed record WireMapAnalysis(
    ImmutableArray<WireMapClass> Classes,
    ImmutableArray<int> OpenNearPins,
    ImmutableArray<int> FarPinsNotSeen,
    ImmutableArray<ShortedNode> Shorts,
    ImmutableArray<PinPair> ReversedPairs,
    ImmutableArray<TransposedPair> TransposedPairs,
    ImmutableArray<int> CrossedPins,
    ImmutableArray<PinPair> SplitTwists,
    bool PairTestDone,
    ShieldState Shield,
    LabelState Label,
    LinkAbilities Links,
    PowerAbilities Power,
    LookAt LookFirst,
    LookReason Why,
    ImmutableArray<Landing> Displaced
)
{
    /// <summary>Every conductor on its own pin, and nothing else to mend.</summary>
    /// <summary>Only 1-2 and 3-6 arrive, and they arrive right: a two-pair cable, or one side of two sharing adapters.</summary>
    public bool IsTwoPairsOnly =>
        Classes.Contains(WireMapClass.TwoPairCable) && Classes.All(c => c is WireMapClass.Open or WireMapClass.TwoPairCable);

    /// <summary>Every conductor arrives where it should.</summary>
    public bool IsStraight => Why == LookReason.NoFault && Classes.Contains(WireMapClass.StraightThrough);
}
