using System.Security.Cryptography;
using System.Text.Json;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Walkdown.Server.Door;
using Walkdown.Server.Shared;
using Walkdown.Server.Walk;
using Walkdown.Storage;

namespace Walkdown.Server.Backups;

/// <summary>Where a running server can be found by the command line on the same machine; readable by its owner only.</summary>
internal sealed record RunningServer(int Port, string Token, int ProcessId)
{
    private static string PathOf(DataFolder data) => Path.Combine(data.Root, "server.json");

    public static RunningServer Announce(DataFolder data, int port)
    {
        var server = new RunningServer(port, Convert.ToHexString(RandomNumberGenerator.GetBytes(24)), Environment.ProcessId);
        var path = PathOf(data);
        // Without it the command line cannot restore beside this server; everything else can do without.
        try
        {
            return Write(server, path);
        }
        catch (IOException)
        {
            return server;
        }
    }

    private static RunningServer Write(RunningServer server, string path)
    {
        File.Delete(path);
        var options = new FileStreamOptions { Mode = FileMode.CreateNew, Access = FileAccess.Write };
        if (!OperatingSystem.IsWindows())
            options.UnixCreateMode = UnixFileMode.UserRead | UnixFileMode.UserWrite;
        using (var file = new FileStream(path, options))
            JsonSerializer.Serialize(file, server);
        return server;
    }

    public static void Gone(DataFolder data) => File.Delete(PathOf(data));

    public static RunningServer? Find(DataFolder data)
    {
        try
        {
            return
                File.Exists(PathOf(data))
                && JsonSerializer.Deserialize<RunningServer>(File.ReadAllText(PathOf(data))) is { } s
                && System.Diagnostics.Process.GetProcesses().Any(p => p.Id == s.ProcessId)
                ? s
                : null;
        }
        catch (Exception problem) when (problem is JsonException or IOException)
        {
            return null;
        }
    }
}

/// <summary><c>backup FILE</c> and <c>restore FILE</c>, beside a running server or without one.</summary>
internal static class BackupCommands
{
    public static async Task<int> Run(string[] args)
    {
        using var data = new DataFolder(Option(args, "--data") ?? Path.Combine(Directory.GetCurrentDirectory(), ".data"));
        var file = args.Length > 1 && !args[1].StartsWith("--", StringComparison.Ordinal) ? Path.GetFullPath(args[1]) : null;
        if (file is null)
            return Say($"Say which file: {args[0]} FILE");
        try
        {
            if (args[0] == "backup")
            {
                var made = await Backup.Write(data, file, DateTimeOffset.UtcNow);
                Console.WriteLine($"Backed up to {file}: {new FileInfo(file).Length / 1024} KB, {made.Files.Count} files.");
                return 0;
            }
            if (!File.Exists(file))
                return Say($"There is no file {file}.");
            string? kept;
            if (Held(data))
            {
                if (RunningServer.Find(data) is not { } server)
                    return Say(
                        $"The data folder {data.Root} is in use by another Walkdown, and how to reach that is not known. Stop it first."
                    );
                using var http = new HttpClient { Timeout = TimeSpan.FromMinutes(10) };
                using var request = new HttpRequestMessage(HttpMethod.Post, $"http://localhost:{server.Port}/api/restore")
                {
                    Content = JsonContent.Create(new RestoreRequest(file)),
                };
                request.Headers.Add("X-Walkdown-Token", server.Token);
                using var response = await http.SendAsync(request);
                var answer = JsonDocument.Parse(await response.Content.ReadAsStringAsync()).RootElement;
                if (!response.IsSuccessStatusCode)
                    return Say(answer.GetProperty("detail").GetString()!);
                kept = answer.GetProperty("kept").GetString();
            }
            else
            {
                kept = await Backup.Restore(data, file, DateTimeOffset.UtcNow);
            }
            Console.WriteLine($"Restored from {file}." + (kept is null ? "" : $" What was there before is in {kept}."));
            return 0;
        }
        catch (BackupException problem)
        {
            return Say(problem.Message);
        }
        catch (Exception full) when (Problems.MessageOf(full).Code == "problem.disk-full")
        {
            return Say("The disk is full. Nothing was changed; make room, then try again.");
        }
        catch (SqliteException problem)
        {
            return Say($"The database cannot be used: {problem.Message}");
        }
        catch (Exception problem) when (problem is IOException or UnauthorizedAccessException or HttpRequestException)
        {
            return Say($"{problem.Message} Nothing was changed.");
        }
    }

