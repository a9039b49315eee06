using System.Security.Cryptography;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogue;
using Walkdown.Core.Measures;
using Walkdown.Storage.Entities;

namespace Walkdown.Storage;

/// <summary>What came of an entry.</summary>
public enum Kept { New, Already, OtherBody, Refused, UnknownPlace }

/// <param name="Why">For a refusal: the sentence, and the field it concerns.</param>
public sealed record LedgerResult(Kept Kept, Message? Why = null, string? Field = null, CardFacts? Facts = null, Card? Card = null, JournalEntry? Entry = null);

/// <summary>What an entry adds. Nothing is changed but the open end of an installation, where a unit leaves.</summary>
public sealed class LedgerAddition
{
    public List<object> Rows { get; } = [];

    /// <summary>The installation that ends, at which moment.</summary>
    public (Guid Installation, DateTimeOffset At)? Ends { get; set; }
    public Message? Refused { get; init; }
    public string? Field { get; init; }

    public static LedgerAddition Refuse(Message why, string? field = null) => new() { Refused = why, Field = field };
}

/// <summary>
/// The one door for writing to a Card: the entry, the journal and the summaries of every Card that it reaches, in one transaction. The same id
/// with the same body is harmless; with another body it is refused.
/// </summary>
public sealed class Ledger(DataFolder folder, TimeProvider time) : IDisposable
{
    private readonly SemaphoreSlim _one = new(1, 1);
    private long _sequence = -1;

    /// <summary>Heard by the live stream after the commit.</summary>
    public event Action<JournalEntry>? Committed;

    public WalkdownDb OpenDb() => new(folder.Options);

    public void Dispose() => _one.Dispose();

    public static byte[] HashOf(object body) => SHA256.HashData(JsonSerializer.SerializeToUtf8Bytes(body, body.GetType(), CoreJson.Options));

    /// <summary>Adds an entry to a Card.</summary>
    /// <param name="add">Given the facts and the entry's sequence: what is added, or why not.</param>
    public async Task<LedgerResult> Append(Guid deviceId, Guid id, string kind, object body, Guid by, Catalogue catalogue, Func<CardFacts, long, Task<LedgerAddition>> add)
    {
        var hash = HashOf(body);
        LedgerResult result;
        await _one.WaitAsync();
        try
        {
            await using var db = OpenDb();
            await db.Database.OpenConnectionAsync();
            await using var transaction = await db.Database.BeginTransactionAsync();
            var now = time.GetUtcNow();
            if (await db.Journal.FirstOrDefaultAsync(j => j.Id == id) is { } earlier)
            {
                if (!earlier.BodyHash.AsSpan().SequenceEqual(hash) || earlier.DeviceId != deviceId) return new LedgerResult(Kept.OtherBody);
                var (then, _, _) = (await CardFactsLoader.Load(db, deviceId, now))!.Value;
                return new LedgerResult(Kept.Already, Facts: then, Card: Card.Judge(then, catalogue));
            }
            if (await CardFactsLoader.Load(db, deviceId, now) is not { } loaded) return new LedgerResult(Kept.UnknownPlace);
            var (facts, job, _) = loaded;
            if (_sequence < 0) _sequence = await db.Journal.MaxAsync(j => (long?)j.Sequence) ?? 0;
            var sequence = _sequence + 1;
            var addition = await add(facts, sequence);
            if (addition.Refused is not null) return new LedgerResult(Kept.Refused, addition.Refused, addition.Field);
            var entry = new JournalEntry { Sequence = sequence, Id = id, JobId = job.Id, DeviceId = deviceId, Kind = kind, BodyHash = hash, By = by, At = now };
            db.Add(entry);
            foreach (var row in addition.Rows) db.Add(AsRow(row, deviceId));
            if (addition.Ends is { } ends) await db.Installations.Where(i => i.Id == ends.Installation).ExecuteUpdateAsync(u => u.SetProperty(i => i.Until, ends.At));
            await db.SaveChangesAsync();
            // What needs no second look at the database is joined to the facts at hand.
            if (addition.Ends is null && addition.Rows.All(row => row is Reading or CardEvent or FaultRecord))
                facts = facts with
                {
                    Readings = facts.Readings.AddRange(addition.Rows.OfType<Reading>()),
                    Events = facts.Events.AddRange(addition.Rows.OfType<CardEvent>()),
                    Faults = facts.Faults.AddRange(addition.Rows.OfType<FaultRecord>()),
                };
            else facts = (await CardFactsLoader.Load(db, deviceId, now))!.Value.Facts;
            var card = Card.Judge(facts, catalogue);
            await Summarise(db, job.Id, deviceId, card, sequence);
            var runs = facts.Runs.Select(r => r.Id).ToList();
            foreach (var other in await db.RunEnds.Where(e => runs.Contains(e.RunId) && e.DeviceId != null && e.DeviceId != deviceId).Select(e => e.DeviceId!.Value).Distinct().ToListAsync())
                if (await CardFactsLoader.Load(db, other, now) is { } reached)
                    await Summarise(db, job.Id, other, Card.Judge(reached.Facts, catalogue), sequence);
            await transaction.CommitAsync();
            _sequence = sequence;
            result = new LedgerResult(Kept.New, Facts: facts, Card: card, Entry: entry);
        }
        finally
        {
            _one.Release();
        }
        Committed?.Invoke(result.Entry!);
        return result;
    }

