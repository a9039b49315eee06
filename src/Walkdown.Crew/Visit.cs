using System.Collections.Immutable;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Entries;
using Walkdown.Core.Measures;

namespace Walkdown.Crew;

/// <summary>Somebody at one device for a while: takes the rows that are due in their order, until none can be taken any more.</summary>
/// <param name="catalogue">What rows are judged by.</param>
/// <param name="answers">What is answered where everything is as it should be.</param>
/// <param name="by">Who is there.</param>
public sealed class Visit(Catalogue catalogue, GoodAnswers answers, Guid by)
{
    /// <summary>More rows than any Card has: a visit comes to its end.</summary>
    private const int MostRows = 400;

    /// <summary>A row that was taken.</summary>
    /// <param name="Row">Its id.</param>
    /// <param name="Check">Its check.</param>
    /// <param name="Value">What was answered.</param>
    /// <param name="InstrumentId">What it was read with.</param>
    /// <param name="At">When.</param>
    /// <param name="Seen">A picture was taken for it.</param>
    public sealed record Taken(string Row, CheckDefinition Check, ReadingValue Value, Guid? InstrumentId, DateTimeOffset At, bool Seen);

    /// <summary>What is taken, in order; what nothing is in for is passed over, and what waits is left.</summary>
    /// <param name="facts">The Card when the visit begins; its moment is the visit's.</param>
    /// <param name="instruments">What is in the hand.</param>
    /// <param name="says">What is answered otherwise, by check.</param>
    /// <param name="again">Checks that are taken once more where they failed, after somebody mended it.</param>
    /// <param name="most">Rows after which the visit ends.</param>
    /// <param name="until">Part of the work after which it ends; null: all of it.</param>
    /// <param name="secondsARow">How long a row takes on the whole.</param>
    public List<Taken> Do(
        CardFacts facts,
        IReadOnlyList<Instrument> instruments,
        IReadOnlyDictionary<string, ReadingValue>? says = null,
        IReadOnlyCollection<string>? again = null,
        int most = MostRows,
        Section? until = null,
        double secondsARow = 28
    )
    {
        var taken = new List<Taken>();
        var passed = new HashSet<string>();
        var seed = Hash(facts.Place.Label);
        while (taken.Count < most)
        {
            var card = Card.Judge(facts, catalogue);
            var next = card.Rows.FirstOrDefault(r =>
                !passed.Contains(r.Id)
                && !(until < r.Check.Section)
                && (Asks(r, facts.Now) || r.IsFailing && again?.Contains(r.Check.Id.Value) == true)
            );
            if (next is null)
                break;
            var with = instruments
                .FirstOrDefault(i => i.AccuracyAt(next.Check.Unit, 0) is not null && next.Check.Entry == EntryKind.Number)
                ?.Id;
            var value = says?.GetValueOrDefault(next.Check.Id.Value) ?? answers.For(facts, next, with, Spread(seed, next.Id));
            if (value is null)
            {
                passed.Add(next.Id);
                continue;
            }
            // Once each: what is still not as it should be stays so.
            if (next.IsFailing)
                passed.Add(next.Id);
            var at = facts.Now.AddSeconds(secondsARow * (1 + 0.6 * Spread(seed + 1, next.Id)));
            taken.Add(new Taken(next.Id, next.Check, value, with, at, next.Check.Picture));
            facts = facts with { Now = at, Readings = facts.Readings.Add(ReadingOf(facts, next, value, with, at, taken.Count)) };
        }
        return taken;
    }

    /// <summary>What this crew takes of what asks: what nothing holds, and what is not worked out.</summary>
    private static bool Asks(CardRow row, DateTimeOffset now) =>
        row.AsksAt(now) && row.HeldBy.IsEmpty && row.Needs.IsEmpty && row.Check.Entry != EntryKind.Derived;

    private Reading ReadingOf(CardFacts facts, CardRow row, ReadingValue value, Guid? with, DateTimeOffset at, int number) =>
        new(
            Guid.NewGuid(),
            row.Key,
            facts.Unit?.Id,
            value,
            row.Key.Under,
            with,
            ReadingSource.Typed,
            by,
            at,
            at,
            // After everything that is there.
            (facts.Readings.IsEmpty ? 0 : facts.Readings[^1].Sequence)
                + 1_000_000
                + number
        )
        {
            Evidence = [new ReadingEvidence(Guid.NewGuid(), new string('0', 64))],
        };

    /// <summary>-1 to 1, the same for the same row of the same device.</summary>
    private static double Spread(uint seed, string row) => Hash(row, seed) % 2001 / 1000.0 - 1;

    private static uint Hash(string text, uint seed = 2166136261)
    {
        foreach (var sign in text)
            seed = (seed ^ sign) * 16777619;
        return seed;
    }
}
