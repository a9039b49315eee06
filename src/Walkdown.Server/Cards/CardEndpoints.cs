using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;
using Walkdown.Devices;
using Walkdown.Reports;
using Walkdown.Server.Jobs;
using Walkdown.Server.Register;
using Walkdown.Server.Shared;
using Walkdown.Storage;
using Walkdown.Storage.Entities;
using Answered = Microsoft.AspNetCore.Http.HttpResults.Results<
    Microsoft.AspNetCore.Http.HttpResults.Ok<Walkdown.Server.Cards.CardAnswer>,
    Microsoft.AspNetCore.Http.HttpResults.ProblemHttpResult
>;

namespace Walkdown.Server.Cards;

/// <summary>The Card: read it, add to it, try a value, read the tester, print it.</summary>
public static class CardEndpoints
{
    private const int MostText = 2000;

    public static void MapCards(this RouteGroupBuilder api)
    {
        var cards = api.MapGroup("/cards/{deviceId:guid}").WithTags("Cards");
        cards
            .MapGet(
                "",
                async Task<Answered> (Guid deviceId, CardService service) =>
                    await service.Get(deviceId) is { } answer ? TypedResults.Ok(answer) : Problems.Of(404, "problem.unknown-card")
            )
            .WithName("getCard");
        cards.MapPost("/readings", Read).WithName("addReading");
        cards.MapPost("/preview", Preview).WithName("previewReading");
        cards.MapPost("/tester", ReadTester).WithName("readTester");
        cards.MapPost("/acts", AddAct).WithName("addAct");
        cards.MapPost("/withdrawals", Withdraw).WithName("addWithdrawal");
        cards.MapPost("/exemptions", Exempt).WithName("addExemption");
        cards.MapPost("/concessions", Concede).WithName("addConcession");
        cards.MapPost("/blocks", AddBlock).WithName("addBlock");
        cards.MapPost("/block-ends", EndBlock).WithName("endBlock");
        cards.MapPost("/built", AddBuilt).WithName("addBuilt");
        cards.MapGet("/register", Register).WithName("getCardRegister");
        cards.MapPost("/notes", AddNote).WithName("addNote");
        cards.MapPost("/faults", RaiseFault).WithName("raiseFault");
        cards.MapPost("/faults/{faultId:guid}/steps", AddFaultStep).WithName("addFaultStep");
        cards
            .MapGet(
                "/trace",
                async Task<Results<Ok<TraceAnswer>, ProblemHttpResult>> (Guid deviceId, string row, CardService service) =>
                    await service.Facts(deviceId) is not { } facts ? Problems.Of(404, "problem.unknown-card")
                    : Card.Judge(facts, service.Catalogue) is var card && card.Rows.FirstOrDefault(r => r.Id == row) is { } found
                        ? TypedResults.Ok(
                            new TraceAnswer(
                                facts.Place.Label,
                                found,
                                Core.Handover.Trace.Of(found, card.Rule, facts.Instruments),
                                card.LimitEdition,
                                ReportService.CoreVersion
                            )
                        )
                    : Problems.Of(404, "problem.unknown-row")
            )
            .WithName("getTrace");
        cards.MapGet("/report.json", ReportJson).WithName("getReportJson");
        cards.MapGet("/report.pdf", ReportPdf).WithName("getReportPdf").Produces(200, contentType: "application/pdf");
    }

    private static Task<Answered> Read(Guid deviceId, ReadingRequest request, CardService service, TimeProvider time) =>
        Append(
            service,
            deviceId,
            "reading",
            request,
            (facts, sequence) =>
            {
                if (service.Row(facts, request.Row) is not { } row)
                    return Refuse("problem.unknown-row", "row");
                var (value, refused) = CardService.ValueOf(row, request.Value, request.Text);
                if (refused is not null)
                    return LedgerAddition.Refuse(refused, request.Text is null ? "value" : "text");
                if (request.InstrumentId is { } instrument && facts.Instruments.All(i => i.Id != instrument))
                    return Refuse("problem.unknown-instrument", "instrumentId");
                return Add(
                    new Reading(
                        request.Id,
                        row.Key,
                        facts.Unit?.Id,
                        value!,
                        request.Found ?? row.Key.Under,
                        request.InstrumentId,
                        request.Source,
                        request.By,
                        service.TakenAt(request)!.Value,
                        time.GetUtcNow(),
                        sequence,
                        Card.LimitOf(facts, service.Catalogue, row.Key),
                        request.ClockOffsetMs
                    )
                );
            }
        );

