using Walkdown.Core.Measures;

namespace Walkdown.Core.Recording;

/// <summary>What somebody did before a camera, so that there is something to find again.</summary>
public enum EventWay
{
    /// <summary>Walked through the picture.</summary>
    Walk,

    /// <summary>Held a hand before the lens.</summary>
    Hand,

    /// <summary>Switched a lamp.</summary>
    Lamp,
}

/// <summary>What a recorder is asked for: around a moment, by its own clock.</summary>
/// <param name="EventAt">By our clock.</param>
/// <param name="Clock">The recorder's against ours.</param>
/// <param name="LeastSeconds">That the clip must be long.</param>
public sealed record ClipAsk(DateTimeOffset EventAt, RecorderClock Clock, double LeastSeconds = ClipAsk.UsualSeconds)
{
    /// <summary>Where a job asks for no other length (practice; the least that is asked anywhere is 3 s).</summary>
    public const double UsualSeconds = 10;

    /// <summary>Looked at before the event, to see that an always recorded channel was running.</summary>
    private const double Lead = 5;

    /// <summary>So late may a recording on movement begin, seconds (practice).</summary>
    internal const double Late = 5;

    /// <summary>The event by the recorder's clock.</summary>
    public DateTimeOffset There => EventAt.AddSeconds(Clock.OffsetSeconds);

    /// <summary>From here.</summary>
    public DateTimeOffset From => There.AddSeconds(-Clock.UncertaintySeconds - Lead);

    /// <summary>To here.</summary>
    public DateTimeOffset To => There.AddSeconds(Clock.UncertaintySeconds + Late + LeastSeconds + 2);

    /// <summary>When the last picture of it can be on the disk, by our clock: before, nobody needs to ask.</summary>
    public DateTimeOffset ReadyAt => EventAt.AddSeconds(2 * Clock.UncertaintySeconds + Late + LeastSeconds + 2);
}

/// <summary>A clip as it came.</summary>
/// <param name="Channel">That it says it is of; null where it does not say.</param>
/// <param name="FrameTimes">Of each picture, by the recorder's clock, in the order that they came.</param>
/// <param name="IsWhole">It ended as a clip ends, and was not cut off.</param>
public sealed record ClipHeard(int? Channel, ImmutableArray<DateTimeOffset> FrameTimes, bool IsWhole);

/// <summary>What a clip proves.</summary>
public enum ClipVerdict
{
    /// <summary>The event is on the disk, long enough.</summary>
    Found,

    /// <summary>Nothing of that time.</summary>
    None,

    /// <summary>Something, and not of the moment of the event.</summary>
    Elsewhere,

    /// <summary>It ends too soon.</summary>
    TooShort,

    /// <summary>Pictures are missing in it.</summary>
    Gap,

    /// <summary>It broke off on its way: what is on the disk may be longer.</summary>
    CutOff,

    /// <summary>It is of another channel than was asked for.</summary>
    OtherChannel,

    /// <summary>Its pictures go back in time: the clock was set, or the recorder mixes them.</summary>
    Jumps,

    /// <summary>The recorder's clock is not known well enough to tell the event from another.</summary>
    Unclear,
}

