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
}
