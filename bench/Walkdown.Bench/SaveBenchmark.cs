using System.Diagnostics;
using System.Globalization;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Microsoft.Data.Sqlite;

namespace Walkdown.Bench;

/// <summary>
/// Saving a reading through HTTP, judged and durable, against a bare SQLite insert with synchronous=FULL on the same disk. Both are
/// measured in
/// turn in one run, so that the ratio holds when the machine's speed drifts. Requests are bounded and stop by themselves.
/// </summary>
internal static class SaveBenchmark
{
    public static async Task Run(Uri server)
    {
        using var http = new HttpClient { BaseAddress = server };
        async Task<JsonNode> Get(string path) => JsonNode.Parse(await http.GetStringAsync(path))!;
        var job = (await Get("/api/jobs"))[0]!["id"]!.ToString();
        var person = (await Get($"/api/jobs/{job}/kit"))["people"]![0]!["id"]!.ToString();
        // Rows that take a figure, and could read this one.
        const double Figure = 41.5;
        var figures = (await Get("/api/catalogue/definitions"))["checks"]!
            .AsArray()
            .Where(c => c!["entry"]!.ToString() == "number" && Within(c["plausible"]))
            .Select(c => c!["id"]!.ToString())
            .ToHashSet();
        static bool Within(JsonNode? range) =>
            !(range?["min"]?.GetValue<double>() > Figure) && !(range?["max"]?.GetValue<double>() < Figure);
        var rows = new List<(string Device, string Row)>();
        foreach (var stop in (await Get($"/api/jobs/{job}/walk"))["areas"]!.AsArray().SelectMany(a => a!["stops"]!.AsArray()))
        {
            var id = stop!["id"]!.ToString();
            foreach (
                var row in (await Get($"/api/cards/{id}"))["card"]!["rows"]!
                    .AsArray()
                    .Where(r => figures.Contains(r!["key"]!["check"]!.ToString()) && r["heldBy"]!.AsArray().Count == 0)
            )
                rows.Add((id, row!["id"]!.ToString()));
        }

        // Spread over all Cards, so that a row has a handful of attempts as on a real site.
        rows = [.. rows.Select((row, i) => (row, order: i * 7919L % rows.Count)).OrderBy(r => r.order).Select(r => r.row)];

        var bytes = new System.Collections.Concurrent.ConcurrentBag<int>();
        async Task<double> Save(int n)
        {
            var (device, row) = rows[n % rows.Count];
            var body = new
            {
                id = Guid.CreateVersion7(),
                row,
                text = Figure.ToString(CultureInfo.InvariantCulture),
                source = "typed",
                by = person,
                takenAt = DateTimeOffset.UtcNow,
                clockOffsetMs = 0,
            };
            var from = Stopwatch.GetTimestamp();
            using var response = await http.PostAsJsonAsync($"/api/cards/{device}/readings", body);
            await response.Content.ReadAsByteArrayAsync();
            if (!response.IsSuccessStatusCode)
                throw new InvalidOperationException($"{row}: {await response.Content.ReadAsStringAsync()}");
            bytes.Add((await response.Content.ReadAsByteArrayAsync()).Length);
            return Stopwatch.GetElapsedTime(from).TotalMilliseconds;
        }

        var file = Path.Combine(Path.GetTempPath(), $"walkdown-bare-{Environment.ProcessId}.db");
        using var bare = new SqliteConnection($"Data Source={file}");
        bare.Open();
        Execute("PRAGMA journal_mode=WAL; PRAGMA synchronous=FULL; CREATE TABLE R (Id TEXT PRIMARY KEY, Body TEXT, At INTEGER)");
        var insert = bare.CreateCommand();
        insert.CommandText = "INSERT INTO R VALUES ($id, $body, $at)";
        double Bare()
        {
            insert.Parameters.Clear();
            insert.Parameters.AddWithValue("$id", Guid.CreateVersion7().ToString());
            insert.Parameters.AddWithValue("$body", new string('x', 200));
            insert.Parameters.AddWithValue("$at", DateTimeOffset.UtcNow.ToUnixTimeMilliseconds());
            var from = Stopwatch.GetTimestamp();
            insert.ExecuteNonQuery();
            return Stopwatch.GetElapsedTime(from).TotalMilliseconds;
        }

        for (var n = 0; n < 200; n++)
            (await Save(n), Bare()).GetHashCode();
        List<double> saves = [],
            inserts = [];
        for (var n = 0; n < 600; n++)
        {
            inserts.Add(Bare());
            saves.Add(await Save(n));
        }
        Print("one client", saves, inserts);
        Console.WriteLine($"answer to a save: {bytes.Average() / 1024:F1} KB on average, {bytes.Max() / 1024.0:F1} KB at most");
        var bareRequests = new List<double>();
        for (var n = 0; n < 600; n++)
        {
            var from = Stopwatch.GetTimestamp();
            await http.GetByteArrayAsync("/api/time");
            bareRequests.Add(Stopwatch.GetElapsedTime(from).TotalMilliseconds);
        }
        bareRequests.Sort();
        Console.WriteLine($"a request that keeps nothing: median {bareRequests[300]:F2} ms, 99th {bareRequests[594]:F2} ms");
        saves.Clear();
        var clock = Stopwatch.StartNew();
        await Parallel.ForEachAsync(
            Enumerable.Range(0, 20),
            new ParallelOptions { MaxDegreeOfParallelism = 20 },
            async (client, _) =>
            {
                for (var n = 0; n < 50; n++)
                {
                    var took = await Save(client * 50 + n);
                    lock (saves)
                        saves.Add(took);
                }
            }
        );
        Print("20 clients", saves, inserts);
        Console.WriteLine($"20 clients: {saves.Count / clock.Elapsed.TotalSeconds:F0} readings a second");
        bare.Close();
        SqliteConnection.ClearAllPools();
        foreach (var suffix in new[] { "", "-wal", "-shm" })
            File.Delete(file + suffix);

        void Execute(string sql)
        {
            using var command = bare.CreateCommand();
            command.CommandText = sql;
            command.ExecuteNonQuery();
        }
    }

    private static void Print(string what, List<double> saves, List<double> inserts)
    {
        saves.Sort();
        inserts.Sort();
        double At(List<double> list, double share) => list[(int)Math.Min(list.Count - 1, share * list.Count)];
        Console.WriteLine(
            $"{what}: HTTP save median {At(saves, 0.5):F2} ms, 99th {At(saves, 0.99):F2} ms; "
                + $"bare insert median {At(inserts, 0.5):F2} ms, 99th {At(inserts, 0.99):F2} ms; "
                + $"ratio {At(saves, 0.5) / At(inserts, 0.5):F2} and {At(saves, 0.99) / At(inserts, 0.99):F2}"
        );
    }
}
