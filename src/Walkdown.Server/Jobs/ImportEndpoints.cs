using System.Collections.Concurrent;
using System.Collections.Immutable;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core.Measures;
using Walkdown.Core.People;
using Walkdown.Core.Register;
using Walkdown.Formats;
using Walkdown.Reports;
using Walkdown.Server.Door;
using Walkdown.Server.Shared;
using Walkdown.Server.Work;
using Walkdown.Storage;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Jobs;

/// <summary>A sheet of a file that came in, with a proposal how to read it.</summary>
/// <param name="Sample">The first rows as they stand, header included.</param>
/// <param name="KindWords">What stands in the kind column, how often, and what it is taken for.</param>
public sealed record SheetAnswer(
    string Name,
    int Rows,
    SheetMapping Proposed,
    ImmutableArray<ImmutableArray<string>> Sample,
    ImmutableArray<KindWord> KindWords,
    bool Hidden = false
);

public sealed record KindWord(string Word, int Times, string? Kind);

public sealed record FieldAnswer(string Id, FieldOf Of, FieldKind Kind, Core.Measures.Unit Unit, ImmutableArray<string> Words);

public sealed record ImportAnswer(
    Guid Id,
    string FileName,
    ImmutableArray<SheetAnswer> Sheets,
    ImmutableArray<FieldAnswer> Fields,
    ImmutableArray<string> Kinds
);

public sealed record PreviewImportRequest(int Sheet, SheetMapping Mapping);

/// <param name="Basis">Of the preview that was looked at.</param>
public sealed record TakeImportRequest(int Sheet, SheetMapping Mapping, long Basis, Guid? By = null) : Core.Entries.IAsked
{
    Guid Core.Entries.IAsked.By => By ?? Guid.Empty;
}

/// <summary>A cell that cannot be taken, in words.</summary>
/// <param name="MayTake">The row can be taken all the same, if somebody says so.</param>
public sealed record CellWords(int Row, string Column, string What, string Mend, bool MayTake = false);

/// <summary>A line of the sheet that is no device, and why.</summary>
public sealed record PassedWords(int Row, string Text, string Why);

/// <summary>Something in the register that does not agree, in words.</summary>
public sealed record FindingWords(string Code, string What, string Field, ImmutableArray<Guid> Devices);

/// <summary>What a schedule does, or would do. Devices: the first 500.</summary>
public sealed record OutcomeAnswer(
    int Added,
    int Changed,
    int Same,
    int NotInFile,
    ImmutableArray<ScheduleDevice> Devices,
    ImmutableArray<string> Created,
    int ProblemCount,
    ImmutableArray<CellWords> Problems,
    ImmutableArray<FindingWords> Findings,
    long Basis,
    ImmutableArray<PassedWords> Passed
);

/// <summary>Bringing a schedule in: upload, look, take.</summary>
public sealed class ImportService(Ledger ledger, ScheduleImport import, CatalogueStore catalogue, WorkQueue work)
{
    private const int MostDrafts = 8;

    /// <summary>So many cells are held for all drafts together; a schedule of 20,000 rows has about 500,000.</summary>
    private const long MostHeld = 2_000_000;

    /// <summary>One file is read at a time: what a hostile one costs, it costs once.</summary>
    private readonly SemaphoreSlim _reading = new(1, 1);
    private readonly ConcurrentDictionary<Guid, (DateTime At, string Name, IReadOnlyList<Sheet> Sheets)> _drafts = new();

    private async Task<IReadOnlyList<Sheet>> Read(byte[] file, CancellationToken cancel)
    {
        await _reading.WaitAsync(cancel);
        try
        {
            return await Task.Run(() => SheetReader.Read(file, cancel), cancel);
        }
        finally
        {
            _reading.Release();
        }
    }

    private static long CellsOf(IReadOnlyList<Sheet> sheets) => sheets.Sum(s => s.Rows.Sum(r => (long)r.Count));

