using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Coax;

/// <summary>A camera over coax: what reaches its recorder, and whether camera or cable is at fault.</summary>
internal static class CoaxJudges
{
    internal static readonly CheckId Cable = new("coax.cable"),
        Level = new("coax.level"),
        CameraEnd = new("coax.camera-end");

    /// <summary>The cable as it was said to be: class, length and form.</summary>
    private sealed record Said(CoaxKind Kind, double Metres, VideoFormat Format);

    private static Said? CableOf(FormLine line) =>
        KindOf(line.Of("class")?.Word) is { } kind
        && line.Of("metres")?.Number is { } metres
        && FormatOf(line.Of("format")?.Word) is { } form
            ? new(kind, metres, form)
            : null;

    private static Said? CableOn(RowContext c) =>
        c.Counting.Value(Cable, Place(c)) is FormValue { Lines: [var line, ..] } ? CableOf(line) : null;

    private static Subject Place(RowContext c) => new(SubjectKind.Place, c.Facts.Place.Id);

    private static CoaxKind? KindOf(string? word) =>
        word switch
        {
            "rg59" => CoaxKind.Rg59,
            "rg6" => CoaxKind.Rg6,
            "rg11" => CoaxKind.Rg11,
            _ => null,
        };

    private static VideoFormat? FormatOf(string? word) =>
        word switch
        {
            "composite" => VideoFormat.Composite,
            "hd-1mp" => VideoFormat.AnalogueHd1Mp,
            "hd-2mp" => VideoFormat.AnalogueHd2Mp,
            "hd-5mp" => VideoFormat.AnalogueHd5Mp,
            "hd-8mp" => VideoFormat.AnalogueHd8Mp,
            _ => null,
        };

    private static LineSystem SystemOf(FormLine line) => line.Of("system")?.Word == "525" ? LineSystem.Lines525 : LineSystem.Lines625;

    /// <summary>Less than a tenth is no picture: nothing of it says how a line is terminated.</summary>
    private static bool IsNothing(double syncMv, LineSystem system) => syncMv < Composite.SyncMillivolts(system) / 10;

    private static readonly ImmutableArray<string> Forms = ["composite", "hd-1mp", "hd-2mp", "hd-5mp", "hd-8mp"];

    /// <summary>Whether the form reaches over this cable; a centre of steel carries antennas and no video.</summary>
    internal static Judged Reach(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt)
    {
        var line = ((FormValue)value).Lines[0];
        if (CableOf(line) is not { } said || line.Of("centre")?.Word is not { } centre)
            return GeneralJudges.NotJudged(new Message("form.not-said", FormJudges.Name(c, "class")));
        if (centre == "steel")
            return new(State.Out, null, null, [new("coax.steel")]);
        var reach = CoaxCable.ReachOf(said.Format, said.Kind, said.Metres);
        var because = new List<Message>
        {
            new("coax.reach", Message.Number(reach.LongestMetres, 0), Message.Number(Math.Abs(reach.SpareMetres), 0)),
        };
        if (!reach.InLimit)
        {
            because[0] = new("coax.too-long", Message.Number(reach.LongestMetres, 0), Message.Number(-reach.SpareMetres, 0));
            because.Add(
                reach.Reaching.IsEmpty
                    ? new("coax.none-reach")
                    : new(
                        "coax.others-reach",
                        string.Join(", ", reach.Reaching.Select(f => $"{FormJudges.Name(c, "format")}.{Forms[(int)f]}"))
                    )
            );
        }
        return new(reach.InLimit ? State.In : State.Out, null, null, [.. because]);
    }

