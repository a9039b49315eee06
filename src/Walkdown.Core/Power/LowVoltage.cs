using Walkdown.Core.Cabling;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Power;

/// <summary>
/// Distribution at 12 and 24 V over copper (docs/calculations.md, D; Ohm's law, practice). Resistance is out and back on one conductor
/// each.
/// </summary>
public static class LowVoltage
{
    /// <summary>A load: ampere for a constant current, watt (volt-ampere on alternating supplies) for a constant power.</summary>
    public readonly record struct Load(LoadKind Kind, double Value);

    /// <summary>One device on a run, metres from the supply.</summary>
    public readonly record struct Tap(double Metres, Load Load);

    /// <summary>A conductor by gauge or by area; exactly one of the two.</summary>
    /// <param name="AreaMm2">Cross-section in square millimetres.</param>
    /// <param name="GaugeAwg">Gauge, AWG.</param>
    public readonly record struct Wire(double? GaugeAwg = null, double? AreaMm2 = null)
    {
        /// <summary>Out and back, ohm per metre of run, solid copper.</summary>
        /// <exception cref="BadInputException">Both given, or neither.</exception>
        public double LoopOhmsPerMetre(double temperatureC)
        {
            Require.Consistent(GaugeAwg is null || AreaMm2 is null, "conductor");
            Require.Number(temperatureC, "temperature_c", -60, 120);
            if (GaugeAwg is { } gauge)
                return 2 * Conductor.OhmsPerMetre(gauge, temperatureC, ConductorMaterial.SolidCopper);
            if (AreaMm2 is not { } area)
                throw new BadInputException(BadInputReason.Missing, "conductor");
            return 2 * 1.7241e-8 / (Require.Positive(area, "conductor.area_mm2") * 1e-6) * (1 + 0.00393 * (temperatureC - 20));
        }
    }

    /// <summary>Volts that a device must see: nominal 12 V DC, 24 V AC and 24 V DC, each within a tenth (defaults).</summary>
    public static (double Min, double Max) RangeOf(SupplyRange range) => range == SupplyRange.V12Dc ? (10.8, 13.2) : (21.6, 26.4);

    /// <summary>A low-voltage run with one load.</summary>
    /// <param name="LoopOhms">Ohms, there and back.</param>
    /// <param name="Verdict">The word.</param>
    /// <param name="Volts">At the load.</param>
    /// <param name="Amperes">Through the run.</param>
    /// <param name="DropVolts">Lost on the way.</param>
    /// <param name="DropPercent">Percent of the source.</param>
    /// <param name="LossWatts">Lost as heat.</param>
    public sealed record Run(
        double LoopOhms,
        RunVerdict Verdict,
        double? Volts = null,
        double? Amperes = null,
        double? DropVolts = null,
        double? DropPercent = null,
        double? LossWatts = null
    );

    /// <summary>Volts at one device at the end of one run.</summary>
    /// <param name="powerFactor">1 for direct supplies.</param>
    /// <param name="sourceVolts">Volts at the source.</param>
    /// <param name="metres">Metres, one way.</param>
    /// <param name="wire">The wire.</param>
    /// <param name="temperatureC">Degrees Celsius.</param>
    /// <param name="load">What it feeds.</param>
    /// <param name="range">The range of the supply.</param>
    public static Run Single(
        double sourceVolts,
        double metres,
        Wire wire,
        double temperatureC,
        Load load,
        double powerFactor = 1,
        SupplyRange range = SupplyRange.V12Dc
    )
    {
        Require.Positive(sourceVolts, "source_voltage_v");
        Require.Number(metres, "run_length_m", 0);
        Require.Number(load.Value, "load_value", 0);
        Require.Positive(powerFactor, "power_factor", 1);
        Require.Consistent(powerFactor == 1 || range == SupplyRange.V24Ac, "power_factor");
        var ohms = wire.LoopOhmsPerMetre(temperatureC) * metres;
        if (At(sourceVolts, ohms, load, powerFactor) is not { } volts)
            return new Run(ohms, RunVerdict.NoSolution);
        var amperes = load.Kind == LoadKind.ConstantCurrent ? load.Value : load.Value / volts;
        var (min, max) = RangeOf(range);
        var verdict =
            !Decision.AtMost(min, volts) ? RunVerdict.Low
            : !Decision.AtMost(volts, max) ? RunVerdict.High
            : RunVerdict.Ok;
        return new Run(
            ohms,
            verdict,
            volts,
            amperes,
            sourceVolts - volts,
            100 * (sourceVolts - volts) / sourceVolts,
            amperes * amperes * ohms
        );
    }

