using System.Collections.Immutable;
using System.IO.Compression;
using System.Text.Json;
using System.Text.Json.Serialization.Metadata;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogue;
using Walkdown.Core.Handover;
using Walkdown.Core.Measures;
using Walkdown.Core.Sealing;
using Walkdown.Reports;
using Walkdown.Server.Cards;
using Walkdown.Server.Power;
using Walkdown.Server.Shared;
using Walkdown.Server.Walk;
using Walkdown.Storage;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Handover;

/// <summary>A sealed revision as the list shows it.</summary>
/// <param name="Of">Label of the one Card; null for the whole job.</param>
public sealed record RevisionLine(
    Guid Id,
    Guid? DeviceId,
    string? Of,
    int Number,
    string Hash,
    string? Previous,
    string Key,
    DateTimeOffset At,
    HandoverSummary Summary,
    ImmutableArray<SignedBy> Signatures,
    string Reservations,
    ImmutableArray<string> Reports,
    long Bytes
);

/// <summary>Where the handover of a job stands.</summary>
/// <param name="Sequence">The newest entry of the job; what is sealed says up to which it reaches.</param>
/// <param name="Newest">Number of the job's newest revision, 0 where there is none.</param>
/// <param name="Changed">Entries came after the newest revision.</param>
/// <param name="KeyFingerprint">Of this installation's key.</param>
/// <param name="Shown">Fingerprint of what is shown here; a seal holds what has it, or nothing.</param>
public sealed record HandoverAnswer(
    HandoverCover Cover,
    long Sequence,
    int Newest,
    bool Changed,
    HandoverSummary Now,
    string KeyFingerprint,
    ImmutableArray<RevisionLine> Revisions,
    ImmutableArray<string> Languages,
    string Shown
);

/// <summary>One Card as it would be sealed alone.</summary>
public sealed record ShownAnswer(long Sequence, Verdict Verdict, int OpenFaults, string Shown);

/// <summary>One Card of a sum, with what keeps it from being clean.</summary>
/// <param name="Exceptions">In words, worst first.</param>
public sealed record SumCard(Guid Id, string Label, string Name, Verdict Verdict, ImmutableArray<string> Exceptions, int Pictures);

/// <param name="More">Cards of the sum that are not listed.</param>
public sealed record SumAnswer(SumTrace Sum, ImmutableArray<SumCard> Cards, int More, string CoreVersion);

/// <param name="DeviceId">One Card alone; null for the whole job.</param>
/// <param name="Follows">Number of the newest revision that the signers saw; 0 where there was none.</param>
/// <param name="Sequence">The newest entry that they saw.</param>
/// <param name="Languages">Of the report.</param>
/// <param name="Shown">Fingerprint of what they saw.</param>
public sealed record SealRequest(
    Guid Id,
    Guid By,
    Guid? DeviceId,
    int Follows,
    long Sequence,
    ImmutableArray<HandoverSignature> Signatures,
    string Reservations,
    ImmutableArray<string> Languages,
    string Shown = ""
) : Core.Entries.IAsked;

