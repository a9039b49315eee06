namespace Walkdown.Core.Recording;

/// <summary>An event that somebody made before a camera, and that is to be found again.</summary>
/// <param name="Channel">That its picture should arrive at.</param>
/// <param name="Device">The place.</param>
/// <param name="Head">Of the place.</param>
/// <param name="Way">What was done.</param>
/// <param name="At">By our clock.</param>
public sealed record EventMade(int Channel, Guid Device, int Head, EventWay Way, DateTimeOffset At);

/// <summary>One event at one channel, and the clip that was looked for.</summary>
/// <param name="Channel">Of the recorder.</param>
/// <param name="Device">The place before whose camera it was made.</param>
/// <param name="Head">Of the place.</param>
/// <param name="Way">What was done.</param>
/// <param name="EventAt">By our clock.</param>
/// <param name="When">When the channel was recorded, as it said then.</param>
/// <param name="Proof">Null: the recorder did not answer; nothing is proven either way.</param>
/// <param name="Still">The picture that was kept of it, of the place; null: none came.</param>
/// <param name="Earlier">After a restart: whether the clip from before it is still there; null: not looked for.</param>
/// <param name="View">Whose picture was on the channel then, as the recorder told; empty: it told nobody's.</param>
/// <param name="StartedAt">The recorder's last start when the clip was had, by our clock; null: it did not say.</param>
public sealed record ProvenEvent(
    int Channel,
    Guid Device,
    int Head,
    EventWay Way,
    DateTimeOffset EventAt,
    RecordedWhen When,
    ClipProof? Proof,
    Guid? Still = null,
    bool? Earlier = null,
    string View = "",
    DateTimeOffset? StartedAt = null
);

/// <summary>A channel's proof, before and after a restart of its recorder.</summary>
/// <param name="Channel">Of the recorder.</param>
/// <param name="Before">The last from before it; where there was no restart since somebody proved anything: the last of all.</param>
/// <param name="After">The last since; null: none.</param>
/// <param name="RestartAt">By our clock; null: there was none since the first event.</param>
public sealed record ChannelProof(int Channel, ProvenEvent? Before, ProvenEvent? After, DateTimeOffset? RestartAt)
{
    /// <summary>Of each channel that somebody made an event at.</summary>
    /// <param name="proven">Of one recorder, in any order.</param>
    /// <param name="restarts">Its starts, by our clock.</param>
    public static ImmutableArray<ChannelProof> Of(IReadOnlyCollection<ProvenEvent> proven, IReadOnlyCollection<DateTimeOffset> restarts)
    {
        if (proven.Count == 0)
            return [];
        var first = proven.Min(p => p.EventAt);
        // A start from before anybody proved anything is none that a proof must outlive.
        var counted = restarts.Where(r => r > first).Order().ToList();
        return
        [
            .. proven
                .GroupBy(p => p.Channel)
                .OrderBy(g => g.Key)
                .Select(g =>
                {
                    var own = g.OrderBy(p => p.EventAt).ToList();
                    // The last restart that something was proven after; else the last.
                    var restart =
                        counted.FindLastIndex(r => own.Exists(p => p.EventAt > r)) is >= 0 and var i ? counted[i]
                        : counted.Count > 0 ? counted[^1]
                        : (DateTimeOffset?)null;
                    return new ChannelProof(
                        g.Key,
                        own.LastOrDefault(p => restart is null || p.EventAt <= restart),
                        restart is null ? null : own.LastOrDefault(p => p.EventAt > restart),
                        restart
                    );
                }),
        ];
    }

    /// <summary>Proven before: yes or no; null: neither.</summary>
    public bool? IsProven => Before?.Proof?.Proves;

    /// <summary>Proven after the restart, with what was there before it: yes or no; null: neither.</summary>
    public bool? IsProvenAfter =>
        After?.Proof?.Proves is not { } proves ? null
        : !proves || After.Earlier == false ? false
        : After.Earlier == true ? true
        : null;
}

/// <summary>How many channels of the plan are proven.</summary>
/// <param name="Planned">All of them.</param>
/// <param name="Proven">Found before a restart, or where there was none.</param>
/// <param name="Refused">Not found then.</param>
/// <param name="Open">Without an event that tells either.</param>
/// <param name="ProvenAfter">Found after it, with what was there before it.</param>
/// <param name="RefusedAfter">One of both not.</param>
public sealed record ProofTally(int Planned, int Proven, int Refused, int Open, int ProvenAfter, int RefusedAfter);

