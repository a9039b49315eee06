using Walkdown.Core.Cabling;

namespace Walkdown.Core.Power;

/// <summary>Where on a run volts are lost, piece by piece from the source (docs/calculations.md, C).</summary>
public static class PowerPath
{
    /// <summary>One rung of the ladder.</summary>
    /// <param name="Ohms">Resistance of the piece as the power sees it, out and back.</param>
    /// <param name="Volts">Behind the piece; null where the run cannot carry the load.</param>
    /// <param name="Share">Of the whole drop, 0 to 1.</param>
    /// <param name="FromMetres">Where it begins, metres from the source.</param>
    /// <param name="Piece">The piece.</param>
    /// <param name="ToMetres">Where it ends, metres from the source.</param>
    public sealed record Rung(int Piece, double FromMetres, double ToMetres, double Ohms, double? Volts, double Share);

    /// <param name="Run">Volts, current, losses and verdict at the end of the path.</param>
    /// <param name="DeviceWattsAtRun">What the run has to carry: behind a splitter more than the device draws.</param>
    /// <param name="Rungs">Voltage along the run, piece by piece.</param>
    public sealed record Ladder(DeviceVoltage.Result Run, double DeviceWattsAtRun, ImmutableArray<Rung> Rungs);

    /// <summary>Volts from the source to the device for a constant power.</summary>
    /// <param name="pairs">2 or 4 pairs carrying the current.</param>
    /// <param name="pairLoopOhms">Loop of one pair as measured, in the place of what the path computes to; its pieces are scaled to
    /// it.</param>
    /// <param name="path">The run, piece by piece.</param>
    /// <param name="sourceVolts">Volts at the source.</param>
    /// <param name="deviceWatts">Watts that the device draws.</param>
    /// <param name="temperatureC">Degrees Celsius.</param>
    /// <param name="powerClass">Power over Ethernet class, 0 to 8.</param>
    public static Ladder Along(
        RunPath path,
        double sourceVolts,
        double deviceWatts,
        double temperatureC,
        int pairs,
        int? powerClass = null,
        double? pairLoopOhms = null
    )
    {
        var watts = path.Splitter is { } splitter
            ? Budgets.SplitterInputWatts(deviceWatts, splitter.EfficiencyPercent ?? 100)
            : deviceWatts;
        var computed = path.PairLoopOhms(temperatureC);
        var loop = DeviceVoltage.PowerLoopOhms(pairLoopOhms ?? computed, pairs);
        var scale = pairLoopOhms is { } measured && computed > 0 ? measured / computed : 1;
        var run = DeviceVoltage.At(sourceVolts, watts, loop, pairs, powerClass);
        var rungs = ImmutableArray.CreateBuilder<Rung>(path.Pieces.Length);
        double at = 0,
            volts = sourceVolts;
        for (var i = 0; i < path.Pieces.Length; i++)
        {
            var piece = path.Pieces[i];
            var ohms = DeviceVoltage.PowerLoopOhms(piece.PairLoopOhms(temperatureC) * scale, pairs);
            volts -= ohms * (run.Amperes ?? 0);
            rungs.Add(new Rung(i, at, at += piece.Metres, ohms, run.Solved ? volts : null, loop > 0 ? ohms / loop : 0));
        }
        return new Ladder(run, watts, rungs.ToImmutable());
    }
}