    /// <summary>Volts across a load behind a resistance; null where there is no solution. Reactance of the cable is neglected (fine up to
    /// about 4 mm2).</summary>
    private static double? At(double source, double ohms, Load load, double factor)
    {
        if (load.Kind == LoadKind.ConstantCurrent)
        {
            double across = load.Value * ohms * Math.Sqrt(Math.Max(0, 1 - factor * factor)),
                along = load.Value * ohms * factor;
            var root = source * source - across * across;
            return root < 0 || Math.Sqrt(root) - along is not (> 0 and var volts) ? null : volts;
        }
        // u = V^2 of the phasor triangle; with a factor of 1 this is the quadratic of a direct supply.
        double b = source * source - 2 * ohms * load.Value * factor,
            under = b * b - 4 * ohms * ohms * load.Value * load.Value;
        return b < 0 || under < 0 ? null : Math.Sqrt((b + Math.Sqrt(under)) / 2);
    }

    /// <summary>Longest run that leaves a device its least voltage, metres. Below half of the source a constant power is unstable, so that
    /// is the floor.</summary>
    public static double LongestMetres(double sourceVolts, double deviceMinVolts, Wire wire, double temperatureC, Load load)
    {
        Require.Positive(sourceVolts, "source_voltage_v");
        Require.Positive(deviceMinVolts, "device_voltage_min_v");
        Require.Positive(load.Value, "load_value");
        var perMetre = wire.LoopOhmsPerMetre(temperatureC);
        var floor = load.Kind == LoadKind.ConstantPower ? Math.Max(deviceMinVolts, sourceVolts / 2) : deviceMinVolts;
        if (floor >= sourceVolts)
            return 0;
        return (load.Kind == LoadKind.ConstantPower ? (sourceVolts - floor) * floor / load.Value : (sourceVolts - floor) / load.Value)
            / perMetre;
    }

    /// <param name="Volts">At each device, in the order given.</param>
    /// <param name="OutOfRange">Zero-based positions of the devices outside the range.</param>
    /// <param name="Verdict">What it comes to.</param>
    /// <param name="Amperes">Amperes.</param>
    /// <param name="SupplyAmperes">Amperes out of the supply.</param>
    public sealed record Tapped(
        TappedVerdict Verdict,
        ImmutableArray<double> Volts,
        ImmutableArray<double> Amperes,
        double SupplyAmperes,
        ImmutableArray<int> OutOfRange
    )
    {
        /// <summary>There is a state in which it works.</summary>
        public bool Solved => Verdict != TappedVerdict.NoSolution;
    }

    private const int MostRounds = 200_000;

    /// <summary>
    /// Several devices along one run: each stretch carries the sum of all currents at and beyond it. From the source voltage the iteration
    /// falls to
    /// the upper solution; where a device reaches zero there is none.
    /// </summary>
    public static Tapped Along(
        double sourceVolts,
        Wire wire,
        double temperatureC,
        IReadOnlyList<Tap> taps,
        SupplyRange range = SupplyRange.V12Dc
    )
    {
        Require.Positive(sourceVolts, "source_voltage_v");
        foreach (var tap in taps)
        {
            Require.Number(tap.Metres, "taps.distance_m", 0);
            Require.Number(tap.Load.Value, "taps.load_value", 0);
        }
        var perMetre = wire.LoopOhmsPerMetre(temperatureC);
        var order = Enumerable.Range(0, taps.Count).OrderBy(i => taps[i].Metres).ToArray();
        double[] volts = [.. Enumerable.Repeat(sourceVolts, taps.Count)],
            amperes = new double[taps.Count];
        for (var round = 0; round < MostRounds; round++)
        {
            for (var i = 0; i < amperes.Length; i++)
                amperes[i] = taps[i].Load.Kind == LoadKind.ConstantCurrent ? taps[i].Load.Value : taps[i].Load.Value / volts[i];
            double here = sourceVolts,
                at = 0,
                beyond = amperes.Sum(),
                moved = 0;
            foreach (var i in order)
            {
                here -= beyond * perMetre * (taps[i].Metres - at);
                if (here <= 0)
                    return None;
                moved = Math.Max(moved, Math.Abs(volts[i] - here));
                (volts[i], at) = (here, taps[i].Metres);
                beyond -= amperes[i];
            }
            if (moved > 1e-12 * sourceVolts)
                continue;
            var (min, max) = RangeOf(range);
            ImmutableArray<int> outside =
            [
                .. Enumerable.Range(0, volts.Length).Where(i => !Decision.AtMost(min, volts[i]) || !Decision.AtMost(volts[i], max)),
            ];
            return new Tapped(
                outside.IsEmpty ? TappedVerdict.Ok : TappedVerdict.OutOfRange,
                [.. volts],
                [.. amperes],
                amperes.Sum(),
                outside
            );
        }
        return None;
    }