/// <summary>How it stands with an event before a camera.</summary>
/// <param name="Waits">A clip of it is to be had.</param>
/// <param name="Proves">Its clip was there, on every channel of the camera; false: on one it was not; null: not every one tells.</param>
public sealed record EventStanding(bool Waits, bool? Proves)
{
    /// <param name="at">When it was made.</param>
    /// <param name="channels">Of the camera, by recorder and number.</param>
    public static EventStanding Of(DateTimeOffset at, IReadOnlyCollection<(RecorderProofs Proofs, int Channel)> channels)
    {
        bool?[] told =
        [
            .. channels.Select(c => c.Proofs.Counted.FirstOrDefault(p => p.Channel == c.Channel && p.EventAt == at)?.Proof?.Proves),
        ];
        return new(
            channels.Any(c => c.Proofs.Waiting.Any(w => w.Channel == c.Channel && w.At == at)),
            told.Contains(false) ? false
                : told.Length > 0 && told.All(t => t == true) ? true
                : null
        );
    }
}

/// <summary>What is proven at one recorder, and what waits to be.</summary>
/// <param name="Counted">Of each event the look that counts, where its channel still carries whom it carried.</param>
/// <param name="Waiting">Events whose clip is to be had, one a channel, by number.</param>
/// <param name="Starts">Of the recorder, by our clock.</param>
/// <param name="ByChannel">Of each channel that somebody made an event at.</param>
/// <param name="Made">Every event of the last two days.</param>
public sealed record RecorderProofs(
    ImmutableArray<ProvenEvent> Counted,
    ImmutableArray<EventMade> Waiting,
    ImmutableArray<DateTimeOffset> Starts,
    ImmutableDictionary<int, ChannelProof> ByChannel,
    ImmutableArray<EventMade> Made
)
{
    /// <summary>An event that nobody looked for so long is another day's.</summary>
    public static readonly TimeSpan Lasts = TimeSpan.FromDays(2);

    /// <summary>Two starts of which each is told by an own reading of the clock are one where they are so near, seconds.</summary>
    private const double SameStart = 20;

    /// <summary>Puts together what looks brought.</summary>
    /// <param name="looked">Oldest first.</param>
    /// <param name="events">In any order.</param>
    /// <param name="reading">What the recorder says now; null: nobody has asked it.</param>
    /// <param name="now">By our clock.</param>
    public static RecorderProofs Of(
        IReadOnlyCollection<ProvenEvent> looked,
        IReadOnlyCollection<EventMade> events,
        RecorderReading? reading,
        DateTimeOffset now
    )
    {
        var views = (reading?.Channels ?? []).GroupBy(c => c.Number).ToDictionary(g => g.Key, g => g.First().View);
        // What another's picture proved is no proof of the one that is there now.
        bool IsStill(ProvenEvent p) =>
            p.View.Length == 0 || !views.TryGetValue(p.Channel, out var view) || view.Length == 0 || view == p.View;
        ImmutableArray<ProvenEvent> counted =
        [
            .. looked
                .Where(IsStill)
                // Of several looks for one event the last one that says yes or no.
                .GroupBy(p => (p.Channel, p.EventAt))
                .Select(g => g.LastOrDefault(p => p.Proof?.Proves is not null) ?? g.Last()),
        ];
        var starts = ImmutableArray.CreateBuilder<DateTimeOffset>();
        foreach (var at in looked.Select(p => p.StartedAt).Append(reading?.StartedAt).OfType<DateTimeOffset>().Order())
            if (starts.Count == 0 || (at - starts[^1]).TotalSeconds > SameStart)
                starts.Add(at);
        var told = looked.Where(p => p.Proof?.Proves is not null).ToLookup(p => p.Channel, p => p.EventAt);
        return new(
            counted,
            [
                .. events
                    .Where(e => e.At > now - Lasts)
                    // Who pressed twice means the second.
                    .GroupBy(e => e.Channel)
                    .Select(g => g.MaxBy(e => e.At)!)
                    .Where(e => told[e.Channel].All(at => at < e.At))
                    .OrderBy(e => e.Channel),
            ],
            starts.ToImmutable(),
            ChannelProof.Of(counted, starts).ToImmutableDictionary(p => p.Channel),
            [.. events]
        );
    }

    /// <summary>The proof from before the last start that came before an event: its clip must be there still. Null: there is
    /// none.</summary>
    /// <param name="made">The event.</param>
    public ProvenEvent? Before(EventMade made)
    {
        var start = Starts.Where(s => s < made.At).Select(s => (DateTimeOffset?)s).Max();
        return start is null
            ? null
            : Counted.Where(p => p.Channel == made.Channel && p.EventAt < start && p.Proof?.Proves == true).MaxBy(p => p.EventAt);
    }

    /// <summary>Of the channels that are planned.</summary>
    public ProofTally Tally(ChannelMap map)
    {
        var own = map.Channels.Where(c => c.Planned is not null).Select(c => ByChannel.GetValueOrDefault(c.Number)).ToList();
        return new(
            own.Count,
            own.Count(p => p?.IsProven == true),
            own.Count(p => p?.IsProven == false),
            own.Count(p => p?.IsProven is null),
            own.Count(p => p?.IsProvenAfter == true),
            own.Count(p => p?.IsProvenAfter == false)
        );
    }
}
