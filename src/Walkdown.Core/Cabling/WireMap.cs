using Walkdown.Core.Measures;

namespace Walkdown.Core.Cabling;

/// <summary>
/// Analysis of a wire map. Pin-outs by ISO/IEC 11801, TIA-568 and IEEE 802.3 (clauses 33 and 145 for power); the order of the findings and
/// the
/// advice where to look first are practice (docs/calculations.md, B).
/// </summary>
public static class WireMap
{
    /// <summary>Analyses a reading of the far unit.</summary>
    /// <exception cref="BadInputException">A shield expected but not measured, a twist or distance on a pin that does not
    /// exist.</exception>
    public static WireMapAnalysis Analyse(WireMapReading reading, WireMapContext? context = null)
    {
        var known = context ?? new WireMapContext();
        if (known.ShieldExpected && !reading.ShieldMeasured)
            throw new BadInputException(BadInputReason.Missing, "near_to_far.S");
        var nodes = Nodes(reading);
        var clean = CleanConductors(nodes);
        var shapes = PairShapes(clean);
        var splits = Splits(known.TwistedPairsNear);
        var openNear = Pins(1, 8).Where(pin => reading.FarOf(pin).IsEmpty).ToImmutableArray();
        var seen = nodes.SelectMany(node => node.Far).ToHashSet();
        var notSeen = Pins(1, 8).Where(pin => !seen.Contains(pin)).ToImmutableArray();
        var shorts = nodes
            .Where(node => node.Near.Length > 1 || node.Far.Length > 1)
            .Select(node => new ShortedNode(node.Near, node.Far, LiesOf(node)))
            .ToImmutableArray();
        var reversed = PinPair.All.Where((_, i) => shapes[i].Turned).ToImmutableArray();
        var transposed = PinPair
            .All.Select((pair, i) => (pair, far: shapes[i].LandsOn))
            .Where(t => t.far is { } far && far != t.pair)
            .Select(t => new TransposedPair(t.pair, t.far!.Value))
            .ToImmutableArray();
        var crossed = Crossed(clean);
        var shield =
            !reading.ShieldMeasured ? ShieldState.NotFitted
            : reading.FarOf(WireMapReading.Shield).Contains(WireMapReading.Shield) ? ShieldState.Continuous
            : ShieldState.Open;
        var label = LabelOf(known);
        var classes = Classify(clean, openNear, notSeen, shorts, reversed, transposed, crossed, splits, shield, known, label);
        var (look, why) = WireMapAdvice.LookFirst(classes, openNear, shorts, known);
        return new WireMapAnalysis(
            classes,
            openNear,
            notSeen,
            shorts,
            reversed,
            transposed,
            crossed,
            splits,
            known.TwistedPairsNear is not null,
            shield,
            label,
            WireMapCosts.Links(shapes, splits, known.AutoCrossover),
            WireMapCosts.Power(nodes),
            look,
            why,
            [.. Pins(1, 8).Where(pin => clean[pin] is > 0 and var far && far != pin).Select(pin => new Landing(pin, clean[pin]))]
        );
    }

    internal static IEnumerable<int> Pins(int first, int last) => Enumerable.Range(first, last - first + 1);

    /// <summary>One electrical node: near pins and far pins joined by the cable (and by shorts), each ascending, the shield last.</summary>
    internal readonly record struct Node(ImmutableArray<int> Near, ImmutableArray<int> Far);

    /// <summary>Where a pair of near pins arrives: the far pin pair it lands on whole (null if it does not), and whether its order is
    /// turned.</summary>
    internal readonly record struct PairShape(PinPair? LandsOn, bool Turned);

    private static ImmutableArray<Node> Nodes(WireMapReading reading)
    {
        // Union-find over near pins (0 to 9) and far pins (10 to 19).
        Span<int> parent = stackalloc int[20];
        for (var i = 0; i < 20; i++)
            parent[i] = i;
        for (var pin = 1; pin <= WireMapReading.Shield; pin++)
            foreach (var other in reading.FarOf(pin))
                parent[Root(parent, pin)] = Root(parent, other + 10);
        var nodes = ImmutableArray.CreateBuilder<Node>(9);
        Span<int> near = stackalloc int[9];
        Span<int> far = stackalloc int[9];
        for (var first = 1; first <= WireMapReading.Shield; first++)
        {
            if (reading.FarOf(first).IsEmpty)
                continue;
            var root = Root(parent, first);
            var (nears, fars) = (0, 0);
            for (var pin = 1; pin <= WireMapReading.Shield; pin++)
            {
                if (!reading.FarOf(pin).IsEmpty && Root(parent, pin) == root)
                    near[nears++] = pin;
                if (Root(parent, pin + 10) == root)
                    far[fars++] = pin;
            }
            if (near[0] == first)
                nodes.Add(new([.. near[..nears]], [.. far[..fars]]));
        }
        return nodes.DrainToImmutable();

        static int Root(Span<int> parent, int i)
        {
            while (parent[i] != i)
                i = parent[i];
            return i;
        }
    }

    /// <summary>Far pin by near pin (index 1 to 8) where one conductor joins one pin to one pin; 9 for the shield, 0 where not
    /// clean.</summary>
    private static int[] CleanConductors(ImmutableArray<Node> nodes)
    {
        var clean = new int[10];
        foreach (var node in nodes)
            if (node.Near.Length == 1 && node.Far.Length == 1)
                clean[node.Near[0]] = node.Far[0];
        return clean;
    }

