using System.Collections.Immutable;
using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Clocks;
using Walkdown.Core.Measures;
using Walkdown.Core.People;
using Walkdown.Server.Door;
using Walkdown.Server.Jobs;
using Walkdown.Server.Practice;
using Walkdown.Server.Shared;
using Walkdown.Server.Work;
using Walkdown.Storage;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Kit;

public sealed record KitPerson(Guid Id, string Name, string Role, bool MayWitness, bool Left);

/// <summary>A reading of a known reference, judged.</summary>
/// <param name="In">Null where the instrument has no accuracy for it.</param>
public sealed record KitCheck(
    Guid Id,
    Core.Measures.Unit Unit,
    double Reference,
    double Reading,
    double? HalfWidth,
    bool? In,
    Guid By,
    DateTimeOffset At
);

/// <param name="Calibration">On today's date.</param>
/// <param name="InDoubt">Units whose last reference check was out.</param>
/// <param name="Reads">Checks that can be read with it.</param>
public sealed record KitInstrument(
    Guid Id,
    string Name,
    string Serial,
    string Kind,
    string Certificate,
    ImmutableArray<InstrumentFunction> Functions,
    DateOnly? CalibratedOn,
    DateOnly? CalibrationDue,
    CalibrationStatus Calibration,
    int? DaysLeft,
    bool Retired,
    ImmutableArray<CalibrationPeriod> Earlier,
    ImmutableArray<KitCheck> Checks,
    ImmutableArray<Core.Measures.Unit> InDoubt,
    ImmutableArray<CheckId> Reads
);

public sealed record KitAnswer(
    ImmutableArray<KitPerson> People,
    ImmutableArray<KitInstrument> Instruments,
    ImmutableArray<InstrumentKind> Kinds
);

public sealed record NewPersonRequest(Guid Id, string Name, string Role, bool MayWitness = false);

public sealed record PersonChange(string Name, string Role, bool MayWitness, bool Left);

/// <summary>An instrument, or what is changed of it.</summary>
/// <param name="Calibration">Asked for where the dates of one that is on record become others.</param>
/// <param name="Why">Why they were corrected; kept as an edition with who.</param>
public sealed record InstrumentRequest(
    Guid Id,
    string Name,
    string Serial,
    string Kind,
    string Certificate,
    ImmutableArray<InstrumentFunction> Functions,
    DateOnly? CalibratedOn,
    DateOnly? CalibrationDue,
    bool Retired = false,
    CalibrationChange? Calibration = null,
    string? Why = null,
    Guid? By = null
) : Core.Entries.IAsked
{
    Guid Core.Entries.IAsked.By => By ?? Guid.Empty;
}

/// <summary>What other calibration dates are: a newer calibration, which leaves the one before standing for the readings of its time; or
/// the same one, that was typed wrongly.</summary>
public enum CalibrationChange
{
    Newer,
    Corrected,
}

public sealed record ReferenceCheckRequest(Guid Id, Core.Measures.Unit Unit, double Reference, double Reading, Guid By)
    : Core.Entries.IAsked;

/// <summary>People and instruments of a job.</summary>
public static class KitEndpoints
{
    public static void MapKit(this RouteGroupBuilder api)
    {
        var kit = api.MapGroup("/jobs/{jobId:guid}").WithTags("Kit");
        kit.MapGet(
                "/kit",
                async (Guid jobId, Ledger ledger, CatalogueStore catalogue, TimeProvider time) =>
                    TypedResults.Ok(await Answer(jobId, ledger, catalogue, time))
            )
            .WithName("getKit");
        kit.MapPost("/people", AddPerson).WithName("addPerson").Needs(Right.Equip);
        kit.MapPut("/people/{personId:guid}", ChangePerson).WithName("changePerson").Needs(Right.Equip);
        kit.MapPost("/instruments", KeepInstrument).WithName("keepInstrument").Needs(Right.Equip);
        kit.MapPost("/instruments/impact", TryInstrument).WithName("tryInstrument").Needs(Right.Equip);
        kit.MapPost("/instruments/{instrumentId:guid}/checks", AddCheck).WithName("addReferenceCheck").Needs(Right.Work);
    }

