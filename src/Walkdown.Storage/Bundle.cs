using System.Collections.Immutable;
using System.IO.Compression;
using System.Security.Cryptography;
using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.Json.Schema;
using System.Text.Json.Serialization.Metadata;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Storage;
using Walkdown.Core;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogue;
using Walkdown.Core.Measures;
using Walkdown.Core.Merging;
using Walkdown.Core.Register;
using Walkdown.Core.Sealing;
using Walkdown.Storage.Entities;

namespace Walkdown.Storage;

/// <summary>What a bundle brought.</summary>
/// <param name="IsNew">The job was not here before.</param>
/// <param name="Added">Rows added, by table.</param>
public sealed record BundleOutcome(
    Guid JobId,
    string Name,
    bool IsNew,
    ImmutableDictionary<string, int> Added,
    int Files,
    ImmutableArray<MergeConflict> Conflicts
);

/// <summary>A bundle that cannot be taken, with its sentence. Nothing was changed.</summary>
public sealed class BundleException(Message what) : Exception(what.Code)
{
    public Message What { get; } = what;
}

/// <summary>What a bundle is before it is taken: whose seal it bears, and what it would touch.</summary>
/// <param name="Key">Fingerprint of the key that sealed it.</param>
/// <param name="IsNew">The job is not here yet.</param>
/// <param name="Bytes">Of rows, pictures and packs together.</param>
public sealed record BundleLook(
    Guid JobId,
    string Name,
    DateTimeOffset MadeAt,
    string Key,
    bool IsNew,
    int Files,
    long Bytes,
    bool HasCatalogue
);

/// <param name="Migration">Newest migration of the record it was made from.</param>
public sealed record BundleHead(
    string Format,
    Guid JobId,
    string Name,
    DateTimeOffset MadeAt,
    string Migration,
    ImmutableArray<BundleFile> Files
);

public sealed record BundleFile(string Name, long Bytes, string Sha256);

/// <summary>
/// One job in one ZIP: every row as JSON by table, evidence and packs by hash, a sealed list of it all (docs/formats.md). It goes into an
/// installation that has never
/// seen the job, or into one that has: there, events are joined, since they are only ever added, and what both say differently is told.
/// </summary>
public static class Bundle
{
    public const string Format = "walkdown-bundle/1";
    private const string HeadName = "bundle.json";
    private const long MostTable = 1L << 30;
    private const long MostFile = 8L << 30;
    private const int MostFiles = 2_000_000;

    private static readonly JsonSerializerOptions RowJson = RowOptions();

