using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Entries;
using Walkdown.Storage.Entities;

namespace Walkdown.Storage;

/// <summary>
/// The hot rows of an entry, written by statements that are prepared once on the one connection that writes. Everything else goes through
/// EF on the same connection and transaction.
/// </summary>
internal sealed class JournalWriter : IDisposable
{
    private readonly SqliteConnection _connection;
    private readonly DbContextOptions<WalkdownDb> _options;
    private readonly SqliteCommand _find,
        _journal,
        _reading,
        _event,
        _fault,
        _word,
        _summary;

    public JournalWriter(DataFolder folder)
    {
        using (var db = new WalkdownDb(folder.Options))
            _connection = new SqliteConnection(db.Database.GetConnectionString());
        _connection.Open();
        using (var pragma = _connection.CreateCommand())
        {
            pragma.CommandText = "PRAGMA synchronous=FULL; PRAGMA foreign_keys=ON; PRAGMA wal_autocheckpoint=0;";
            pragma.ExecuteNonQuery();
        }
        _options = new DbContextOptionsBuilder<WalkdownDb>()
            .UseSqlite(_connection, DataFolder.Lists)
            .UseQueryTrackingBehavior(QueryTrackingBehavior.NoTracking)
            .Options;
        _find = Command("SELECT BodyHash, DeviceId FROM Journal WHERE Id = $0", 1);
        _journal = Insert("Journal", "Sequence", "Id", "JobId", "DeviceId", "Kind", "BodyHash", "By", "At");
        _reading = Insert(
            "Readings",
            "Id",
            "DeviceId",
            "CheckId",
            "SubjectKind",
            "SubjectId",
            "Part",
            "Under",
            "UnitId",
            "ValueJson",
            "Found",
            "InstrumentId",
            "Source",
            "By",
            "TakenAt",
            "ReceivedAt",
            "Sequence",
            "SeenJson",
            "ClockOffsetMs",
            "CheckVersion",
            "ObservationId",
            "EvidenceJson"
        );
        _event = Insert("CardEvents", "Id", "DeviceId", "SubjectId", "BodyJson", "Sequence");
        _fault = Insert(
            "Faults",
            "Id",
            "DeviceId",
            "CheckId",
            "SubjectKind",
            "SubjectId",
            "Part",
            "Under",
            "FromReading",
            "Title",
            "Severity",
            "CauseId",
            "RaisedBy",
            "RaisedAt",
            "Sequence"
        );
        _word = Insert("FaultSteps", "Id", "FaultId", "Text", "By", "At", "Sequence");
        _summary = Command(
            """
            INSERT INTO Cards (DeviceId, JobId, Verdict, LegsJson, Taken, Total, OpenFaults, LastSequence, BlockJson, Unexpected,
                WaitsUntil, WaitsFor, WaitsEnds, Signature)
            VALUES ($0, $1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13)
            ON CONFLICT(DeviceId) DO UPDATE SET Verdict=excluded.Verdict, LegsJson=excluded.LegsJson,
                Taken=excluded.Taken, Total=excluded.Total, OpenFaults=excluded.OpenFaults,
                LastSequence=max(LastSequence, excluded.LastSequence),
                BlockJson=excluded.BlockJson, Unexpected=excluded.Unexpected, WaitsUntil=excluded.WaitsUntil,
                WaitsFor=excluded.WaitsFor, WaitsEnds=excluded.WaitsEnds, Signature=excluded.Signature
            """,
            14
        );
    }

    /// <summary>A context on the writing connection; joins the transaction that is open.</summary>
    public WalkdownDb Context(SqliteTransaction transaction)
    {
        var db = new WalkdownDb(_options);
        db.Database.UseTransaction(transaction);
        return db;
    }

    public SqliteTransaction Begin()
    {
        var transaction = _connection.BeginTransaction(deferred: false);
        foreach (var command in new[] { _find, _journal, _reading, _event, _fault, _word, _summary })
            command.Transaction = transaction;
        return transaction;
    }

    /// <summary>Hash and place of an entry that is kept already.</summary>
    public (byte[] Hash, Guid? DeviceId)? Find(Guid id)
    {
        Set(_find, id);
        using var reader = _find.ExecuteReader();
        return reader.Read() ? ((byte[])reader[0], reader.IsDBNull(1) ? null : IdBytes.Read((byte[])reader[1])) : null;
    }