    /// <summary>Whether a server is at work on the folder; where none is, it is ours until this command has ended.</summary>
    private static bool Held(DataFolder data)
    {
        try
        {
            data.Take();
            return false;
        }
        catch (DataFolderException)
        {
            return true;
        }
    }

    private static string? Option(string[] args, string name) =>
        Array.IndexOf(args, name) is var at && at >= 0 && at + 1 < args.Length ? args[at + 1] : null;

    private static int Say(string problem)
    {
        Console.Error.WriteLine(problem);
        return 1;
    }
}

internal sealed record RestoreRequest(string File);

internal sealed record RestoreAnswer(string? Kept);

internal static class RestoreEndpoint
{
    /// <summary>For the command line of the same machine and owner only: it needs the token that lies in the data folder.</summary>
    public static void MapRestore(this RouteGroupBuilder api) =>
        api.MapPost(
                "/restore",
                async (
                    RestoreRequest request,
                    HttpContext http,
                    DataFolder data,
                    Ledger ledger,
                    WalkBoards boards,
                    CatalogueStore catalogue,
                    TimeProvider time
                ) =>
                {
                    var token = RunningServer.Find(data)?.Token;
                    if (
                        token is null
                        || !CryptographicOperations.FixedTimeEquals(
                            System.Text.Encoding.UTF8.GetBytes(http.Request.Headers["X-Walkdown-Token"].ToString()),
                            System.Text.Encoding.UTF8.GetBytes(token)
                        )
                    )
                        return (IResult)Problems.Of(403, "problem.restore-token");
                    try
                    {
                        var kept = await ledger.Quiet(async () =>
                        {
                            ledger.Forget();
                            SqliteConnection.ClearAllPools();
                            var before = await Backup.Restore(data, request.File, time.GetUtcNow());
                            ledger.Forget();
                            SqliteConnection.ClearAllPools();
                            return before;
                        });
                        data.Open();
                        boards.ForgetAll();
                        catalogue.LookAgain();
                        return TypedResults.Json(new RestoreAnswer(kept));
                    }
                    catch (BackupException problem)
                    {
                        return Problems.Of(422, new Core.Measures.Message("problem.as-said", problem.Message));
                    }
                }
            )
            .ToAll()
            // Its own key, which lies in the data folder, opens it.
            .ExcludeFromDescription();

    /// <summary>What a start has to put right: Cards without a summary, an own catalogue that was kept but not yet written, and a picture
    /// that is not yet erased everywhere.</summary>
    public static async Task Settle(IServiceProvider services)
    {
        var ledger = services.GetRequiredService<Ledger>();
        var catalogue = services.GetRequiredService<CatalogueStore>();
        var log = services.GetRequiredService<ILogger<Ledger>>();
        var aside = services.GetRequiredService<SetAside>();
        RegisterDamage.Forget(services.GetRequiredService<DataFolder>().DatabaseFile);
        if (services.GetRequiredService<DataFolder>().ReadOnly)
            return;
        await Try(
            "the company's catalogue",
            async () =>
            {
                await using var db = ledger.OpenDb();
                if (
                    await db.Editions.Where(e => e.Of == "own").OrderByDescending(e => e.Version).FirstOrDefaultAsync() is { } newest
                    && (catalogue.Own().Edition is not { } there || there < newest.Version)
                )
                    catalogue.Keep(newest.Json);
            }
        );
        List<Guid> jobs = [];
        await Try(
            "the list of jobs",
            async () =>
            {
                await using var db = ledger.OpenDb();
                jobs = await db.Jobs.Select(j => j.Id).ToListAsync();
            }
        );
        // One job that cannot be judged is set aside and named; the others open as ever.
        foreach (var job in jobs)
            await Try($"job {job}", () => ledger.Refresh(job, catalogue.Catalogue), problem => aside.Put(job, problem));
        await Try("erasures", () => services.GetRequiredService<Handover.PackErasure>().FinishErasures());

        async Task Try(string what, Func<Task> step, Action<Exception>? failed = null)
        {
            try
            {
                await step();
            }
            catch (Exception problem) when (problem is not OutOfMemoryException)
            {
                log.LogError(problem, "At the start, {What} could not be put right; everything else goes on", what);
                failed?.Invoke(problem);
            }
        }
    }
}

/// <summary>Jobs that could not be judged at the start, with why: they are named, and nothing else suffers.</summary>
public sealed class SetAside
{
    private readonly System.Collections.Concurrent.ConcurrentDictionary<Guid, string> _jobs = new();

    public void Put(Guid job, Exception problem) => _jobs[job] = problem.GetType().Name;

    public string? Why(Guid job) => _jobs.GetValueOrDefault(job);
}
