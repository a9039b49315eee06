using System.Collections.Immutable;
using System.IO.Compression;
using System.Text.Json;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Merging;
using Walkdown.Core.Sealing;
using Walkdown.Storage.Entities;
using static Walkdown.Storage.BundleLooker;
using static Walkdown.Storage.BundleTables;

namespace Walkdown.Storage;

/// <summary>Takes a bundle into the record: whole or not at all; what two installations say differently is told.</summary>
public static class BundleReader
{
    /// <summary>
    /// Takes a bundle: every file is checked against the sealed list, every row as at the application's own doors, and every Card is
    /// judged, all in one transaction. A catalogue that
    /// comes with it is kept as a proposal and is in force nowhere. The caller sees to it that nobody writes meanwhile.
    /// </summary>
    /// <param name="key">Fingerprint of the key that somebody looked at and said may be taken.</param>
    /// <param name="catalogue">In force here.</param>
    /// <exception cref="BundleException">No bundle, not whole, of another edition, of another key, with a row that cannot be, or with a
    /// file outside itself.</exception>
    public static async Task<BundleOutcome> Read(
        DataFolder data,
        KeptFiles keptFiles,
        string file,
        string key,
        Catalogue catalogue,
        DateTimeOffset now,
        IProgress<(int Done, int Of)>? progress,
        CancellationToken cancel
    )
    {
        using var zip = Opened(file);
        var (head, sealedBy) = HeadOf(zip);
        if (sealedBy != key)
            throw new BundleException(new("bundle.other-key", SealKey.Short(sealedBy)));
        await Check(zip, head, progress, cancel);
        await using var db = new WalkdownDb(data.Options);
        if (!db.Database.GetMigrations().Contains(head.Migration))
            throw new BundleException(new("bundle.newer"));
        var isNew = !await db.Jobs.AnyAsync(j => j.Id == head.JobId, cancel);
        var conflicts = ImmutableArray.CreateBuilder<MergeConflict>();
        var brought = new List<string>();
        try
        {
            await using var transaction = await db.Database.BeginTransactionAsync(cancel);
            var added = await Rows(db, zip, head, catalogue, now, conflicts, cancel);
            await OfThisJob(db, head.JobId, cancel);
            await TwoUnits(db, head.JobId, conflicts, cancel);
            if (!isNew)
            {
                await TwoConcessions(
                    db,
                    [
                        .. (
                            await db
                                .CardEvents.Where(e =>
                                    db.Devices.Any(d => d.Id == e.DeviceId && d.JobId == head.JobId)
                                    && e.BodyJson.Contains("\"concession\"")
                                )
                                .Select(e => e.DeviceId)
                                .ToListAsync(cancel)
                        ),
                    ],
                    conflicts
                );
                await Forks(db, head.JobId, conflicts);
            }
            await Files(db, data, keptFiles, zip, head, brought, cancel);
            await Propose(db, zip, head, sealedBy, now, conflicts, cancel);
            await Judge(db, head.JobId, catalogue, now, progress, cancel);
            await transaction.CommitAsync(cancel);
            return new BundleOutcome(
                head.JobId,
                head.Name,
                isNew,
                added.ToImmutableDictionary(),
                head.Files.Count(f => !f.Name.StartsWith("data/", StringComparison.Ordinal)),
                conflicts.ToImmutable()
            );
        }
        catch
        {
            // What was brought and is not taken goes again.
            foreach (var path in brought)
                File.Delete(path);
            throw;
        }
    }

