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
using Walkdown.Core.Measures;
using Walkdown.Core.Sealing;
using Walkdown.Storage.Entities;

namespace Walkdown.Storage;

/// <summary>Something that two installations say differently. Both stay on record; this says which one holds.</summary>
/// <param name="About">Label of the device, the run or the source.</param>
public sealed record BundleConflict(string About, Message What);

/// <summary>What a bundle brought.</summary>
/// <param name="IsNew">The job was not here before.</param>
/// <param name="Added">Rows added, by table.</param>
public sealed record BundleOutcome(
    Guid JobId,
    string Name,
    bool IsNew,
    ImmutableDictionary<string, int> Added,
    int Files,
    ImmutableArray<BundleConflict> Conflicts
);

/// <summary>A bundle that cannot be taken, with its sentence. Nothing was changed.</summary>
public sealed class BundleException(Message what) : Exception(what.Code)
{
    public Message What { get; } = what;
}

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
/// One job in one ZIP: every row as JSON by table, evidence and packs by hash, a sealed list of it all (docs/formats.md). It goes into an installation that has never
/// seen the job, or into one that has: there, events are joined, since they are only ever added, and what both say differently is told.
/// </summary>
public static class Bundle
{
    public const string Format = "walkdown-bundle/1";
    private const string HeadName = "bundle.json";
    private const long MostTable = 2L << 30;
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
        Of<Entities.Unit>((db, job) => db.Units.Where(x => x.JobId == job), sameAs: (a, b) => a.Serial.Length > 0 && a.Serial == b.Serial),
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
                    x.Of == "practice:" + job.ToString() || db.Sources.Any(s => s.JobId == job && x.Of == "source:" + s.Id.ToString())
                ),
            sameAs: (a, b) => a.Of == b.Of && a.Version == b.Version
        ),
        Of<Picture>((db, job) => db.Pictures.Where(x => x.JobId == job)),
        Of<Erasure>((db, job) => db.Erasures.Where(x => x.JobId == job), sameAs: (a, b) => a.PictureId == b.PictureId),
        Of<Revision>((db, job) => db.Revisions.Where(x => x.JobId == job)),
        Of<JournalEntry>((db, job) => db.Journal.Where(x => x.JobId == job && x.Kind != "summaries-rebuilt")),
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
        var files = ImmutableArray.CreateBuilder<BundleFile>();
        await using var stream = new FileStream(file, FileMode.Create, FileAccess.ReadWrite);
        using var zip = new ZipArchive(stream, ZipArchiveMode.Create, leaveOpen: true);
        // Sequences are an installation's own; in a bundle they are counted from one.
        var ranks = await Ranks(db, jobId);
        var hashes = await Hashes(db, jobId);
        var packs = await db.Revisions.Where(r => r.JobId == jobId).Select(r => r.File).ToListAsync(cancel);
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

    /// <summary>
    /// Takes a bundle: every file is checked against the sealed list before anything is written; then rows are added in one transaction. The caller sees to it
    /// that nobody writes meanwhile.
    /// </summary>
    /// <exception cref="BundleException">No bundle, not whole, of another edition, or with a file outside itself.</exception>
    public static async Task<BundleOutcome> Read(
        DataFolder data,
        EvidenceFolder evidence,
        string file,
        IProgress<(int Done, int Of)>? progress,
        CancellationToken cancel
    )
    {
        using var zip = Opened(file);
        var head = HeadOf(zip);
        await Check(zip, head, progress, cancel);
        await using var db = new WalkdownDb(data.Options);
        if (!db.Database.GetMigrations().Contains(head.Migration))
            throw new BundleException(new("bundle.newer"));
        var isNew = !await db.Jobs.AnyAsync(j => j.Id == head.JobId, cancel);
        var conflicts = ImmutableArray.CreateBuilder<BundleConflict>();
        // Evidence first: it is named by its hash, and does no harm where it is not asked for.
        foreach (var listed in head.Files.Where(f => f.Name.StartsWith("evidence/", StringComparison.Ordinal)))
            await evidence.Put(await Content(zip, listed, cancel), cancel);
        foreach (var listed in head.Files.Where(f => f.Name.StartsWith("packs/", StringComparison.Ordinal)))
        {
            var path = Path.Combine(data.PacksPath, Path.GetFileName(listed.Name));
            if (!File.Exists(path))
                zip.GetEntry(listed.Name)!.ExtractToFile(path);
        }
        var added = new Dictionary<string, int>();
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var from = await db.Journal.MaxAsync(j => (long?)j.Sequence, cancel) ?? 0;
        var other = new Dictionary<Guid, Guid>();
        var conceded = new HashSet<Guid>();
        var before = new Dictionary<string, int>();
        foreach (var table in Tables)
            before[table.Name] = await table.Count(db, head.JobId);
        foreach (var table in Tables)
        {
            var name = $"data/{table.Name}.json";
            var count = 0;
            try
            {
                await using var stream = zip.GetEntry(name)!.Open();
                await foreach (var news in table.News(db, head.JobId, stream, other, conflicts, cancel))
                {
                    foreach (var row in news)
                        Renumber(row, rank => from + rank);
                    foreach (var e in news.OfType<CardEventRecord>())
                        if (e.BodyJson.Contains("\"concession\"", StringComparison.Ordinal))
                            conceded.Add(e.DeviceId);
                    count += news.Count;
                    await table.Add(db, news, cancel);
                }
            }
            catch (JsonException)
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
        // What was added must be of this job: a row that names a device which is not there, or another job's, would be found by nobody, or by the wrong ones.
        foreach (var table in Tables)
            if (await table.Count(db, head.JobId) != before[table.Name] + added.GetValueOrDefault(table.Name))
                throw new BundleException(new("bundle.leans", $"data/{table.Name}.json"));
        if (!isNew)
        {
            await TwoUnits(db, head.JobId, conflicts, cancel);
            await TwoConcessions(db, conceded, conflicts);
            await Forks(db, head.JobId, conflicts);
        }
        await Erased(db, evidence, head.JobId);
        var own = head.Files.FirstOrDefault(f => f.Name == "catalogue/own.json") is { } listedOwn
            ? await Content(zip, listedOwn, cancel)
            : null;
        var ownPath = Path.Combine(data.CatalogueFolder, "own.json");
        if (own is not null && File.Exists(ownPath) && !(await File.ReadAllBytesAsync(ownPath, cancel)).AsSpan().SequenceEqual(own))
            conflicts.Add(new(head.Name, new("bundle.own-catalogue")));
        await transaction.CommitAsync(cancel);
        if (own is not null && !File.Exists(ownPath))
            await File.WriteAllBytesAsync(ownPath, own, CancellationToken.None);
        return new BundleOutcome(
            head.JobId,
            head.Name,
            isNew,
            added.ToImmutableDictionary(),
            head.Files.Count(f => !f.Name.StartsWith("data/", StringComparison.Ordinal)),
            conflicts.ToImmutable()
        );
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

    private static BundleHead HeadOf(ZipArchive zip)
    {
        if (zip.GetEntry(HeadName) is not { } entry)
            throw new BundleException(new("bundle.none"));
        if (entry.Length > 512 << 20)
            throw new BundleException(new("bundle.too-large"));
        using var stream = entry.Open();
        using var bytes = new MemoryStream();
        Bounded(stream, bytes, 512 << 20);
        try
        {
            var finding = RecordSeal.Check(bytes.ToArray());
            if (finding.Outcome != SealOutcome.Untouched)
                throw new BundleException(new("bundle.altered", HeadName));
            var head = JsonSerializer.Deserialize<BundleHead>(bytes.ToArray(), CoreJson.Options)!;
            return head.Format == Format
                ? head
                : throw new BundleException(new("bundle.edition", head.Format.Length < 60 ? head.Format : "?"));
        }
        catch (JsonException)
        {
            throw new BundleException(new("bundle.edition", "?"));
        }
    }

    /// <summary>Every file against the list: named within the bundle, there, as long as listed and not a byte longer, and with its hash.</summary>
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
            await using (var stream = entry.Open())
            {
                long total = 0;
                int read;
                while ((read = await stream.ReadAsync(buffer, cancel)) > 0)
                {
                    // What swells beyond what is listed is not read on.
                    if ((total += read) > listed.Bytes)
                        throw new BundleException(new("bundle.altered", listed.Name));
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
        foreach (var table in Tables)
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
    private static IEnumerable<BundleConflict> Differences(string about, object ours, object theirs)
    {
        var columns = ours.GetType()
            .GetProperties()
            .Where(p =>
                p.CanWrite
                && (p.PropertyType.IsValueType || p.PropertyType == typeof(string))
                && p.Name is not ("Id" or "JobId" or "CoverJson")
            );
        foreach (var column in columns)
        {
            var (here, there) = (column.GetValue(ours), column.GetValue(theirs));
            if (!Equals(here, there))
                yield return new(about, new("bundle.register", column.Name, Word(here), Word(there)));
        }
        static string Word(object? value) =>
            value switch
            {
                null => "\u2013",
                IFormattable f => f.ToString(null, System.Globalization.CultureInfo.InvariantCulture),
                _ => value.ToString()!,
            }
                is { Length: <= 80 } s
                ? s
                : "...";
    }

    /// <summary>The same place, two units: the one that was fitted later hangs there; the other left when it came.</summary>
    private static async Task TwoUnits(
        WalkdownDb db,
        Guid jobId,
        ImmutableArray<BundleConflict>.Builder conflicts,
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
            var inOrder = place.OrderBy(i => i.From).ThenBy(i => i.Id).ToList();
            foreach (var earlier in inOrder.SkipLast(1))
                earlier.Until = inOrder[^1].From;
            var label = await db.Devices.Where(d => d.Id == place.Key).Select(d => d.Label).FirstAsync(cancel);
            conflicts.Add(
                new(
                    label,
                    new("bundle.two-units", string.Join(", ", inOrder.SkipLast(1).Select(i => i.Unit.Serial)), inOrder[^1].Unit.Serial)
                )
            );
        }
        await db.SaveChangesAsync(cancel);
        db.ChangeTracker.Clear();
    }

    private static async Task TwoConcessions(WalkdownDb db, HashSet<Guid> devices, ImmutableArray<BundleConflict>.Builder conflicts)
    {
        if (devices.Count == 0)
            return;
        var labels = await db.Devices.Where(d => devices.Contains(d.Id)).ToDictionaryAsync(d => d.Id, d => d.Label);
        foreach (
            var device in (await db.CardEvents.Where(e => devices.Contains(e.DeviceId)).ToListAsync()).ToLookup(
                e => e.DeviceId,
                e => e.ToCore()
            )
        )
        {
            var taken = device.OfType<Withdrawal>().Select(w => w.Of).ToHashSet();
            foreach (
                var row in device
                    .OfType<Concession>()
                    .Where(c => !taken.Contains(c.Id))
                    .GroupBy(c => c.Key)
                    .Where(g => g.Select(c => (c.AllowedBy, c.Reason)).Distinct().Count() > 1)
            )
            {
                var inOrder = row.OrderBy(c => c.At).ThenBy(c => c.Sequence).ToList();
                conflicts.Add(
                    new(
                        labels[device.Key],
                        new(
                            "bundle.two-concessions",
                            "@check." + row.Key.Check.Value,
                            string.Join(", ", inOrder.SkipLast(1).Select(c => c.AllowedBy)),
                            inOrder[^1].AllowedBy
                        )
                    )
                );
            }
        }
    }

    private static async Task Forks(WalkdownDb db, Guid jobId, ImmutableArray<BundleConflict>.Builder conflicts)
    {
        foreach (
            var fork in (await db.Revisions.Where(r => r.JobId == jobId).ToListAsync())
                .GroupBy(r => (r.DeviceId, r.Number))
                .Where(g => g.Count() > 1)
        )
            conflicts.Add(
                new(
                    fork.Key.DeviceId is { } id ? await db.Devices.Where(d => d.Id == id).Select(d => d.Label).FirstAsync() : "",
                    new("bundle.two-revisions", fork.Key.Number.ToString(System.Globalization.CultureInfo.InvariantCulture))
                )
            );
    }

    /// <summary>A picture that was erased there is erased here.</summary>
    private static async Task Erased(WalkdownDb db, EvidenceFolder evidence, Guid jobId)
    {
        foreach (var picture in await db.Pictures.Where(p => p.JobId == jobId && db.Erasures.Any(e => e.PictureId == p.Id)).ToListAsync())
        foreach (var hash in new[] { picture.Hash, picture.ShownHash })
            evidence.Erase(hash);
    }

    /// <summary>Rows as they stand in the database, without the objects that they lead to.</summary>
    private static JsonSerializerOptions RowOptions()
    {
        var options = new JsonSerializerOptions
        {
            NumberHandling = System.Text.Json.Serialization.JsonNumberHandling.Strict,
            RespectRequiredConstructorParameters = true,
        };
        options.Converters.Add(new System.Text.Json.Serialization.JsonStringEnumConverter());
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
            ImmutableArray<BundleConflict>.Builder conflicts,
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

        public override string Name => typeof(T).Name;
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
            ImmutableArray<BundleConflict>.Builder conflicts,
            [System.Runtime.CompilerServices.EnumeratorCancellation] CancellationToken cancel
        )
        {
            // The register is looked at whole: it is small beside what was done on it.
            var here = OnlyAdded ? [] : (await rows(db, jobId).AsNoTracking().ToListAsync(cancel)).ToDictionary(Id);
            var labels = labelOf is null ? null : here.Values.Select(labelOf).ToHashSet(StringComparer.OrdinalIgnoreCase);
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
            insert.CommandText =
                $"INSERT INTO \"{entity.GetTableName()}\" ({string.Join(", ", columns.Select(c => $"\"{c.Name}\""))}) VALUES ({string.Join(", ", columns.Select((_, i) => "$" + i))})";
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
