using System.Collections.Immutable;
using System.Diagnostics;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json.Nodes;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Measures;
using Walkdown.Core.Power;
using Walkdown.Formats;
using Walkdown.Storage;

namespace Walkdown.Bench;

/// <summary>Budgets over a site, a sweep over slow stand-ins against the ideal of their own delay, and a long file of results.</summary>
public static class PowerBenchmark
{
    /// <summary>Budgets of 5,000 devices on 24-port switches, and voltages on 250 supplies, worked out in Core.</summary>
    public static void Budgets()
    {
        var random = new Random(46);
        var switches = Enumerable
            .Range(0, 209)
            .Select(_ =>
                Enumerable
                    .Range(1, 24)
                    .Select(p => new PortLoad(
                        Guid.NewGuid(),
                        p,
                        Guid.NewGuid(),
                        $"C-{p}",
                        random.Next(0, 7),
                        4 + random.NextDouble() * 20,
                        random.Next(2) == 0 ? 5 + random.NextDouble() * 20 : null,
                        (PortPriority)random.Next(3),
                        p > 22,
                        true,
                        true
                    ))
                    .ToList()
            )
            .ToList();
        var supplies = Enumerable
            .Range(0, 250)
            .Select(_ =>
                Enumerable
                    .Range(1, 4)
                    .Select(i => new SupplyTap(Guid.NewGuid(), $"D-{i}", "dome-fixed", "", i * 8, 2, 2 + random.NextDouble() * 2))
                    .ToImmutableArray()
            )
            .Select(taps => new SupplyFacts(Guid.NewGuid(), "S", SupplyRange.V12Dc, new(12, Origin.Planned), 0, 5, 3, 8, new(16), 20, taps))
            .ToList();
        var catalogue = Catalogue.Read(Catalogue.Shipped, Reports.Texts.Shipped("en").Keys.ToHashSet()).Catalogue!;
        var times = new List<double>();
        for (var round = 0; round < 200; round++)
        {
            var watch = Stopwatch.StartNew();
            foreach (var ports in switches)
                SiteBudget.Of(370, 10, 30, ports);
            foreach (var supply in supplies)
                SupplyRun.Of(supply, catalogue, null);
            if (round >= 50)
                times.Add(watch.Elapsed.TotalMilliseconds);
        }
        times.Sort();
        Console.WriteLine(
            $"budgets of {switches.Count * 24} ports and {supplies.Count * 4} low-voltage devices in Core: "
                + $"median {times[times.Count / 2]:F2} ms, 95th {times[times.Count * 95 / 100]:F2} ms"
        );
    }

    /// <summary>Writes a folder as the demo's, with as many devices as wanted.</summary>
    public static void Make(string demo, string folder, int devices)
    {
        Directory.CreateDirectory(folder);
        File.Copy(Path.Combine(demo, "plan.svg"), Path.Combine(folder, "plan.svg"), true);
        File.WriteAllText(Path.Combine(folder, "truth.json"), """{ "seed": 46, "runs": {} }""");
        var job = JsonNode.Parse(File.ReadAllText(Path.Combine(demo, "job.json")))!.AsObject();
        job["sources"] = new JsonArray();
        File.WriteAllText(Path.Combine(folder, "job.json"), job.ToJsonString());
        var csv = new StringBuilder("label,name,area,kind,model,serial,cabinet,port,run,length_m\n");
        for (var k = 0; k <= devices / 24; k++)
            csv.Append($"K{k + 1},Cabinet {k + 1},Site,cabinet,,,,,,\n");
        for (var i = 0; i < devices; i++)
            csv.Append(
                $"D-{i + 1},Device {i + 1},Area {i / 50 + 1},dome-fixed,Tarn "
                    + $"D2,SN{i + 1},K{i / 24 + 1},{i % 24 + 1},D-{i + 1},{20 + i % 60}\n"
            );
        File.WriteAllText(Path.Combine(folder, "schedule.csv"), csv.ToString());
    }