    internal static async Task<Dictionary<string, int>> Rows(
        WalkdownDb db,
        ZipArchive zip,
        BundleHead head,
        Catalogue catalogue,
        DateTimeOffset now,
        ImmutableArray<MergeConflict>.Builder conflicts,
        CancellationToken cancel
    )
    {
        var added = new Dictionary<string, int>();
        var from = await db.Journal.MaxAsync(j => (long?)j.Sequence, cancel) ?? 0;
        if (from > BundleRows.MostSequence)
            throw new BundleException(new("bundle.too-large"));
        var other = new Dictionary<Guid, Guid>();
        var before = new Dictionary<string, int>();
        foreach (var table in Tables)
            before[table.Name] = await table.Count(db, head.JobId);
        foreach (var table in Tables)
        {
            var name = $"data/{table.Name}.json";
            // Only what the seal covers: a table that was put in beside it is none.
            if (!head.Files.Any(f => f.Name == name))
                continue;
            var count = 0;
            try
            {
                await using var stream = zip.GetEntry(name)!.Open();
                await foreach (var news in table.News(db, head.JobId, stream, other, conflicts, cancel))
                {
                    foreach (var row in news)
                    {
                        if (BundleRows.Refuse(row, catalogue, now) is { } column)
                            throw new BundleException(new("bundle.row", name, column));
                        Renumber(row, rank => from + rank);
                    }
                    count += news.Count;
                    await table.Add(db, news, cancel);
                }
            }
            catch (Exception problem)
                when (problem is JsonException or ArgumentException or FormatException or OverflowException or NotSupportedException)
            {
                throw new BundleException(new("bundle.edition", name));
            }
            catch (Exception problem) when (problem is DbUpdateException or SqliteException { SqliteErrorCode: 19 })
            {
                throw new BundleException(new("bundle.leans", name));
            }
            if (count > 0)
                added[table.Name] = count;
        }
        // What was added must be of this job: a row that names a device which is not there, or another job's, would be found by nobody, or
        // by the wrong ones.
        foreach (var table in Tables)
            if (await table.Count(db, head.JobId) != before[table.Name] + added.GetValueOrDefault(table.Name))
                throw new BundleException(new("bundle.leans", $"data/{table.Name}.json"));
        return added;
    }

    /// <summary>No row of the job leans on another job's: a run that ends at its camera, a reading of its cable, an erasure of its
    /// picture.</summary>
    internal static async Task OfThisJob(WalkdownDb db, Guid job, CancellationToken cancel)
    {
        var strays = new (string Table, IQueryable<int> Rows)[]
        {
            (
                "RunEnd",
                db.RunEnds.Where(e =>
                        db.Runs.Any(r => r.Id == e.RunId && r.JobId == job)
                        && (
                            e.DeviceId != null && !db.Devices.Any(d => d.Id == e.DeviceId && d.JobId == job)
                            || e.OfDeviceId != null && !db.Devices.Any(d => d.Id == e.OfDeviceId && d.JobId == job)
                            || e.PortId != null && !db.Ports.Any(p => p.Id == e.PortId && p.Cabinet.JobId == job)
                        )
                    )
                    .Select(_ => 1)
            ),
            (
                "Channel",
                db.Channels.Where(c =>
                        db.Devices.Any(d => d.Id == c.RecorderId && d.JobId == job)
                        && !db.Devices.Any(d => d.Id == c.Head.DeviceId && d.JobId == job)
                    )
                    .Select(_ => 1)
            ),
            (
                "Installation",
                db.Installations.Where(i =>
                        db.Devices.Any(d => d.Id == i.DeviceId && d.JobId == job) && !db.Units.Any(u => u.Id == i.UnitId && u.JobId == job)
                    )
                    .Select(_ => 1)
            ),
            ("Device", db.Devices.Where(d => d.JobId == job && !db.Areas.Any(a => a.Id == d.AreaId && a.JobId == job)).Select(_ => 1)),
            (
                "Cabinet",
                db.Cabinets.Where(c =>
                        c.JobId == job && c.FedFromId != null && !db.Cabinets.Any(f => f.Id == c.FedFromId && f.JobId == job)
                    )
                    .Select(_ => 1)
            ),
            (
                "PowerSource",
                db.Sources.Where(s => s.JobId == job && s.CabinetId != null && !db.Cabinets.Any(c => c.Id == s.CabinetId && c.JobId == job))
                    .Select(_ => 1)
            ),
            (
                "ReadingRecord",
                db.Readings.Where(r =>
                        db.Devices.Any(d => d.Id == r.DeviceId && d.JobId == job) && db.Runs.Any(x => x.Id == r.SubjectId && x.JobId != job)
                    )
                    .Select(_ => 1)
            ),
            (
                "ReadingRecord",
                db.Readings.Where(r =>
                        r.InstrumentId != null
                        && db.Devices.Any(d => d.Id == r.DeviceId && d.JobId == job)
                        && db.Instruments.Any(i => i.Id == r.InstrumentId && i.JobId != job)
                    )
                    .Select(_ => 1)
            ),
            (
                "CardEventRecord",
                db.CardEvents.Where(e =>
                        e.SubjectId != null
                        && db.Devices.Any(d => d.Id == e.DeviceId && d.JobId == job)
                        && db.Runs.Any(x => x.Id == e.SubjectId && x.JobId != job)
                    )
                    .Select(_ => 1)
            ),
            (
                "InstrumentCheck",
                db.InstrumentChecks.Where(c => c.JobId == job && !db.Instruments.Any(i => i.Id == c.InstrumentId && i.JobId == job))
                    .Select(_ => 1)
            ),
            (
                "Observation",
                db.Observations.Where(o =>
                        o.JobId == job && o.DeviceId != null && !db.Devices.Any(d => d.Id == o.DeviceId && d.JobId == job)
                    )
                    .Select(_ => 1)
            ),
            (
                "RegisterChange",
                db.RegisterChanges.Where(c => c.JobId == job && db.Devices.Any(d => d.Id == c.DeviceId && d.JobId != job)).Select(_ => 1)
            ),
            (
                "Picture",
                db.Pictures.Where(p => p.JobId == job && !db.Devices.Any(d => d.Id == p.DeviceId && d.JobId == job)).Select(_ => 1)
            ),
            (
                "Erasure",
                db.Erasures.Where(e => e.JobId == job && !db.Pictures.Any(p => p.Id == e.PictureId && p.JobId == job)).Select(_ => 1)
            ),
            (
                "Revision",
                db.Revisions.Where(r => r.JobId == job && r.DeviceId != null && !db.Devices.Any(d => d.Id == r.DeviceId && d.JobId == job))
                    .Select(_ => 1)
            ),
        };
        foreach (var (table, rows) in strays)
            if (await rows.AnyAsync(cancel))
                throw new BundleException(new("bundle.leans", $"data/{table}.json"));
    }