    private static async Task<KitAnswer> Answer(Guid jobId, Ledger ledger, CatalogueStore catalogue, TimeProvider time)
    {
        await using var db = ledger.OpenDb();
        var now = time.GetUtcNow();
        var zone = await db.Jobs.Where(j => j.Id == jobId).Select(j => j.TimeZone).FirstOrDefaultAsync() ?? "UTC";
        var checks = (await db.InstrumentChecks.Where(c => c.JobId == jobId).OrderBy(c => c.At).ToListAsync()).ToLookup(c =>
            c.InstrumentId
        );
        return new KitAnswer(
            [
                .. await db
                    .People.Where(p => p.JobId == jobId)
                    .OrderBy(p => p.Left)
                    .ThenBy(p => p.Name)
                    .Select(p => new KitPerson(p.Id, p.Name, p.Role, p.MayWitness, p.Left))
                    .ToListAsync(),
            ],
            [
                .. (await db.Instruments.Where(i => i.JobId == jobId).OrderBy(i => i.Retired).ThenBy(i => i.Name).ToListAsync()).Select(
                    record =>
                    {
                        var i = CardFactsLoader.ToCore(record, checks[record.Id]);
                        // One of the two days without the other is no calibration.
                        var state =
                            i.CalibratedOn is null != i.CalibrationDue is null
                                ? Calibration.On(SiteTime.DayOf(zone, now), null, null)
                                : Calibration.On(SiteTime.DayOf(zone, now), i.CalibratedOn, i.CalibrationDue);
                        return new KitInstrument(
                            i.Id,
                            i.Name,
                            i.Serial,
                            record.Kind,
                            record.Certificate,
                            i.Functions,
                            i.CalibratedOn,
                            i.CalibrationDue,
                            state.Status,
                            state.DaysLeft,
                            record.Retired,
                            i.Earlier,
                            [
                                .. checks[i.Id]
                                    .Where(c => !Damaged.Is(c.Unit))
                                    .Select(c => new KitCheck(
                                        c.Id,
                                        c.Unit,
                                        c.Reference,
                                        c.Reading,
                                        i.AccuracyAt(c.Unit, c.Reading)?.HalfWidthAt(c.Reading),
                                        i.IsIn(new FieldCheck(c.Unit, c.Reference, c.Reading, c.At)),
                                        c.By,
                                        c.At
                                    )),
                            ],
                            i.Unreadable
                                ? [.. i.Functions.Select(f => f.Unit).Distinct()]
                                : [.. i.Checks.Select(c => c.Unit).Distinct().Where(u => i.InDoubt(u, now))],
                            [.. catalogue.Catalogue.Checks.Where(c => catalogue.Catalogue.IsReadWith(c, i)).Select(c => c.Id)]
                        );
                    }
                ),
            ],
            catalogue.Catalogue.InstrumentKinds
        );
    }

    private static async Task<Results<Ok<KitPerson>, ProblemHttpResult>> AddPerson(Guid jobId, NewPersonRequest request, Ledger ledger)
    {
        if (request.Id == Guid.Empty)
            return Problems.Of(422, "problem.no-id");
        if (BadName(request.Name, request.Role))
            return Problems.Of(422, "problem.person-name");
        if (!await ImportEndpoints.Exists(ledger, jobId))
            return Problems.Of(404, "problem.unknown-job");
        var person = await ledger.Change(
            jobId,
            "person-added",
            async (db, _) =>
            {
                if (await db.People.FirstOrDefaultAsync(p => p.Id == request.Id) is { } there)
                    return (there, false);
                var added = new Person
                {
                    Id = request.Id,
                    JobId = jobId,
                    Name = request.Name.Trim(),
                    Role = request.Role.Trim(),
                    MayWitness = request.MayWitness,
                };
                db.Add(added);
                return (added, true);
            }
        );
        return person.JobId == jobId && person.Name == request.Name.Trim()
            ? TypedResults.Ok(Shown(person))
            : Problems.Of(409, "problem.same-id-other-body");
    }

    private static async Task<Results<Ok<KitPerson>, ProblemHttpResult>> ChangePerson(
        Guid jobId,
        Guid personId,
        PersonChange request,
        Ledger ledger,
        TimeProvider time
    )
    {
        if (BadName(request.Name, request.Role))
            return Problems.Of(422, "problem.person-name");
        var now = time.GetUtcNow();
        var person = await ledger.Change(
            jobId,
            "person-added",
            async (db, _) =>
            {
                if (await db.People.AsTracking().FirstOrDefaultAsync(p => p.Id == personId && p.JobId == jobId) is not { } there)
                    return (null, false);
                there.LeftAt = request.Left ? there.LeftAt ?? now : null;
                (there.Name, there.Role, there.MayWitness, there.Left) = (
                    request.Name.Trim(),
                    request.Role.Trim(),
                    request.MayWitness,
                    request.Left
                );
                return ((Person?)there, true);
            }
        );
        return person is null ? Problems.Of(404, "kit.unknown-person") : TypedResults.Ok(Shown(person));
    }

