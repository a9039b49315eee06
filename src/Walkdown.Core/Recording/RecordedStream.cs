using Walkdown.Core.Measures;

namespace Walkdown.Core.Recording;

/// <summary>When a stream is recorded at its full rate.</summary>
public enum RecordingMode
{
    /// <summary>Always.</summary>
    Continuous,

    /// <summary>While something moves.</summary>
    Motion,

    /// <summary>By the clock.</summary>
    Schedule,

    /// <summary>While something moves, by the clock.</summary>
    ScheduleMotion,
}

/// <summary>One stream as it is recorded.</summary>
/// <param name="BitRateMbps">While it is recorded at its full rate.</param>
/// <param name="Mode">When that is.</param>
/// <param name="MotionPercent">Share of the time in which something moves; asked for with motion.</param>
/// <param name="HoursPerDay">By the clock; asked for with a schedule.</param>
/// <param name="DaysPerWeek">Likewise.</param>
/// <param name="BackgroundMbps">All the other time.</param>
public sealed record RecordedStream(
    double BitRateMbps,
    RecordingMode Mode = RecordingMode.Continuous,
    double? MotionPercent = null,
    double? HoursPerDay = null,
    double DaysPerWeek = 7,
    double BackgroundMbps = 0
)
{
    /// <summary>Share of the time at its full rate, 0 to 1.</summary>
    /// <exception cref="BadInputException">A figure that its mode needs is missing or cannot be.</exception>
    public double Duty =>
        Mode switch
        {
            RecordingMode.Continuous => 1,
            RecordingMode.Motion => Motion,
            RecordingMode.Schedule => Clock,
            _ => Motion * Clock,
        };

    /// <summary>Over all the time, Mbit/s.</summary>
    public double MeanMbps => Checked().BitRateMbps * Duty + BackgroundMbps * (1 - Duty);

    /// <summary>At its worst, Mbit/s.</summary>
    public double PeakMbps => Math.Max(Checked().BitRateMbps, BackgroundMbps);

    private double Motion =>
        Require.Number(
            MotionPercent ?? throw new BadInputException(BadInputReason.Missing, "motion_duty_percent"),
            "motion_duty_percent",
            0,
            100
        ) / 100;

    private double Clock =>
        Require.Number(HoursPerDay ?? throw new BadInputException(BadInputReason.Missing, "hours_per_day"), "hours_per_day", 0, 24)
        / 24
        * Require.Number(DaysPerWeek, "days_per_week", 0, 7)
        / 7;

    private RecordedStream Checked()
    {
        Require.Number(BitRateMbps, "bit_rate_mbps", 0);
        Require.Number(BackgroundMbps, "background_mbps", 0);
        return this;
    }
}

/// <summary>How a picture is coded.</summary>
public enum VideoCodec
{
    /// <summary>Picture by picture.</summary>
    Mjpeg,

    /// <summary>ITU-T H.264.</summary>
    H264,

    /// <summary>ITU-T H.265.</summary>
    H265,
}

/// <summary>How much goes on in a picture.</summary>
public enum SceneComplexity
{
    /// <summary>A corridor.</summary>
    Low,

    /// <summary>A yard.</summary>
    Medium,

    /// <summary>A crossing, trees in the wind, water.</summary>
    High,
}

/// <summary>A rate of bits where nobody has measured one: easily off by a factor of two, and to be replaced by a day's
/// measurement.</summary>
public static class BitRateEstimate
{
    private const double NightNoise = 1.4;

    /// <returns>What it would be, and what a cap leaves of it, Mbit/s.</returns>
    public static (double UncappedMbps, double BitRateMbps, bool IsCapped) Of(
        int widthPixels,
        int heightPixels,
        double framesPerSecond,
        VideoCodec codec,
        SceneComplexity complexity,
        bool isNight = false,
        double? capMbps = null
    )
    {
        Require.Number(widthPixels, "width_px", 1);
        Require.Number(heightPixels, "height_px", 1);
        Require.Positive(framesPerSecond, "frames_per_s");
        if (capMbps is { } most)
            Require.Positive(most, "cap_mbps");
        var bits = codec switch
        {
            VideoCodec.Mjpeg => 1.0,
            VideoCodec.H264 => 0.10,
            _ => 0.06,
        };
        var factor = complexity switch
        {
            SceneComplexity.Low => 0.5,
            SceneComplexity.Medium => 1.0,
            _ => 1.8,
        };
        var rate = (double)widthPixels * heightPixels * framesPerSecond * bits * factor * (isNight ? NightNoise : 1) / 1e6;
        return capMbps is { } cap && cap < rate ? (rate, cap, true) : (rate, rate, false);
    }
}
