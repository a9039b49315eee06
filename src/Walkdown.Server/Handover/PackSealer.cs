using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Serialization.Metadata;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Handover;
using Walkdown.Core.Measures;
using Walkdown.Core.Sealing;
using Walkdown.Formats;
using Walkdown.Reports;
using Walkdown.Server.Cards;
using Walkdown.Server.Power;
using Walkdown.Server.Shared;
using Walkdown.Server.Walk;
using Walkdown.Storage;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Handover;

/// <summary>Makes handover packs: gathers, judges, draws, seals; whole or not at all.</summary>
public sealed class PackSealer(
    HandoverBook book,
    Ledger ledger,
    CatalogueStore catalogue,
    WalkBoards boards,
    PowerService power,
    KeptFiles keptFiles,
    KeyFile key,
    DataFolder folder,
    RegisterService register,
    TimeProvider time
) : IDisposable
{
    /// <summary>Formats of what a pack holds.</summary>
    public const string RecordFormat = "walkdown-record/1",
        ManifestFormat = "walkdown-pack/1",
        TombstoneFormat = "walkdown-tombstones/1";

    internal const int MostDetailed = 400;

    private readonly SemaphoreSlim _sealing = new(1, 1);

    /// <inheritdoc/>
    public void Dispose() => _sealing.Dispose();

    private static readonly int Threads = Math.Clamp(Environment.ProcessorCount, 1, 4);

    /// <summary>Gathers, judges, draws and seals; then adds the revision, if nothing came in between.</summary>
    public async Task<RevisionLine> Seal(Guid jobId, SealRequest request, IProgress<(int Done, int Of)> progress, CancellationToken cancel)
    {
        // One seal at a time: a request that is sent twice finds the first one's revision.
        await _sealing.WaitAsync(cancel);
        try
        {
            return await SealAlone(jobId, request, progress, cancel);
        }
        finally
        {
            _sealing.Release();
        }
    }

    private async Task<RevisionLine> SealAlone(
        Guid jobId,
        SealRequest request,
        IProgress<(int Done, int Of)> progress,
        CancellationToken cancel
    )
    {
        var id = request.Id;
        await using (var db = ledger.OpenDb())
            if (await db.Revisions.FirstOrDefaultAsync(r => r.Id == id, cancel) is { } there)
                return book.LineOf(there);
        var work = Path.Combine(folder.PacksPath, $".{Guid.NewGuid():N}");
        var pack = Path.Combine(folder.PacksPath, $"{id:N}.zip");
        Directory.CreateDirectory(work);
        try
        {
            var made = await Make(jobId, request, work, progress, cancel);
            cancel.ThrowIfCancellationRequested();
            var revision = new Revision
            {
                Id = id,
                JobId = jobId,
                DeviceId = request.DeviceId,
                Number = made.Record.Revision,
                Hash = made.Hash,
                PreviousHash = made.Record.Previous,
                Key = key.Key.Fingerprint,
                File = $"{id:N}.zip",
                At = made.Record.At,
                UpTo = request.Sequence,
                SummaryJson = "",
            };
            var line = new RevisionLine(
                id,
                request.DeviceId,
                made.Record.Of,
                revision.Number,
                revision.Hash,
                revision.PreviousHash,
                revision.Key,
                revision.At,
                made.Record.Summary,
                [.. made.Record.Signatures.Select(s => new SignedBy(s.Role, s.Name, s.Position, s.Place, s.At, s.Typed))],
                made.Record.Reservations,
                made.Reports,
                0
            );
            revision.SummaryJson = JsonSerializer.Serialize(line, CoreJson.Options);
            await ledger.Change(
                jobId,
                "revision",
                async (db, sequence) =>
                {
                    await Unchanged(db, jobId, request);
                    revision.Sequence = sequence;
                    File.Move(Path.Combine(work, "pack.zip"), pack);
                    db.Add(revision);
                    return (true, true);
                }
            );
            return book.LineOf(revision);
        }
        catch
        {
            // Nothing half done: a pack without its row is none.
            await using var db = ledger.OpenDb();
            if (!await db.Revisions.AnyAsync(r => r.Id == id, CancellationToken.None))
                File.Delete(pack);
            throw;
        }
        finally
        {
            Directory.Delete(work, true);
        }
    }

    /// <summary>Two who sign at once, or a reading that came while somebody signed: the later one looks again before anything is
    /// sealed.</summary>
    private static async Task Unchanged(WalkdownDb db, Guid jobId, SealRequest request)
    {
        var newest = await db.Revisions.Where(r => r.JobId == jobId && r.DeviceId == request.DeviceId).MaxAsync(r => (int?)r.Number) ?? 0;
        if (newest != request.Follows)
            throw new Refusal(new("handover.sealed-meanwhile", newest.ToString()));
        if (await HandoverBook.SequenceOf(db, jobId) != request.Sequence)
            throw new Refusal(new("handover.changed-meanwhile"));
    }

    /// <summary>
    /// The pack as it would be sealed now, to be read before anybody signs: the same pages, marked as a draft. Nothing is added to the
    /// record. It lies beside the packs until <see cref="DraftLives"/> is over.
    /// </summary>
    public async Task<DraftPack> Draft(Guid jobId, DraftRequest request, IProgress<(int Done, int Of)> progress, CancellationToken cancel)
    {
        foreach (
            var old in Directory
                .EnumerateDirectories(folder.PacksPath, DraftFolder + "*")
                .Where(d => Directory.GetLastWriteTimeUtc(d) < time.GetUtcNow().UtcDateTime - DraftLives)
        )
            Directory.Delete(old, true);
        var id = Guid.CreateVersion7();
        var erased = await Erasures(jobId);
        var work = Path.Combine(folder.PacksPath, $".{Guid.NewGuid():N}");
        Directory.CreateDirectory(work);
        try
        {
            var asked = new SealRequest(id, Guid.Empty, request.DeviceId, 0, 0, [], "", [request.Language]);
            var made = await Make(jobId, asked, work, progress, cancel, isDraft: true);
            var kept = Path.Combine(folder.PacksPath, $"{DraftFolder}{jobId:N}-{id:N}");
            Directory.CreateDirectory(kept);
            foreach (var report in made.Reports)
                File.Move(Path.Combine(work, report), Path.Combine(kept, report));
            // A picture that was erased while this was drawn may be in it.
            if (await Erasures(jobId) != erased)
            {
                Directory.Delete(kept, true);
                throw new Refusal(new("handover.changed-meanwhile"));
            }
            return new DraftPack(id, made.Reports, made.Record.Shown ?? "");
        }
        finally
        {
            Directory.Delete(work, true);
        }
    }

    private async Task<int> Erasures(Guid jobId)
    {
        await using var db = ledger.OpenDb();
        return await db.Erasures.CountAsync(e => e.JobId == jobId);
    }

    /// <summary>Lets go of a job's drafts: a picture that is erased is in none of them.</summary>
    public void ForgetDrafts(Guid jobId)
    {
        foreach (var draft in Directory.EnumerateDirectories(folder.PacksPath, $"{DraftFolder}{jobId:N}-*").ToList())
            Directory.Delete(draft, true);
    }

    /// <summary>A volume of a draft; null where there is none of that name, or its time is over.</summary>
    public string? DraftFile(Guid jobId, Guid id, string file)
    {
        var path = Path.Combine(folder.PacksPath, $"{DraftFolder}{jobId:N}-{id:N}", Path.GetFileName(file));
        return file.EndsWith(".pdf", StringComparison.Ordinal) && File.Exists(path) ? path : null;
    }

    private const string DraftFolder = "draft-";

    /// <summary>As long as somebody reads before signing.</summary>
    private static readonly TimeSpan DraftLives = TimeSpan.FromHours(24);

    private sealed record Made(HandoverRecord Record, string Hash, ImmutableArray<string> Reports);

    private async Task<Made> Make(
        Guid jobId,
        SealRequest request,
        string work,
        IProgress<(int Done, int Of)> progress,
        CancellationToken cancel,
        bool isDraft = false
    )
    {
        var (inForce, at) = (catalogue.Current, time.GetUtcNow());
        var order = (await boards.Of(jobId))!.Order.Select((s, i) => (s.Id, i)).ToDictionary(s => s.Id, s => s.i);
        await using var db = ledger.OpenDb();
        // One look at the record, whatever is written meanwhile.
        await db.Database.OpenConnectionAsync(cancel);
        await using var snapshot = ((SqliteConnection)db.Database.GetDbConnection()).BeginTransaction(deferred: true);
        db.Database.UseTransaction(snapshot);
        if (!isDraft)
            await Unchanged(db, jobId, request);
        var job = await db.Jobs.FirstAsync(j => j.Id == jobId, cancel);
        var people = await db
            .People.Where(p => p.JobId == jobId)
            .OrderBy(p => p.Name)
            .Select(p => new ReportPerson(p.Id, p.Name, p.Role))
            .ToListAsync(cancel);
        var devices = await db
            .Devices.Where(d => d.JobId == jobId && (request.DeviceId == null || d.Id == request.DeviceId))
            .Select(d => new
            {
                d.Id,
                d.Label,
                d.X,
                d.Y,
                d.Kind,
            })
            .ToListAsync(cancel);
        if (devices.Count == 0)
            throw new Refusal(new("handover.nothing"));
        devices =
        [
            .. devices.OrderBy(d => order.GetValueOrDefault(d.Id, int.MaxValue)).ThenBy(d => d.Label, Core.Register.NaturalOrder.Instance),
        ];
        var pictures = await ReportService.PicturesOf(db, jobId, request.DeviceId);
        var previous = await db
            .Revisions.Where(r => r.JobId == jobId && r.DeviceId == request.DeviceId)
            .OrderByDescending(r => r.Number)
            .FirstOrDefaultAsync(cancel);
        using var before = previous is null ? null : Earlier.Open(book.PathOf(previous));

        var steps = devices.Count * (1 + request.Languages.Length);
        var done = 0;
        var gathering = new Gathering(before);
        using var archive = new PackArchive(Path.Combine(work, "pack.zip"), at);
        var names = new HashSet<string>(StringComparer.OrdinalIgnoreCase);
        Directory.CreateDirectory(Path.Combine(work, "cards"));
        // The next hundred are read while these are judged; judging and writing takes every core.
        var chunks = devices.Chunk(100).ToList();
        Task<Dictionary<Guid, LoadedCard>> Load(int chunk) =>
            Task.Run(
                async () => (await CardFactsLoader.Load(db, [.. chunks[chunk].Select(d => d.Id)], at)).ToDictionary(c => c.Facts.Place.Id),
                cancel
            );
        var next = Load(0);
        for (var chunk = 0; chunk < chunks.Count; chunk++)
        {
            var loaded = await next;
            if (chunk + 1 < chunks.Count)
                next = Load(chunk + 1);
            var some = chunks[chunk];
            var made = new (Card Judged, ReportRecord Record, byte[] Bytes)[some.Length];
            try
            {
                Parallel.For(
                    0,
                    some.Length,
                    new ParallelOptions { MaxDegreeOfParallelism = Threads, CancellationToken = cancel },
                    i =>
                    {
                        var card = loaded[some[i].Id];
                        var judged = Card.Judge(card.Facts, inForce.Catalogue);
                        var record = ReportService.Of(card, judged, inForce.Catalogue, people);
                        made[i] = (judged, record, CanonicalJson.Of(record));
                    }
                );
                for (var i = 0; i < some.Length; i++)
                {
                    var device = some[i];
                    var name = PackArchive.SafeName(device.Label);
                    for (var n = 2; !names.Add(name); n++)
                        name = $"{PackArchive.SafeName(device.Label)}_{n}";
                    var file = archive.Add($"cards/{name}.json", made[i].Bytes);
                    await File.WriteAllBytesAsync(Path.Combine(work, "cards", name + ".json"), made[i].Bytes, cancel);
                    gathering.Add(
                        loaded[device.Id],
                        made[i].Judged,
                        made[i].Record,
                        file,
                        device.X,
                        device.Y,
                        gathering.Cards.Count + 1,
                        pictures[device.Id]
                    );
                    progress.Report((++done, steps));
                }
            }
            catch
            {
                // The reading ahead uses the same look at the record: it ends before that does.
                await Task.WhenAny(next);
                throw;
            }
        }
        var all = gathering.Cards;
        var shown = ShownDigest.Of(gathering.Shown, job.CoverJson ?? "", Ledger.SignatureOf(job, inForce.Catalogue));
        // A concession that ended at midnight, a limit that somebody dropped in: they signed something else.
        if (!isDraft && shown != request.Shown)
            throw new Refusal(new("handover.changed-meanwhile"));
        var kept = all.SelectMany(c => c.Pictures).ToList();
        var workDone = gathering.WorkDone();
        var budgets = request.DeviceId is null ? await power.All(jobId) : new PowerAnswer([], []);
        var honesty = Honesty.Of(gathering.Honest, gathering.OutThenIn, job.Simulated);
        var sheet = request.DeviceId is null ? await db.Drawings.FirstOrDefaultAsync(d => d.JobId == jobId, cancel) : null;
        var handover = new HandoverRecord(
            RecordFormat,
            request.Id,
            (previous?.Number ?? 0) + 1,
            request.DeviceId is null ? null : devices[0].Label,
            previous?.Hash,
            at,
            ReportService.JobOf(job),
            HandoverBook.CoverOf(job),
            new HandoverSummary(
                Count(Verdict.Accepted),
                Count(Verdict.AcceptedWithNote),
                Count(Verdict.Refused),
                Count(Verdict.Open),
                gathering.OpenFaults,
                kept.Count(p => p.Erased is null),
                gathering.Honest.Count,
                gathering.First,
                gathering.Last
            ),
            [.. all],
            gathering.Changes(all),
            Sources(budgets),
            [
                .. devices
                    .Where(d => d.X is not null && d.Y is not null)
                    .Select(d => new HandoverStop(
                        d.Label,
                        d.X!.Value,
                        d.Y!.Value,
                        all.First(c => c.Id == d.Id).Verdict,
                        d.Kind == "recorder"
                    )),
            ],
            honesty,
            CardFactsLoader.PracticeOf(job),
            [.. people],
            workDone,
            [.. (await CardFactsLoader.Instruments(db, jobId)).Where(i => gathering.Instruments.Contains(i.Id))],
            request.Signatures,
            request.Reservations.Trim(),
            [.. inForce.Catalogue.Checks],
            inForce.Catalogue.LimitSet,
            request.Languages.ToImmutableDictionary(l => l, l => TextsOf(l).All.ToImmutableDictionary()),
            ReportService.CoreVersion
        )
        {
            Shown = shown,
            Drawing = sheet is { MetresPerPixel: { } scale }
                ? new HandoverDrawing(
                    sheet.Hash,
                    sheet.MediaType,
                    sheet.LeftMetres,
                    sheet.TopMetres,
                    sheet.WidthPixels * scale,
                    sheet.HeightPixels * scale
                )
                : null,
            Sums =
            [
                .. SumTrace.Counts([
                    .. all.Select(c => new CountedCard(
                        c.Label,
                        c.Verdict,
                        c.Exceptions.Count(e => e.Kind == ExceptionKind.OpenFault),
                        c.Pictures.Count(p => p.Erased is null),
                        c.Cancelled
                    )),
                ]),
                SumTrace.Readings(
                    gathering.Honest.Count,
                    honesty.Withdrawn,
                    workDone.Where(w => w.Readings > 0).Select(w => (people.FirstOrDefault(p => p.Id == w.By)?.Name ?? "", w.Readings))
                ),
                .. SumTrace.Shares(honesty),
                .. budgets.Switches.Where(Shown).Select(s => s.Why),
                .. budgets.Supplies.Select(s => s.Why).OfType<SumTrace>(),
            ],
        };
        var sealedRecord = PackArchive.Sealed(handover, key.Key, at);
        var hash = RecordSeal.Check(sealedRecord).Hash!;
        archive.Add(PackArchive.RecordName, sealedRecord);
        if (request.DeviceId is null && !isDraft)
        {
            var (rows, notes) = await register.Schedule(jobId, inForce.Catalogue);
            archive.Add("schedule.csv", SheetWriter.Csv(rows, notes));
            archive.Add("schedule.xlsx", SheetWriter.Xlsx(rows, notes));
        }
        // Pages are drawn while the evidence is copied: one takes the cores, the other the disk.
        var plan = await PlanOf(handover, cancel);
        var drawing = Task.Run(
            () =>
                request
                    .Languages.SelectMany(language =>
                        Reports(
                            handover,
                            hash,
                            sealedRecord,
                            language,
                            work,
                            plan,
                            name => Read(Path.Combine(work, name)),
                            keptFiles.Read,
                            () => progress.Report((Interlocked.Increment(ref done), steps)),
                            cancel,
                            isDraft
                        )
                    )
                    .ToList(),
            cancel
        );
        if (isDraft)
            return new Made(handover, hash, [.. (await drawing).Select(f => Path.GetFileName(f))]);
        try
        {
            if (handover.Drawing is { } drawn && keptFiles.Open(drawn.Hash) is { } behind)
                await using (behind)
                    await archive.Add($"plan.{(drawn.MediaType == "image/png" ? "png" : "svg")}", behind, cancel);
            foreach (var picture in kept.Where(p => p.Erased is null).DistinctBy(p => p.Hash))
                if (keptFiles.Open(picture.Hash) is { } content)
                    await using (content)
                        await archive.Add(EvidenceName(picture), content, cancel);
        }
        catch
        {
            await Task.WhenAny(drawing);
            throw;
        }
        var reports = ImmutableArray.CreateBuilder<string>();
        foreach (var file in await drawing)
        {
            reports.Add(Path.GetFileName(file));
            await using (var content = File.OpenRead(file))
                await archive.Add(Path.GetFileName(file), content, cancel);
            File.Delete(file);
        }
        archive.Finish(
            PackArchive.Sealed(
                new PackManifest(ManifestFormat, request.Id, handover.Revision, job.Name, hash, at, archive.Files),
                key.Key,
                at
            ),
            null,
            key.Key
        );
        return new Made(handover, hash, reports.ToImmutable());

        int Count(Verdict v) => all.Count(c => c.Verdict == v && !c.Cancelled);
    }

    private Texts TextsOf(string language) =>
        language == "en" ? catalogue.Texts : new Texts(language, catalogue.Catalogue.Texts.GetValueOrDefault(language));

    private static string EvidenceName(HandoverPicture picture) =>
        $"evidence/{picture.Hash}.{(picture.MediaType == "image/png" ? "png" : "jpg")}";

    internal static ReportRecord Read(string file)
    {
        using var stream = File.OpenRead(file);
        return JsonSerializer.Deserialize<ReportRecord>(stream, ToDraw)!;
    }

    /// <summary>As a record is read for its pages: these say nothing of the traces.</summary>
    private static readonly JsonSerializerOptions ToDraw = new(CoreJson.Options)
    {
        TypeInfoResolver = new DefaultJsonTypeInfoResolver
        {
            Modifiers =
            {
                static type =>
                {
                    if (type.Type == typeof(ReportRecord))
                        type.Properties.Remove(type.Properties.First(p => p.Name == "traces"));
                },
            },
        },
    };

    /// <summary>
    /// The drawing behind the plan, made once for all languages and in a process of its own: a drawing that folds into itself a million
    /// times ends there, and the report says that it
    /// could not be drawn.
    /// </summary>
    internal async Task<byte[]?> PlanOf(HandoverRecord record, CancellationToken cancel)
    {
        if (record is not { Of: null, Drawing: { } sheet } || !keptFiles.Has(sheet.Hash))
            return null;
        var outcome = await Apart.Run(
            ["draw-plan", keptFiles.PathOf(sheet.Hash), sheet.MediaType],
            TimeSpan.FromSeconds(12),
            TimeSpan.FromSeconds(60),
            600L << 20,
            null,
            cancel
        );
        return outcome is { Exit: 0, Output.Length: > 0 } ? outcome.Output : null;
    }

    /// <summary>Draws the volumes of one language, two at a time, each sealed by the line behind it.</summary>
    /// <returns>Their files, in order.</returns>
    internal IEnumerable<string> Reports(
        HandoverRecord record,
        string hash,
        byte[] sealedRecord,
        string language,
        string work,
        byte[]? plan,
        Func<string, ReportRecord> load,
        Func<string, byte[]?> pictureOf,
        Action drawn,
        CancellationToken cancel,
        bool isDraft = false
    )
    {
        var texts = TextsOf(language);
        var volumes = PackReport.VolumesOf(record.Cards.Length);
        var files = Enumerable
            .Range(1, volumes)
            .Select(v => Path.Combine(work, $"report{(volumes > 1 ? $"-{v}" : "")}{(language == "en" ? "" : "." + language)}.pdf"))
            .ToArray();
        var gate = new Lock();
        Parallel.For(
            1,
            volumes + 1,
            new ParallelOptions { MaxDegreeOfParallelism = Threads, CancellationToken = cancel },
            volume =>
            {
                using var stream = new FileStream(files[volume - 1], FileMode.Create, FileAccess.ReadWrite);
                PackReport.Draw(
                    record,
                    hash,
                    key.Key.Fingerprint,
                    texts,
                    volume,
                    line => load(line.File),
                    pictureOf,
                    plan,
                    isDraft ? null : sealedRecord,
                    stream,
                    () =>
                    {
                        lock (gate)
                            drawn();
                    },
                    cancel,
                    isDraft
                );
                if (!isDraft)
                    PackArchive.SealEnd(stream, stream.Length, key.Key);
            }
        );
        return files;
    }

    private static ImmutableArray<HandoverSource> Sources(PowerAnswer budgets) =>
        [
            .. budgets
                .Switches.Where(Shown)
                .Select(s => new HandoverSource(
                    s.Why.Subject,
                    Codes.Of(s.Figures.Kind),
                    s.Budget.UsableWatts,
                    null,
                    s.Budget.ByDraw.DemandWatts,
                    s.Budget.ByDraw.LeftWatts,
                    s.Budget.Powered,
                    [.. s.Ports.Where(p => p.RefusedByDraw).Select(p => p.Label)]
                )),
            .. budgets.Supplies.Select(s => new HandoverSource(
                s.Figures.Label,
                "supply",
                null,
                s.UsableAmperes,
                s.SupplyAmperes ?? 0,
                s.UsableAmperes - s.SupplyAmperes,
                s.Taps.Length,
                [.. s.Taps.Where(t => t.OutOfRange).Select(t => t.Label)]
            )),
        ];

    private static bool Shown(PowerSwitch s) => s.Budget.Powered > 0 || s.Budget.UsableWatts is not null;
}
