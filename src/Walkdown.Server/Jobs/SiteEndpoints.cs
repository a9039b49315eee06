using System.Collections.Immutable;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Clocks;
using Walkdown.Core.Measures;
using Walkdown.Core.People;
using Walkdown.Server.Door;
using Walkdown.Server.Shared;
using Walkdown.Storage;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Jobs;

/// <summary>Where a site is, when it is dark there, and what is there that rows wait for.</summary>
/// <param name="LatitudeDeg">Null: nobody has said where the site is.</param>
/// <param name="ByZone">Whose sunset is taken then; null where somebody has said it, or the zone has no place.</param>
/// <param name="DarkFrom">When it is, or was, dark enough; null where nobody can say.</param>
/// <param name="DarkUntil">Until when.</param>
/// <param name="Presences">What rows can wait for, each with its span where one was said.</param>
public sealed record SiteAnswer(
    double? LatitudeDeg,
    double? LongitudeDeg,
    string? ByZone,
    DateTimeOffset? DarkFrom,
    DateTimeOffset? DarkUntil,
    ImmutableArray<PresenceLine> Presences
);

/// <param name="Stay">Since when or from when on it is there; null: nobody has said it.</param>
public sealed record PresenceLine(string Id, Stay? Stay);

/// <summary>Where the site is; null takes it back.</summary>
public sealed record PlaceRequest(double? LatitudeDeg, double? LongitudeDeg);

/// <summary>Something is there, will be, or is not.</summary>
/// <param name="Presence">Which.</param>
/// <param name="From">Null: it is not there.</param>
/// <param name="Until">Null: nobody knows.</param>
/// <param name="FromWall">From, by the clock on the site's wall, where no moment is given.</param>
/// <param name="UntilWall">Until, likewise.</param>
public sealed record PresenceRequest(
    string Presence,
    DateTimeOffset? From = null,
    DateTimeOffset? Until = null,
    DateTime? FromWall = null,
    DateTime? UntilWall = null
);

/// <summary>The site of a job: its place on earth for the dark, and what has to be there before some rows can be taken.</summary>
public static class SiteEndpoints
{
    public static void MapSite(this RouteGroupBuilder api)
    {
        var site = api.MapGroup("/jobs/{jobId:guid}/site").WithTags("Jobs");
        site.MapGet("", Get).WithName("getSite");
        site.MapPut("/place", Put).WithName("putPlace").Needs(Right.Plan);
        site.MapPost("/presences", Say).WithName("sayPresence").Needs(Right.Work);
    }

    private static async Task<Results<Ok<SiteAnswer>, ProblemHttpResult>> Get(
        Guid jobId,
        Ledger ledger,
        CatalogueStore catalogue,
        TimeProvider time
    )
    {
        await using var db = ledger.OpenDb();
        return await db.Jobs.FirstOrDefaultAsync(j => j.Id == jobId) is { } job
            ? TypedResults.Ok(Answer(job, catalogue, time.GetUtcNow()))
            : Problems.Of(404, "problem.unknown-job");
    }

    private static async Task<Results<Ok<SiteAnswer>, ProblemHttpResult>> Put(
        Guid jobId,
        PlaceRequest request,
        Ledger ledger,
        CatalogueStore catalogue,
        TimeProvider time
    ) =>
        !SiteFacts.IsPlace(request.LatitudeDeg, request.LongitudeDeg)
            ? Refused("problem.site-place", "latitudeDeg")
            : await Change(
                jobId,
                ledger,
                catalogue,
                time,
                site => site with { LatitudeDeg = request.LatitudeDeg, LongitudeDeg = request.LongitudeDeg }
            );

    private static async Task<Results<Ok<SiteAnswer>, ProblemHttpResult>> Say(
        Guid jobId,
        PresenceRequest asked,
        Ledger ledger,
        CatalogueStore catalogue,
        TimeProvider time
    )
    {
        var now = time.GetUtcNow();
        await using var db = ledger.OpenDb();
        if (await db.Jobs.FirstOrDefaultAsync(j => j.Id == jobId) is not { } job)
            return Problems.Of(404, "problem.unknown-job");
        DateTimeOffset? At(DateTimeOffset? moment, DateTime? wall) =>
            moment ?? (wall is { } clock && clock.Year is > 1 and < 9998 ? SiteTime.FromWall(job.TimeZone, clock) : null);
        if (asked.Presence is null || catalogue.Catalogue.Presences.All(p => p.Id != asked.Presence))
            return Refused("problem.unknown-presence", "presence");
        var (from, until) = (At(asked.From, asked.FromWall), At(asked.Until, asked.UntilWall));
        if (from is null && until is not null)
            return Refused("problem.presence-ends", "until");
        var stay = from is { } begins ? new Stay(begins, until) : null;
        if (stay?.Refuse(now) is var (why, field))
            return Problems.Of(422, why, field);
        return await Change(
            jobId,
            ledger,
            catalogue,
            time,
            site =>
                site with
                {
                    Presences = stay is null ? site.Presences.Remove(asked.Presence) : site.Presences.SetItem(asked.Presence, stay),
                }
        );
    }

    private static ProblemHttpResult Refused(string code, string field) => Problems.Of(422, new Message(code), field);

    /// <summary>What waited for it is judged anew before anybody sees it: the summaries carry what they were judged by.</summary>
    private static async Task<Results<Ok<SiteAnswer>, ProblemHttpResult>> Change(
        Guid jobId,
        Ledger ledger,
        CatalogueStore catalogue,
        TimeProvider time,
        Func<SiteFacts, SiteFacts> change
    )
    {
        var job = await ledger.Change(
            jobId,
            "site",
            async (db, _) =>
            {
                if (await db.Jobs.AsTracking().FirstOrDefaultAsync(j => j.Id == jobId) is not { } there)
                    return (null, false);
                var (before, after) = (KeptSite.Of(there), change(KeptSite.Of(there)));
                KeptSite.Keep(there, after);
                return ((Job?)there, before != after);
            }
        );
        return job is null ? Problems.Of(404, "problem.unknown-job") : TypedResults.Ok(Answer(job, catalogue, time.GetUtcNow()));
    }

    private static SiteAnswer Answer(Job job, CatalogueStore catalogue, DateTimeOffset now)
    {
        var site = KeptSite.Of(job);
        var night = site.NightAt(job.TimeZone, now, catalogue.Catalogue.Figure("wait.dusk"));
        return new(
            site.LatitudeDeg,
            site.LongitudeDeg,
            site.Where(job.TimeZone)?.ByZone,
            night?.From,
            night?.Until,
            [.. catalogue.Catalogue.Presences.Select(p => new PresenceLine(p.Id, site.Presences.GetValueOrDefault(p.Id)))]
        );
    }
}
