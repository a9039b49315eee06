using Walkdown.Core.Acceptance;

namespace Walkdown.Core.Entries;

/// <summary>A named person's word on the reading that counts: by eye where nothing judges it, or why an unexpected one is
/// right.</summary>
/// <param name="Id">Made by whoever enters.</param>
/// <param name="Row">The row's id.</param>
/// <param name="Says">What is said.</param>
/// <param name="RuledBy">The name of who looked.</param>
/// <param name="Reason">Why.</param>
/// <param name="By">Who enters.</param>
/// <param name="TakenAt">By the device's clock.</param>
/// <param name="ClockOffsetMs">To add to that clock.</param>
public sealed record RulingRequest(
    Guid Id,
    string Row,
    RulingSays Says,
    string RuledBy,
    string Reason,
    Guid By,
    DateTimeOffset TakenAt,
    double ClockOffsetMs
) : EntryRequest(Id, By, TakenAt, ClockOffsetMs)
{
    /// <inheritdoc/>
    public override string JournalKind() => "ruling";

    /// <inheritdoc/>
    protected internal override EntryDecision Decide(EntryContext at)
    {
        if (at.Row(Row) is not { } planned)
            return EntryDecision.Refuse("problem.unknown-row", "row");
        if (IsBlank(Reason))
            return EntryDecision.Refuse("problem.reason-missing", "reason");
        if (IsNoName(RuledBy))
            return EntryDecision.Refuse("problem.who-judges", "ruledBy");
        var row = at.RowOf(planned.Key);
        if (row.Counts is not { } of)
            return EntryDecision.Refuse("problem.nothing-to-judge", "row");
        if (Says == RulingSays.Explained && row.Unexpected.IsEmpty)
            return EntryDecision.Refuse("problem.nothing-to-explain", "says");
        if (Says != RulingSays.Explained && !row.IsForTheEye)
            return EntryDecision.Refuse("problem.judged-by-rule", "says");
        return EntryDecision.Of(
            new Ruling
            {
                Id = Id,
                By = By,
                At = at.At,
                Sequence = at.Sequence,
                Key = planned.Key,
                Of = of,
                Says = Says,
                RuledBy = RuledBy.Trim(),
                Reason = Reason.Trim(),
            }
        );
    }
}