    /// <summary>Tables in the order in which rows may lean on those before.</summary>
    private static readonly ImmutableArray<Table> Tables =
    [
        Of<Job>((db, job) => db.Jobs.Where(x => x.Id == job)),
        Of<Person>((db, job) => db.People.Where(x => x.JobId == job)),
        Of<Area>((db, job) => db.Areas.Where(x => x.JobId == job), sameAs: (a, b) => a.Name == b.Name),
        Of<Cabinet>((db, job) => db.Cabinets.Where(x => x.JobId == job), sameAs: (a, b) => a.Label == b.Label),
        Of<Port>(
            (db, job) => db.Ports.Where(x => db.Cabinets.Any(c => c.Id == x.CabinetId && c.JobId == job)),
            sameAs: (a, b) => a.CabinetId == b.CabinetId && a.Switch == b.Switch && a.Number == b.Number
        ),
        Of<PowerSource>(
            (db, job) => db.Sources.Where(x => x.JobId == job),
            sameAs: (a, b) => a.Kind == b.Kind && a.CabinetId == b.CabinetId && a.Label == b.Label
        ),
        Of<Device>((db, job) => db.Devices.Where(x => x.JobId == job), label: (d, l) => d.Label = l ?? d.Label, labelOf: d => d.Label),
        Of<InstalledUnit>((db, job) => db.Units.Where(x => x.JobId == job), sameAs: (a, b) => a.Serial.Length > 0 && a.Serial == b.Serial),
        Of<Installation>((db, job) => db.Installations.Where(x => db.Devices.Any(d => d.Id == x.DeviceId && d.JobId == job))),
        Of<Head>(
            (db, job) => db.Heads.Where(x => db.Devices.Any(d => d.Id == x.DeviceId && d.JobId == job)),
            sameAs: (a, b) => a.DeviceId == b.DeviceId && a.Number == b.Number
        ),
        Of<Channel>((db, job) => db.Channels.Where(x => db.Devices.Any(d => d.Id == x.RecorderId && d.JobId == job))),
        Of<Run>((db, job) => db.Runs.Where(x => x.JobId == job), label: (r, l) => r.Label = l ?? r.Label, labelOf: r => r.Label),
        Of<RunEnd>((db, job) => db.RunEnds.Where(x => db.Runs.Any(r => r.Id == x.RunId && r.JobId == job))),
        Of<PlanDrawing>((db, job) => db.Drawings.Where(x => x.JobId == job)),
        Of<InstrumentRecord>((db, job) => db.Instruments.Where(x => x.JobId == job)),
        Of<InstrumentCheck>((db, job) => db.InstrumentChecks.Where(x => x.JobId == job)),
        Of<ReadingRecord>((db, job) => db.Readings.Where(x => db.Devices.Any(d => d.Id == x.DeviceId && d.JobId == job))),
        Of<CardEventRecord>((db, job) => db.CardEvents.Where(x => db.Devices.Any(d => d.Id == x.DeviceId && d.JobId == job))),
        Of<Fault>((db, job) => db.Faults.Where(x => db.Devices.Any(d => d.Id == x.DeviceId && d.JobId == job))),
        Of<FaultStep>(
            (db, job) =>
                db.FaultSteps.Where(x => db.Faults.Any(f => f.Id == x.FaultId && db.Devices.Any(d => d.Id == f.DeviceId && d.JobId == job)))
        ),
        Of<RegisterChange>((db, job) => db.RegisterChanges.Where(x => x.JobId == job)),
        Of<Edition>(
            (db, job) =>
                db.Editions.Where(x =>
                    x.Of == "practice:" + job.ToString()
                    || db.Sources.Any(s => s.JobId == job && x.Of == "source:" + s.Id.ToString())
                    || db.Instruments.Any(i => i.JobId == job && x.Of == "instrument:" + i.Id.ToString())
                ),
            sameAs: (a, b) => a.Of == b.Of && a.Version == b.Version
        ),
        Of<ObservationRecord>((db, job) => db.Observations.Where(x => x.JobId == job)),
        Of<Picture>((db, job) => db.Pictures.Where(x => x.JobId == job)),
        Of<Erasure>((db, job) => db.Erasures.Where(x => x.JobId == job), sameAs: (a, b) => a.PictureId == b.PictureId),
        Of<Revision>((db, job) => db.Revisions.Where(x => x.JobId == job)),
        Of<JournalEntry>((db, job) => db.Journal.Where(x => x.JobId == job && x.Kind != "summaries-rebuilt" && x.Kind != "bundle-in")),
    ];

    private static readonly string[] Register =
    [
        nameof(Job),
        nameof(Cabinet),
        nameof(Port),
        nameof(PowerSource),
        nameof(Device),
        nameof(Run),
        nameof(InstrumentRecord),
    ];

    /// <summary>Tables that older bundles do not have.</summary>
    private static readonly string[] Later = ["Observation"];

    /// <summary>The shape of a bundle: its list, and the rows of each table.</summary>
    public static JsonNode Schema() =>
        new JsonObject
        {
            ["bundle.json"] = CoreJson.Options.GetJsonSchemaAsNode(typeof(BundleHead)),
            ["data"] = new JsonObject(
                Tables.Select(t => KeyValuePair.Create(t.Name + ".json", (JsonNode?)RowJson.GetJsonSchemaAsNode(t.ListType)))
            ),
        };