    /// <summary>Pictures, plan and packs that rows of the job name, by hash and by id; anything else that lies in the bundle stays
    /// there.</summary>
    internal static async Task Files(
        WalkdownDb db,
        DataFolder data,
        KeptFiles keptFiles,
        ZipArchive zip,
        BundleHead head,
        List<string> brought,
        CancellationToken cancel
    )
    {
        var listed = head.Files.ToDictionary(f => f.Name);
        foreach (var hash in await BundleWriter.Hashes(db, head.JobId))
        {
            if (listed.TryGetValue("evidence/" + hash, out var file))
            {
                if (keptFiles.Has(hash))
                    continue;
                await using var content = zip.GetEntry(file.Name)!.Open();
                await keptFiles.Put(content, hash, cancel);
                brought.Add(keptFiles.PathOf(hash));
            }
            // What is here of somebody else's is not shown by naming its hash.
            else if (keptFiles.Has(hash) && await IsOfAnotherJobOnly(db, head.JobId, hash))
                throw new BundleException(new("bundle.leans", "evidence/" + hash));
        }
        foreach (var id in await db.Revisions.Where(r => r.JobId == head.JobId).Select(r => r.Id).ToListAsync(cancel))
        {
            var path = Path.Combine(data.PacksPath, $"{id:N}.zip");
            if (File.Exists(path) || !listed.TryGetValue($"packs/{id:N}.zip", out var file))
                continue;
            zip.GetEntry(file.Name)!.ExtractToFile(path);
            brought.Add(path);
        }
    }

    /// <summary>Whether a file that lies here was brought by other jobs alone: no row of this one was here before the bundle and named
    /// it.</summary>
    internal static async Task<bool> IsOfAnotherJobOnly(WalkdownDb db, Guid job, string hash) =>
        await db.Pictures.AnyAsync(p => p.JobId != job && (p.Hash == hash || p.ShownHash == hash))
        || await db.Drawings.AnyAsync(d => d.JobId != job && d.Hash == hash);

    internal static async Task Propose(
        WalkdownDb db,
        ZipArchive zip,
        BundleHead head,
        string sealedBy,
        DateTimeOffset now,
        ImmutableArray<MergeConflict>.Builder conflicts,
        CancellationToken cancel
    )
    {
        if (head.Files.FirstOrDefault(f => f.Name == OwnCatalogue) is not { } listed)
            return;
        if (listed.Bytes > 4 << 20)
            throw new BundleException(new("bundle.too-large"));
        var json = System.Text.Encoding.UTF8.GetString(await Content(zip, listed, cancel));
        if (await db.Editions.AnyAsync(e => (e.Of == "own" || e.Of.StartsWith("proposal:")) && e.Json == json, cancel))
            return;
        var of = "proposal:" + sealedBy[..16];
        db.Add(
            new Edition
            {
                Id = Guid.CreateVersion7(),
                Of = of,
                Version = (await db.Editions.Where(e => e.Of == of).MaxAsync(e => (int?)e.Version, cancel) ?? 0) + 1,
                Json = json,
                At = now,
                By = sealedBy,
                Why = $"{head.Name}, {head.MadeAt:yyyy-MM-dd}",
            }
        );
        await db.SaveChangesAsync(cancel);
        db.ChangeTracker.Clear();
        conflicts.Add(new(head.Name, new("bundle.own-catalogue")));
    }

