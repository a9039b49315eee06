using System.Collections.Concurrent;
using System.Collections.Immutable;
using System.Security.Cryptography;
using System.Text.Json;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogue;
using Walkdown.Core.Clocks;
using Walkdown.Core.Measures;
using Walkdown.Core.Sealing;
using Walkdown.Storage.Entities;

namespace Walkdown.Storage;

/// <summary>What came of an entry.</summary>
public enum Kept
{
    New,
    Already,
    OtherBody,
    Refused,
    UnknownPlace,
}

/// <param name="Why">For a refusal: the sentence, and the field it concerns.</param>
public sealed record LedgerResult(
    Kept Kept,
    Message? Why = null,
    string? Field = null,
    LoadedCard? Loaded = null,
    Card? Card = null,
    JournalEntry? Entry = null
);

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
/// The one door for writing to a Card: the entry, the journal and the summaries of every Card that it reaches, in one transaction. The same
/// id
/// with the same body is harmless; with another body it is refused. What was loaded is kept in memory and follows each commit, so that
/// neither
/// reading nor writing a Card asks the database twice for what it knows.
/// </summary>
public sealed class Ledger(DataFolder folder, TimeProvider time) : IDisposable
{
    private const int MostKept = 1500;

    private readonly SemaphoreSlim _one = new(1, 1);
    private readonly ConcurrentDictionary<Guid, LoadedCard> _kept = new();
    private readonly ConcurrentDictionary<Guid, JobFacts> _jobs = new();
    private JournalWriter? _writer;
    private long _sequence = -1;

    /// <summary>Heard after the commit and before the next: an entry, with the other Cards that it reaches. In the order of the entries,
    /// whoever asks.</summary>
    public event Action<JournalEntry, ImmutableArray<Guid>>? Committed;

    /// <summary>Heard before <see cref="Committed"/>: a Card's new summary.</summary>
    public event Action<CardSummary, long>? Summarised;

    /// <summary>Heard when what a Card is judged from may be another: of one Card, or of all.</summary>
    public event Action<Guid?>? Touched;

    public WalkdownDb OpenDb() => new(folder.Options);

    public void Dispose()
    {
        _writer?.Dispose();
        _one.Dispose();
    }

    /// <summary>
    /// Fingerprint of what was sent: canonical JSON without what is not given, so that a member which a later Walkdown adds, or the order
    /// in which they are written, makes no
    /// other body of the same one.
    /// </summary>
    public static byte[] HashOf(object body) =>
        SHA256.HashData(CanonicalJson.Of(JsonSerializer.SerializeToElement(body, body.GetType(), Given)));

    private static readonly JsonSerializerOptions Given = new(CoreJson.Options)
    {
        DefaultIgnoreCondition = System.Text.Json.Serialization.JsonIgnoreCondition.WhenWritingDefault,
    };

    /// <summary>What a Card of a job is judged by: catalogue, program and practice. A summary of another signature says nothing.</summary>
    public static string SignatureOf(Job job, Catalogue catalogue) =>
        $"{catalogue.Hash} {Program} {job.Rule} {job.Scheme} {(job.BenchFirst ? 'b' : '-')}{(job.MatchFarEnd ? 'm' : '-')}"
        + $"{(job.SwitchFirst ? 's' : '-')}{(job.UnexpectedRefuses ? 'u' : '-')}";

    private static readonly string Program = typeof(Card).Module.ModuleVersionId.ToString("N")[..12];

