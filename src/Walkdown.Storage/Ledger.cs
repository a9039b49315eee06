using System.Collections.Concurrent;
using System.Collections.Immutable;
using System.Security.Cryptography;
using System.Text.Json;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Clocks;
using Walkdown.Core.Entries;
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
/// <param name="Judged">The Card after it.</param>
/// <param name="Before">The Card as it was judged before it: what the entry changed is what differs.</param>
public sealed record LedgerResult(
    Kept Kept,
    Message? Why = null,
    string? Field = null,
    LoadedCard? Loaded = null,
    JudgedCard? Judged = null,
    JournalEntry? Entry = null,
    JudgedCard? Before = null
);

/// <summary>
/// The one door for writing to a Card: the entry, the journal and the summaries of every Card that it reaches, in one transaction. The same
/// id with the same body is harmless; with another body it is refused. Entries that wait at the same time are made durable together, each
/// judged in its turn. What was loaded and judged is kept in memory and follows each commit (<see cref="CardShelf"/>).
/// </summary>
public sealed class Ledger(DataFolder folder, TimeProvider time) : IDisposable
{
    /// <summary>As many entries at most become durable by one write to the disk.</summary>
    private const int MostAtOnce = 64;

    /// <summary>About 10 MB of the write-ahead log.</summary>
    private const int EntriesToSettle = 300;

    private readonly SemaphoreSlim _one = new(1, 1);
    private readonly CardShelf _shelf = new();
    private readonly ConcurrentQueue<Waiting> _waiting = new();
    private int _draining;
    private JournalWriter? _writer;
    private long _sequence = -1;

    /// <summary>An entry at the door.</summary>
    private sealed record Waiting(Guid DeviceId, EntryRequest Request, byte[] Hash, Catalogue Catalogue, CancellationToken Cancel)
    {
        public TaskCompletionSource<LedgerResult> Done { get; } = new(TaskCreationOptions.RunContinuationsAsynchronously);

        /// <summary>It looks at more than its Card: it does not share its transaction.</summary>
        public bool IsAlone => Request is ActRequest;
    }

    /// <summary>Heard after the commit and before the next: an entry, with the other Cards that it reaches. In the order of the entries,
    /// whoever asks.</summary>
    public event Action<JournalEntry, ImmutableArray<Guid>>? Committed;

    /// <summary>Heard before <see cref="Committed"/>: a Card's new summary.</summary>
    public event Action<CardSummary, long>? Summarised;

    /// <summary>Heard when what a Card is judged from may be another: of one Card, or of all.</summary>
    public event Action<Guid?>? Touched;

    /// <summary>Heard when summaries of a job are nobody's and could not be made anew.</summary>
    public event Action<Guid>? Unsettled;

    public WalkdownDb OpenDb() => new(folder.Options);

    public void Dispose()
    {
        _writer?.Dispose();
        _one.Dispose();
    }

    /// <summary>
    /// Fingerprint of what was sent: canonical JSON without what is not given, so that a member which a later Walkdown adds, or the order
    /// in which they are written, makes no other body of the same one.
    /// </summary>
    public static byte[] HashOf(object body) =>
        SHA256.HashData(CanonicalJson.Of(JsonSerializer.SerializeToElement(body, body.GetType(), Given)));

    private static readonly JsonSerializerOptions Given = new(CoreJson.Options)
    {
        DefaultIgnoreCondition = System.Text.Json.Serialization.JsonIgnoreCondition.WhenWritingDefault,
    };

    /// <summary>What a Card of a job is judged by: catalogue, program and practice. A summary of another signature says nothing.</summary>
    public static string SignatureOf(Job job, Catalogue catalogue) =>
        $"{catalogue.Hash} {Program} {KeptPractice.Of(job).Signature}{KeptSite.Of(job).Signature}";

    private static readonly string Program = typeof(Card).Module.ModuleVersionId.ToString("N")[..12];

    /// <summary>The Card as it is now; null where no such place is on record.</summary>
    public async Task<LoadedCard?> Load(Guid deviceId, CancellationToken cancel = default)
    {
        if (_shelf.Find(deviceId) is not { } card)
        {
            // A miss is loaded under the lock, so that it cannot overtake a commit.
            await _one.WaitAsync(cancel);
            try
            {
                await using var db = OpenDb();
                if (await Load(db, deviceId) is not { } loaded)
                    return null;
                card = loaded;
            }
            finally
            {
                _one.Release();
            }
        }
        return card with { Facts = card.Facts with { Now = SiteTime.In(card.Job.TimeZone, time.GetUtcNow()) } };
    }