/// <summary>Makes handover packs: gathers, judges, draws, seals; whole or not at all.</summary>
public sealed class HandoverService(
    Ledger ledger,
    CatalogueStore catalogue,
    WalkBoards boards,
    PowerService power,
    EvidenceFolder evidence,
    KeyFile key,
    DataFolder folder,
    RegisterService register,
    ConcessionWatch lapsed,
    TimeProvider time
) : IDisposable
{
    public const string RecordFormat = "walkdown-record/1",
        ManifestFormat = "walkdown-pack/1",
        TombstoneFormat = "walkdown-tombstones/1";
    private const int MostDetailed = 400,
        MostListed = 100;

    private static readonly int Threads = Math.Clamp(Environment.ProcessorCount, 1, 4);

    /// <summary>What a seal writes by itself is no news.</summary>
    private static readonly string[] Quiet = ["summaries-rebuilt", "revision", "bundle-in"];

    /// <summary>Where the pack of a revision lies: by its id alone. A name that came with a row is never a path.</summary>
    public string PathOf(Revision revision) => Path.Combine(folder.PacksPath, $"{revision.Id:N}.zip");

    public async Task<HandoverAnswer?> Get(Guid jobId)
    {
        var inForce = catalogue.Catalogue;
        await Settled(jobId, inForce);
        await using var db = ledger.OpenDb();
        // One look at the record: what is counted and what is shown are of the same moment.
        await db.Database.OpenConnectionAsync();
        await using var snapshot = ((SqliteConnection)db.Database.GetDbConnection()).BeginTransaction(deferred: true);
        db.Database.UseTransaction(snapshot);
        if (await db.Jobs.FirstOrDefaultAsync(j => j.Id == jobId) is not { } job)
            return null;
        var sequence = await SequenceOf(db, jobId);
        var revisions = await db.Revisions.Where(r => r.JobId == jobId).OrderByDescending(r => r.Sequence).ToListAsync();
        var newest = revisions.Where(r => r.DeviceId is null).MaxBy(r => r.Number);
        var shown = await ShownCards(db, jobId, null);
        var cards = shown.Where(c => !c.Cancelled).ToList();
        int Count(Verdict v) => cards.Count(c => c.Verdict == v);
        var now = new HandoverSummary(
            Count(Verdict.Accepted),
            Count(Verdict.AcceptedWithNote),
            Count(Verdict.Refused),
            Count(Verdict.Open),
            cards.Sum(c => c.OpenFaults),
            await db.Pictures.CountAsync(p => p.JobId == jobId && !db.Erasures.Any(e => e.PictureId == p.Id)),
            await db.Readings.CountAsync(r => db.Devices.Any(d => d.Id == r.DeviceId && d.JobId == jobId)),
            null,
            null
        );
        return new HandoverAnswer(
            CoverOf(job),
            sequence,
            newest?.Number ?? 0,
            newest is null || newest.UpTo < sequence,
            now,
            key.Key.Fingerprint,
            [.. revisions.Select(LineOf)],
            Texts.Languages,
            ShownDigest.Of(shown, job.CoverJson ?? "", Ledger.SignatureOf(job, inForce))
        );
    }

    /// <summary>One Card alone, as it would be sealed; null where the job has none such.</summary>
    public async Task<ShownAnswer?> Shown(Guid jobId, Guid deviceId)
    {
        var inForce = catalogue.Catalogue;
        await Settled(jobId, inForce);
        await using var db = ledger.OpenDb();
        return await db.Jobs.FirstOrDefaultAsync(j => j.Id == jobId) is { } job && await ShownCards(db, jobId, deviceId) is [var card]
            ? new ShownAnswer(
                await SequenceOf(db, jobId),
                card.Verdict,
                card.OpenFaults,
                ShownDigest.Of([card], job.CoverJson ?? "", Ledger.SignatureOf(job, inForce))
            )
            : null;
    }

    /// <summary>Nobody is shown what another catalogue, another program or a day that is over said.</summary>
    private async Task Settled(Guid jobId, Catalogue inForce)
    {
        await ledger.Refresh(jobId, inForce);
        await lapsed.Look(jobId);
    }

    private static async Task<List<ShownCard>> ShownCards(WalkdownDb db, Guid jobId, Guid? deviceId) =>
        [
            .. (
                await db
                    .Cards.Where(c => c.JobId == jobId && (deviceId == null || c.DeviceId == deviceId))
                    .Join(
                        db.Devices,
                        c => c.DeviceId,
                        d => d.Id,
                        (c, d) =>
                            new
                            {
                                c.DeviceId,
                                c.Verdict,
                                c.OpenFaults,
                                c.Unexpected,
                                c.Taken,
                                c.Total,
                                d.Cancelled,
                            }
                    )
                    .ToListAsync()
            ).Select(c => new ShownCard(c.DeviceId, c.Verdict, c.OpenFaults, c.Unexpected, c.Taken, c.Total, c.Cancelled)),
        ];

    /// <summary>How a number of the handover page came about, with the Cards that make it up; null where nothing is counted so.</summary>
    public async Task<SumAnswer?> Sum(Guid jobId, string of)
    {
        await Settled(jobId, catalogue.Catalogue);
        await using var db = ledger.OpenDb();
        var pictures = await db
            .Pictures.Where(p => p.JobId == jobId && !db.Erasures.Any(e => e.PictureId == p.Id))
            .GroupBy(p => p.DeviceId)
            .Select(g => new { g.Key, Count = g.Count() })
            .ToDictionaryAsync(g => g.Key, g => g.Count);
        var order = (await boards.Of(jobId))!.Order.Select((s, i) => (s.Id, i)).ToDictionary(s => s.Id, s => s.i);
        var cards = (
            await db
                .Cards.Where(c => c.JobId == jobId)
                .Join(
                    db.Devices,
                    c => c.DeviceId,
                    d => d.Id,
                    (c, d) =>
                        new
                        {
                            d.Id,
                            d.Label,
                            d.Name,
                            c.Verdict,
                            c.OpenFaults,
                            d.Cancelled,
                        }
                )
                .ToListAsync()
        ).Select(c => (c.Id, c.Name, Counted: new CountedCard(c.Label, c.Verdict, c.OpenFaults, pictures.GetValueOrDefault(c.Id), c.Cancelled))).ToList();
        cards =
        [
            .. cards
                .OrderBy(c => order.GetValueOrDefault(c.Id, int.MaxValue))
                .ThenBy(c => c.Counted.Label, Core.Register.NaturalOrder.Instance),
        ];
        var sum =
            of == "readings"
                ? await Readings(db, jobId)
                : SumTrace.Counts([.. cards.Select(c => c.Counted)]).FirstOrDefault(s => s.Of == of);
        if (sum is null)
            return null;
        var these = cards.Where(c => SumTrace.Makes(of, c.Counted)).ToList();
        var people = await db.People.Where(p => p.JobId == jobId).Select(p => new ReportPerson(p.Id, p.Name, p.Role)).ToListAsync();
        var words = new Wording(catalogue.Texts, (await db.Jobs.FirstAsync(j => j.Id == jobId)).TimeZone, people, []);
        var shown = these.Take(MostListed).ToList();
        var judged = (await CardFactsLoader.Load(db, [.. shown.Select(c => c.Id)], time.GetUtcNow())).ToDictionary(
            c => c.Facts.Place.Id,
            c => CardExceptions.Of(Card.Judge(c.Facts, catalogue.Catalogue))
        );
        return new SumAnswer(
            sum,
            [
                .. shown.Select(c => new SumCard(
                    c.Id,
                    c.Counted.Label,
                    c.Name,
                    c.Counted.Verdict,
                    [.. judged[c.Id].Select(words.Exception)],
                    c.Counted.Pictures
                )),
            ],
            these.Count - shown.Count,
            ReportService.CoreVersion
        );
    }

    private async Task<SumTrace> Readings(WalkdownDb db, Guid jobId)
    {
        var readBy = await db
            .Readings.Where(r => db.Devices.Any(d => d.Id == r.DeviceId && d.JobId == jobId))
            .GroupBy(r => r.By)
            .Select(g => new { g.Key, Count = g.Count() })
            .ToListAsync();
        var names = await db.People.Where(p => p.JobId == jobId).ToDictionaryAsync(p => p.Id, p => p.Name);
        // Which of them are withdrawn is Core's word: only Cards on which something was, are asked.
        var asked = await db
            .CardEvents.Where(e =>
                e.BodyJson.Contains("\"kind\":\"withdrawal\"") && db.Devices.Any(d => d.Id == e.DeviceId && d.JobId == jobId)
            )
            .Select(e => e.DeviceId)
            .Distinct()
            .ToListAsync();
        var withdrawn = new HashSet<Guid>();
        foreach (var some in asked.Chunk(100))
        foreach (var card in await CardFactsLoader.Load(db, some, time.GetUtcNow()))
            withdrawn.UnionWith(
                Card.Judge(card.Facts, catalogue.Catalogue)
                    .Rows.SelectMany(r => r.Attempts)
                    .Where(a => a.Standing == Standing.Withdrawn)
                    .Select(a => a.ReadingId)
            );
        return SumTrace.Readings(
            readBy.Sum(r => r.Count),
            withdrawn.Count,
            readBy.OrderByDescending(r => r.Count).Select(r => (names.GetValueOrDefault(r.Key, ""), r.Count))
        );
    }

    public static HandoverCover CoverOf(Job job) => Stored.Read<HandoverCover>(job.CoverJson) ?? new HandoverCover();

    private static async Task<long> SequenceOf(WalkdownDb db, Guid jobId) =>
        await db.Journal.Where(j => j.JobId == jobId && !Quiet.Contains(j.Kind)).MaxAsync(j => (long?)j.Sequence) ?? 0;

    /// <summary>A revision for the list. One whose summary cannot be read is still there, by its number and hash.</summary>
    public RevisionLine LineOf(Revision r) =>
        (
            Stored.Read<RevisionLine>(r.SummaryJson) is { Summary: not null, Signatures.IsDefault: false, Reports.IsDefault: false } line
            && line.Reports.All(IsReport)
                ? line
                : new RevisionLine(
                    r.Id,
                    r.DeviceId,
                    null,
                    r.Number,
                    r.Hash,
                    r.PreviousHash,
                    r.Key,
                    r.At,
                    new HandoverSummary(0, 0, 0, 0, 0, 0, 0, null, null),
                    [],
                    "",
                    [],
                    0
                )
        ) with
        {
            Id = r.Id,
            DeviceId = r.DeviceId,
            Number = r.Number,
            Hash = r.Hash,
            Key = r.Key,
            Bytes = File.Exists(PathOf(r)) ? new FileInfo(PathOf(r)).Length : 0,
        };

    private static bool IsReport(string? file) =>
        file is { Length: > 4 and < 60 }
        && file.All(c => char.IsAsciiLetterOrDigit(c) || c is '.' or '-')
        && file.EndsWith(".pdf", StringComparison.Ordinal);

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

    private readonly SemaphoreSlim _sealing = new(1, 1),
        _erasing = new(1, 1);

    public void Dispose()
    {
        _sealing.Dispose();
        _erasing.Dispose();
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
                return LineOf(there);
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
            return LineOf(revision);
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
        if (await SequenceOf(db, jobId) != request.Sequence)
            throw new Refusal(new("handover.changed-meanwhile"));
    }

    private sealed record Made(HandoverRecord Record, string Hash, ImmutableArray<string> Reports);

    private async Task<Made> Make(
        Guid jobId,
        SealRequest request,
        string work,
        IProgress<(int Done, int Of)> progress,
        CancellationToken cancel
    )
    {
        var (inForce, at) = (catalogue.Current, time.GetUtcNow());
        var order = (await boards.Of(jobId))!.Order.Select((s, i) => (s.Id, i)).ToDictionary(s => s.Id, s => s.i);
        await using var db = ledger.OpenDb();
        // One look at the record, whatever is written meanwhile.
        await db.Database.OpenConnectionAsync(cancel);
        await using var snapshot = ((SqliteConnection)db.Database.GetDbConnection()).BeginTransaction(deferred: true);
        db.Database.UseTransaction(snapshot);
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
        using var before = previous is null ? null : Earlier.Open(PathOf(previous));

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
        if (shown != request.Shown)
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
            CoverOf(job),
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
        if (request.DeviceId is null)
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
                            evidence.Read,
                            () => progress.Report((Interlocked.Increment(ref done), steps)),
                            cancel
                        )
                    )
                    .ToList(),
            cancel
        );
        try
        {
            if (handover.Drawing is { } drawn && evidence.Open(drawn.Hash) is { } behind)
                await using (behind)
                    await archive.Add($"plan.{(drawn.MediaType == "image/png" ? "png" : "svg")}", behind, cancel);
            foreach (var picture in kept.Where(p => p.Erased is null).DistinctBy(p => p.Hash))
                if (evidence.Open(picture.Hash) is { } content)
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

    private static ReportRecord Read(string file)
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
    private async Task<byte[]?> PlanOf(HandoverRecord record, CancellationToken cancel)
    {
        if (record is not { Of: null, Drawing: { } sheet } || !evidence.Has(sheet.Hash))
            return null;
        var outcome = await Apart.Run(
            ["draw-plan", evidence.PathOf(sheet.Hash), sheet.MediaType],
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
    private IEnumerable<string> Reports(
        HandoverRecord record,
        string hash,
        byte[] sealedRecord,
        string language,
        string work,
        byte[]? plan,
        Func<string, ReportRecord> load,
        Func<string, byte[]?> pictureOf,
        Action drawn,
        CancellationToken cancel
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
                    sealedRecord,
                    stream,
                    () =>
                    {
                        lock (gate)
                            drawn();
                    },
                    cancel
                );
                PackArchive.SealEnd(stream, stream.Length, key.Key);
            }
        );
        return files;
    }

    private static bool Shown(PowerSwitch s) => s.Budget.Powered > 0 || s.Budget.UsableWatts is not null;

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

    /// <summary>
    /// Takes a picture out of every pack that holds it, for good: the file goes, the reports that showed it are drawn anew without it, and
    /// sealed tombstones say what was taken. The record and the list of files stay as they were signed.
    /// </summary>
    /// <returns>Packs that cannot be opened and were left as they are.</returns>
    private async Task<List<string>> EraseFromPacks(Guid jobId, string hash, HandoverErasure erasure)
    {
        var left = new List<string>();
        await using var db = ledger.OpenDb();
        foreach (var revision in await db.Revisions.Where(r => r.JobId == jobId).ToListAsync())
        {
            var path = PathOf(revision);
            if (!File.Exists(path))
                continue;
            var work = Path.Combine(folder.PacksPath, $".{Guid.NewGuid():N}");
            Directory.CreateDirectory(work);
            try
            {
                if (!await Rewrite(path, work, hash, erasure, CancellationToken.None))
                    continue;
                File.Move(Path.Combine(work, "pack.zip"), path, overwrite: true);
            }
            catch (Exception problem) when (problem is InvalidDataException or JsonException)
            {
                // One that is damaged keeps no other from losing the picture.
                left.Add(Path.GetFileName(path));
            }
            finally
            {
                Directory.Delete(work, true);
            }
        }
        return left;
    }

    /// <summary>
    /// Takes a picture's file from the evidence, for which a full disk has room, then out of the packs; unless it hangs at another place
    /// too, where nobody had it erased. One at a time: two that rewrite one pack would each bring the other's picture back. Whoever
    /// asked may go; what was begun is ended.
    /// </summary>
    /// <returns>Packs that cannot be opened and were left as they are.</returns>
    public async Task<List<string>> EraseFile(Guid jobId, string hash, string shownHash, HandoverErasure erasure)
    {
        await _erasing.WaitAsync();
        try
        {
            return await EraseAlone(jobId, hash, shownHash, erasure);
        }
        finally
        {
            _erasing.Release();
        }
    }

    private async Task<List<string>> EraseAlone(Guid jobId, string hash, string shownHash, HandoverErasure erasure)
    {
        await using var db = ledger.OpenDb();
        foreach (var file in new[] { shownHash, hash })
            if (!await StillShown(db, file))
                evidence.Erase(file);
        // Another job's picture of the same file is another's to erase: only this job's packs lose it.
        return await db.Pictures.AnyAsync(p => p.JobId == jobId && p.Hash == hash && !db.Erasures.Any(e => e.PictureId == p.Id))
            ? []
            : await EraseFromPacks(jobId, hash, erasure);
    }

    /// <summary>Whether any job shows this file: as a picture that nobody erased, as its smaller copy, or as a plan.</summary>
    public static async Task<bool> StillShown(WalkdownDb db, string hash) =>
        await db.Pictures.AnyAsync(p =>
            (p.Hash == hash || p.ShownHash == hash) && !db.Erasures.Any(e => e.PictureId == p.Id && e.JobId == p.JobId)
        ) || await db.Drawings.AnyAsync(d => d.Hash == hash);

    /// <summary>
    /// Ends what a stop or a full disk broke off, and proves that nothing was left: a picture whose row says erased is in no evidence and
    /// in no pack of its job.
    /// </summary>
    public async Task FinishErasures(Guid? onlyJob = null)
    {
        await using var db = ledger.OpenDb();
        foreach (
            var gone in await db
                .Erasures.Where(e => onlyJob == null || e.JobId == onlyJob)
                .Join(
                    db.Pictures,
                    e => e.PictureId,
                    p => p.Id,
                    (e, p) =>
                        new
                        {
                            p.JobId,
                            ErasedIn = e.JobId,
                            p.Hash,
                            p.ShownHash,
                            e.By,
                            e.Reason,
                            e.At,
                        }
                )
                .ToListAsync()
        )
        {
            // An erasure of another job's picture erases nothing.
            if (gone.JobId != gone.ErasedIn)
                continue;
            if (evidence.Has(gone.Hash) || evidence.Has(gone.ShownHash) || await InAnyPack(db, gone.JobId, gone.Hash))
                await EraseFile(gone.JobId, gone.Hash, gone.ShownHash, new HandoverErasure(gone.By, gone.Reason, gone.At));
        }
    }

    private async Task<bool> InAnyPack(WalkdownDb db, Guid jobId, string hash)
    {
        foreach (var revision in await db.Revisions.Where(r => r.JobId == jobId).ToListAsync())
        {
            if (!File.Exists(PathOf(revision)))
                continue;
            try
            {
                using var zip = ZipFile.OpenRead(PathOf(revision));
                if (zip.Entries.Any(e => e.FullName.StartsWith($"evidence/{hash}.", StringComparison.Ordinal)))
                    return true;
            }
            catch (InvalidDataException)
            {
                // A pack that cannot be opened shows nobody anything; the check of a record says what is wrong with it.
            }
        }
        return false;
    }

    private async Task<bool> Rewrite(string path, string work, string hash, HandoverErasure erasure, CancellationToken cancel)
    {
        using var zip = ZipFile.OpenRead(path);
        var manifestBytes = PackArchive.Bytes(zip.GetEntry(PackArchive.ManifestName) ?? throw new InvalidDataException(path));
        var manifest = JsonSerializer.Deserialize<PackManifest>(manifestBytes, CoreJson.Options)!;
        var name = manifest.Files.FirstOrDefault(f => f.Name.StartsWith($"evidence/{hash}.", StringComparison.Ordinal))?.Name;
        if (name is null || zip.GetEntry(name) is null)
            return false;
        var recordBytes = PackArchive.Bytes(zip.GetEntry(PackArchive.RecordName) ?? throw new InvalidDataException(path));
        var record = JsonSerializer.Deserialize<HandoverRecord>(recordBytes, CoreJson.Options)!;
        var graves = zip.GetEntry(PackArchive.TombstonesName) is { } earlier
            ? JsonSerializer.Deserialize<PackTombstones>(PackArchive.Bytes(earlier), CoreJson.Options)!.Of.ToList()
            : [];
        graves.Add(new PackTombstone(name, manifest.Files.First(f => f.Name == name).Sha256, null, erasure.By, erasure.Reason, erasure.At));
        var gone = graves
            .Where(g => g.Now is null)
            .ToDictionary(g => Path.GetFileNameWithoutExtension(g.Name), g => new HandoverErasure(g.By, g.Reason, g.At));
        // Drawn as it was, but for the pictures that are gone.
        var shown = record with
        {
            Cards =
            [
                .. record.Cards.Select(c =>
                    c with
                    {
                        Pictures = [.. c.Pictures.Select(p => gone.GetValueOrDefault(p.Hash) is { } e ? p with { Erased = e } : p)],
                    }
                ),
            ],
        };
        using var archive = new PackArchive(Path.Combine(work, "pack.zip"), manifest.MadeAt);
        foreach (var entry in zip.Entries)
        {
            if (
                entry.FullName == name
                || entry.FullName is PackArchive.ManifestName or PackArchive.TombstonesName
                || entry.FullName.EndsWith(".pdf", StringComparison.Ordinal)
            )
                continue;
            await using var content = entry.Open();
            await archive.Add(entry.FullName, content, cancel);
        }
        Directory.CreateDirectory(Path.Combine(work, "cards"));
        zip.Entries.Where(e => e.FullName.StartsWith("cards/", StringComparison.Ordinal))
            .ToList()
            .ForEach(e => e.ExtractToFile(Path.Combine(work, "cards", Path.GetFileName(e.FullName))));
        var plan = await PlanOf(shown, cancel);
        foreach (var language in record.Texts.Keys.Order(StringComparer.Ordinal))
        foreach (
            var file in Reports(
                shown,
                manifest.Record,
                recordBytes,
                language,
                work,
                plan,
                file => Read(Path.Combine(work, file)),
                evidence.Read,
                () => { },
                cancel
            )
        )
        {
            await using var content = File.OpenRead(file);
            var added = await archive.Add(Path.GetFileName(file), content, cancel);
            var was = manifest.Files.First(f => f.Name == added.Name).Sha256;
            graves.RemoveAll(g => g.Name == added.Name);
            graves.Add(new PackTombstone(added.Name, was, added.Sha256, erasure.By, erasure.Reason, erasure.At));
        }
        archive.Finish(manifestBytes, PackArchive.Sealed(new PackTombstones(TombstoneFormat, [.. graves]), key.Key, erasure.At), key.Key);
        return true;
    }

    /// <summary>The pack of the revision before, to say what has changed.</summary>
    internal sealed class Earlier : IDisposable
    {
        private readonly ZipArchive _zip;

        private Earlier(ZipArchive zip, HandoverRecord record) => (_zip, Cards) = (zip, record.Cards.ToDictionary(c => c.Id));

        public IReadOnlyDictionary<Guid, HandoverCard> Cards { get; }

        public static Earlier? Open(string path)
        {
            if (!File.Exists(path))
                return null;
            var zip = ZipFile.OpenRead(path);
            using var stream = zip.GetEntry(PackArchive.RecordName)!.Open();
            return new Earlier(zip, JsonSerializer.Deserialize<HandoverRecord>(stream, CoreJson.Options)!);
        }

        public Card? Card(HandoverCard line)
        {
            using var stream = _zip.GetEntry(line.File)?.Open();
            return stream is null ? null : JsonSerializer.Deserialize<ReportRecord>(stream, CoreJson.Options)!.Card;
        }

        public void Dispose() => _zip.Dispose();
    }

    /// <summary>What is kept of each Card while the pack is made.</summary>
    private sealed class Gathering(Earlier? before)
    {
        private readonly Dictionary<Guid, (int Readings, int Acts, DateTimeOffset From, DateTimeOffset Until)> _work = [];
        private readonly ImmutableArray<CardChange>.Builder _changes = ImmutableArray.CreateBuilder<CardChange>();

        public List<HandoverCard> Cards { get; } = [];
        public List<HonestReading> Honest { get; } = [];
        public HashSet<Guid> Instruments { get; } = [];
        public List<ShownCard> Shown { get; } = [];
        public int OutThenIn { get; private set; }
        public int OpenFaults { get; private set; }
        public DateTimeOffset? First { get; private set; }
        public DateTimeOffset? Last { get; private set; }

        public void Add(
            LoadedCard loaded,
            Card card,
            ReportRecord record,
            PackFile file,
            double? x,
            double? y,
            int number,
            IEnumerable<HandoverPicture> pictures
        )
        {
            var facts = loaded.Facts;
            var standing = card.Rows.SelectMany(r => r.Attempts).ToDictionary(a => a.ReadingId, a => a.Standing);
            foreach (var reading in facts.Readings)
            {
                // A run that two devices share stands on both Cards; its readings are counted where they were taken.
                if (!standing.TryGetValue(reading.Id, out var stands))
                    continue;
                Honest.Add(
                    new HonestReading(
                        facts.Place.Id,
                        facts.Place.Label,
                        reading.By,
                        reading.Source,
                        stands,
                        reading.TakenAt,
                        reading.ClockOffsetMs,
                        x,
                        y
                    )
                );
                if (reading.InstrumentId is { } instrument)
                    Instruments.Add(instrument);
                Did(reading.By, reading.TakenAt, 1, 0);
                First = First is { } f && f <= reading.TakenAt ? f : reading.TakenAt;
                Last = Last is { } l && l >= reading.TakenAt ? l : reading.TakenAt;
            }
            foreach (var e in facts.Events)
                Did(e.By, e.At, 0, 1);
            foreach (var f in facts.Faults)
                Did(f.RaisedBy, f.RaisedAt, 0, 1);
            OutThenIn += card.Rows.Count(r => r.Because.Any(m => m.Code == "because.out-then-in"));
            OpenFaults += card.Faults.Count(f => f.Open);
            var p = record.Place;
            var line = new HandoverCard(
                facts.Place.Id,
                number,
                p.Label,
                p.Name,
                p.Area,
                p.Kind,
                p.Model,
                p.Serial,
                p.HardwareAddress,
                p.Address,
                string.Join(", ", p.Ports),
                string.Join(", ", p.Channels),
                card.Verdict.Verdict,
                file.Sha256,
                file.Name,
                card.Taken,
                card.Total,
                CardExceptions.Of(card),
                [.. facts.Runs.Select(run => CableSummary.Of(run, card))],
                [.. pictures],
                p.Differences.Length,
                p.Cancelled
            );
            Cards.Add(line);
            Shown.Add(
                new ShownCard(
                    facts.Place.Id,
                    card.Verdict.Verdict,
                    card.Faults.Count(f => f.Open),
                    card.Unexpected,
                    card.Taken,
                    card.Total,
                    p.Cancelled
                )
            );
            if (before is null)
                return;
            var was = before.Cards.GetValueOrDefault(line.Id);
            if (was?.Hash == line.Hash)
                return;
            var change =
                _changes.Count < MostDetailed
                    ? CardDifference.Of(line.Label, was is null ? null : before.Card(was), card)
                    : new CardChange(line.Label, was?.Verdict, line.Verdict, []);
            change = change with { BuiltOtherwise = was is not null && !Register(was).Equals(Register(line)) };
            // Written by another Walkdown, a record may differ though nothing in it does.
            if (change.Before != change.After || !change.Rows.IsEmpty || change.BuiltOtherwise)
                _changes.Add(change);
        }

        private static object Register(HandoverCard c) =>
            (
                c.Label,
                c.Name,
                c.Area,
                (c.Kind, c.Model, c.Serial, c.HardwareAddress),
                (c.Address, c.Port, c.Channel, c.Differences),
                c.Cancelled,
                c.Pictures.Count(p => p.Erased is null)
            );

        public ImmutableArray<CardChange> Changes(List<HandoverCard> now)
        {
            var here = now.Select(c => c.Id).ToHashSet();
            foreach (var gone in before?.Cards.Values.Where(c => !here.Contains(c.Id)) ?? [])
                _changes.Add(new CardChange(gone.Label, gone.Verdict, null, []));
            return _changes.ToImmutable();
        }

        public ImmutableArray<HandoverWork> WorkDone() =>
            [
                .. _work
                    .OrderByDescending(w => w.Value.Readings)
                    .Select(w => new HandoverWork(w.Key, w.Value.Readings, w.Value.Acts, w.Value.From, w.Value.Until)),
            ];

        private void Did(Guid by, DateTimeOffset at, int readings, int acts)
        {
            var w = _work.TryGetValue(by, out var known) ? known : (0, 0, at, at);
            _work[by] = (w.Item1 + readings, w.Item2 + acts, at < w.Item3 ? at : w.Item3, at > w.Item4 ? at : w.Item4);
        }
    }
}
