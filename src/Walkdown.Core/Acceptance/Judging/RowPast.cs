using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>What a row's readings were before the one that counts: judged when somebody looks, for no state rests on them.</summary>
/// <param name="judge">What judged the row.</param>
/// <param name="planned">The row.</param>
/// <param name="counting">Its readings.</param>
/// <param name="counts">The one that counts, judged already; null: none does.</param>
/// <param name="window">Limits of the row.</param>
/// <param name="cannot">Why nothing can be judged by them; null: it can.</param>
/// <param name="earlier">The one before it, where no work was recorded between the two.</param>
/// <param name="because">Why the row is what it is, as far as the one that counts says.</param>
internal sealed class RowPast(
    CardJudge judge,
    PlannedRow planned,
    CountingReadings counting,
    Attempt? counts,
    LimitWindow? window,
    Message? cannot,
    (Reading? Reading, Standing Standing) earlier,
    ImmutableArray<Message> because
)
{
    /// <summary>Every reading of the row as judged today.</summary>
    public ImmutableArray<Attempt> Attempts()
    {
        var read = judge.ReadOf(planned, counting);
        var list = ImmutableArray.CreateBuilder<Attempt>(read.Length);
        foreach (var one in read)
            list.Add(
                counts is not null && one.Reading.Id == counts.ReadingId ? counts : judge.Again(planned, counting, one, window, cannot)
            );
        return list.MoveToImmutable();
    }

    /// <summary>An out followed by an in with no repair recorded between them: right, but somebody should say what was done.</summary>
    public ImmutableArray<Message> Because() =>
        earlier.Reading is { } reading && judge.Again(planned, counting, (reading, earlier.Standing), window, cannot).State == State.Out
            ? because.Add(new Message("because.out-then-in"))
            : because;
}