    /// <summary>The Card as it is now, judged; null where no such place is on record.</summary>
    public async Task<(LoadedCard Loaded, JudgedCard Judged)?> Judge(
        Guid deviceId,
        Catalogue catalogue,
        CancellationToken cancel = default
    ) => await Load(deviceId, cancel) is { } loaded ? (loaded, _shelf.Judge(loaded, catalogue)) : null;

    /// <summary>Adds an entry to a Card: what it adds, or why not, is <see cref="EntryDoor"/>'s word.</summary>
    public Task<LedgerResult> Append(Guid deviceId, EntryRequest request, Catalogue catalogue, CancellationToken cancel = default)
    {
        if (EntryDoor.Malformed(request, time.GetUtcNow()) is var (why, field))
            return Task.FromResult(new LedgerResult(Kept.Refused, why, field));
        var entry = new Waiting(deviceId, request, HashOf(request), catalogue, cancel);
        _waiting.Enqueue(entry);
        if (Interlocked.CompareExchange(ref _draining, 1, 0) == 0)
            _ = Task.Run(Drain, CancellationToken.None);
        return entry.Done.Task;
    }

    /// <summary>Takes what waits, until nothing does. One runs at a time.</summary>
    private async Task Drain()
    {
        while (true)
        {
            var some = new List<Waiting>();
            while (_waiting.TryPeek(out var next))
            {
                if (some.Count == MostAtOnce || some.Count > 0 && (next.IsAlone || some[^1].IsAlone))
                    break;
                _waiting.TryDequeue(out _);
                // Who has gone does not queue; what has begun is ended.
                if (next.Cancel.IsCancellationRequested)
                    next.Done.TrySetCanceled(next.Cancel);
                else
                    some.Add(next);
            }
            if (some.Count > 0)
                await Take(some);
            if (!_waiting.IsEmpty)
                continue;
            Volatile.Write(ref _draining, 0);
            // One that came between the look and the word is not left behind.
            if (_waiting.IsEmpty || Interlocked.CompareExchange(ref _draining, 1, 0) != 0)
                return;
        }
    }

    private async Task Take(List<Waiting> some)
    {
        try
        {
            await _one.WaitAsync();
        }
        catch (ObjectDisposedException problem)
        {
            foreach (var entry in some)
                entry.Done.TrySetException(problem);
            return;
        }
        try
        {
            try
            {
                await Together(some);
            }
            catch (Exception) when (some.Count > 1)
            {
                // One of them cannot be kept: each for itself, so that it spoils no other.
                foreach (var entry in some)
                    try
                    {
                        await Together([entry]);
                    }
                    catch (Exception problem)
                    {
                        entry.Done.TrySetException(problem);
                    }
            }
            catch (Exception problem)
            {
                some[0].Done.TrySetException(problem);
            }
        }
        finally
        {
            _one.Release();
        }
    }

    /// <summary>Entries in one transaction, each on what the one before it left. All of them are kept, or none.</summary>
    private async Task Together(List<Waiting> entries)
    {
        _writer ??= new JournalWriter(folder);
        var outcomes = new List<(Waiting Entry, LedgerResult Result, List<(Guid, CardSummary)> Told)>(entries.Count);
        var staged = new Dictionary<Guid, (LoadedCard Loaded, JudgedCard Judged)?>();
        long sequence;
        await using (var transaction = _writer.Begin())
        {
            // A context costs more than the whole entry: only what the prepared statements cannot do asks for one.
            WalkdownDb? context = null;
            try
            {
                if (_sequence < 0)
                    _sequence = await Context().Journal.MaxAsync(j => (long?)j.Sequence) ?? 0;
                sequence = _sequence;
                foreach (var entry in entries)
                {
                    var outcome = await One(entry, sequence + 1, Context, staged);
                    if (outcome.Result.Kept == Kept.New)
                        sequence++;
                    outcomes.Add(outcome);
                }
            }
            finally
            {
                if (context is not null)
                    await context.DisposeAsync();
            }
            if (sequence > _sequence)
                await transaction.CommitAsync(CancellationToken.None);

            WalkdownDb Context() => context ??= _writer.Context(transaction);
        }
        Settle((int)(sequence - _sequence));
        _sequence = sequence;
        foreach (var (device, card) in staged)
            if (card is { } kept)
                _shelf.Put(kept.Loaded, kept.Judged);
            else
                _shelf.Remove(device);
        foreach (var (entry, result, told) in outcomes)
        {
            if (result.Entry is { } kept)
                Tell(kept, told);
            entry.Done.TrySetResult(result);
        }
    }

