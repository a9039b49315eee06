using System.Text.Json.Serialization;
using Walkdown.Core.Acceptance;

namespace Walkdown.Core.Entries;

/// <summary>Ends a Fault with a word, where nothing on the Card says any more that something is wrong.</summary>
/// <param name="Id">Made by whoever enters.</param>
/// <param name="Reason">Why.</param>
/// <param name="By">Who enters.</param>
/// <param name="TakenAt">By the device's clock.</param>
/// <param name="ClockOffsetMs">To add to that clock.</param>
public sealed record FaultEndRequest(Guid Id, string Reason, Guid By, DateTimeOffset TakenAt, double ClockOffsetMs)
    : EntryRequest(Id, By, TakenAt, ClockOffsetMs)
{
    /// <summary>The Fault; of the address, not of the body.</summary>
    [JsonIgnore]
    public Guid FaultId { get; init; }

    /// <inheritdoc/>
    public override string JournalKind() => "fault-end";

    /// <inheritdoc/>
    protected internal override EntryDecision Decide(EntryContext at)
    {
        if (at.Card.Faults.FirstOrDefault(f => f.Fault.Id == FaultId) is not { } fault)
            return EntryDecision.Refuse("problem.unknown-fault", "faultId");
        if (IsBlank(Reason))
            return EntryDecision.Refuse("problem.reason-missing", "reason");
        if (!fault.Open)
            return EntryDecision.Refuse("problem.fault-ended", "faultId");
        if (!fault.MayEnd)
            return EntryDecision.Refuse("problem.fault-still-out", "faultId");
        return EntryDecision.Of(
            new FaultEnd
            {
                Id = Id,
                By = By,
                At = at.At,
                Sequence = at.Sequence,
                FaultId = FaultId,
                Reason = Reason.Trim(),
            }
        );
    }
}
