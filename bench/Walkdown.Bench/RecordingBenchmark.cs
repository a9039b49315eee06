using System.Diagnostics;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Hosting.Server;
using Microsoft.AspNetCore.Hosting.Server.Features;
using Microsoft.AspNetCore.Http;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Logging;
using Walkdown.Core.Recording;
using Walkdown.Devices.Recorders;
using Walkdown.StandIns;
using Walkdown.StandIns.Recorders;

namespace Walkdown.Bench;

/// <summary>What a slider costs while it is dragged, and channels that are proven against recorders that take their time.</summary>
public static class RecordingBenchmark
{
    /// <summary>Aim: 5,000 streams within 2 ms.</summary>
    public static void WhatIf(int streams)
    {
        var dice = new Random(46);
        var store = new RecorderStore(ArrayLevel.Level6, 60, 20, 2, 5, 31, 40_000);
        ChannelLoad[] channels =
        [
            .. Enumerable
                .Range(1, streams)
                .Select(i => new ChannelLoad(
                    i,
                    $"C-{i}",
                    $"Area {i % 40}",
                    new(1 + dice.NextDouble() * 7, i % 3 == 0 ? RecordingMode.Continuous : RecordingMode.Motion, dice.NextDouble() * 100),
                    RateOrigin.Recorded,
                    12
                )),
        ];
        var times = new List<double>();
        for (var i = 0; i < 400; i++)
        {
            var tried = new RecordingTry(5 + i % 25, MotionPercent: i % 100, DaysPromised: 1 + i % 60);
            var since = Stopwatch.GetTimestamp();
            RecordingForecast.Of(store, channels, tried);
            times.Add(Stopwatch.GetElapsedTime(since).TotalMilliseconds);
        }
        times.Sort();
        Console.WriteLine($"what if, {streams} streams: median {times[200]:0.00} ms, 95th {times[380]:0.00} ms");
    }

    /// <summary>Aim: 1.2 of the recorders' own delay. Each sends four clips at once and takes its time for each.</summary>
    public static async Task Proofs(int channels, int delayMs)
    {
        var clock = new SimClock(TimeProvider.System);
        var rows = Enumerable
            .Range(1, channels)
            .Select(i =>
                (IReadOnlyDictionary<string, string>)
                    new Dictionary<string, string>
                    {
                        ["label"] = $"C-{i}",
                        ["recorder"] = i % 2 == 0 ? "R-2" : "R-1",
                        ["channels"] = $"{(i + 1) / 2}",
                        ["serial"] = $"TH{i}",
                    }
            )
            .Append(new Dictionary<string, string> { ["label"] = "R-1" })
            .Append(new Dictionary<string, string> { ["label"] = "R-2" })
            .ToList();
        var room = new RecorderRoom(
            new([new() { Label = "R-1", IntakeMbps = null }, new() { Label = "R-2", ClockAheadSeconds = 3600 }]),
            rows,
            clock
        );
        var builder = WebApplication.CreateBuilder();
        builder.Logging.ClearProviders();
        builder.WebHost.UseUrls("http://127.0.0.1:0");
        await using var app = builder.Build();
        app.Use(
            async (context, next) =>
            {
                if (context.Request.Path.Value!.EndsWith("/clip", StringComparison.Ordinal))
                    await Task.Delay(delayMs);
                await next();
            }
        );
        room.Map(app);
        await app.StartAsync();
        var at = app.Services.GetRequiredService<IServer>().Features.Get<IServerAddressesFeature>()!.Addresses.First();
        using var http = new HttpClient { BaseAddress = new Uri(at) };
        foreach (var recorder in (string[])["R-1", "R-2"])
            (
                await http.PostAsync(
                    $"panel/recorders/{recorder}/events",
                    System.Net.Http.Json.JsonContent.Create(new { channels = Enumerable.Range(1, (channels + 1) / 2), secondsAgo = 60 })
                )
            ).EnsureSuccessStatusCode();
        var happened = DateTimeOffset.UtcNow.AddSeconds(-60);
        for (var run = 0; run < 4; run++)
        {
            var since = Stopwatch.GetTimestamp();
            var found = await Task.WhenAll(((string[])["R-1", "R-2"]).Select(Prove));
            var took = Stopwatch.GetElapsedTime(since).TotalMilliseconds;
            var ideal = Math.Ceiling((channels + 1) / 2 / 4.0) * delayMs;
            var cold = run == 0 ? " (cold)" : "";
            Console.WriteLine(
                $"{found.Sum()} of {channels} channels proven in {took:0} ms, their own delay {ideal:0} ms: {took / ideal:0.00}{cold}"
            );
        }

        async Task<int> Prove(string label)
        {
            var recorders = new HttpRecorder(http, label, TimeSpan.FromSeconds(20), TimeProvider.System);
            var (reading, _) = await recorders.Read(CancellationToken.None);
            var ask = new ClipAsk(happened, reading!.Clock!);
            var proven = 0;
            await Parallel.ForEachAsync(
                reading.Channels,
                new ParallelOptions { MaxDegreeOfParallelism = 4 },
                async (channel, stop) =>
                {
                    var (clip, _, _) = await recorders.Clip(channel.Number, ask, stop);
                    if (clip is not null && ClipProof.Of(ask, channel.Number, channel.When, clip).Proves == true)
                        Interlocked.Increment(ref proven);
                }
            );
            return proven;
        }
    }
}