    public void Add(JournalEntry j) => Run(_journal, j.Sequence, j.Id, j.JobId, j.DeviceId, j.Kind, j.BodyHash, j.By, j.At);

    /// <summary>What an entry adds, but for what a swap changes of the register.</summary>
    public void Add(EntryDecision decision, Guid deviceId)
    {
        foreach (var reading in decision.Readings)
            Add(reading, deviceId);
        foreach (var e in decision.Events)
            Add(e, deviceId);
        foreach (var fault in decision.Faults)
            Add(fault, deviceId);
        foreach (var word in decision.FaultWords)
            Run(_word, word.Id, word.FaultId, word.Text, word.By, word.At, word.Sequence);
    }

    /// <summary>True where the row is one of the hot ones, and is written.</summary>
    public bool Add(object row, Guid deviceId)
    {
        switch (row)
        {
            case Reading reading:
                var r = reading.ToRecord(deviceId);
                Run(
                    _reading,
                    r.Id,
                    r.DeviceId,
                    r.CheckId,
                    r.SubjectKind,
                    r.SubjectId,
                    r.Part,
                    r.Under,
                    r.UnitId,
                    r.ValueJson,
                    r.Found,
                    r.InstrumentId,
                    r.Source,
                    r.By,
                    r.TakenAt,
                    r.ReceivedAt,
                    r.Sequence,
                    r.SeenJson,
                    r.ClockOffsetMs,
                    r.CheckVersion,
                    r.ObservationId,
                    r.EvidenceJson
                );
                return true;
            case CardEvent e:
                var c = e.ToRecord(deviceId);
                Run(_event, c.Id, c.DeviceId, c.SubjectId, c.BodyJson, c.Sequence);
                return true;
            case FaultRecord fault:
                var f = fault.ToRecord(deviceId);
                Run(
                    _fault,
                    f.Id,
                    f.DeviceId,
                    f.CheckId,
                    f.SubjectKind,
                    f.SubjectId,
                    f.Part,
                    f.Under,
                    f.FromReading,
                    f.Title,
                    f.Severity,
                    f.CauseId,
                    f.RaisedBy,
                    f.RaisedAt,
                    f.Sequence
                );
                return true;
            default:
                return false;
        }
    }

    /// <param name="signature">What it was judged by.</param>
    public CardSummary Summarise(Guid jobId, Guid deviceId, Card card, long sequence, string signature)
    {
        var s = Ledger.SummaryOf(jobId, deviceId, card, sequence, signature);
        Run(
            _summary,
            s.DeviceId,
            s.JobId,
            s.Verdict,
            s.LegsJson,
            s.Taken,
            s.Total,
            s.OpenFaults,
            s.LastSequence,
            s.BlockJson,
            s.Unexpected,
            s.WaitsUntil,
            s.WaitsFor,
            s.WaitsEnds,
            s.Signature
        );
        return s;
    }

    public void Dispose()
    {
        foreach (var command in new[] { _find, _journal, _reading, _event, _fault, _word, _summary })
            command.Dispose();
        _connection.Dispose();
    }

    private SqliteCommand Insert(string table, params string[] columns) =>
        Command(
            $"INSERT INTO {table} ({string.Join(", ", columns)}) VALUES ({string.Join(", ", columns.Select((_, i) => "$" + i))})",
            columns.Length
        );

    private SqliteCommand Command(string sql, int parameters)
    {
        var command = _connection.CreateCommand();
        command.CommandText = sql;
        for (var i = 0; i < parameters; i++)
            command.Parameters.Add(new SqliteParameter { ParameterName = "$" + i });
        return command;
    }

    private static void Run(SqliteCommand command, params ReadOnlySpan<object?> values)
    {
        Set(command, values);
        command.ExecuteNonQuery();
    }

    /// <summary>Values as EF writes them: moments as milliseconds, enums as words, ids as their bytes.</summary>
    private static void Set(SqliteCommand command, params ReadOnlySpan<object?> values)
    {
        for (var i = 0; i < values.Length; i++)
            command.Parameters[i].Value = values[i] switch
            {
                null => DBNull.Value,
                DateTimeOffset moment => moment.ToUnixTimeMilliseconds(),
                Enum word => word.ToString(),
                Guid id => IdBytes.Of(id),
                var value => value,
            };
    }
}
