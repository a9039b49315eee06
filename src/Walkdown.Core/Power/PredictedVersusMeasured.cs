using Walkdown.Core.Measures;

namespace Walkdown.Core.Power;

/// <summary>Predicted against measured volts at the device, state by state (docs/calculations.md, C).</summary>
public static class PredictedVersusMeasured
{
    /// <param name="VoltsPercent">Accuracy of the volts, percent of the reading.</param>
    /// <param name="Volts">Volts.</param>
    /// <param name="WattsPercent">The watts' accuracy, percent.</param>
    /// <param name="ExcessLimitOhms">Ohms that no plan explains, from which it is said.</param>
    /// <param name="DeviceMinVolts">Least volts at the device.</param>
    public sealed record Assumptions(
        double VoltsPercent = 1,
        double Volts = 0.1,
        double WattsPercent = 3,
        double ExcessLimitOhms = 2,
        double DeviceMinVolts = 37
    );

    /// <summary>Volts and watts measured in one state.</summary>
    public readonly record struct Measured(string State, double DeviceVolts, double DeviceWatts);

    /// <summary>Prediction against measurement in one state.</summary>
    /// <param name="State">Name of the state.</param>
    /// <param name="PredictedVolts">Volts.</param>
    /// <param name="DifferenceVolts">Measured less predicted, volts.</param>
    /// <param name="LoopOhms">Loop that explains it, ohms.</param>
    /// <param name="LoopUncertaintyOhms">How sure, ohms.</param>
    /// <param name="Verdict">The word.</param>
    public sealed record Row(
        string State,
        double? PredictedVolts,
        double? DifferenceVolts,
        double LoopOhms,
        double LoopUncertaintyOhms,
        PredictionVerdict Verdict
    );

    /// <summary>All states, with the loop and the source that two of them give.</summary>
    public sealed record Result(ImmutableArray<Row> Rows, double? TwoStateLoopOhms, double? TwoStateSourceVolts);

    /// <summary>Holds measurements against the prediction of the run.</summary>
    public static Result Compare(
        double sourceVolts,
        IReadOnlyList<Measured> states,
        double expectedLoopOhms,
        Assumptions? assumptions = null
    )
    {
        var assume = assumptions ?? new Assumptions();
        Require.Positive(sourceVolts, "source_voltage_v", 120);
        Require.Number(expectedLoopOhms, "expected_loop_resistance_ohm", 0);
        if (states.Count == 0)
            throw new BadInputException(BadInputReason.Empty, "states");
        var rows = states.Select(state => RowOf(state)).ToImmutableArray();
        var byCurrent = states.Select(s => (Volts: s.DeviceVolts, Amperes: s.DeviceWatts / s.DeviceVolts)).OrderBy(s => s.Amperes).ToList();
        var (low, high) = (byCurrent[0], byCurrent[^1]);
        if (high.Amperes - low.Amperes <= 1e-12)
            return new Result(rows, null, null);
        var loop = (low.Volts - high.Volts) / (high.Amperes - low.Amperes);
        return new Result(rows, loop, low.Volts + loop * low.Amperes);

        Row RowOf(Measured state)
        {
            double volts = Require.Positive(state.DeviceVolts, "states.device_voltage_v"),
                watts = Require.Positive(state.DeviceWatts, "states.device_power_w");
            var amperes = watts / volts;
            var loop = (sourceVolts - volts) / amperes;
            var voltsBand = volts * assume.VoltsPercent / 100 + assume.Volts;
            var band = voltsBand / amperes + Math.Abs(loop) * assume.WattsPercent / 100;
            var excess = loop - expectedLoopOhms;
            var verdict =
                volts > sourceVolts + voltsBand ? PredictionVerdict.MeasuredAboveSource
                : volts + voltsBand < assume.DeviceMinVolts ? PredictionVerdict.VoltageBelowMinimum
                : excess - band > assume.ExcessLimitOhms ? PredictionVerdict.ExcessResistance
                : excess + band > assume.ExcessLimitOhms ? PredictionVerdict.TooCloseToCall
                : PredictionVerdict.AsPredicted;
            var predicted = DeviceVoltage.Solve(sourceVolts, watts, expectedLoopOhms);
            return new Row(state.State, predicted, volts - predicted, loop, band, verdict);
        }
    }
}
