using Walkdown.Core.Acceptance;

namespace Walkdown.Core.Handover;

/// <summary>What keeps a Card from being clean.</summary>
public static class CardExceptions
{
    /// <summary>All of them, most weighty first.</summary>
    public static ImmutableArray<CardException> Of(Card card)
    {
        var found = ImmutableArray.CreateBuilder<CardException>();
        foreach (var row in card.Rows)
        {
            if (row.Conceded is { } allowed)
                found.Add(About(ExceptionKind.Conceded, row, allowed.By, allowed.AllowedBy, allowed.Reason, allowed.Until));
            else if (row.ExemptedBecause is { } reason)
                found.Add(About(ExceptionKind.Exempt, row, why: reason));
            else if (row is { State: State.In, Ruling: { Says: RulingSays.In } eye })
                found.Add(About(ExceptionKind.ByEye, row, eye.By, eye.RuledBy, eye.Reason));
            else if (row.State == State.NotJudged && row.Required)
                found.Add(About(ExceptionKind.NotJudged, row));
            else if (row.State == State.Out)
                found.Add(About(row.Required || row.Check.IfOut == IfOut.Refuse ? ExceptionKind.Out : ExceptionKind.Remark, row));
            else if (row.State == State.TooClose)
                found.Add(About(row.Required ? ExceptionKind.TooClose : ExceptionKind.Remark, row));
        }
        foreach (var row in card.Rows.Where(r => !r.Unexpected.IsEmpty))
            found.Add(
                row.Ruling is { Says: RulingSays.Explained } said
                    ? About(ExceptionKind.Unexpected, row, said.By, said.RuledBy, said.Reason)
                    : About(ExceptionKind.Unexpected, row, row.Ruling?.By)
            );
        foreach (var fault in card.Faults.Where(f => f.Open))
            found.Add(new(ExceptionKind.OpenFault, null, null, fault.Fault.RaisedBy, null, fault.Fault.Title, null));
        foreach (var untaken in card.Rows.Where(r => r.Required && r.State is State.NotTaken or State.Stale).GroupBy(r => r.Check.Id))
            found.Add(
                untaken.Skip(1).Any()
                    ? About(ExceptionKind.NotTaken, untaken.First()) with
                    {
                        Count = untaken.Count(),
                        Of = null,
                    }
                    : About(ExceptionKind.NotTaken, untaken.First())
            );
        if (card.Blocked is { } blocked)
            found.Add(
                new(
                    ExceptionKind.Blocked,
                    null,
                    null,
                    blocked.By,
                    blocked.SetAside ? null : blocked.BlockedBy,
                    blocked.Reason,
                    blocked.Until
                )
            );
        return [.. found.OrderBy(e => e.Kind)];

        static CardException About(
            ExceptionKind kind,
            CardRow row,
            Guid? by = null,
            string? who = null,
            string? why = null,
            DateOnly? until = null
        ) => new(kind, row.Key, row.Check.TextKey, by, who, why, until) { Of = row.Of };
    }
}
