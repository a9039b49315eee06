using System.Collections.Immutable;
using System.Diagnostics;
using System.Net;
using System.Net.Sockets;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core;
using Walkdown.Core.Addressing;
using Walkdown.Devices.Discovery;
using Walkdown.Devices.Field;
using Walkdown.Storage;
using Walkdown.Storage.Entities;

namespace Walkdown.Bench;

/// <summary>Three long lists held against each other, and a range asked in which most addresses are silent.</summary>
public static class AddressBenchmark
{
    /// <summary>Aim: 5,000 by 5,000 by 5,000 within 30 ms.</summary>
    public static void Lists(int devices)
    {
        var random = new Random(46);
        ListedDevice[] List(int odd)
        {
            var list = Enumerable
                .Range(0, devices)
                .Select(i =>
                {
                    var n = random.Next(20) == 0 ? i + odd * devices : i;
                    return new ListedDevice(
                        $"{i}",
                        random.Next(5) == 0 ? null : new HardwareAddress(0x0246_0800_0000 + (ulong)n).ToString(),
                        random.Next(5) == 0 ? null : $"TH{n}",
                        new Ipv4Address(0x0A2E_0000 + (uint)n).ToString()
                    );
                })
                .ToArray();
            random.Shuffle(list);
            return list;
        }
        var (planned, found, registered) = (List(1), List(2), List(3));
        var times = new List<double>();
        for (var i = 0; i < 40; i++)
        {
            var since = Stopwatch.GetTimestamp();
            ThreeLists.Of(planned, found, registered);
            times.Add(Stopwatch.GetElapsedTime(since).TotalMilliseconds);
        }
        times.Sort();
        Console.WriteLine($"three lists of {devices}: median {times[20]:0.0} ms, 95th {times[37]:0.0} ms");
    }

    /// <summary>A look at the network of a made-up site and its recorders' lists, straight into the table: of twenty devices one is silent,
    /// one elsewhere, one another unit, one by another name.</summary>
    public static async Task Fill(Ledger ledger, Guid job)
    {
        await using var db = ledger.OpenDb();
        var devices = await db
            .Devices.Where(d => d.JobId == job && d.Address != null && d.Address != "")
            .OrderBy(d => d.Label)
            .Select(d => new
            {
                d.Label,
                d.Address,
                Unit = db.Installations.Where(i => i.DeviceId == d.Id && i.Until == null).Select(i => i.Unit).First(),
            })
            .ToListAsync();
        var found = devices
            .Select(
                (d, i) =>
                    new FoundDevice
                    {
                        Address = i % 20 == 1 ? $"10.47.{i / 250}.{i % 250 + 1}" : d.Address!,
                        By = [FoundBy.Search],
                        Path = "/onvif/device_service",
                        Model = "Skerry B4",
                        Serial = i % 20 == 2 ? $"XX{i}" : d.Unit.Serial,
                        HardwareAddress = i % 20 == 2 ? null : d.Unit.HardwareAddress,
                        Firmware = "3.6.0",
                        Name = i % 20 == 3 ? "CAMERA" : d.Label,
                        Mask = "255.255.0.0",
                        Gateway = "10.46.0.1",
                        Leases = false,
                        AnswersSearches = true,
                        TimeSource = "ntp",
                        Streams = [new("main", "H264", 2560, 1440, 15, 3000, $"rtsp://{d.Address}/main", "", "H264 2560x1440")],
                    }
            )
            .Where((_, i) => i % 20 != 0)
            .ToImmutableArray();
        var listed = devices
            .Select((d, i) => new RegisteredDevice("R-1", i + 1, d.Label, d.Unit.HardwareAddress ?? "", d.Unit.Serial ?? "", d.Address!))
            .ToImmutableArray();
        NetworkLook Look(LookKind kind, string of, object what) =>
            new()
            {
                Id = Guid.CreateVersion7(),
                JobId = job,
                Kind = kind,
                Of = of,
                At = DateTimeOffset.UtcNow,
                FoundJson = JsonSerializer.Serialize(what, what.GetType(), CoreJson.Options),
            };
        await ledger.Change(
            job,
            "network",
            async (kept, _) =>
            {
                var plan = new NetworkPlan { Subnet = "10.46.0.0/16", Gateway = "10.46.0.1" };
                (await kept.Jobs.AsTracking().SingleAsync(j => j.Id == job)).NetworkJson = JsonSerializer.Serialize(plan, CoreJson.Options);
                kept.Add(Look(LookKind.List, "R-1", listed));
                kept.Add(Look(LookKind.Network, "search", found));
                return (true, true);
            }
        );
    }