    /// <summary>Writes a bundle: rows by table, then evidence and packs, one file at a time.</summary>
    public static async Task Write(
        DataFolder data,
        EvidenceFolder evidence,
        WalkdownDb db,
        Guid jobId,
        string file,
        SealKey key,
        DateTimeOffset now,
        IProgress<(int Done, int Of)>? progress,
        CancellationToken cancel
    )
    {
        var job = await db.Jobs.FirstAsync(j => j.Id == jobId, cancel);
        // What cannot be read here would be read as something else there.
        if (await RegisterDamage.All(db) is { IsEmpty: false } damaged)
            throw new BundleException(new("problem.damaged", string.Join(", ", damaged.Select(d => d.ToString()).Distinct())));
        var files = ImmutableArray.CreateBuilder<BundleFile>();
        await using var stream = new FileStream(file, FileMode.Create, FileAccess.ReadWrite);
        using var zip = new ZipArchive(stream, ZipArchiveMode.Create, leaveOpen: true);
        // Sequences are an installation's own; in a bundle they are counted from one.
        var ranks = await Ranks(db, jobId);
        var hashes = await Hashes(db, jobId);
        // By their ids: what a row calls its file is never a path.
        var packs = (await db.Revisions.Where(r => r.JobId == jobId).Select(r => r.Id).ToListAsync(cancel))
            .Select(id => $"{id:N}.zip")
            .ToList();
        var (done, of) = (0, Tables.Length + hashes.Count + packs.Count);
        foreach (var table in Tables)
        {
            cancel.ThrowIfCancellationRequested();
            var name = $"data/{table.Name}.json";
            await using var entry = new HashedStream(zip.CreateEntry(name, CompressionLevel.Fastest).Open());
            await table.Write(db, jobId, entry, row => Renumber(row, old => Rank(ranks, old)), cancel);
            files.Add(new BundleFile(name, entry.Length, entry.Hash()));
            progress?.Report((++done, of));
        }
        if (File.Exists(Path.Combine(data.CatalogueFolder, "own.json")))
            using (var entry = zip.CreateEntry("catalogue/own.json", CompressionLevel.Fastest).Open())
            await using (var content = File.OpenRead(Path.Combine(data.CatalogueFolder, "own.json")))
                files.Add(await Copied("catalogue/own.json", content, entry, cancel));
        foreach (var hash in hashes)
        {
            if (evidence.Open(hash) is { } content)
                await using (content)
                using (var entry = zip.CreateEntry($"evidence/{hash}", CompressionLevel.NoCompression).Open())
                    files.Add(await Copied($"evidence/{hash}", content, entry, cancel));
            progress?.Report((++done, of));
        }
        foreach (var pack in packs)
        {
            if (File.Exists(Path.Combine(data.PacksPath, pack)))
                await using (var content = File.OpenRead(Path.Combine(data.PacksPath, pack)))
                using (var entry = zip.CreateEntry($"packs/{pack}", CompressionLevel.NoCompression).Open())
                    files.Add(await Copied($"packs/{pack}", content, entry, cancel));
            progress?.Report((++done, of));
        }
        var head = new BundleHead(Format, jobId, job.Name, now, db.Database.GetMigrations().Last(), files.ToImmutable());
        using var document = JsonDocument.Parse(CanonicalJson.Of(head));
        using (var entry = zip.CreateEntry(HeadName).Open())
            entry.Write(RecordSeal.Seal(document.RootElement, key, now));
    }

    private static async Task<List<string>> Hashes(WalkdownDb db, Guid jobId)
    {
        var erased = await db.Erasures.Where(e => e.JobId == jobId).Select(e => e.PictureId).ToListAsync();
        var pictures = await db.Pictures.Where(p => p.JobId == jobId).ToListAsync();
        var drawing = await db.Drawings.Where(d => d.JobId == jobId).Select(d => d.Hash).ToListAsync();
        return
        [
            .. pictures
                .Where(p => !erased.Contains(p.Id))
                .SelectMany(p => new[] { p.Hash, p.ShownHash })
                .Concat(drawing)
                .Distinct()
                .Order(StringComparer.Ordinal),
        ];
    }

    /// <summary>Every sequence of a job, each once, in order.</summary>
    private static async Task<long[]> Ranks(WalkdownDb db, Guid jobId)
    {
        // The newest entry that a revision holds may be one that no table shows, such as a rebuilt summary's.
        var all = (await db.Revisions.Where(r => r.JobId == jobId).Select(r => r.UpTo).ToListAsync()).ToHashSet();
        foreach (var table in Tables)
            await table.Sequences(db, jobId, all);
        return [.. all.Order()];
    }