    private int _unsettled,
        _settling;

    /// <summary>After some hundred entries the write-ahead log is brought into the file, beside the next entries: whoever presses just then
    /// does not wait for it.</summary>
    private void Settle(int entries)
    {
        if ((_unsettled += entries) < EntriesToSettle || Interlocked.CompareExchange(ref _settling, 1, 0) != 0)
            return;
        _unsettled = 0;
        _ = Task.Run(() =>
        {
            try
            {
                folder.Settle();
            }
            catch (SqliteException)
            {
                // The log is longer until the next time; nothing in it is lost.
            }
            finally
            {
                Volatile.Write(ref _settling, 0);
            }
        });
    }

    /// <summary>One entry: looked at, written and judged.</summary>
    /// <param name="staged">Cards as entries of the same transaction left them; null: to be loaded again.</param>
    private async Task<(Waiting Entry, LedgerResult Result, List<(Guid, CardSummary)> Told)> One(
        Waiting entry,
        long sequence,
        Func<WalkdownDb> context,
        Dictionary<Guid, (LoadedCard Loaded, JudgedCard Judged)?> staged
    )
    {
        var now = time.GetUtcNow();
        var isStaged = staged.TryGetValue(entry.DeviceId, out var before);
        if (
            (before?.Loaded ?? (isStaged ? await Load(context(), entry.DeviceId, anew: true) : await Load(context, entry.DeviceId)))
            is not { } loaded
        )
            return Only(new LedgerResult(Kept.UnknownPlace));
        loaded = loaded with { Facts = loaded.Facts with { Now = SiteTime.In(loaded.Job.TimeZone, now) } };
        var judged = before is { } known ? known.Judged.At(loaded.Facts) : _shelf.Judge(loaded, entry.Catalogue);
        if (_writer!.Find(entry.Request.Id) is { } earlier)
            return Only(
                earlier.Hash.AsSpan().SequenceEqual(entry.Hash) && earlier.DeviceId == entry.DeviceId
                    ? new LedgerResult(Kept.Already, Loaded: loaded, Judged: judged)
                    : new LedgerResult(Kept.OtherBody)
            );
        var decision = EntryDoor.Decide(
            entry.Request,
            await EntryLookups.For(
                new EntryContext(judged, sequence, EntryDoor.TakenAt(entry.Request, now)!.Value, now),
                entry.Request.Needs(),
                loaded.Job.Id,
                context
            ),
            loaded.People
        );
        if (decision.Refused is not null)
            return Only(new LedgerResult(Kept.Refused, decision.Refused, decision.Field));
        var line = new JournalEntry
        {
            Sequence = sequence,
            Id = entry.Request.Id,
            JobId = loaded.Job.Id,
            DeviceId = entry.DeviceId,
            Kind = entry.Request.JournalKind(),
            BodyHash = entry.Hash,
            By = entry.Request.By,
            At = now,
        };
        _writer.Add(line);
        _writer.Add(decision, entry.DeviceId);
        if (decision.Swap is { } swap)
            await UnitSwaps.Write(context(), loaded.Job.Id, entry.DeviceId, swap);
        var after = decision.Swap is null ? Joined(loaded, decision) : (await CardFactsLoader.Load(context(), entry.DeviceId, now))!;
        var card = judged.At(after.Facts);
        var signature = SignatureOf(loaded.Job, entry.Catalogue);
        List<(Guid, CardSummary)> told =
        [
            (entry.DeviceId, _writer.Summarise(loaded.Job.Id, entry.DeviceId, card.Card, sequence, signature)),
        ];
        var reaches = ReachOf(loaded, decision, entry.Catalogue);
        staged[entry.DeviceId] = (after, card);
        var elsewhere = new List<Guid>();
        foreach (var other in reaches)
        {
            // Who shares a run has its entries too: where the Card is here, they are added to it as they were to the record.
            var kept = staged.TryGetValue(other, out var earlierOther) ? earlierOther?.Loaded : _shelf.Find(other);
            if (kept is null || !loaded.SharesRunWith.Contains(other) || decision.Swap is not null)
            {
                elsewhere.Add(other);
                continue;
            }
            kept = kept with { Facts = kept.Facts with { Now = loaded.Facts.Now } };
            var was = earlierOther is { } inBatch ? inBatch.Judged.At(kept.Facts) : _shelf.Judge(kept, entry.Catalogue);
            var shared = Joined(kept, decision, kept.Facts.Runs);
            var judgedOther = was.At(shared.Facts);
            told.Add((other, _writer.Summarise(loaded.Job.Id, other, judgedOther.Card, 0, signature)));
            staged[other] = (shared, judgedOther);
        }
        if (elsewhere.Count > 0)
            foreach (var reached in await CardFactsLoader.Load(context(), elsewhere, now))
            {
                var place = reached.Facts.Place.Id;
                told.Add((place, _writer.Summarise(loaded.Job.Id, place, Card.Judge(reached.Facts, entry.Catalogue), 0, signature)));
                staged[place] = null;
            }
        return (entry, new LedgerResult(Kept.New, Loaded: after, Judged: card, Entry: line, Before: judged), told);

        (Waiting, LedgerResult, List<(Guid, CardSummary)>) Only(LedgerResult result) => (entry, result, []);
    }

