using Walkdown.Core.Acceptance;

namespace Walkdown.Core.Entries;

/// <summary>A row that does not apply here.</summary>
/// <param name="Id">Made by whoever enters.</param>
/// <param name="Row">The row's id.</param>
/// <param name="Reason">Why not.</param>
/// <param name="By">Who enters.</param>
/// <param name="TakenAt">By the device's clock.</param>
/// <param name="ClockOffsetMs">To add to that clock.</param>
public sealed record ExemptionRequest(Guid Id, string Row, string Reason, Guid By, DateTimeOffset TakenAt, double ClockOffsetMs)
    : EntryRequest(Id, By, TakenAt, ClockOffsetMs)
{
    /// <inheritdoc/>
    public override string JournalKind() => "exemption";

    /// <inheritdoc/>
    protected internal override EntryDecision Decide(EntryContext at)
    {
        if (at.Row(Row) is not { } row)
            return EntryDecision.Refuse("problem.unknown-row", "row");
        if (IsBlank(Reason))
            return EntryDecision.Refuse("problem.reason-missing", "reason");
        return EntryDecision.Of(
            new Exemption
            {
                Id = Id,
                By = By,
                At = at.At,
                Sequence = at.Sequence,
                Key = row.Key,
                Reason = Reason.Trim(),
            }
        );
    }
}
