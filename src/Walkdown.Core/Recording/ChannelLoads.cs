using Walkdown.Core.Addressing;

namespace Walkdown.Core.Recording;

/// <summary>What is known of one channel before anything is reckoned.</summary>
/// <param name="Channel">From 1.</param>
/// <param name="Label">Of the place.</param>
/// <param name="Area">Of the place.</param>
/// <param name="Streams">That the camera offers; empty where nobody has asked it.</param>
/// <param name="PixelsWide">By its model's sheet; null: it does not say.</param>
/// <param name="PixelsHigh">Likewise.</param>
/// <param name="Mode">By the row of its Card, in the words of <c>recorder.mode</c>; null: nobody has looked.</param>
/// <param name="Recorded">What the recorder says of it; null: nobody has asked.</param>
public sealed record ChannelRead(
    int Channel,
    string Label,
    string Area,
    ImmutableArray<CameraStream> Streams,
    int? PixelsWide,
    int? PixelsHigh,
    string? Mode,
    RecorderChannel? Recorded = null
);

/// <summary>The channels of a recorder as they are reckoned with.</summary>
/// <param name="Channels">Those of which a rate is known, or can be estimated.</param>
/// <param name="Unknown">Labels of the others: of them nothing is reckoned.</param>
/// <param name="NotRecorded">Labels of those that are off, or go to a card or elsewhere.</param>
/// <param name="MotionAssumed">Some are on motion or by the clock, and how much that is, is assumed.</param>
public sealed record ChannelLoads(
    ImmutableArray<ChannelLoad> Channels,
    ImmutableArray<string> Unknown,
    ImmutableArray<string> NotRecorded,
    bool MotionAssumed
)
{
    /// <summary>Where nobody has measured it: half of the day (practice; what was written in a day replaces it).</summary>
    public const double AssumedMotionPercent = 50;

    /// <summary>Likewise of a schedule.</summary>
    public const double AssumedHours = 12;

    private const double AssumedFrames = 15;

    /// <summary>Reckons with what is known.</summary>
    /// <param name="read">Every channel of the recorder.</param>
    /// <param name="writtenGbPerDay">Written in a full day, read at the recorder: every rate follows it; null: nobody has read it.</param>
    public static ChannelLoads Of(IReadOnlyList<ChannelRead> read, double? writtenGbPerDay)
    {
        var loads = ImmutableArray.CreateBuilder<ChannelLoad>();
        var (unknown, off) = (ImmutableArray.CreateBuilder<string>(), ImmutableArray.CreateBuilder<string>());
        var assumed = false;
        foreach (var channel in read.OrderBy(c => c.Channel))
        {
            if (Read(channel) is { } own)
            {
                loads.Add(own);
                continue;
            }
            if (channel.Mode is "off" or "card" or "cloud" || channel.Recorded?.IsKept == false)
            {
                off.Add(channel.Label);
                continue;
            }
            // The largest of its streams is the one that is recorded.
            var main = channel.Streams.MaxBy(s => (s.Wide ?? 0) * (long)(s.High ?? 0));
            var (wide, high) = (main?.Wide ?? channel.PixelsWide, main?.High ?? channel.PixelsHigh);
            var (rate, origin) =
                main?.KilobitsPerSecond is > 0 and var said ? (said / 1000, RateOrigin.Said)
                : wide is > 0 and var w && high is > 0 and var h
                    ? (
                        BitRateEstimate
                            .Of(
                                w,
                                h,
                                main?.FramesPerSecond is > 0 and var f ? f : AssumedFrames,
                                CodecOf(main?.Codec),
                                SceneComplexity.Medium
                            )
                            .BitRateMbps,
                        RateOrigin.Estimated
                    )
                : (0, RateOrigin.Estimated);
            if (rate <= 0)
            {
                unknown.Add(channel.Label);
                continue;
            }
            var mode = channel.Mode switch
            {
                "motion" => RecordingMode.Motion,
                "schedule" => RecordingMode.Schedule,
                _ => RecordingMode.Continuous,
            };
            assumed |= mode != RecordingMode.Continuous;
            loads.Add(
                new(
                    channel.Channel,
                    channel.Label,
                    channel.Area,
                    new(rate, mode, AssumedMotionPercent, AssumedHours),
                    origin,
                    main?.FramesPerSecond is > 0 and var frames ? frames : null
                )
            );
        }
        var mean = loads.Sum(l => l.Stream.MeanMbps);
        // What the recorder says channel by channel is nearer than one figure for all of them.
        var isRead = loads.Any(l => l.Origin == RateOrigin.Recorded);
        return new(
            writtenGbPerDay is > 0 and var written && mean > 0 && !isRead
                ?
                [
                    .. loads.Select(l =>
                        l with
                        {
                            Origin = RateOrigin.Recorded,
                            Stream = l.Stream with { BitRateMbps = l.Stream.BitRateMbps * (Retention.MeanMbpsOf(written) / mean) },
                        }
                    ),
                ]
                : loads.DrainToImmutable(),
            unknown.DrainToImmutable(),
            off.DrainToImmutable(),
            assumed
        );
    }

    /// <summary>
    /// As the recorder has written it over the last full day: both its mean and its most are as it says, and what is left between them is
    /// how much moved. Null where it did not say both.
    /// </summary>
    private static ChannelLoad? Read(ChannelRead channel)
    {
        if (
            channel.Recorded is not { State: not ChannelState.Empty, MeanMbps: { } mean and > 0, PeakMbps: { } peak and > 0 } said
            || said.IsKept != true
        )
            return null;
        var share = Math.Min(1, mean / peak);
        return new(
            channel.Channel,
            channel.Label,
            channel.Area,
            said.When switch
            {
                RecordedWhen.Motion => new(Math.Max(mean, peak), RecordingMode.Motion, share * 100),
                RecordedWhen.Schedule => new(Math.Max(mean, peak), RecordingMode.Schedule, HoursPerDay: share * 24),
                _ => new(mean),
            },
            RateOrigin.Recorded,
            said.FramesPerSecond is > 0 ? said.FramesPerSecond : null
        );
    }

    private static VideoCodec CodecOf(string? codec) =>
        codec?.ToUpperInvariant() switch
        {
            "H265" or "HEVC" => VideoCodec.H265,
            "JPEG" or "MJPEG" => VideoCodec.Mjpeg,
            _ => VideoCodec.H264,
        };
}