    private static async Task<Results<Ok<PreviewAnswer>, ProblemHttpResult>> Preview(
        Guid deviceId,
        PreviewRequest request,
        CardService service,
        CatalogueStore catalogue
    )
    {
        if (await service.Facts(deviceId) is not { } facts)
            return Problems.Of(404, "problem.unknown-card");
        if (service.Row(facts, request.Row) is not { } row)
            return Problems.Of(404, "problem.unknown-row");
        var (value, refused) = CardService.ValueOf(row, request.Value, request.Text);
        if (refused is not null)
            return TypedResults.Ok(new PreviewAnswer(null, null, null, null, [], null, refused));
        var judged = Card.Preview(facts, catalogue.Catalogue, row.Key, value!, request.Found ?? row.Key.Under, request.InstrumentId);
        var attempt = judged.Attempts.Last(a => a.ReadingId == Guid.Empty);
        return TypedResults.Ok(
            new PreviewAnswer(value, attempt.State, attempt.Spare, attempt.HalfWidth, attempt.Because, attempt.Map, null)
        );
    }

    private static async Task<Results<Ok<TesterAnswer>, ProblemHttpResult>> ReadTester(
        Guid deviceId,
        TesterRequest request,
        CardService service,
        TesterClient tester,
        CancellationToken cancel
    )
    {
        if (await service.Facts(deviceId) is not { } facts)
            return Problems.Of(404, "problem.unknown-card");
        var rows = CheckPlan.For(facts, service.Catalogue).Rows;
        if (rows.FirstOrDefault(r => r.Key.ToString() == request.Row) is not { } row)
            return Problems.Of(404, "problem.unknown-row");
        var run = facts.Runs.FirstOrDefault(r => r.Id == row.Key.On.Id) ?? facts.Runs.FirstOrDefault();
        var outcome = await tester.Measure(
            row.Check,
            row.Key.On.Kind == SubjectKind.Run && run is not null ? run.Label : facts.Place.Label,
            run?.Port is { } port ? new(port.Cabinet, port.Number) : null,
            row.Key.Under,
            cancel
        );
        if (outcome.Trouble is { } trouble)
            return Problems.Of(502, trouble);
        return TypedResults.Ok(
            new TesterAnswer(
                outcome.Serial,
                [
                    .. from reading in outcome.Readings
                    let match = rows.FirstOrDefault(r => r.Key == row.Key with { On = row.Key.On with { Part = reading.Part } })
                    where match is not null
                    select new TesterRow(match.Key.ToString(), reading.Value),
                ]
            )
        );
    }

    private static Task<Answered> AddAct(Guid deviceId, ActRequest request, CardService service) =>
        Append(
            service,
            deviceId,
            "act",
            request,
            async (facts, sequence) =>
            {
                if (service.Catalogue.Acts.FirstOrDefault(a => a.Id == request.Kind) is not { } act)
                    return Refuse("problem.unknown-act", "kind");
                if (TooLong(request.Text))
                    return Refuse("problem.text-too-long", "text");
                if (act.On == SubjectKind.Run && facts.Runs.All(r => r.Id != request.RunId))
                    return Refuse("problem.which-run", "runId");
                if (act.AsksEnd && request.End is null)
                    return Refuse("problem.which-end", "end");
                if (
                    act.Id is "restarted" or "unit-swapped" or "port-moved" or "feed-changed" or "supply-changed"
                    && Card.Judge(facts, service.Catalogue).Hold is { } hold
                )
                    return LedgerAddition.Refuse(hold, "kind");
                var serial = request.NewSerial?.Trim();
                if (act.NewUnit && (string.IsNullOrEmpty(serial) || serial.Length > 60))
                    return Refuse("problem.which-serial", "newSerial");
                if (act.NewUnit && serial!.Equals(facts.Unit?.Serial, StringComparison.OrdinalIgnoreCase))
                    return Refuse("problem.same-serial", "newSerial");
                if (request.FaultId is { } fault && facts.Faults.All(f => f.Id != fault))
                    return Refuse("problem.unknown-fault", "faultId");
                var at = service.TakenAt(request)!.Value;
                var addition = Add(
                    new Act
                    {
                        Id = request.Id,
                        By = request.By,
                        At = at,
                        Sequence = sequence,
                        ActKind = act.Id,
                        End = request.End,
                        Text = request.Text,
                        NewSerial = act.NewUnit ? serial : null,
                        FaultId = request.FaultId,
                        On =
                            act.On == SubjectKind.Run
                                ? new Subject(SubjectKind.Run, request.RunId!.Value)
                                : new Subject(SubjectKind.Place, facts.Place.Id),
                    }
                );
                return act.NewUnit ? await service.SwapUnit(addition, facts, serial!, at) : addition;
            }
        );

