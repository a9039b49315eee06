using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Entries;

/// <summary>A reading of one row.</summary>
/// <param name="Id">Made by whoever enters.</param>
/// <param name="Row">The row's id, as the Card names it.</param>
/// <param name="Source">No longer asked: what was typed is typed, and what was heard is cited.</param>
/// <param name="By">Who took it.</param>
/// <param name="TakenAt">By the device's clock.</param>
/// <param name="ClockOffsetMs">To add to that clock.</param>
/// <param name="Value">The value, or null where <paramref name="Text"/> is given.</param>
/// <param name="Text">A number as it was typed, with or without its unit.</param>
/// <param name="Found">Conditions found; null for those of the row.</param>
/// <param name="InstrumentId">What was chosen from the Kit; null: nothing. A check that cannot be read with it names none in the
/// record.</param>
/// <param name="ObservationId">The answer of a source that it is, as the server kept it; its value, its moment and its instrument are
/// then the server's.</param>
/// <param name="Evidence">Pictures that it was seen or measured in.</param>
public sealed record ReadingRequest(
    Guid Id,
    string Row,
    ReadingSource Source,
    Guid By,
    DateTimeOffset TakenAt,
    double ClockOffsetMs,
    ReadingValue? Value = null,
    string? Text = null,
    Condition? Found = null,
    Guid? InstrumentId = null,
    Guid? ObservationId = null,
    ImmutableArray<EvidenceRequest>? Evidence = null
) : EntryRequest(Id, By, TakenAt, ClockOffsetMs)
{
    /// <inheritdoc/>
    public override string JournalKind() => "reading";

    /// <inheritdoc/>
    public override EntryNeeds Needs() => new(ObservationId: ObservationId, Pictures: Evidence is { IsDefaultOrEmpty: false });

    /// <inheritdoc/>
    protected internal override EntryDecision Decide(EntryContext at)
    {
        var facts = at.Facts;
        if (at.Row(Row) is not { } row)
            return EntryDecision.Refuse("problem.unknown-row", "row");
        var (value, refused) = ValueOf(row, Value, Text);
        var (source, instrument, taken) = (ReadingSource.Typed, InstrumentId, at.At);
        if (ObservationId is not null)
        {
            // What was read is what the server heard, when it heard it; not what a browser says of it later.
            if (at.Heard is not { } heard || heard.Values.GetValueOrDefault(Row) is not { } answered)
                return EntryDecision.Refuse("problem.unknown-observation", "observationId");
            (value, refused, source, taken) = (answered, ReadingRules.Refuse(row.Check, answered), heard.Source, heard.At);
            // Whose serial answered is whose accuracy judges.
            instrument = heard.InstrumentOf(facts);
        }
        else
            instrument = at.Catalogue.ReadWith(row.Check, facts.Instruments, instrument);
        if (refused is not null)
            return EntryDecision.Refuse(refused, Text is null ? "value" : "text");
        if (instrument is { } chosen)
        {
            if (facts.Instruments.FirstOrDefault(i => i.Id == chosen) is not { } known)
                return EntryDecision.Refuse("problem.unknown-instrument", "instrumentId");
            if (known.RetiredAt is { } retired && taken > retired)
                return EntryDecision.Refuse(new Message("problem.instrument-retired", Message.Said(known.Name)), "instrumentId");
        }
        var (evidence, unproven) = EvidenceRequest.Of(Evidence, at.Pictures);
        if (unproven is not null)
            return EntryDecision.Refuse(unproven, "evidence");
        // A hold holds in the record too, in the screen's words.
        if (at.RowOf(row.Key) is { HeldBy: { IsEmpty: false } held })
            return EntryDecision.Refuse(new Message("hold.until", $"@check.{held[0].Value}"), "row");
        return EntryDecision.Of(
            new Reading(
                Id,
                row.Key,
                facts.UnitAt(taken)?.Id,
                value!,
                Found ?? row.Key.Under,
                instrument,
                source,
                By,
                taken,
                at.ReceivedAt,
                at.Sequence,
                at.Judged.LimitOf(row.Key),
                ClockOffsetMs
            )
            {
                CheckVersion = row.Check.Version,
                ObservationId = ObservationId,
                Evidence = evidence,
            }
        );
    }

    /// <summary>The value for a row: as given, or parsed from what was typed; with why it cannot be one.</summary>
    public static (ReadingValue? Value, Message? Refused) ValueOf(PlannedRow row, ReadingValue? value, string? text)
    {
        if (value is null && text is not null && row.Check.Entry == EntryKind.Number)
        {
            var parsed = QuantityText.Parse(text, row.Check.Unit);
            if (parsed.Refused is not null)
                return (null, parsed.Refused);
            value = new NumberValue(parsed.Value!.Value.Value, row.Check.Unit);
        }
        return value is null ? (null, new Message("number.empty")) : (value, ReadingRules.Refuse(row.Check, value));
    }
}
