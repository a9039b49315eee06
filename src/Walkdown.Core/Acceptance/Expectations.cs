using Walkdown.Core.Cabling;
using Walkdown.Core.Measures;
using Walkdown.Core.Power;

namespace Walkdown.Core.Acceptance;

/// <summary>Core's closed registry of expectations: what a row should read, computed from the design and from what was measured
/// already.</summary>
internal static class Expectations
{
    private static readonly Expectation Yes = new(null, null, "yes", "expect.yes", []),
        TwoPairs = new(null, null, "two-pairs", "expect.two-pairs", []),
        Straight = new(null, null, "straight", "expect.straight-map", []),
        Connected = new(null, null, "@light.connected", "expect.light", []);

    public static readonly IReadOnlyDictionary<string, Func<RowContext, Expectation>> All = new Dictionary<
        string,
        Func<RowContext, Expectation>
    >
    {
        ["yes"] = _ => Yes,
        ["straight-map"] = c => c.Run is { Shared: true } ? TwoPairs : Straight,
        ["planned-length"] = PlannedLength,
        ["loop-of-cable"] = LoopOfCable,
        ["poe-volts"] = PoeVolts,
        ["planned-speed"] = PlannedSpeed,
        ["planned-watts"] = PlannedWatts,
        ["watts-at-port"] = WattsAtPort,
        ["supply-volts"] = SupplyVolts,
        ["delay-of-length"] = Delay,
        ["planned-feed"] = Feed,
        ["planned-class"] = GrantedClass,
        ["firmware-baseline"] = Firmware,
        ["planned-height"] = PlannedHeight,
        ["mode-of-source"] = ModeSwitch,
        ["link-connected"] = _ => Connected,
    };

    /// <summary>Unit of those that are numbers.</summary>
    public static readonly IReadOnlyDictionary<string, Unit> Units = new Dictionary<string, Unit>
    {
        ["planned-length"] = Unit.Metre,
        ["loop-of-cable"] = Unit.Ohm,
        ["poe-volts"] = Unit.Volt,
        ["planned-speed"] = Unit.MegabitPerSecond,
        ["planned-watts"] = Unit.Watt,
        ["watts-at-port"] = Unit.Watt,
        ["supply-volts"] = Unit.Volt,
        ["delay-of-length"] = Unit.Nanosecond,
        ["planned-height"] = Unit.Metre,
    };

    /// <summary>Figures of the limit set that these functions need.</summary>
    public static readonly ImmutableArray<string> Figures =
    [
        "expect.measured-length-percent",
        "expect.as-built-percent",
        "expect.as-built-metres",
        "expect.assumed-temperature-kelvin",
        "expect.measured-temperature-kelvin",
        "expect.source-volts",
        "expect.draw-percent",
        "expect.velocity-percent",
    ];

    private const double MostLoopOhms = 200,
        MostMetres = 500;

    /// <summary>Length used for arithmetic: as measured, else as planned. Total path with cords.</summary>
    internal static Sourced<double> Length(RowContext c) =>
        c.MeasuredLengthMetres is { } metres ? new(metres, Origin.Measured) : new(c.Run!.TotalPlannedMetres, c.Run.LengthMetres.Origin);

    private static Expectation PlannedLength(RowContext c)
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

    private static Expectation LoopOfCable(RowContext c, RunFacts run)
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

    private static RunPath PathOf(RowContext c, RunFacts run) =>
        c.Memo.Paths.TryGetValue(run.Id, out var path) ? path : c.Memo.Paths[run.Id] = run.Path;

    private static IEnumerable<Term> CableTerms(RunFacts run)
    {
        yield return new("term.gauge", Message.Number(run.GaugeAwg.Value) + " AWG", run.GaugeAwg.Origin);
        yield return new("term.material", "@material." + Codes.Of(run.Material.Value), run.Material.Origin);
        if (run.CordsMetres > 0)
            yield return new("term.cords", $"{Message.Number(run.CordsMetres)} m, {Message.Number(run.CordGaugeAwg)} AWG", Origin.Planned);
    }

    /// <summary>Length, temperature and contacts of a run, as <see cref="PairLoopOhms"/> takes them.</summary>
    private static ImmutableArray<EstimateInput> LoopInputs(RowContext c, RunFacts run)
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

