using System.Collections.Concurrent;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Walkdown.Access;
using Walkdown.Core.Measures;
using Walkdown.Core.People;
using Walkdown.Server.Shared;
using Walkdown.Storage;

namespace Walkdown.Server.Door;

/// <summary>Settings of the door.</summary>
/// <param name="IsDemo">The made-up site: the one at this machine never needs to sign in.</param>
public sealed record GateSettings(bool IsDemo);

/// <summary>
/// Before every address of the interface: who asks, whether he may, and whether the job is one of his. By <see cref="Rights"/>, and by
/// nothing else.
/// </summary>
public sealed class Gate(GateSettings settings, AccessBook book, Ledger ledger)
{
    private readonly ConcurrentDictionary<Guid, Guid> _jobOf = new();

    /// <summary>Whether the one at this machine may go on without signing in: in the demo, and until somebody was let in.</summary>
    public bool IsOwnersAlone(HttpContext http) => Caller.IsHere(http) && (settings.IsDemo || !book.Any);

    public static void Use(WebApplication app) =>
        app.Use(
            async (http, next) =>
            {
                if (!http.Request.Path.StartsWithSegments("/api"))
                {
                    await next(http);
                    return;
                }
                if (await app.Services.GetRequiredService<Gate>().Refuse(http) is { } refused)
                    await refused.ExecuteAsync(http);
                else
                    await next(http);
            }
        );

    /// <summary>Why somebody is not let through; null where he is.</summary>
    private async Task<ProblemHttpResult?> Refuse(HttpContext http)
    {
        var caller = Who(http);
        if (caller is not null)
            http.Features.Set(caller);
        var endpoint = http.GetEndpoint();
        if (endpoint?.Metadata.GetMetadata<OpenToAll>() is not null)
            return null;
        if (caller is null)
            return Problems.Of(401, "problem.not-signed-in");
        // What is no address of ours answers by itself that it is none: nothing here, another method, another kind of body.
        if (endpoint is not RouteEndpoint || endpoint.Metadata.GetMetadata<FallbackMetadata>() is not null)
            return null;
        if (endpoint.RightOf(http.Request.Method) is not { } right)
            return Problems.Of(403, "problem.no-right-named");
        if (!caller.May(right))
            return Problems.Of(
                403,
                new Message(
                    "problem.not-allowed",
                    ["@right." + right, string.Join(", ", Rights.Who(right).Select(r => r.ToString().ToLowerInvariant()))]
                )
            );
        return caller.IsOwner || await JobOf(http) is not { } job || caller.Sees(job)
            ? null
            // As for one that is not there: who is not of it does not learn that it is.
            : Problems.Of(404, http.GetRouteValue("deviceId") is null ? "problem.unknown-job" : "problem.unknown-card");
    }

    private Caller? Who(HttpContext http) =>
        Cookies.Session(http) is { } key && book.Who(key) is var (account, session, ended) ? new Caller(account, session, ended)
        : IsOwnersAlone(http) ? Caller.Owner
        : null;

    /// <summary>Of which job an address is; null where it is of none.</summary>
    private async ValueTask<Guid?> JobOf(HttpContext http)
    {
        if (http.GetRouteValue("jobId") is { } job)
            return Guid.TryParse(job.ToString(), out var id) ? id : Guid.Empty;
        if (http.GetRouteValue("deviceId") is not { } device || !Guid.TryParse(device.ToString(), out var deviceId))
            return null;
        if (_jobOf.TryGetValue(deviceId, out var known))
            return known;
        await using var db = ledger.OpenDb();
        var of = await db.Devices.Where(d => d.Id == deviceId).Select(d => (Guid?)d.JobId).FirstOrDefaultAsync();
        // A device never changes its job.
        if (of is { } found)
            _jobOf[deviceId] = found;
        return of;
    }
}

/// <summary>Of the address that takes what nobody else takes.</summary>
public sealed record FallbackMetadata;
