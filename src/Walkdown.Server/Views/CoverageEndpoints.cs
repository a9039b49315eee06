using System.Collections.Immutable;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Measures;
using Walkdown.Core.Optics;
using Walkdown.Core.People;
using Walkdown.Server.Door;
using Walkdown.Server.Shared;
using Walkdown.Storage;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Views;

/// <summary>What a site's views see of its ground together.</summary>
/// <param name="Ground">As it was drawn.</param>
/// <param name="Version">Of the drawing: whoever changes it says which one he changes.</param>
/// <param name="Coverage">What is seen of it.</param>
/// <param name="LeftOut">Heads that are in none of it, with what they lack.</param>
public sealed record CoverageAnswer(SiteGround Ground, string Version, SiteCoverage Coverage, ImmutableArray<UnplacedView> LeftOut);

/// <summary>Ground and walls as they are to be.</summary>
/// <param name="Ground">All of it.</param>
/// <param name="Was">The version that was changed: what somebody else drew meanwhile is not lost by it.</param>
public sealed record GroundRequest(SiteGround Ground, string Was);

/// <summary>What the views of a whole site cover: ground that nobody sees, targets under their task.</summary>
public static class CoverageEndpoints
{
    public static void MapCoverage(this RouteGroupBuilder api)
    {
        var coverage = api.MapGroup("/jobs/{jobId:guid}/coverage").WithTags("Views");
        coverage.MapGet("", Get).WithName("getCoverage");
        coverage.MapPut("/ground", Put).WithName("putGround").Needs(Right.Plan);
    }

    private static async Task<Results<Ok<CoverageAnswer>, ProblemHttpResult>> Get(
        Guid jobId,
        Ledger ledger,
        CatalogueStore catalogue,
        CancellationToken cancel,
        string? edition = null
    )
    {
        if (!AddressWord.TryRead(edition, DetailEdition.Edition2014, out var levels))
            return Problems.Of(400, new Message("problem.unreadable", "edition"), "edition");
        await using var db = ledger.OpenDb();
        return await db.Jobs.FirstOrDefaultAsync(j => j.Id == jobId, cancel) is { } job
            ? TypedResults.Ok(await Answer(db, job, levels, catalogue.Catalogue, cancel))
            : Problems.Of(404, "problem.unknown-job");
    }

    private static async Task<Results<Ok<CoverageAnswer>, ProblemHttpResult>> Put(
        Guid jobId,
        GroundRequest request,
        Ledger ledger,
        CatalogueStore catalogue,
        CancellationToken cancel,
        string? edition = null
    )
    {
        if (!AddressWord.TryRead(edition, DetailEdition.Edition2014, out var levels))
            return Problems.Of(400, new Message("problem.unreadable", "edition"), "edition");
        var ground = request.Ground;
        if (ground.Refuse() is var (why, field))
            return Problems.Of(422, why, field);
        var (isThere, isOvertaken) = await ledger.Change(
            jobId,
            "ground",
            async (db, _) =>
            {
                if (await db.Jobs.AsTracking().FirstOrDefaultAsync(j => j.Id == jobId) is not { } job)
                    return ((false, false), false);
                if (KeptGround.VersionOf(job) != request.Was)
                    return ((true, true), false);
                var before = job.GroundJson;
                KeptGround.Keep(job, ground);
                return ((true, false), before != job.GroundJson);
            }
        );
        if (!isThere)
            return Problems.Of(404, "problem.unknown-job");
        if (isOvertaken)
            return Problems.Of(409, "ground.overtaken");
        await using var db = ledger.OpenDb();
        var kept = await db.Jobs.FirstAsync(j => j.Id == jobId, cancel);
        return TypedResults.Ok(await Answer(db, kept, levels, catalogue.Catalogue, cancel));
    }

    private static async Task<CoverageAnswer> Answer(
        WalkdownDb db,
        Job job,
        DetailEdition edition,
        Catalogue catalogue,
        CancellationToken cancel
    )
    {
        var ground = KeptGround.Of(job);
        var (views, leftOut) = HangingHead.Sorted(await KeptGround.HeadsOf(db, job.Id, catalogue, cancel));
        var coverage = await Task.Run(() => SiteCoverage.Of(ground, views, edition, cancel), cancel);
        return new(ground, KeptGround.VersionOf(job), coverage, leftOut);
    }
}
