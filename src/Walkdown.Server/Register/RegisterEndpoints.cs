using System.Collections.Immutable;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Entries;
using Walkdown.Core.Measures;
using Walkdown.Core.People;
using Walkdown.Core.Register;
using Walkdown.Formats;
using Walkdown.Server.Cards;
using Walkdown.Server.Door;
using Walkdown.Server.Jobs;
using Walkdown.Server.Shared;
using Walkdown.Storage;

namespace Walkdown.Server.Register;

/// <summary>One row of the register, its cells in the order of the columns.</summary>
/// <param name="Planned">By column: what was planned where it is built otherwise; empty where nothing was.</param>
public sealed record RegisterLine(
    Guid Id,
    ImmutableArray<string?> Cells,
    ImmutableDictionary<string, string> Planned,
    bool Cancelled,
    bool Added
);

public sealed record RegisterAnswer(
    ImmutableArray<FieldAnswer> Columns,
    ImmutableArray<RegisterLine> Rows,
    ImmutableArray<FindingWords> Findings,
    ImmutableArray<string> Cabinets,
    ImmutableArray<string> Kinds
);

/// <param name="Why">Why it is otherwise; asked for where a device is cancelled.</param>
public sealed record EditsRequest(
    Guid Id,
    Guid By,
    DateTimeOffset TakenAt,
    double ClockOffsetMs,
    ImmutableArray<RegisterEdit> Edits,
    string? Why = null
) : IEntry;

public sealed record AddDeviceRequest(
    Guid Id,
    Guid By,
    DateTimeOffset TakenAt,
    double ClockOffsetMs,
    ImmutableDictionary<string, string?> Values,
    string Why
) : IEntry;

public sealed record EditsAnswer(int Changed);

public sealed record AddedAnswer(Guid DeviceId);

/// <param name="BlockedBy">Who holds them up, for <see cref="MarkKind.Blocked"/>.</param>
/// <param name="Reason">Why; not asked for where they are free again.</param>
public sealed record MarksRequest(
    Guid Id,
    Guid By,
    DateTimeOffset TakenAt,
    double ClockOffsetMs,
    MarkKind Kind,
    ImmutableArray<Guid> DeviceIds,
    string? Reason = null,
    string? BlockedBy = null,
    DateOnly? Until = null
) : IEntry;

/// <summary>The register as a table, and marks on several Cards.</summary>
public static class RegisterEndpoints
{
    private const int MostAtOnce = 2000;

    public static void MapRegister(this RouteGroupBuilder api)
    {
        var register = api.MapGroup("/jobs/{jobId:guid}").WithTags("Register");
        register.MapGet("/register", Table).WithName("getRegister");
        register.MapPost("/register/edits", Edit).WithName("editRegister").Needs(Right.Register);
        register.MapPost("/register/devices", Add).WithName("addDevice").Needs(Right.Register);
        register
            .MapGet(
                "/schedule.csv",
                (Guid jobId, Ledger ledger, RegisterService service, CatalogueStore catalogue) =>
                    Export(jobId, false, ledger, service, catalogue)
            )
            .WithName("getScheduleCsv")
            .Produces(200, contentType: "text/csv");
        register
            .MapGet(
                "/schedule.xlsx",
                (Guid jobId, Ledger ledger, RegisterService service, CatalogueStore catalogue) =>
                    Export(jobId, true, ledger, service, catalogue)
            )
            .WithName("getScheduleXlsx")
            .Produces(200, contentType: "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet");
        register.MapPost("/marks", Mark).WithName("markCards").Needs(Right.Work);
    }

    private static async Task<Results<Ok<RegisterAnswer>, ProblemHttpResult>> Table(
        Guid jobId,
        Ledger ledger,
        RegisterService service,
        ImportService imports,
        CatalogueStore catalogue
    )
    {
        if (!await ImportEndpoints.Exists(ledger, jobId))
            return Problems.Of(404, "problem.unknown-job");
        var table = await service.Table(jobId, catalogue.Catalogue);
        return TypedResults.Ok(
            new RegisterAnswer(
                ImportService.Fields,
                [
                    .. table.Rows.Select(r => new RegisterLine(
                        r.Id,
                        [.. RegisterFields.All.Select(f => r.Values.GetValueOrDefault(f.Id))],
                        r.Planned,
                        r.Cancelled,
                        r.Added
                    )),
                ],
                imports.Words(table.Findings),
                [.. table.Cabinets.Select(c => c.Label)],
                [.. catalogue.Catalogue.Kinds.Select(k => k.Id)]
            )
        );
    }

    private static async Task<Results<Ok<EditsAnswer>, ProblemHttpResult>> Edit(
        Guid jobId,
        EditsRequest request,
        RegisterService service,
        ImportService imports,
        CardService cards,
        CatalogueStore catalogue
    )
    {
        if (cards.Malformed(request) is { } bad)
            return bad;
        if (request.Edits.Length is 0 or > MostAtOnce)
            return Problems.Of(422, "register.too-many", MostAtOnce.ToString());
        if (request.Why?.Length > 400)
            return Problems.Of(422, "problem.text-too-long");
        var result = await service.Edit(
            jobId,
            request.Id,
            request.By,
            cards.TakenAt(request)!.Value,
            request.Why,
            request.Edits,
            request,
            catalogue.Catalogue,
            imports.Words()
        );
        return result.Ledger.Kept is Kept.New or Kept.Already
            ? TypedResults.Ok(new EditsAnswer(result.Changed))
            : Refused(result, catalogue, imports);
    }

