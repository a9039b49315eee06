namespace Walkdown.Core.Acceptance;

/// <summary>What another practice, catalogue or instrument does to one Card.</summary>
/// <param name="RowsOtherwise">Rows that stay, with another state, limit, expectation, cause, or no longer (or newly) required.</param>
/// <param name="From">Verdict before it.</param>
/// <param name="RowsAdded">Rows that come.</param>
/// <param name="RowsGone">Rows that go.</param>
/// <param name="To">Verdict after it.</param>
public sealed record ChangeImpact(Verdict From, Verdict To, int RowsAdded, int RowsGone, int RowsOtherwise)
{
    /// <summary>The facts as they are under another practice: a run without a scheme of its own follows the job's.</summary>
    public static CardFacts Under(CardFacts facts, Practice practice) =>
        facts with
        {
            Practice = practice,
            Runs = [.. facts.Runs.Select(r => r.OwnScheme ? r : r with { Scheme = practice.Scheme })],
        };

    /// <summary>The facts as they are with an instrument as it would be, such as with another day of calibration.</summary>
    public static CardFacts Under(CardFacts facts, Instrument instrument) =>
        facts.Instruments.Any(i => i.Id == instrument.Id)
            ? facts with
            {
                Instruments = [.. facts.Instruments.Select(i => i.Id == instrument.Id ? instrument : i)],
            }
            : facts;

    /// <summary>Compares a Card before and after; null where nothing of it changes.</summary>
    public static ChangeImpact? Between(Card before, Card after)
    {
        var was = before.Rows.ToDictionary(r => r.Id);
        var isNow = after.Rows.Select(r => r.Id).ToHashSet();
        var added = after.Rows.Count(r => !was.ContainsKey(r.Id));
        var gone = before.Rows.Count(r => !isNow.Contains(r.Id));
        var otherwise = after.Rows.Count(r => was.TryGetValue(r.Id, out var b) && IsOtherwise(b, r));
        return added + gone + otherwise == 0 && before.Verdict.Verdict == after.Verdict.Verdict
            ? null
            : new ChangeImpact(before.Verdict.Verdict, after.Verdict.Verdict, added, gone, otherwise);
    }

    private static bool IsOtherwise(CardRow before, CardRow after) =>
        before.State != after.State
        || before.Required != after.Required
        || before.Window?.Min != after.Window?.Min
        || before.Window?.Max != after.Window?.Max
        || before.Expected?.Value != after.Expected?.Value
        || !before.Causes.SequenceEqual(after.Causes);
}
