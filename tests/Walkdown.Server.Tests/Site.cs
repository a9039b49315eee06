using System.Collections.Concurrent;
using System.Diagnostics;
using System.Net.Http.Json;
using System.Text.Json;
using System.Text.Json.Nodes;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Mvc.Testing;
using Microsoft.Data.Sqlite;

namespace Walkdown.Server.Tests;

/// <summary>The real server on a real SQLite file with the demo site, and the simulated outside beside it; both on loopback.</summary>
public sealed class Site : IDisposable
{
    public static readonly string Root = FindRoot();
    private readonly Standing<StandInsProgram> _standIns;
    private readonly Standing<ServerProgram> _server;

    public Site()
        : this(Directory.CreateTempSubdirectory("walkdown-test-").FullName) { }

    /// <summary>On a folder that is there, such as one that a server was stopped on.</summary>
    /// <param name="days">Days that were worked there before, as a file of the demo's; null: nobody has begun.</param>
    /// <param name="field">What the ports of the simulated network are shifted by; 0: nobody can ask it.</param>
    private Site(string data, string? days = null, int field = 0)
    {
        Data = data;
        var demo = Path.Combine(Root, "demo");
        _standIns = new Standing<StandInsProgram>(("demo", demo), ("urls", "http://127.0.0.1:0"), ("field", $"{field}"));
        Outside = _standIns.Start();
        _server = new Standing<ServerProgram>(
            ("data", Data),
            ("demo", demo),
            ("stand-ins", Outside.BaseAddress!.ToString()),
            ("port", "0"),
            ("tester-patience", "10"),
            ("field", $"{field}"),
            ("listen", "0.6"),
            ("web", Path.Combine(Data, "none")),
            ("worked", days is null ? "" : Path.Combine(demo, days))
        );
        Http = _server.Start();
        // A shared machine takes its time over two days of work.
        Http.Timeout = TimeSpan.FromMinutes(5);
        JobId = Json(Http.GetStringAsync("/api/jobs").Result)[0]!["id"]!.ToString();
        var kit = Get($"/api/jobs/{JobId}/kit").Result;
        Ina = kit["people"]![0]!["id"]!.ToString();
        Instruments = kit["instruments"]!.AsArray().ToDictionary(i => i!["name"]!.ToString(), i => i!["id"]!.ToString());
        Stops = Get($"/api/jobs/{JobId}/walk").Result["areas"]!
            .AsArray()
            .SelectMany(a => a!["stops"]!.AsArray())
            .ToDictionary(s => s!["label"]!.ToString(), s => s!["id"]!.ToString());
    }

    public string Data { get; }
    public HttpClient Http { get; }
    public HttpClient Outside { get; }
    public string JobId { get; }
    public string Ina { get; }
    public Dictionary<string, string> Instruments { get; }
    public Dictionary<string, string> Stops { get; }

    public static Site On(string data) => new(data);

    private static int s_fields;

    /// <summary>With its cameras on the network, on ports of its own.</summary>
    public static Site WithField() =>
        new(Directory.CreateTempSubdirectory("walkdown-test-").FullName, field: 21_000 + Interlocked.Increment(ref s_fields) * 11);

    /// <summary>With the two days of the demo's crew behind it.</summary>
    public static Site AfterTwoDays(string data) => new(data, "two-days.json");

    /// <summary>What the server is made of.</summary>
    public IServiceProvider Services => _server.Services;

    public void Dispose()
    {
        Stop();
        try
        {
            Directory.Delete(Data, true);
        }
        catch (IOException)
        {
            // A request that was given up may end after the server did; the folder is one of the system's own for such things.
        }
    }

    /// <summary>Stops the server and leaves the folder as it is.</summary>
    public void Stop()
    {
        Http.Dispose();
        Outside.Dispose();
        _server.Dispose();
        _standIns.Dispose();
        SqliteConnection.ClearAllPools();
    }

    public static JsonNode Json(string text) => JsonNode.Parse(text)!;

    private readonly ConcurrentDictionary<string, Dictionary<string, JsonNode>> _definitions = new();

    /// <summary>What is answered; rows of a Card with what their checks say, as a page shows them.</summary>
    public async Task<JsonNode> Get(string path) => await Joined(Json(await Http.GetStringAsync(path)));

    private async Task<JsonNode> Joined(JsonNode answer)
    {
        if ((answer as JsonObject)?["definitions"]?.ToString() is not { } version)
            return answer;
        if (!_definitions.TryGetValue(version, out var checks))
        {
            var all = Json(await Http.GetStringAsync("/api/catalogue/definitions"));
            checks = _definitions[all["version"]!.ToString()] = all["checks"]!.AsArray().ToDictionary(c => c!["id"]!.ToString(), c => c!);
        }
        foreach (var row in answer["card"]!["rows"]!.AsArray())
            row!["check"] = checks[row["key"]!["check"]!.ToString()].DeepClone();
        return answer;
    }

    public Task<JsonNode> Card(string label) => Get($"/api/cards/{Stops[label]}");

