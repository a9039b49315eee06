using Walkdown.Core.Measures;

namespace Walkdown.Core.Clocks;

/// <summary>
/// A picture under lamps on the mains, whose light ripples at twice its frequency. Lamps with electronic drivers may not ripple at all:
/// this names a risk.
/// </summary>
/// <param name="RipplePeriods">In one exposure.</param>
/// <param name="IsSafe">Each row of the picture gets a whole number of them.</param>
/// <param name="RippleLeft">Of the full depth, 0 to 1.</param>
/// <param name="BeatHertz">How fast bands crawl.</param>
/// <param name="StandsStill">They do not.</param>
/// <param name="SafeExposures">Seconds, up to one frame.</param>
/// <param name="IsLongerThanFrame">No camera exposes so long at this rate.</param>
public sealed record MainsLight(
    double RipplePeriods,
    bool IsSafe,
    double RippleLeft,
    double BeatHertz,
    bool StandsStill,
    ImmutableArray<double> SafeExposures,
    bool IsLongerThanFrame
)
{
    private static readonly int[] Of50 = [1, 2, 4, 5, 10, 50];
    private static readonly int[] Of60 = [1, 2, 3, 4, 5, 6, 10, 12, 15, 20, 30, 60];

    /// <param name="mainsHertz">50 or 60.</param>
    /// <param name="framesPerSecond">Of the camera.</param>
    /// <param name="exposureSeconds">Its shutter.</param>
    /// <param name="tolerancePercent">So far beside a whole number of ripples it still is one.</param>
    public static MainsLight Of(int mainsHertz, double framesPerSecond, double exposureSeconds, double tolerancePercent = 2)
    {
        Mains(mainsHertz);
        Require.Positive(framesPerSecond, "frame_rate_hz");
        Require.Positive(exposureSeconds, "exposure_s");
        Require.Number(tolerancePercent, "tolerance_percent", 0, 50);
        double ripple = 2 * mainsHertz;
        var periods = exposureSeconds * ripple;
        var whole = Math.Round(periods, MidpointRounding.AwayFromZero);
        var beat = Math.Abs(ripple - Math.Round(ripple / framesPerSecond, MidpointRounding.AwayFromZero) * framesPerSecond);
        var frame = 1 / framesPerSecond;
        // A camera of a frame a minute has thousands; nobody picks from so many.
        var count = (int)Math.Min(1000, Math.Floor(frame * ripple * (1 + 1e-9)));
        return new(
            periods,
            whole >= 1 && Math.Abs(periods - whole) <= tolerancePercent / 100 * whole + 1e-9,
            Math.Abs(Math.Sin(Math.PI * periods) / (Math.PI * periods)),
            beat,
            beat < 1e-6,
            [.. Enumerable.Range(1, Math.Max(0, count)).Select(k => k / ripple)],
            exposureSeconds > frame * (1 + 1e-9)
        );
    }

    /// <summary>The family of mains that a rate of frames belongs to.</summary>
    /// <param name="mainsHertz">50 or 60.</param>
    /// <param name="framesPerSecond">Of the camera.</param>
    public static (FrameRateFamily Family, bool MatchesMains) Standard(int mainsHertz, double framesPerSecond)
    {
        Mains(mainsHertz);
        Require.Positive(framesPerSecond, "camera_frame_rate_hz");
        var fifty = Of50.Any(k => Math.Abs(framesPerSecond * k - 50) < 0.2 - 1e-9);
        var sixty = Of60.Any(k => Math.Abs(framesPerSecond * k - 60) < 0.2 - 1e-9);
        var family =
            fifty && sixty ? FrameRateFamily.Either
            : fifty ? FrameRateFamily.Of50
            : sixty ? FrameRateFamily.Of60
            : FrameRateFamily.Neither;
        return (family, family == FrameRateFamily.Either || family == (mainsHertz == 50 ? FrameRateFamily.Of50 : FrameRateFamily.Of60));
    }

    private static void Mains(int hertz)
    {
        if (hertz is not (50 or 60))
            throw new BadInputException(BadInputReason.UnknownValue, "mains_hz");
    }
}

/// <summary>Which mains a rate of frames goes with.</summary>
public enum FrameRateFamily
{
    /// <summary>50 Hz.</summary>
    Of50,

    /// <summary>60 Hz.</summary>
    Of60,

    /// <summary>Both.</summary>
    Either,

    /// <summary>None.</summary>
    Neither,
}