    private static Task<Answered> Withdraw(Guid deviceId, WithdrawalRequest request, CardService service) =>
        Append(
            service,
            deviceId,
            "withdrawal",
            request,
            (facts, sequence) =>
            {
                if (
                    facts.Readings.All(r => r.Id != request.Of)
                    && facts.Events.All(e => e.Id != request.Of || e is Act { NewSerial: not null } or Withdrawal)
                )
                    return Refuse("problem.unknown-entry", "of");
                if (facts.Events.OfType<Withdrawal>().Any(w => w.Of == request.Of))
                    return Refuse("problem.withdrawn-already", "of");
                if (Blank(request.Reason))
                    return Refuse("problem.reason-missing", "reason");
                return Add(
                    new Withdrawal
                    {
                        Id = request.Id,
                        By = request.By,
                        At = service.TakenAt(request)!.Value,
                        Sequence = sequence,
                        Of = request.Of,
                        Reason = request.Reason.Trim(),
                    }
                );
            }
        );

    private static Task<Answered> Exempt(Guid deviceId, ExemptionRequest request, CardService service) =>
        Append(
            service,
            deviceId,
            "exemption",
            request,
            (facts, sequence) =>
            {
                if (service.Row(facts, request.Row) is not { } row)
                    return Refuse("problem.unknown-row", "row");
                if (Blank(request.Reason))
                    return Refuse("problem.reason-missing", "reason");
                return Add(
                    new Exemption
                    {
                        Id = request.Id,
                        By = request.By,
                        At = service.TakenAt(request)!.Value,
                        Sequence = sequence,
                        Key = row.Key,
                        Reason = request.Reason.Trim(),
                    }
                );
            }
        );

    private static Task<Answered> Concede(Guid deviceId, ConcessionRequest request, CardService service) =>
        Append(
            service,
            deviceId,
            "concession",
            request,
            (facts, sequence) =>
            {
                if (service.Row(facts, request.Row) is not { } row)
                    return Refuse("problem.unknown-row", "row");
                if (Blank(request.Reason))
                    return Refuse("problem.reason-missing", "reason");
                if (Blank(request.AllowedBy) || request.AllowedBy.Length > 120)
                    return Refuse("problem.who-allows", "allowedBy");
                if (request.Until is { } until && until < DateOnly.FromDateTime(facts.Now.UtcDateTime))
                    return Refuse("problem.until-past", "until");
                var state = Card.Judge(facts, service.Catalogue).Rows.First(r => r.Key == row.Key).State;
                if (state is not (State.Out or State.TooClose))
                    return Refuse("problem.nothing-to-concede", "row");
                return Add(
                    new Concession
                    {
                        Id = request.Id,
                        By = request.By,
                        At = service.TakenAt(request)!.Value,
                        Sequence = sequence,
                        Key = row.Key,
                        AllowedBy = request.AllowedBy.Trim(),
                        Reason = request.Reason.Trim(),
                        Until = request.Until,
                    }
                );
            }
        );

    private static Task<Answered> AddBlock(Guid deviceId, BlockRequest request, CardService service) =>
        Append(
            service,
            deviceId,
            "block",
            request,
            (facts, sequence) =>
            {
                if (Blank(request.Reason))
                    return Refuse("problem.reason-missing", "reason");
                if (!request.SetAside && (Blank(request.BlockedBy) || request.BlockedBy!.Length > 120))
                    return Refuse("mark.blocked-by", "blockedBy");
                if (Card.Judge(facts, service.Catalogue).Blocked is not null)
                    return Refuse("mark.blocked-already", "reason");
                return Add(
                    new Block
                    {
                        Id = request.Id,
                        By = request.By,
                        At = service.TakenAt(request)!.Value,
                        Sequence = sequence,
                        BlockedBy = request.BlockedBy?.Trim() ?? "",
                        Reason = request.Reason.Trim(),
                        Until = request.Until,
                        SetAside = request.SetAside,
                    }
                );
            }
        );

    private static Task<Answered> EndBlock(Guid deviceId, BlockEndRequest request, CardService service) =>
        Append(
            service,
            deviceId,
            "block-end",
            request,
            (facts, sequence) =>
                Card.Judge(facts, service.Catalogue).Blocked?.Id != request.Of
                    ? Refuse("mark.not-blocked", "of")
                    : Add(
                        new BlockEnd
                        {
                            Id = request.Id,
                            By = request.By,
                            At = service.TakenAt(request)!.Value,
                            Sequence = sequence,
                            Of = request.Of,
                        }
                    )
        );

