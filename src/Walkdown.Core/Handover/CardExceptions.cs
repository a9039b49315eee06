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
                found.Add(
                    new(ExceptionKind.Conceded, row.Key, row.Check.TextKey, allowed.By, allowed.AllowedBy, allowed.Reason, allowed.Until)
                );
            else if (row.ExemptedBecause is { } reason)
                found.Add(new(ExceptionKind.Exempt, row.Key, row.Check.TextKey, null, null, reason, null));
            else if (row is { State: State.In, Ruling: { Says: RulingSays.In } eye })
                found.Add(new(ExceptionKind.ByEye, row.Key, row.Check.TextKey, eye.By, eye.RuledBy, eye.Reason, null));
            else if (row.State == State.NotJudged && row.Required)
                found.Add(new(ExceptionKind.NotJudged, row.Key, row.Check.TextKey, null, null, null, null));
            else if (row.State == State.Out)
                found.Add(
                    new(
                        row.Required || row.Check.IfOut == IfOut.Refuse ? ExceptionKind.Out : ExceptionKind.Remark,
                        row.Key,
                        row.Check.TextKey,
                        null,
                        null,
                        null,
                        null
                    )
                );
            else if (row.State == State.TooClose)
                found.Add(
                    new(row.Required ? ExceptionKind.TooClose : ExceptionKind.Remark, row.Key, row.Check.TextKey, null, null, null, null)
                );
        }
        foreach (var row in card.Rows.Where(r => !r.Unexpected.IsEmpty))
            found.Add(
                new(
                    ExceptionKind.Unexpected,
                    row.Key,
                    row.Check.TextKey,
                    row.Ruling?.By,
                    row.Ruling is { Says: RulingSays.Explained } said ? said.RuledBy : null,
                    row.Ruling is { Says: RulingSays.Explained } why ? why.Reason : null,
                    null
                )
            );
        foreach (var fault in card.Faults.Where(f => f.Open))
            found.Add(new(ExceptionKind.OpenFault, null, null, fault.Fault.RaisedBy, null, fault.Fault.Title, null));
        foreach (var untaken in card.Rows.Where(r => r.Required && r.State is State.NotTaken or State.Stale).GroupBy(r => r.Check.Id))
            found.Add(
                new CardException(ExceptionKind.NotTaken, untaken.First().Key, untaken.First().Check.TextKey, null, null, null, null)
                {
                    Count = untaken.Count(),
                }
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
    }
}
