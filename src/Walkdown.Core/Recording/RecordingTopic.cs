using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;
using Walkdown.Core.Topics;
using Walkdown.Core.Zones;

namespace Walkdown.Core.Recording;

/// <summary>What recorders keep.</summary>
internal static class RecordingTopic
{
    /// <inheritdoc cref="Topic"/>
    public static readonly Topic Topic = new()
    {
        Figures = [.. StreamSpec.Figures, .. EventLink.Figures, .. OutsideLine.Figures],
        Judges =
        [
            new("retention", Judge, EntryKind.Form),
            new("outside-line", OutsideLine.Judge, EntryKind.Form),
            new("memory-card", CardInCamera.Judge, EntryKind.Form),
            new("week", Week, EntryKind.Week),
            new("event-link", EventLink.Judge, EntryKind.Form),
            new("zones", ZoneJudges.Drawn, EntryKind.Zones),
            new("walks", ZoneJudges.Walked, EntryKind.Form),
        ],
    };

    /// <summary>So many open hours are told one by one.</summary>
    private const int MostGaps = 4;

    /// <summary>Out where an hour that was wanted is not recorded; hours beyond are told.</summary>
    private static Judged Week(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt)
    {
        var week = (WeekValue)value;
        static string Hours(IEnumerable<WeekSpan> spans) => Message.Number(WeekHours.Minutes(spans) / 60.0, 1);
        var wanted = week.Wanted ?? WeekHours.All;
        var gaps = WeekHours.Without(wanted, week.Recorded);
        var beyond = WeekHours.Without(week.Recorded, wanted);
        var because = ImmutableArray.CreateBuilder<Message>();
        because.AddRange(GapsToTell(gaps));
        because.Add(new(week.Wanted is null ? "week.of-all" : "week.of-wanted", Hours(week.Recorded), Hours(wanted)));
        if (!beyond.IsEmpty)
            because.Add(new("week.beyond", Hours(beyond)));
        return new(gaps.IsEmpty ? State.In : State.Out, null, null, because.ToImmutable());
    }

    /// <summary>Open hours one by one; of many the first, and how many hours they are in all.</summary>
    internal static IEnumerable<Message> GapsToTell(ImmutableArray<WeekSpan> gaps)
    {
        static string Clock(int minutes) => string.Create(CultureInfo.InvariantCulture, $"{minutes / 60:00}:{minutes % 60:00}");
        foreach (var gap in gaps.Take(MostGaps))
            yield return new("week.gap", "@day." + gap.Day.ToString(CultureInfo.InvariantCulture), Clock(gap.From), Clock(gap.To));
        if (gaps.Length > MostGaps)
            yield return new("week.gaps", Message.Number(gaps.Length - MostGaps), Message.Number(WeekHours.Minutes(gaps) / 60.0, 1));
    }

    /// <summary>Days that the disks hold at what is written in a day, against the days that were promised.</summary>
    private static Judged Judge(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt)
    {
        var line = ((FormValue)value).Lines[0];
        if (RecorderStore.Of(line) is not { } store || line.Of("written")?.Number is not { } daily)
            return GeneralJudges.NotJudged(new Message("form.not-said", FormJudges.Name(c, "disks")));
        if (store.Trouble() is { } trouble)
            return GeneralJudges.NotJudged(trouble);
        var array = store.Array;
        var held = Retention.Of(
            [new RecordedStream(Retention.MeanMbpsOf(daily))],
            array.UsableTb,
            CapacityUnit.Tb,
            store.ReservePercent,
            store.DaysPromised
        );
        if (
            held.Days is not { } days
            || RecordingForecast.OutcomeOf(held, store.DaysPromised, RecorderStore.WrittenGbPerDay(line) is null) is not { } outcome
        )
            return GeneralJudges.NotJudged(new Message("store.nothing"));
        var state = outcome switch
        {
            Outcome.In => State.In,
            Outcome.Out => State.Out,
            _ => State.TooClose,
        };
        var because = ImmutableArray.CreateBuilder<Message>();
        because.Add(
            new(
                state == State.Out ? "store.short" : "store.holds",
                Message.Number(days, 1),
                Message.Number(store.DaysPromised),
                Message.Number(held.UsableBytes / 1e12, 1),
                Message.Number(daily / 1000, 2)
            )
        );
        if (state == State.TooClose)
            because.Add(new("store.estimate"));
        because.Add(new("store.tib", Message.Number(array.UsableTb, 1), Message.Number(array.UsableTib, 1)));
        if (array.FailuresSurvived == 0)
            because.Add(new("store.no-redundancy"));
        return new(
            state,
            new Spare(days - store.DaysPromised, null, days / store.DaysPromised - 1, NearestLimit.Min),
            null,
            because.ToImmutable()
        );
    }
}
