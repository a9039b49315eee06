using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;
using static Walkdown.Core.Acceptance.Expecting;

namespace Walkdown.Core.Cabling;

/// <summary>What a run should read, computed from the design and from what was measured already.</summary>
internal static class CableExpectations
{
    internal static readonly Expectation TwoPairs = new(null, null, "two-pairs", "expect.two-pairs", []),
        Straight = new(null, null, "straight", "expect.straight-map", []);

    /// <summary>Near to far pin by pin, or two pairs where two devices share the run.</summary>
    internal static Expectation StraightMap(RowContext c) => c.Run is { Shared: true } ? TwoPairs : Straight;

    internal const double MostLoopOhms = 200,
        MostMetres = 500;

    /// <summary>Length used for arithmetic: as measured, else as planned. Total path with cords.</summary>
    internal static Sourced<double> Length(RowContext c) =>
        c.MeasuredLengthMetres is { } metres ? new(metres, Origin.Measured) : new(c.Run!.TotalPlannedMetres, c.Run.LengthMetres.Origin);

    internal static Expectation PlannedLength(RowContext c)
    {
        if (c.Run is not { } run)
            return None("expect.planned-length", "expect.none.no-run");
        if (run.LengthMetres.Origin == Origin.Assumed)
            return None("expect.planned-length", "expect.none.no-length");
        return Of(
            "expect.planned-length",
            new Estimate([PlannedLengthInput(c, run)], static x => x[0]),
            Unit.Metre,
            more: run.CordsMetres > 0 ? () => [new("term.cords", Message.Number(run.CordsMetres) + " m", Origin.Planned)] : null
        );
    }

    /// <summary>Loop of one pair: fixed cable and cords by gauge, material, length and temperature, and its contacts.</summary>
    internal static Expectation LoopOfCable(RowContext c)
    {
        if (c.Run is not { } run)
            return None("expect.loop-of-cable", "expect.none.no-run");
        return c.Memo.Loops.TryGetValue(run.Id, out var known) ? known : c.Memo.Loops[run.Id] = LoopOfCable(c, run);
    }

    internal static Expectation LoopOfCable(RowContext c, RunFacts run)
    {
        if (Length(c).Origin == Origin.Assumed)
            return None("expect.loop-of-cable", "expect.none.no-length");
        var path = PathOf(c, run);
        return Of(
            "expect.loop-of-cable",
            new Estimate(LoopInputs(c, run), x => PairLoopOhms(path, x)),
            Unit.Ohm,
            static (estimate, read) => [Says("length", estimate.Explain(0, read, 0, MostMetres), "m")],
            () => CableTerms(run)
        );
    }

    internal static RunPath PathOf(RowContext c, RunFacts run) =>
        c.Memo.Paths.TryGetValue(run.Id, out var path) ? path : c.Memo.Paths[run.Id] = run.Path;

    internal static IEnumerable<Term> CableTerms(RunFacts run)
    {
        yield return new("term.gauge", Message.Number(run.GaugeAwg.Value) + " AWG", run.GaugeAwg.Origin);
        yield return new("term.material", "@material." + Codes.Of(run.Material.Value), run.Material.Origin);
        if (run.CordsMetres > 0)
            yield return new("term.cords", $"{Message.Number(run.CordsMetres)} m, {Message.Number(run.CordGaugeAwg)} AWG", Origin.Planned);
    }

    /// <summary>Length, temperature and contacts of a run, as <see cref="PairLoopOhms"/> takes them.</summary>
    internal static ImmutableArray<EstimateInput> LoopInputs(RowContext c, RunFacts run)
    {
        var contacts = PathOf(c, run).ContactOhms;
        var length = c.MeasuredLengthMetres is { } metres
            ? EstimateInput.Around(
                "term.length",
                metres,
                MeasuredHalf(c, KnownChecks.Length, "", metres, c.Catalogue.Figure("expect.measured-length-percent"), out var from)
                    + metres * c.Catalogue.Figure("expect.velocity-percent") / 100,
                Unit.Metre,
                Origin.Measured,
                from
            )
            : PlannedLengthInput(c, run);
        var known = run.TemperatureC.Origin is Origin.Measured or Origin.AsBuilt;
        var kelvin = c.Catalogue.Figure(known ? "expect.measured-temperature-kelvin" : "expect.assumed-temperature-kelvin");
        var temperature = EstimateInput.Around(
            "term.temperature",
            run.TemperatureC.Value,
            kelvin,
            Unit.DegreeCelsius,
            run.TemperatureC.Origin,
            known
                ? c.Catalogue.Said("half.temperature-measured", "expect.measured-temperature-kelvin")
                : c.Catalogue.Said("half.temperature-assumed", "expect.assumed-temperature-kelvin")
        );
        return contacts > 0
            ? [length, temperature, new EstimateInput("term.contacts", contacts, 0, 2 * contacts, Unit.Ohm, Origin.AsBuilt, Contacts)]
            : [length, temperature];
    }

    internal static EstimateInput PlannedLengthInput(RowContext c, RunFacts run)
    {
        var total = run.TotalPlannedMetres;
        if (run.LengthMetres.Origin == Origin.AsBuilt)
        {
            double percent = c.Catalogue.Figure("expect.as-built-percent"),
                least = c.Catalogue.Figure("expect.as-built-metres");
            return EstimateInput.Around(
                "term.length",
                total,
                Math.Max(least, total * percent / 100),
                Unit.Metre,
                Origin.AsBuilt,
                c.Catalogue.Said("half.as-built", "expect.as-built-percent", "expect.as-built-metres")
            );
        }
        var share = c.Catalogue.Figure("agree.length-percent");
        return EstimateInput.Around(
            "term.length",
            total,
            total * share / 100,
            Unit.Metre,
            run.LengthMetres.Origin,
            c.Catalogue.Said("half.planned", "agree.length-percent")
        );
    }

