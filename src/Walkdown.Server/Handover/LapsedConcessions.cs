using Microsoft.EntityFrameworkCore;
using Walkdown.Core.Acceptance;
using Walkdown.Server.Shared;
using Walkdown.Storage;

namespace Walkdown.Server.Handover;

/// <summary>A concession that was given for a time ends with its day, without anybody writing anything: once an hour Cards with one that has ended are judged anew.</summary>
public sealed class LapsedConcessions(Ledger ledger, CatalogueStore catalogue, TimeProvider time, ILogger<LapsedConcessions> log)
    : BackgroundService
{
    private readonly HashSet<Guid> _told = [];

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using var timer = new PeriodicTimer(TimeSpan.FromHours(1), time);
        do
        {
            try
            {
                await Look();
            }
            catch (Exception problem) when (problem is not OperationCanceledException)
            {
                // The next hour looks again.
                log.LogError(problem, "Looking for concessions that ended");
            }
        } while (await timer.WaitForNextTickAsync(stoppingToken));
    }

    private async Task Look()
    {
        var now = time.GetUtcNow();
        await using var db = ledger.OpenDb();
        var timed = await db
            .CardEvents.Where(e => e.BodyJson.Contains("\"until\":\"") && e.BodyJson.Contains("\"concession\""))
            .ToListAsync();
        var places = timed.Select(e => e.DeviceId).Distinct().ToList();
        var zones = await db
            .Devices.Where(d => places.Contains(d.Id))
            .Join(db.Jobs, d => d.JobId, j => j.Id, (d, j) => new { d.Id, j.TimeZone })
            .ToDictionaryAsync(d => d.Id, d => d.TimeZone);
        var ended = timed
            .Where(e =>
                e.ToCore() is Concession { Until: { } until }
                && zones.TryGetValue(e.DeviceId, out var zone)
                && until < DateOnly.FromDateTime(SiteTime.In(zone, now).DateTime)
                && _told.Add(e.Id)
            )
            .Select(e => e.DeviceId)
            .Distinct()
            .ToList();
        if (ended.Count == 0)
            return;
        foreach (
            var job in await db
                .Devices.Where(d => ended.Contains(d.Id))
                .Select(d => new { d.Id, d.JobId })
                .GroupBy(d => d.JobId)
                .Select(g => new { g.Key, Ids = g.Select(d => d.Id).ToList() })
                .ToListAsync()
        )
            await ledger.Rejudge(job.Key, job.Ids, catalogue.Catalogue);
    }
}