    public async Task<ImportAnswer> Upload(Guid jobId, string name, byte[] file, CancellationToken cancel)
    {
        var sheets = await Read(file, cancel);
        var held = CellsOf(sheets);
        var kept = 0;
        foreach (var old in _drafts.OrderByDescending(d => d.Value.At))
            if (++kept >= MostDrafts || (held += CellsOf(old.Value.Sheets)) > MostHeld)
                _drafts.TryRemove(old.Key, out _);
        var id = Guid.CreateVersion7();
        _drafts[id] = (DateTime.UtcNow, name, sheets);
        var (headings, kinds) = await Remembered(jobId);
        var words = Words();
        return new ImportAnswer(
            id,
            name,
            [
                .. sheets.Select(sheet =>
                {
                    var proposed = HeadingMatch.Propose(sheet.Rows, headings, kinds);
                    return new SheetAnswer(
                        sheet.Name,
                        sheet.Rows.Count,
                        proposed,
                        [
                            .. sheet
                                .Rows.Take(Math.Max(12, proposed.HeaderRow + 6))
                                .Select(r => r.Select(c => c.Text ?? "").ToImmutableArray()),
                        ],
                        KindWordsOf(sheet, proposed, words),
                        sheet.Hidden
                    );
                }),
            ],
            Fields,
            [.. catalogue.Catalogue.Kinds.Select(k => k.Id)]
        );
    }

    public static ImmutableArray<FieldAnswer> Fields { get; } =
    [.. RegisterFields.All.Select(f => new FieldAnswer(f.Id, f.Of, f.Kind, f.Unit, f.Words))];

    public async Task<OutcomeAnswer?> Preview(Guid jobId, Guid draft, PreviewImportRequest request) =>
        SheetOf(draft, request.Sheet) is { } sheet && PlanOf(sheet, request.Mapping) is var plan
            ? Answer(await import.Preview(jobId, plan, catalogue.Catalogue), plan)
            : null;

    public WorkAnswer? Take(Guid jobId, Guid draft, TakeImportRequest request)
    {
        if (SheetOf(draft, request.Sheet) is not { } sheet)
            return null;
        return work.Start(
            "import",
            async (progress, cancel) =>
            {
                var plan = PlanOf(sheet, request.Mapping);
                var outcome =
                    await import.Take(jobId, plan, catalogue.Catalogue, request.Basis, request.By, progress, cancel)
                    ?? throw new Refusal(new("import.register-changed"));
                if (outcome.Taken)
                    await Remember(jobId, request.Mapping);
                return Answer(outcome, plan);
            }
        );
    }

    /// <summary>The short way for Walkdown's own schedule: its column names, no questions, taken whole or refused whole.</summary>
    public async Task<OutcomeAnswer> TakeStrict(Guid jobId, byte[] file, CancellationToken cancel)
    {
        var sheet = (await Read(file, cancel))[0];
        var columns = sheet
            .Rows[0]
            .Select((c, i) => new MappedColumn(i, c.Text, RegisterFields.Find(CellText.Plain(c.Text).Replace(' ', '_'))?.Id))
            .ToImmutableArray();
        var mapping = new SheetMapping(
            0,
            columns,
            DecimalSign.Point,
            ImmutableDictionary<string, string>.Empty,
            ImmutableDictionary<string, string>.Empty,
            false
        );
        var plan = PlanOf(sheet, mapping);
        return Answer((await import.Take(jobId, plan, catalogue.Catalogue, null, null, null, cancel))!, plan);
    }

    private Sheet? SheetOf(Guid draft, int index) =>
        _drafts.TryGetValue(draft, out var d) && index >= 0 && index < d.Sheets.Count ? d.Sheets[index] : null;

    private SchedulePlan PlanOf(Sheet sheet, SheetMapping mapping) =>
        SchedulePlan.Of(sheet.Rows, mapping, Words(), catalogue.Catalogue.Records, sheet.Odd);

    public Dictionary<string, string> Words() => RegisterService.KindWords(catalogue.Catalogue, k => catalogue.Texts[k.TextKey]);

    public OutcomeAnswer Answer(ScheduleOutcome o, SchedulePlan plan)
    {
        var t = catalogue.Texts;
        return new OutcomeAnswer(
            o.Added,
            o.Changed,
            o.Same,
            o.NotInFile,
            [.. o.Devices.Take(500)],
            o.Created,
            o.Problems.Length,
            [
                .. o
                    .Problems.Take(1000)
                    .Select(p => new CellWords(
                        p.Row,
                        p.Column,
                        t.Say(p.What),
                        p.Mend.Code == "cell.kind.mend"
                            ? t.Fill(t["cell.kind.mend"], [string.Join(", ", catalogue.Catalogue.Kinds.Select(k => k.Id))])
                            : t.Say(p.Mend),
                        p.MayTake
                    )),
            ],
            Words(o.Findings),
            o.Basis,
            [.. plan.Passed.Take(200).Select(p => new PassedWords(p.Row, p.Text, t.Say(p.Why)))]
        );
    }

