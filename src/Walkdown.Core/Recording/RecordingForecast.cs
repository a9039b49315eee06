using Walkdown.Core.Measures;

namespace Walkdown.Core.Recording;

/// <summary>What is tried out; what is left out stays as it was read.</summary>
/// <param name="FramesPerSecond">Of every channel; the rate of bits follows it.</param>
/// <param name="MeanMbps">Of a channel on the mean, while it is written at its full rate; each channel by the same factor.</param>
/// <param name="MotionPercent">Of every channel that is recorded on motion.</param>
/// <param name="DaysPromised">Instead of those that were.</param>
public sealed record RecordingTry(
    double? FramesPerSecond = null,
    double? MeanMbps = null,
    double? MotionPercent = null,
    double? DaysPromised = null
);

/// <summary>What a recorder can run out of.</summary>
public enum RecordingLimit
{
    /// <summary>What it can take in when everything moves.</summary>
    Intake,

    /// <summary>Its link, with whoever looks.</summary>
    Uplink,

    /// <summary>The days that its disks hold.</summary>
    Days,
}

/// <summary>How far one limit is away.</summary>
/// <param name="Limit">Which.</param>
/// <param name="Share">So much may the rate of bits rise, as a share of what it is; negative: so much is too much. Null: it never breaks.</param>
public sealed record RecordingSpare(RecordingLimit Limit, double? Share);

/// <summary>The most of each thing that is tried, all else as it is tried; null: nothing known limits it.</summary>
/// <param name="FramesPerSecond">Frames.</param>
/// <param name="MeanMbps">Rate of a channel.</param>
/// <param name="MotionPercent">Share of motion; above 100: any.</param>
/// <param name="Days">Days.</param>
public sealed record RecordingMost(double? FramesPerSecond, double? MeanMbps, double? MotionPercent, double? Days);

