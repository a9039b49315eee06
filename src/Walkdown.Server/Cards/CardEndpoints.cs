using System.Collections.Immutable;
using System.Globalization;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Entries;
using Walkdown.Core.Measures;
using Walkdown.Core.People;
using Walkdown.Core.Register;
using Walkdown.Devices;
using Walkdown.Reports;
using Walkdown.Server.Door;
using Walkdown.Server.Jobs;
using Walkdown.Server.Readings;
using Walkdown.Server.Register;
using Walkdown.Server.Shared;
using Walkdown.Server.Walk;
using Walkdown.Storage;
using Walkdown.Storage.Entities;
using Answered = Microsoft.AspNetCore.Http.HttpResults.Results<
    Microsoft.AspNetCore.Http.HttpResults.Ok<Walkdown.Server.Cards.CardAnswer>,
    Microsoft.AspNetCore.Http.HttpResults.ProblemHttpResult
>;
using SavedOr = Microsoft.AspNetCore.Http.HttpResults.Results<
    Microsoft.AspNetCore.Http.HttpResults.Ok<Walkdown.Server.Cards.SavedAnswer>,
    Microsoft.AspNetCore.Http.HttpResults.ProblemHttpResult
>;

namespace Walkdown.Server.Cards;

/// <summary>The Card: read it, add to it, try a value, read the tester, print it.</summary>
public static class CardEndpoints
{
    /// <summary>More would be a request that nobody waits for.</summary>
    private const int MostOfAPage = 200;

    public static void MapCards(this RouteGroupBuilder api)
    {
        api.MapGet("/jobs/{jobId:guid}/cards", Page).WithTags("Cards").WithName("getCards");
        var cards = api.MapGroup("/cards/{deviceId:guid}").WithTags("Cards");
        cards
            .MapGet(
                "",
                async Task<Answered> (Guid deviceId, CardService service) =>
                    await service.Get(deviceId) is { } answer ? TypedResults.Ok(answer) : Problems.Of(404, "problem.unknown-card")
            )
            .WithName("getCard");
        cards.MapPost("/readings", Enter<ReadingRequest>).WithName("addReading").Needs(Right.Work);
        cards.MapPost("/preview", Preview).WithName("previewReading").Needs(Right.Work);
        cards.MapPost("/tester", ReadTester).WithName("readTester").Needs(Right.Work);
        cards.MapPost("/acts", Enter<ActRequest>).WithName("addAct").Needs(Right.Work);
        cards.MapPost("/withdrawals", Enter<WithdrawalRequest>).WithName("addWithdrawal").Needs(Right.Work);
        cards.MapPost("/exemptions", Enter<ExemptionRequest>).WithName("addExemption").Needs(Right.Decide);
        cards.MapPost("/concessions", Enter<ConcessionRequest>).WithName("addConcession").Needs(Right.Decide);
        cards.MapPost("/blocks", Enter<BlockRequest>).WithName("addBlock").Needs(Right.Work);
        cards.MapPost("/block-ends", Enter<BlockEndRequest>).WithName("endBlock").Needs(Right.Work);
        cards.MapPost("/built", AddBuilt).WithName("addBuilt").Needs(Right.Work);
        cards.MapGet("/register", Register).WithName("getCardRegister");
        cards.MapPost("/notes", Enter<NoteRequest>).WithName("addNote").Needs(Right.Work);
        cards.MapPost("/views", Enter<ViewRequest>).WithName("keepView").Needs(Right.Work);
        cards.MapPost("/plates/drives", Enter<PlateDriveRequest>).WithName("agreeDrive").Needs(Right.Work);
        cards.MapPost("/plates/passes", Enter<PlatePassRequest>).WithName("tickPass").Needs(Right.Work);
        cards.MapPost("/events", Enter<EventPressRequest>).WithName("pressEvent").Needs(Right.Work);
        cards.MapPost("/rulings", Enter<RulingRequest>).WithName("addRuling").Needs(Right.Decide);
        cards.MapPost("/faults/{faultId:guid}/end", EndFault).WithName("endFault").Needs(Right.Work);
        cards.MapPost("/faults", Enter<FaultRequest>).WithName("raiseFault").Needs(Right.Work);
        cards.MapPost("/faults/{faultId:guid}/steps", AddFaultStep).WithName("addFaultStep").Needs(Right.Work);
        cards
            .MapGet(
                "/trace",
                async Task<Results<Ok<TraceAnswer>, ProblemHttpResult>> (Guid deviceId, string row, CardService service) =>
                    await service.Judged(deviceId) is not var (loaded, judged) ? Problems.Of(404, "problem.unknown-card")
                    : judged.Card.Rows.FirstOrDefault(r => r.Id == row) is { } found
                        ? TypedResults.Ok(
                            new TraceAnswer(
                                loaded.Facts.Place.Label,
                                found,
                                Core.Handover.Trace.Of(found, judged.Card.Rule, loaded.Facts.Instruments),
                                judged.Card.LimitEdition,
                                ReportService.CoreVersion
                            )
                        )
                    : Problems.Of(404, "problem.unknown-row")
            )
            .WithName("getTrace");
        cards
            .MapGet(
                "/answers",
                async Task<Results<Ok<ImmutableArray<AnswerTold>>, ProblemHttpResult>> (Guid deviceId, string row, CardService service) =>
                    await service.Judged(deviceId) is not var (_, judged) ? Problems.Of(404, "problem.unknown-card")
                    : judged.Row(row) is { } planned ? TypedResults.Ok(AnswerTold.Of(judged, planned.Key))
                    : Problems.Of(404, "problem.unknown-row")
            )
            .WithName("getAnswers");
        cards.MapGet("/report.json", ReportJson).WithName("getReportJson");
        cards.MapGet("/report.pdf", ReportPdf).WithName("getReportPdf").Produces(200, contentType: "application/pdf");
    }

