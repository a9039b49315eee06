using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Recording;

/// <summary>What is tried out; what is left out stays as it was read.</summary>
/// <param name="FramesPerSecond">Of every channel; the rate of bits follows it.</param>
/// <param name="MeanMbps">Of a channel on the mean, while it is written at its full rate; each channel by the same factor.</param>
/// <param name="MotionPercent">Of every channel that is recorded on motion.</param>
/// <param name="DaysPromised">Instead of those that were.</param>
/// <param name="Viewers">That look from away at once.</param>
public sealed record RecordingTry(
    double? FramesPerSecond = null,
    double? MeanMbps = null,
    double? MotionPercent = null,
    double? DaysPromised = null,
    int? Viewers = null
);

/// <summary>What a recorder can run out of.</summary>
public enum RecordingLimit
{
    /// <summary>What it can take in when everything moves.</summary>
    Intake,

    /// <summary>The days that its disks hold.</summary>
    Days,

    /// <summary>What its line carries to the outside.</summary>
    Line,
}

/// <summary>What is on the line to the outside.</summary>
/// <param name="UploadMbps">That it carries.</param>
/// <param name="SendsMbps">That goes out all day.</param>
/// <param name="UsedMbps">That goes out with all viewers.</param>
/// <param name="AllowedMbps">That may.</param>
/// <param name="Viewers">At once.</param>
/// <param name="MostViewers">That fit; null: any.</param>
/// <param name="IsWithin">It fits.</param>
public sealed record LineForecast(
    double UploadMbps,
    double SendsMbps,
    double UsedMbps,
    double AllowedMbps,
    int Viewers,
    int? MostViewers,
    bool IsWithin
)
{
    /// <summary>Times that what goes out by itself may grow until the line is full; null: nothing does.</summary>
    internal double? Room => SendsMbps > 0 ? (AllowedMbps - (UsedMbps - SendsMbps)) / SendsMbps : null;
}

/// <summary>A line to the outside, with the share of it that may be used.</summary>
/// <param name="Line">The line.</param>
/// <param name="UsePercent">Of it.</param>
public sealed record LineAllowed(OutsideLine Line, double UsePercent)
{
    /// <summary>As a reading of a Card's row says it; null where that leaves out what is needed.</summary>
    /// <param name="said">Of <see cref="OutsideLine.Row"/>.</param>
    /// <param name="facts">Of the Card.</param>
    /// <param name="catalogue">In force.</param>
    public static LineAllowed? Of(FormLine said, CardFacts facts, Catalogue catalogue) =>
        OutsideLine.Of(said, CheckPlan.FeaturesOf(facts, catalogue).Contains(OutsideLine.SendsAway)) is { } line
            ? new(line, catalogue.Figure(OutsideLine.Share))
            : null;
}

/// <summary>How far one limit is away.</summary>
/// <param name="Limit">Which.</param>
/// <param name="Share">So much may the rate of bits rise, as a share of what it is; negative: so much is too much.</param>
public sealed record RecordingSpare(RecordingLimit Limit, double Share);

/// <summary>The most of each thing that is tried, all else as it is tried; at the most what can be tried; null: nothing known limits
/// it.</summary>
/// <param name="FramesPerSecond">Frames.</param>
/// <param name="MeanMbps">Rate of a channel.</param>
/// <param name="MotionPercent">Share of motion; above 100: any.</param>
/// <param name="Days">Days.</param>
public sealed record RecordingMost(double? FramesPerSecond, double? MeanMbps, double? MotionPercent, double? Days);