    /// <summary>What is wrong with an instrument whatever is on record; null where nothing is.</summary>
    private static ProblemHttpResult? Malformed(InstrumentRequest request)
    {
        if (request.Id == Guid.Empty)
            return Problems.Of(422, "problem.no-id");
        if (
            string.IsNullOrWhiteSpace(request.Name)
            || request.Name.Length > 80
            || string.IsNullOrWhiteSpace(request.Serial)
            || request.Serial.Length > 60
            || request.Kind.Length > 60
            || request.Certificate.Length > 80
        )
            return Problems.Of(422, "kit.name");
        if (
            request.CalibratedOn is { } from && request.CalibrationDue is { } due && due < from
            || request.CalibratedOn is not null != request.CalibrationDue is not null
        )
            return Problems.Of(422, "kit.dates", "calibrationDue");
        if (request.Functions.Length > 60)
            return Problems.Of(422, "kit.functions");
        if (request.Functions.IsDefault || Instrument.BadFunction(request.Functions) is not null)
            return Problems.Of(422, new Message("kit.functions"), "functions");
        if (request.Why?.Length > 400)
            return Problems.Of(422, new Message("problem.text-too-long"), "why");
        return null;
    }

    /// <summary>What it would do to the job's Cards, before it is kept.</summary>
    private static async Task<Results<Ok<WorkAnswer>, ProblemHttpResult>> TryInstrument(
        Guid jobId,
        InstrumentRequest request,
        Ledger ledger,
        PracticeService practice,
        WorkQueue work,
        TimeProvider time
    )
    {
        if (Malformed(request) is { } bad)
            return bad;
        if (!await ImportEndpoints.Exists(ledger, jobId))
            return Problems.Of(404, "problem.unknown-job");
        await using var db = ledger.OpenDb();
        var record = await db.Instruments.AsNoTracking().FirstOrDefaultAsync(i => i.Id == request.Id && i.JobId == jobId);
        var changed = record ?? NewInstrument(jobId, request.Id);
        if (InstrumentChanges.Apply(changed, request, time.GetUtcNow()) is { } refused)
            return Problems.Of(422, refused.Why, refused.Field);
        var checks = await db.InstrumentChecks.Where(c => c.InstrumentId == request.Id).OrderBy(c => c.At).ToListAsync();
        var instrument = CardFactsLoader.ToCore(changed, checks);
        return TypedResults.Ok(
            work.Start(
                "impact",
                async (progress, cancel) =>
                    await practice.ImpactOf(jobId, null, facts => ChangeImpact.Under(facts, instrument), progress, cancel)
            )
        );
    }

    private static InstrumentRecord NewInstrument(Guid jobId, Guid id) =>
        new()
        {
            Id = id,
            JobId = jobId,
            Name = "",
            Serial = "",
            AccuracyJson = "[]",
        };