    /// <summary>What is answered; of an entry that was kept, the Card after it.</summary>
    public async Task<(int Status, JsonNode Body)> Post(string path, object body)
    {
        var (status, answer) = await Send(path, body);
        return status == 200 && answer is JsonObject saved && saved.ContainsKey("whole") && saved.ContainsKey("changed")
            ? (status, await Get(string.Join('/', path.Split('/').Take(4))))
            : (status, answer);
    }

    /// <summary>What is answered, as it is.</summary>
    public async Task<(int Status, JsonNode Body)> Send(string path, object body)
    {
        using var response = await Http.PostAsJsonAsync(path, body);
        var answer = Json(await response.Content.ReadAsStringAsync());
        if ((answer as JsonObject)?["whole"] is JsonObject whole)
            await Joined(whole);
        return ((int)response.StatusCode, answer);
    }

    /// <summary>An entry with what every entry carries.</summary>
    public JsonObject Entry(object body, string? id = null)
    {
        var entry = JsonSerializer.SerializeToNode(body)!.AsObject();
        entry["id"] = id ?? Guid.CreateVersion7().ToString();
        entry["by"] = Ina;
        entry["takenAt"] = DateTimeOffset.UtcNow.ToString("O");
        entry["clockOffsetMs"] = 0;
        return entry;
    }

    public async Task<JsonNode> Add(string label, string what, object body)
    {
        var (status, answer) = await Post($"/api/cards/{Stops[label]}/{what}", Entry(body));
        Assert.True(status == 200, answer.ToJsonString());
        return answer;
    }

    /// <summary>Work once it is over, whichever way it ended.</summary>
    public async Task<JsonNode> Over(JsonNode work)
    {
        for (var since = Stopwatch.StartNew(); since.Elapsed < TimeSpan.FromMinutes(2) && work["state"]!.ToString() == "running"; )
            work = await Get($"/api/progress/{work["id"]}");
        return work;
    }

    public static JsonNode Row(JsonNode answer, string check, string part = "", string under = "any") =>
        answer["card"]!["rows"]!
            .AsArray()
            .Single(r =>
                r!["key"]!["check"]!.ToString() == check
                && r["key"]!["on"]!["part"]!.ToString() == part
                && r["key"]!["under"]!.ToString() == under
            )!;

    /// <summary>Reads everything that the tester reads, and says yes to the label.</summary>
    /// <param name="onlyRequired">What may be taken and need not be is left.</param>
    public async Task<JsonNode> ReadAll(string label, bool onlyRequired = false)
    {
        var done = new HashSet<string>();
        var answer = await Card(label);
        foreach (var row in answer["card"]!["rows"]!.AsArray())
        {
            var id = row!["id"]!.ToString();
            if (onlyRequired && !row["required"]!.GetValue<bool>())
                continue;
            // What is held, waits, or asks for a picture has tests of its own.
            if (row["heldBy"]!.AsArray().Count > 0 || row["wait"] is not null || row["check"]!["picture"]!.GetValue<bool>())
                continue;
            if (row["check"]!["entry"]!.ToString() == "yesNo")
                answer = await Add(
                    label,
                    "readings",
                    new
                    {
                        row = id,
                        source = "typed",
                        value = new { kind = "yesNo", yes = true },
                    }
                );
            if (row["check"]!["tester"] is null || !done.Add(id))
                continue;
            var (status, read) = await Post($"/api/cards/{Stops[label]}/tester", new { row = id });
            Assert.Equal(200, status);
            foreach (var one in read["rows"]!.AsArray())
            {
                done.Add(one!["row"]!.ToString());
                answer = await Add(
                    label,
                    "readings",
                    new
                    {
                        row = one["row"]!.ToString(),
                        source = "tester",
                        instrumentId = Instruments["Camera tester 1"],
                        observationId = read["observationId"]!.ToString(),
                    }
                );
            }
        }
        return answer;
    }

    /// <summary>An id as the database file holds it, for SQL.</summary>
    public static string Bytes(string id) => $"x'{Guid.Parse(id):N}'";

    /// <summary>One number out of the database file itself.</summary>
    public long Count(string sql)
    {
        using var connection = new SqliteConnection($"Data Source={Path.Combine(Data, "walkdown.db")}");
        connection.Open();
        using var command = connection.CreateCommand();
        command.CommandText = sql;
        return (long)command.ExecuteScalar()!;
    }

    private static string FindRoot()
    {
        var folder = AppContext.BaseDirectory;
        while (!File.Exists(Path.Combine(folder, "Walkdown.slnx")))
            folder = Path.GetDirectoryName(folder)!;
        return folder;
    }

    private sealed class Standing<T> : WebApplicationFactory<T>
        where T : class
    {
        private readonly (string Key, string Value)[] _settings;

        public Standing(params (string Key, string Value)[] settings)
        {
            _settings = settings;
            // Where it listens the program is told like anybody tells it: a port set from here comes too late for one that starts at once.
            UseKestrel();
        }

        protected override void ConfigureWebHost(IWebHostBuilder builder)
        {
            foreach (var (key, value) in _settings)
                builder.UseSetting(key, value);
        }

        public HttpClient Start()
        {
            StartServer();
            return CreateClient();
        }
    }
}