    public ImmutableArray<FindingWords> Words(ImmutableArray<Finding> findings) =>
        [.. findings.Select(f => new FindingWords(f.What.Code, catalogue.Texts.Say(f.What), f.Field, f.Devices))];

    private static ImmutableArray<KindWord> KindWordsOf(Sheet sheet, SheetMapping mapping, Dictionary<string, string> words) =>
        [
            .. SchedulePlan
                .KindWords(sheet.Rows, mapping)
                .Take(60)
                .Select(w => (w.Word, w.Times, Plain: CellText.Plain(w.Word)))
                .Select(w => new KindWord(w.Word, w.Times, mapping.Kinds.GetValueOrDefault(w.Plain) ?? words.GetValueOrDefault(w.Plain))),
        ];

    /// <summary>Whose habit it is: the client's, where the job's cover names one; else of this job alone.</summary>
    private static async Task<string> HabitOf(WalkdownDb db, Guid jobId)
    {
        var cover = Stored.Read<HandoverCover>(
            await db.Jobs.Where(j => j.Id == jobId).Select(j => j.CoverJson).FirstOrDefaultAsync() ?? "{}"
        );
        return CellText.Plain(cover?.Client ?? "") is { Length: > 0 } client ? "client " + client : "job " + jobId.ToString("N");
    }

    private async Task<(Dictionary<string, string> Headings, Dictionary<string, string> Kinds)> Remembered(Guid jobId)
    {
        await using var db = ledger.OpenDb();
        var habit = await HabitOf(db, jobId);
        return (await Of("heading"), await Of("kind"));

        async Task<Dictionary<string, string>> Of(string what)
        {
            var prefix = $"{what}:{habit}:";
            return (await db.Memory.Where(m => m.Key.StartsWith(prefix)).ToListAsync()).ToDictionary(
                m => m.Key[prefix.Length..],
                m => m.Value
            );
        }
    }

    /// <summary>What was chosen is proposed the next time a sheet of the same client looks like this. What anybody would have read so is
    /// not kept.</summary>
    private async Task Remember(Guid jobId, SheetMapping mapping)
    {
        var none = ImmutableDictionary<string, string>.Empty;
        var headings = mapping
            .Columns.Where(c => !c.Ignored && CellText.Plain(c.Heading).Length > 0 && HeadingMatch.FieldOf(c.Heading, none) != c.Field)
            .Select(c => ("heading", CellText.Plain(c.Heading), c.Field ?? ""));
        var chosen = headings
            .Concat(mapping.Kinds.Where(k => CellText.Plain(k.Key).Length > 0).Select(k => ("kind", CellText.Plain(k.Key), k.Value)))
            .DistinctBy(c => (c.Item1, c.Item2))
            .Take(500)
            .ToList();
        if (chosen.Count == 0)
            return;
        await ledger.Quiet(async () =>
        {
            await using var db = ledger.OpenDb();
            var habit = await HabitOf(db, jobId);
            foreach (var (what, text, value) in chosen)
            {
                var key = $"{what}:{habit}:{text}";
                await db.Database.ExecuteSqlAsync(
                    $"INSERT INTO Memory (Key, Value) VALUES ({key}, {value}) ON CONFLICT(Key) DO UPDATE SET Value=excluded.Value"
                );
            }
            return true;
        });
    }
}

public static class ImportEndpoints
{
    public static void MapImports(this RouteGroupBuilder api)
    {
        var imports = api.MapGroup("/jobs/{jobId:guid}").WithTags("Jobs");
        imports
            .MapPost("/schedule", TakeStrict)
            .WithMetadata(new RequestSizeLimitAttribute(SheetReader.MostBytes + 1024))
            .Accepts<IFormFile>("text/csv")
            .WithName("takeSchedule")
            .Needs(Right.Plan);
        imports
            .MapPost("/imports", Upload)
            .WithMetadata(new RequestSizeLimitAttribute(SheetReader.MostBytes + 1024))
            .Accepts<IFormFile>("application/octet-stream")
            .WithName("uploadSchedule")
            .Needs(Right.Plan);
        imports.MapPost("/imports/{importId:guid}/preview", Preview).WithName("previewSchedule").Needs(Right.Plan);
        imports.MapPost("/imports/{importId:guid}/take", Take).WithName("takeImport").Needs(Right.Plan);
    }

