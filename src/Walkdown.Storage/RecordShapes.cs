using System.Text.Json;
using Walkdown.Core;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Entries;
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
            CheckVersion = reading.CheckVersion,
            ObservationId = reading.ObservationId,
            EvidenceJson = reading.Evidence.IsDefaultOrEmpty ? null : JsonSerializer.Serialize(reading.Evidence, CoreJson.Options),
        };

    public static Reading ToCore(this ReadingRecord r) =>
        new(
            r.Id,
            new CheckKey(new CheckId(r.CheckId), new Subject(r.SubjectKind, r.SubjectId, r.Part), r.Under),
            r.UnitId,
            Damaged.Is(r.Source) || Damaged.Is(r.Found) || r.By == Guid.Empty
                ? new UnreadableValue()
                : Stored.Read<ReadingValue>(r.ValueJson) ?? new UnreadableValue(),
            Damaged.Is(r.Found) ? r.Under : r.Found,
            r.InstrumentId,
            Damaged.Is(r.Source) ? ReadingSource.Typed : r.Source,
            r.By,
            r.TakenAt,
            r.ReceivedAt,
            r.Sequence,
            Stored.Read<LimitSeen>(r.SeenJson),
            r.ClockOffsetMs
        )
        {
            CheckVersion = r.CheckVersion,
            ObservationId = r.ObservationId,
            Evidence = r.EvidenceJson is { } json && Stored.Read<ReadingEvidence[]>(json) is { } seen ? [.. seen] : [],
        };

    /// <summary>Readings of which nobody can say what row they are of: counted and told, as other entries that cannot be read.</summary>
    public static IEnumerable<CardEvent> Lost(IEnumerable<ReadingRecord> readings) =>
        readings
            .Where(IsLost)
            .Select(r => new UnreadableEvent
            {
                Id = r.Id,
                By = r.By,
                At = r.TakenAt,
                Sequence = r.Sequence,
            });

    public static bool IsLost(ReadingRecord r) => Damaged.Is(r.SubjectKind) || Damaged.Is(r.Under);

    public static CardEventRecord ToRecord(this CardEvent e, Guid deviceId) =>
        new()
        {
            Id = e.Id,
            DeviceId = deviceId,
            SubjectId = e is Act { On.Kind: SubjectKind.Run } act ? act.On.Id : null,
            BodyJson = JsonSerializer.Serialize(e, CoreJson.Options),
            Sequence = e.Sequence,
        };

    /// <summary>The entry; one that cannot be read, or lacks what it is about, is counted and told.</summary>
    public static CardEvent ToCore(this CardEventRecord r) =>
        Stored.Read<CardEvent>(r.BodyJson) is { } e && e.Id == r.Id && IsWhole(e)
            ? e
            : new UnreadableEvent
            {
                Id = r.Id,
                By = Guid.Empty,
                At = DateTimeOffset.UnixEpoch,
                Sequence = r.Sequence,
            };

    private static bool IsWhole(CardEvent e) =>
        e switch
        {
            Act act => act.ActKind is not null && act.On.Part is not null,
            Exemption x => x.Key is { Check.Value: not null, On.Part: not null } && x.Reason is not null,
            Concession c => c.Key is { Check.Value: not null, On.Part: not null } && c.AllowedBy is not null && c.Reason is not null,
            Ruling r => r.Key is { Check.Value: not null, On.Part: not null } && r.RuledBy is not null && r.Reason is not null,
            Withdrawal w => w.Reason is not null,
            Block b => b.BlockedBy is not null && b.Reason is not null,
            Note n => n.Text is not null && (n.Key is null || n.Key is { Check.Value: not null, On.Part: not null }),
            FaultEnd f => f.Reason is not null,
            PlannedView v => v.Design?.Refuse() is null && v.Design is not null,
            PlateDrive d => d.Design is not null && d.Design.Refuse() is null,
            PlatePassed p => p.Vehicle is not null && p.Plate is not null,
            EventPressed pressed => Enum.IsDefined(pressed.Way),
            PlateList l => l.Name is not null && !l.Lines.IsDefault && l.Lines.All(n => n is not null),
            _ => true,
        };

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
