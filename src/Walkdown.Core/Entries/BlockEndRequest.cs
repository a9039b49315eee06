using Walkdown.Core.Acceptance;

namespace Walkdown.Core.Entries;

/// <summary>What held the Card up is gone.</summary>
/// <param name="Id">Made by whoever enters.</param>
/// <param name="Of">The hindrance.</param>
/// <param name="By">Who enters.</param>
/// <param name="TakenAt">By the device's clock.</param>
/// <param name="ClockOffsetMs">To add to that clock.</param>
public sealed record BlockEndRequest(Guid Id, Guid Of, Guid By, DateTimeOffset TakenAt, double ClockOffsetMs)
    : EntryRequest(Id, By, TakenAt, ClockOffsetMs)
{
    /// <inheritdoc/>
    public override string JournalKind() => "block-end";

    /// <inheritdoc/>
    protected internal override EntryDecision Decide(EntryContext at)
    {
        if (at.Card.Blocked?.Id != Of)
            return EntryDecision.Refuse("mark.not-blocked", "of");
        return EntryDecision.Of(
            new BlockEnd
            {
                Id = Id,
                By = By,
                At = at.At,
                Sequence = at.Sequence,
                Of = Of,
            }
        );
    }
}
