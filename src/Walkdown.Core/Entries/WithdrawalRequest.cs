using Walkdown.Core.Acceptance;

namespace Walkdown.Core.Entries;

/// <summary>Takes back a reading or an event: wrong Card, or a slip. Both stay to be seen.</summary>
/// <param name="Id">Made by whoever enters.</param>
/// <param name="Of">What is taken back.</param>
/// <param name="Reason">Why.</param>
/// <param name="By">Who enters.</param>
/// <param name="TakenAt">By the device's clock.</param>
/// <param name="ClockOffsetMs">To add to that clock.</param>
public sealed record WithdrawalRequest(Guid Id, Guid Of, string Reason, Guid By, DateTimeOffset TakenAt, double ClockOffsetMs)
    : EntryRequest(Id, By, TakenAt, ClockOffsetMs)
{
    /// <inheritdoc/>
    public override string JournalKind() => "withdrawal";

    /// <inheritdoc/>
    protected internal override EntryDecision Decide(EntryContext at)
    {
        var facts = at.Facts;
        if (facts.Readings.All(r => r.Id != Of) && facts.Events.All(e => e.Id != Of || e is Act { NewSerial: not null } or Withdrawal))
            return EntryDecision.Refuse("problem.unknown-entry", "of");
        if (facts.Events.OfType<Withdrawal>().Any(w => w.Of == Of))
            return EntryDecision.Refuse("problem.withdrawn-already", "of");
        if (IsBlank(Reason))
            return EntryDecision.Refuse("problem.reason-missing", "reason");
        return EntryDecision.Of(
            new Withdrawal
            {
                Id = Id,
                By = By,
                At = at.At,
                Sequence = at.Sequence,
                Of = Of,
                Reason = Reason.Trim(),
            }
        );
    }
}
