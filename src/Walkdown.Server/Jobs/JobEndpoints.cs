using System.Net.ServerSentEvents;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Walkdown.Access;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;
using Walkdown.Core.People;
using Walkdown.Server.Backups;
using Walkdown.Server.Door;
using Walkdown.Server.Shared;
using Walkdown.Storage;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Jobs;

/// <param name="Damaged">Cells of the register's tables that cannot be read as they lie on the disk, of whichever job.</param>
/// <param name="SetAside">Why it could not be judged at the start; null for any that could.</param>
public sealed record JobLine(
    Guid Id,
    string Name,
    string TimeZone,
    bool Simulated,
    string? SetAside = null,
    IReadOnlyList<string>? Damaged = null
)
{
    /// <summary>Parts of the work that the job covers, where it does not cover all of it; empty: it does.</summary>
    public IReadOnlyList<Core.Acceptance.Section> Covers { get; init; } = [];

    /// <summary>Kinds of device that differ from it.</summary>
    public int KindsApart { get; init; }

    internal static JobLine Of(Job job, string? setAside = null, IReadOnlyList<string>? damaged = null)
    {
        var scope = KeptPractice.Of(job).Scope;
        return new(job.Id, job.Name, job.TimeZone, job.Simulated, setAside, damaged)
        {
            Covers = scope.IsWhole ? [] : scope.Parts,
            KindsApart = scope.ByKind.Count,
        };
    }
}

public sealed record NewJobRequest(
    Guid Id,
    string Name,
    string TimeZone,
    Core.Measures.DecisionRule Rule,
    Core.Cabling.WiringScheme Scheme
);

public sealed record JobChange(string Name, string TimeZone);

/// <summary>Jobs, their schedule and their live stream.</summary>
public static class JobEndpoints
{
    public static void MapJobs(this RouteGroupBuilder api)
    {
        var jobs = api.MapGroup("/jobs").WithTags("Jobs");
        jobs.MapGet(
                "",
                async (Ledger ledger, SetAside aside, DataFolder folder, HttpContext http) =>
                {
                    await using var db = ledger.OpenDb();
                    var before = await RegisterDamage.Of(db);
                    string[] damaged =
                    [
                        .. folder.IsDamaged ? ["walkdown.db"] : Array.Empty<string>(),
                        .. (await RegisterDamage.All(db)).Select(c => c.ToString()).Distinct().Order(),
                    ];
                    // What was read of such a row before it was noticed is in nobody's memory any longer.
                    if (!ReferenceEquals(before, await RegisterDamage.Of(db)) && damaged.Length + before.Count > 0)
                        await ledger.Distrust();
                    return TypedResults.Ok(
                        (await db.Jobs.AsNoTracking().OrderBy(j => j.CreatedAt).ToListAsync())
                            .Where(j => Caller.Of(http)!.Sees(j.Id))
                            .Select(j => JobLine.Of(j, aside.Why(j.Id), damaged.Length > 0 ? damaged : null))
                            .ToList()
                    );
                }
            )
            .WithName("getJobs");
        jobs.MapPost("", Create).WithName("addJob").Needs(Right.Plan);
        jobs.MapPut("/{jobId:guid}", Change).WithName("changeJob").Needs(Right.Plan);
        jobs.MapGet(
                "/{jobId:guid}/live",
                async (Guid jobId, HttpRequest request, Ledger ledger, LiveStream live, CancellationToken cancel) =>
                    !await ImportEndpoints.Exists(ledger, jobId)
                        ? (IResult)Problems.Of(404, "problem.unknown-job")
                        : TypedResults.ServerSentEvents(
                            live.Listen(
                                jobId,
                                long.TryParse(request.Headers["Last-Event-ID"], out var after) ? after : null,
                                // Who is signed out hears nothing more.
                                CancellationTokenSource.CreateLinkedTokenSource(cancel, Caller.Of(request.HttpContext)!.Ended).Token
                            )
                        )
            )
            .ExcludeFromDescription();
    }

    /// <summary>Another name, or another time zone. What was sealed keeps the name that it was sealed under.</summary>
    private static async Task<Results<Ok<JobLine>, ProblemHttpResult>> Change(Guid jobId, JobChange request, Ledger ledger)
    {
        if (Refuse(request.Name, request.TimeZone) is { } bad)
            return bad;
        var job = await ledger.Change(
            jobId,
            "job",
            async (db, _) =>
            {
                if (await db.Jobs.AsTracking().FirstOrDefaultAsync(j => j.Id == jobId) is not { } there)
                    return (null, false);
                var changed = (there.Name, there.TimeZone) != (request.Name.Trim(), request.TimeZone);
                (there.Name, there.TimeZone) = (request.Name.Trim(), request.TimeZone);
                return ((Job?)there, changed);
            }
        );
        return job is null ? Problems.Of(404, "problem.unknown-job") : TypedResults.Ok(JobLine.Of(job));
    }

    private static ProblemHttpResult? Refuse(string? name, string? timeZone) =>
        string.IsNullOrWhiteSpace(name) || name.Length > 120 ? Problems.Of(422, new Message("problem.job-name"), "name")
        : NodaTime.DateTimeZoneProviders.Tzdb.GetZoneOrNull(timeZone ?? "") is null
            ? Problems.Of(422, new Message("problem.time-zone", timeZone is { Length: < 60 } z ? z : ""), "timeZone")
        : null;

    private static async Task<Results<Ok<JobLine>, ProblemHttpResult>> Create(
        NewJobRequest request,
        Ledger ledger,
        TimeProvider time,
        HttpContext http,
        Admission door
    )
    {
        if (request.Id == Guid.Empty)
            return Problems.Of(422, "problem.no-id");
        if (Refuse(request.Name, request.TimeZone) is { } bad)
            return bad;
        // Who begins a job is one of its people: nobody else could record anything in it.
        var beginner = Caller.Of(http)?.Account;
        var person = Guid.CreateVersion7();
        var isNew = false;
        var job = await ledger.Change(
            request.Id,
            "job-added",
            async (db, _) =>
            {
                if (await db.Jobs.FirstOrDefaultAsync(j => j.Id == request.Id) is { } there)
                    return (there, false);
                var added = new Job
                {
                    Id = request.Id,
                    Name = request.Name.Trim(),
                    TimeZone = request.TimeZone!,
                    Rule = request.Rule,
                    Scheme = request.Scheme,
                    CreatedAt = time.GetUtcNow(),
                };
                // A job that begins covers all of the work until somebody says otherwise.
                KeptPractice.Keep(added, KeptPractice.Of(added) with { Scope = WorkScope.Whole });
                db.Add(added);
                if (beginner is not null)
                    db.Add(
                        new Person
                        {
                            Id = person,
                            JobId = request.Id,
                            Name = beginner.Name,
                            Role = "",
                        }
                    );
                isNew = true;
                return (added, true);
            }
        );
        if (job.Name != request.Name.Trim() || job.TimeZone != request.TimeZone)
            return Problems.Of(409, "problem.same-id-other-body");
        if (isNew && beginner is not null)
            await door.Join(beginner.Id, new PersonOf(request.Id, person));
        return TypedResults.Ok(JobLine.Of(job));
    }
}