    private static async Task<Results<Ok<AddedAnswer>, ProblemHttpResult>> Add(
        Guid jobId,
        AddDeviceRequest request,
        RegisterService service,
        ImportService imports,
        CardService cards,
        CatalogueStore catalogue,
        Ledger ledger
    )
    {
        if (cards.Malformed(request) is { } bad)
            return bad;
        if (!await ImportEndpoints.Exists(ledger, jobId))
            return Problems.Of(404, "problem.unknown-job");
        if (string.IsNullOrWhiteSpace(request.Why) || request.Why.Length > 400)
            return Problems.Of(422, "register.why-added");
        var (result, device) = await service.AddDevice(
            jobId,
            request.Id,
            request.By,
            cards.TakenAt(request)!.Value,
            request.Why.Trim(),
            request.Values,
            request,
            catalogue.Catalogue,
            imports.Words()
        );
        if (result.Ledger.Kept == Kept.Already)
        {
            await using var db = ledger.OpenDb();
            device = await db
                .RegisterChanges.Where(c => db.Journal.Any(j => j.Id == request.Id && j.Sequence == c.Sequence))
                .Select(c => (Guid?)c.DeviceId)
                .FirstOrDefaultAsync();
        }
        return device is { } id ? TypedResults.Ok(new AddedAnswer(id)) : Refused(result, catalogue, imports);
    }

    /// <summary>The refusal with every cell that cannot be taken.</summary>
    internal static ProblemHttpResult Refused(EditResult result, CatalogueStore catalogue, ImportService imports)
    {
        if (result.Problems.IsEmpty)
            return Problems.Of(result.Ledger);
        var t = catalogue.Texts;
        return Problems.Of(
            422,
            result.Problems[0].What,
            result.Problems[0].Field,
            new Dictionary<string, object?>
            {
                ["cells"] = result
                    .Problems.Select(p => new
                    {
                        p.DeviceId,
                        p.Field,
                        What = t.Say(p.What),
                        Mend = p.Mend.Code == "cell.kind.mend"
                            ? t.Fill(t["cell.kind.mend"], [string.Join(", ", catalogue.Catalogue.Kinds.Select(k => k.Id))])
                            : t.Say(p.Mend),
                    })
                    .ToList(),
            }
        );
    }

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Export(
        Guid jobId,
        bool workbook,
        Ledger ledger,
        RegisterService service,
        CatalogueStore catalogue
    )
    {
        if (!await ImportEndpoints.Exists(ledger, jobId))
            return Problems.Of(404, "problem.unknown-job");
        var (rows, notes) = await service.Schedule(jobId, catalogue.Catalogue);
        return workbook
            ? TypedResults.File(
                SheetWriter.Xlsx(rows, notes),
                "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
                "schedule.xlsx"
            )
            : TypedResults.File(SheetWriter.Csv(rows, notes), "text/csv; charset=utf-8", "schedule.csv");
    }

    /// <summary>One word for several Cards, where it is honest: who holds them up, what is put off, a restart that concerned them all.
    /// Readings are never taken in bulk.</summary>
    private static async Task<Results<Ok<EditsAnswer>, ProblemHttpResult>> Mark(
        Guid jobId,
        MarksRequest request,
        Ledger ledger,
        CardService cards,
        CatalogueStore catalogue
    )
    {
        if (cards.Malformed(request) is { } bad)
            return bad;
        if (request.DeviceIds.Length is 0 or > MostAtOnce)
            return Problems.Of(422, "register.too-many", MostAtOnce.ToString());
        var marking = new Marking(request.Kind, request.Reason, request.BlockedBy, request.Until);
        if (marking.Problem() is { } problem)
            return Problems.Of(422, problem);
        var at = cards.TakenAt(request)!.Value;
        var marked = 0;
        var result = await ledger.Edit(
            jobId,
            request.Id,
            "marks",
            request,
            request.By,
            catalogue.Catalogue,
            async (db, sequence) =>
            {
                var touched = new Dictionary<Guid, List<object>>();
                if (await Writers.Refuse(db, jobId, request.By, at) is { } stranger)
                    return (stranger, "by", touched);
                var ids = request.DeviceIds.Distinct().ToList();
                if (await db.Devices.CountAsync(d => d.JobId == jobId && ids.Contains(d.Id)) != ids.Count)
                    return (new Message("problem.unknown-card"), "deviceIds", touched);
                var standing =
                    request.Kind == MarkKind.Restarted
                        ? []
                        : (await CardFactsLoader.Load(db, ids, at)).ToDictionary(
                            c => c.Facts.Place.Id,
                            c => Card.Judge(c.Facts, catalogue.Catalogue).Blocked
                        );
                foreach (var id in ids)
                {
                    List<object> rows = [.. marking.Of(id, standing.GetValueOrDefault(id), request.By, at, sequence, Guid.CreateVersion7)];
                    if (rows.Count > 0)
                        touched[id] = rows;
                }
                marked = touched.Count;
                return (null, null, touched);
            }
        );
        return result.Kept is Kept.New or Kept.Already ? TypedResults.Ok(new EditsAnswer(marked)) : Problems.Of(result);
    }
}