/// <summary>Whether a recorder holds what was promised, and what breaks first (docs/calculations.md, J).</summary>
/// <param name="Retention">Of all channels.</param>
/// <param name="Outcome">Of the days; null: nothing is recorded.</param>
/// <param name="Spare">Of the limits that are known; the one that breaks first comes first.</param>
/// <param name="Most">Of each thing that is tried.</param>
/// <param name="ChannelMbps">Of each channel on the mean over the day, in their order.</param>
/// <param name="Estimated">Channels whose rate nobody has read.</param>
/// <param name="FramesPerSecond">Of a channel on the mean; null where nobody knows of any.</param>
/// <param name="MeanMbps">Of a channel on the mean, at its full rate.</param>
/// <param name="MotionPercent">On the mean of those on motion; null where none is.</param>
public sealed record RecordingForecast(
    Retention Retention,
    Outcome? Outcome,
    ImmutableArray<RecordingSpare> Spare,
    RecordingMost Most,
    ImmutableArray<double> ChannelMbps,
    int Estimated,
    double? FramesPerSecond,
    double MeanMbps,
    double? MotionPercent
)
{
    /// <summary>What is on its line to the outside; null: nobody has said what that carries, and nothing is judged by it.</summary>
    public LineForecast? Line { get; private init; }

    /// <summary>An estimate says nothing about days that are so near (practice).</summary>
    private const double TooClose = 0.1;

    /// <summary>What can be tried, at the most: frames a second, Mbit/s of a channel, days.</summary>
    private const double FramesTried = 1000,
        MbpsTried = 100_000,
        DaysTried = 100_000,
        ViewersTried = 100_000;

    /// <summary>Of days that a store holds: too close while a rate is estimated and they are within a tenth; null: nothing is
    /// recorded.</summary>
    internal static Outcome? OutcomeOf(Retention retention, double promised, bool isEstimate) =>
        retention.Days is not { } days ? null
        : isEstimate && Math.Abs(days / promised - 1) < TooClose ? Measures.Outcome.TooClose
        : retention.Verdict == RetentionVerdict.Ok ? Measures.Outcome.In
        : Measures.Outcome.Out;

    /// <summary>With what is tried.</summary>
    /// <exception cref="BadInputException">A figure that cannot be.</exception>
    /// <param name="line">To the outside; null: nobody has said.</param>
    /// <param name="store">What it records on.</param>
    /// <param name="channels">That it records.</param>
    /// <param name="tried">Null: nothing.</param>
    public static RecordingForecast Of(
        RecorderStore store,
        IReadOnlyList<ChannelLoad> channels,
        RecordingTry? tried = null,
        LineAllowed? line = null
    )
    {
        tried ??= new();
        var days = Require.Positive(tried.DaysPromised ?? store.DaysPromised, "days_promised", DaysTried);
        var readFrames = channels.Select(c => c.FramesPerSecond).OfType<double>().DefaultIfEmpty().Average();
        var streams = Tried(channels, tried);
        var usable = store.Array.UsableTb;
        var retention = Retention.Of(streams, usable, CapacityUnit.Tb, store.ReservePercent, days);
        var estimated = channels.Count(c => c.Origin == RateOrigin.Estimated);
        var spare = ImmutableArray.CreateBuilder<RecordingSpare>();
        if (store.IntakeMbps is { } intake && retention.PeakMbps > 0)
            spare.Add(new(RecordingLimit.Intake, intake / retention.PeakMbps - 1));
        if (retention.Days is { } held)
            spare.Add(new(RecordingLimit.Days, held / days - 1));
        var outside = line is null ? null : Outside(line, channels, retention.MeanMbps, tried.Viewers);
        if (outside?.Room is { } room)
            spare.Add(new(RecordingLimit.Line, room - 1));
        spare.Sort((a, b) => a.Share.CompareTo(b.Share));
        double? rise = spare.Count > 0 ? 1 + spare[0].Share : null;
        double? frames = readFrames > 0 ? tried.FramesPerSecond ?? readFrames : null;
        var full = streams.Length > 0 ? streams.Average(s => s.BitRateMbps) : 0;
        var motion = streams.Where(IsOnMotion).ToList();
        return new(
            retention,
            OutcomeOf(retention, days, estimated > 0),
            spare.ToImmutable(),
            new(
                // Only what has a rate of frames follows it.
                channels.All(c => c.FramesPerSecond is not null)
                    ? Within(frames * rise, FramesTried)
                    : null,
                Within(full * rise, MbpsTried),
                MostMotion(streams, usable, store.ReservePercent, days, outside?.Room * retention.MeanMbps ?? double.PositiveInfinity),
                Within(retention.Days, DaysTried)
            ),
            [.. streams.Select(s => s.MeanMbps)],
            estimated,
            frames,
            full,
            motion.Count > 0 ? motion.Average(s => s.MotionPercent ?? 0) : null
        )
        {
            Line = outside,
        };
    }

    /// <summary>What goes out by itself rises and falls with what is recorded.</summary>
    private static LineForecast Outside(LineAllowed said, IReadOnlyList<ChannelLoad> channels, double meanMbps, int? viewers)
    {
        var read = channels.Sum(c => c.Stream.MeanMbps);
        var line = said.Line with
        {
            Viewers = (int)Require.Number(viewers ?? said.Line.Viewers, "live_viewers", 0, ViewersTried),
            SendsMbps = read > 0 ? said.Line.SendsMbps * meanMbps / read : said.Line.SendsMbps,
        };
        var load = line.Load(said.UsePercent);
        return new(
            line.UploadMbps,
            line.SendsMbps,
            load.UplinkMbps,
            line.UploadMbps * said.UsePercent / 100,
            line.Viewers,
            line.MostViewers(said.UsePercent),
            load.UplinkOk
        );
    }

    private static double? Within(double? most, double tried) => most is { } own ? Math.Min(own, tried) : null;

    /// <summary>The streams with what is tried: frames first, then the mean rate, then motion.</summary>
    private static RecordedStream[] Tried(IReadOnlyList<ChannelLoad> channels, RecordingTry tried)
    {
        if (tried.FramesPerSecond is { } rate)
            Require.Positive(rate, "frames_per_s", FramesTried);
        if (tried.MeanMbps is { } bits)
            Require.Positive(bits, "bit_rate_mbps", MbpsTried);
        if (tried.MotionPercent is { } share)
            Require.Number(share, "motion_duty_percent", 0, 100);
        RecordedStream[] streams =
        [
            .. channels.Select(c =>
                tried.FramesPerSecond is { } wanted && c.FramesPerSecond is { } own
                    ? c.Stream with
                    {
                        BitRateMbps = c.Stream.BitRateMbps * wanted / own,
                    }
                    : c.Stream
            ),
        ];
        var mean = streams.Select(s => s.BitRateMbps).DefaultIfEmpty().Average();
        var factor = tried.MeanMbps is { } to && mean > 0 ? to / mean : 1;
        return
        [
            .. streams.Select(s =>
                s with
                {
                    BitRateMbps = s.BitRateMbps * factor,
                    MotionPercent = IsOnMotion(s) ? tried.MotionPercent ?? s.MotionPercent : s.MotionPercent,
                }
            ),
        ];
    }

    private static bool IsOnMotion(RecordedStream s) => s.Mode is RecordingMode.Motion or RecordingMode.ScheduleMotion;

    /// <summary>The share of motion at which the days just hold, and the line: the mean rate is a straight line of it.</summary>
    private static double? MostMotion(RecordedStream[] streams, double usableTb, double reservePercent, double days, double mostMbps)
    {
        double At(double percent) => streams.Sum(s => (IsOnMotion(s) ? s with { MotionPercent = percent } : s).MeanMbps);
        var (none, all) = (At(0), At(100));
        if (all - none <= 0)
            return null;
        var allowed = Math.Min(mostMbps, usableTb * 1e12 * (1 - reservePercent / 100) / (days * Retention.BytesPerDayOf(1)));
        return (allowed - none) / (all - none) * 100;
    }
}
