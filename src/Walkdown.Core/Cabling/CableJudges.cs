using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Cabling;

/// <summary>Judges of what is read on a twisted pair.</summary>
internal static class CableJudges
{
    public static Judged Map(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt)
    {
        var map = c.Analyse((WireMapValue)value, takenAt);
        // Behind two sharing adapters each device has two pairs: the others are dark, and that is right.
        if (c.Run is { Shared: true } && map.IsTwoPairsOnly)
            return new(State.In, null, null, [new Message("map.shared")], map);
        var words = WireMapWords.Say(map, ((WireMapValue)value).OpenDistanceMetres);
        return new(map.IsStraight ? State.In : State.Out, null, null, words, map);
    }

    /// <summary>The loop of one pair in its window; and, once all four are read, the unbalance between them.</summary>
    public static Judged Loop(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt)
    {
        var judged = GeneralJudges.Window(c, value, window, accuracy, takenAt);
        var loops = new double[4];
        for (var i = 0; i < 4; i++)
        {
            var pair = PinPair.All[i];
            var ohms = pair.ToString() == c.Key.On.Part ? ((NumberValue)value).Value : c.MeasuredLoopOhms(pair);
            if (ohms is not > 0)
                return judged;
            loops[i] = ohms.Value;
        }
        // Of a loop alone both conductors are taken as equal: in parallel a quarter of it. Most runs are far from any allowance.
        var allow = CableLimits.UnbalanceOf(c.Catalogue);
        double least = loops.Min(),
            most = loops.Max();
        if ((most - least) / 4 <= Math.Max(allow.BetweenOhms, allow.BetweenPercent / 100 * (least + least) / 4))
            return judged;
        double[] conductors =
        [
            loops[0] / 2,
            loops[0] / 2,
            loops[1] / 2,
            loops[2] / 2,
            loops[2] / 2,
            loops[1] / 2,
            loops[3] / 2,
            loops[3] / 2,
        ];
        var worst = Unbalance.Of(conductors, allow).WorstBetweenPairs;
        if (worst.InLimit || !worst.Of.Split('/').Contains(c.Key.On.Part))
            return judged;
        var band = ((accuracy?.HalfWidthAt(loops.Max()) ?? 0) * 2) / 4;
        var state = c.Facts.Practice.Rule == DecisionRule.Simple || worst.Ohms - band > worst.AllowedOhms ? State.Out : State.TooClose;
        var because = judged.Because.Insert(
            0,
            new Message("loop.between-pairs", worst.Of, Message.Number(worst.Ohms), Message.Number(worst.AllowedOhms))
        );
        return judged.State == State.Out ? judged with { Because = because } : judged with { State = state, Because = because };
    }

    /// <summary>The delay of one pair in its window; and the skew between those that were read.</summary>
    public static Judged Delay(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt)
    {
        var judged = GeneralJudges.Window(c, value, window, accuracy, takenAt);
        if (c.Run is not { } run)
            return judged;
        var own = ((NumberValue)value).Value;
        var delays = PinPair
            .All.Select(p =>
                p.ToString() == c.Key.On.Part ? own : c.Counting.Number(c.Check.Id, new Subject(SubjectKind.Run, run.Id, p.ToString()))
            )
            .OfType<double>()
            .ToArray();
        if (delays.Length < 2)
            return judged;
        var skew = CableLength.DelaySkew(delays, run.Configuration).SkewNs;
        if (
            CableLimits.SkewOf(c.Catalogue, run.Configuration)?.Max is not { } allowed
            || Decision.AtMost(skew, allowed)
            || own < delays.Max()
        )
            return judged;
        return judged with
        {
            State = State.Out,
            Because = judged.Because.Insert(0, new Message("delay.skew", Message.Number(skew, 1), Message.Number(allowed, 1))),
        };
    }

    /// <summary>A tone is a hint: it proves a cable once it was found again apart from the bundle and the map passes on the same pair of
    /// ends.</summary>
    public static Judged Tone(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt) =>
        ((ChoiceValue)value).Choice switch
        {
            "twice"
                when c.MeasuredMap is { } map
                    && map.Label != LabelState.Mismatch
                    && map.Classes.Length > 0
                    && map.OpenNearPins.Length < 8 => new(State.In, null, null, [new("tone.proven")]),
            "twice" => new(State.TooClose, null, null, [new("tone.map-next")]),
            "once" => new(State.TooClose, null, null, [new("tone.separate")]),
            _ => new(State.Out, null, null, [new("tone.none")]),
        };

    /// <summary>The colours found at the far end, before a plug is crimped here.</summary>
    public static Judged Scheme(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt)
    {
        var found = ((ChoiceValue)value).Choice;
        if (found == "other")
            return new(State.Out, null, null, [new("scheme.neither")]);
        var far = found == "a" ? WiringScheme.T568A : WiringScheme.T568B;
        if (c.Run is not { } run)
            return new(State.In, null, null, []);
        if (c.Has(PracticeFeatures.MatchFarEnd) && !run.OwnScheme)
            return new(State.In, null, null, [new("scheme.crimp", "@scheme." + far)]);
        return far == run.Scheme
            ? new(State.In, null, null, [])
            : new(State.Out, null, null, [new("scheme.will-not-match", "@scheme." + far, "@scheme." + run.Scheme)]);
    }

    /// <summary>The order of terminating, from what is on the cable: out while a plug sits before a cap that it cannot pass, or does not
    /// fit the housing.</summary>
    internal static Judged Order(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt)
    {
        var line = ((FormValue)value).Lines[0];
        if (c.Check.Fields.FirstOrDefault(f => line.Of(f.Id)?.Word is null) is { } missing)
            return GeneralJudges.NotJudged(new Message("form.not-said", FormJudges.Name(c, missing.Id)));
        bool Is(string field, string word) => line.Of(field)!.Word == word;
        var order = TerminationOrder.Of(
            Is("plug", "on"),
            Is("cap", "threaded") || Is("cap", "none"),
            Is("cap", "split"),
            Is("boot", "yes"),
            Is("housing", "takes-boot")
        );
        var because = ImmutableArray.CreateBuilder<Message>();
        if (!order.Fits)
            because.Add(new("order.boot-does-not-fit"));
        if (order.CutsPlug)
            because.Add(new("order.plug-before-cap"));
        because.Add(new("order.steps", string.Join(", ", order.Steps.Select(s => "@" + s))));
        return new(order.Fits && !order.CutsPlug ? State.In : State.Out, null, null, because.ToImmutable());
    }
}