/// <summary>Whether a recorder holds what was promised, and what breaks first (docs/calculations.md, J).</summary>
/// <param name="Retention">Of all channels.</param>
/// <param name="Load">Likewise.</param>
/// <param name="Outcome">Of the days: too close while a rate is estimated and they are within a tenth; null: nothing is recorded.</param>
/// <param name="Spare">The one that breaks first comes first.</param>
/// <param name="Most">Of each thing that is tried.</param>
/// <param name="Estimated">Channels whose rate nobody has read.</param>
/// <param name="FramesPerSecond">Of a channel on the mean; null where nobody knows of any.</param>
/// <param name="MeanMbps">Of a channel on the mean, at its full rate.</param>
/// <param name="MotionPercent">On the mean of those on motion; null where none is.</param>
public sealed record RecordingForecast(
    Retention Retention,
    RecorderLoad Load,
    Outcome? Outcome,
    ImmutableArray<RecordingSpare> Spare,
    RecordingMost Most,
    int Estimated,
    double? FramesPerSecond,
    double MeanMbps,
    double? MotionPercent
)
{
    /// <summary>An estimate says nothing about days that are so near (practice).</summary>
    private const double TooClose = 0.1;

    /// <summary>With what is tried.</summary>
    /// <exception cref="BadInputException">A figure that cannot be.</exception>
    public static RecordingForecast Of(RecorderStore store, IReadOnlyList<ChannelLoad> channels, RecordingTry? tried = null)
    {
        tried ??= new();
        var days = Require.Positive(tried.DaysPromised ?? store.DaysPromised, "days_promised");
        if (tried.FramesPerSecond is { } rate)
            Require.Positive(rate, "frames_per_s", 1000);
        if (tried.MeanMbps is { } bits)
            Require.Positive(bits, "bit_rate_mbps", 100_000);
        if (tried.MotionPercent is { } share)
            Require.Number(share, "motion_duty_percent", 0, 100);
        var framed = channels.Where(c => c.FramesPerSecond > 0).ToList();
        double? readFrames = framed.Count > 0 ? framed.Average(c => c.FramesPerSecond!.Value) : null;
        var byFrames = channels
            .Select(c =>
                c with
                {
                    Stream = c.Stream with
                    {
                        BitRateMbps =
                            c.Stream.BitRateMbps
                            * (tried.FramesPerSecond is { } wanted && c.FramesPerSecond is > 0 and var own ? wanted / own : 1),
                    },
                }
            )
            .ToList();
        var mean = byFrames.Count > 0 ? byFrames.Average(c => c.Stream.BitRateMbps) : 0;
        var factor = tried.MeanMbps is { } to && mean > 0 ? to / mean : 1;
        RecordedStream[] streams =
        [
            .. byFrames.Select(c =>
                c.Stream with
                {
                    BitRateMbps = c.Stream.BitRateMbps * factor,
                    MotionPercent = OnMotion(c) ? tried.MotionPercent ?? c.Stream.MotionPercent : c.Stream.MotionPercent,
                }
            ),
        ];
        var usable = store.Array.UsableTb;
        var retention = Retention.Of(streams, usable, CapacityUnit.Tb, store.ReservePercent, days);
        var load = RecorderLoad.Of(streams, store.IntakeMbps, store.UplinkMbps, store.Viewers, store.ViewerMbps);
        var estimated = channels.Count(c => c.Origin == RateOrigin.Estimated);
        ImmutableArray<RecordingSpare> spare =
        [
            .. new[]
            {
                new RecordingSpare(RecordingLimit.Intake, Rise(load.IngestMbps, store.IntakeMbps)),
                new RecordingSpare(
                    RecordingLimit.Uplink,
                    Rise(load.IngestMbps, store.UplinkMbps * UplinkShare - store.Viewers * store.ViewerMbps)
                ),
                new RecordingSpare(RecordingLimit.Days, retention.Days / days - 1),
            }.OrderBy(s => s.Share ?? double.MaxValue),
        ];
        var least = spare[0].Share;
        var motion = streams.Where(s => s.Mode is RecordingMode.Motion or RecordingMode.ScheduleMotion).ToList();
        var full = streams.Length > 0 ? streams.Average(s => s.BitRateMbps) : 0;
        double? frames = tried.FramesPerSecond ?? readFrames;
        return new(
            retention,
            load,
            retention.Days is not { } kept ? null
                : estimated > 0 && Math.Abs(kept / days - 1) < TooClose ? Measures.Outcome.TooClose
                : retention.Verdict == RetentionVerdict.Ok ? Measures.Outcome.In
                : Measures.Outcome.Out,
            spare,
            new(
                // Only what has a rate of frames follows it.
                framed.Count == channels.Count
                && least is { } up
                    ? frames * (1 + up)
                    : null,
                least is { } more ? full * (1 + more) : null,
                MostMotion(streams, usable, store.ReservePercent, days),
                retention.Days
            ),
            estimated,
            frames,
            full,
            motion.Count > 0 ? motion.Average(s => s.MotionPercent ?? 0) : null
        );
    }

    /// <summary>Of a link that may be used.</summary>
    private const double UplinkShare = 0.7;

    private static bool OnMotion(ChannelLoad c) => c.Stream.Mode is RecordingMode.Motion or RecordingMode.ScheduleMotion;

    private static double? Rise(double is_, double limit) => is_ > 0 ? limit / is_ - 1 : null;

    /// <summary>The share of motion at which the days just hold: the mean rate is a straight line of it.</summary>
    private static double? MostMotion(RecordedStream[] streams, double usableTb, double reservePercent, double days)
    {
        double At(double percent) =>
            streams.Sum(s =>
                (s.Mode is RecordingMode.Motion or RecordingMode.ScheduleMotion ? s with { MotionPercent = percent } : s).MeanMbps
            );
        var (none, all) = (At(0), At(100));
        if (all - none <= 0)
            return null;
        var allowed = usableTb * 1e12 * (1 - reservePercent / 100) / (days * Retention.BytesPerDayOf(1));
        return (allowed - none) / (all - none) * 100;
    }
}
