using System.Collections.Concurrent;
using System.Collections.Immutable;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;
using Walkdown.Core.Results;
using Walkdown.Devices;
using Walkdown.Formats;
using Walkdown.Reports;
using Walkdown.Server.Shared;
using Walkdown.Storage;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Readings;

/// <summary>Where proposed readings come from.</summary>
public enum IntakeOrigin
{
    File,
    Sweep,
}

/// <summary>What is to become of one proposed reading.</summary>
public enum IntakeFate
{
    In,
    TooClose,
    Out,
    NotJudged,
    Known,
    Refused,
    Unmatched,
}

/// <summary>One proposed reading as it stands.</summary>
/// <param name="Line">Line of the file; 0 for a sweep.</param>
/// <param name="Where">Label as it stands in the file.</param>
/// <param name="Was">State of the row before.</param>
/// <param name="Limit">The row's limits in words, where it has any.</param>
/// <param name="Why">In words: why it is out, too close, refused or not matched.</param>
public sealed record IntakeLine(
    int Index,
    int Line,
    string Where,
    string Function,
    string Part,
    Condition Under,
    string Text,
    Guid? DeviceId,
    string? Device,
    string? Check,
    IntakeFate Fate,
    State Was,
    string? WasText,
    string? Limit,
    string Instrument,
    bool InstrumentCounts,
    ImmutableArray<string> Why
);

/// <summary>Labels that match no run and no device, with how many results hang on each.</summary>
public sealed record UnmatchedLabel(string Where, int Results);

/// <summary>Instruments named by the file that are not in the Kit.</summary>
public sealed record UnknownInstrument(string Serial, int Results);

/// <param name="Lines">The first of each fate; the counts say how many there are.</param>
public sealed record IntakeAnswer(
    Guid Id,
    IntakeOrigin Origin,
    string Name,
    int Total,
    ImmutableDictionary<IntakeFate, int> Counts,
    int Devices,
    ImmutableArray<IntakeLine> Lines,
    ImmutableArray<UnmatchedLabel> Unmatched,
    ImmutableArray<UnknownInstrument> Instruments,
    bool Taken
);

public sealed record SweepRequest(Condition Under, bool OnlyDue, string? Area = null, string? Cabinet = null, Guid? InstrumentId = null);

/// <param name="Labels">Label of the file to the device it is of; null leaves it out.</param>
public sealed record AssignRequest(ImmutableDictionary<string, Guid?> Labels, Guid? InstrumentId);

/// <param name="Fates">Which are taken; only in, too close and out can be.</param>
public sealed record TakeResultsRequest(Guid Id, Guid By, DateTimeOffset TakenAt, double ClockOffsetMs, ImmutableArray<IntakeFate> Fates)
    : Core.Entries.IEntry;

