using Walkdown.Core.Acceptance;

namespace Walkdown.Core.Entries;

/// <summary>A row accepted although it is out or too close.</summary>
/// <param name="Id">Made by whoever enters.</param>
/// <param name="Row">The row's id.</param>
/// <param name="AllowedBy">The name of who allows it.</param>
/// <param name="Reason">Why.</param>
/// <param name="By">Who enters.</param>
/// <param name="TakenAt">By the device's clock.</param>
/// <param name="ClockOffsetMs">To add to that clock.</param>
/// <param name="Until">The last day on which it holds; null: for good.</param>
public sealed record ConcessionRequest(
    Guid Id,
    string Row,
    string AllowedBy,
    string Reason,
    Guid By,
    DateTimeOffset TakenAt,
    double ClockOffsetMs,
    DateOnly? Until = null
) : EntryRequest(Id, By, TakenAt, ClockOffsetMs)
{
    /// <inheritdoc/>
    public override string JournalKind() => "concession";

    /// <inheritdoc/>
    protected internal override EntryDecision Decide(EntryContext at)
    {
        var facts = at.Facts;
        if (at.Row(Row) is not { } row)
            return EntryDecision.Refuse("problem.unknown-row", "row");
        if (IsBlank(Reason))
            return EntryDecision.Refuse("problem.reason-missing", "reason");
        if (IsNoName(AllowedBy))
            return EntryDecision.Refuse("problem.who-allows", "allowedBy");
        if (Until is { } until && until < facts.DayOf(facts.Now))
            return EntryDecision.Refuse("problem.until-past", "until");
        if (!at.RowOf(row.Key).IsFailing)
            return EntryDecision.Refuse("problem.nothing-to-concede", "row");
        return EntryDecision.Of(
            new Concession
            {
                Id = Id,
                By = By,
                At = at.At,
                Sequence = at.Sequence,
                Key = row.Key,
                AllowedBy = AllowedBy.Trim(),
                Reason = Reason.Trim(),
                Until = Until,
            }
        );
    }
}
