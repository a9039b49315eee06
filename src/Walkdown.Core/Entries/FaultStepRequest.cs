using System.Text.Json.Serialization;

namespace Walkdown.Core.Entries;

/// <summary>Adds a word to a Fault.</summary>
/// <param name="Id">Made by whoever enters.</param>
/// <param name="Text">The word.</param>
/// <param name="By">Who enters.</param>
/// <param name="TakenAt">By the device's clock.</param>
/// <param name="ClockOffsetMs">To add to that clock.</param>
public sealed record FaultStepRequest(Guid Id, string Text, Guid By, DateTimeOffset TakenAt, double ClockOffsetMs)
    : EntryRequest(Id, By, TakenAt, ClockOffsetMs)
{
    /// <summary>The Fault; of the address, not of the body.</summary>
    [JsonIgnore]
    public Guid FaultId { get; init; }

    /// <inheritdoc/>
    public override string JournalKind() => "fault-step";

    /// <inheritdoc/>
    protected internal override EntryDecision Decide(EntryContext at)
    {
        if (at.Facts.Faults.All(f => f.Id != FaultId))
            return EntryDecision.Refuse("problem.unknown-fault", "faultId");
        if (string.IsNullOrWhiteSpace(Text))
            return EntryDecision.Refuse("problem.text-missing", "text");
        if (IsTooLong(Text))
            return EntryDecision.Refuse("problem.text-too-long", "text");
        return EntryDecision.Of(new FaultWord(Id, FaultId, Text.Trim(), By, at.At, at.Sequence));
    }
}
