using System.Collections.Immutable;
using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Walking;
using Walkdown.Server.Shared;
using Walkdown.Storage;

namespace Walkdown.Server.Walk;

/// <summary>One Stop of the StopLine.</summary>
/// <param name="Signs">What it waits for: ladder, lift, dark.</param>
public sealed record WalkStop(
    Guid Id, string Label, string Name, string Area, string Kind, Verdict Verdict, ImmutableArray<LegSummary> Legs, int Taken, int Total, int OpenFaults,
    double? X, double? Y, ImmutableArray<string> Signs);

public sealed record WalkArea(string Name, ImmutableArray<WalkStop> Stops);

public sealed record WalkCabinet(string Label, string Name, double? X, double? Y);

public sealed record WalkAnswer(
    Guid JobId, string JobName, string TimeZone, bool Simulated, ImmutableArray<WalkArea> Areas, ImmutableArray<WalkCabinet> Cabinets, NextStop? Next,
    ImmutableDictionary<string, int> Verdicts, long Sequence);

/// <summary>The round of one job, from the cached summaries.</summary>
public sealed class WalkService(Ledger ledger, CatalogueStore catalogue)
{
    public async Task<WalkAnswer?> Walk(Guid jobId)
    {
        await using var db = ledger.OpenDb();
        if (await db.Jobs.FirstOrDefaultAsync(j => j.Id == jobId) is not { } job) return null;
        var order = await Order(db, jobId);
        var devices = await db.Devices.Include(d => d.Area).Where(d => d.JobId == jobId).ToDictionaryAsync(d => d.Id);
        var cards = await db.Cards.Where(c => c.JobId == jobId).ToDictionaryAsync(c => c.DeviceId);
        var verdicts = cards.ToDictionary(c => c.Key, c => c.Value.Verdict);
        var last = cards.Values.Where(c => c.LastSequence > 0).MaxBy(c => c.LastSequence);
        var areas = order.Select(stop => devices[stop.Id]).GroupBy(d => d.Area.Name).Select(area => new WalkArea(area.Key, [.. area.Select(d =>
        {
            var card = cards.GetValueOrDefault(d.Id);
            var features = catalogue.Catalogue.FeaturesOf(d.Kind, [.. d.Features.Split(' ', StringSplitOptions.RemoveEmptyEntries)]);
            ImmutableArray<string> signs = d.Reach == "ground" ? [] : [d.Reach];
            return new WalkStop(d.Id, d.Label, d.Name, area.Key, d.Kind, card?.Verdict ?? Verdict.Open,
                card is null ? [] : JsonSerializer.Deserialize<ImmutableArray<LegSummary>>(card.LegsJson, CoreJson.Options), card?.Taken ?? 0, card?.Total ?? 0, card?.OpenFaults ?? 0,
                d.X, d.Y, (card?.Verdict ?? Verdict.Open) == Verdict.Open ? signs : []);
        })]));
        return new WalkAnswer(job.Id, job.Name, job.TimeZone, job.Simulated, [.. areas],
            [.. await db.Cabinets.Where(c => c.JobId == jobId).OrderBy(c => c.Label).Select(c => new WalkCabinet(c.Label, c.Name, c.X, c.Y)).ToListAsync()],
            Round.Next(order, verdicts, last?.DeviceId),
            Enum.GetValues<Verdict>().ToImmutableDictionary(v => Core.Measures.Codes.Of(v), v => order.Count(s => verdicts.GetValueOrDefault(s.Id, Verdict.Open) == v)),
            cards.Values.Select(c => c.LastSequence).DefaultIfEmpty(0).Max());
    }

    public async Task<ImmutableArray<RoundStop>> Order(WalkdownDb db, Guid jobId)
    {
        var devices = await db.Devices.Where(d => d.JobId == jobId).Select(d => new { d.Id, d.Label, d.Kind, d.Area.Order, d.X, d.Y }).ToListAsync();
        return Round.Order(devices.Select(d => new RoundStop(d.Id, d.Label, d.Order, catalogue.Catalogue.FeaturesOf(d.Kind, []).Contains("recorder"), d.X, d.Y)));
    }
}

public static class WalkEndpoints
{
    public static void MapWalk(this RouteGroupBuilder api) =>
        api.MapGet("/jobs/{jobId:guid}/walk", async Task<Results<Ok<WalkAnswer>, ProblemHttpResult>> (Guid jobId, WalkService service) =>
            await service.Walk(jobId) is { } walk ? TypedResults.Ok(walk) : Problems.Of(404, "problem.unknown-job")).WithTags("Walk").WithName("getWalk");
}
