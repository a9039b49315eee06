using System.Collections.Immutable;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core.Measures;
using Walkdown.Server.Shared;
using Walkdown.Storage;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Kit;

public sealed record KitPerson(Guid Id, string Name, string Role);

/// <param name="Calibration">On today's date.</param>
public sealed record KitInstrument(Guid Id, string Name, string Serial, ImmutableDictionary<Core.Measures.Unit, Accuracy> Accuracy, DateOnly? CalibrationDue, CalibrationStatus Calibration);

public sealed record KitAnswer(ImmutableArray<KitPerson> People, ImmutableArray<KitInstrument> Instruments);

public sealed record NewPersonRequest(Guid Id, string Name, string Role);

/// <summary>People and instruments of a job.</summary>
public static class KitEndpoints
{
    public static void MapKit(this RouteGroupBuilder api)
    {
        var kit = api.MapGroup("/jobs/{jobId:guid}").WithTags("Kit");
        kit.MapGet("/kit", async (Guid jobId, Ledger ledger, TimeProvider time) =>
        {
            await using var db = ledger.OpenDb();
            var today = DateOnly.FromDateTime(time.GetUtcNow().UtcDateTime);
            var instruments = (await db.Instruments.Where(i => i.JobId == jobId).OrderBy(i => i.Name).ToListAsync()).Select(CardFactsLoader.ToCore);
            return TypedResults.Ok(new KitAnswer(
                [.. await db.People.Where(p => p.JobId == jobId).OrderBy(p => p.Name).Select(p => new KitPerson(p.Id, p.Name, p.Role)).ToListAsync()],
                [.. instruments.Select(i => new KitInstrument(i.Id, i.Name, i.Serial, i.AccuracyByUnit, i.CalibrationDue, Calibration.On(today, i.CalibratedOn, i.CalibrationDue).Status))]));
        }).WithName("getKit");
        kit.MapPost("/people", async Task<Results<Ok<KitPerson>, ProblemHttpResult>> (Guid jobId, NewPersonRequest request, Ledger ledger) =>
        {
            if (request.Id == Guid.Empty) return Problems.Of(422, "problem.no-id");
            if (string.IsNullOrWhiteSpace(request.Name) || request.Name.Length > 80 || request.Role is null || request.Role.Length > 80) return Problems.Of(422, "problem.person-name");
            await using (var db = ledger.OpenDb())
                if (!await db.Jobs.AnyAsync(j => j.Id == jobId)) return Problems.Of(404, "problem.unknown-job");
            var person = await ledger.Change(jobId, "person-added", async db =>
            {
                if (await db.People.FirstOrDefaultAsync(p => p.Id == request.Id) is { } there) return (there, false);
                var added = new Person { Id = request.Id, JobId = jobId, Name = request.Name.Trim(), Role = request.Role.Trim() };
                db.Add(added);
                return (added, true);
            });
            return person.JobId == jobId && person.Name == request.Name.Trim() ? TypedResults.Ok(new KitPerson(person.Id, person.Name, person.Role)) : Problems.Of(409, "problem.same-id-other-body");
        }).WithName("addPerson");
    }
}
