using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Merging;

/// <summary>
/// What holds where two installations worked on one job. Entries of both are kept, always; these say what of them counts, and what
/// somebody has to be told. The same two records give the same answer whichever takes the other's.
/// </summary>
public static class MergeRules
{
    /// <summary>The same place, two units: the one that was fitted last hangs there; each of the others left when it came.</summary>
    /// <param name="label">Of the place.</param>
    /// <param name="hanging">Units that both say hang there.</param>
    /// <returns>Who left, and when; with what to tell. Nothing where one hangs, or none.</returns>
    public static (ImmutableArray<(Guid Id, DateTimeOffset At)> Left, MergeConflict? Told) TwoUnits(
        string label,
        IEnumerable<HangingUnit> hanging
    )
    {
        HangingUnit[] inOrder = [.. hanging.OrderBy(u => u.From).ThenBy(u => u.Id)];
        if (inOrder.Length < 2)
            return ([], null);
        var stays = inOrder[^1];
        return (
            [.. inOrder.SkipLast(1).Select(u => (u.Id, stays.From))],
            new MergeConflict(
                label,
                new Message("bundle.two-units", string.Join(", ", inOrder.SkipLast(1).Select(u => u.Serial)), stays.Serial)
            )
        );
    }

    /// <summary>Two concessions of one row with other words or by another person: the last one counts, and both are told.</summary>
    /// <param name="label">Of the place.</param>
    /// <param name="events">Everything that happened to the Card.</param>
    public static IEnumerable<MergeConflict> TwoConcessions(string label, IEnumerable<CardEvent> events)
    {
        CardEvent[] all = [.. events];
        var taken = all.OfType<Withdrawal>().Select(w => w.Of).ToHashSet();
        return all.OfType<Concession>()
            .Where(c => !taken.Contains(c.Id))
            .GroupBy(c => c.Key)
            .Where(g => g.Select(c => (c.AllowedBy, c.Reason)).Distinct().Count() > 1)
            .Select(row =>
            {
                Concession[] inOrder = [.. row.OrderBy(c => c.At).ThenBy(c => c.Sequence)];
                return new MergeConflict(
                    label,
                    new Message(
                        "bundle.two-concessions",
                        "@check." + row.Key.Check.Value,
                        string.Join(", ", inOrder.SkipLast(1).Select(c => c.AllowedBy)),
                        inOrder[^1].AllowedBy
                    )
                );
            });
    }

    /// <summary>Two sealed revisions of one number: both stand, and a client holds one of them.</summary>
    /// <param name="revisions">By the label of the Card that each is of; empty: of the whole job.</param>
    public static IEnumerable<MergeConflict> Forks(IEnumerable<(string Of, int Number)> revisions) =>
        revisions
            .GroupBy(r => r)
            .Where(g => g.Count() > 1)
            .Select(g => new MergeConflict(
                g.Key.Of,
                new Message("bundle.two-revisions", g.Key.Number.ToString(CultureInfo.InvariantCulture))
            ));

    /// <summary>A row of the register that both have and that differs: ours holds, and each column is told.</summary>
    /// <param name="about">The row's label.</param>
    /// <param name="columns">Name and value here and there.</param>
    public static IEnumerable<MergeConflict> Differences(string about, IEnumerable<(string Column, object? Here, object? There)> columns) =>
        columns
            .Where(c => !Equals(c.Here, c.There))
            .Select(c => new MergeConflict(about, new Message("bundle.register", c.Column, Word(c.Here), Word(c.There))));

    private static string Word(object? value) =>
        value switch
        {
            null => "\u2013",
            IFormattable f => f.ToString(null, CultureInfo.InvariantCulture),
            _ => value.ToString() ?? "",
        }
            is { Length: <= 80 } shown
            ? shown
            : "...";
}
