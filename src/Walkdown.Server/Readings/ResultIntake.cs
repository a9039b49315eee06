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

/// <summary>
/// Readings that were not typed one by one: an area swept over tester and switch, or an instrument's file. They are matched, judged and
/// shown; what
/// is taken is taken whole, by a person, after it was looked at.
/// </summary>
public sealed class ResultIntake(Ledger ledger, CatalogueStore catalogue, IntakeMatcher matcher, Sweeper sweeper, TimeProvider time)
{
    public const int InFlight = 16;
    private const int MostDrafts = 6,
        MostEntries = 600_000;
    private const int MostShown = 300;

    private readonly ConcurrentDictionary<Guid, IntakeDraft> _drafts = new();

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
        var entries = await Task.Run(() => ResultFile.Read(file, zone, cancel).Select(r => new IntakeEntry(r)).ToList(), cancel);
        if (entries.Count == 0)
            throw new Refusal(new("result.nothing"));
        var draft = new IntakeDraft(jobId, IntakeOrigin.File, name, entries) { Instrument = instrument };
        await matcher.Match(draft, progress, cancel);
        return Keep(draft);
    }

    /// <summary>Asks tester and switch for everything that can be read in an area.</summary>
    public async Task<IntakeAnswer> Sweep(Guid jobId, SweepRequest request, IProgress<(int, int)> progress, CancellationToken cancel)
    {
        var draft = await sweeper.Sweep(jobId, request, progress, cancel);
        await matcher.Match(draft, new Progress<(int, int)>(), cancel);
        return Keep(draft);
    }

    /// <summary>Judges what was found on the network, row by row, and keeps it to be looked at.</summary>
    internal async Task<IntakeAnswer> Keep(Guid jobId, List<IntakeEntry> entries, IProgress<(int, int)> progress, CancellationToken cancel)
    {
        var draft = new IntakeDraft(jobId, IntakeOrigin.Sweep, "", entries);
        await matcher.Match(draft, progress, cancel);
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
            await matcher.Match(draft, new Progress<(int, int)>(), cancel);
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

    private async Task<LedgerResult> Take(Guid jobId, IntakeDraft draft, TakeResultsRequest request)
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

    internal static DateTimeOffset TakenAt(IntakeEntry e, DateTimeOffset now) =>
        e.Result.At is { } at && at <= now && at.Year >= 2020 ? at.ToUniversalTime() : now;

    private IntakeAnswer Keep(IntakeDraft draft)
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

    private IntakeAnswer Answer(Guid id, IntakeDraft draft)
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
                x.e.Value is { } v ? TextOf(x.e.Key, v) : x.e.Result.Text,
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

    /// <summary>In the words of its check, where it is known which that is.</summary>
    private string TextOf(CheckKey? key, ReadingValue value) =>
        ValueText.Of(catalogue.Texts, value, key is { } k ? catalogue.Catalogue.CheckById.GetValueOrDefault(k.Check) : null);
}
