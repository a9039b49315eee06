using Walkdown.Core.Cabling;
using Walkdown.Core.Measures;
using Walkdown.Core.Power;

namespace Walkdown.Core.Acceptance;

/// <summary>Core's closed registry of expectations: what a row should read, computed from the design and from what was measured already.</summary>
internal static class Expectations
{
    public static readonly IReadOnlyDictionary<string, Func<RowContext, Expectation>> All = new Dictionary<
        string,
        Func<RowContext, Expectation>
    >
    {
        ["yes"] = _ => new Expectation(null, null, "yes", "expect.yes", []),
        ["straight-map"] = c =>
            c.Run is { Shared: true }
                ? new Expectation(null, null, "two-pairs", "expect.two-pairs", [])
                : new Expectation(null, null, "straight", "expect.straight-map", []),
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
        ["link-connected"] = _ => new Expectation(null, null, "@light.connected", "expect.light", []),
    };

    /// <summary>Figures of the limit set that these functions need.</summary>
    public static readonly ImmutableArray<string> Figures =
    [
        "expect.planned-length-percent",
        "expect.measured-length-percent",
        "expect.assumed-temperature-kelvin",
        "expect.source-volts",
        "expect.draw-percent",
    ];

    /// <summary>Length used for arithmetic: as measured, else as planned. Total path with cords.</summary>
    internal static Sourced<double> Length(RowContext c) =>
        c.MeasuredLengthMetres is { } metres ? new(metres, Origin.Measured) : new(c.Run!.TotalPlannedMetres, c.Run.LengthMetres.Origin);

    private static Expectation PlannedLength(RowContext c)
    {
        if (c.Run is not { } run)
            return None("expect.planned-length", "expect.none.no-run");
        if (run.LengthMetres.Origin == Origin.Assumed)
            return None("expect.planned-length", "expect.none.no-length");
        var total = run.TotalPlannedMetres;
        ImmutableArray<Term> from = [new("term.cable", Message.Number(run.LengthMetres.Value) + " m", run.LengthMetres.Origin)];
        if (run.CordsMetres > 0)
            from = from.Add(new("term.cords", Message.Number(run.CordsMetres) + " m", Origin.Planned));
        return new(
            new(total, Unit.Metre),
            total * c.Catalogue.Figure("expect.planned-length-percent") / 100,
            null,
            "expect.planned-length",
            from
        );
    }

    /// <summary>Loop of one pair: fixed cable and cords by gauge, material, length and temperature.</summary>
    internal static Expectation LoopOfCable(RowContext c)
    {
        if (c.Run is not { } run)
            return None("expect.loop-of-cable", "expect.none.no-run");
        return c.Memo.Loops.TryGetValue(run.Id, out var known) ? known : c.Memo.Loops[run.Id] = LoopOfCable(c, run);
    }

