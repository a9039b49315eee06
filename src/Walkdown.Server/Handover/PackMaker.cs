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

/// <summary>What a pack is asked for: a sealed one, or a draft of it.</summary>
/// <param name="DeviceId">One Card alone; null for the whole job.</param>
public sealed record PackRequest(
    Guid Id,
    Guid? DeviceId,
    ImmutableArray<HandoverSignature> Signatures,
    string Reservations,
    ImmutableArray<string> Languages
);

/// <summary>What a pack says, and by which catalogue it was judged.</summary>
public sealed record Gathered(HandoverRecord Record, Catalogue Catalogue);

/// <summary>How far a pack is: a step a Card that is judged, and one a Card and language that is drawn.</summary>
public sealed class PackSteps(IProgress<(int Done, int Of)> progress)
{
    private int _done;

    /// <summary>Steps in all, known once the Cards are.</summary>
    public int Of { get; set; }

    public void Step() => progress.Report((Interlocked.Increment(ref _done), Of));
}

/// <summary>Gathers what a pack says and draws its pages; what is sealed, kept as a draft or drawn anew is others' work.</summary>
public sealed class PackMaker(
    HandoverBook book,
    Ledger ledger,
    CatalogueStore catalogue,
    WalkBoards boards,
    PowerService power,
    KeptFiles keptFiles,
    KeyFile key
)
{
    /// <summary>Of the record that a pack holds.</summary>
    public const string RecordFormat = "walkdown-record/1";

    private static readonly int Threads = Math.Clamp(Environment.ProcessorCount, 1, 4);

    /// <summary>Judges every Card by one look at the record, and says all that the pack says.</summary>
    /// <param name="work">A folder for the Cards' records, from which the pages are drawn.</param>
    /// <param name="add">Takes a Card's record into the pack.</param>
    /// <param name="agreed">Asked within that look; throws where something else is there than was agreed on. Null: whatever is
    /// there.</param>
    public async Task<Gathered> Gather(
        Guid jobId,
        PackRequest request,
        DateTimeOffset at,
        string work,
        Func<string, byte[], PackFile> add,
        Func<WalkdownDb, Task>? agreed,
        PackSteps steps,
        CancellationToken cancel
    )
    {
        var inForce = catalogue.Current;
        var order = (await boards.Of(jobId))!.Order.Select((s, i) => (s.Id, i)).ToDictionary(s => s.Id, s => s.i);
        await using var db = ledger.OpenDb();
        // One look at the record, whatever is written meanwhile.
        await db.Database.OpenConnectionAsync(cancel);
        await using var snapshot = ((SqliteConnection)db.Database.GetDbConnection()).BeginTransaction(deferred: true);
        db.Database.UseTransaction(snapshot);
        if (agreed is not null)
            await agreed(db);
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

        steps.Of = devices.Count * (1 + request.Languages.Length);
        var gathering = new Gathering(before);
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
                        var said = ReportService.Of(card, judged, inForce.Catalogue, people);
                        made[i] = (judged, said, CanonicalJson.Of(said));
                    }
                );
                for (var i = 0; i < some.Length; i++)
                {
                    var device = some[i];
                    var name = PackArchive.SafeName(device.Label);
                    for (var n = 2; !names.Add(name); n++)
                        name = $"{PackArchive.SafeName(device.Label)}_{n}";
                    var file = add($"cards/{name}.json", made[i].Bytes);
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
                    steps.Step();
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
        var kept = all.SelectMany(c => c.Pictures).ToList();
        var workDone = gathering.WorkDone();
        var budgets = request.DeviceId is null ? await power.All(jobId) : new PowerAnswer([], []);
        var honesty = Honesty.Of(gathering.Honest, gathering.OutThenIn, job.Simulated);
        var sheet = request.DeviceId is null ? await db.Drawings.FirstOrDefaultAsync(d => d.JobId == jobId, cancel) : null;
        var record = new HandoverRecord(
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
                        catalogue.Catalogue.Records(d.Kind)
                    )),
            ],
            honesty,
            catalogue.Catalogue.Settled(KeptPractice.Of(job)),
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
            NotAsked = AcceptanceScope.NotAsked(gathering.Asked),
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
        return new Gathered(record, inForce.Catalogue);

        int Count(Verdict v) => all.Count(c => c.Verdict == v && !c.Cancelled);
    }

    /// <summary>Draws the pages of every language.</summary>
    /// <param name="hash">Of the sealed record; null: a draft, and marked so.</param>
    /// <param name="work">Where <see cref="Gather"/> put the Cards' records, and where the pages go.</param>
    /// <returns>Their files, in order.</returns>
    public async Task<List<string>> Pages(
        HandoverRecord record,
        ImmutableArray<string> languages,
        string? hash,
        byte[]? sealedRecord,
        string work,
        PackSteps steps,
        CancellationToken cancel
    )
    {
        var plan = await PlanOf(record, cancel);
        return await Task.Run(
            () =>
                languages
                    .SelectMany(language =>
                        Reports(
                            record,
                            hash,
                            sealedRecord,
                            language,
                            work,
                            plan,
                            name => Read(Path.Combine(work, name)),
                            keptFiles.Read,
                            steps.Step,
                            cancel
                        )
                    )
                    .ToList(),
            cancel
        );
    }

    private Texts TextsOf(string language) =>
        language == "en" ? catalogue.Texts : new Texts(language, catalogue.Catalogue.Texts.GetValueOrDefault(language));

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
    /// times ends there, and the report says that it could not be drawn.
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
        string? hash,
        byte[]? sealedRecord,
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
                if (hash is not null)
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