    private static readonly Tapped None = new(TappedVerdict.NoSolution, [], [], 0, []);

    /// <param name="Overloaded">The load is above the rating; the formula goes on regardless.</param>
    /// <param name="NoLoadVolts">Volts without a load.</param>
    /// <param name="Volts">Volts.</param>
    public readonly record struct Unregulated(double Volts, double NoLoadVolts, bool Overloaded);

    /// <summary>Volts of an unregulated supply or a transformer, which rise as the load falls.</summary>
    public static Unregulated SupplyVolts(double fullLoadVolts, double regulationPercent, double ratedAmperes, double loadAmperes)
    {
        Require.Positive(fullLoadVolts, "full_load_voltage_v");
        Require.Number(regulationPercent, "regulation_percent", 0, 100);
        Require.Positive(ratedAmperes, "rated_current_a");
        Require.Number(loadAmperes, "load_current_a", 0);
        var rise = regulationPercent / 100;
        return new Unregulated(
            fullLoadVolts * (1 + rise * (1 - loadAmperes / ratedAmperes)),
            fullLoadVolts * (1 + rise),
            !Decision.AtMost(loadAmperes, ratedAmperes)
        );
    }

    /// <summary>A supply's load against what it may give, amperes.</summary>
    public readonly record struct Loading(double TotalAmperes, double UsableAmperes, bool SupplyOk, FuseVerdict Fuse)
    {
        /// <summary>Amperes left; negative: short.</summary>
        public double HeadroomAmperes => UsableAmperes - TotalAmperes;
    }

    /// <summary>Sum of the loads against the supply's derated rating, its fuse and what the cable may carry.</summary>
    public static Loading SupplyAndFuse(
        IReadOnlyCollection<double> loadAmperes,
        double ratedAmperes,
        double derating = 0.8,
        double? fuseAmperes = null,
        double fuseLoadFactor = 0.75,
        double? cableAmperes = null
    )
    {
        foreach (var load in loadAmperes)
            Require.Number(load, "load_currents_a", 0);
        Require.Positive(ratedAmperes, "rated_current_a");
        Require.Positive(derating, "derating_factor", 1);
        Require.Positive(fuseLoadFactor, "fuse_load_factor", 1);
        if (fuseAmperes is { } f)
            Require.Positive(f, "fuse_rating_a");
        if (cableAmperes is { } c)
            Require.Positive(c, "cable_ampacity_a");
        double total = loadAmperes.Sum(),
            usable = ratedAmperes * derating;
        var fuse =
            fuseAmperes is not { } rating ? FuseVerdict.NotChecked
            : cableAmperes is { } carries && !Decision.AtMost(rating, carries) ? FuseVerdict.FuseDoesNotProtectTheCable
            : !Decision.AtMost(total, rating * fuseLoadFactor) ? FuseVerdict.FuseTooSmall
            : FuseVerdict.Ok;
        return new Loading(total, usable, Decision.AtMost(total, usable), fuse);
    }

    /// <summary>What stands at the input, by a direct and an alternating reading.</summary>
    public static PolarityVerdict Polarity(double dcVolts, double acVolts, SupplyRange range, double deadBelowVolts = 1)
    {
        Require.Number(dcVolts, "measured_dc_v");
        Require.Number(acVolts, "measured_ac_v", 0);
        Require.Number(deadBelowVolts, "dead_below_v", 0);
        var (min, max) = RangeOf(range);
        if (Math.Abs(dcVolts) < deadBelowVolts && acVolts < deadBelowVolts)
            return PolarityVerdict.Dead;
        if (range == SupplyRange.V24Ac)
            return acVolts < deadBelowVolts ? PolarityVerdict.DirectWhereAlternatingExpected
                : Math.Abs(dcVolts) > deadBelowVolts ? PolarityVerdict.DirectOffsetOnAlternatingSupply
                : Against(acVolts);
        return acVolts >= deadBelowVolts ? PolarityVerdict.AlternatingWhereDirectExpected
            : dcVolts < 0 ? PolarityVerdict.ReversedPolarity
            : Against(dcVolts);

        PolarityVerdict Against(double volts) =>
            !Decision.AtMost(min, volts) ? PolarityVerdict.Low
            : !Decision.AtMost(volts, max) ? PolarityVerdict.High
            : PolarityVerdict.Ok;
    }
}
