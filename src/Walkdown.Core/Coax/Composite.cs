using Walkdown.Core.Measures;

namespace Walkdown.Core.Coax;

/// <summary>Systems of composite video, by their lines.</summary>
public enum LineSystem
{
    /// <summary>525 lines: 140 IRE make 1 V.</summary>
    Lines525,

    /// <summary>625 lines: 700 and 300 mV.</summary>
    Lines625,
}

/// <summary>How a video line is terminated, by the level that arrives.</summary>
public enum TerminationVerdict
{
    /// <summary>Once, with 75 ohm.</summary>
    Correct,

    /// <summary>Twice.</summary>
    DoubleTerminated,

    /// <summary>Three times.</summary>
    TripleTerminated,

    /// <summary>Not at all.</summary>
    NotTerminated,

    /// <summary>By none of these.</summary>
    UnexplainedLevel,
}

/// <summary>Levels of composite video, its termination and hum (docs/calculations.md, E).</summary>
public static class Composite
{
    /// <summary>Millivolts of one IRE.</summary>
    private const double MillivoltsPerIre = 1000.0 / 140;

    /// <summary>Sync tip to blanking, millivolts.</summary>
    public static double SyncMillivolts(LineSystem system) => system == LineSystem.Lines525 ? 286 : 300;

    /// <summary>One level against its nominal.</summary>
    /// <param name="Percent">Of the nominal.</param>
    /// <param name="GainNeededDb">To bring it there; negative: too high.</param>
    /// <param name="Ire">Null in 625 lines.</param>
    public readonly record struct Level(double Percent, double GainNeededDb, double? Ire);

    /// <summary>What of a picture's level arrived.</summary>
    /// <param name="Total">Sync tip to white; null: not read.</param>
    /// <param name="Sync">Sync tip to blanking; null: not read.</param>
    /// <param name="Burst">Peak to peak; null: not read.</param>
    /// <param name="HighFrequencyLossDb">A low burst with a good sync is loss of the cable and no low level; null: one of them was not
    /// read.</param>
    /// <param name="Findings">Such as <c>burst_low</c>, in the order total, sync, burst.</param>
    public sealed record Levels(Level? Total, Level? Sync, Level? Burst, double? HighFrequencyLossDb, ImmutableArray<string> Findings);

    /// <summary>Levels against their nominals; one that deviates by the tolerance alone is in.</summary>
    /// <exception cref="BadInputException">None given, one not above 0, or a negative tolerance.</exception>
    public static Levels LevelsOf(LineSystem system, double? totalMv, double? syncMv, double? burstMv, double tolerancePercent = 10)
    {
        Require.Number(tolerancePercent, "tolerance_percent", 0);
        var findings = ImmutableArray.CreateBuilder<string>();
        var total = Of(totalMv, 1000, "total");
        var sync = Of(syncMv, SyncMillivolts(system), "sync");
        var burst = Of(burstMv, SyncMillivolts(system), "burst");
        if (total is null && sync is null && burst is null)
            throw new BadInputException(BadInputReason.Missing, "measured_total_mv");
        return new(total, sync, burst, sync is { } s && burst is { } b ? b.GainNeededDb - s.GainNeededDb : null, findings.ToImmutable());

        Level? Of(double? measured, double nominal, string name)
        {
            if (measured is not { } mv)
                return null;
            Require.Positive(mv, $"measured_{name}_mv");
            var percent = 100 * mv / nominal;
            if (!Decision.AtMost(Math.Abs(percent - 100), tolerancePercent))
                findings.Add(name + (percent < 100 ? "_low" : "_high"));
            return new(percent, 20 * Math.Log10(nominal / mv), system == LineSystem.Lines525 ? mv / MillivoltsPerIre : null);
        }
    }

    /// <summary>By the level of the sync.</summary>
    /// <param name="Factor">What arrives, once the cable's loss is put back.</param>
    /// <param name="LoadOhms">What the line sees; null: nothing that a resistor could be.</param>
    /// <param name="Verdict">What that means.</param>
    public sealed record Termination(double Factor, double? LoadOhms, TerminationVerdict Verdict);

    /// <summary>A source of 75 ohm gives its level to one termination, two thirds to two, half to three, double to none. Six decibels of
    /// cable look like three terminations: the loss comes first.</summary>
    /// <exception cref="BadInputException">A level not above 0, a loss outside 0 to 60 dB, a tolerance outside 0 to 50 %.</exception>
    public static Termination TerminationOf(double syncMv, LineSystem system, double cableLossDb = 0, double tolerancePercent = 12)
    {
        Require.Positive(syncMv, "measured_sync_mv");
        Require.Number(cableLossDb, "cable_loss_db", 0, 60);
        Require.Number(tolerancePercent, "tolerance_percent", 0, 50);
        var factor = syncMv / SyncMillivolts(system) * Math.Pow(10, cableLossDb / 20);
        var verdict = TerminationVerdict.UnexplainedLevel;
        var nearest = double.PositiveInfinity;
        foreach (
            var (expected, means) in new[]
            {
                (1.0, TerminationVerdict.Correct),
                (2.0 / 3, TerminationVerdict.DoubleTerminated),
                (0.5, TerminationVerdict.TripleTerminated),
                (2.0, TerminationVerdict.NotTerminated),
            }
        )
        {
            var off = Math.Abs(factor / expected - 1);
            if (Decision.AtMost(off, tolerancePercent / 100) && off < nearest)
                (nearest, verdict) = (off, means);
        }
        return new(factor, factor < 2 ? 75 * factor / (2 - factor) : null, verdict);
    }

    /// <summary>Hum that a difference between two grounds makes on a shield; an estimate of the order of magnitude.</summary>
    /// <param name="ShieldOhms">Of the run.</param>
    /// <param name="ShieldAmperes">R.m.s., through the shield.</param>
    /// <param name="MillivoltsPeakToPeak">On the load.</param>
    /// <param name="Ire">The same.</param>
    /// <param name="IsVisible">Over the limit.</param>
    public sealed record Hum(double ShieldOhms, double ShieldAmperes, double MillivoltsPeakToPeak, double Ire, bool IsVisible);

    /// <summary>Of a run between two grounds.</summary>
    /// <exception cref="BadInputException">A negative value, or no resistance at all with a difference above 0.</exception>
    public static Hum HumOf(double groundVolts, double metres, CoaxKind cable, double groundPathOhms, double limitIre = 2)
    {
        Require.Number(groundVolts, "ground_difference_v", 0);
        Require.Number(metres, "run_length_m", 0);
        Require.Number(groundPathOhms, "ground_path_ohm", 0);
        Require.Positive(limitIre, "limit_ire");
        var shield = CoaxCable.ShieldOhms(cable, metres);
        var path = shield + groundPathOhms;
        Require.Consistent(path > 0 || groundVolts == 0, "ground_path_ohm");
        var amperes = path > 0 ? groundVolts / path : 0;
        // Half of the shield's volts appear on the load; from r.m.s. to peak to peak.
        var millivolts = amperes * shield / 2 * 2 * Math.Sqrt(2) * 1000;
        var ire = millivolts / MillivoltsPerIre;
        return new(shield, amperes, millivolts, ire, !Decision.AtMost(ire, limitIre));
    }
}