    private static EstimateInput PlannedLengthInput(RowContext c, RunFacts run)
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

    private static double? PairLoopOhms(RunPath path, ReadOnlySpan<double> x)
    {
        if (x[0] is not (>= 0 and <= 100_000) || x[1] is not (>= -60 and <= 120))
            return null;
        var ohms = path.PairLoopOhms(x[0], x[1]);
        return x.Length > 2 ? ohms + 2 * (x[2] - path.ContactOhms) : ohms;
    }

    private static readonly Message Meter = new("half.meter"),
        Contacts = new("half.contacts");

    /// <summary>Half width of a reading that counts: its meter's accuracy in force; where none is known, a share of it.</summary>
    private static double MeasuredHalf(RowContext c, CheckId check, string part, double value, double percentIfUnknown, out Message from)
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

    /// <summary>Volts at the device: constant power over the loop (docs/calculations.md, C).</summary>
    private static Expectation PoeVolts(RowContext c)
    {
        if (c.Run is not { } run)
            return None("expect.poe-volts", "expect.none.no-run");
        if (run.Port is not { } port)
            return None("expect.poe-volts", "expect.none.no-port");
        if (c.PowerClass is not { } number)
            return None("expect.poe-volts", "expect.none.no-class");
        if (DrawInput(c) is not { } watts)
            return None("expect.poe-volts", "expect.none.no-watts");
        if (LoopOf(c, run) is not { } loop)
            return None("expect.poe-volts", "expect.none.no-length");
        var table = PoeClass.Of(number);
        var estimate = new Estimate(
            [SourceInput(c, port), watts, .. loop.Inputs],
            x => loop.Ohms(x[2..]) is { } ohms ? DeviceVoltage.Solve(x[0], x[1], DeviceVoltage.PowerLoopOhms(ohms, table.Pairs)) : null
        );
        if (estimate.Middle is null)
            return None("expect.poe-volts", new Message("expect.none.cannot-carry", Message.Number(watts.Middle))) with
            {
                From = TermsOf(estimate),
            };
        var isMeasured = loop.Measured || Length(c).Origin == Origin.Measured;
        return Of(
            "expect.poe-volts",
            estimate,
            Unit.Volt,
            (e, read) =>
            {
                var middle = DeviceVoltage.PowerLoopOhms(loop.Middle, table.Pairs);
                var half = DeviceVoltage.PowerLoopOhms(loop.HalfWidth, table.Pairs);
                // The loop that alone would: constant power over it drops what is missing.
                var asked = (port.SourceVolts.Value - read) * read / watts.Middle;
                return
                [
                    loop.Measured
                        ? read < e.Middle
                            ? (0, new Message("unexpected.behind-test-point"))
                            : null
                        : asked is >= 0 and <= MostLoopOhms
                            ? (
                                half > 0 ? Math.Abs(asked - middle) / half : double.PositiveInfinity,
                                new Message("unexpected.loop", Message.Number(asked, 1), Message.Number(middle, 1))
                            )
                            : null,
                    Says("watts", e.Explain(1, read, 0, table.DeviceWatts), "W"),
                    Says("source", e.Explain(0, read, table.SourceMinVolts, PoeClass.MaxVolts), "V"),
                    isMeasured ? null : Says("length", e.Explain(2, read, 0, MostMetres), "m"),
                ];
            }
        );
    }

    /// <summary>The loop of one pair as the power meets it: as measured on all four, else as the path computes it.</summary>
    private sealed record LoopEstimate(
        ImmutableArray<EstimateInput> Inputs,
        Estimate.Formula Ohms,
        double Middle,
        double HalfWidth,
        bool Measured
    );

    private static LoopEstimate? LoopOf(RowContext c, RunFacts run)
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

    private static EstimateInput SourceInput(RowContext c, PortFacts port)
    {
        var half = c.Catalogue.Figure("expect.source-volts");
        return EstimateInput.Around(
            "term.source-volts",
            port.SourceVolts.Value,
            half,
            Unit.Volt,
            port.SourceVolts.Origin,
            c.Catalogue.Said("half.source", "expect.source-volts")
        );
    }

