using System.Collections.Immutable;
using System.Diagnostics;
using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Security.Cryptography;
using System.Text.Json.Nodes;
using SkiaSharp;
using Walkdown.Core.Sealing;
using Walkdown.Reports;

namespace Walkdown.Bench;

/// <summary>Packs with pictures, bundles out and in, and the check of a large pack: time and memory.</summary>
internal static class HandoverBenchmark
{
    /// <summary>Two pictures a Card, then a pack of all of them.</summary>
    public static async Task Pack(Uri server, int process, int cards)
    {
        using var http = new HttpClient { BaseAddress = server, Timeout = TimeSpan.FromMinutes(30) };
        var (job, person, stops) = await Job(http);
        var clock = Stopwatch.StartNew();
        var sent = 0;
        await Parallel.ForEachAsync(
            stops.Take(cards).SelectMany(s => new[] { (Stop: s, N: 0), (Stop: s, N: 1) }),
            new ParallelOptions { MaxDegreeOfParallelism = 4 },
            async (picture, cancel) =>
            {
                using var content = new ByteArrayContent(Picture(picture.Stop, picture.N));
                content.Headers.ContentType = new MediaTypeHeaderValue("application/octet-stream");
                using var response = await http.PostAsync(
                    $"/api/cards/{picture.Stop}/pictures?id={Guid.NewGuid()}&by={person}&caption=View%20{picture.N + 1}",
                    content,
                    cancel
                );
                response.EnsureSuccessStatusCode();
                Interlocked.Increment(ref sent);
            }
        );
        Console.WriteLine($"{sent} pictures taken in {clock.Elapsed.TotalSeconds:F1} s");
        var before = Memory(process);
        clock.Restart();
        var handover = JsonNode.Parse(await http.GetStringAsync($"/api/jobs/{job}/handover"))!;
        var work = await Done(
            http,
            await Post(
                http,
                $"/api/jobs/{job}/handover/revisions",
                new
                {
                    id = Guid.NewGuid(),
                    by = person,
                    deviceId = (string?)null,
                    follows = handover["newest"]!.GetValue<int>(),
                    sequence = handover["sequence"]!.GetValue<long>(),
                    shown = handover["shown"]!.ToString(),
                    signatures = Array.Empty<object>(),
                    reservations = "",
                    languages = new[] { "en" },
                }
            )
        );
        if (work["state"]!.ToString() != "done")
            throw new InvalidOperationException(work.ToJsonString());
        var seconds = clock.Elapsed.TotalSeconds;
        var revision = work["revision"]!;
        Console.WriteLine(
            $"pack of {stops.Count} Cards, {sent} pictures, {revision["reports"]!.AsArray().Count} volumes: "
                + $"{seconds:F1} s, {stops.Count / seconds:F1} Cards a second, {revision["bytes"]!.GetValue<long>() / 1048576} MB; "
                + $"server memory {before} before, {Memory(process)} after, most {Memory(process, "VmHWM")}"
        );
        clock.Restart();
        var file = Path.GetTempFileName();
        await using (var target = File.Create(file))
        await using (var source = await http.GetStreamAsync($"/api/jobs/{job}/handover/revisions/{revision["id"]}/pack.zip"))
            await source.CopyToAsync(target);
        await using (var pack = File.OpenRead(file))
            Console.WriteLine($"checked: {RecordCheck.Of(pack).Outcome} in {clock.Elapsed.TotalSeconds:F1} s with its download");
        File.Delete(file);
    }

    /// <summary>A job out of one server and into another.</summary>
    public static async Task Bundle(Uri from, Uri to, int process)
    {
        using var http = new HttpClient { Timeout = TimeSpan.FromMinutes(30) };
        http.BaseAddress = from;
        var (job, _, stops) = await Job(http);
        var clock = Stopwatch.StartNew();
        var work = await Done(http, await Post(http, $"/api/jobs/{job}/bundle", new { }));
        var bytes = await http.GetByteArrayAsync($"/api/jobs/{job}/bundle/{work["id"]}.zip");
        Console.WriteLine($"bundle of {stops.Count} devices out: {clock.Elapsed.TotalSeconds:F1} s, {bytes.Length / 1048576.0:F1} MB");
        using var other = new HttpClient { BaseAddress = to, Timeout = TimeSpan.FromMinutes(30) };
        clock.Restart();
        using var content = new ByteArrayContent(bytes);
        content.Headers.ContentType = new MediaTypeHeaderValue("application/octet-stream");
        using var response = await other.PostAsync("/api/bundles", content);
        var taken = await Done(other, JsonNode.Parse(await response.Content.ReadAsStringAsync())!);
        if (taken["state"]!.ToString() != "done")
            throw new InvalidOperationException(taken.ToJsonString());
        Console.WriteLine(
            $"and in, every Card judged: {clock.Elapsed.TotalSeconds:F1} s, "
                + $"{taken["bundle"]!["added"]!.AsObject().Sum(a => a.Value!.GetValue<int>())} rows, most memory {Memory(process, "VmHWM")}"
        );
    }

