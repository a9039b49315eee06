using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogues;

namespace Walkdown.Core.Diagnosis;

/// <summary>Likely causes of a row that is out or too close. No evidence, no cause.</summary>
internal static class Causes
{
    /// <summary>At most three likely causes of a row that is out or too close, in the catalogue's order, which is by likelihood.</summary>
    public static ImmutableArray<LikelyCause> CausesOf(RowContext context, Attempt attempt, Catalogue catalogue)
    {
        var list = ImmutableArray.CreateBuilder<LikelyCause>();
        foreach (var cause in catalogue.CausesByCheck.GetValueOrDefault(context.Check.Id, []))
            if (list.Count < 3 && Topics.Registry.Evidence[cause.Evidence].Find(context, attempt) is { } evidence)
                list.Add(new LikelyCause(cause.Id, evidence, cause.Severity, cause.Minutes));
        return list.ToImmutable();
    }

    /// <summary>
    /// The one cause that explains most of what is not as it should be on a Card: at least two rows, and more than any other alone. Rows
    /// count first, then how likely each row holds it to be, then what is tried soonest. Null where no cause explains more than one row:
    /// what the rows say for themselves is then all there is.
    /// </summary>
    public static CardCause? OfCard(IReadOnlyCollection<CardRow> rows)
    {
        var sick = rows.Where(r => !r.Causes.IsEmpty).ToList();
        return sick.SelectMany(r => r.Causes.Select((cause, rank) => (Row: r, Cause: cause, Rank: rank)))
            .GroupBy(x => (x.Cause.Id, On: x.Row.Key.On.Id))
            .Where(g => g.Count() > 1)
            .OrderByDescending(g => g.Count())
            .ThenBy(g => g.Sum(x => x.Rank))
            .ThenBy(g => g.First().Cause.Minutes)
            .ThenBy(g => g.Key.Id, StringComparer.Ordinal)
            .Select(g => new CardCause(
                g.Key.Id,
                [.. g.Select(x => x.Row.Id)],
                sick.Count,
                g.Min(x => x.Cause.Severity),
                g.Max(x => x.Cause.Minutes)
            ))
            .FirstOrDefault();
    }
}
