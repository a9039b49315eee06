using System.Collections.Immutable;
using System.Text.Json;
using Walkdown.Core;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;
using Walkdown.Core.Results;
using Walkdown.Reports;
using Walkdown.Server.Shared;
using Walkdown.Storage;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Readings;

/// <summary>A proposed reading while it is looked at.</summary>
internal sealed class IntakeEntry(InstrumentResult result)
{
    /// <summary>A row that the network showed, with what was heard.</summary>
    /// <param name="serial">Of who said it; null: nobody's.</param>
    /// <param name="raw">What was heard, as a shape of Core.</param>
    public static IntakeEntry OfNetwork(
        Guid jobId,
        PlaceFacts place,
        PlannedRow row,
        ReadingValue value,
        DateTimeOffset seen,
        string? serial,
        object raw
    ) =>
        new(new InstrumentResult(0, place.Label, row.Check.Id.Value, "", row.Key.Under, "", "", seen, "", "", value, null))
        {
            Device = place.Id,
            Label = place.Label,
            Key = row.Key,
            Source = ReadingSource.Network,
            Heard = new ObservationRecord
            {
                Id = Guid.CreateVersion7(),
                JobId = jobId,
                DeviceId = place.Id,
                Row = row.Id,
                Source = ReadingSource.Network,
                Serial = serial?.Trim() is { Length: <= 60 } own ? own : "",
                RawJson = JsonSerializer.Serialize(raw, raw.GetType(), CoreJson.Options),
                ValuesJson = JsonSerializer.Serialize(new Dictionary<string, ReadingValue> { [row.Id] = value }, CoreJson.Options),
                At = seen,
            },
        };

    public InstrumentResult Result => result;
    public Guid? Device { get; set; }
    public string? Label { get; set; }
    public CheckKey? Key { get; set; }
    public ReadingValue? Value { get; set; }
    public ReadingSource Source { get; init; } = ReadingSource.Imported;
    public Guid? Instrument { get; set; }
    public bool Counts { get; set; } = true;
    public Guid ReadingId { get; } = Guid.CreateVersion7();
    public IntakeFate Fate { get; set; } = IntakeFate.Unmatched;
    public State Was { get; set; } = State.NotTaken;
    public string? WasText { get; set; }
    public LimitWindow? Window { get; set; }
    public Guid? UnitId { get; set; }
    public int CheckVersion { get; set; }

    /// <summary>What the server heard, where it asked itself.</summary>
    public ObservationRecord? Heard { get; init; }
    public ImmutableArray<Message> Why { get; set; } = [];
}