    private static Expectation LoopOfCable(RowContext c, RunFacts run)
    {
        var length = Length(c);
        if (length.Origin == Origin.Assumed)
            return None("expect.loop-of-cable", "expect.none.no-length");
        double temperature = run.TemperatureC.Value;
        var ohms = run.Path.WithTotalMetres(length.Value).PairLoopOhms(temperature);
        var percent =
            c.Catalogue.Figure(length.Origin == Origin.Measured ? "expect.measured-length-percent" : "expect.planned-length-percent")
            + (run.TemperatureC.Origin == Origin.Assumed ? 0.393 * c.Catalogue.Figure("expect.assumed-temperature-kelvin") : 0);
        ImmutableArray<Term> from =
        [
            new("term.length", Message.Number(length.Value) + " m", length.Origin),
            new("term.gauge", Message.Number(run.GaugeAwg.Value) + " AWG", run.GaugeAwg.Origin),
            new("term.material", "@material." + Codes.Of(run.Material.Value), run.Material.Origin),
            new("term.temperature", Message.Number(temperature) + " \u00b0C", run.TemperatureC.Origin),
        ];
        if (run.Pieces.Any(x => x.ContactOhms > 0))
            from = from.Add(new("term.contacts", Message.Number(run.Pieces.Sum(x => x.ContactOhms)) + " ohm", Origin.AsBuilt));
        if (run.CordsMetres > 0)
            from = from.Add(
                new("term.cords", $"{Message.Number(run.CordsMetres)} m, {Message.Number(run.CordGaugeAwg)} AWG", Origin.Planned)
            );
        return new(new(ohms, Unit.Ohm), ohms * percent / 100, null, "expect.loop-of-cable", from);
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
        if (Draw(c) is not { } watts)
            return None("expect.poe-volts", "expect.none.no-watts");
        var pairs = PoeClass.Of(number).Pairs;
        if (PairLoop(c) is not { } loop)
            return None("expect.poe-volts", "expect.none.no-length");
        var powerLoop = DeviceVoltage.PowerLoopOhms(loop.Value, pairs);
        ImmutableArray<Term> from =
        [
            new("term.source-volts", Message.Number(port.SourceVolts.Value) + " V", port.SourceVolts.Origin),
            new("term.draw", Message.Number(watts.Value) + " W", watts.Origin),
            new("term.class", number.ToString(CultureInfo.InvariantCulture), Origin.Planned),
            new("term.loop", Message.Number(loop.Value) + " ohm", loop.Origin),
        ];
        if (DeviceVoltage.Solve(port.SourceVolts.Value, watts.Value, powerLoop) is not { } volts)
            return new(null, null, null, "expect.poe-volts", from, new Message("expect.none.cannot-carry", Message.Number(watts.Value)));
        double sourceBand = c.Catalogue.Figure("expect.source-volts"),
            drawBand = c.Catalogue.Figure("expect.draw-percent") / 100;
        var low =
            DeviceVoltage.Solve(port.SourceVolts.Value - sourceBand, watts.Value * (1 + drawBand), powerLoop * (1 + drawBand)) ?? volts;
        var high =
            DeviceVoltage.Solve(port.SourceVolts.Value + sourceBand, watts.Value * (1 - drawBand), powerLoop * (1 - drawBand)) ?? volts;
        return new(new(volts, Unit.Volt), (high - low) / 2, null, "expect.poe-volts", from);
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
        if (Draw(c) is not { } watts)
            return None("expect.watts-at-port", "expect.none.no-watts");
        if (c.Run?.Port is not { } port)
            return None("expect.watts-at-port", "expect.none.no-port");
        if (PowerLoop(c) is not { } loop)
            return None("expect.watts-at-port", "expect.none.no-length");
        if (DeviceVoltage.Solve(port.SourceVolts.Value, watts.Value, loop.Value) is not { } volts)
            return None("expect.watts-at-port", "expect.none.no-watts");
        var amperes = watts.Value / volts;
        var lost = amperes * amperes * loop.Value;
        return new(
            new(watts.Value + lost, Unit.Watt),
            (watts.Value + lost) * c.Catalogue.Figure("expect.draw-percent") / 100,
            null,
            "expect.watts-at-port",
            [new("term.draw", Message.Number(watts.Value) + " W", watts.Origin), new("term.lost", Message.Number(lost) + " W", loop.Origin)]
        );
    }

    /// <summary>Volts at a low-voltage device: every device on the supply's run draws what its state asks for.</summary>
    private static Expectation SupplyVolts(RowContext c)
    {
        if (c.Facts.Supply is not { } supply)
            return None("expect.supply-volts", "expect.none.no-supply");
        var mine = supply.Taps.ToList().FindIndex(tap => tap.DeviceId == c.Facts.Place.Id);
        if (mine < 0)
            return None("expect.supply-volts", "expect.none.no-supply");
        var run = SupplyRun.Of(supply, c.Catalogue, c.Key.Under.HasFlag(Condition.InfraredOn));
        if (run.Watts.Any(w => w is null))
            return None("expect.supply-volts", "expect.none.no-watts");
        ImmutableArray<Term> from =
        [
            new("term.source-volts", Message.Number(supply.Volts.Value) + " V", supply.Volts.Origin),
            new("term.length", Message.Number(supply.Taps[mine].Metres) + " m", Origin.Planned),
            new("term.devices", supply.Taps.Length.ToString(CultureInfo.InvariantCulture), Origin.Planned),
            new("term.draw", Message.Number(run.Watts.Sum() ?? 0) + " W", Origin.Planned),
        ];
        return run.Solved
            ? new(new(run.Volts[mine], Unit.Volt), supply.Volts.Value * 0.02, null, "expect.supply-volts", from)
            : new(
                null,
                null,
                null,
                "expect.supply-volts",
                from,
                new Message("expect.none.cannot-carry", Message.Number(run.Watts.Sum() ?? 0))
            );
    }

    private static Expectation Delay(RowContext c)
    {
        if (c.Run is null)
            return None("expect.delay", "expect.none.no-run");
        var length = Length(c);
        if (length.Origin == Origin.Assumed)
            return None("expect.delay", "expect.none.no-length");
        var ns = length.Value / 100 * (534 + 36 / Math.Sqrt(10));
        return new(
            new(ns, Unit.Nanosecond),
            ns * 0.05,
            null,
            "expect.delay",
            [new("term.length", Message.Number(length.Value) + " m", length.Origin)]
        );
    }

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
        Draw(c) is { } watts
            ? new(
                new(watts.Value, Unit.Watt),
                watts.Value * c.Catalogue.Figure("expect.draw-percent") / 100,
                null,
                "expect.planned-watts",
                [new("term.draw", Message.Number(watts.Value) + " W", watts.Origin)]
            )
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

    private static Expectation None(string method, string why) => new(null, null, null, method, [], new Message(why));
}