    /// <summary>An entry of any sort: what it adds, or why not, is Core's word.</summary>
    private static async Task<Results<Ok<CardsPage>, ProblemHttpResult>> Page(
        Guid jobId,
        CardService service,
        WalkBoards boards,
        string? area = null,
        int skip = 0,
        int take = 100
    )
    {
        if (await boards.Of(jobId) is not { } board)
            return Problems.Of(404, "problem.unknown-job");
        if (skip < 0 || take is < 1 or > MostOfAPage)
            return Problems.Of(422, new Message("problem.page", MostOfAPage.ToString(CultureInfo.InvariantCulture)), "take");
        // Read before the Cards are: what comes meanwhile is asked for again, not missed.
        var sequence = board.Sequence;
        var these = board.StopsOf(area).ToList();
        return TypedResults.Ok(new CardsPage(await service.Of([.. these.Skip(skip).Take(take)]), these.Count, sequence));
    }

    private static async Task<SavedOr> Enter<T>(Guid deviceId, T request, CardService service, CancellationToken cancel)
        where T : EntryRequest
    {
        var (answer, result) = await service.Append(deviceId, request, cancel);
        return answer is not null ? TypedResults.Ok(answer) : Problems.Of(result);
    }

    private static Task<SavedOr> EndFault(
        Guid deviceId,
        Guid faultId,
        FaultEndRequest request,
        CardService service,
        CancellationToken cancel
    ) => Enter(deviceId, request with { FaultId = faultId }, service, cancel);

    private static Task<SavedOr> AddFaultStep(
        Guid deviceId,
        Guid faultId,
        FaultStepRequest request,
        CardService service,
        CancellationToken cancel
    ) => Enter(deviceId, request with { FaultId = faultId }, service, cancel);

    private static async Task<Results<Ok<PreviewAnswer>, ProblemHttpResult>> Preview(
        Guid deviceId,
        PreviewRequest request,
        CardService service
    )
    {
        if (await service.Judged(deviceId) is not var (_, card))
            return Problems.Of(404, "problem.unknown-card");
        if (card.Row(request.Row) is not { } row)
            return Problems.Of(404, "problem.unknown-row");
        var (value, refused) = ReadingRequest.ValueOf(row, request.Value, request.Text);
        if (refused is not null)
            return TypedResults.Ok(new PreviewAnswer(null, null, null, null, [], null, refused, null, []));
        var would = Card.Preview(
            card.Facts,
            card.Catalogue,
            row.Key,
            value!,
            request.Found ?? row.Key.Under,
            request.InstrumentId,
            request.Seen
        );
        var attempt = would.Attempt;
        return TypedResults.Ok(
            new PreviewAnswer(
                value,
                attempt.State,
                attempt.Spare,
                attempt.HalfWidth,
                attempt.Because,
                attempt.Map,
                null,
                would.Counts ? null : new Message("preview.will-not-count", "@stale." + Codes.Of(attempt.Standing)),
                would.Counts ? would.Row.Unexpected : []
            )
        );
    }