    /// <summary>Watts that the device draws; never over what its class gives.</summary>
    private static EstimateInput? DrawInput(RowContext c)
    {
        if (Draw(c) is not { } watts)
            return null;
        var percent = c.Catalogue.Figure("expect.draw-percent");
        var input = EstimateInput.Around(
            "term.draw",
            watts.Value,
            watts.Value * percent / 100,
            Unit.Watt,
            watts.Origin,
            c.Catalogue.Said("half.draw", "expect.draw-percent")
        );
        return c.PowerClass is { } number && c.Facts.Supply is null && PoeClass.Of(number).DeviceWatts is var most && most >= watts.Value
            ? input with
            {
                High = Math.Min(input.High, most),
            }
            : input;
    }

    /// <summary>Loop of one pair, ohm: as measured on all four, else as the path computes.</summary>
    internal static Sourced<double>? PairLoop(RowContext c)
    {
        var measured = PinPair.All.Select(c.MeasuredLoopOhms).OfType<double>().ToList();
        return measured.Count == 4 ? new(measured.Average(), Origin.Measured)
            : LoopOfCable(c).Value is { } computed ? new(computed.Value, Length(c).Origin)
            : null;
    }

    /// <summary>Loop as the power sees it, ohm.</summary>
    internal static Sourced<double>? PowerLoop(RowContext c) =>
        PairLoop(c) is { } loop && c.PowerClass is { } number
            ? new(DeviceVoltage.PowerLoopOhms(loop.Value, PoeClass.Of(number).Pairs), loop.Origin)
            : null;

    /// <summary>Watts that the port gives: the draw and what the run loses.</summary>
    private static Expectation WattsAtPort(RowContext c)
    {
        if (DrawInput(c) is not { } watts)
            return None("expect.watts-at-port", "expect.none.no-watts");
        if (c.Run is not { Port: { } port } run)
            return None("expect.watts-at-port", "expect.none.no-port");
        if (c.PowerClass is not { } number || LoopOf(c, run) is not { } loop)
            return None("expect.watts-at-port", "expect.none.no-length");
        var pairs = PoeClass.Of(number).Pairs;
        var estimate = new Estimate(
            [SourceInput(c, port), watts, .. loop.Inputs],
            x =>
                loop.Ohms(x[2..]) is { } ohms
                && DeviceVoltage.PowerLoopOhms(ohms, pairs) is var power
                && DeviceVoltage.Solve(x[0], x[1], power) is > 0 and var volts
                    ? x[1] + x[1] / volts * (x[1] / volts) * power
                    : null
        );
        if (estimate.Middle is not { } given)
            return None("expect.watts-at-port", "expect.none.no-watts");
        var lengthFrom = loop.Measured ? Origin.Measured : Length(c).Origin;
        return Of(
            "expect.watts-at-port",
            estimate,
            Unit.Watt,
            (e, read) => [Says("watts", e.Explain(1, read, 0, PoeClass.Of(number).DeviceWatts), "W")],
            () => [new("term.lost", Message.Number(given - watts.Middle) + " W", lengthFrom)]
        );
    }

