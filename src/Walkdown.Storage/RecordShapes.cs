using System.Text.Json;
using Walkdown.Core;
using Walkdown.Core.Acceptance;
using Walkdown.Storage.Entities;

namespace Walkdown.Storage;

/// <summary>Between Core's records and the rows they are kept in.</summary>
public static class RecordShapes
{
    public static ReadingRecord ToRecord(this Reading reading, Guid deviceId) =>
        new()
        {
            Id = reading.Id,
            DeviceId = deviceId,
            CheckId = reading.Key.Check.Value,
            SubjectKind = reading.Key.On.Kind,
            SubjectId = reading.Key.On.Id,
            Part = reading.Key.On.Part,
            Under = reading.Key.Under,
            UnitId = reading.UnitId,
            ValueJson = JsonSerializer.Serialize(reading.Value, CoreJson.Options),
            Found = reading.Found,
            InstrumentId = reading.InstrumentId,
            Source = reading.Source,
            By = reading.By,
            TakenAt = reading.TakenAt,
            ReceivedAt = reading.ReceivedAt,
            Sequence = reading.Sequence,
            ClockOffsetMs = reading.ClockOffsetMs,
            SeenJson = reading.Seen is { } seen ? JsonSerializer.Serialize(seen, CoreJson.Options) : null,
        };

    public static Reading ToCore(this ReadingRecord r) =>
        new(
            r.Id,
            new CheckKey(new CheckId(r.CheckId), new Subject(r.SubjectKind, r.SubjectId, r.Part), r.Under),
            r.UnitId,
            JsonSerializer.Deserialize<ReadingValue>(r.ValueJson, CoreJson.Options)!,
            r.Found,
            r.InstrumentId,
            r.Source,
            r.By,
            r.TakenAt,
            r.ReceivedAt,
            r.Sequence,
            r.SeenJson is { } seen ? JsonSerializer.Deserialize<LimitSeen>(seen, CoreJson.Options) : null,
            r.ClockOffsetMs
        );

    public static CardEventRecord ToRecord(this CardEvent e, Guid deviceId) =>
        new()
        {
            Id = e.Id,
            DeviceId = deviceId,
            SubjectId = e is Act { On.Kind: SubjectKind.Run } act ? act.On.Id : null,
            BodyJson = JsonSerializer.Serialize(e, CoreJson.Options),
            Sequence = e.Sequence,
        };

    public static CardEvent ToCore(this CardEventRecord r) => JsonSerializer.Deserialize<CardEvent>(r.BodyJson, CoreJson.Options)!;

    public static Fault ToRecord(this FaultRecord f, Guid deviceId) =>
        new()
        {
            Id = f.Id,
            DeviceId = deviceId,
            CheckId = f.Key.Check.Value,
            SubjectKind = f.Key.On.Kind,
            SubjectId = f.Key.On.Id,
            Part = f.Key.On.Part,
            Under = f.Key.Under,
            FromReading = f.FromReading,
            Title = f.Title,
            Severity = f.Severity,
            CauseId = f.CauseId,
            RaisedBy = f.RaisedBy,
            RaisedAt = f.RaisedAt,
            Sequence = f.Sequence,
        };

    public static FaultRecord ToCore(this Fault f) =>
        new(
            f.Id,
            new CheckKey(new CheckId(f.CheckId), new Subject(f.SubjectKind, f.SubjectId, f.Part), f.Under),
            f.FromReading,
            f.Title,
            f.Severity,
            f.CauseId,
            f.RaisedBy,
            f.RaisedAt,
            f.Sequence
        );
}
