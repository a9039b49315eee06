using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;
using Walkdown.Core.Topics;

namespace Walkdown.Core.Recording;

/// <summary>What recorders keep.</summary>
internal static class RecordingTopic
{
    /// <inheritdoc cref="Topic"/>
    public static readonly Topic Topic = new()
    {
        Judges = [new("retention", Judge, EntryKind.Form), new("memory-card", CardInCamera.Judge, EntryKind.Form)],
    };

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
