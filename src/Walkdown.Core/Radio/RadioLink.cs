using Walkdown.Core.Measures;

namespace Walkdown.Core.Radio;

/// <summary>How a link budget stands.</summary>
public enum BudgetVerdict
{
    /// <summary>Margin enough.</summary>
    Ok,

    /// <summary>Less than asked for.</summary>
    MarginLow,

    /// <summary>Under the receiver's sensitivity.</summary>
    NoLink,
}

/// <summary>How free the first zone of a path is.</summary>
public enum PathVerdict
{
    /// <summary>Free enough.</summary>
    Clear,

    /// <summary>The line is free and the zone is not.</summary>
    PartlyBlocked,

    /// <summary>The line itself is touched.</summary>
    Blocked,
}

/// <summary>What a measured level says against the predicted one.</summary>
public enum LevelVerdict
{
    /// <summary>As predicted.</summary>
    AsPredicted,

    /// <summary>So strong that the receiver may be overloaded.</summary>
    TooStrong,

    /// <summary>Under the sensitivity.</summary>
    BelowSensitivity,

    /// <summary>Low by more than the prediction and the meter can be off.</summary>
    Low,

    /// <summary>Perhaps low.</summary>
    TooClose,

    /// <summary>Higher than predicted: the inputs are to be looked at.</summary>
    Higher,
}

/// <summary>A radio link in the open (docs/calculations.md, F; ITU-R P.525 and P.530). What may be radiated is national law, and an
/// input.</summary>
public static class RadioLink
{
    private const double LightMetresPerSecond = 299_792_458;
    private const double EarthMetres = 6_371_000;

    /// <summary>One link from end to end.</summary>
    /// <param name="FreeSpaceLossDb">Of the distance.</param>
    /// <param name="EirpDbm">What leaves the antenna in its direction.</param>
    /// <param name="ReceiveDbm">What arrives at the receiver.</param>
    /// <param name="MarginDb">Over its sensitivity; negative: under.</param>
    /// <param name="IsOverLimit">More is radiated than may be.</param>
    /// <param name="LongestMetres">At which the margin is just what is asked for.</param>
    /// <param name="Verdict">How it stands.</param>
    public sealed record Budget(
        double FreeSpaceLossDb,
        double EirpDbm,
        double ReceiveDbm,
        double MarginDb,
        bool IsOverLimit,
        double LongestMetres,
        BudgetVerdict Verdict
    );

    /// <summary>What is known of a link.</summary>
    /// <param name="Metres">From antenna to antenna, above 0.</param>
    /// <param name="Megahertz">Above 0.</param>
    /// <param name="TransmitDbm">At the transmitter.</param>
    /// <param name="TransmitDbi">Gain of its antenna.</param>
    /// <param name="ReceiveDbi">Gain of the other.</param>
    /// <param name="TransmitLossDb">Of its lead, at least 0.</param>
    /// <param name="ReceiveLossDb">Of the other, at least 0.</param>
    /// <param name="SensitivityDbm">Of the receiver at the rate that is needed.</param>
    /// <param name="OtherLossDb">Leaves, walls, turned antennas; at least 0.</param>
    /// <param name="RequiredMarginDb">At least 0.</param>
    /// <param name="EirpLimitDbm">Null: nobody said.</param>
    public sealed record Link(
        double Metres,
        double Megahertz,
        double TransmitDbm,
        double TransmitDbi,
        double ReceiveDbi,
        double TransmitLossDb,
        double ReceiveLossDb,
        double SensitivityDbm,
        double OtherLossDb = 0,
        double RequiredMarginDb = 15,
        double? EirpLimitDbm = null
    );

    /// <summary>Decibels lost over a distance in the open.</summary>
    /// <exception cref="BadInputException">A distance or frequency not above 0.</exception>
    public static double FreeSpaceLossDb(double metres, double megahertz)
    {
        Require.Positive(metres, "distance_m");
        Require.Positive(megahertz, "frequency_mhz");
        return 20 * Math.Log10(4 * Math.PI * metres * megahertz * 1e6 / LightMetresPerSecond);
    }

