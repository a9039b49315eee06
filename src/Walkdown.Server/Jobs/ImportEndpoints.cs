using System.Collections.Concurrent;
using System.Collections.Immutable;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core.Measures;
using Walkdown.Core.Register;
using Walkdown.Reports;
using Walkdown.Server.Shared;
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
    ImmutableArray<KindWord> KindWords
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
public sealed record TakeImportRequest(int Sheet, SheetMapping Mapping, long Basis, Guid? By = null);

/// <summary>A cell that cannot be taken, in words.</summary>
public sealed record CellWords(int Row, string Column, string What, string Mend);

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
    long Basis
);

/// <summary>Bringing a schedule in: upload, look, take.</summary>
public sealed class ImportService(Ledger ledger, ScheduleImport import, CatalogueStore catalogue, WorkQueue work)
{
    private const int MostDrafts = 8;
    private readonly ConcurrentDictionary<Guid, (DateTime At, string Name, IReadOnlyList<Sheet> Sheets)> _drafts = new();

    public async Task<ImportAnswer> Upload(string name, byte[] file, CancellationToken cancel)
    {
        var sheets = await Task.Run(() => SheetReader.Read(file, cancel), cancel);
        foreach (var old in _drafts.OrderByDescending(d => d.Value.At).Skip(MostDrafts - 1))
            _drafts.TryRemove(old.Key, out _);
        var id = Guid.CreateVersion7();
        _drafts[id] = (DateTime.UtcNow, name, sheets);
        var (headings, kinds) = await Remembered();
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
                        KindWordsOf(sheet, proposed, words)
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
        SheetOf(draft, request.Sheet) is { } sheet
            ? Answer(await import.Preview(jobId, PlanOf(sheet, request.Mapping), catalogue.Catalogue))
            : null;

    public WorkAnswer? Take(Guid jobId, Guid draft, TakeImportRequest request)
    {
        if (SheetOf(draft, request.Sheet) is not { } sheet)
            return null;
        return work.Start(
            "import",
            async (progress, cancel) =>
            {
                var outcome =
                    await import.Take(
                        jobId,
                        PlanOf(sheet, request.Mapping),
                        catalogue.Catalogue,
                        request.Basis,
                        request.By,
                        progress,
                        cancel
                    ) ?? throw new Refusal(new("import.register-changed"));
                if (outcome.Taken)
                    await Remember(request.Mapping);
                return Answer(outcome);
            }
        );
    }

    /// <summary>The short way for Walkdown's own schedule: its column names, no questions, taken whole or refused whole.</summary>
    public async Task<OutcomeAnswer> TakeStrict(Guid jobId, byte[] file, CancellationToken cancel)
    {
        var sheet = SheetReader.Read(file, cancel)[0];
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
        return Answer((await import.Take(jobId, PlanOf(sheet, mapping), catalogue.Catalogue, null, null, null, cancel))!);
    }

    private Sheet? SheetOf(Guid draft, int index) =>
        _drafts.TryGetValue(draft, out var d) && index >= 0 && index < d.Sheets.Count ? d.Sheets[index] : null;

    private SchedulePlan PlanOf(Sheet sheet, SheetMapping mapping) => SchedulePlan.Of(sheet.Rows, mapping, Words());

    public Dictionary<string, string> Words() => RegisterService.KindWords(catalogue.Catalogue, k => catalogue.Texts[k.TextKey]);

    public OutcomeAnswer Answer(ScheduleOutcome o)
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
                            : t.Say(p.Mend)
                    )),
            ],
            Words(o.Findings),
            o.Basis
        );
    }

    public ImmutableArray<FindingWords> Words(ImmutableArray<Finding> findings) =>
        [.. findings.Select(f => new FindingWords(f.What.Code, catalogue.Texts.Say(f.What), f.Field, f.Devices))];

    private static ImmutableArray<KindWord> KindWordsOf(Sheet sheet, SheetMapping mapping, Dictionary<string, string> words)
    {
        if (mapping.Columns.FirstOrDefault(c => c.Field == "kind") is not { } column)
            return [];
        return
        [
            .. sheet
                .Rows.Skip(mapping.HeaderRow + 1)
                .Where(r => column.Column < r.Count && !r[column.Column].IsEmpty)
                .GroupBy(r => r[column.Column].Text)
                .OrderByDescending(g => g.Count())
                .Take(60)
                .Select(g => new KindWord(
                    g.Key,
                    g.Count(),
                    mapping.Kinds.GetValueOrDefault(CellText.Plain(g.Key)) ?? words.GetValueOrDefault(CellText.Plain(g.Key))
                )),
        ];
    }

    private async Task<(Dictionary<string, string> Headings, Dictionary<string, string> Kinds)> Remembered()
    {
        await using var db = ledger.OpenDb();
        var all = await db.Memory.ToListAsync();
        return (
            all.Where(m => m.Key.StartsWith("heading:", StringComparison.Ordinal)).ToDictionary(m => m.Key[8..], m => m.Value),
            all.Where(m => m.Key.StartsWith("kind:", StringComparison.Ordinal)).ToDictionary(m => m.Key[5..], m => m.Value)
        );
    }

    /// <summary>What was chosen is proposed the next time a sheet looks like this.</summary>
    private async Task Remember(SheetMapping mapping)
    {
        var chosen = mapping
            .Columns.Where(c => !c.Ignored && CellText.Plain(c.Heading).Length > 0)
            .Select(c => ("heading:" + CellText.Plain(c.Heading), c.Field ?? ""))
            .Concat(mapping.Kinds.Where(k => CellText.Plain(k.Key).Length > 0).Select(k => ("kind:" + CellText.Plain(k.Key), k.Value)))
            .DistinctBy(c => c.Item1)
            .ToList();
        await ledger.Quiet(async () =>
        {
            await using var db = ledger.OpenDb();
            foreach (var (key, value) in chosen)
                await db.Database.ExecuteSqlAsync(
                    $"INSERT INTO Memory (Key, Value) VALUES ({key}, {value}) ON CONFLICT(Key) DO UPDATE SET Value=excluded.Value"
                );
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
            .WithName("takeSchedule");
        imports
            .MapPost("/imports", Upload)
            .WithMetadata(new RequestSizeLimitAttribute(SheetReader.MostBytes + 1024))
            .Accepts<IFormFile>("application/octet-stream")
            .WithName("uploadSchedule");
        imports.MapPost("/imports/{importId:guid}/preview", Preview).WithName("previewSchedule");
        imports.MapPost("/imports/{importId:guid}/take", Take).WithName("takeImport");
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
            await service.Upload(name is { Length: > 0 and <= 200 } ? name : "schedule", await Body(request, cancel), cancel)
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
        ImportService service
    )
    {
        if (!await Exists(ledger, jobId))
            return Problems.Of(404, "problem.unknown-job");
        if (Bad(request.Mapping) is { } bad)
            return bad;
        return service.Take(jobId, importId, request) is { } answer ? TypedResults.Ok(answer) : Problems.Of(404, "import.gone");
    }

    private static ProblemHttpResult? Bad(SheetMapping mapping) =>
        mapping.HeaderRow < 0
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

    internal static async Task<byte[]> Body(HttpRequest request, CancellationToken cancel)
    {
        using var body = new MemoryStream();
        await request.Body.CopyToAsync(body, cancel);
        return body.ToArray();
    }
}