    /// <summary>Other Cards that an entry reaches: those on the same run, and at a recorder, by what is asked there, by work or by their
    /// taking back, those on its channels, and by what it draws those on the same switch.</summary>
    private static ImmutableArray<Guid> ReachOf(LoadedCard card, EntryDecision decision, Catalogue catalogue) =>
        !card.Serves.IsEmpty
        && (
            decision.Events.Any(e => e is Withdrawal or Act or Exemption)
            || decision.Readings.Any(r => catalogue.AskedAtRecorder.Contains(r.Key.Check))
        )
            ? card.Reaches
        : decision.Events.Any(e => e is Withdrawal or Act)
        || decision.Readings.Any(r => r.Key.Check == KnownChecks.WattsAtPort || r.Key.Check == KnownChecks.WattsAtDevice)
            ?
            [
                .. card.SharesRunWith,
                .. CardFactsLoader.OnTheSameSource(card.Facts).Where(id => id != card.Facts.Place.Id && !card.SharesRunWith.Contains(id)),
            ]
        : card.SharesRunWith;

    private async Task<LoadedCard?> Load(Func<WalkdownDb> db, Guid deviceId) => _shelf.Find(deviceId) ?? await Load(db(), deviceId);

    /// <param name="anew">An entry of the open transaction reached it: what is on the shelf is from before.</param>
    private async Task<LoadedCard?> Load(WalkdownDb db, Guid deviceId, bool anew = false)
    {
        if (!anew && _shelf.Find(deviceId) is { } known)
            return known;
        if (await CardFactsLoader.Load(db, deviceId, time.GetUtcNow(), _shelf.Job) is not { } loaded)
            return null;
        _shelf.Put(new JobFacts(loaded.Job, loaded.Facts.Instruments, loaded.People));
        if (!anew)
            _shelf.Put(loaded);
        return loaded;
    }

    /// <summary>A Card with what an entry of another added to runs that both hang on: its readings, the work on them, and what was taken
    /// back of either. The loader gives the same.</summary>
    private static LoadedCard Joined(LoadedCard card, EntryDecision decision, ImmutableArray<RunFacts> runs) =>
        card with
        {
            Facts = card.Facts with
            {
                Readings = card.Facts.Readings.AddRange(decision.Readings.Where(r => runs.Any(run => run.Id == r.Key.On.Id))),
                Events = card.Facts.Events.AddRange(
                    decision.Events.Where(e =>
                        e is Act { On: { Kind: SubjectKind.Run } on } && runs.Any(run => run.Id == on.Id)
                        || e is Withdrawal w && (card.Facts.Readings.Any(r => r.Id == w.Of) || card.Facts.Events.Any(x => x.Id == w.Of))
                    )
                ),
            },
        };

    private static LoadedCard Joined(LoadedCard card, EntryDecision decision) =>
        card with
        {
            Facts = card.Facts with
            {
                Readings = card.Facts.Readings.AddRange(decision.Readings),
                Events = card.Facts.Events.AddRange(decision.Events),
                Faults = card.Facts.Faults.AddRange(decision.Faults),
            },
            FaultWords = card.FaultWords.AddRange(decision.FaultWords),
        };

    /// <summary>Runs a change that is not about one Card, under the same lock, with a journal line.</summary>
    public Task<T> Change<T>(Guid jobId, string kind, Func<WalkdownDb, long, Task<(T Result, bool Changed)>> change) =>
        Change(jobId, kind, change, []);