    /// <summary>Who of many simulated cameras is found by search and range, and in what time; a tenth answers no search.</summary>
    public static async Task Cameras(int devices)
    {
        const int Shift = 43_000;
        var first = Ipv4Address.Parse("10.46.8.1", "");
        var cameras = Enumerable
            .Range(0, devices)
            .Select(i => new StandIns.Cameras.CameraTruth
            {
                Label = $"B-{i:0000}",
                Address = new Ipv4Address(first.Number + (uint)i).ToString(),
                Mac = new HardwareAddress(0x0246_0900_0000 + (ulong)i).ToString(),
                Serial = $"B{i:00000}",
                Discoverable = i % 10 != 0,
                Logins = new Dictionary<string, string> { ["site"] = $"word-{i}" },
            })
            .ToList();
        using var site = new StandIns.Cameras.FieldSite(cameras, TimeProvider.System.GetUtcNow, Shift);
        if (site.Open() is { } why)
            throw new InvalidOperationException(why);
        var network = new FieldNetwork(true, Shift);
        using var http = new FieldHttp(network);
        var sweep = new NetworkSweep(network, http, TimeProvider.System, NetworkSweep.Pace.Usual);
        var words = cameras.ToDictionary(c => Ipv4Address.Parse(c.Address, ""), c => c.Logins["site"]);
        FieldLogin? LoginAt(Ipv4Address address, HardwareAddress? _) => words.TryGetValue(address, out var word) ? new("site", word) : null;
        foreach (var way in (FoundBy[])[FoundBy.Search, FoundBy.RangeScan])
        {
            var since = Stopwatch.GetTimestamp();
            var found = await sweep.Run(
                new(way, [Ipv4Address.Parse("10.46.8.0", "")], way == FoundBy.RangeScan ? [.. words.Keys] : [], [], LoginAt),
                null,
                CancellationToken.None
            );
            Console.WriteLine(
                $"{way}: {found.Count(f => f.Serial is not null)} of {devices} told who they are, {Stopwatch.GetElapsedTime(since).TotalSeconds:0.0} s"
            );
        }
    }

    /// <summary>Aim: within 1.1 of timeout x silent addresses / at once. Silent ones take no connection and refuse none, as a cable without
    /// a device.</summary>
    public static async Task Sweep(int addresses)
    {
        const int AtOnce = 64;
        var patience = TimeSpan.FromMilliseconds(500);
        var network = new FieldNetwork(true, 41_000);
        var first = Ipv4Address.Parse("10.46.8.1", "");
        var range = Enumerable.Range(0, addresses).Select(i => new Ipv4Address(first.Number + (uint)i)).ToArray();
        var open = new List<Socket>();
        var fillers = new List<Socket>();
        for (var i = 0; i < addresses; i++)
        {
            var at = network.EndpointOf(range[i], 80);
            var listener = new Socket(AddressFamily.InterNetwork, SocketType.Stream, ProtocolType.Tcp);
            listener.Bind(at);
            // A queue that is full takes nobody and answers nobody: it is as silent as an address with nothing behind it.
            listener.Listen(i % 10 == 0 ? 128 : 0);
            open.Add(listener);
            for (var n = 0; i % 10 != 0 && n < 2; n++)
            {
                var filler = new Socket(AddressFamily.InterNetwork, SocketType.Stream, ProtocolType.Tcp) { Blocking = false };
                try
                {
                    filler.Connect(at);
                }
                catch (SocketException)
                {
                    // It is on its way, which is what it is for.
                }
                fillers.Add(filler);
            }
        }
        await Task.Delay(200);
        var silent = addresses - (addresses + 9) / 10;
        var ideal = patience.TotalMilliseconds * Math.Ceiling((double)silent / AtOnce);
        for (var round = 0; round < 3; round++)
        {
            var since = Stopwatch.GetTimestamp();
            var found = await new RangeScan(network).Ask(range, [80], AtOnce, patience, null, CancellationToken.None);
            var took = Stopwatch.GetElapsedTime(since).TotalMilliseconds;
            Console.WriteLine($"{addresses} addresses, {found.Count} alive: {took:0} ms, {took / ideal:0.00} of {ideal:0} ms");
        }
        foreach (var socket in open.Concat(fillers))
            socket.Dispose();
    }
}
