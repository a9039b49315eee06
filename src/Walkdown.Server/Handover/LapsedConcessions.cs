using Microsoft.EntityFrameworkCore;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Clocks;
using Walkdown.Server.Shared;
using Walkdown.Storage;

namespace Walkdown.Server.Handover;

/// <summary>A concession that was given for a time ends with its day at the site, without anybody writing anything: Cards with one that has
/// ended are judged anew.</summary>
public sealed class ConcessionWatch(Ledger ledger, CatalogueStore catalogue, TimeProvider time) : IDisposable
{
    private readonly SemaphoreSlim _one = new(1, 1);
    private readonly HashSet<Guid> _told = [];

    public void Dispose() => _one.Dispose();

    /// <param name="onlyJob">One job only; null: all of them.</param>
    public async Task Look(Guid? onlyJob = null)
    {
        await _one.WaitAsync();
        try
        {
            var now = time.GetUtcNow();
            await using var db = ledger.OpenDb();
            var timed = await db
                .CardEvents.Where(e =>
                    e.BodyJson.Contains("\"until\":\"")
                    && e.BodyJson.Contains("\"concession\"")
                    && (onlyJob == null || db.Devices.Any(d => d.Id == e.DeviceId && d.JobId == onlyJob))
                )
                .ToListAsync();
            timed.RemoveAll(e => _told.Contains(e.Id));
            if (timed.Count == 0)
                return;
            var places = timed.Select(e => e.DeviceId).Distinct().ToList();
            var jobs = await db
                .Devices.Where(d => places.Contains(d.Id))
                .Join(
                    db.Jobs,
                    d => d.JobId,
                    j => j.Id,
                    (d, j) =>
                        new
                        {
                            d.Id,
                            d.JobId,
                            j.TimeZone,
                        }
                )
                .ToDictionaryAsync(d => d.Id);
            var ended = timed
                .Where(e =>
                    e.ToCore() is Concession { Until: { } until }
                    && jobs.TryGetValue(e.DeviceId, out var job)
                    && until < SiteTime.DayOf(job.TimeZone, now)
                )
                .ToList();
            foreach (var job in ended.GroupBy(e => jobs[e.DeviceId].JobId))
            {
                await ledger.Rejudge(job.Key, [.. job.Select(e => e.DeviceId).Distinct()], catalogue.Catalogue);
                // Only what was judged anew is done with: after a failure the next look finds it again.
                foreach (var e in job)
                    _told.Add(e.Id);
            }
        }
        finally
        {
            _one.Release();
        }
    }
}

/// <summary>Looks every five minutes; and whoever opens a handover looks before it is shown.</summary>
public sealed class LapsedConcessions(ConcessionWatch watch, TimeProvider time, ILogger<LapsedConcessions> log) : BackgroundService
{
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using var timer = new PeriodicTimer(TimeSpan.FromMinutes(5), time);
        do
        {
            try
            {
                await watch.Look();
            }
            catch (Exception problem) when (problem is not OperationCanceledException)
            {
                log.LogError(problem, "Looking for concessions that ended");
            }
        } while (await timer.WaitForNextTickAsync(stoppingToken));
    }
}
