namespace Walkdown.Core.Cabling;

/// <summary>What a wire map costs: which speeds can link and which pair sets can carry power (IEEE 802.3; docs/calculations.md,
/// B).</summary>
internal static class WireMapCosts
{
    /// <summary>"Yes" means "can link", never "meets its category".</summary>
    internal static LinkAbilities Links(WireMap.PairShape[] shapes, ImmutableArray<PinPair> splits, bool autoCrossover)
    {
        bool own12 = Own(0),
            own36 = Own(1),
            swapA = Swapped(0, 1),
            ownB = Own(2) && Own(3),
            swapB = Swapped(2, 3);
        var slow =
            own12 && own36 ? Ability.Yes
            : swapA && autoCrossover ? Ability.Yes
            : Ability.No;
        var ten = slow == Ability.Yes && (shapes[0].Turned || shapes[1].Turned) ? Ability.Degraded : slow;
        var identity = own12 && own36 && ownB;
        var gigabit =
            identity ? Ability.Yes
            : !autoCrossover ? Ability.No
            : swapA && swapB ? Ability.Yes
            : (swapA && ownB) || (own12 && own36 && swapB) ? Ability.Degraded
            : Ability.No;
        var splitSlow = splits.Any(split => Touches(split, 0) || Touches(split, 1));
        return new LinkAbilities(AtMost(ten, splitSlow), AtMost(slow, splitSlow), splits.IsEmpty ? gigabit : Ability.No);

        bool Own(int pair) => shapes[pair].LandsOn == PinPair.All[pair];
        bool Swapped(int a, int b) => shapes[a].LandsOn == PinPair.All[b] && shapes[b].LandsOn == PinPair.All[a];
        static bool Touches(PinPair split, int pair) => PinPair.All[pair].Has(split.First) || PinPair.All[pair].Has(split.Second);
        static Ability AtMost(Ability ability, bool degrade) => degrade && ability == Ability.Yes ? Ability.Degraded : ability;
    }

    internal static PowerAbilities Power(ImmutableArray<WireMap.Node> nodes)
    {
        var (a, aReason) = PairSet(nodes, negative: [1, 2], positive: [3, 6]);
        var (b, bReason) = PairSet(nodes, negative: [7, 8], positive: [4, 5]);
        var (four, fourReason) = (a, b) switch
        {
            (Ability.Yes, Ability.Yes) => (Ability.Yes, FourPairReason.Ok),
            (Ability.No, Ability.No) => (Ability.No, FourPairReason.NeitherPairSetWorks),
            _ => (Ability.Degraded, FourPairReason.FallsBackToOnePairSet),
        };
        return new PowerAbilities(a, aReason, b, bReason, four, fourReason);
    }

    /// <summary>First rule that applies, in the order of docs/calculations.md, B.</summary>
    private static (Ability, PairSetReason) PairSet(ImmutableArray<WireMap.Node> nodes, int[] negative, int[] positive)
    {
        var farOfNegative = new HashSet<PinPair>();
        var farOfPositive = new HashSet<PinPair>();
        int parallelNegative = 0,
            parallelPositive = 0;
        foreach (var node in nodes)
        {
            var minus = node.Near.Count(pin => negative.Contains(pin));
            var plus = node.Near.Count(pin => positive.Contains(pin));
            if (minus > 0 && plus > 0)
                return (Ability.No, PairSetReason.SupplyConductorsShorted);
            var pins = node.Far.Where(pin => pin != WireMapReading.Shield).ToList();
            if (minus > 0)
                farOfNegative.UnionWith(pins.Select(PinPair.Of));
            if (plus > 0)
                farOfPositive.UnionWith(pins.Select(PinPair.Of));
            parallelNegative += Math.Min(minus, pins.Count);
            parallelPositive += Math.Min(plus, pins.Count);
        }
        if (farOfNegative.Overlaps(farOfPositive))
            return (Ability.No, PairSetReason.SupplyShortedThroughFarEndWinding);
        if (farOfNegative.Count == 0 || farOfPositive.Count == 0)
            return (Ability.No, PairSetReason.SupplyOpen);
        if (!OnOneBridge(0, 1) && !OnOneBridge(2, 3))
            return (Ability.Degraded, PairSetReason.SupplyLandsOnTwoDifferentBridges);
        if (parallelNegative < 2 || parallelPositive < 2)
            return (Ability.Degraded, PairSetReason.OneConductorOfAPairCarriesAllTheCurrent);
        if (farOfNegative.Count + farOfPositive.Count > 2)
            return (Ability.Degraded, PairSetReason.SupplySpreadOverMoreThanTwoPairs);
        return (Ability.Yes, PairSetReason.Ok);

        bool OnOneBridge(int first, int second)
        {
            PinPair[] bridge = [PinPair.All[first], PinPair.All[second]];
            return bridge.Count(farOfNegative.Contains) == 1 && bridge.Count(farOfPositive.Contains) == 1;
        }
    }
}
