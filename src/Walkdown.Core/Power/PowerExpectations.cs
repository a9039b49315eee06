using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;
using static Walkdown.Core.Acceptance.Expecting;
using static Walkdown.Core.Cabling.CableExpectations;

namespace Walkdown.Core.Power;

/// <summary>What a powered device should read, computed from the design and from what was measured already.</summary>
internal static class PowerExpectations
{
    /// <summary>Volts at the device: constant power over the loop (docs/calculations.md, C).</summary>
    internal static Expectation PoeVolts(RowContext c)
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

    /// <summary>Volts at the source: what its switch or injector is said to stand at.</summary>
    internal static Expectation SourceVolts(RowContext c)
    {
        if (c.Run?.Port is not { } port)
            return Expecting.None("expect.source-volts", "expect.none.no-port");
        var half = c.Catalogue.Figure("expect.source-volts");
        return new Expectation(
            new(port.SourceVolts.Value, Unit.Volt),
            null,
            null,
            "expect.source-volts",
            [new("term.source-volts", Message.Number(port.SourceVolts.Value, 1) + " V", port.SourceVolts.Origin)]
        )
        {
            Between = new Band(port.SourceVolts.Value - half, port.SourceVolts.Value + half),
        };
    }

    internal static EstimateInput SourceInput(RowContext c, PortFacts port)
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
    internal static EstimateInput? DrawInput(RowContext c)
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

    /// <summary>Loop as the power sees it, ohm.</summary>
    internal static Sourced<double>? PowerLoop(RowContext c) =>
        PairLoop(c) is { } loop && c.PowerClass is { } number
            ? new(DeviceVoltage.PowerLoopOhms(loop.Value, PoeClass.Of(number).Pairs), loop.Origin)
            : null;

    /// <summary>Watts that the port gives: the draw and what the run loses.</summary>
    internal static Expectation WattsAtPort(RowContext c)
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
    internal static Expectation SupplyVolts(RowContext c)
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
        var range = PowerLimits.SupplyOf(c.Catalogue, supply.Range);
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

    internal static Expectation Feed(RowContext c) =>
        c.PlannedFeed is { } feed ? new(null, null, "@choice." + feed, "expect.feed", []) : None("expect.feed", "expect.none.no-port");

    internal static Expectation GrantedClass(RowContext c) =>
        c.PowerClass is { } number
            ? new(
                null,
                null,
                number.ToString(CultureInfo.InvariantCulture),
                "expect.class",
                [new("term.class", number.ToString(CultureInfo.InvariantCulture), Origin.Planned)]
            )
            : None("expect.class", "expect.none.no-class");

    internal static Expectation ModeSwitch(RowContext c) =>
        new(null, null, c.Has("legacy-source") ? "@choice.legacy" : "@choice.standard", "expect.mode-switch", []);

    internal static Expectation PlannedWatts(RowContext c) =>
        DrawInput(c) is { } watts
            ? Of("expect.planned-watts", new Estimate([watts], x => x[0]), Unit.Watt)
            : None("expect.planned-watts", "expect.none.no-watts");

    internal static Sourced<double>? Draw(RowContext c)
    {
        var on = c.Key.Under.HasFlag(Condition.InfraredOn);
        if ((on ? c.Facts.Place.WattsInfraredOn : c.Facts.Place.WattsInfraredOff) is { } planned)
            return new(planned, Origin.Planned);
        if (c.Model is { } model && (on ? model.WattsInfraredOn : model.WattsInfraredOff) is { } stated)
            return new(stated, Origin.Planned);
        return (on ? c.Kind?.WattsInfraredOn : c.Kind?.WattsInfraredOff) is { } assumed ? new(assumed, Origin.Assumed) : null;
    }
}