    private static long Rank(long[] ranks, long sequence) => Array.BinarySearch(ranks, sequence) is >= 0 and var at ? at + 1 : 0;

    private static void Renumber(object row, Func<long, long> to)
    {
        switch (row)
        {
            case ReadingRecord r:
                r.Sequence = to(r.Sequence);
                break;
            case CardEventRecord e when e.ToCore() is UnreadableEvent:
                e.Sequence = to(e.Sequence);
                break;
            case CardEventRecord e:
                e.Sequence = to(e.Sequence);
                e.BodyJson = JsonSerializer.Serialize(e.ToCore() with { Sequence = e.Sequence }, CoreJson.Options);
                break;
            case Fault f:
                f.Sequence = to(f.Sequence);
                break;
            case FaultStep s:
                s.Sequence = to(s.Sequence);
                break;
            case RegisterChange c:
                c.Sequence = to(c.Sequence);
                break;
            case Picture p:
                p.Sequence = to(p.Sequence);
                break;
            case Erasure e:
                e.Sequence = to(e.Sequence);
                break;
            case Revision r:
                (r.Sequence, r.UpTo) = (to(r.Sequence), to(r.UpTo));
                break;
            case JournalEntry j:
                j.Sequence = to(j.Sequence);
                break;
        }
    }

    private static async Task<BundleFile> Copied(string name, Stream from, Stream to, CancellationToken cancel)
    {
        await using var hashed = new HashedStream(to);
        await from.CopyToAsync(hashed, cancel);
        return new BundleFile(name, hashed.Length, hashed.Hash());
    }

    /// <summary>Looks at a bundle: every file against the sealed list, and whose seal that is. Nothing is written.</summary>
    /// <exception cref="BundleException">No bundle, not whole, of another edition, or with a file outside itself.</exception>
    public static async Task<BundleLook> Look(
        DataFolder data,
        string file,
        IProgress<(int Done, int Of)>? progress,
        CancellationToken cancel
    )
    {
        using var zip = Opened(file);
        var (head, key) = HeadOf(zip);
        await Check(zip, head, progress, cancel);
        await using var db = new WalkdownDb(data.Options);
        if (!db.Database.GetMigrations().Contains(head.Migration))
            throw new BundleException(new("bundle.newer"));
        return new BundleLook(
            head.JobId,
            head.Name,
            head.MadeAt,
            key,
            !await db.Jobs.AnyAsync(j => j.Id == head.JobId, cancel),
            head.Files.Length,
            head.Files.Sum(f => f.Bytes),
            head.Files.Any(f => f.Name == OwnCatalogue)
        );
    }

    private const string OwnCatalogue = "catalogue/own.json";

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
        EvidenceFolder evidence,
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
            await Files(db, data, evidence, zip, head, brought, cancel);
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

