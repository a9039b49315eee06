using Walkdown.Core.Cabling;
using Walkdown.Core.Links;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>One reading against its row.</summary>
internal sealed record Judged(State State, Spare? Spare, double? HalfWidth, ImmutableArray<Message> Because, WireMapAnalysis? Map = null);

/// <summary>Core's closed registry of judges.</summary>
internal static class Judges
{
    public delegate Judged Judge(RowContext context, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt);

    public static readonly IReadOnlyDictionary<string, Judge> All = new Dictionary<string, Judge>
    {
        ["window"] = Window,
        ["yes-no"] = YesNo,
        ["wire-map"] = Map,
        ["link-speed"] = LinkSpeed,
    };

    private static Judged Window(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset _)
    {
        var number = ((NumberValue)value).Value;
        if (window is null) return new(State.In, null, accuracy?.HalfWidthAt(number), [new Message("because.no-limit")]);
        if (window.Empty)
            return new(State.TooClose, null, accuracy?.HalfWidthAt(number), [new Message("because.limits-exclude-each-other", [.. window.Parts.Select(p => p.Source)])]);
        var decided = Decision.Decide(number, window.Min, window.Max, accuracy, c.Facts.Practice.Rule);
        var state = decided.Outcome switch { Outcome.In => State.In, Outcome.Out => State.Out, _ => State.TooClose };
        var because = ImmutableArray.CreateBuilder<Message>();
        if (decided.InstrumentCannotDecide) because.Add(new Message("because.instrument-cannot-decide"));
        if (state != State.In && Decisive(window, decided.Spare) is { } part) because.Add(new Message("because.limit", part.Purpose, part.Source));
        if (accuracy is null && c.Facts.Practice.Rule == DecisionRule.Guarded) because.Add(new Message("because.no-accuracy"));
        return new(state, decided.Spare, decided.HalfWidth, because.ToImmutable());
    }

    /// <summary>The limit that the reading is nearest to.</summary>
    private static Limit? Decisive(LimitWindow window, Spare spare) => spare.Nearest switch
    {
        NearestLimit.Min => window.Parts.LastOrDefault(p => p.Min == window.Min),
        NearestLimit.Max => window.Parts.LastOrDefault(p => p.Max == window.Max),
        _ => null,
    };

    private static Judged YesNo(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt) =>
        new(((YesNoValue)value).Yes ? State.In : State.Out, null, null, []);

    private static Judged Map(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt)
    {
        var map = c.Analyse((WireMapValue)value, takenAt);
        return new(map.IsStraight ? State.In : State.Out, null, null, WireMapWords.Say(map, ((WireMapValue)value).OpenDistanceMetres), map);
    }

    /// <summary>A lit link never overrides a failed map: what links in spite of it is too close to accept.</summary>
    private static Judged LinkSpeed(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt)
    {
        var seen = ((ChoiceValue)value).Choice == "none" ? 0 : int.Parse(((ChoiceValue)value).Choice, CultureInfo.InvariantCulture);
        if (c.SpeedMbps is not { } expected) return new(seen == 0 ? State.Out : State.In, null, null, [new Message("expect.none.no-speed")]);
        var map = c.MeasuredMap;
        var pairsGood = map is null ? 4 : 4 - PinPair.All.Count(p => map.OpenNearPins.Any(p.Has) || map.CrossedPins.Any(p.Has) || map.Shorts.Any(s => s.NearPins.Any(pin => pin <= 8 && p.Has(pin))));
        var findings = Negotiated.Judge(expected, Duplex.Full, seen, Duplex.Full, pairsGood: pairsGood);
        var because = findings.Select(f => new Message("speed." + Codes.Of(f), seen.ToString(CultureInfo.InvariantCulture), expected.ToString(CultureInfo.InvariantCulture))).ToList();
        if (!Negotiated.Passes(findings)) return new(State.Out, null, null, [.. because]);
        if (map is { IsStraight: false })
        {
            var able = seen switch { >= 1000 => map.Links.Base1000, 100 => map.Links.Base100, _ => map.Links.Base10 };
            because.Insert(0, new Message(able == Ability.No ? "speed.contradicts-map" : "speed.lit-despite-map", seen.ToString(CultureInfo.InvariantCulture)));
            return new(State.TooClose, null, null, [.. because]);
        }
        if (map is null) because.Add(new Message("speed.no-map-yet"));
        return new(State.In, null, null, [.. because]);
    }
}