    /// <summary>Adds an instrument or changes it. A new calibration leaves the one before it standing for the readings of its
    /// time.</summary>
    private static async Task<Results<Ok<KitAnswer>, ProblemHttpResult>> KeepInstrument(
        Guid jobId,
        InstrumentRequest request,
        Ledger ledger,
        CatalogueStore catalogue,
        TimeProvider time
    )
    {
        if (Malformed(request) is { } bad)
            return bad;
        if (!await ImportEndpoints.Exists(ledger, jobId))
            return Problems.Of(404, "problem.unknown-job");
        var now = time.GetUtcNow();
        Message? refused = null;
        string? field = null;
        var (known, rejudge) = await ledger.Change(
            jobId,
            "kit",
            async (db, _) =>
            {
                if (request.By is { } by && await Writers.Refuse(db, jobId, by, now) is { } stranger)
                {
                    (refused, field) = (stranger, "by");
                    return ((true, false), false);
                }
                if (await db.Instruments.AsTracking().FirstOrDefaultAsync(i => i.Id == request.Id) is not { } there)
                {
                    there = NewInstrument(jobId, request.Id);
                    db.Add(there);
                }
                else if (there.JobId != jobId)
                    return ((false, false), false);
                var (began, ended, certificate) = (there.CalibratedOn, there.CalibrationDue, there.Certificate);
                if (InstrumentChanges.Apply(there, request, now) is { } not)
                {
                    (refused, field) = not;
                    return ((true, false), false);
                }
                if (InstrumentChanges.IsOther(began, ended, request))
                {
                    var of = "instrument:" + there.Id;
                    db.Add(
                        new Edition
                        {
                            Id = Guid.CreateVersion7(),
                            Of = of,
                            Version = (await db.Editions.Where(e => e.Of == of).MaxAsync(e => (int?)e.Version) ?? 0) + 1,
                            At = now,
                            Json = JsonSerializer.Serialize(
                                new
                                {
                                    calibratedOn = began,
                                    calibrationDue = ended,
                                    certificate,
                                },
                                CoreJson.Options
                            ),
                            Why = (
                                (request.Calibration == CalibrationChange.Newer ? "newer: " : "corrected: ") + (request.Why?.Trim() ?? "")
                            ).TrimEnd(' ', ':'),
                            By =
                                await db.People.Where(p => p.Id == request.By && p.JobId == jobId).Select(p => p.Name).FirstOrDefaultAsync()
                                ?? "",
                        }
                    );
                }
                var reads = await db.Readings.AnyAsync(r => r.InstrumentId == request.Id);
                if (reads)
                    await Ledger.Unjudge(db, jobId);
                return ((true, reads), true);
            }
        );
        if (refused is not null)
            return Problems.Of(422, refused, field);
        if (!known)
            return Problems.Of(409, "problem.same-id-other-body");
        if (rejudge)
            await ledger.AfterChange(jobId, null, catalogue.Catalogue);
        return TypedResults.Ok(await Answer(jobId, ledger, catalogue, time));
    }

    /// <summary>A reference check that is out puts the readings in doubt back to the last that was in: their Cards are judged
    /// anew.</summary>
    private static async Task<Results<Ok<KitAnswer>, ProblemHttpResult>> AddCheck(
        Guid jobId,
        Guid instrumentId,
        ReferenceCheckRequest request,
        Ledger ledger,
        CatalogueStore catalogue,
        TimeProvider time
    )
    {
        if (request.Id == Guid.Empty)
            return Problems.Of(422, "problem.no-id");
        if (!double.IsFinite(request.Reference) || !double.IsFinite(request.Reading) || Math.Abs(request.Reading) > 1e6)
            return Problems.Of(422, "kit.check-number");
        var outcome = await ledger.Change(
            jobId,
            "kit",
            async (db, _) =>
            {
                if (await db.InstrumentChecks.AnyAsync(c => c.Id == request.Id))
                    return ("", false);
                if (await db.Instruments.FirstOrDefaultAsync(i => i.Id == instrumentId && i.JobId == jobId) is not { } instrument)
                    return ("problem.unknown-instrument", false);
                if (await Writers.Refuse(db, jobId, request.By, time.GetUtcNow()) is { } stranger)
                    return (stranger.Code, false);
                if (CardFactsLoader.ToCore(instrument, []).AccuracyAt(request.Unit, request.Reading) is null)
                    return ("kit.no-accuracy", false);
                db.Add(
                    new InstrumentCheck
                    {
                        Id = request.Id,
                        JobId = jobId,
                        InstrumentId = instrumentId,
                        Unit = request.Unit,
                        Reference = request.Reference,
                        Reading = request.Reading,
                        By = request.By,
                        At = time.GetUtcNow(),
                    }
                );
                await Ledger.Unjudge(db, jobId);
                return ("", true);
            }
        );
        if (outcome.Length > 0)
            return Problems.Of(422, outcome);
        await ledger.AfterChange(jobId, null, catalogue.Catalogue);
        return TypedResults.Ok(await Answer(jobId, ledger, catalogue, time));
    }

    private static bool BadName(string? name, string? role) =>
        string.IsNullOrWhiteSpace(name) || name.Length > 80 || role is null || role.Length > 80;

    private static KitPerson Shown(Person p) => new(p.Id, p.Name, p.Role, p.MayWitness, p.Left);
}