    /// <summary>Volts at a low-voltage device: every device on the supply's run draws what its state asks for.</summary>
    private static Expectation SupplyVolts(RowContext c)
    {
        if (c.Facts.Supply is not { } supply)
            return None("expect.supply-volts", "expect.none.no-supply");
        if (supply.Volts is not { } source)
            return None("expect.supply-volts", "expect.none.no-supply-volts");
        var mine = supply.Taps.ToList().FindIndex(tap => tap.DeviceId == c.Facts.Place.Id);
        if (mine < 0)
            return None("expect.supply-volts", "expect.none.no-supply");
        var infrared = c.Key.Under.HasFlag(Condition.InfraredOn);
        var run = SupplyRun.Of(supply, c.Catalogue, infrared);
        if (run.Watts.Any(w => w is null))
            return None("expect.supply-volts", "expect.none.no-watts");
        double metres = supply.Taps[mine].Metres,
            watts = run.Watts.Sum() ?? 0;
        double volts = c.Catalogue.Figure("expect.source-volts"),
            share = c.Catalogue.Figure("agree.length-percent"),
            kelvin = c.Catalogue.Figure("expect.assumed-temperature-kelvin"),
            percent = c.Catalogue.Figure("expect.draw-percent");
        var estimate = new Estimate(
            [
                EstimateInput.Around(
                    "term.source-volts",
                    source.Value,
                    volts,
                    Unit.Volt,
                    source.Origin,
                    new("half.source", Message.Number(volts))
                ),
                EstimateInput.Around(
                    "term.length",
                    metres,
                    metres * share / 100,
                    Unit.Metre,
                    Origin.Planned,
                    new("half.planned", Message.Number(share))
                ),
                EstimateInput.Around(
                    "term.temperature",
                    supply.TemperatureC,
                    kelvin,
                    Unit.DegreeCelsius,
                    Origin.Assumed,
                    new("half.temperature-assumed", Message.Number(kelvin))
                ),
                EstimateInput.Around(
                    "term.draw",
                    watts,
                    watts * percent / 100,
                    Unit.Watt,
                    Origin.Planned,
                    new("half.draw", Message.Number(percent))
                ),
            ],
            x =>
            {
                if (x[0] <= 0 || x[2] is not (>= -60 and <= 120))
                    return null;
                var length = x[1];
                var changed = supply with
                {
                    Volts = new(x[0], source.Origin),
                    TemperatureC = x[2],
                    Taps = metres > 0 ? [.. supply.Taps.Select(t => t with { Metres = t.Metres * length / metres })] : supply.Taps,
                };
                var solved = SupplyRun.Of(changed, c.Catalogue, infrared, watts > 0 ? x[3] / watts : 1);
                return solved.Solved ? solved.Volts[mine] : null;
            }
        );
        if (estimate.Middle is null)
            return None("expect.supply-volts", new Message("expect.none.cannot-carry", Message.Number(watts))) with
            {
                From = TermsOf(estimate),
            };
        var range = LimitFunctions.SupplyOf(c.Catalogue, supply.Range);
        return Of(
            "expect.supply-volts",
            estimate,
            Unit.Volt,
            (e, read) =>
                [
                    Says("length", e.Explain(1, read, 0, MostMetres), "m"),
                    Says("watts", e.Explain(3, read, 0, 200), "W"),
                    Says("source", e.Explain(0, read, range?.Min ?? 1, range?.Max ?? 60), "V"),
                ],
            () => [new("term.devices", supply.Taps.Length.ToString(CultureInfo.InvariantCulture), Origin.Planned)]
        );
    }

    /// <summary>Nanoseconds that a signal takes: the slowest pair of the standard at its highest frequency, over the length.</summary>
    private static Expectation Delay(RowContext c)
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
    private static readonly double NanosecondsPer100Metres = 534 + 36 / Math.Sqrt(10);

    /// <summary>Share of light's velocity that this is, in percent.</summary>
    private static readonly double StandardVelocityPercent = CableLength
        .VelocityFromKnownLength(100, NanosecondsPer100Metres, roundTrip: false)
        .Percent;

    /// <summary>The length that a delay would be the right one for; null where no run is so long.</summary>
    private static Explanation? LengthBy(double delayNs, EstimateInput length) =>
        delayNs >= 0 && CableLength.FromDelayMetres(StandardVelocityPercent, delayNs, roundTrip: false) is <= MostMetres and var metres
            ? new Explanation(
                length.Name,
                metres,
                length.Middle,
                length.HalfWidth > 0 ? Math.Abs(metres - length.Middle) / length.HalfWidth : double.PositiveInfinity
            )
            : null;

    /// <summary>An estimate as a row's expectation: its middle, its interval, and every input with where its half width comes
    /// from.</summary>
    /// <param name="explain">What would bring it to a reading, each with how far that is in half widths; null where nothing could.</param>
    /// <param name="more">Terms beside its inputs.</param>
    private static Expectation Of(
        string method,
        Estimate estimate,
        Unit unit,
        Func<Estimate, double, ImmutableArray<(double HalfWidths, Message What)?>>? explain = null,
        Func<IEnumerable<Term>>? more = null
    )
    {
        if (estimate.Middle is not { } middle || estimate.Ends() is not { } ends)
            return None(method, "expect.none.no-number");
        return new(new(middle, unit), (ends.High - ends.Low) / 2, null, method, default)
        {
            Between = ends,
            InWords = more is null ? () => TermsOf(estimate) : () => [.. TermsOf(estimate), .. more()],
            Explain = explain is null
                ? null
                : read =>
                    explain(estimate, read)
                        .OfType<(double HalfWidths, Message What)>()
                        .OrderBy(e => e.HalfWidths)
                        .Select(e => e.What)
                        .ToImmutableArray()
                        is { IsEmpty: false } some
                        ? some
                        : [new Message("unexpected.nothing-alone")],
        };
    }