    internal static double? PairLoopOhms(RunPath path, ReadOnlySpan<double> x)
    {
        if (x[0] is not (>= 0 and <= 100_000) || x[1] is not (>= -60 and <= 120))
            return null;
        var ohms = path.PairLoopOhms(x[0], x[1]);
        return x.Length > 2 ? ohms + 2 * (x[2] - path.ContactOhms) : ohms;
    }

    internal static readonly Message Meter = new("half.meter"),
        Contacts = new("half.contacts");

    /// <summary>Half width of a reading that counts: its meter's accuracy in force; where none is known, a share of it.</summary>
    internal static double MeasuredHalf(RowContext c, CheckId check, string part, double value, double percentIfUnknown, out Message from)
    {
        var reading = c.Counting.Counts(new CheckKey(check, new Subject(SubjectKind.Run, c.Run!.Id, part), Condition.Any));
        if (
            reading is not null
            && c.Counting.InstrumentOf(reading)?.AccuracyAt(c.Catalogue.CheckById[check].Unit, value) is { IsSound: true } accuracy
        )
        {
            from = Meter;
            return accuracy.HalfWidthAt(value);
        }
        from = new("half.no-accuracy", Message.Number(percentIfUnknown));
        return value * percentIfUnknown / 100;
    }

    /// <summary>The loop of one pair as the power meets it: as measured on all four, else as the path computes it.</summary>
    internal sealed record LoopEstimate(
        ImmutableArray<EstimateInput> Inputs,
        Estimate.Formula Ohms,
        double Middle,
        double HalfWidth,
        bool Measured
    );

    internal static LoopEstimate? LoopOf(RowContext c, RunFacts run)
    {
        var measured = PinPair.All.Select(c.MeasuredLoopOhms).OfType<double>().ToList();
        if (measured.Count == 4)
        {
            var average = measured.Average();
            var half = MeasuredHalf(
                c,
                KnownChecks.LoopResistance,
                PinPair.All[0].ToString(),
                average,
                c.Catalogue.Figure("expect.measured-length-percent"),
                out var from
            );
            return new([EstimateInput.Around("term.loop", average, half, Unit.Ohm, Origin.Measured, from)], x => x[0], average, half, true);
        }
        if (LoopOfCable(c) is not { Value: { } computed, Between: { } between })
            return null;
        var path = PathOf(c, run);
        return new(LoopInputs(c, run), x => PairLoopOhms(path, x), computed.Value, (between.High - between.Low) / 2, false);
    }

    /// <summary>Loop of one pair, ohm: as measured on all four, else as the path computes.</summary>
    internal static Sourced<double>? PairLoop(RowContext c)
    {
        var measured = PinPair.All.Select(c.MeasuredLoopOhms).OfType<double>().ToList();
        return measured.Count == 4 ? new(measured.Average(), Origin.Measured)
            : LoopOfCable(c).Value is { } computed ? new(computed.Value, Length(c).Origin)
            : null;
    }

    /// <summary>Nanoseconds that a signal takes: the slowest pair of the standard at its highest frequency, over the length.</summary>
    internal static Expectation Delay(RowContext c)
    {
        if (c.Run is not { } run)
            return None("expect.delay", "expect.none.no-run");
        if (Length(c).Origin == Origin.Assumed)
            return None("expect.delay", "expect.none.no-length");
        var velocity = c.Catalogue.Figure("expect.measured-length-percent");
        return Of(
            "expect.delay",
            new Estimate(
                [
                    LoopInputs(c, run)[0],
                    EstimateInput.Around(
                        "term.delay-per-100m",
                        NanosecondsPer100Metres,
                        NanosecondsPer100Metres * velocity / 100,
                        Unit.Nanosecond,
                        Origin.Assumed,
                        new("half.velocity", Message.Number(velocity))
                    ),
                ],
                x => x[0] / 100 * x[1]
            ),
            Unit.Nanosecond,
            static (e, read) => [Says("length", LengthBy(read, e.Inputs[0]), "m")]
        );
    }

    /// <summary>Delay of 100 m of the slowest pair that the standard allows, at its highest frequency.</summary>
    internal static readonly double NanosecondsPer100Metres = 534 + 36 / Math.Sqrt(10);

    /// <summary>Share of light's velocity that this is, in percent.</summary>
    internal static readonly double StandardVelocityPercent = CableLength
        .VelocityFromKnownLength(100, NanosecondsPer100Metres, roundTrip: false)
        .Percent;

    /// <summary>The length that a delay would be the right one for; null where no run is so long.</summary>
    internal static Explanation? LengthBy(double delayNs, EstimateInput length) =>
        delayNs >= 0 && CableLength.FromDelayMetres(StandardVelocityPercent, delayNs, roundTrip: false) is <= MostMetres and var metres
            ? new Explanation(
                length.Name,
                metres,
                length.Middle,
                length.HalfWidth > 0 ? Math.Abs(metres - length.Middle) / length.HalfWidth : double.PositiveInfinity
            )
            : null;
}