    private static async Task<Dictionary<string, int>> Rows(
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
    private static async Task OfThisJob(WalkdownDb db, Guid job, CancellationToken cancel)
    {
        var strays = new (string Table, IQueryable<int> Rows)[]
        {
            (
                "RunEnd",
                db.RunEnds.Where(e =>
                        db.Runs.Any(r => r.Id == e.RunId && r.JobId == job)
                        && (
                            e.DeviceId != null && !db.Devices.Any(d => d.Id == e.DeviceId && d.JobId == job)
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
    private static async Task Files(
        WalkdownDb db,
        DataFolder data,
        EvidenceFolder evidence,
        ZipArchive zip,
        BundleHead head,
        List<string> brought,
        CancellationToken cancel
    )
    {
        var listed = head.Files.ToDictionary(f => f.Name);
        foreach (var hash in await Hashes(db, head.JobId))
        {
            if (listed.TryGetValue("evidence/" + hash, out var file))
            {
                if (evidence.Has(hash))
                    continue;
                await using var content = zip.GetEntry(file.Name)!.Open();
                await evidence.Put(content, hash, cancel);
                brought.Add(evidence.PathOf(hash));
            }
            // What is here of somebody else's is not shown by naming its hash.
            else if (evidence.Has(hash) && await IsOfAnotherJobOnly(db, head.JobId, hash))
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
    private static async Task<bool> IsOfAnotherJobOnly(WalkdownDb db, Guid job, string hash) =>
        await db.Pictures.AnyAsync(p => p.JobId != job && (p.Hash == hash || p.ShownHash == hash))
        || await db.Drawings.AnyAsync(d => d.JobId != job && d.Hash == hash);

    private static async Task Propose(
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
    private static async Task Judge(
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

    private static ZipArchive Opened(string file)
    {
        try
        {
            var zip = ZipFile.OpenRead(file);
            return zip.Entries.Count <= MostFiles ? zip : throw new BundleException(new("bundle.too-large"));
        }
        catch (InvalidDataException)
        {
            throw new BundleException(new("bundle.broken"));
        }
    }

    private static (BundleHead Head, string Key) HeadOf(ZipArchive zip)
    {
        if (zip.GetEntry(HeadName) is not { } entry)
            throw new BundleException(new("bundle.none"));
        if (entry.Length > 256 << 20)
            throw new BundleException(new("bundle.too-large"));
        using var stream = entry.Open();
        using var bytes = new MemoryStream();
        Bounded(stream, bytes, 256 << 20);
        try
        {
            var finding = RecordSeal.Check(bytes.ToArray());
            if (finding.Outcome != SealOutcome.Untouched)
                throw new BundleException(new("bundle.altered", HeadName));
            var head = JsonSerializer.Deserialize<BundleHead>(bytes.ToArray(), CoreJson.Options)!;
            if (head.Files.IsDefault || head.Files.Any(f => f is not { Name: not null, Sha256: not null }))
                throw new BundleException(new("bundle.altered", HeadName));
            return head.Format == Format
                ? (head, finding.Key!)
                : throw new BundleException(new("bundle.edition", head.Format.Length < 60 ? head.Format : "?"));
        }
        catch (JsonException)
        {
            throw new BundleException(new("bundle.edition", "?"));
        }
    }

    /// <summary>Every file against the list: named within the bundle, there, as long as listed and not a byte longer, and with its
    /// hash.</summary>
    private static async Task Check(ZipArchive zip, BundleHead head, IProgress<(int Done, int Of)>? progress, CancellationToken cancel)
    {
        var names = new HashSet<string>();
        var done = 0;
        var buffer = new byte[81920];
        foreach (var listed in head.Files)
        {
            cancel.ThrowIfCancellationRequested();
            if (!IsSafe(listed.Name) || !names.Add(listed.Name))
                throw new BundleException(new("bundle.outside", listed.Name));
            if (zip.GetEntry(listed.Name) is not { } entry)
                throw new BundleException(new("bundle.missing", listed.Name));
            if (listed.Bytes < 0 || listed.Bytes > (listed.Name.StartsWith("data/", StringComparison.Ordinal) ? MostTable : MostFile))
                throw new BundleException(new("bundle.too-large"));
            using var hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
            var guard = new RowGuard();
            var isTable = listed.Name.StartsWith("data/", StringComparison.Ordinal);
            await using (var stream = entry.Open())
            {
                long total = 0;
                int read;
                while ((read = await stream.ReadAsync(buffer, cancel)) > 0)
                {
                    // What swells beyond what is listed is not read on.
                    if ((total += read) > listed.Bytes)
                        throw new BundleException(new("bundle.altered", listed.Name));
                    if (isTable && !guard.Takes(buffer.AsSpan(0, read)))
                        throw new BundleException(new("bundle.edition", listed.Name));
                    hash.AppendData(buffer, 0, read);
                }
            }
            var found = Convert.ToHexStringLower(hash.GetHashAndReset());
            if (
                found != listed.Sha256
                || listed.Name.StartsWith("evidence/", StringComparison.Ordinal) && listed.Name != "evidence/" + found
            )
                throw new BundleException(new("bundle.altered", listed.Name));
            progress?.Report((++done, head.Files.Length));
        }
        foreach (var table in Tables.Where(t => !Later.Contains(t.Name)))
            if (!names.Contains($"data/{table.Name}.json"))
                throw new BundleException(new("bundle.missing", $"data/{table.Name}.json"));
        try
        {
            await using var stream = zip.GetEntry("data/Job.json")!.Open();
            if (await JsonSerializer.DeserializeAsync<List<Job>>(stream, RowJson, cancel) is not [{ } job] || job.Id != head.JobId)
                throw new BundleException(new("bundle.altered", "data/Job.json"));
        }
        catch (JsonException)
        {
            throw new BundleException(new("bundle.edition", "data/Job.json"));
        }
    }

    private static bool IsSafe(string name) =>
        name.Length is > 0 and < 200
        && !name.Contains('\\')
        && !name.StartsWith('/')
        && name.Split('/') is [("data" or "evidence" or "packs" or "catalogue"), { Length: > 0 } file]
        && file is not ("." or "..")
        && file.All(c => char.IsAsciiLetterOrDigit(c) || c is '.' or '-' or '_');

    private static async Task<byte[]> Content(ZipArchive zip, BundleFile listed, CancellationToken cancel)
    {
        await using var stream = zip.GetEntry(listed.Name)!.Open();
        var bytes = new byte[listed.Bytes];
        await stream.ReadExactlyAsync(bytes, cancel);
        return bytes;
    }

    private static void Bounded(Stream from, MemoryStream to, int most)
    {
        var buffer = new byte[81920];
        int read;
        while ((read = from.Read(buffer)) > 0)
        {
            to.Write(buffer, 0, read);
            if (to.Length > most)
                throw new BundleException(new("bundle.too-large"));
        }
    }

    /// <summary>Columns in which a row of the register differs; ours hold.</summary>
    private static IEnumerable<MergeConflict> Differences(string about, object ours, object theirs) =>
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

    private static async Task TwoUnits(WalkdownDb db, Guid jobId, ImmutableArray<MergeConflict>.Builder conflicts, CancellationToken cancel)
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

    private static async Task TwoConcessions(WalkdownDb db, HashSet<Guid> devices, ImmutableArray<MergeConflict>.Builder conflicts)
    {
        if (devices.Count == 0)
            return;
        var labels = await db.Devices.Where(d => devices.Contains(d.Id)).ToDictionaryAsync(d => d.Id, d => d.Label);
        foreach (var card in (await db.CardEvents.Where(e => devices.Contains(e.DeviceId)).ToListAsync()).GroupBy(e => e.DeviceId))
            conflicts.AddRange(MergeRules.TwoConcessions(labels[card.Key], card.Select(e => e.ToCore())));
    }

    private static async Task Forks(WalkdownDb db, Guid jobId, ImmutableArray<MergeConflict>.Builder conflicts)
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

    /// <summary>Rows as they stand in the database, without the objects that they lead to.</summary>
    private static JsonSerializerOptions RowOptions()
    {
        var options = new JsonSerializerOptions
        {
            NumberHandling = System.Text.Json.Serialization.JsonNumberHandling.Strict,
            RespectRequiredConstructorParameters = true,
        };
        options.Converters.Add(new System.Text.Json.Serialization.JsonStringEnumConverter(namingPolicy: null, allowIntegerValues: false));
        options.TypeInfoResolver = new DefaultJsonTypeInfoResolver
        {
            Modifiers =
            {
                static info =>
                {
                    for (var i = info.Properties.Count - 1; i >= 0; i--)
                    {
                        var type = info.Properties[i].PropertyType;
                        if (
                            type.Namespace == "Walkdown.Storage.Entities" && !type.IsEnum
                            || type.IsGenericType && type.GetGenericTypeDefinition() == typeof(List<>)
                        )
                            info.Properties.RemoveAt(i);
                    }
                },
            },
        };
        return options;
    }

    private static Table Of<T>(
        Func<WalkdownDb, Guid, IQueryable<T>> rows,
        Func<T, T, bool>? sameAs = null,
        Action<T, string?>? label = null,
        Func<T, string>? labelOf = null
    )
        where T : class => new Table<T>(rows, sameAs, label, labelOf);

    private abstract class Table
    {
        public abstract string Name { get; }
        public abstract Type ListType { get; }

        /// <summary>Rows of a job.</summary>
        public abstract Task<int> Count(WalkdownDb db, Guid jobId);

        /// <summary>Adds the sequences of a job's rows, where they have any.</summary>
        public abstract Task Sequences(WalkdownDb db, Guid jobId, HashSet<long> into);

        /// <summary>Writes the rows of a job as one array, in the order of their ids, one at a time.</summary>
        public abstract Task Write(WalkdownDb db, Guid jobId, Stream into, Action<object> change, CancellationToken cancel);

        /// <summary>The rows of an array that are not here, some at a time.</summary>
        /// <param name="other">Ids that stand for the same thing here, added to by tables that know sameness.</param>
        /// <exception cref="JsonException">No such rows.</exception>
        public abstract IAsyncEnumerable<IReadOnlyList<object>> News(
            WalkdownDb db,
            Guid jobId,
            Stream from,
            Dictionary<Guid, Guid> other,
            ImmutableArray<MergeConflict>.Builder conflicts,
            CancellationToken cancel
        );

        /// <summary>Adds rows within the open transaction.</summary>
        public abstract Task Add(WalkdownDb db, IReadOnlyList<object> news, CancellationToken cancel);
    }

    private sealed class Table<T>(
        Func<WalkdownDb, Guid, IQueryable<T>> rows,
        Func<T, T, bool>? sameAs,
        Action<T, string?>? label,
        Func<T, string>? labelOf
    ) : Table
        where T : class
    {
        private const int Some = 2000;
        private static readonly System.Reflection.PropertyInfo IdOf = typeof(T).GetProperty("Id") ?? typeof(T).GetProperty("JobId")!;
        private static readonly System.Reflection.PropertyInfo[] Leans =
        [
            .. typeof(T)
                .GetProperties()
                .Where(p => p.CanWrite && p.Name != "Id" && (p.PropertyType == typeof(Guid) || p.PropertyType == typeof(Guid?))),
        ];

        /// <summary>Of the file in the bundle: a format that outlives the names of classes.</summary>
        public override string Name =>
            typeof(T) == typeof(InstalledUnit) ? "Unit"
            : typeof(T) == typeof(ObservationRecord) ? "Observation"
            : typeof(T).Name;
        public override Type ListType => typeof(List<T>);

        /// <summary>What is only ever added needs no look at all that is here.</summary>
        private bool OnlyAdded => sameAs is null && labelOf is null && !Register.Contains(Name);

        public override Task<int> Count(WalkdownDb db, Guid jobId) => rows(db, jobId).CountAsync();

        public override async Task Sequences(WalkdownDb db, Guid jobId, HashSet<long> into)
        {
            if (typeof(T).GetProperty("Sequence")?.PropertyType != typeof(long))
                return;
            await foreach (var sequence in rows(db, jobId).AsNoTracking().Select(r => EF.Property<long>(r, "Sequence")).AsAsyncEnumerable())
                into.Add(sequence);
        }

        public override async Task Write(WalkdownDb db, Guid jobId, Stream into, Action<object> change, CancellationToken cancel)
        {
            await JsonSerializer.SerializeAsync(into, Changed(), RowJson, cancel);

            async IAsyncEnumerable<T> Changed()
            {
                await foreach (
                    var row in rows(db, jobId)
                        .AsNoTracking()
                        .OrderBy(r => EF.Property<Guid>(r, IdOf.Name))
                        .AsAsyncEnumerable()
                        .WithCancellation(cancel)
                )
                {
                    change(row);
                    yield return row;
                }
            }
        }

        public override async IAsyncEnumerable<IReadOnlyList<object>> News(
            WalkdownDb db,
            Guid jobId,
            Stream from,
            Dictionary<Guid, Guid> other,
            ImmutableArray<MergeConflict>.Builder conflicts,
            [System.Runtime.CompilerServices.EnumeratorCancellation] CancellationToken cancel
        )
        {
            // The register is looked at whole: it is small beside what was done on it.
            var here = OnlyAdded ? [] : (await rows(db, jobId).AsNoTracking().ToListAsync(cancel)).ToDictionary(Id);
            var labels = labelOf is null ? null : here.Values.Select(labelOf).ToHashSet(Labels.Comparer);
            var some = new List<T>(Some);
            await foreach (var row in JsonSerializer.DeserializeAsyncEnumerable<T>(from, RowJson, cancel))
            {
                some.Add(row ?? throw new JsonException());
                if (some.Count < Some)
                    continue;
                yield return await Join();
                some.Clear();
            }
            yield return await Join();

            async Task<IReadOnlyList<object>> Join()
            {
                foreach (var row in some)
                foreach (var lean in Leans)
                    if (lean.GetValue(row) is Guid at && other.TryGetValue(at, out var mine))
                        lean.SetValue(row, mine);
                if (OnlyAdded)
                {
                    var ids = some.Select(Id).ToList();
                    var known = (
                        await db.Set<T>()
                            .AsNoTracking()
                            .Select(r => EF.Property<Guid>(r, IdOf.Name))
                            .Where(id => ids.Contains(id))
                            .ToListAsync(cancel)
                    ).ToHashSet();
                    return [.. some.Where(r => known.Add(Id(r)))];
                }
                var news = new List<T>();
                foreach (var row in some)
                    if (IsNews(row))
                        news.Add(row);
                // Twice in one file is once.
                return [.. news.DistinctBy(Id)];
            }

            // What is the same by its nature is taken for ours; a label that two things bear gets a number.
            bool IsNews(T row)
            {
                if (here.TryGetValue(Id(row), out var same))
                {
                    if (Register.Contains(Name))
                        conflicts.AddRange(Differences(NameOf(same), same, row));
                    return false;
                }
                if (sameAs is not null && here.Values.FirstOrDefault(x => sameAs(x, row)) is { } like)
                {
                    other[Id(row)] = Id(like);
                    return false;
                }
                if (labels is not null && !labels.Add(labelOf!(row)))
                {
                    var was = labelOf(row);
                    var n = 2;
                    while (!labels.Add($"{was} ({n})"))
                        n++;
                    label!(row, $"{was} ({n})");
                    conflicts.Add(new(was, new("bundle.label", $"{was} ({n})")));
                }
                return true;
            }
        }

        public override async Task Add(WalkdownDb db, IReadOnlyList<object> news, CancellationToken cancel)
        {
            if (!OnlyAdded)
            {
                db.AddRange(news);
                await db.SaveChangesAsync(cancel);
                db.ChangeTracker.Clear();
                return;
            }
            // Many and plain: one statement, prepared once; columns and how their values are written are the model's.
            var entity = db.Model.FindEntityType(typeof(T))!;
            var columns = entity
                .GetProperties()
                .Select(p => (p.PropertyInfo, p.GetTypeMapping().Converter, Name: p.GetColumnName()))
                .ToArray();
            using var insert = (SqliteCommand)db.Database.GetDbConnection().CreateCommand();
            insert.Transaction = (SqliteTransaction)db.Database.CurrentTransaction!.GetDbTransaction();
            var names = string.Join(", ", columns.Select(c => $"\"{c.Name}\""));
            var values = string.Join(", ", columns.Select((_, i) => "$" + i));
            insert.CommandText = $"INSERT INTO \"{entity.GetTableName()}\" ({names}) VALUES ({values})";
            for (var i = 0; i < columns.Length; i++)
                insert.Parameters.Add(new SqliteParameter { ParameterName = "$" + i });
            foreach (var row in news)
            {
                cancel.ThrowIfCancellationRequested();
                for (var i = 0; i < columns.Length; i++)
                {
                    var value = columns[i].PropertyInfo!.GetValue(row);
                    insert.Parameters[i].Value =
                        (value is not null && columns[i].Converter is { } converter ? converter.ConvertToProvider(value) : value)
                        ?? DBNull.Value;
                }
                insert.ExecuteNonQuery();
            }
        }

        private static Guid Id(T row) => (Guid)IdOf.GetValue(row)!;

        private string NameOf(T row) =>
            labelOf?.Invoke(row)
            ?? row switch
            {
                Cabinet c => c.Label,
                PowerSource s => s.Label,
                Job j => j.Name,
                InstrumentRecord i => i.Name,
                Port p => $"{p.Switch} {p.Number}".Trim(),
                _ => "",
            };
    }
}