    private static async Task<Results<Ok<OutcomeAnswer>, ProblemHttpResult>> TakeStrict(
        Guid jobId,
        HttpRequest request,
        Ledger ledger,
        ImportService service,
        CancellationToken cancel
    )
    {
        if (!await Exists(ledger, jobId))
            return Problems.Of(404, "problem.unknown-job");
        var result = await service.TakeStrict(jobId, await Body(request, cancel), cancel);
        return result.ProblemCount == 0
            ? TypedResults.Ok(result)
            : Problems.Of(
                422,
                new Message("problem.schedule", result.ProblemCount.ToString()),
                more: new Dictionary<string, object?> { ["rows"] = result.Problems }
            );
    }

    private static async Task<Results<Ok<ImportAnswer>, ProblemHttpResult>> Upload(
        Guid jobId,
        string? name,
        HttpRequest request,
        Ledger ledger,
        ImportService service,
        CancellationToken cancel
    )
    {
        if (!await Exists(ledger, jobId))
            return Problems.Of(404, "problem.unknown-job");
        return TypedResults.Ok(
            await service.Upload(jobId, name is { Length: > 0 and <= 200 } ? name : "schedule", await Body(request, cancel), cancel)
        );
    }

    private static async Task<Results<Ok<OutcomeAnswer>, ProblemHttpResult>> Preview(
        Guid jobId,
        Guid importId,
        PreviewImportRequest request,
        Ledger ledger,
        ImportService service
    )
    {
        if (!await Exists(ledger, jobId))
            return Problems.Of(404, "problem.unknown-job");
        if (Bad(request.Mapping) is { } bad)
            return bad;
        return await service.Preview(jobId, importId, request) is { } answer ? TypedResults.Ok(answer) : Problems.Of(404, "import.gone");
    }

    private static async Task<Results<Ok<WorkAnswer>, ProblemHttpResult>> Take(
        Guid jobId,
        Guid importId,
        TakeImportRequest request,
        Ledger ledger,
        ImportService service,
        TimeProvider time
    )
    {
        if (!await Exists(ledger, jobId))
            return Problems.Of(404, "problem.unknown-job");
        await using (var db = ledger.OpenDb())
            if (request.By is { } by && await Writers.Refuse(db, jobId, by, time.GetUtcNow()) is { } stranger)
                return Problems.Of(422, stranger, "by");
        if (Bad(request.Mapping) is { } bad)
            return bad;
        return service.Take(jobId, importId, request) is { } answer ? TypedResults.Ok(answer) : Problems.Of(404, "import.gone");
    }

    private static ProblemHttpResult? Bad(SheetMapping mapping) =>
        mapping.HeaderRow < 0
        || mapping.Columns.IsDefault
        || mapping.Defaults is null
        || mapping.Kinds is null
        || mapping.Columns.Any(c => c?.Heading is null)
        || mapping.Defaults.Values.Any(v => v is null)
        || mapping.Kinds.Values.Any(v => v is null)
        || mapping.LeftOut is { Length: > SchedulePlan.MostRows }
        || mapping.TakenAnyway is { Length: > SchedulePlan.MostRows }
        || mapping.Columns.Length > 256
        || mapping.Columns.Any(c => c.Column is < 0 or > 255 || c.Field is not null && RegisterFields.Find(c.Field) is null)
        || mapping.Defaults.Keys.Any(k => RegisterFields.Find(k) is null)
            ? Problems.Of(422, "import.mapping")
            : null;

    internal static async Task<bool> Exists(Ledger ledger, Guid jobId)
    {
        await using var db = ledger.OpenDb();
        return await db.Jobs.AnyAsync(j => j.Id == jobId);
    }

    /// <summary>A file that somebody sends, whole.</summary>
    /// <param name="most">Bytes at most, where a longer one is refused as too large; else whoever reads it says so.</param>
    internal static async Task<byte[]> Body(HttpRequest request, CancellationToken cancel, int most = int.MaxValue)
    {
        using var body = new MemoryStream();
        await request.Body.CopyToAsync(body, cancel);
        return body.Length <= most ? body.ToArray() : throw new BadHttpRequestException("too large", 413);
    }
}