/// <summary>
/// Readings that were not typed one by one: an area swept over tester and switch, or an instrument's file. They are matched, judged and
/// shown; what
/// is taken is taken whole, by a person, after it was looked at.
/// </summary>
public sealed class ResultIntake(
    Ledger ledger,
    CatalogueStore catalogue,
    MeasureSources sources,
    Observations observations,
    TimeProvider time
)
{
    public const int InFlight = 16;
    private const int MostDrafts = 6,
        MostEntries = 600_000;
    private const int MostShown = 300;

    private readonly ConcurrentDictionary<Guid, Draft> _drafts = new();

    private sealed class Entry(InstrumentResult result)
    {
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

    private sealed class Draft(Guid jobId, IntakeOrigin origin, string name, List<Entry> entries)
    {
        public Guid JobId => jobId;
        public IntakeOrigin Origin => origin;
        public string Name => name;
        public List<Entry> Entries => entries;
        public Dictionary<string, Guid?> Assigned { get; } = [];
        public Guid? Instrument { get; set; }

        /// <summary>Somebody saw which serial numbers are not in the Kit, and said what read them.</summary>
        public bool Said { get; set; }
        public bool Taken { get; set; }
        public DateTime At { get; } = DateTime.UtcNow;

        /// <summary>One at a time changes it, takes it, or reads it while it is whole.</summary>
        public SemaphoreSlim One { get; } = new(1, 1);
    }

    public async Task<IntakeAnswer?> Get(Guid jobId, Guid id)
    {
        if (!_drafts.TryGetValue(id, out var draft) || draft.JobId != jobId)
            return null;
        await draft.One.WaitAsync();
        try
        {
            return Answer(id, draft);
        }
        finally
        {
            draft.One.Release();
        }
    }

    /// <summary>Reads a file, matches and judges it. Nothing is kept of the record.</summary>
    public async Task<IntakeAnswer> FromFile(
        Guid jobId,
        string name,
        byte[] file,
        Guid? instrument,
        IProgress<(int, int)> progress,
        CancellationToken cancel
    )
    {
        string zone;
        await using (var db = ledger.OpenDb())
            zone = (await db.Jobs.FirstAsync(j => j.Id == jobId, cancel)).TimeZone;
        var entries = await Task.Run(() => ResultFile.Read(file, zone, cancel).Select(r => new Entry(r)).ToList(), cancel);
        if (entries.Count == 0)
            throw new Refusal(new("result.nothing"));
        var draft = new Draft(jobId, IntakeOrigin.File, name, entries) { Instrument = instrument };
        await Match(draft, progress, cancel);
        return Keep(draft);
    }

    /// <summary>Asks tester and switch for everything that can be read in an area, several Stops at once.</summary>
    public async Task<IntakeAnswer> Sweep(Guid jobId, SweepRequest request, IProgress<(int, int)> progress, CancellationToken cancel)
    {
        List<Guid> ids;
        await using (var db = ledger.OpenDb())
        {
            ids = await db
                .Devices.Where(d => d.JobId == jobId && !d.Cancelled && (request.Area == null || d.Area.Name == request.Area))
                .Select(d => d.Id)
                .ToListAsync(cancel);
            if (request.Cabinet is { } cabinet)
            {
                var on = await db
                    .RunEnds.Where(e =>
                        e.DeviceId != null
                        && db.RunEnds.Any(n =>
                            n.RunId == e.RunId && n.Port != null && n.Port.Cabinet.Label == cabinet && n.Port.Cabinet.JobId == jobId
                        )
                    )
                    .Select(e => e.DeviceId!.Value)
                    .ToListAsync(cancel);
                ids = [.. ids.Intersect(on)];
            }
        }
        if (ids.Count == 0)
            throw new Refusal(new("sweep.nothing"));
        var asks = new List<(LoadedCard Card, PlannedRow Row, ImmutableArray<PlannedRow> Siblings)>();
        foreach (var some in ids.Chunk(250))
        {
            await using var db = ledger.OpenDb();
            foreach (var card in await CardFactsLoader.Load(db, some, time.GetUtcNow()))
            {
                var judged = Card.Judge(card.Facts, catalogue.Catalogue);
                if (judged.Hold is not null || judged.Blocked is not null)
                    continue;
                var state = judged.Rows.ToDictionary(r => r.Key, r => r);
                foreach (
                    var group in CheckPlan
                        .For(card.Facts, catalogue.Catalogue)
                        .Rows.Where(r => r.Check.Tester is not null && (r.Key.Under == Condition.Any || r.Key.Under == request.Under))
                        .Where(r => state[r.Key].State != State.NotApplicable && state[r.Key].HeldBy.IsEmpty)
                        .GroupBy(r => (r.Check.Id, r.Key.On.Id, r.Key.Under))
                )
                    if (!request.OnlyDue || group.Any(r => state[r.Key].State is State.NotTaken or State.Stale))
                        asks.Add((card, group.First(), [.. group]));
            }
        }
        if (asks.Count == 0)
            throw new Refusal(new("sweep.nothing-due"));
        var entries = new ConcurrentBag<(int Order, Entry Entry)>();
        var done = 0;
        progress.Report((0, asks.Count));
        await Parallel.ForEachAsync(
            asks.Select((ask, order) => (ask, order)),
            new ParallelOptions { MaxDegreeOfParallelism = InFlight, CancellationToken = cancel },
            async (item, stop) =>
            {
                var (card, row, siblings) = item.ask;
                var facts = card.Facts;
                var question = SourceQuestion.Of(facts, row);
                var outcome = await sources.Ask(question, stop);
                var at = time.GetUtcNow();
                if (await observations.Found(jobId, row.Check, outcome) is { } found)
                    await observations.Keep(found);
                var heard = outcome.Trouble is null ? observations.Of(jobId, facts, row, siblings, outcome) : null;
                Entry Of(PlannedRow to, ReadingValue? value, Message? trouble) =>
                    new(
                        new InstrumentResult(
                            0,
                            question.Label,
                            row.Check.Tester!,
                            to.Key.On.Part,
                            row.Key.Under,
                            "",
                            "",
                            at,
                            outcome.Serial,
                            "",
                            value,
                            trouble
                        )
                    )
                    {
                        Device = facts.Place.Id,
                        Label = facts.Place.Label,
                        Key = to.Key,
                        Source = heard?.Source ?? ReadingSource.Tester,
                        Heard = heard,
                    };
                if (outcome.Trouble is { } why)
                    entries.Add((item.order, Of(row, null, why)));
                else
                    foreach (var reading in outcome.Readings)
                        if (siblings.FirstOrDefault(s => s.Key.On.Part == reading.Part) is { } to)
                            entries.Add((item.order, Of(to, reading.Value, null)));
                progress.Report((Interlocked.Increment(ref done), asks.Count));
            }
        );
        var draft = new Draft(
            jobId,
            IntakeOrigin.Sweep,
            request.Area ?? request.Cabinet ?? "",
            [.. entries.OrderBy(e => e.Order).Select(e => e.Entry)]
        )
        {
            Instrument = request.InstrumentId,
        };
        await Match(draft, new Progress<(int, int)>(), cancel);
        return Keep(draft);
    }

    /// <summary>Says what a label of the file is of, and which instrument read it.</summary>
    public async Task<IntakeAnswer?> Assign(Guid jobId, Guid id, AssignRequest request, CancellationToken cancel)
    {
        if (!_drafts.TryGetValue(id, out var draft) || draft.JobId != jobId || draft.Taken)
            return null;
        await draft.One.WaitAsync(cancel);
        try
        {
            if (draft.Taken)
                return null;
            foreach (var (label, device) in request.Labels)
                draft.Assigned[ResultValue.Key(label)] = device;
            if (request.InstrumentId is { } said)
                (draft.Instrument, draft.Said) = (said, draft.Origin == IntakeOrigin.File);
            await Match(draft, new Progress<(int, int)>(), cancel);
            return Answer(id, draft);
        }
        finally
        {
            draft.One.Release();
        }
    }

    /// <summary>Keeps the chosen ones, all or none, and judges every Card that they reach.</summary>
    public async Task<LedgerResult?> Take(Guid jobId, Guid id, TakeResultsRequest request)
    {
        if (!_drafts.TryGetValue(id, out var draft) || draft.JobId != jobId)
            return null;
        await draft.One.WaitAsync();
        try
        {
            return await Take(jobId, draft, request);
        }
        finally
        {
            draft.One.Release();
        }
    }

    private async Task<LedgerResult> Take(Guid jobId, Draft draft, TakeResultsRequest request)
    {
        var now = time.GetUtcNow();
        var inForce = catalogue.Catalogue;
        var result = await ledger.Edit(
            jobId,
            request.Id,
            "results",
            request,
            request.By,
            inForce,
            async (db, sequence) =>
            {
                IReadOnlyDictionary<Guid, List<object>> nothing = new Dictionary<Guid, List<object>>();
                if (draft.Taken)
                    return (new Message("result.taken-already"), "id", nothing);
                if (await Writers.Refuse(db, jobId, request.By, now) is { } stranger)
                    return (stranger, "by", nothing);
                var chosen = draft
                    .Entries.Where(e =>
                        e.Key is not null
                        && e.Value is not null
                        && e.Fate is IntakeFate.In or IntakeFate.TooClose or IntakeFate.Out or IntakeFate.NotJudged
                        && request.Fates.Contains(e.Fate)
                    )
                    .ToList();
                if (chosen.Count == 0)
                    return (new Message("result.nothing-chosen"), "fates", nothing);
                var edition = inForce.LimitSet.Edition;
                return (
                    null,
                    null,
                    chosen
                        .GroupBy(e => e.Device!.Value)
                        .ToDictionary(
                            g => g.Key,
                            g =>
                                g.Select(
                                        object (e) =>
                                            new Reading(
                                                e.ReadingId,
                                                e.Key!.Value,
                                                e.UnitId,
                                                e.Value!,
                                                e.Key.Value.Under,
                                                e.Instrument,
                                                e.Source,
                                                request.By,
                                                TakenAt(e, now),
                                                now,
                                                sequence,
                                                e.Window is { } w ? new LimitSeen(edition, w.Min, w.Max) : null
                                            )
                                            {
                                                CheckVersion = e.CheckVersion,
                                                ObservationId = e.Heard?.Id,
                                            }
                                    )
                                    .Concat(g.Select(e => e.Heard).OfType<ObservationRecord>().DistinctBy(o => o.Id))
                                    .ToList()
                        )
                );
            }
        );
        if (result.Kept is Kept.New)
            draft.Taken = true;
        return result;
    }

    private static DateTimeOffset TakenAt(Entry e, DateTimeOffset now) =>
        e.Result.At is { } at && at <= now && at.Year >= 2020 ? at.ToUniversalTime() : now;

    private IntakeAnswer Keep(Draft draft)
    {
        // What is proposed is held in memory: so many drafts, and so many readings in all of them.
        var held = draft.Entries.Count;
        foreach (var (old, at) in _drafts.OrderByDescending(d => d.Value.At).Select((d, i) => (d, i)))
            if (at >= MostDrafts - 1 || (held += old.Value.Entries.Count) > MostEntries)
                _drafts.TryRemove(old.Key, out _);
        var id = Guid.CreateVersion7();
        _drafts[id] = draft;
        return Answer(id, draft);
    }

    private sealed record KnownDevice(Guid Id, string Label);

    /// <summary>Finds the row of each result and judges every Card with all that it would get.</summary>
    private async Task Match(Draft draft, IProgress<(int, int)> progress, CancellationToken cancel)
    {
        await using var db = ledger.OpenDb();
        var devices = await db
            .Devices.Where(d => d.JobId == draft.JobId && !d.Cancelled)
            .Select(d => new KnownDevice(d.Id, d.Label))
            .ToListAsync(cancel);
        var byId = devices.ToDictionary(d => d.Id);
        var ends = await db
            .RunEnds.Where(e => e.DeviceId != null && db.Runs.Any(r => r.Id == e.RunId && r.JobId == draft.JobId))
            .Select(e => new { e.DeviceId, db.Runs.First(r => r.Id == e.RunId).Label })
            .ToListAsync(cancel);
        // A run's own label goes before a device's: where they differ, the tester read the cable.
        var places = new Dictionary<string, Guid?>();
        foreach (var d in devices)
            places[ResultValue.Key(d.Label)] = places.ContainsKey(ResultValue.Key(d.Label)) ? null : d.Id;
        foreach (var group in ends.Where(e => byId.ContainsKey(e.DeviceId!.Value)).GroupBy(e => ResultValue.Key(e.Label)))
            places[group.Key] = group.OrderBy(e => byId[e.DeviceId!.Value].Label).First().DeviceId;
        var kit = await CardFactsLoader.Instruments(db, draft.JobId);
        var bySerial = kit.GroupBy(i => ResultValue.Key(i.Serial)).ToDictionary(g => g.Key, g => g.First());
        foreach (var e in draft.Entries)
        {
            // Whose serial answered is whose accuracy judges; where a serial is given that nobody knows, no accuracy is.
            e.Instrument =
                bySerial.TryGetValue(ResultValue.Key(e.Result.Instrument), out var named) ? named.Id
                : e.Result.Instrument.Length > 0 && !draft.Said ? null
                : draft.Instrument;
            if (draft.Origin == IntakeOrigin.Sweep)
                continue;
            var key = ResultValue.Key(e.Result.Where);
            e.Device = draft.Assigned.TryGetValue(key, out var assigned) ? assigned : places.GetValueOrDefault(key);
            e.Label = e.Device is { } device ? byId.GetValueOrDefault(device)?.Label : null;
            (e.Key, e.Value, e.Fate, e.Why) = (
                null,
                null,
                IntakeFate.Unmatched,
                key.Length == 0 || draft.Assigned.ContainsKey(key)
                    ? []
                    : [new("result.unmatched", e.Result.Where.Length > 40 ? e.Result.Where[..40] : e.Result.Where)]
            );
            if (e.Result.Trouble is { } trouble)
                (e.Fate, e.Why) = (IntakeFate.Refused, [trouble]);
        }
        var matched = draft.Entries.Where(e => e.Device is not null).GroupBy(e => e.Device!.Value).ToList();
        var done = 0;
        foreach (var some in matched.Chunk(250))
        {
            cancel.ThrowIfCancellationRequested();
            var cards = (await CardFactsLoader.Load(db, [.. some.Select(g => g.Key)], time.GetUtcNow())).ToDictionary(c =>
                c.Facts.Place.Id
            );
            foreach (var group in some)
                Judge(cards[group.Key], [.. group]);
            progress.Report((done += some.Length, matched.Count));
        }
    }

    private void Judge(LoadedCard card, List<Entry> entries)
    {
        var facts = card.Facts;
        var now = facts.Now;
        var inForce = catalogue.Catalogue;
        var rows = CheckPlan.For(facts, inForce).Rows;
        var before = Card.Judge(facts, inForce).Rows.ToDictionary(r => r.Key);
        var added = new List<(Entry Entry, Reading Reading)>();
        var seen = new Dictionary<CheckKey, (DateTimeOffset? At, Entry Entry)>();
        foreach (var e in entries)
        {
            if (e.Result.Trouble is { } trouble)
            {
                Refuse(e, trouble);
                continue;
            }
            if (e.Key is null && !Find(e, rows))
                continue;
            var check = rows.First(r => r.Key == e.Key).Check;
            var (value, refused) = ResultValue.Read(check, e.Result);
            if (refused is not null)
            {
                Refuse(e, refused);
                continue;
            }
            e.Value = value;
            if (e.Result.At is { } future && future > now.AddMinutes(10))
            {
                Refuse(e, new("result.future"));
                continue;
            }
            if (!before[e.Key!.Value].HeldBy.IsEmpty)
            {
                Refuse(e, new("hold.until", "@check." + before[e.Key.Value].HeldBy[0].Value));
                continue;
            }
            // A day without a time stands before or after the work of that day: nobody knows.
            if (
                e.Result is { DayOnly: true, At: { } day }
                && facts.Events.OfType<Act>().Any(a => facts.DayOf(a.At) == facts.DayOf(day) && check.VoidedBy.Contains(a.ActKind))
            )
            {
                Refuse(e, new("result.day-of-work"));
                continue;
            }
            if (
                e.Instrument is { } by
                && facts.Instruments.FirstOrDefault(i => i.Id == by) is { RetiredAt: { } retired } gone
                && TakenAt(e, now) > retired
            )
            {
                Refuse(e, new("problem.instrument-retired", Message.Said(gone.Name)));
                continue;
            }
            if (seen.TryGetValue(e.Key!.Value, out var twin) && twin.At == e.Result.At)
            {
                Refuse(e, new("result.twice", twin.Entry.Result.Line.ToString(System.Globalization.CultureInfo.InvariantCulture)));
                continue;
            }
            seen[e.Key.Value] = (e.Result.At, e);
            if (facts.Readings.Any(r => r.Key == e.Key && r.TakenAt == TakenAt(e, now) && Same(r.Value, value!)))
            {
                (e.Fate, e.Why) = (IntakeFate.Known, []);
                continue;
            }
            e.UnitId = facts.UnitAt(TakenAt(e, now))?.Id;
            e.CheckVersion = check.Version;
            added.Add(
                (
                    e,
                    new Reading(
                        e.ReadingId,
                        e.Key.Value,
                        e.UnitId,
                        value!,
                        e.Key.Value.Under,
                        e.Instrument,
                        e.Source,
                        Guid.Empty,
                        TakenAt(e, now),
                        now,
                        long.MaxValue
                    )
                )
            );
        }
        if (added.Count == 0)
            return;
        var after = Card.Judge(facts with { Readings = facts.Readings.AddRange(added.Select(a => a.Reading)) }, inForce)
            .Rows.ToDictionary(r => r.Key);
        foreach (var (e, _) in added)
        {
            var attempt = after[e.Key!.Value].Attempts.First(a => a.ReadingId == e.ReadingId);
            e.Fate = attempt.State switch
            {
                State.In => IntakeFate.In,
                State.Out => IntakeFate.Out,
                State.NotJudged => IntakeFate.NotJudged,
                _ => IntakeFate.TooClose,
            };
            e.Why = attempt.State == State.In ? [] : attempt.Because;
            if (attempt.Standing is Standing.VoidedByAct or Standing.UnitGone)
                e.Why = e.Why.Add(new("result.older-than-work"));
            e.Counts = attempt.Standing is not (Standing.OutOfCalibration or Standing.InstrumentInDoubt);
            if (!e.Counts)
                e.Why = e.Why.Add(new("result.instrument-out"));
            if (after[e.Key.Value] is { Counts: var counting, Unexpected: { IsEmpty: false } odd } && counting == e.ReadingId)
                e.Why = e.Why.AddRange(odd);
            var was = before[e.Key.Value];
            e.Was = was.State;
            e.Window = after[e.Key.Value].Window;
            e.WasText = was.Attempts.FirstOrDefault(a => a.ReadingId == was.Counts) is { } counted ? TextOf(counted.Value) : null;
        }
    }

    private static bool Same(ReadingValue a, ReadingValue b) =>
        System.Text.Json.JsonSerializer.Serialize(a, Core.CoreJson.Options)
        == System.Text.Json.JsonSerializer.Serialize(b, Core.CoreJson.Options);

    private static void Refuse(Entry e, Message why) => (e.Fate, e.Why) = (IntakeFate.Refused, [why]);

    private static bool Find(Entry e, ImmutableArray<PlannedRow> rows)
    {
        var r = e.Result;
        var fit = rows.Where(row =>
                row.Check.Tester == r.Function && (r.Part.Length == 0 && row.Check.PartsFrom is null || row.Key.On.Part == r.Part)
            )
            .ToList();
        if (fit.Count == 0)
        {
            Refuse(e, rows.Any(row => row.Check.Tester == r.Function) ? new("result.which-pair") : new("result.no-such-check", r.Function));
            return false;
        }
        var under = fit.Where(row => row.Key.Under == r.Under || row.Key.Under == Condition.Any).ToList();
        if (under.Count != 1)
        {
            Refuse(e, new(r.Under == Condition.Any ? "result.which-condition" : "result.no-such-condition"));
            return false;
        }
        e.Key = under[0].Key;
        return true;
    }

    private IntakeAnswer Answer(Guid id, Draft draft)
    {
        var t = catalogue.Texts;
        var counts = draft.Entries.CountBy(e => e.Fate).ToImmutableDictionary(c => c.Key, c => c.Value);
        var shown = draft
            .Entries.Select((e, i) => (e, i))
            .GroupBy(x => x.e.Fate)
            .SelectMany(g => g.Take(MostShown))
            .Select(x => new IntakeLine(
                x.i,
                x.e.Result.Line,
                x.e.Result.Where,
                x.e.Result.Function,
                x.e.Key?.On.Part ?? x.e.Result.Part,
                x.e.Key?.Under ?? x.e.Result.Under,
                x.e.Value is { } v ? TextOf(v) : x.e.Result.Text,
                x.e.Device,
                x.e.Label,
                x.e.Key is { } key ? t["check." + key.Check.Value] : null,
                x.e.Fate,
                x.e.Was,
                x.e.WasText,
                x.e.Window is { Empty: false } w ? $"{ValueText.Limits(t, w)} {t["unit." + Codes.Of(w.Unit)]}" : null,
                x.e.Result.Instrument,
                x.e.Counts,
                [.. x.e.Why.Select(w => t.Say(w))]
            ));
        return new IntakeAnswer(
            id,
            draft.Origin,
            draft.Name,
            draft.Entries.Count,
            counts,
            draft.Entries.Where(e => e.Device is not null).Select(e => e.Device).Distinct().Count(),
            [.. shown],
            [
                .. draft
                    .Entries.Where(e => e.Fate == IntakeFate.Unmatched && e.Result.Where.Length > 0)
                    .GroupBy(e => e.Result.Where)
                    .OrderBy(g => g.Key, Core.Register.NaturalOrder.Instance)
                    .Take(200)
                    .Select(g => new UnmatchedLabel(g.Key, g.Count())),
            ],
            [
                .. draft
                    .Entries.Where(e => e.Result.Instrument.Length > 0 && e.Instrument is null)
                    .GroupBy(e => e.Result.Instrument)
                    .Take(20)
                    .Select(g => new UnknownInstrument(g.Key, g.Count())),
            ],
            draft.Taken
        );
    }

    private string TextOf(ReadingValue value) => ValueText.Of(catalogue.Texts, value);
}