    /// <summary>The Card as it is now; null where no such place is on record.</summary>
    public async Task<LoadedCard?> Load(Guid deviceId, CancellationToken cancel = default)
    {
        if (!_kept.TryGetValue(deviceId, out var card))
        {
            // A miss is loaded under the lock, so that it cannot overtake a commit.
            await _one.WaitAsync(cancel);
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
        return card is null ? null : card with { Facts = card.Facts with { Now = SiteTime.In(card.Job.TimeZone, time.GetUtcNow()) } };
    }

    /// <summary>Adds an entry to a Card.</summary>
    /// <param name="add">Given the Card and the entry's sequence: what is added, or why not.</param>
    public async Task<LedgerResult> Append(
        Guid deviceId,
        Guid id,
        string kind,
        object body,
        Guid by,
        Catalogue catalogue,
        Func<LoadedCard, long, Task<LedgerAddition>> add,
        CancellationToken cancel = default
    )
    {
        var hash = HashOf(body);
        LedgerResult result;
        var told = new List<(Guid, CardSummary)>();
        // Who has gone does not queue; what has begun is ended.
        await _one.WaitAsync(cancel);
        try
        {
            _writer ??= new JournalWriter(folder);
            await using var transaction = _writer.Begin();
            // A context costs more than the whole entry: only what the prepared statements cannot do asks for one.
            var context = new Lazy<WalkdownDb>(() => _writer.Context(transaction));
            var now = time.GetUtcNow();
            if ((_kept.TryGetValue(deviceId, out var known) ? known : await Load(context.Value, deviceId)) is not { } loaded)
                return new LedgerResult(Kept.UnknownPlace);
            loaded = loaded with { Facts = loaded.Facts with { Now = SiteTime.In(loaded.Job.TimeZone, now) } };
            if (_writer.Find(id) is { } earlier)
            {
                return earlier.Hash.AsSpan().SequenceEqual(hash) && earlier.DeviceId == deviceId
                    ? new LedgerResult(Kept.Already, Loaded: loaded, Card: Card.Judge(loaded.Facts, catalogue))
                    : new LedgerResult(Kept.OtherBody);
            }
            if (_sequence < 0)
                _sequence = await context.Value.Journal.MaxAsync(j => (long?)j.Sequence) ?? 0;
            var sequence = _sequence + 1;
            var addition = await add(loaded, sequence);
            if (addition.Refused is not null)
                return new LedgerResult(Kept.Refused, addition.Refused, addition.Field);
            var entry = new JournalEntry
            {
                Sequence = sequence,
                Id = id,
                JobId = loaded.Job.Id,
                DeviceId = deviceId,
                Kind = kind,
                BodyHash = hash,
                By = by,
                At = now,
            };
            _writer.Add(entry);
            var others = addition.Rows.Where(row => !_writer.Add(row, deviceId)).ToList();
            if (others.Count > 0)
            {
                context.Value.AddRange(others);
                await context.Value.SaveChangesAsync();
            }
            if (addition.Ends is { } ends)
                await context
                    .Value.Installations.Where(i => i.Id == ends.Installation)
                    .ExecuteUpdateAsync(u => u.SetProperty(i => i.Until, ends.At));
            var after =
                addition.Ends is null && others.All(row => row is FaultStep)
                    ? Joined(loaded, addition)
                    : (await CardFactsLoader.Load(context.Value, deviceId, now))!;
            var card = Card.Judge(after.Facts, catalogue);
            var signature = SignatureOf(loaded.Job, catalogue);
            told.Add((deviceId, _writer.Summarise(loaded.Job.Id, deviceId, card, sequence, signature)));
            var reaches = ReachOf(loaded, addition);
            if (!reaches.IsEmpty)
                foreach (var reached in await CardFactsLoader.Load(context.Value, reaches, now))
                    told.Add(
                        (
                            reached.Facts.Place.Id,
                            _writer.Summarise(loaded.Job.Id, reached.Facts.Place.Id, Card.Judge(reached.Facts, catalogue), 0, signature)
                        )
                    );
            await transaction.CommitAsync(CancellationToken.None);
            _sequence = sequence;
            _kept[deviceId] = after;
            foreach (var other in reaches)
                _kept.TryRemove(other, out _);
            result = new LedgerResult(Kept.New, Loaded: after, Card: card, Entry: entry);
            Tell(entry, told);
        }
        finally
        {
            _one.Release();
        }
        return result;
    }

    /// <summary>Other Cards that an entry reaches: those on the same run, and at a recorder, by its version or its taking back, those on
    /// its channels.</summary>
    private static ImmutableArray<Guid> ReachOf(LoadedCard card, LedgerAddition addition) =>
        card.Facts.Place.Kind == "recorder"
        && addition.Rows.Any(row => row is Withdrawal or Act || row is Reading r && r.Key.Check == KnownChecks.Firmware)
            ? card.Reaches
            : card.SharesRunWith;

    private async Task<LoadedCard?> Load(WalkdownDb db, Guid deviceId)
    {
        if (_kept.TryGetValue(deviceId, out var known))
            return known;
        if (await CardFactsLoader.Load(db, deviceId, time.GetUtcNow(), Known) is not { } loaded)
            return null;
        _jobs.TryAdd(loaded.Job.Id, new JobFacts(loaded.Job, loaded.Facts.Instruments, loaded.People));
        if (_kept.Count >= MostKept)
            _kept.Clear();
        return _kept[deviceId] = loaded;
    }

    private JobFacts? Known(Guid jobId) => _jobs.GetValueOrDefault(jobId);

    private static LoadedCard Joined(LoadedCard card, LedgerAddition addition) =>
        card with
        {
            Facts = card.Facts with
            {
                Readings = card.Facts.Readings.AddRange(addition.Rows.OfType<Reading>()),
                Events = card.Facts.Events.AddRange(addition.Rows.OfType<CardEvent>()),
                Faults = card.Facts.Faults.AddRange(addition.Rows.OfType<FaultRecord>()),
            },
            FaultWords = card.FaultWords.AddRange(addition.Rows.OfType<FaultStep>()),
        };

    /// <summary>Runs a change that is not about one Card, under the same lock, with a journal line.</summary>
    public async Task<T> Change<T>(Guid jobId, string kind, Func<WalkdownDb, long, Task<(T Result, bool Changed)>> change)
    {
        JournalEntry? entry = null;
        T result;
        await _one.WaitAsync();
        try
        {
            await using var db = OpenDb();
            await using var transaction = await db.Database.BeginTransactionAsync();
            if (_sequence < 0)
                _sequence = await db.Journal.MaxAsync(j => (long?)j.Sequence) ?? 0;
            (result, var changed) = await change(db, _sequence + 1);
            if (changed)
            {
                entry = new JournalEntry
                {
                    Sequence = _sequence + 1,
                    Id = Guid.CreateVersion7(),
                    JobId = jobId,
                    Kind = kind,
                    BodyHash = [],
                    At = time.GetUtcNow(),
                };
                db.Add(entry);
                await db.SaveChangesAsync();
                await transaction.CommitAsync();
                _sequence = entry.Sequence;
                // The register has changed under every Card.
                _kept.Clear();
                _jobs.Clear();
                Touched?.Invoke(null);
                Tell(entry, []);
            }
        }
        finally
        {
            _one.Release();
        }
        return result;
    }

    /// <summary>
    /// Changes the rows of a few devices, and adds to their Cards, in one transaction: all of it or nothing. Every Card that it reaches is
    /// judged anew.
    /// </summary>
    /// <param name="add">Given the context and the entry's sequence: what is added by device, or why not. The devices named are judged
    /// anew.</param>
    public async Task<LedgerResult> Edit(
        Guid jobId,
        Guid id,
        string kind,
        object body,
        Guid by,
        Catalogue catalogue,
        Func<WalkdownDb, long, Task<(Message? Refused, string? Field, IReadOnlyDictionary<Guid, List<object>> Touched)>> add
    )
    {
        var hash = HashOf(body);
        JournalEntry entry;
        List<(Guid, CardSummary)> told = [];
        await _one.WaitAsync();
        try
        {
            _writer ??= new JournalWriter(folder);
            await using var transaction = _writer.Begin();
            if (_writer.Find(id) is { } earlier)
                return new LedgerResult(earlier.Hash.AsSpan().SequenceEqual(hash) ? Kept.Already : Kept.OtherBody);
            await using var db = _writer.Context(transaction);
            if (_sequence < 0)
                _sequence = await db.Journal.MaxAsync(j => (long?)j.Sequence) ?? 0;
            var sequence = _sequence + 1;
            var (refused, field, touched) = await add(db, sequence);
            if (refused is not null)
                return new LedgerResult(Kept.Refused, refused, field);
            // Nothing is written yet: these are the neighbours as they were. Who shares no more is judged anew too.
            List<Guid> before;
            await using (var unchanged = _writer.Context(transaction))
                before = [.. (await CardFactsLoader.Load(unchanged, touched.Keys.ToList(), time.GetUtcNow())).SelectMany(r => r.Reaches)];
            entry = new JournalEntry
            {
                Sequence = sequence,
                Id = id,
                JobId = jobId,
                DeviceId = touched.Count == 1 ? touched.Keys.First() : null,
                Kind = kind,
                BodyHash = hash,
                By = by,
                At = time.GetUtcNow(),
            };
            _writer.Add(entry);
            db.AddRange(touched.SelectMany(t => t.Value.Where(row => !_writer.Add(row, t.Key))).ToList());
            db.ChangeTracker.DetectChanges();
            await db.SaveChangesAsync();
            db.ChangeTracker.Clear();
            db.ChangeTracker.QueryTrackingBehavior = QueryTrackingBehavior.NoTracking;
            var reached = await CardFactsLoader.Load(db, touched.Keys.ToList(), time.GetUtcNow());
            var sharers = reached.SelectMany(r => r.Reaches).Concat(before).Where(s => !touched.ContainsKey(s)).Distinct().ToList();
            if (sharers.Count > 0)
                reached.AddRange(await CardFactsLoader.Load(db, sharers, time.GetUtcNow()));
            foreach (var card in reached)
                told.Add(
                    (
                        card.Facts.Place.Id,
                        _writer.Summarise(
                            jobId,
                            card.Facts.Place.Id,
                            Card.Judge(card.Facts, catalogue),
                            touched.ContainsKey(card.Facts.Place.Id) ? sequence : 0,
                            SignatureOf(card.Job, catalogue)
                        )
                    )
                );
            await transaction.CommitAsync();
            _sequence = sequence;
            foreach (var device in touched.Keys.Concat(sharers))
                _kept.TryRemove(device, out _);
            Tell(entry, told);
        }
        finally
        {
            _one.Release();
        }
        return new LedgerResult(Kept.New, Entry: entry);
    }

    /// <summary>Takes the summaries of a job's Cards for nobody's, in the transaction of the change that they lean on: a stop or a full
    /// disk before they are judged anew leaves no old Verdict, for whoever looks next judges them first.</summary>
    /// <param name="devices">Null: all of the job.</param>
    public static Task Unjudge(WalkdownDb db, Guid jobId, IReadOnlyCollection<Guid>? devices = null) =>
        db
            .Cards.Where(c => c.JobId == jobId && (devices == null || devices.Contains(c.DeviceId)))
            .ExecuteUpdateAsync(set => set.SetProperty(c => c.Signature, ""));

    /// <summary>Judges Cards anew after a change that is kept, and that took their summaries for nobody's (<see cref="Unjudge"/>). Where
    /// the disk does not let it, nothing of the change is lost: it is done when somebody looks.</summary>
    /// <param name="devices">Null: all of the job.</param>
    public async Task AfterChange(
        Guid jobId,
        IReadOnlyCollection<Guid>? devices,
        Catalogue catalogue,
        IProgress<(int Done, int Of)>? progress = null
    )
    {
        try
        {
            if (devices is null)
                await using (var db = OpenDb())
                    devices = await db.Devices.Where(d => d.JobId == jobId).Select(d => d.Id).ToListAsync();
            await Summarise(jobId, devices, catalogue, progress);
            await Change(jobId, "summaries-rebuilt", (_, _) => Task.FromResult((true, true)));
        }
        catch (Exception problem) when (problem is SqliteException or DbUpdateException or IOException)
        {
            // What was shown of them before is forgotten: they are judged, or the disk says so again, when somebody looks.
            _kept.Clear();
            Touched?.Invoke(null);
        }
    }

    /// <summary>
    /// Judges anew every Card of a job whose summary was made by another catalogue, program or practice, or that has none: a file that was
    /// dropped in, a new release, a stop between a
    /// change and its judging. Nobody sees an old Verdict.
    /// </summary>
    /// <returns>How many were.</returns>
    public async Task<int> Refresh(Guid jobId, Catalogue catalogue)
    {
        List<Guid> stale;
        await using (var db = OpenDb())
        {
            if (await db.Jobs.FirstOrDefaultAsync(j => j.Id == jobId) is not { } job)
                return 0;
            var signature = SignatureOf(job, catalogue);
            stale = await db
                .Devices.Where(d => d.JobId == jobId && !db.Cards.Any(c => c.DeviceId == d.Id && c.Signature == signature))
                .Select(d => d.Id)
                .ToListAsync();
            // A summary that no program wrote is none: it can be made anew, and is.
            var verdicts = string.Join(' ', Enum.GetNames<Verdict>());
            stale.AddRange(
                await db
                    .Cards.FromSql(
                        $"SELECT * FROM Cards WHERE JobId = {jobId} AND (instr({verdicts}, Verdict) = 0 OR NOT json_valid(LegsJson))"
                    )
                    .Select(c => c.DeviceId)
                    .ToListAsync()
            );
        }
        if (stale.Count > 0)
            await Rejudge(jobId, stale, catalogue);
        return stale.Count;
    }

    /// <summary>Judges a few Cards anew, where something that they lean on has changed.</summary>
    public async Task Rejudge(Guid jobId, IReadOnlyCollection<Guid> deviceIds, Catalogue catalogue)
    {
        await Summarise(jobId, deviceIds, catalogue, null);
        await Change(jobId, "summaries-rebuilt", (_, _) => Task.FromResult((true, true)));
    }

    private async Task Summarise(Guid jobId, IReadOnlyCollection<Guid> ids, Catalogue catalogue, IProgress<(int Done, int Of)>? progress)
    {
        var done = 0;
        foreach (var some in ids.Chunk(250))
        {
            // Between two portions others may write.
            await _one.WaitAsync();
            try
            {
                _writer ??= new JournalWriter(folder);
                await using var transaction = _writer.Begin();
                await using var db = _writer.Context(transaction);
                foreach (var card in await CardFactsLoader.Load(db, some, time.GetUtcNow()))
                    _writer.Summarise(jobId, card.Facts.Place.Id, Card.Judge(card.Facts, catalogue), 0, SignatureOf(card.Job, catalogue));
                await transaction.CommitAsync();
                foreach (var id in some)
                {
                    _kept.TryRemove(id, out _);
                    Touched?.Invoke(id);
                }
            }
            finally
            {
                _one.Release();
            }
            progress?.Report((done += some.Length, ids.Count));
        }
    }

    /// <summary>Runs something while nobody writes, such as a backup's last step.</summary>
    public async Task<T> Quiet<T>(Func<Task<T>> work)
    {
        await _one.WaitAsync();
        try
        {
            return await work();
        }
        finally
        {
            _one.Release();
        }
    }

    /// <summary>Forgets everything kept in memory, and lets go of the file; after a restore.</summary>
    public void Forget()
    {
        _writer?.Dispose();
        _writer = null;
        _kept.Clear();
        _jobs.Clear();
        _sequence = -1;
        Touched?.Invoke(null);
    }

    public static CardSummary SummaryOf(Guid jobId, Guid deviceId, Card card, long sequence, string signature = "") =>
        new()
        {
            DeviceId = deviceId,
            JobId = jobId,
            Verdict = card.Verdict.Verdict,
            LegsJson = JsonSerializer.Serialize(card.Legs.Select(l => l.State), CoreJson.Options),
            Taken = card.Taken,
            Total = card.Total,
            OpenFaults = card.Faults.Count(f => f.Open),
            LastSequence = sequence,
            BlockJson = card.Blocked is { } b ? JsonSerializer.Serialize(b, CoreJson.Options) : null,
            Unexpected = card.Unexpected,
            Signature = signature,
        };

    /// <summary>Told while the lock is held: two entries are never heard the other way round.</summary>
    private void Tell(JournalEntry entry, IReadOnlyList<(Guid Device, CardSummary Summary)> summaries)
    {
        foreach (var (device, summary) in summaries)
        {
            Summarised?.Invoke(summary, entry.Sequence);
            Touched?.Invoke(device);
        }
        Committed?.Invoke(entry, [.. summaries.Select(s => s.Device).Where(d => d != entry.DeviceId)]);
    }
}
