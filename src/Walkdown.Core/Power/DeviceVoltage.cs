using Walkdown.Core.Cabling;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Power;

/// <summary>Volts at a device that draws constant power over a pair cable (docs/calculations.md, C): the quadratic's upper
/// branch.</summary>
public static class DeviceVoltage
{
    /// <summary>A solved run. Without a solution the numbers after <paramref name="LoopOhms"/> are null and <paramref name="MaxWatts"/>
    /// says what it could carry.</summary>
    public sealed record Result(
        double LoopOhms,
        DeviceVoltageVerdict Verdict,
        double? Volts = null,
        double? Amperes = null,
        double? LossWatts = null,
        double? SourceWatts = null,
        double? EfficiencyPercent = null,
        double? DeviceMinVolts = null,
        double? LimitAmperes = null,
        double? MaxWatts = null
    )
    {
        /// <summary>There is a voltage at which it works.</summary>
        public bool Solved => Volts is not null;
    }

    /// <summary>
    /// Resistance as the power sees it, ohm: both conductors of a pair in parallel, out and back. Half of the "pair loop" that a tester
    /// shows.
    /// </summary>
    public static double PowerLoopOhms(double pairLoopOhms, int pairs, double contactOhms = 0)
    {
        var twoPair = Require.Number(pairLoopOhms, "pair_loop_ohm", 0) / 2 + Require.Number(contactOhms, "contact_resistance_ohm", 0);
        return pairs switch
        {
            2 => twoPair,
            4 => twoPair / 2,
            _ => throw new BadInputException(BadInputReason.UnknownValue, "pairs"),
        };
    }

    /// <summary>Volts at the device, or null where the run cannot carry the load.</summary>
    public static double? Solve(double sourceVolts, double deviceWatts, double loopOhms)
    {
        var root = sourceVolts * sourceVolts - 4 * loopOhms * deviceWatts;
        return root < 0 ? null : (sourceVolts + Math.Sqrt(root)) / 2;
    }

    /// <param name="powerLoopOhms">From <see cref="PowerLoopOhms"/>.</param>
    /// <param name="powerClass">Class whose limits apply; null for none.</param>
    /// <param name="deviceWatts">Watts that the device draws.</param>
    /// <param name="pairs">Pairs that carry power: 2 or 4.</param>
    /// <param name="sourceVolts">Volts at the source.</param>
    public static Result At(double sourceVolts, double deviceWatts, double powerLoopOhms, int pairs, int? powerClass = null)
    {
        Require.Positive(sourceVolts, "source_voltage_v", 120);
        Require.Number(deviceWatts, "device_power_w", 0);
        Require.Number(powerLoopOhms, "loop_resistance_ohm", 0);
        var limits = powerClass is { } number ? PoeClass.Of(number) : null;
        if (Solve(sourceVolts, deviceWatts, powerLoopOhms) is not { } volts)
            return new Result(powerLoopOhms, DeviceVoltageVerdict.NoSolution, MaxWatts: sourceVolts * sourceVolts / (4 * powerLoopOhms));
        double amperes = deviceWatts / volts,
            source = sourceVolts * amperes;
        double? allowed = limits is null ? null : limits.PairSetAmperes * (pairs == 4 ? 2 : 1);
        var verdict =
            limits is null ? DeviceVoltageVerdict.Ok
            : !Decision.AtMost(deviceWatts, limits.DeviceWatts) ? DeviceVoltageVerdict.DeviceDrawsMoreThanItsClass
            : !Decision.AtMost(limits.DeviceMinVolts, volts) ? DeviceVoltageVerdict.DeviceVoltageLow
            : !Decision.AtMost(amperes, allowed!.Value) ? DeviceVoltageVerdict.CurrentOverLimit
            : !Decision.AtMost(source, limits.SourceWatts) ? DeviceVoltageVerdict.SourcePowerOverClass
            : DeviceVoltageVerdict.Ok;
        return new Result(
            powerLoopOhms,
            verdict,
            volts,
            amperes,
            amperes * amperes * powerLoopOhms,
            source,
            source > 0 ? 100 * deviceWatts / source : 100,
            limits?.DeviceMinVolts,
            allowed
        );
    }

    /// <summary>Which side a run's length is limited by.</summary>
    public enum LimitedBy
    {
        /// <summary>By the data rules.</summary>
        Data,

        /// <summary>By power.</summary>
        Power,

        /// <summary>By voltage, without margin.</summary>
        VoltageNoMargin,
    }

    /// <summary>The longest run that works: loop in ohms, metres by power, metres by all rules.</summary>
    public readonly record struct Longest(double MaxLoopOhms, double PowerMetres, double UsableMetres, LimitedBy By);

    /// <summary>Longest run by power and by data. Below half of the source voltage the working point is unstable, so that is the
    /// floor.</summary>
    public static Longest LongestRun(
        double sourceVolts,
        double deviceWatts,
        double deviceMinVolts,
        double gaugeAwg,
        double temperatureC,
        ConductorMaterial material,
        int pairs,
        double contactOhms = 0,
        double dataCapMetres = 100
    )
    {
        Require.Positive(sourceVolts, "source_voltage_v", 120);
        Require.Positive(deviceWatts, "device_power_w");
        Require.Positive(deviceMinVolts, "device_voltage_min_v");
        Require.Number(contactOhms, "contact_resistance_ohm", 0);
        Require.Number(dataCapMetres, "data_length_cap_m", 0);
        var perMetre = Conductor.OhmsPerMetre(gaugeAwg, temperatureC, material);
        var share = pairs switch
        {
            2 => 1,
            4 => 2,
            _ => throw new BadInputException(BadInputReason.UnknownValue, "pairs"),
        };
        var floor = Math.Max(deviceMinVolts, sourceVolts / 2);
        if (floor >= sourceVolts)
            return new Longest(0, 0, 0, LimitedBy.VoltageNoMargin);
        var maxLoop = (sourceVolts - floor) * floor / deviceWatts;
        var byPower = Math.Max(0, (maxLoop * share - contactOhms) / perMetre);
        return new Longest(
            maxLoop,
            byPower,
            Math.Min(byPower, dataCapMetres),
            Decision.AtMost(dataCapMetres, byPower) ? LimitedBy.Data : LimitedBy.Power
        );
    }
}
