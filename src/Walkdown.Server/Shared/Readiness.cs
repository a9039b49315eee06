using Microsoft.EntityFrameworkCore;
using Walkdown.Server.Backups;
using Walkdown.Server.Demo;
using Walkdown.Server.Walk;
using Walkdown.Storage;

namespace Walkdown.Server.Shared;

/// <summary>
/// The start, once the server listens: pages are given out at once, questions about the record wait until what a start puts right is right.
/// </summary>
public sealed class Readiness(ILogger<Readiness> log)
{
    private readonly TaskCompletionSource _ready = new(TaskCreationOptions.RunContinuationsAsynchronously);

    /// <summary>Done once the record may be asked.</summary>
    public Task Ready => _ready.Task;

    /// <param name="demo">Folder of the demo to be loaded; null for none.</param>
    /// <param name="worked">Days that were worked in it; null: nobody has begun.</param>
    /// <param name="standIns">The simulated world of the demo.</param>
    public void Begin(WebApplication app, string? demo, string? worked = null, Uri? standIns = null) =>
        _ = Task.Run(async () =>
        {
            try
            {
                // Read beside the first questions to the record.
                _ = Task.Run(() => app.Services.GetRequiredService<CatalogueStore>().Current);
                await RestoreEndpoint.Settle(app.Services);
                if (demo is not null)
                    await app.Services.GetRequiredService<DemoJob>().Load(demo);
                if (demo is not null && !string.IsNullOrEmpty(worked))
                    await app.Services.GetRequiredService<DemoDays>().Work(worked, standIns);
                _ready.TrySetResult();
                await Warm(app.Services);
            }
            catch (Exception problem)
            {
                // The record is whole; what could not be loaded is named, and whoever started it sees that it does not run.
                log.LogCritical(problem, "The start could not be ended");
                Console.Error.WriteLine($"Walkdown could not be started: {problem.Message}");
                Environment.ExitCode = 1;
                _ready.TrySetException(problem);
                app.Lifetime.StopApplication();
            }
        });

    /// <summary>What the first who comes would wait for, and a look through the file that nobody waits for.</summary>
    private async Task Warm(IServiceProvider services)
    {
        try
        {
            var ledger = services.GetRequiredService<Ledger>();
            var folder = services.GetRequiredService<DataFolder>();
            if (!folder.ReadOnly)
                _ = services.GetRequiredService<KeyFile>().Key;
            List<Guid> jobs;
            await using (var db = ledger.OpenDb())
                jobs = await db.Jobs.OrderByDescending(j => j.CreatedAt).Select(j => j.Id).Take(3).ToListAsync();
            foreach (var job in jobs)
                await services.GetRequiredService<WalkBoards>().Of(job);
            if (await folder.LookThrough() is false)
                log.LogError("The database {File} is damaged: restore the newest backup", folder.DatabaseFile);
        }
        catch (Exception problem) when (problem is not OutOfMemoryException)
        {
            log.LogError(problem, "Nothing was made ready beforehand; everything is made ready when it is asked for");
        }
    }
}

/// <summary>Who asks before the start is ended.</summary>
public static class ReadinessGate
{
    public static void UseReadiness(this WebApplication app)
    {
        var readiness = app.Services.GetRequiredService<Readiness>();
        app.Use(
            async (http, next) =>
            {
                if (http.Request.Path == "/healthz")
                {
                    var catalogue = app.Services.GetRequiredService<CatalogueStore>();
                    http.Response.ContentType = "application/json";
                    await http.Response.WriteAsync(
                        !readiness.Ready.IsCompletedSuccessfully ? """{"ready":false,"catalogue":"not read yet"}"""
                        : catalogue.Current.Problems.Length == 0 ? """{"ready":true,"catalogue":"whole"}"""
                        : """{"ready":true,"catalogue":"a file was refused"}"""
                    );
                    return;
                }
                if (!readiness.Ready.IsCompleted && http.Request.Path.StartsWithSegments("/api"))
                    await readiness.Ready.WaitAsync(http.RequestAborted);
                await next(http);
            }
        );
        // Said outright, so that what stands above is asked before the routes are made ready.
        app.UseRouting();
    }
}
