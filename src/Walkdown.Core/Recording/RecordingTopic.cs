using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;
using Walkdown.Core.Topics;

namespace Walkdown.Core.Recording;

/// <summary>What recorders keep.</summary>
internal static class RecordingTopic
{
    /// <inheritdoc cref="Topic"/>
    public static readonly Topic Topic = new() { Judges = [new("retention", Judge, EntryKind.Form)] };

    /// <summary>An estimate says nothing about days that are so near (practice).</summary>
    private const double TooClose = 0.1;

    /// <summary>Days that the disks hold at what is written in a day, against the days that were promised.</summary>
    private static Judged Judge(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt)
    {
        var line = ((FormValue)value).Lines[0];
        if (RecorderStore.Of(line) is not { } store || line.Of("written")?.Number is not { } daily)
            return GeneralJudges.NotJudged(new Message("form.not-said", FormJudges.Name(c, "disks")));
        if (store.Check() is [var (field, why), ..])
            return GeneralJudges.NotJudged(new Message("store.wrong", FormJudges.Name(c, field == "disks" ? "disks" : "disk")), why);
        if (daily <= 0)
            return GeneralJudges.NotJudged(new Message("store.nothing"));
        var array = store.Array;
        var days = array.UsableTb * 1000 * (1 - store.ReservePercent / 100) / daily;
        var spare = days / store.DaysPromised - 1;
        var isEstimate = line.Of("source")?.Word != "recorder";
        var state =
            isEstimate && Math.Abs(spare) < TooClose ? State.TooClose
            : days >= store.DaysPromised * (1 - 1e-9) ? State.In
            : State.Out;
        var because = ImmutableArray.CreateBuilder<Message>();
        because.Add(
            new(
                state == State.Out ? "store.short" : "store.holds",
                Message.Number(days, 1),
                Message.Number(store.DaysPromised),
                Message.Number(array.UsableTb * (1 - store.ReservePercent / 100), 1),
                Message.Number(daily / 1000, 2)
            )
        );
        if (state == State.TooClose)
            because.Add(new("store.estimate"));
        because.Add(new("store.tib", Message.Number(array.UsableTb, 1), Message.Number(array.UsableTib, 1)));
        if (array.FailuresSurvived == 0)
            because.Add(new("store.no-redundancy"));
        return new(state, new Spare(days - store.DaysPromised, null, spare, NearestLimit.Min), null, because.ToImmutable());
    }
}
