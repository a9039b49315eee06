using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Diagnosis;

/// <summary>Likely causes of a row that is out or too close. No evidence, no cause.</summary>
internal static class Causes
{
    /// <summary>At most three likely causes of a row that is out or too close, in the catalogue's order, which is by likelihood.</summary>
    public static ImmutableArray<LikelyCause> CausesOf(RowContext context, Attempt attempt, Catalogue catalogue)
    {
        var list = ImmutableArray.CreateBuilder<LikelyCause>();
        foreach (var cause in catalogue.CausesByCheck.GetValueOrDefault(context.Check.Id, []))
        {
            if (list.Count == 3)
                break;
            // What worked on the bench, and was only hung since, is not to be looked for in the unit.
            if (cause.InUnit && Bench(context) == true)
                continue;
            var function = Topics.Registry.Evidence[cause.Evidence];
            var evidence = function.BySaying ? Saying(context, attempt, cause) : function.Find(context, attempt);
            if (evidence is not null)
                list.Add(new LikelyCause(cause.Id, evidence, cause.Severity, cause.Minutes));
        }
        return list.ToImmutable();
    }

    /// <summary>Checks of the bench.</summary>
    internal static readonly ImmutableArray<CheckId> BenchRows = [new("bench.works"), new("bench.power"), new("bench.picture")];

    /// <summary>Whether the unit that hangs here worked on the bench; null: nobody tried, or it is another unit.</summary>
    internal static bool? Bench(RowContext context)
    {
        var place = new Subject(SubjectKind.Place, context.Facts.Place.Id);
        var read = BenchRows.Select(check => context.Counting.Value(check, place, Condition.Bench)).OfType<YesNoValue>().ToList();
        return read.Count == 0 ? null : read.All(value => value.Yes);
    }

    /// <summary>The word that was chosen, where the cause says that it speaks for it.</summary>
    private static Message? Saying(RowContext context, Attempt attempt, CauseDefinition cause) =>
        attempt.Value.Words().FirstOrDefault(cause.Says.Contains) is not { } word ? null
        : attempt.Value is ChoiceValue ? new("evidence.said", $"@choice.{context.Check.Id.Value}.{word}")
        : attempt.Value is ItemsValue ? new("evidence.said", "@item." + word.Split(':')[0])
        : new("evidence.said", $"@check.{context.Check.Id.Value}");

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