    private static PairShape[] PairShapes(int[] clean) =>
        [
            .. PinPair.All.Select(pair =>
            {
                int a = clean[pair.First],
                    b = clean[pair.Second];
                if (a is 0 or WireMapReading.Shield || b is 0 or WireMapReading.Shield || PinPair.Of(a) != PinPair.Of(b))
                    return default;
                return new PairShape(PinPair.Of(a), a == PinPair.Of(a).Second);
            }),
        ];

    private static ImmutableArray<PinPair> Splits(IReadOnlyList<(int A, int B)>? twists)
    {
        if (twists is null)
            return [];
        foreach (var (a, b) in twists)
            if (a is < 1 or > 8 || b is < 1 or > 8 || a == b)
                throw new BadInputException(BadInputReason.UnknownValue, "twisted_pairs_near");
        return
        [
            .. twists
                .Select(t => new PinPair(Math.Min(t.A, t.B), Math.Max(t.A, t.B)))
                .Where(t => !PinPair.All.Contains(t))
                .OrderBy(t => t.First)
                .ThenBy(t => t.Second),
        ];
    }

    private static ShortLies LiesOf(Node node) =>
        (node.Near.Length > 1, node.Far.Length > 1) switch
        {
            (true, true) => ShortLies.Anywhere,
            (false, true) => ShortLies.BetweenTheOpenAndTheFarEnd,
            _ => ShortLies.BetweenTheOpenAndTheNearEnd,
        };

    private static ImmutableArray<int> Crossed(int[] clean)
    {
        var crossed = ImmutableArray.CreateBuilder<int>();
        foreach (var pair in PinPair.All)
        {
            int a = Live(clean[pair.First]),
                b = Live(clean[pair.Second]);
            if (a != 0 && b != 0)
            {
                if (PinPair.Of(a) != PinPair.Of(b))
                    crossed.AddRange(pair.First, pair.Second);
            }
            else if (a != 0 && a != pair.First)
                crossed.Add(pair.First);
            else if (b != 0 && b != pair.Second)
                crossed.Add(pair.Second);
        }
        crossed.Sort();
        return crossed.ToImmutable();

        static int Live(int far) => far == WireMapReading.Shield ? 0 : far;
    }

    private static LabelState LabelOf(WireMapContext known)
    {
        if (string.IsNullOrWhiteSpace(known.ExpectedRemoteLabel))
            return LabelState.NotChecked;
        if (string.IsNullOrWhiteSpace(known.FoundRemoteLabel))
            return LabelState.NotRead;
        return string.Equals(known.ExpectedRemoteLabel.Trim(), known.FoundRemoteLabel.Trim(), StringComparison.OrdinalIgnoreCase)
            ? LabelState.Match
            : LabelState.Mismatch;
    }

    private static readonly (WireMapClass Class, int[] Far)[] NamedMaps =
    [
        (WireMapClass.StraightThrough, [1, 2, 3, 4, 5, 6, 7, 8]),
        (WireMapClass.T568aT568bMixTwoPairCrossover, [3, 6, 1, 4, 5, 2, 7, 8]),
        (WireMapClass.FullGigabitCrossover, [3, 6, 1, 7, 8, 2, 4, 5]),
        (WireMapClass.Rolled, [8, 7, 6, 5, 4, 3, 2, 1]),
    ];

    private static ImmutableArray<WireMapClass> Classify(
        int[] clean,
        ImmutableArray<int> openNear,
        ImmutableArray<int> notSeen,
        ImmutableArray<ShortedNode> shorts,
        ImmutableArray<PinPair> reversed,
        ImmutableArray<TransposedPair> transposed,
        ImmutableArray<int> crossed,
        ImmutableArray<PinPair> splits,
        ShieldState shield,
        WireMapContext known,
        LabelState label
    )
    {
        var list = ImmutableArray.CreateBuilder<WireMapClass>();
        var named = Array.FindIndex(NamedMaps, map => Pins(1, 8).All(pin => clean[pin] == map.Far[pin - 1]));
        if (named >= 0)
            list.Add(NamedMaps[named].Class);
        else
        {
            Add(openNear.Length > 0 || notSeen.Length > 0, WireMapClass.Open);
            Add(shorts.Length > 0, WireMapClass.Short);
            Add(reversed.Length > 0, WireMapClass.ReversedPair);
            Add(transposed.Length > 0, WireMapClass.TransposedPairs);
            Add(crossed.Length > 0, WireMapClass.CrossedConductors);
        }
        Add(splits.Length > 0, WireMapClass.SplitPair);
        Add(openNear.SequenceEqual([4, 5, 7, 8]) && notSeen.SequenceEqual([4, 5, 7, 8]), WireMapClass.TwoPairCable);
        Add(known.ShieldExpected && shield == ShieldState.Open, WireMapClass.ShieldOpen);
        Add(!known.ShieldExpected && shield == ShieldState.Continuous, WireMapClass.ShieldPresentNotExpected);
        Add(
            clean[WireMapReading.Shield] is >= 1 and <= 8 || Pins(1, 8).Any(pin => clean[pin] == WireMapReading.Shield),
            WireMapClass.ConductorOnShield
        );
        Add(shorts.Any(s => s.ShieldInvolved), WireMapClass.ShortToShield);
        Add(label == LabelState.Mismatch, WireMapClass.LabelMismatch);
        return list.ToImmutable();

        void Add(bool when, WireMapClass what)
        {
            if (when)
                list.Add(what);
        }
    }
}
