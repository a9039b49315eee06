using System.Text.Json.Serialization;
using Walkdown.Core.Clocks;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>How the wait of a row stands.</summary>
/// <param name="For">Code of what it waits for, such as <c>check.fixing.seals</c>, <c>act.resealed</c>, <c>wait.dark</c>,
/// <c>wait.recorder</c> or <c>presence.second-person</c>.</param>
/// <param name="Begun">When it was begun; null: not yet.</param>
/// <param name="Until">When the row can be taken; null: not known before it is begun.</param>
/// <param name="Minutes">How long it is, where it is a time; else 0.</param>
/// <param name="Source">Where that comes from; null: nowhere.</param>
/// <param name="Ends">When it can no longer be taken: at dawn, when the other leaves; null: it stays.</param>
public sealed record RowWait(
    string For,
    DateTimeOffset? Begun,
    DateTimeOffset? Until,
    double Minutes,
    Message? Source,
    DateTimeOffset? Ends = null
)
{
    /// <summary>Whether the row cannot be taken at a moment near the one that the Card was judged at.</summary>
    public bool IsWaiting(DateTimeOffset now) => Until is not { } until || now < until || Ends is { } ends && now >= ends;

    /// <summary>The next moment at which that changes; null: none is known.</summary>
    internal DateTimeOffset? ChangesAfter(DateTimeOffset now) =>
        Until is { } until && now < until ? until
        : Ends is { } ends && now < ends ? ends
        : null;

    /// <summary>Says of a reading's moment why it says nothing; null where any moment does.</summary>
    [JsonIgnore]
    internal Func<DateTimeOffset, Message?>? Judge { get; init; }

    /// <summary>Why a reading of this moment says nothing yet; null where it was time. Whoever took a row that waits for somebody, or for a
    /// recorder, had it.</summary>
    internal Message? TooEarly(DateTimeOffset takenAt) => Judge?.Invoke(takenAt);

    /// <summary>How the wait of a row stands; null where it has none. A reading that is taken anew begins it anew.</summary>
    internal static RowWait? Of(RowContext context) =>
        context.Check.Wait is not { } wait ? null
        : wait.Dark ? ForDark(context, wait)
        : wait.Recorder is { } check ? ForRecorder(context, check)
        : wait.Presence is { } presence ? ForPresence(context, presence)
        : wait.From is not null || wait.To is not null ? ForDays(context, wait)
        : ForTime(context, wait);

    private static RowWait ForTime(RowContext context, Wait wait)
    {
        DateTimeOffset? begun = null;
        if (wait.After is { } after)
        {
            var on =
                context.Catalogue.CheckById.GetValueOrDefault(after)?.Per == context.Key.On.Kind
                    ? context.Key.On with
                    {
                        Part = "",
                    }
                    : new Subject(SubjectKind.Place, context.Facts.Place.Id);
            begun = context.Counting.Counts(new CheckKey(after, on, Condition.Any))?.TakenAt;
        }
        if (wait.AfterAct is { } act && context.Counting.LastAct(act)?.At is { } at && (begun is null || at > begun))
            begun = at;
        var minutes = context.Catalogue.Figure(wait.Minutes!);
        var named = wait.After is { } check ? "check." + check.Value : "act." + wait.AfterAct;
        var until = begun?.AddMinutes(minutes);
        return new RowWait(
            named,
            begun,
            until,
            minutes,
            new("wait.source", Message.Number(minutes), context.Catalogue.FigureSource(wait.Minutes!))
        )
        {
            Judge = takenAt =>
                until is not { } ends ? new("because.not-begun", "@" + named)
                : takenAt < ends
                    ? new("because.too-early", Message.Number((ends - takenAt).TotalMinutes, 0), "@" + named, Message.Number(minutes))
                : null,
        };
    }

    /// <summary>Null where nobody can say when it is dark: the row then goes by the condition that was found.</summary>
    private static RowWait? ForDark(RowContext context, Wait wait)
    {
        if (context.Facts.Site.Where(context.Facts.TimeZone) is not var (latitude, longitude, zone))
            return null;
        var settle = wait.Minutes is { } figure ? context.Catalogue.Figure(figure) : 0;
        var night = context.Memo.Nights.TryGetValue(settle, out var known)
            ? known
            : context.Memo.Nights[settle] = Sun.NightAt(latitude, longitude, context.Facts.Now, settle);
        return new RowWait("wait.dark", null, night?.From, 0, zone is null ? new("wait.by-site") : new("wait.by-zone", zone), night?.Until)
        {
            Judge = takenAt =>
                Sun.At(latitude, longitude, takenAt).ElevationDeg is var high and > Sun.DarkEnough
                    ? new("because.not-dark", Message.Number(high, 0))
                    : null,
        };
    }

    private static RowWait? ForRecorder(RowContext context, CheckId check)
    {
        foreach (var channel in context.Facts.Channels)
            if (channel.RecorderFacts is { } recorder)
            {
                var up = context.Memo.RecorderCounts(recorder, check);
                return new RowWait("wait.recorder", up, up, 0, new("wait.at", Message.Said(channel.Recorder)));
            }
        return null;
    }

    /// <summary>Days are the site's: it begins at midnight there, and ends when its last day ends.</summary>
    private static RowWait ForDays(RowContext context, Wait wait)
    {
        var zone = context.Facts.TimeZone;
        DateTimeOffset Midnight(DateOnly day) => SiteTime.FromWall(zone, day.ToDateTime(TimeOnly.MinValue));
        DateTimeOffset begins = wait.From is { } from ? Midnight(from) : DateTimeOffset.MinValue;
        DateTimeOffset? ends = wait.To is { } to && to < DateOnly.MaxValue ? Midnight(to.AddDays(1)) : null;
        return new RowWait("wait.day", begins, begins, 0, null, ends)
        {
            Judge = takenAt =>
                takenAt < begins ? new("because.before-its-day", $"{wait.From:yyyy-MM-dd}")
                : takenAt >= ends ? new("because.after-its-day", $"{wait.To:yyyy-MM-dd}")
                : null,
        };
    }

    private static RowWait ForPresence(RowContext context, string presence)
    {
        var (now, named) = (context.Facts.Now, "presence." + presence);
        return context.Facts.Site.Presences.GetValueOrDefault(presence) is not { } stay || stay.Until is { } left && left <= now
            ? new RowWait(named, null, null, 0, null)
            : new RowWait(named, stay.From, stay.From, 0, null, stay.Until);
    }
}