    /// <summary>Judges every Card of the job before anything is kept: what cannot be judged is not taken.</summary>
    internal static async Task Judge(
        WalkdownDb db,
        Guid jobId,
        Catalogue catalogue,
        DateTimeOffset now,
        IProgress<(int Done, int Of)>? progress,
        CancellationToken cancel
    )
    {
        var ids = await db.Devices.Where(d => d.JobId == jobId).Select(d => d.Id).ToListAsync(cancel);
        await db.Cards.Where(c => c.JobId == jobId).ExecuteDeleteAsync(cancel);
        var done = 0;
        foreach (var some in ids.Chunk(250))
        {
            cancel.ThrowIfCancellationRequested();
            foreach (var card in await CardFactsLoader.Load(db, some, now))
            {
                try
                {
                    db.Add(
                        Ledger.SummaryOf(
                            jobId,
                            card.Facts.Place.Id,
                            Card.Judge(card.Facts, catalogue),
                            card.Facts.Readings.Select(r => r.Sequence).DefaultIfEmpty(0).Max(),
                            Ledger.SignatureOf(card.Job, catalogue)
                        )
                    );
                }
                catch (Exception problem) when (problem is not (OperationCanceledException or OutOfMemoryException))
                {
                    throw new BundleException(new("bundle.cannot-judge", card.Facts.Place.Label));
                }
            }
            await db.SaveChangesAsync(cancel);
            db.ChangeTracker.Clear();
            progress?.Report((done += some.Length, ids.Count));
        }
    }

    /// <summary>Columns in which a row of the register differs; ours hold.</summary>
    internal static IEnumerable<MergeConflict> Differences(string about, object ours, object theirs) =>
        MergeRules.Differences(
            about,
            ours.GetType()
                .GetProperties()
                .Where(p =>
                    p.CanWrite
                    && (p.PropertyType.IsValueType || p.PropertyType == typeof(string))
                    && p.Name is not ("Id" or "JobId" or "CoverJson")
                )
                .Select(p => (p.Name, p.GetValue(ours), p.GetValue(theirs)))
        );

    internal static async Task TwoUnits(
        WalkdownDb db,
        Guid jobId,
        ImmutableArray<MergeConflict>.Builder conflicts,
        CancellationToken cancel
    )
    {
        var open = await db
            .Installations.AsTracking()
            .Include(i => i.Unit)
            .Where(i => i.Until == null && db.Devices.Any(d => d.Id == i.DeviceId && d.JobId == jobId))
            .ToListAsync(cancel);
        foreach (var place in open.GroupBy(i => i.DeviceId).Where(g => g.Count() > 1))
        {
            var label = await db.Devices.Where(d => d.Id == place.Key).Select(d => d.Label).FirstAsync(cancel);
            var (left, told) = MergeRules.TwoUnits(label, place.Select(i => new HangingUnit(i.Id, i.Unit.Serial, i.From)));
            foreach (var (id, at) in left)
                place.First(i => i.Id == id).Until = at;
            if (told is not null)
                conflicts.Add(told);
        }
        await db.SaveChangesAsync(cancel);
        db.ChangeTracker.Clear();
    }

    internal static async Task TwoConcessions(WalkdownDb db, HashSet<Guid> devices, ImmutableArray<MergeConflict>.Builder conflicts)
    {
        if (devices.Count == 0)
            return;
        var labels = await db.Devices.Where(d => devices.Contains(d.Id)).ToDictionaryAsync(d => d.Id, d => d.Label);
        foreach (var card in (await db.CardEvents.Where(e => devices.Contains(e.DeviceId)).ToListAsync()).GroupBy(e => e.DeviceId))
            conflicts.AddRange(MergeRules.TwoConcessions(labels[card.Key], card.Select(e => e.ToCore())));
    }

    internal static async Task Forks(WalkdownDb db, Guid jobId, ImmutableArray<MergeConflict>.Builder conflicts)
    {
        var labels = await db.Devices.Where(d => d.JobId == jobId).ToDictionaryAsync(d => d.Id, d => d.Label);
        conflicts.AddRange(
            MergeRules.Forks(
                (await db.Revisions.Where(r => r.JobId == jobId).Select(r => new { r.DeviceId, r.Number }).ToListAsync()).Select(r =>
                    (r.DeviceId is { } id ? labels.GetValueOrDefault(id, "") : "", r.Number)
                )
            )
        );
    }
}