    /// <summary>What arrives, and how much is left.</summary>
    /// <exception cref="BadInputException">A distance or frequency not above 0, or a negative loss.</exception>
    public static Budget BudgetOf(Link link)
    {
        var space = FreeSpaceLossDb(link.Metres, link.Megahertz);
        Require.Number(link.TransmitDbm, "transmit_power_dbm");
        Require.Number(link.TransmitDbi, "transmit_gain_dbi");
        Require.Number(link.ReceiveDbi, "receive_gain_dbi");
        Require.Number(link.TransmitLossDb, "transmit_cable_loss_db", 0);
        Require.Number(link.ReceiveLossDb, "receive_cable_loss_db", 0);
        Require.Number(link.SensitivityDbm, "receiver_sensitivity_dbm");
        Require.Number(link.OtherLossDb, "other_loss_db", 0);
        Require.Number(link.RequiredMarginDb, "required_fade_margin_db", 0);
        if (link.EirpLimitDbm is { } most)
            Require.Number(most, "eirp_limit_dbm");
        var eirp = link.TransmitDbm - link.TransmitLossDb + link.TransmitDbi;
        var receive = eirp - space - link.OtherLossDb + link.ReceiveDbi - link.ReceiveLossDb;
        var margin = receive - link.SensitivityDbm;
        return new(
            space,
            eirp,
            receive,
            margin,
            link.EirpLimitDbm is { } limit && !Decision.AtMost(eirp, limit),
            link.Metres * Math.Pow(10, (margin - link.RequiredMarginDb) / 20),
            !Decision.AtMost(0, margin) ? BudgetVerdict.NoLink
                : !Decision.AtMost(link.RequiredMarginDb, margin) ? BudgetVerdict.MarginLow
                : BudgetVerdict.Ok
        );
    }

    /// <summary>A path at one point of it.</summary>
    /// <param name="RadiusMetres">Of the first zone there; 0 at an antenna.</param>
    /// <param name="BulgeMetres">Of the earth there.</param>
    /// <param name="LineMetres">Height of the line between the antennas.</param>
    /// <param name="ClearanceMetres">From obstacle and bulge up to the line; negative: through it.</param>
    /// <param name="NeededMetres">Share of the radius that must be free.</param>
    /// <param name="Fraction">Clearance in radii; null at an antenna.</param>
    /// <param name="Verdict">How free it is.</param>
    public sealed record Path(
        double RadiusMetres,
        double BulgeMetres,
        double LineMetres,
        double ClearanceMetres,
        double NeededMetres,
        double? Fraction,
        PathVerdict Verdict
    );

    /// <summary>The first Fresnel zone over an obstacle; all heights above one datum.</summary>
    /// <exception cref="BadInputException">A distance, frequency or earth factor not above 0, a point outside the path, or a share
    /// outside 0 to 1.</exception>
    public static Path PathOf(
        double metres,
        double megahertz,
        double atMetres,
        double heightA,
        double heightB,
        double obstacleMetres,
        double earthFactor = 4.0 / 3,
        double share = 0.6
    )
    {
        Require.Positive(metres, "distance_m");
        Require.Positive(megahertz, "frequency_mhz");
        Require.Number(atMetres, "at_m", 0);
        Require.Consistent(atMetres <= metres, "at_m");
        Require.Number(heightA, "antenna_a_height_m");
        Require.Number(heightB, "antenna_b_height_m");
        Require.Number(obstacleMetres, "obstacle_height_m");
        Require.Positive(earthFactor, "earth_factor");
        Require.Number(share, "clearance_fraction", 0, 1);
        var rest = metres - atMetres;
        var radius = Math.Sqrt(LightMetresPerSecond / (megahertz * 1e6) * atMetres * rest / metres);
        var bulge = atMetres * rest / (2 * earthFactor * EarthMetres);
        var line = heightA + (heightB - heightA) * atMetres / metres;
        var clearance = line - (obstacleMetres + bulge);
        var needed = share * radius;
        return new(
            radius,
            bulge,
            line,
            clearance,
            needed,
            radius > 0 ? clearance / radius : null,
            clearance <= 0 ? PathVerdict.Blocked
                : Decision.AtMost(needed, clearance) ? PathVerdict.Clear
                : PathVerdict.PartlyBlocked
        );
    }

