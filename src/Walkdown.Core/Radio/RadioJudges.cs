using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Radio;

/// <summary>A device on the air: its budget, its path, its level at the place where it stays, and its load.</summary>
internal static class RadioJudges
{
    internal static readonly CheckId Budget = new("radio.budget");

    private static readonly string[] Needed = ["metres", "megahertz", "power", "gain-a", "gain-b", "sensitivity"];

    private static RadioLink.Link? LinkOf(RowContext c, FormLine line)
    {
        double? Of(string field) => line.Of(field)?.Number;
        return
            Of("metres") is > 0 and var metres
            && Of("megahertz") is > 0 and var megahertz
            && Of("power") is { } power
            && Of("gain-a") is { } gainA
            && Of("gain-b") is { } gainB
            && Of("sensitivity") is { } sensitivity
            ? new(
                metres,
                megahertz,
                power,
                gainA,
                gainB,
                Of("loss-a") ?? 0,
                Of("loss-b") ?? 0,
                sensitivity,
                Of("other") ?? 0,
                c.Catalogue.Figure("radio.margin-db"),
                Of("allowed")
            )
            : null;
    }

    private static RadioLink.Link? LinkOn(RowContext c) =>
        c.Counting.Value(Budget, new Subject(SubjectKind.Place, c.Facts.Place.Id)) is FormValue { Lines: [var line, ..] }
            ? LinkOf(c, line)
            : null;

    /// <summary>What the budget says will arrive.</summary>
    internal static Expectation Expected(RowContext c) =>
        LinkOn(c) is { } link
            ? new(
                new(Math.Round(RadioLink.BudgetOf(link).ReceiveDbm, 1), Unit.DecibelMilliwatt),
                c.Catalogue.Figure("radio.level-db"),
                null,
                "expect.radio-level",
                [
                    new("term.distance", Message.Number(link.Metres, 0) + " m", Origin.Planned),
                    new("term.frequency", Message.Number(link.Megahertz, 0) + " MHz", Origin.Planned),
                ]
            )
            : Expecting.None("expect.radio-level", new Message("because.first", "@check.radio.budget"));

    /// <summary>From transmitter to receiver, with what is radiated against what may be.</summary>
    internal static Judged BudgetOf(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt)
    {
        var line = ((FormValue)value).Lines[0];
        if (LinkOf(c, line) is not { } link)
            return GeneralJudges.NotJudged(
                new Message("form.not-said", FormJudges.Name(c, Needed.FirstOrDefault(f => line.Of(f)?.Number is null) ?? Needed[0]))
            );
        var budget = RadioLink.BudgetOf(link);
        var because = ImmutableArray.CreateBuilder<Message>();
        because.Add(
            new(
                "radio.budget." + Codes.Of(budget.Verdict),
                Message.Number(budget.ReceiveDbm, 1),
                Message.Number(budget.MarginDb, 1),
                Message.Number(link.RequiredMarginDb, 0)
            )
        );
        because.Add(new("radio.longest", Message.Number(budget.LongestMetres, 0)));
        var state = budget.Verdict == BudgetVerdict.Ok ? State.In : State.Out;
        if (budget.IsOverLimit)
        {
            state = State.Out;
            because.Insert(0, new("radio.over-limit", Message.Number(budget.EirpDbm, 1), Message.Number(link.EirpLimitDbm!.Value, 1)));
        }
        else if (link.EirpLimitDbm is null)
        {
            if (state == State.In)
                state = State.NotJudged;
            because.Add(new("radio.limit-unsaid", Message.Number(budget.EirpDbm, 1)));
        }
        return new(state, null, null, because.ToImmutable());
    }

