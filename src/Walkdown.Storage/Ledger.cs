using System.Collections.Concurrent;
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
public sealed record LedgerResult(Kept Kept, Message? Why = null, string? Field = null, LoadedCard? Loaded = null, Card? Card = null, JournalEntry? Entry = null);

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
/// with the same body is harmless; with another body it is refused. What was loaded is kept in memory and follows each commit, so that neither
/// reading nor writing a Card asks the database twice for what it knows.
/// </summary>
public sealed class Ledger(DataFolder folder, TimeProvider time) : IDisposable
{
    private const int MostKept = 4000;

    private readonly SemaphoreSlim _one = new(1, 1);
    private readonly ConcurrentDictionary<Guid, LoadedCard> _kept = new();
    private JournalWriter? _writer;
    private long _sequence = -1;

    /// <summary>Heard by the live stream after the commit.</summary>
    public event Action<JournalEntry>? Committed;

    public WalkdownDb OpenDb() => new(folder.Options);

    public void Dispose()
    {
        _writer?.Dispose();
        _one.Dispose();
    }

    public static byte[] HashOf(object body) => SHA256.HashData(JsonSerializer.SerializeToUtf8Bytes(body, body.GetType(), CoreJson.Options));

    /// <summary>The Card as it is now; null where no such place is on record.</summary>
    public async Task<LoadedCard?> Load(Guid deviceId)
    {
        if (!_kept.TryGetValue(deviceId, out var card))
        {
            // A miss is loaded under the lock, so that it cannot overtake a commit.
            await _one.WaitAsync();
            try
            {
                await using var db = OpenDb();
                card = await Load(db, deviceId);
            }
            finally
            {
                _one.Release();
            }
        }
        return card is null ? null : card with { Facts = card.Facts with { Now = time.GetUtcNow() } };
    }

    /// <summary>Adds an entry to a Card.</summary>
    /// <param name="add">Given the Card and the entry's sequence: what is added, or why not.</param>
    public async Task<LedgerResult> Append(Guid deviceId, Guid id, string kind, object body, Guid by, Catalogue catalogue, Func<LoadedCard, long, Task<LedgerAddition>> add)
    {
        var hash = HashOf(body);
        LedgerResult result;
        await _one.WaitAsync();
        try
        {
            _writer ??= new JournalWriter(folder);
            await using var transaction = _writer.Begin();
            // A context costs more than the whole entry: only what the prepared statements cannot do asks for one.
            var context = new Lazy<WalkdownDb>(() => _writer.Context(transaction));
            var now = time.GetUtcNow();
            if ((_kept.TryGetValue(deviceId, out var known) ? known : await Load(context.Value, deviceId)) is not { } loaded) return new LedgerResult(Kept.UnknownPlace);
            loaded = loaded with { Facts = loaded.Facts with { Now = now } };
            if (_writer.Find(id) is { } earlier)
            {
                return earlier.Hash.AsSpan().SequenceEqual(hash) && earlier.DeviceId == deviceId
                    ? new LedgerResult(Kept.Already, Loaded: loaded, Card: Card.Judge(loaded.Facts, catalogue))
                    : new LedgerResult(Kept.OtherBody);
            }
            if (_sequence < 0) _sequence = await context.Value.Journal.MaxAsync(j => (long?)j.Sequence) ?? 0;
            var sequence = _sequence + 1;
            var addition = await add(loaded, sequence);
            if (addition.Refused is not null) return new LedgerResult(Kept.Refused, addition.Refused, addition.Field);
            var entry = new JournalEntry { Sequence = sequence, Id = id, JobId = loaded.Job.Id, DeviceId = deviceId, Kind = kind, BodyHash = hash, By = by, At = now };
            _writer.Add(entry);
            var others = addition.Rows.Where(row => !_writer.Add(row, deviceId)).ToList();
            if (others.Count > 0)
            {
                context.Value.AddRange(others);
                await context.Value.SaveChangesAsync();
            }
            if (addition.Ends is { } ends) await context.Value.Installations.Where(i => i.Id == ends.Installation).ExecuteUpdateAsync(u => u.SetProperty(i => i.Until, ends.At));
            var after = addition.Ends is null && others.All(row => row is FaultStep) ? Joined(loaded, addition) : (await CardFactsLoader.Load(context.Value, deviceId, now))!;
            var card = Card.Judge(after.Facts, catalogue);
            _writer.Summarise(loaded.Job.Id, deviceId, card, sequence);
            foreach (var other in loaded.SharesRunWith)
                if (await CardFactsLoader.Load(context.Value, other, now) is { } reached)
                    _writer.Summarise(loaded.Job.Id, other, Card.Judge(reached.Facts, catalogue), sequence);
            await transaction.CommitAsync();
            _sequence = sequence;
            _kept[deviceId] = after;
            foreach (var other in loaded.SharesRunWith) _kept.TryRemove(other, out _);
            result = new LedgerResult(Kept.New, Loaded: after, Card: card, Entry: entry);
        }
        finally
        {
            _one.Release();
        }
        Committed?.Invoke(result.Entry!);
        return result;
    }

    private async Task<LoadedCard?> Load(WalkdownDb db, Guid deviceId)
    {
        if (_kept.TryGetValue(deviceId, out var known)) return known;
        if (await CardFactsLoader.Load(db, deviceId, time.GetUtcNow()) is not { } loaded) return null;
        if (_kept.Count >= MostKept) _kept.Clear();
        return _kept[deviceId] = loaded;
    }

    private static LoadedCard Joined(LoadedCard card, LedgerAddition addition) => card with
    {
        Facts = card.Facts with
        {
            Readings = card.Facts.Readings.AddRange(addition.Rows.OfType<Reading>()),
            Events = card.Facts.Events.AddRange(addition.Rows.OfType<CardEvent>()),
            Faults = card.Facts.Faults.AddRange(addition.Rows.OfType<FaultRecord>()),
        },
        FaultWords = card.FaultWords.AddRange(addition.Rows.OfType<FaultStep>()),
    };

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
                // The register has changed under every Card.
                _kept.Clear();
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
            var facts = (await CardFactsLoader.Load(db, device, time.GetUtcNow()))!.Facts;
            await Summarise(db, jobId, device, Card.Judge(facts, catalogue), await db.Cards.Where(c => c.DeviceId == device).Select(c => c.LastSequence).FirstOrDefaultAsync());
        }
        return (true, true);
    });

    public static CardSummary SummaryOf(Guid jobId, Guid deviceId, Card card, long sequence) => new()
    {
        DeviceId = deviceId, JobId = jobId, Verdict = card.Verdict.Verdict, LegsJson = JsonSerializer.Serialize(card.Legs, CoreJson.Options),
        Taken = card.Taken, Total = card.Total, OpenFaults = card.Faults.Count(f => f.Open), LastSequence = sequence,
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