    private async Task<T> Change<T>(
        Guid jobId,
        string kind,
        Func<WalkdownDb, long, Task<(T Result, bool Changed)>> change,
        IReadOnlyList<(Guid, CardSummary)> told
    )
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
                await BulkInsert.Added(db);
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
                var alters = ChangeMap.Of(kind);
                await Renew(db, jobId, alters);
                if (alters.HasFlag(Alters.Cards) || alters.HasFlag(Alters.Instruments))
                    Touched?.Invoke(null);
                Tell(entry, told);
            }
        }
        finally
        {
            _one.Release();
        }
        return result;
    }

    /// <summary>After a change: what it made another is forgotten, or taken anew from the record.</summary>
    private async Task Renew(WalkdownDb db, Guid jobId, Alters alters)
    {
        if (alters.HasFlag(Alters.Cards))
            _shelf.Clear();
        else if (alters.HasFlag(Alters.People) || alters.HasFlag(Alters.Instruments))
            try
            {
                if (await CardFactsLoader.LoadJob(db, jobId) is { } job)
                    _shelf.Renew(job);
            }
            catch (Exception problem) when (problem is SqliteException or IOException or InvalidOperationException)
            {
                _shelf.Clear();
            }
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
                _shelf.Remove(device);
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
            await Rejudge(jobId, devices, catalogue, progress);
        }
        catch (Exception problem) when (problem is SqliteException or DbUpdateException or IOException)
        {
            // What was shown of them before is forgotten: they are judged, or the disk says so again, when somebody looks.
            _shelf.Clear();
            Unsettled?.Invoke(jobId);
            Touched?.Invoke(null);
        }
    }

    /// <summary>
    /// Judges anew every Card of a job whose summary was made by another catalogue, program or practice, or that has none: a file that
    /// was dropped in, a new release, a stop between a change and its judging. Nobody sees an old Verdict.
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
            // What could be done, and no longer can: it is light again, the second person has left.
            var now = time.GetUtcNow();
            stale.AddRange(await db.Cards.Where(c => c.JobId == jobId && c.WaitsEnds <= now).Select(c => c.DeviceId).ToListAsync());
            stale = [.. stale.Distinct()];
        }
        if (stale.Count > 0)
            await Rejudge(jobId, stale, catalogue);
        return stale.Count;
    }

    /// <summary>Judges a few Cards anew, where something that they lean on has changed.</summary>
    public async Task Rejudge(
        Guid jobId,
        IReadOnlyCollection<Guid> deviceIds,
        Catalogue catalogue,
        IProgress<(int Done, int Of)>? progress = null
    )
    {
        List<(Guid, CardSummary)> told = [];
        foreach (var some in deviceIds.Chunk(250))
        {
            // Between two portions others may write.
            await _one.WaitAsync();
            try
            {
                _writer ??= new JournalWriter(folder);
                await using var transaction = _writer.Begin();
                await using var db = _writer.Context(transaction);
                // Judged by all processors, written by one.
                var loaded = await CardFactsLoader.Load(db, some, time.GetUtcNow());
                foreach (var (card, judged) in loaded.AsParallel().AsOrdered().Select(c => (c, Card.Judge(c.Facts, catalogue))))
                {
                    var place = card.Facts.Place.Id;
                    told.Add((place, _writer.Summarise(jobId, place, judged, 0, SignatureOf(card.Job, catalogue))));
                }
                await transaction.CommitAsync();
                foreach (var id in some)
                    Touched?.Invoke(id);
            }
            finally
            {
                _one.Release();
            }
            progress?.Report((told.Count, deviceIds.Count));
        }
        await Change(jobId, "summaries-rebuilt", (_, _) => Task.FromResult((true, true)), told);
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

    /// <summary>Forgets every Card kept in memory: what was read of the record may not be what is there.</summary>
    public async Task Distrust()
    {
        await _one.WaitAsync();
        try
        {
            _shelf.Clear();
            Touched?.Invoke(null);
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
        _shelf.Clear();
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
            WaitsUntil = card.WaitsUntil,
            WaitsFor = card.WaitsFor,
            WaitsEnds = card.WaitsEnds,
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
        // Of a change of the whole job nobody needs the list of all its Cards.
        Committed?.Invoke(entry, entry.DeviceId is null ? [] : [.. summaries.Select(s => s.Device).Where(d => d != entry.DeviceId)]);
    }
}