    /// <summary>Everything that tester and switch can read, 16 at a time.</summary>
    public static async Task Sweep(Uri server, double delayMs)
    {
        using var http = new HttpClient { BaseAddress = server, Timeout = TimeSpan.FromMinutes(10) };
        var job = JsonNode.Parse(await http.GetStringAsync("/api/jobs"))![0]!["id"]!.ToString();
        for (var round = 0; round < 2; round++)
        {
            var watch = Stopwatch.StartNew();
            var work = await Post(http, $"/api/jobs/{job}/results/sweep", new { under = "infraredOff", onlyDue = true });
            double? read = null;
            var asked = 0;
            while (work["state"]!.ToString() == "running")
            {
                await Task.Delay(20);
                work = JsonNode.Parse(await http.GetStringAsync($"/api/progress/{work["id"]}"))!;
                asked = Math.Max(asked, work["of"]!.GetValue<int>());
                if (read is null && asked > 0 && work["done"]!.GetValue<int>() == asked)
                    read = watch.Elapsed.TotalMilliseconds;
            }
            var whole = watch.Elapsed.TotalMilliseconds;
            var ideal = Math.Ceiling(asked / 16.0) * delayMs;
            if (round == 1)
                Console.WriteLine(
                    $"sweep: {asked} questions at 16 in flight, {delayMs} ms each: "
                        + $"reading {read:F0} ms against {ideal:F0} ideal, ratio {read / ideal:F2}; with matching and "
                        + $"judging {whole:F0} ms; "
                        + $"{work["results"]!["total"]} readings"
                );
        }
    }

    /// <summary>A table of results, read as a stream; then brought to the server, matched and judged.</summary>
    public static async Task File_(Uri server, int rows)
    {
        using var http = new HttpClient { BaseAddress = server, Timeout = TimeSpan.FromMinutes(10) };
        var job = JsonNode.Parse(await http.GetStringAsync("/api/jobs"))![0]!["id"]!.ToString();
        var walk = JsonNode.Parse(await http.GetStringAsync($"/api/jobs/{job}/walk"))!;
        var labels = walk["areas"]!.AsArray().SelectMany(a => a!["stops"]!.AsArray()).Select(s => s!["label"]!.ToString()).ToList();
        string[] pairs = ["1-2", "3-6", "4-5", "7-8"];
        var csv = new StringBuilder("run;function;pair;value;unit;time\n");
        for (var i = 0; i < rows; i++)
            csv.Append(
                i % 5 == 4
                    ? $"{labels[i / 5 % labels.Count]};length;;{20 + i % 60},3;m;2026-10-14 "
                        + $"{i / 3600 % 24:00}:{i / 60 % 60:00}:{i % 60:00}\n"
                    : $"{labels[i / 5 % labels.Count]};loop resistance;{pairs[i % 5]};{5 + i % 9},12;ohm;"
                        + $"2026-10-14 {i / 3600 % 24:00}:{i / 60 % 60:00}:{i % 60:00}\n"
            );
        var file = Encoding.UTF8.GetBytes(csv.ToString());
        GC.Collect();
        var before = GC.GetTotalMemory(true);
        long most = 0;
        var watch = Stopwatch.StartNew();
        var count = 0;
        foreach (var _ in ResultFile.Read(file, "UTC"))
            if (++count % 10_000 == 0)
                most = Math.Max(most, GC.GetTotalMemory(true) - before);
        Console.WriteLine(
            $"file of {count} results, {file.Length / 1024} KB: read {count / watch.Elapsed.TotalSeconds:F0} rows/s "
                + $"(collections included), at most {most / 1024} KB held while reading"
        );
        watch.Restart();
        using var body = new ByteArrayContent(file);
        body.Headers.ContentType = new("application/octet-stream");
        var work = JsonNode.Parse(
            await (await http.PostAsync($"/api/jobs/{job}/results/file?name=bench.csv", body)).Content.ReadAsStringAsync()
        )!;
        while (work["state"]!.ToString() == "running")
        {
            await Task.Delay(50);
            work = JsonNode.Parse(await http.GetStringAsync($"/api/progress/{work["id"]}"))!;
        }
        Console.WriteLine(
            $"the same through the server, matched and judged: {work["state"]}, {rows / watch.Elapsed.TotalSeconds:F0} rows/s"
        );
    }

    private static async Task<JsonNode> Post(HttpClient http, string path, object body) =>
        JsonNode.Parse(await (await http.PostAsJsonAsync(path, body)).Content.ReadAsStringAsync())!;
}