    /// <summary>A measured level against the predicted one. On the low side the meter's accuracy makes a band of its own; on the high side
    /// nothing is wrong but perhaps what was put in.</summary>
    /// <exception cref="BadInputException">A measured level outside -130 to 30 dBm, or a negative tolerance or accuracy.</exception>
    public static (double DifferenceDb, LevelVerdict Verdict) LevelOf(
        double predictedDbm,
        double measuredDbm,
        double toleranceDb = 6,
        double accuracyDb = 2,
        double? sensitivityDbm = null,
        double strongDbm = -30
    )
    {
        Require.Number(predictedDbm, "predicted_dbm");
        Require.Number(measuredDbm, "measured_dbm", -130, 30);
        Require.Number(toleranceDb, "tolerance_db", 0);
        Require.Number(accuracyDb, "measurement_accuracy_db", 0);
        if (sensitivityDbm is { } given)
            Require.Number(given, "sensitivity_dbm");
        Require.Number(strongDbm, "strong_limit_dbm");
        const double Edge = 1e-9;
        var off = measuredDbm - predictedDbm;
        return (
            off,
            measuredDbm > strongDbm + Edge ? LevelVerdict.TooStrong
            : measuredDbm < sensitivityDbm - Edge ? LevelVerdict.BelowSensitivity
            : off < -(toleranceDb + accuracyDb) - Edge ? LevelVerdict.Low
            : off < -(toleranceDb - accuracyDb) - Edge ? LevelVerdict.TooClose
            : off > toleranceDb + accuracyDb + Edge ? LevelVerdict.Higher
            : LevelVerdict.AsPredicted
        );
    }

    /// <summary>Low by 20 to 25 dB, which is what antennas at a right angle take; give or take what the meter can be off.</summary>
    public static bool SmellsOfCrossedPolarisation(double differenceDb, double accuracyDb) =>
        -differenceDb >= 20 - accuracyDb && -differenceDb <= 25 + accuracyDb;

    /// <summary>Decibels lost where one antenna is turned against the other about their line, at most what they can tell apart.</summary>
    /// <exception cref="BadInputException">An angle outside -180 to 180, or a negative discrimination.</exception>
    public static double PolarisationLossDb(double degrees, double discriminationDb = 25)
    {
        Require.Number(degrees, "angle_deg", -180, 180);
        Require.Number(discriminationDb, "cross_polar_discrimination_db", 0);
        var cosine = Math.Abs(Angle.Cos(degrees));
        // Full turns lose nothing: no minus zero.
        return cosine < 1e-12 ? discriminationDb : Math.Min(discriminationDb, Math.Max(0, -20 * Math.Log10(cosine)));
    }

    /// <summary>What streams need of a link.</summary>
    /// <param name="NeededMbps">With headroom.</param>
    /// <param name="UsableMbps">Of the negotiated rate.</param>
    /// <param name="LoadPercent">Null: nothing is usable.</param>
    public sealed record Throughput(double NeededMbps, double UsableMbps, double? LoadPercent)
    {
        /// <summary>Left over; negative: short.</summary>
        public double SpareMbps => UsableMbps - NeededMbps;

        /// <summary>Enough, at the limit too.</summary>
        public bool IsEnough => Decision.AtMost(NeededMbps, UsableMbps);
    }

    /// <summary>Streams over a negotiated rate, of which a share is usable.</summary>
    /// <exception cref="BadInputException">A negative rate, an efficiency or share outside above 0 to 1, or a headroom under 1.</exception>
    public static Throughput ThroughputOf(
        IReadOnlyCollection<double> streamsMbps,
        double negotiatedMbps,
        double efficiency = 0.5,
        double headroom = 1.3,
        double duplexShare = 1
    )
    {
        foreach (var stream in streamsMbps)
            Require.Number(stream, "stream_mbps", 0);
        Require.Number(negotiatedMbps, "negotiated_mbps", 0);
        Require.Positive(efficiency, "efficiency", 1);
        Require.Number(headroom, "headroom", 1);
        Require.Positive(duplexShare, "duplex_share", 1);
        var needed = streamsMbps.Sum() * headroom;
        var usable = negotiatedMbps * efficiency * duplexShare;
        return new(needed, usable, usable > 0 ? 100 * needed / usable : null);
    }
}