    /// <summary>The first zone over the worst obstacle, with the heights of both antennas.</summary>
    internal static Judged Path(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt)
    {
        var line = ((FormValue)value).Lines[0];
        if (c.Check.Fields.FirstOrDefault(f => line.Of(f.Id)?.Number is null) is { } missing)
            return GeneralJudges.NotJudged(new Message("form.not-said", FormJudges.Name(c, missing.Id)));
        if (LinkOn(c) is not { } link)
            return GeneralJudges.NotJudged(new Message("because.first", "@check.radio.budget"));
        var at = line.Of("at")!.Number!.Value;
        if (at < 0 || at > link.Metres)
            return GeneralJudges.NotJudged(new Message("radio.at-beyond", Message.Number(link.Metres, 0)));
        var path = RadioLink.PathOf(
            link.Metres,
            link.Megahertz,
            at,
            line.Of("height-a")!.Number!.Value,
            line.Of("height-b")!.Number!.Value,
            line.Of("obstacle")!.Number!.Value,
            share: c.Catalogue.Figure("radio.zone-share")
        );
        return new(
            path.Verdict switch
            {
                PathVerdict.Clear => State.In,
                PathVerdict.Blocked => State.Out,
                _ => State.TooClose,
            },
            new Spare(path.ClearanceMetres - path.NeededMetres, null, null, NearestLimit.Min),
            null,
            [
                new(
                    "radio.path." + Codes.Of(path.Verdict),
                    Message.Number(path.ClearanceMetres, 1),
                    Message.Number(path.NeededMetres, 1),
                    Message.Number(path.RadiusMetres, 1)
                ),
            ]
        );
    }

    /// <summary>The level at its final place against what the budget predicts.</summary>
    internal static Judged Level(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt)
    {
        var measured = ((NumberValue)value).Value;
        if (LinkOn(c) is not { } link)
            return GeneralJudges.NotJudged(new Message("because.first", "@check.radio.budget"));
        var predicted = RadioLink.BudgetOf(link).ReceiveDbm;
        var half = accuracy?.HalfWidthAt(measured) ?? c.Catalogue.Figure("radio.meter-db");
        var (difference, verdict) = RadioLink.LevelOf(
            predicted,
            measured,
            c.Catalogue.Figure("radio.level-db"),
            half,
            link.SensitivityDbm,
            -c.Catalogue.Figure("radio.strong-minus-dbm")
        );
        var because = ImmutableArray.CreateBuilder<Message>();
        because.Add(new("radio.level." + Codes.Of(verdict), Message.Number(predicted, 1), Message.Number(Math.Abs(difference), 1)));
        if (verdict == LevelVerdict.Low && RadioLink.SmellsOfCrossedPolarisation(difference, half))
            because.Add(new("radio.crossed"));
        return new(
            verdict switch
            {
                LevelVerdict.AsPredicted or LevelVerdict.Higher => State.In,
                LevelVerdict.TooClose => State.TooClose,
                _ => State.Out,
            },
            new Spare(measured - link.SensitivityDbm, null, null, NearestLimit.Min),
            half,
            because.ToImmutable()
        );
    }

    /// <summary>What the streams need of what was negotiated.</summary>
    internal static Judged Load(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt)
    {
        var line = ((FormValue)value).Lines[0];
        if (line.Of("negotiated")?.Number is not { } negotiated || line.Of("streams")?.Number is not { } streams)
            return GeneralJudges.NotJudged(new Message("form.not-said", FormJudges.Name(c, "negotiated")));
        var load = RadioLink.ThroughputOf(
            [streams],
            negotiated,
            c.Catalogue.Figure("radio.efficiency-percent") / 100,
            1 + c.Catalogue.Figure("radio.headroom-percent") / 100,
            line.Of("share")?.Number is > 0 and <= 100 and var share ? share / 100 : 1
        );
        return new(
            load.IsEnough ? State.In : State.Out,
            new Spare(load.SpareMbps, null, load.UsableMbps > 0 ? load.SpareMbps / load.UsableMbps : null, NearestLimit.Max),
            null,
            [
                new(
                    load.IsEnough ? "radio.load.enough" : "radio.load.short",
                    Message.Number(load.NeededMbps, 1),
                    Message.Number(load.UsableMbps, 1)
                ),
            ]
        );
    }
}