/// <summary>A clip held against the event that somebody made.</summary>
/// <param name="Verdict">What it proves.</param>
/// <param name="From">Its first picture of the event, by the recorder's clock; null where there is none.</param>
/// <param name="Seconds">From there without a gap.</param>
/// <param name="BeginsLate">Seconds from the event to its first picture; 0: it was running before.</param>
/// <param name="GapSeconds">The longest without a picture, from its first to its last; null: fewer than two.</param>
/// <param name="FramesPerSecond">As they came; null likewise.</param>
/// <param name="Because">In words.</param>
public sealed record ClipProof(
    ClipVerdict Verdict,
    DateTimeOffset? From,
    double Seconds,
    double BeginsLate,
    double? GapSeconds,
    double? FramesPerSecond,
    Message Because
)
{
    /// <summary>The row of a channel that a clip was found.</summary>
    public static readonly Acceptance.CheckId Row = new("recorder.clip");

    /// <summary>The row of a channel that one was found after a restart.</summary>
    public static readonly Acceptance.CheckId RowAfter = new("recorder.clip-after");

    /// <summary>It proves, or it proves the contrary; null: it does neither, and is to be had again.</summary>
    public bool? Proves =>
        Verdict switch
        {
            ClipVerdict.Found => true,
            ClipVerdict.None or ClipVerdict.Elsewhere or ClipVerdict.TooShort or ClipVerdict.Gap => false,
            _ => null,
        };

    /// <summary>An uncertainty from which on another event may be taken for this one, seconds (practice).</summary>
    private const double Vague = 15;

    /// <summary>A second, or three pictures of a slow recording.</summary>
    private static double LongestPause(double[] steps) =>
        Math.Max(1, 3 * (steps.Length == 0 ? 0 : steps.Order().ElementAt(steps.Length / 2)));

    /// <summary>Holds a clip against its event.</summary>
    /// <param name="ask">What was asked for.</param>
    /// <param name="channel">Of which channel.</param>
    /// <param name="when">When it is recorded: what is recorded all day has no gap before the event either.</param>
    /// <param name="clip">What came.</param>
    public static ClipProof Of(ClipAsk ask, int channel, RecordedWhen when, ClipHeard clip)
    {
        static ClipProof Not(ClipVerdict verdict, params string[] args) =>
            new(verdict, null, 0, 0, null, null, new("clip." + Codes.Of(verdict), [.. args]));
        if (clip.Channel is { } said && said != channel)
            return Not(ClipVerdict.OtherChannel, Message.Number(said), Message.Number(channel));
        if (clip.FrameTimes.Length == 0)
            return clip.IsWhole ? Not(ClipVerdict.None) : Not(ClipVerdict.CutOff, "0");
        var u = ask.Clock.UncertaintySeconds;
        if (u > Vague)
            return Not(ClipVerdict.Unclear, Message.Number(u, 1));
        double[] at = [.. clip.FrameTimes.Select(t => (t - ask.There).TotalSeconds)];
        double[] steps = [.. at.Zip(at.Skip(1), (a, b) => b - a)];
        if (steps.Any(s => s < 0))
            return Not(ClipVerdict.Jumps, Message.Number(-steps.Min(), 1));
        var pause = LongestPause(steps);
        // Pieces without a pause: first and last picture of each.
        var pieces = new List<(double From, double To)>();
        var from = at[0];
        for (var i = 1; i <= at.Length; i++)
            if (i == at.Length || steps[i - 1] > pause)
            {
                pieces.Add((from, at[i - 1]));
                if (i < at.Length)
                    from = at[i];
            }
        double? gap = steps.Length > 0 ? steps.Max() : null;
        double? frames = at[^1] > at[0] ? (at.Length - 1) / (at[^1] - at[0]) : null;
        ClipProof Told(ClipVerdict verdict, (double From, double To) piece, params string[] args) =>
            new(
                verdict,
                ask.There.AddSeconds(piece.From),
                Length(piece),
                Math.Max(0, piece.From),
                gap,
                frames,
                new("clip." + Codes.Of(verdict), [.. args])
            );
        // Of the event are those that were running at its moment, or began soon enough after it.
        double Length((double From, double To) piece) => piece.To - Math.Max(piece.From, -u);
        var ofEvent = pieces.Where(p => p.To >= -u && p.From <= u + ClipAsk.Late).ToList();
        if (ofEvent.Count == 0)
        {
            // What broke off before the moment of the event says nothing of it.
            if (!clip.IsWhole && at[^1] <= u + ClipAsk.Late)
                return Not(ClipVerdict.CutOff, "0");
            var near = pieces.MinBy(p => p.From > 0 ? p.From : -p.To);
            return Told(
                ClipVerdict.Elsewhere,
                near,
                Message.Number(Math.Abs(near.From > 0 ? near.From : near.To), 1),
                near.From > 0 ? "@clip.after-it" : "@clip.before-it"
            );
        }
        var best = ofEvent.MaxBy(Length);
        var isLong = Length(best) >= ask.LeastSeconds - 0.5 / (frames ?? 1);
        // All day means before the event, too.
        var hole =
            when == RecordedWhen.Always && best.From > u + 1 ? best.From
            // One that is running when the clip breaks off may go on: its length is not known.
            : pieces.Count > 1 && (!isLong && (clip.IsWhole || best != pieces[^1]) || when == RecordedWhen.Always) ? gap
            : null;
        return hole is { } missing ? Told(ClipVerdict.Gap, best, Message.Number(missing, 1))
            : isLong ? Told(ClipVerdict.Found, best, Message.Number(Length(best), 0), Message.Number(Math.Max(0, best.From), 1))
            : clip.IsWhole ? Told(ClipVerdict.TooShort, best, Message.Number(Length(best), 1), Message.Number(ask.LeastSeconds))
            : Told(ClipVerdict.CutOff, best, Message.Number(Length(best), 1));
    }
}