    /// <summary>Asks the source of the row's check: the answer is kept, and no reading of it yet.</summary>
    private static async Task<Results<Ok<TesterAnswer>, ProblemHttpResult>> ReadTester(
        Guid deviceId,
        TesterRequest request,
        CardService service,
        MeasureSources sources,
        Observations observations,
        CancellationToken cancel
    )
    {
        if (await service.Judged(deviceId) is not var (loaded, judged))
            return Problems.Of(404, "problem.unknown-card");
        var facts = loaded.Facts;
        if (judged.Row(request.Row) is not { } row)
            return Problems.Of(404, "problem.unknown-row");
        var answer = await sources.Ask(SourceQuestion.Of(facts, row), cancel);
        if (answer.Trouble is { } trouble)
        {
            if (await observations.Found(loaded.Job.Id, row.Check, answer) is { } found)
                await observations.Keep(found);
            return Problems.Of(502, trouble);
        }
        // The others of its kind are read where they stand.
        if (answer.Readings.All(r => r.Part != row.Key.On.Part))
            return Problems.Of(502, Sweeper.NoPart(answer));
        var kept = observations.Of(loaded.Job.Id, facts, row, judged.Plan, answer);
        await observations.Keep(kept);
        var instrument = Observation.InstrumentOf(facts, kept.Serial);
        return TypedResults.Ok(
            new TesterAnswer(
                kept.Id,
                kept.Source,
                kept.Serial,
                instrument,
                facts.Instruments.FirstOrDefault(i => i.Id == instrument)?.Name,
                [
                    .. Observations
                        .Values(row, judged.Plan, answer)
                        .Select(v => new TesterRow(v.Key, v.Value, StateOf(judged, v, instrument))),
                ]
            )
        );
    }

    /// <summary>As which state an answer would be judged; null where it would not count.</summary>
    private static State? StateOf(JudgedCard card, KeyValuePair<string, ReadingValue> answer, Guid? instrumentId)
    {
        if (card.Row(answer.Key) is not { } row)
            return null;
        var would = Card.Preview(card.Facts, card.Catalogue, row.Key, answer.Value, row.Key.Under, instrumentId);
        return would.Counts ? would.Attempt.State : null;
    }

    /// <summary>What hangs or runs otherwise than planned, found where it is.</summary>
    private static async Task<SavedOr> AddBuilt(
        Guid deviceId,
        BuiltRequest request,
        CardService service,
        RegisterService register,
        ImportService imports,
        CatalogueStore catalogue
    )
    {
        if (service.Malformed(request) is { } bad)
            return bad;
        var at = service.TakenAt(request)!.Value;
        if (request.Cells.Length is 0 or > 40)
            return Problems.Of(422, "register.too-many", "40");
        if (request.Why?.Length > EntryRequest.MostText)
            return Problems.Of(422, "problem.text-too-long");
        if (await service.Loaded(deviceId) is not { } loaded)
            return Problems.Of(404, "problem.unknown-card");
        var result = await register.Edit(
            loaded.Job.Id,
            request.Id,
            request.By,
            at,
            request.Why,
            [.. request.Cells.Select(c => new RegisterEdit(deviceId, c.Field, c.Text))],
            request,
            catalogue.Catalogue,
            imports.Words()
        );
        return result.Ledger.Kept is Kept.New or Kept.Already && await service.Get(deviceId) is { } answer
            ? TypedResults.Ok(new SavedAnswer(answer.Sequence, null, answer))
            : RegisterEndpoints.Refused(result, catalogue, imports);
    }

    private static async Task<Results<Ok<CardRegisterAnswer>, ProblemHttpResult>> Register(
        Guid deviceId,
        CardService service,
        Ledger ledger
    )
    {
        if (await service.Loaded(deviceId) is not { } loaded)
            return Problems.Of(404, "problem.unknown-card");
        await using var db = ledger.OpenDb();
        var planned = RegisterValues.Read((await db.Devices.FindAsync(deviceId))?.PlannedJson);
        return TypedResults.Ok(
            new CardRegisterAnswer(
                loaded.Values,
                planned,
                loaded.Notes,
                loaded.Differences,
                [.. loaded.Changes.Select(c => new RegisterLineChange(c.Field, c.From, c.To, c.AsBuilt, c.Why, c.By, c.At))],
                [
                    .. (await db.Installations.Include(i => i.Unit).Where(i => i.DeviceId == deviceId).ToListAsync())
                        .OrderBy(i => i.From)
                        .Select(i => new CardUnit(i.Unit.Serial, i.Unit.HardwareAddress, i.From, i.Until)),
                ],
                ImportService.Fields,
                [.. service.Catalogue.Kinds.Select(k => k.Id)]
            )
        );
    }

    private static async Task<Results<JsonHttpResult<ReportRecord>, ProblemHttpResult>> ReportJson(Guid deviceId, ReportService reports) =>
        await reports.Record(deviceId) is { } record
            ? TypedResults.Json(record, Core.CoreJson.Options)
            : Problems.Of(404, "problem.unknown-card");

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> ReportPdf(Guid deviceId, ReportService reports)
    {
        if (await reports.Record(deviceId) is not { } record)
            return Problems.Of(404, "problem.unknown-card");
        return TypedResults.File(reports.Pdf(record), "application/pdf", $"{record.Place.Label}-acceptance.pdf");
    }
}