    /// <summary>The check of a pack of so many megabytes.</summary>
    public static void Verify(int megabytes)
    {
        var path = Path.Combine(Path.GetTempPath(), $"walkdown-verify-{Guid.NewGuid():N}.zip");
        try
        {
            using var key = SealKey.Create();
            var now = DateTimeOffset.UtcNow;
            using (var archive = new PackArchive(path, now))
            {
                var chunk = new byte[4 << 20];
                for (var i = 0; i < megabytes / 4; i++)
                {
                    RandomNumberGenerator.Fill(chunk);
                    archive.Add($"evidence/{i:00000}.jpg", chunk);
                }
                archive.Finish(
                    PackArchive.Sealed(
                        new PackManifest("walkdown-pack/1", Guid.NewGuid(), 1, "Ternhaven", "", now, archive.Files),
                        key,
                        now
                    ),
                    null,
                    key
                );
            }
            GC.Collect();
            var before = GC.GetTotalMemory(true);
            var clock = Stopwatch.StartNew();
            using var file = File.OpenRead(path);
            var most = 0L;
            var verdict = RecordCheck.Of(file, null, new Watch(() => most = Math.Max(most, GC.GetTotalMemory(false) - before)));
            Console.WriteLine(
                $"pack of {file.Length / 1048576} MB checked: {verdict.Outcome}, {clock.Elapsed.TotalSeconds:F1} s, "
                    + $"{file.Length / 1048576 / clock.Elapsed.TotalSeconds:F0} MB a second, at most {most / 1048576.0:F1} MB held"
            );
        }
        finally
        {
            File.Delete(path);
        }
    }

    private sealed class Watch(Action look) : IProgress<(int Done, int Of)>
    {
        public void Report((int Done, int Of) value) => look();
    }

    private static async Task<(string Job, string Person, List<string> Stops)> Job(HttpClient http)
    {
        var job = JsonNode.Parse(await http.GetStringAsync("/api/jobs"))![0]!["id"]!.ToString();
        var person = JsonNode.Parse(await http.GetStringAsync($"/api/jobs/{job}/kit"))!["people"]![0]!["id"]!.ToString();
        var stops = JsonNode.Parse(await http.GetStringAsync($"/api/jobs/{job}/walk"))!["areas"]!
            .AsArray()
            .SelectMany(a => a!["stops"]!.AsArray())
            .Select(s => s!["id"]!.ToString())
            .ToList();
        return (job, person, stops);
    }

    private static async Task<JsonNode> Post(HttpClient http, string path, object body)
    {
        using var response = await http.PostAsJsonAsync(path, body);
        var answer = JsonNode.Parse(await response.Content.ReadAsStringAsync())!;
        return response.IsSuccessStatusCode ? answer : throw new InvalidOperationException(answer.ToJsonString());
    }

    private static async Task<JsonNode> Done(HttpClient http, JsonNode work)
    {
        while (work["state"]!.ToString() == "running")
        {
            await Task.Delay(100);
            work = JsonNode.Parse(await http.GetStringAsync($"/api/progress/{work["id"]}"))!;
        }
        return work;
    }

    /// <summary>A made-up picture of 1600 by 1000 with some grain, about as large as a phone's.</summary>
    private static byte[] Picture(string stop, int n)
    {
        using var surface = SKSurface.Create(new SKImageInfo(1600, 1000));
        var random = new Random(stop.GetHashCode(StringComparison.Ordinal) ^ n);
        surface.Canvas.Clear(new SKColor((byte)random.Next(256), (byte)random.Next(256), (byte)random.Next(256)));
        using var paint = new SKPaint();
        for (var i = 0; i < 400; i++)
        {
            paint.Color = new SKColor((byte)random.Next(256), (byte)random.Next(256), (byte)random.Next(256));
            surface.Canvas.DrawRect(random.Next(1600), random.Next(1000), random.Next(200), random.Next(120), paint);
        }
        using var image = surface.Snapshot();
        using var data = image.Encode(SKEncodedImageFormat.Jpeg, 88);
        return data.ToArray();
    }

    private static string Memory(int process, string what = "VmRSS") =>
        File.ReadLines($"/proc/{process}/status").First(l => l.StartsWith(what, StringComparison.Ordinal)).Split(':')[1].Trim();
}