    /// <summary>Sync and burst at the recorder's end against what the length leaves of them: the sync tells terminations, a burst that is
    /// lower still tells the cable.</summary>
    internal static Judged Levels(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt)
    {
        var line = ((FormValue)value).Lines[0];
        if (line.Of("sync")?.Number is not { } sync)
            return GeneralJudges.NotJudged(new Message("form.not-said", FormJudges.Name(c, "sync")));
        var system = SystemOf(line);
        if (IsNothing(sync, system))
            return new(State.Out, null, null, [new("coax.nothing")]);
        if (CableOn(c) is not { } cable)
            return GeneralJudges.NotJudged(new Message("because.first", "@check.coax.cable"));
        var tolerance = c.Catalogue.Figure("coax.level-percent");
        // The sync is slow and the burst is quick: each loses what the cable takes at its own frequency.
        var slow = CoaxCable.LossOf(cable.Kind, c.Catalogue.Figure("coax.sync-mhz"), cable.Metres);
        var quick = CoaxCable.LossOf(
            cable.Kind,
            c.Catalogue.Figure(system == LineSystem.Lines525 ? "coax.burst-525-mhz" : "coax.burst-625-mhz"),
            cable.Metres
        );
        var nominal = Composite.SyncMillivolts(system);
        var found = Composite.TerminationOf(sync, system, slow.LossDb, c.Catalogue.Figure("coax.termination-percent"));
        var because = ImmutableArray.CreateBuilder<Message>();
        because.Add(
            new("coax.expected", Message.Number(nominal * slow.LevelFraction, 0), Message.Number(nominal * quick.LevelFraction, 0))
        );
        var state = State.In;
        if (found.Verdict != TerminationVerdict.Correct)
        {
            state = State.Out;
            because.Insert(
                0,
                found.LoadOhms is { } ohms
                    ? new("coax.termination." + Codes.Of(found.Verdict), Message.Number(ohms, 0))
                    : new("coax.termination." + Codes.Of(found.Verdict), "–")
            );
        }
        if (line.Of("burst")?.Number is > 0 and var burst)
        {
            // Both suffer from a wrong termination alike: what is left between them is the cable's.
            var extra = Composite.LevelsOf(system, null, sync, burst).HighFrequencyLossDb!.Value - (quick.LossDb - slow.LossDb);
            if (extra > -20 * Math.Log10(1 - tolerance / 100))
            {
                state = State.Out;
                because.Add(new("coax.burst-low", Message.Number(extra, 1)));
            }
        }
        else
        {
            if (state == State.In)
                state = State.NotJudged;
            because.Add(new("form.not-said", FormJudges.Name(c, "burst")));
        }
        if (state == State.In && Math.Abs(found.Factor - 1) * 100 > tolerance)
            state = State.TooClose;
        return new(state, null, null, because.ToImmutable());
    }

    /// <summary>Level at the camera's own test output against what arrived: says which of the two is at fault.</summary>
    internal static Judged Ends(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt)
    {
        var line = ((FormValue)value).Lines[0];
        if (line.Of("sync")?.Number is not { } sync)
            return GeneralJudges.NotJudged(new Message("form.not-said", FormJudges.Name(c, "sync")));
        var system = SystemOf(line);
        if (
            IsNothing(sync, system)
            || !Composite.LevelsOf(system, null, sync, null, c.Catalogue.Figure("coax.level-percent")).Findings.IsEmpty
        )
            return new(
                State.Out,
                null,
                null,
                [new("coax.camera-at-fault", Message.Number(100 * sync / Composite.SyncMillivolts(system), 0))]
            );
        var far = c.Counting.Value(Level, Place(c)) is FormValue { Lines: [var there, ..] } ? there.Of("sync")?.Number : null;
        if (far is not > 0 || CableOn(c) is not { } cable)
            return new(State.In, null, null, [new("coax.camera-sound")]);
        var expected = sync * CoaxCable.LossOf(cable.Kind, c.Catalogue.Figure("coax.sync-mhz"), cable.Metres).LevelFraction;
        return new(
            State.In,
            null,
            null,
            [
                Math.Abs(far.Value / expected - 1) * 100 > c.Catalogue.Figure("coax.level-percent")
                    ? new("coax.cable-at-fault", Message.Number(100 * far.Value / expected, 0))
                    : new("coax.both-sound"),
            ]
        );
    }

    /// <summary>Volts between both grounds and the hum that they make on this run: the share of the shield is told apart.</summary>
    internal static Judged Hum(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt)
    {
        if (CableOn(c) is not { } cable)
            return GeneralJudges.NotJudged(new Message("because.first", "@check.coax.cable"));
        var hum = Composite.HumOf(
            Math.Abs(((NumberValue)value).Value),
            cable.Metres,
            cable.Kind,
            c.Catalogue.Figure("coax.ground-path-ohm"),
            c.Catalogue.Figure("coax.hum-ire")
        );
        return new(
            hum.IsVisible ? State.Out : State.In,
            null,
            null,
            [
                new(
                    hum.IsVisible ? "coax.hum-visible" : "coax.hum-unseen",
                    Message.Number(hum.MillivoltsPeakToPeak, 0),
                    Message.Number(hum.Ire, 1),
                    Message.Number(hum.ShieldAmperes * 1000, 0)
                ),
            ]
        );
    }
}