    /// <summary>Runs a change of the register that is not about one Card, under the same lock, with a journal line.</summary>
    public async Task<T> Change<T>(Guid jobId, string kind, Func<WalkdownDb, Task<(T Result, bool Changed)>> change)
    {
        JournalEntry? entry = null;
        T result;
        await _one.WaitAsync();
        try
        {
            await using var db = OpenDb();
            await using var transaction = await db.Database.BeginTransactionAsync();
            (result, var changed) = await change(db);
            if (changed)
            {
                if (_sequence < 0) _sequence = await db.Journal.MaxAsync(j => (long?)j.Sequence) ?? 0;
                entry = new JournalEntry { Sequence = _sequence + 1, Id = Guid.CreateVersion7(), JobId = jobId, Kind = kind, BodyHash = [], At = time.GetUtcNow() };
                db.Add(entry);
                await db.SaveChangesAsync();
                await transaction.CommitAsync();
                _sequence = entry.Sequence;
            }
        }
        finally
        {
            _one.Release();
        }
        if (entry is not null) Committed?.Invoke(entry);
        return result;
    }

    /// <summary>Judges every Card of a job anew and writes the summaries; after an import, or when the catalogue changed.</summary>
    public Task Rebuild(Guid jobId, Catalogue catalogue) => Change(jobId, "summaries-rebuilt", async db =>
    {
        foreach (var device in await db.Devices.Where(d => d.JobId == jobId).Select(d => d.Id).ToListAsync())
        {
            var (facts, _, _) = (await CardFactsLoader.Load(db, device, time.GetUtcNow()))!.Value;
            await Summarise(db, jobId, device, Card.Judge(facts, catalogue), await db.Cards.Where(c => c.DeviceId == device).Select(c => c.LastSequence).FirstOrDefaultAsync());
        }
        return (true, true);
    });

    public static CardSummary SummaryOf(Guid jobId, Guid deviceId, Card card, long sequence) => new()
    {
        DeviceId = deviceId, JobId = jobId, Verdict = card.Verdict.Verdict, LegsJson = JsonSerializer.Serialize(card.Legs, CoreJson.Options),
        Taken = card.Taken, Total = card.Total, OpenFaults = card.Faults.Count(f => f.Open), LastSequence = sequence,
    };

    private static object AsRow(object row, Guid deviceId) => row switch
    {
        Reading reading => reading.ToRecord(deviceId),
        CardEvent e => e.ToRecord(deviceId),
        FaultRecord fault => fault.ToRecord(deviceId),
        _ => row,
    };

    private static Task Summarise(WalkdownDb db, Guid jobId, Guid deviceId, Card card, long sequence)
    {
        var s = SummaryOf(jobId, deviceId, card, sequence);
        return db.Database.ExecuteSqlAsync($"""
            INSERT INTO Cards (DeviceId, JobId, Verdict, LegsJson, Taken, Total, OpenFaults, LastSequence)
            VALUES ({s.DeviceId}, {s.JobId}, {s.Verdict.ToString()}, {s.LegsJson}, {s.Taken}, {s.Total}, {s.OpenFaults}, {s.LastSequence})
            ON CONFLICT(DeviceId) DO UPDATE SET Verdict=excluded.Verdict, LegsJson=excluded.LegsJson, Taken=excluded.Taken, Total=excluded.Total,
                OpenFaults=excluded.OpenFaults, LastSequence=excluded.LastSequence
            """);
    }
}
