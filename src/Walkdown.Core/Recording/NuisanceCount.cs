using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Recording;

/// <summary>How often zones rang by themselves, as the recorder tells it: counted over the same time before and after they were changed.
/// What somebody made ring on purpose is no nuisance.</summary>
/// <param name="AfterEvents">Since the change.</param>
/// <param name="AfterMinutes">Counted over.</param>
/// <param name="BeforeEvents">Before it; null: they were not changed, or the recorder tells of no time before.</param>
/// <param name="BeforeMinutes">Counted over; null likewise.</param>
public sealed record NuisanceCount(int AfterEvents, double AfterMinutes, int? BeforeEvents, double? BeforeMinutes)
{
    /// <summary>The row of a Card that says it.</summary>
    public static readonly CheckId Row = new("recorder.nuisance");

    /// <summary>The act that begins the time after.</summary>
    public const string Changed = "zone-changed";

    /// <summary>A recorder tells of so much.</summary>
    public static readonly TimeSpan Told = TimeSpan.FromHours(48);

    /// <summary>Longer than this nothing is counted: the day before is another day.</summary>
    private static readonly TimeSpan Most = TimeSpan.FromHours(24);

    /// <summary>Shorter than this says nothing (practice).</summary>
    private static readonly TimeSpan Least = TimeSpan.FromMinutes(10);

    /// <summary>So near to an event that somebody made it was that one.</summary>
    private static readonly TimeSpan Near = TimeSpan.FromSeconds(45);

    /// <summary>Counts.</summary>
    /// <param name="rang">When, by our clock; in any order.</param>
    /// <param name="readAt">When the recorder was asked.</param>
    /// <param name="changed">When the zones were changed last; null: not on record.</param>
    /// <param name="made">Events that somebody made before the camera.</param>
    /// <returns>Null where the time since the change is too short to count.</returns>
    public static NuisanceCount? Of(
        IReadOnlyCollection<DateTimeOffset> rang,
        DateTimeOffset readAt,
        DateTimeOffset? changed,
        IReadOnlyCollection<DateTimeOffset> made
    )
    {
        // What it told before they were changed says nothing of how they are.
        if (changed > readAt)
            return null;
        var since = changed is { } at && readAt - at < Most ? at : readAt - Most;
        var span = readAt - since;
        if (span < Least)
            return null;
        var own = rang.Where(r => !made.Any(m => (r - m).Duration() <= Near)).ToList();
        int Count(DateTimeOffset from, DateTimeOffset to) => own.Count(r => r > from && r <= to);
        var before = changed == since && readAt - (since - span) <= Told;
        return new(Count(since, readAt), span.TotalMinutes, before ? Count(since - span, since) : null, before ? span.TotalMinutes : null);
    }

    /// <summary>More often than the limit set allows by even the least that the count may mean; what a person wants of it, its Card says.
    /// Null: not told, or not so often.</summary>
    /// <param name="catalogue">In force.</param>
    public ChannelNote? Wrong(Catalogue catalogue) =>
        catalogue.Limit("nuisance.rate")?.Max is { } most
        && FormJudges.PoissonInterval(AfterEvents).Low * 60 / AfterMinutes is var least
        && least > most
            ? new(new("map.rings", Message.Number(AfterEvents * 60 / AfterMinutes, 1), Message.Number(most)), true)
            : null;

    /// <summary>As a reading of the row.</summary>
    public FormValue Value() =>
        new([
            new FormLine([
                .. BeforeEvents is { } was && BeforeMinutes is { } over
                    ? new[] { new FieldSaid("before-events", was), new FieldSaid("before-minutes", Math.Round(over)) }
                    : [],
                new FieldSaid("after-events", AfterEvents),
                new FieldSaid("after-minutes", Math.Round(AfterMinutes)),
            ]),
        ]);
}
