using System.Collections.Immutable;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;
using Walkdown.Core.Register;
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
using SavedOr = Microsoft.AspNetCore.Http.HttpResults.Results<
    Microsoft.AspNetCore.Http.HttpResults.Ok<Walkdown.Server.Cards.SavedAnswer>,
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
        cards.MapPost("/rulings", AddRuling).WithName("addRuling");
        cards.MapPost("/faults/{faultId:guid}/end", EndFault).WithName("endFault");
        cards.MapPost("/faults", RaiseFault).WithName("raiseFault");
        cards.MapPost("/faults/{faultId:guid}/steps", AddFaultStep).WithName("addFaultStep");
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
        cards.MapGet("/report.json", ReportJson).WithName("getReportJson");
        cards.MapGet("/report.pdf", ReportPdf).WithName("getReportPdf").Produces(200, contentType: "application/pdf");
    }

    private static Task<SavedOr> Read(
        Guid deviceId,
        ReadingRequest request,
        CardService service,
        TimeProvider time,
        CancellationToken cancel
    ) =>
        Append(
            service,
            deviceId,
            "reading",
            request,
            async entering =>
            {
                var facts = entering.Facts;
                if (entering.Row(request.Row) is not { } row)
                    return Refuse("problem.unknown-row", "row");
                var (value, refused) = CardService.ValueOf(row, request.Value, request.Text);
                var (source, instrument, at) = (ReadingSource.Typed, request.InstrumentId, entering.At);
                Guid? cites = null;
                if (request.ObservationId is { } observation)
                {
                    // What was read is what the server heard, when it heard it; not what a browser says of it later.
                    if (await service.Observed(deviceId, observation, request.Row) is not { } heard)
                        return Refuse("problem.unknown-observation", "observationId");
                    (value, refused, source, at, cites) = (
                        heard.Value,
                        ReadingRules.Refuse(row.Check, heard.Value),
                        heard.Kept.Source,
                        heard.Kept.At,
                        observation
                    );
                    // Whose serial answered is whose accuracy judges.
                    instrument = InstrumentOf(facts, heard.Kept);
                }
                if (refused is not null)
                    return LedgerAddition.Refuse(refused, request.Text is null ? "value" : "text");
                if (instrument is { } chosen)
                {
                    if (facts.Instruments.FirstOrDefault(i => i.Id == chosen) is not { } known)
                        return Refuse("problem.unknown-instrument", "instrumentId");
                    if (known.RetiredAt is { } retired && at > retired)
                        return LedgerAddition.Refuse(new Message("problem.instrument-retired", Message.Said(known.Name)), "instrumentId");
                }
                // A hold holds in the record too, in the screen's words.
                if (entering.Card.Rows.First(r => r.Key == row.Key) is { HeldBy: { IsEmpty: false } held })
                    return LedgerAddition.Refuse(new Message("hold.until", $"@check.{held[0].Value}"), "row");
                return Add(
                    new Reading(
                        request.Id,
                        row.Key,
                        facts.UnitAt(at)?.Id,
                        value!,
                        request.Found ?? row.Key.Under,
                        instrument,
                        source,
                        request.By,
                        at,
                        time.GetUtcNow(),
                        entering.Sequence,
                        entering.Judged.LimitOf(row.Key),
                        request.ClockOffsetMs
                    )
                    {
                        CheckVersion = row.Check.Version,
                        ObservationId = cites,
                    }
                );
            },
            cancel
        );

    /// <summary>The instrument of the Kit that answered, by its serial number; null where the Kit has none such.</summary>
    private static Guid? InstrumentOf(CardFacts facts, Observation kept) =>
        kept.Serial.Length == 0 ? null : facts.Instruments.FirstOrDefault(i => Labels.Same(i.Serial, kept.Serial))?.Id;

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
        var (value, refused) = CardService.ValueOf(row, request.Value, request.Text);
        if (refused is not null)
            return TypedResults.Ok(new PreviewAnswer(null, null, null, null, [], null, refused, null, []));
        var judged = Card.Preview(card.Facts, card.Catalogue, row.Key, value!, request.Found ?? row.Key.Under, request.InstrumentId);
        var attempt = judged.Attempts.Last(a => a.ReadingId == Guid.Empty);
        var counts = attempt.Standing is Standing.Counts or Standing.Superseded
            ? null
            : new Message("preview.will-not-count", "@stale." + Codes.Of(attempt.Standing));
        return TypedResults.Ok(
            new PreviewAnswer(
                value,
                attempt.State,
                attempt.Spare,
                attempt.HalfWidth,
                attempt.Because,
                attempt.Map,
                null,
                counts,
                counts is null ? judged.Unexpected : []
            )
        );
    }

    private static async Task<Results<Ok<TesterAnswer>, ProblemHttpResult>> ReadTester(
        Guid deviceId,
        TesterRequest request,
        CardService service,
        TesterClient tester,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        if (await service.Judged(deviceId) is not var (loaded, judged))
            return Problems.Of(404, "problem.unknown-card");
        var facts = loaded.Facts;
        var rows = judged.Plan;
        if (judged.Row(request.Row) is not { } row)
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
        ImmutableArray<TesterRow> read =
        [
            .. from reading in outcome.Readings
            let match = rows.FirstOrDefault(r => r.Key == row.Key with { On = row.Key.On with { Part = reading.Part } })
            where match is not null
            select new TesterRow(match.Id, reading.Value),
        ];
        var kept = new Observation
        {
            Id = Guid.CreateVersion7(),
            JobId = loaded.Job.Id,
            DeviceId = deviceId,
            Row = request.Row,
            Source = row.Check.ReadFrom == ReadFrom.Switch ? ReadingSource.Switch : ReadingSource.Tester,
            Serial = outcome.Serial ?? "",
            RawJson = outcome.Raw,
            ValuesJson = System.Text.Json.JsonSerializer.Serialize(read.ToDictionary(r => r.Row, r => r.Value), Core.CoreJson.Options),
            At = time.GetUtcNow(),
        };
        await service.Keep(kept);
        var instrument = InstrumentOf(facts, kept);
        return TypedResults.Ok(
            new TesterAnswer(
                kept.Id,
                kept.Source,
                kept.Serial,
                instrument,
                facts.Instruments.FirstOrDefault(i => i.Id == instrument)?.Name,
                read
            )
        );
    }

    private static Task<SavedOr> AddAct(Guid deviceId, ActRequest request, CardService service, CancellationToken cancel) =>
        Append(
            service,
            deviceId,
            "act",
            request,
            async entering =>
            {
                var facts = entering.Facts;
                if (entering.Catalogue.Acts.FirstOrDefault(a => a.Id == request.Kind) is not { } act)
                    return Refuse("problem.unknown-act", "kind");
                if (TooLong(request.Text))
                    return Refuse("problem.text-too-long", "text");
                if (act.On == SubjectKind.Run && facts.Runs.All(r => r.Id != request.RunId))
                    return Refuse("problem.which-run", "runId");
                if (act.AsksEnd && request.End is null)
                    return Refuse("problem.which-end", "end");
                if (act.NotWhileUpdating && entering.Card.Hold is { } hold)
                    return LedgerAddition.Refuse(hold, "kind");
                var serial = request.NewSerial?.Trim();
                if (act.NewUnit && (string.IsNullOrEmpty(serial) || serial.Length > 60))
                    return Refuse("problem.which-serial", "newSerial");
                if (act.NewUnit && Labels.Same(serial, facts.Unit?.Serial))
                    return Refuse("problem.same-serial", "newSerial");
                if (request.FaultId is { } fault && facts.Faults.All(f => f.Id != fault))
                    return Refuse("problem.unknown-fault", "faultId");
                var addition = Add(
                    new Act
                    {
                        Id = request.Id,
                        By = request.By,
                        At = entering.At,
                        Sequence = entering.Sequence,
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
                return act.NewUnit ? await service.SwapUnit(addition, facts, serial!, entering.At) : addition;
            },
            cancel
        );

    /// <summary>A named person's word on the reading that counts: by eye where nothing judges it, or why an unexpected one is
    /// right.</summary>
    private static Task<SavedOr> AddRuling(Guid deviceId, RulingRequest request, CardService service, CancellationToken cancel) =>
        Append(
            service,
            deviceId,
            "ruling",
            request,
            entering =>
            {
                if (entering.Row(request.Row) is not { } planned)
                    return Refuse("problem.unknown-row", "row");
                if (Blank(request.Reason))
                    return Refuse("problem.reason-missing", "reason");
                if (Blank(request.RuledBy) || request.RuledBy.Length > 120)
                    return Refuse("problem.who-judges", "ruledBy");
                var row = entering.Card.Rows.First(r => r.Key == planned.Key);
                if (row.Counts is not { } of)
                    return Refuse("problem.nothing-to-judge", "row");
                if (request.Says == RulingSays.Explained ? row.Unexpected.IsEmpty : !row.IsForTheEye)
                    return Refuse(request.Says == RulingSays.Explained ? "problem.nothing-to-explain" : "problem.judged-by-rule", "says");
                return Add(
                    new Ruling
                    {
                        Id = request.Id,
                        By = request.By,
                        At = entering.At,
                        Sequence = entering.Sequence,
                        Key = planned.Key,
                        Of = of,
                        Says = request.Says,
                        RuledBy = request.RuledBy.Trim(),
                        Reason = request.Reason.Trim(),
                    }
                );
            },
            cancel
        );

    /// <summary>Ends a Fault with a word, where nothing on the Card says any more that something is wrong.</summary>
    private static Task<SavedOr> EndFault(
        Guid deviceId,
        Guid faultId,
        FaultEndRequest request,
        CardService service,
        CancellationToken cancel
    ) =>
        Append(
            service,
            deviceId,
            "fault-end",
            request,
            entering =>
            {
                if (entering.Card.Faults.FirstOrDefault(f => f.Fault.Id == faultId) is not { } fault)
                    return Refuse("problem.unknown-fault", "faultId");
                if (Blank(request.Reason))
                    return Refuse("problem.reason-missing", "reason");
                if (!fault.Open)
                    return Refuse("problem.fault-ended", "faultId");
                if (!fault.MayEnd)
                    return Refuse("problem.fault-still-out", "faultId");
                return Add(
                    new FaultEnd
                    {
                        Id = request.Id,
                        By = request.By,
                        At = entering.At,
                        Sequence = entering.Sequence,
                        FaultId = faultId,
                        Reason = request.Reason.Trim(),
                    }
                );
            },
            cancel
        );

    private static Task<SavedOr> Withdraw(Guid deviceId, WithdrawalRequest request, CardService service) =>
        Append(
            service,
            deviceId,
            "withdrawal",
            request,
            entering =>
            {
                var facts = entering.Facts;
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
                        At = entering.At,
                        Sequence = entering.Sequence,
                        Of = request.Of,
                        Reason = request.Reason.Trim(),
                    }
                );
            }
        );

    private static Task<SavedOr> Exempt(Guid deviceId, ExemptionRequest request, CardService service) =>
        Append(
            service,
            deviceId,
            "exemption",
            request,
            entering =>
            {
                if (entering.Row(request.Row) is not { } row)
                    return Refuse("problem.unknown-row", "row");
                if (Blank(request.Reason))
                    return Refuse("problem.reason-missing", "reason");
                return Add(
                    new Exemption
                    {
                        Id = request.Id,
                        By = request.By,
                        At = entering.At,
                        Sequence = entering.Sequence,
                        Key = row.Key,
                        Reason = request.Reason.Trim(),
                    }
                );
            }
        );

    private static Task<SavedOr> Concede(Guid deviceId, ConcessionRequest request, CardService service) =>
        Append(
            service,
            deviceId,
            "concession",
            request,
            entering =>
            {
                var facts = entering.Facts;
                if (entering.Row(request.Row) is not { } row)
                    return Refuse("problem.unknown-row", "row");
                if (Blank(request.Reason))
                    return Refuse("problem.reason-missing", "reason");
                if (Blank(request.AllowedBy) || request.AllowedBy.Length > 120)
                    return Refuse("problem.who-allows", "allowedBy");
                if (request.Until is { } until && until < facts.DayOf(facts.Now))
                    return Refuse("problem.until-past", "until");
                if (!entering.Card.Rows.First(r => r.Key == row.Key).IsFailing)
                    return Refuse("problem.nothing-to-concede", "row");
                return Add(
                    new Concession
                    {
                        Id = request.Id,
                        By = request.By,
                        At = entering.At,
                        Sequence = entering.Sequence,
                        Key = row.Key,
                        AllowedBy = request.AllowedBy.Trim(),
                        Reason = request.Reason.Trim(),
                        Until = request.Until,
                    }
                );
            }
        );

    private static Task<SavedOr> AddBlock(Guid deviceId, BlockRequest request, CardService service) =>
        Append(
            service,
            deviceId,
            "block",
            request,
            entering =>
            {
                if (Blank(request.Reason))
                    return Refuse("problem.reason-missing", "reason");
                if (!request.SetAside && (Blank(request.BlockedBy) || request.BlockedBy!.Length > 120))
                    return Refuse("mark.blocked-by", "blockedBy");
                if (entering.Card.Blocked is not null)
                    return Refuse("mark.blocked-already", "reason");
                return Add(
                    new Block
                    {
                        Id = request.Id,
                        By = request.By,
                        At = entering.At,
                        Sequence = entering.Sequence,
                        BlockedBy = request.BlockedBy?.Trim() ?? "",
                        Reason = request.Reason.Trim(),
                        Until = request.Until,
                        SetAside = request.SetAside,
                    }
                );
            }
        );

    private static Task<SavedOr> EndBlock(Guid deviceId, BlockEndRequest request, CardService service) =>
        Append(
            service,
            deviceId,
            "block-end",
            request,
            entering =>
                entering.Card.Blocked?.Id != request.Of
                    ? Refuse("mark.not-blocked", "of")
                    : Add(
                        new BlockEnd
                        {
                            Id = request.Id,
                            By = request.By,
                            At = entering.At,
                            Sequence = entering.Sequence,
                            Of = request.Of,
                        }
                    )
        );

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

    private static Task<SavedOr> AddNote(Guid deviceId, NoteRequest request, CardService service) =>
        Append(
            service,
            deviceId,
            "note",
            request,
            entering =>
            {
                var row = request.Row is null ? null : entering.Row(request.Row);
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
                        At = entering.At,
                        Sequence = entering.Sequence,
                        Key = row?.Key,
                        Text = request.Text.Trim(),
                    }
                );
            }
        );

    private static Task<SavedOr> RaiseFault(Guid deviceId, FaultRequest request, CardService service) =>
        Append(
            service,
            deviceId,
            "fault",
            request,
            entering =>
            {
                if (entering.Row(request.Row) is not { } row)
                    return Refuse("problem.unknown-row", "row");
                if (string.IsNullOrWhiteSpace(request.Title) || request.Title.Length > 200)
                    return Refuse("problem.fault-title", "title");
                if (request.CauseId is { } cause && entering.Catalogue.Causes.All(c => c.Id != cause))
                    return Refuse("problem.unknown-cause", "causeId");
                var card = entering.Card;
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
                        entering.At,
                        entering.Sequence
                    )
                );
            }
        );

    private static Task<SavedOr> AddFaultStep(Guid deviceId, Guid faultId, FaultStepRequest request, CardService service) =>
        Append(
            service,
            deviceId,
            "fault-step",
            request,
            entering =>
            {
                var facts = entering.Facts;
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
                        At = entering.At,
                        Sequence = entering.Sequence,
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

    private static Task<SavedOr> Append<T>(
        CardService service,
        Guid deviceId,
        string kind,
        T request,
        Func<Entering, LedgerAddition> add,
        CancellationToken cancel = default
    )
        where T : class, IEntry => Append(service, deviceId, kind, request, entering => Task.FromResult(add(entering)), cancel);

    private static async Task<SavedOr> Append<T>(
        CardService service,
        Guid deviceId,
        string kind,
        T request,
        Func<Entering, Task<LedgerAddition>> add,
        CancellationToken cancel = default
    )
        where T : class, IEntry
    {
        var (answer, result) = await service.Append(deviceId, kind, request, add, cancel);
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
