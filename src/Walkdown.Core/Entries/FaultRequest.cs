using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Entries;

/// <summary>Raises a Fault for a row.</summary>
/// <param name="Id">Made by whoever enters.</param>
/// <param name="Row">The row's id.</param>
/// <param name="Title">What is wrong, in a line.</param>
/// <param name="Severity">How much it weighs.</param>
/// <param name="By">Who enters.</param>
/// <param name="TakenAt">By the device's clock.</param>
/// <param name="ClockOffsetMs">To add to that clock.</param>
/// <param name="CauseId">The cause chosen, of the catalogue.</param>
public sealed record FaultRequest(
    Guid Id,
    string Row,
    string Title,
    Severity Severity,
    Guid By,
    DateTimeOffset TakenAt,
    double ClockOffsetMs,
    string? CauseId = null
) : EntryRequest(Id, By, TakenAt, ClockOffsetMs)
{
    /// <inheritdoc/>
    public override string JournalKind() => "fault";

    /// <inheritdoc/>
    protected internal override EntryDecision Decide(EntryContext at)
    {
        if (at.Row(Row) is not { } row)
            return EntryDecision.Refuse("problem.unknown-row", "row");
        if (string.IsNullOrWhiteSpace(Title) || Title.Length > 200)
            return EntryDecision.Refuse("problem.fault-title", "title");
        if (CauseId is { } cause && at.Catalogue.Causes.All(c => c.Id != cause))
            return EntryDecision.Refuse("problem.unknown-cause", "causeId");
        if (at.Card.Faults.FirstOrDefault(f => f.Open && f.Fault.Key == row.Key) is { } standing)
            return EntryDecision.Refuse(new Message("problem.fault-stands", standing.Fault.Title), "row");
        return EntryDecision.Of(
            new FaultRecord(Id, row.Key, at.RowOf(row.Key).Counts, Title.Trim(), Severity, CauseId, By, at.At, at.Sequence)
        );
    }
}