    private static ImmutableArray<Term> TermsOf(Estimate estimate) =>
        [
            .. estimate.Inputs.Select(i => new Term(
                i.Name,
                $"{Message.Number(i.Middle)} {SignOf(i.Unit)}",
                i.Origin,
                $"{Message.Number(i.HalfWidth)} {(i.Unit == Unit.DegreeCelsius ? "K" : SignOf(i.Unit))}",
                i.From
            )),
        ];

    private static string SignOf(Unit unit) =>
        unit switch
        {
            Unit.Metre => "m",
            Unit.Ohm => "ohm",
            Unit.Volt => "V",
            Unit.Watt => "W",
            Unit.DegreeCelsius => "\u00b0C",
            Unit.Nanosecond => "ns",
            _ => "",
        };

    private static (double, Message)? Says(string what, Explanation? by, string sign) =>
        by is null
            ? null
            : (
                by.HalfWidths,
                new Message("unexpected." + what, Message.Number(by.Value, 1) + " " + sign, Message.Number(by.Middle, 1) + " " + sign)
            );

    private static Expectation Feed(RowContext c) =>
        c.PlannedFeed is { } feed ? new(null, null, "@choice." + feed, "expect.feed", []) : None("expect.feed", "expect.none.no-port");

    private static Expectation GrantedClass(RowContext c) =>
        c.PowerClass is { } number
            ? new(
                null,
                null,
                number.ToString(CultureInfo.InvariantCulture),
                "expect.class",
                [new("term.class", number.ToString(CultureInfo.InvariantCulture), Origin.Planned)]
            )
            : None("expect.class", "expect.none.no-class");

    private static Expectation Firmware(RowContext c) =>
        c.Model?.Firmware is { } baseline
            ? new(null, null, baseline, "expect.firmware", [])
            : None("expect.firmware", "expect.none.no-baseline");

    private static Expectation PlannedHeight(RowContext c) =>
        c.Facts.Place.HeightMetres is { } height
            ? new(new(height, Unit.Metre), null, null, "expect.height", [new("term.height", Message.Number(height) + " m", Origin.Planned)])
            : None("expect.height", "expect.none.no-height");

    private static Expectation ModeSwitch(RowContext c) =>
        new(null, null, c.Has("legacy-source") ? "@choice.legacy" : "@choice.standard", "expect.mode-switch", []);

    private static Expectation PlannedWatts(RowContext c) =>
        DrawInput(c) is { } watts
            ? Of("expect.planned-watts", new Estimate([watts], x => x[0]), Unit.Watt)
            : None("expect.planned-watts", "expect.none.no-watts");

    private static Expectation PlannedSpeed(RowContext c) =>
        c.SpeedMbps is { } speed
            ? new(
                new(speed, Unit.MegabitPerSecond),
                null,
                speed.ToString(CultureInfo.InvariantCulture),
                "expect.planned-speed",
                [new("term.speed", speed + " Mb/s", Origin.Planned)]
            )
            : None("expect.planned-speed", "expect.none.no-speed");

    private static Sourced<double>? Draw(RowContext c)
    {
        var on = c.Key.Under.HasFlag(Condition.InfraredOn);
        if ((on ? c.Facts.Place.WattsInfraredOn : c.Facts.Place.WattsInfraredOff) is { } planned)
            return new(planned, Origin.Planned);
        if (c.Model is { } model && (on ? model.WattsInfraredOn : model.WattsInfraredOff) is { } stated)
            return new(stated, Origin.Planned);
        return (on ? c.Kind?.WattsInfraredOn : c.Kind?.WattsInfraredOff) is { } assumed ? new(assumed, Origin.Assumed) : null;
    }

    private static Expectation None(string method, string why) => None(method, new Message(why));

    private static Expectation None(string method, Message why) => new(null, null, null, method, [], why);
}
