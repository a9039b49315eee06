using Walkdown.Core.Acceptance;

namespace Walkdown.Core.Entries;

/// <summary>The Card cannot be worked on, or is put off.</summary>
/// <param name="Id">Made by whoever enters.</param>
/// <param name="By">Who enters.</param>
/// <param name="TakenAt">By the device's clock.</param>
/// <param name="ClockOffsetMs">To add to that clock.</param>
/// <param name="Reason">Why.</param>
/// <param name="SetAside">Put off by the technician's own choice.</param>
/// <param name="BlockedBy">Who holds it up; not asked for where it is set aside.</param>
/// <param name="Until">When it should be free again.</param>
public sealed record BlockRequest(
    Guid Id,
    Guid By,
    DateTimeOffset TakenAt,
    double ClockOffsetMs,
    string Reason,
    bool SetAside = false,
    string? BlockedBy = null,
    DateOnly? Until = null
) : EntryRequest(Id, By, TakenAt, ClockOffsetMs)
{
    /// <inheritdoc/>
    public override string JournalKind() => "block";

    /// <inheritdoc/>
    protected internal override EntryDecision Decide(EntryContext at)
    {
        if (IsBlank(Reason))
            return EntryDecision.Refuse("problem.reason-missing", "reason");
        if (!SetAside && IsNoName(BlockedBy))
            return EntryDecision.Refuse("mark.blocked-by", "blockedBy");
        if (at.Card.Blocked is not null)
            return EntryDecision.Refuse("mark.blocked-already", "reason");
        return EntryDecision.Of(
            new Block
            {
                Id = Id,
                By = By,
                At = at.At,
                Sequence = at.Sequence,
                BlockedBy = BlockedBy?.Trim() ?? "",
                Reason = Reason.Trim(),
                Until = Until,
                SetAside = SetAside,
            }
        );
    }
}
