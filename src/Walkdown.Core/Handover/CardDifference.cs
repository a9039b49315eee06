using Walkdown.Core.Acceptance;

namespace Walkdown.Core.Handover;

/// <summary>What is otherwise between two records of a Card.</summary>
public static class CardDifference
{
    /// <summary>Rows whose state or counting reading differs, in the order of the later Card.</summary>
    public static CardChange Of(string label, Card? before, Card? after)
    {
        var earlier = before?.Rows.ToDictionary(r => r.Key) ?? [];
        var rows = ImmutableArray.CreateBuilder<RowChange>();
        foreach (var row in after?.Rows ?? [])
        {
            earlier.Remove(row.Key, out var was);
            if (was is null && !row.IsDue)
                continue;
            if (was?.State != row.State || was.Counts != row.Counts || (was.Conceded is null) != (row.Conceded is null))
                rows.Add(new(row.Key, was?.State, row.State, was?.Counts != row.Counts));
        }
        foreach (var gone in earlier.Values.Where(r => r.IsDue))
            rows.Add(new(gone.Key, gone.State, null, false));
        return new CardChange(label, before?.Verdict.Verdict, after?.Verdict.Verdict, rows.ToImmutable());
    }
}
