using Walkdown.Core.Acceptance;

namespace Walkdown.Core.Entries;

/// <summary>A word beside a row, or beside the whole Card.</summary>
/// <param name="Id">Made by whoever enters.</param>
/// <param name="Text">The word.</param>
/// <param name="By">Who enters.</param>
/// <param name="TakenAt">By the device's clock.</param>
/// <param name="ClockOffsetMs">To add to that clock.</param>
/// <param name="Row">The row's id; null: of the Card.</param>
public sealed record NoteRequest(Guid Id, string Text, Guid By, DateTimeOffset TakenAt, double ClockOffsetMs, string? Row = null)
    : EntryRequest(Id, By, TakenAt, ClockOffsetMs)
{
    /// <inheritdoc/>
    public override string JournalKind() => "note";

    /// <inheritdoc/>
    protected internal override EntryDecision Decide(EntryContext at)
    {
        var row = Row is null ? null : at.Row(Row);
        if (Row is not null && row is null)
            return EntryDecision.Refuse("problem.unknown-row", "row");
        if (string.IsNullOrWhiteSpace(Text))
            return EntryDecision.Refuse("problem.text-missing", "text");
        if (IsTooLong(Text))
            return EntryDecision.Refuse("problem.text-too-long", "text");
        return EntryDecision.Of(
            new Note
            {
                Id = Id,
                By = By,
                At = at.At,
                Sequence = at.Sequence,
                Key = row?.Key,
                Text = Text.Trim(),
            }
        );
    }
}