    /// <summary>What hangs or runs otherwise than planned, found where it is.</summary>
    private static async Task<Answered> AddBuilt(
        Guid deviceId,
        BuiltRequest request,
        CardService service,
        RegisterService register,
        ImportService imports,
        CatalogueStore catalogue
    )
    {
        if (request.Id == Guid.Empty)
            return Problems.Of(422, "problem.no-id");
        if (service.TakenAt(request) is not { } at)
            return Problems.Of(422, "problem.time");
        if (request.Cells.Length is 0 or > 40)
            return Problems.Of(422, "register.too-many", "40");
        if (TooLong(request.Why))
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
            ? TypedResults.Ok(answer)
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

    private static Task<Answered> AddNote(Guid deviceId, NoteRequest request, CardService service) =>
        Append(
            service,
            deviceId,
            "note",
            request,
            (facts, sequence) =>
            {
                var row = request.Row is null ? null : service.Row(facts, request.Row);
                if (request.Row is not null && row is null)
                    return Refuse("problem.unknown-row", "row");
                if (string.IsNullOrWhiteSpace(request.Text))
                    return Refuse("problem.text-missing", "text");
                if (TooLong(request.Text))
                    return Refuse("problem.text-too-long", "text");
                return Add(
                    new Note
                    {
                        Id = request.Id,
                        By = request.By,
                        At = service.TakenAt(request)!.Value,
                        Sequence = sequence,
                        Key = row?.Key,
                        Text = request.Text.Trim(),
                    }
                );
            }
        );

    private static Task<Answered> RaiseFault(Guid deviceId, FaultRequest request, CardService service) =>
        Append(
            service,
            deviceId,
            "fault",
            request,
            (facts, sequence) =>
            {
                if (service.Row(facts, request.Row) is not { } row)
                    return Refuse("problem.unknown-row", "row");
                if (string.IsNullOrWhiteSpace(request.Title) || request.Title.Length > 200)
                    return Refuse("problem.fault-title", "title");
                if (request.CauseId is { } cause && service.Catalogue.Causes.All(c => c.Id != cause))
                    return Refuse("problem.unknown-cause", "causeId");
                var card = Card.Judge(facts, service.Catalogue);
                if (card.Faults.FirstOrDefault(f => f.Open && f.Fault.Key == row.Key) is { } standing)
                    return LedgerAddition.Refuse(new Message("problem.fault-stands", standing.Fault.Title), "row");
                return Add(
                    new FaultRecord(
                        request.Id,
                        row.Key,
                        card.Rows.First(r => r.Key == row.Key).Counts,
                        request.Title.Trim(),
                        request.Severity,
                        request.CauseId,
                        request.By,
                        service.TakenAt(request)!.Value,
                        sequence
                    )
                );
            }
        );

    private static Task<Answered> AddFaultStep(Guid deviceId, Guid faultId, FaultStepRequest request, CardService service) =>
        Append(
            service,
            deviceId,
            "fault-step",
            request,
            (facts, sequence) =>
            {
                if (facts.Faults.All(f => f.Id != faultId))
                    return Refuse("problem.unknown-fault", "faultId");
                if (string.IsNullOrWhiteSpace(request.Text))
                    return Refuse("problem.text-missing", "text");
                if (TooLong(request.Text))
                    return Refuse("problem.text-too-long", "text");
                var addition = new LedgerAddition();
                addition.Rows.Add(
                    new FaultStep
                    {
                        Id = request.Id,
                        FaultId = faultId,
                        Text = request.Text.Trim(),
                        By = request.By,
                        At = service.TakenAt(request)!.Value,
                        Sequence = sequence,
                    }
                );
                return addition;
            }
        );

    private static async Task<Results<JsonHttpResult<ReportRecord>, ProblemHttpResult>> ReportJson(Guid deviceId, ReportService reports) =>
        await reports.Record(deviceId) is { } record ? TypedResults.Json(record) : Problems.Of(404, "problem.unknown-card");

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> ReportPdf(Guid deviceId, ReportService reports)
    {
        if (await reports.Record(deviceId) is not { } record)
            return Problems.Of(404, "problem.unknown-card");
        return TypedResults.File(reports.Pdf(record), "application/pdf", $"{record.Place.Label}-acceptance.pdf");
    }

    private static Task<Answered> Append<T>(
        CardService service,
        Guid deviceId,
        string kind,
        T request,
        Func<CardFacts, long, LedgerAddition> add
    )
        where T : class, IEntry => Append(service, deviceId, kind, request, (facts, sequence) => Task.FromResult(add(facts, sequence)));

    private static async Task<Answered> Append<T>(
        CardService service,
        Guid deviceId,
        string kind,
        T request,
        Func<CardFacts, long, Task<LedgerAddition>> add
    )
        where T : class, IEntry
    {
        var (answer, result) = await service.Append(deviceId, kind, request, add);
        return answer is not null ? TypedResults.Ok(answer) : Problems.Of(result);
    }

    private static LedgerAddition Add(object row)
    {
        var addition = new LedgerAddition();
        addition.Rows.Add(row);
        return addition;
    }

    private static LedgerAddition Refuse(string code, string field) => LedgerAddition.Refuse(new Message(code), field);

    private static bool TooLong(string? text) => text?.Length > MostText;

    private static bool Blank(string? text) => string.IsNullOrWhiteSpace(text) || text.Length > MostText;
}
