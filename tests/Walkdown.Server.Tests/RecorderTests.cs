using System.Collections.Immutable;
using System.Globalization;
using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json.Nodes;
using Microsoft.Extensions.DependencyInjection;
using Walkdown.Core.Addressing;
using Walkdown.Core.Recording;
using Walkdown.Devices;
using Walkdown.Devices.Recorders;
using Walkdown.Formats;
using Walkdown.Storage;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Tests;

/// <summary>Recorders through the real server: who is on which channel, set and read back, and every channel proven or refused, restart
/// included.</summary>
public sealed class RecorderTests
{
    private static async Task<string> Recorder(Site site, string label) =>
        (await site.Get($"/api/jobs/{site.JobId}/recorders"))["recorders"]!.AsArray().Single(r => r!["label"]!.ToString() == label)![
            "id"
        ]!.ToString();

    private static Task<JsonNode> Page(Site site, string id) => site.Get($"/api/jobs/{site.JobId}/recorders/{id}");

    private static async Task<JsonNode> Do(Site site, string id, string what, object body)
    {
        var (status, work) = await site.Post($"/api/jobs/{site.JobId}/recorders/{id}/{what}", body);
        Assert.True(status == 200, work.ToJsonString());
        return await site.Over(work);
    }

    private static JsonNode Channel(JsonNode page, int number) =>
        page["channels"]!.AsArray().Single(c => c!["number"]!.GetValue<int>() == number)!;

    private static string[] Notes(JsonNode of) => [.. of["notes"]!.AsArray().Select(n => (n!["said"] ?? n)["code"]!.ToString())];

    private static Task<JsonNode> Set(Site site, string id, string seen, string by, params int[] channels) =>
        Do(
            site,
            id,
            "channels",
            new
            {
                seen,
                channels,
                by,
            }
        );

    /// <summary>Somebody moves before all cameras of a recorder, there and on the record.</summary>
    private static async Task Happens(Site site, string label, string id, double ago, params int[] channels)
    {
        if (channels.Length == 0)
            channels =
            [
                .. (await Page(site, id))["channels"]!
                    .AsArray()
                    .Where(c => c!["deviceId"] is not null)
                    .Select(c => c!["number"]!.GetValue<int>()),
            ];
        (
            await site.Outside.PostAsJsonAsync($"/panel/recorders/{label}/events", new { channels, secondsAgo = ago })
        ).EnsureSuccessStatusCode();
        var response = await site.Http.PostAsJsonAsync(
            $"/api/jobs/{site.JobId}/recorders/{id}/events",
            new
            {
                way = "walk",
                channels,
                secondsAgo = ago,
                by = "Ina Solberg",
            }
        );
        Assert.Equal(HttpStatusCode.OK, response.StatusCode);
    }

    /// <summary>A clock that was read before is told with how it ran since; another unit's clock says nothing of this one.</summary>
    [Fact]
    public async Task AClockThatRunsAwayNamesItsDay()
    {
        using var site = new Site();
        var id = await Recorder(site, "R-1");
        var ledger = site.Services.GetRequiredService<Ledger>();
        Task Kept(string serial, double hoursAgo, double offset) =>
            ledger.KeepLooks(
                Guid.Parse(site.JobId),
                "R-1",
                "Ina Solberg",
                DateTimeOffset.UtcNow.AddHours(-hoursAgo),
                [(LookKind.Recorder, new RecorderReading(serial, "", new(offset, 0.005), null, null, [], []))]
            );
        async Task<JsonNode?> Drift()
        {
            await Do(site, id, "read", new { by = "Ina Solberg" });
            return (await Page(site, id))["clock"]![0]!["drift"];
        }
        await Kept("TH0000", 72, -4);
        Assert.Null(await Drift());
        // Long ago is another time, and a minute ago says nothing of a day.
        await Kept("TH4107", 20 * 24, -4);
        Assert.Null(await Drift());
        using var other = new Site();
        id = await Recorder(other, "R-1");
        await other
            .Services.GetRequiredService<Ledger>()
            .KeepLooks(
                Guid.Parse(other.JobId),
                "R-1",
                "Ina Solberg",
                DateTimeOffset.UtcNow.AddHours(-48),
                [(LookKind.Recorder, new RecorderReading("TH4107", "", new(0.2, 0.005), null, null, [], []))]
            );
        await Do(other, id, "read", new { by = "Ina Solberg" });
        var drift = (await Page(other, id))["clock"]![0]!["drift"]!;
        // 0.2 s two days ago, 0.8 s now: 0.3 s a day, and four days until it is two seconds off.
        Assert.InRange(drift["secondsPerDay"]!.GetValue<double>(), 0.25, 0.35);
        Assert.InRange(drift["daysToLimit"]!.GetValue<double>(), 3.4, 4.8);
        Assert.False(drift["wasSet"]!.GetValue<bool>());
    }

    /// <summary>Zones that ring all day are told from the recorder's own list, drafted for the Card, and quiet once the road is out of
    /// them.</summary>
    [Fact]
    public async Task ZonesThatRingAllDayAreToldAndCounted()
    {
        using var site = new Site();
        var id = await Recorder(site, "R-2");
        await Do(site, id, "read", new { by = "Ina Solberg" });
        var channel = Channel(await Page(site, id), 7);
        Assert.Contains("map.rings", Notes(channel));
        Assert.InRange(channel["rang"]!["events"]!.GetValue<int>(), 240, 250);
        Assert.True(channel["rang"]!["isOften"]!.GetValue<bool>());
        Assert.Null(Channel(await Page(site, id), 8)["rang"]);
        var (_, work) = await site.Post($"/api/jobs/{site.JobId}/recorders/rows", new { });
        var line = (await site.Over(work))["results"]!["lines"]!.AsArray().Single(l => l!["function"]!.ToString() == "recorder.nuisance")!;
        Assert.Equal("FB-01", line["device"]!.ToString());
        // What rings on a channel is told of the head that it shows.
        var rows = (await site.Card("FB-01"))["card"]!["rows"]!.AsArray();
        Assert.Equal("head", rows.Single(r => r!["key"]!["check"]!.ToString() == "recorder.nuisance")!["key"]!["on"]!["kind"]!.ToString());
        // The road is taken out, and the zones are said to have been changed: what rang before then says nothing any more.
        (await site.Outside.PostAsJsonAsync("/panel/recorders/R-2/mend", new { channel = 7 })).EnsureSuccessStatusCode();
        await site.Add("FB-01", "acts", new { kind = "zone-changed" });
        await Do(site, id, "read", new { by = "Ina Solberg" });
        (_, work) = await site.Post($"/api/jobs/{site.JobId}/recorders/rows", new { });
        Assert.DoesNotContain(
            (await site.Over(work))["results"]!["lines"]!.AsArray(),
            l => l!["function"]!.ToString() == "recorder.nuisance"
        );
    }

    [Fact]
    public async Task WhoIsOnWhichChannelIsToldAndPutRightInOneWriting()
    {
        using var site = new Site();
        var id = await Recorder(site, "R-1");
        // Nobody has asked it: the plan, and not a word about what is.
        var page = await Page(site, id);
        Assert.Null(page["readAt"]);
        Assert.All(page["channels"]!.AsArray(), c => Assert.Empty(Notes(c!)));
        Assert.Empty(page["proposed"]!.AsArray());
        var over = await Do(site, id, "read", new { by = "Ina Solberg" });
        Assert.Equal("recorder.read", over["look"]!["words"]![0]!["code"]!.ToString());
        page = await Page(site, id);
        Assert.Equal(["recorder.disk-failing", "recorder.notifies-nobody"], Notes(page));
        Assert.Equal("in", page["clock"]![0]!["outcome"]!.ToString());
        Assert.InRange(page["clock"]![0]!["offsetSeconds"]!.GetValue<double>(), 0.5, 1.1);
        foreach (var (channel, carries) in ((int, string)[])[(7, "VL-02"), (8, "VL-03"), (9, "VL-01"), (21, "CC-04 3"), (22, "CC-04 2")])
            Assert.Equal(carries, Channel(page, channel)["carries"]!.ToString());
        Assert.Equal("missing", Channel(page, 11)["finding"]!.ToString());
        Assert.Equal(["map.offline"], Notes(Channel(page, 18)));
        Assert.Equal(["map.name"], Notes(Channel(page, 30)));
        Assert.Equal("asPlanned", Channel(page, 1)["finding"]!.ToString());
        Assert.Equal(["map.unplanned"], Notes(Channel(page, 40)));
        Assert.Equal([(7, 8), (7, 9), (21, 22)], page["moves"]!.AsArray().Select(m => (m!["a"]!.GetValue<int>(), m["b"]!.GetValue<int>())));
        // The third list of addresses comes from here.
        var ledger = await site.Get($"/api/jobs/{site.JobId}/network");
        Assert.Contains(ledger["looks"]!.AsArray(), l => l!["kind"]!.ToString() == "list" && l["of"]!.ToString() == "R-1");

        var all = page["proposed"]!.AsArray().Select(p => p!["channel"]!.GetValue<int>()).ToArray();
        Assert.Equal([7, 8, 9, 21, 22, 30], all);
        var seen = page["seen"]!.ToString();
        Assert.Contains("all of a ring", (await Set(site, id, seen, site.Ina, 7, 8))["why"]!.ToString());
        Assert.Contains("when you looked", (await Set(site, id, "old", site.Ina, all))["why"]!.ToString());
        Assert.NotNull((await Set(site, id, seen, Guid.NewGuid().ToString(), all))["why"]);
        await site.Add("R-1", "acts", new { kind = "update-started" });
        Assert.Contains("R-1 is being updated", (await Set(site, id, seen, site.Ina, all))["why"]!.ToString());
        await site.Add("R-1", "acts", new { kind = "updated" });
        var set = await Set(site, id, seen, site.Ina, all);
        Assert.Equal(["recorder.set", "recorder.voids"], set["look"]!["words"]!.AsArray().Select(w => w!["code"]!.ToString()));
        page = await Page(site, id);
        Assert.Empty(page["proposed"]!.AsArray());
        foreach (var channel in all)
            Assert.Equal("asPlanned", Channel(page, channel)["finding"]!.ToString());
        // Nothing is left to set.
        Assert.NotNull((await Set(site, id, page["seen"]!.ToString(), site.Ina, all))["why"]);
    }

    [Fact]
    public async Task EveryChannelIsProvenOrRefusedBeforeAndAfterARestart()
    {
        using var site = new Site();
        var id = await Recorder(site, "R-1");
        Assert.Contains("Nobody has made an event", (await Do(site, id, "proofs", new { by = site.Ina }))["why"]!.ToString());
        await Happens(site, "R-1", id, 180);
        var page = await Page(site, id);
        Assert.Equal(33, page["pending"]!.GetValue<int>());
        var looked = await Do(site, id, "proofs", new { by = site.Ina });
        Assert.Equal("clip.looked", looked["look"]!["words"]![0]!["code"]!.ToString());
        page = await Page(site, id);
        string Before(int channel) => Channel(page, channel)["before"]![0]!["verdict"]!.ToString();
        Assert.Equal("found", Before(1));
        Assert.Equal("found", Before(13));
        Assert.Equal("none", Before(11));
        Assert.Equal("none", Before(18));
        Assert.Equal("none", Before(26));
        Assert.Contains("map.no-hours", Notes(Channel(page, 26)));
        // It tells twelve pictures a second and wrote six.
        Assert.Equal(["stream.jerky"], Notes(Channel(page, 16)));
        Assert.Equal(["stream.pixels"], Notes(Channel(page, 15)));
        Assert.Equal("gap", Before(29));
        Assert.Equal("cutOff", Before(32));
        // What broke off says neither, and is asked again; the rest is not.
        Assert.Equal(1, page["pending"]!.GetValue<int>());
        await Do(site, id, "proofs", new { by = site.Ina });
        page = await Page(site, id);
        Assert.Equal(("found", 0), (Before(32), page["pending"]!.GetValue<int>()));
        Assert.Null(page["restartAt"]);
        // A picture of the event is one of its place, with people in it.
        var still = Channel(page, 1)["before"]![0]!["picture"]!.ToString();
        var pictures = (await site.Get($"/api/cards/{site.Stops["GT-01"]}/pictures")).AsArray();
        Assert.True(pictures.Single(p => p!["id"]!.ToString() == still)!["personal"]!.GetValue<bool>());
        var jpeg = await site.Http.GetByteArrayAsync($"/api/cards/{site.Stops["GT-01"]}/pictures/{still}.jpg");
        Assert.Equal([0xFF, 0xD8], jpeg[..2]);

        (await site.Outside.PostAsync("/panel/recorders/R-1/restart?secondsAgo=90", null)).EnsureSuccessStatusCode();
        await Happens(site, "R-1", id, 60);
        await Do(site, id, "proofs", new { by = site.Ina });
        page = await Page(site, id);
        Assert.NotNull(page["restartAt"]);
        Assert.True(Channel(page, 1)["isProvenAfter"]!.GetValue<bool>());
        // It came back with what it was made with, and waits for an alarm.
        var thirteen = Channel(page, 13);
        Assert.Equal(("none", false), (thirteen["after"]![0]!["verdict"]!.ToString(), thirteen["isProvenAfter"]!.GetValue<bool>()));
        Assert.Equal(["map.on-alarm", "map.name", "clip.none", "clip.not-since"], Notes(thirteen));

        // Taken over: each row cites what it was read from, and is looked at before it is kept.
        var (status, work) = await site.Post($"/api/jobs/{site.JobId}/recorders/rows", new { });
        Assert.Equal(200, status);
        var lines = (await site.Over(work))["results"]!["lines"]!.AsArray();
        string[] Of(string label, string check) =>
            [
                .. lines
                    .Where(l => l!["where"]!.ToString() == label && l["function"]!.ToString() == check)
                    .Select(l => l!["text"]!.ToString()),
            ];
        Assert.Equal(["yes"], Of("GT-01", "recorder.clip"));
        Assert.Equal(["yes"], Of("GT-01", "recorder.clip-after"));
        Assert.Equal(["no"], Of("VL-07", "recorder.clip-after"));
        Assert.Empty(Of("VL-01", "recorder.clip"));
        Assert.Single(Of("R-1", "recorder.disk"));
    }

    /// <summary>Pressed at the camera, perhaps where there was no network: its clip is looked for by whoever is at the recorder's
    /// page.</summary>
    [Fact]
    public async Task AnEventPressedAtItsCameraIsLookedForAtItsRecorder()
    {
        using var site = new Site();
        var id = await Recorder(site, "R-1");
        async Task<(int Status, string Id)> Press(string label, object way, double ago, string? again = null)
        {
            var entry = again ?? Guid.CreateVersion7().ToString();
            var (status, _) = await site.Post(
                $"/api/cards/{site.Stops[label]}/events",
                new
                {
                    id = entry,
                    way,
                    by = site.Ina,
                    takenAt = DateTimeOffset.UtcNow.AddSeconds(-ago).ToString("O"),
                    clockOffsetMs = 0,
                }
            );
            return (status, entry);
        }
        async Task<JsonNode> Pressed(string label) => await site.Get($"/api/cards/{site.Stops[label]}/events");
        Assert.Equal((422, 400), ((await Press("R-1", "walk", 1)).Status, (await Press("GT-02", "shout", 1)).Status));
        // A moment that is still to come is none: it would be taken for another.
        Assert.Equal((422, 200), ((await Press("GT-03", "walk", -600)).Status, (await Press("GT-03", "walk", -2)).Status));
        // A slip is taken back; a repeat of the network is one event.
        var slip = await Press("GT-02", "lamp", 200);
        await site.Add("GT-02", "withdrawals", new { of = slip.Id, reason = "a slip" });
        var (_, event1) = await Press("GT-02", "walk", 150);
        await Press("CC-04", "hand", 150);
        Assert.Equal(5, (await Page(site, id))["pending"]!.GetValue<int>() - 1);
        var told = await Pressed("GT-02");
        Assert.Equal(("R-1", 2), (told["recorder"]!.ToString(), Assert.Single(told["channels"]!.AsArray())!.GetValue<int>()));
        var line = Assert.Single(told["events"]!.AsArray())!;
        Assert.Equal((event1, true), (line["id"]!.ToString(), line["waits"]!.GetValue<bool>()));
        Assert.Null(line["proves"]);
        (
            await site.Outside.PostAsJsonAsync(
                "/panel/recorders/R-1/events",
                new { channels = new[] { 2, 20, 21, 22, 23 }, secondsAgo = 150 }
            )
        ).EnsureSuccessStatusCode();
        await Do(site, id, "proofs", new { by = site.Ina });
        line = Assert.Single((await Pressed("GT-02"))["events"]!.AsArray())!;
        Assert.Equal((false, true), (line["waits"]!.GetValue<bool>(), line["proves"]!.GetValue<bool>()));
        // The recorder has clips of all heads, and proves them under the channels that they arrive at.
        Assert.True((await Pressed("CC-04"))["events"]![0]!["proves"]!.GetValue<bool>());
        // Nobody moved, though somebody says so: no clip.
        await Press("GT-02", "walk", 60);
        await Do(site, id, "proofs", new { by = site.Ina });
        var both = (await Pressed("GT-02"))["events"]!.AsArray();
        Assert.Equal([false, true], both.Select(e => e!["proves"]!.GetValue<bool>()));
        Assert.Equal(404, (int)(await site.Http.GetAsync($"/api/cards/{Guid.NewGuid()}/events")).StatusCode);
    }

    [Fact]
    public async Task ARecorderThatForgetsStopsOrIsAnHourOffIsFoundOut()
    {
        using var site = new Site();
        var id = await Recorder(site, "R-2");
        // One after another: it takes them in. All together: it stops.
        await Happens(site, "R-2", id, 400, 1, 2, 3);
        await Do(site, id, "proofs", new { by = site.Ina });
        var page = await Page(site, id);
        Assert.Contains("clock.step", Notes(page));
        Assert.Contains("recorder.disk-missing", Notes(page));
        Assert.Contains("recorder.too-much", Notes(page));
        Assert.Equal("out", page["clock"]![0]!["outcome"]!.ToString());
        foreach (var channel in (int[])[1, 2, 3])
            Assert.Equal("found", Channel(page, channel)["before"]![0]!["verdict"]!.ToString());
        await Happens(site, "R-2", id, 300);
        await Do(site, id, "proofs", new { by = site.Ina });
        page = await Page(site, id);
        Assert.Equal("found", Channel(page, 1)["before"]![0]!["verdict"]!.ToString());
        Assert.Equal("gap", Channel(page, 22)["before"]![0]!["verdict"]!.ToString());
        Assert.Equal("none", Channel(page, 12)["before"]![0]!["verdict"]!.ToString());
        (await site.Outside.PostAsync("/panel/recorders/R-2/restart?secondsAgo=200", null)).EnsureSuccessStatusCode();
        await Happens(site, "R-2", id, 100, 1, 3);
        await Do(site, id, "proofs", new { by = site.Ina });
        page = await Page(site, id);
        Assert.True(Channel(page, 1)["isProvenAfter"]!.GetValue<bool>());
        // It records again, and what it had is gone.
        Assert.Equal(
            ("found", false),
            (Channel(page, 3)["after"]![0]!["verdict"]!.ToString(), Channel(page, 3)["isProvenAfter"]!.GetValue<bool>())
        );
        Assert.Contains("clip.earlier-gone", Notes(Channel(page, 3)));
    }

    /// <summary>However often somebody looks: what was proven stays proven, and what the network showed stays shown.</summary>
    [Fact]
    public async Task ManyLooksPushNothingAway()
    {
        using var site = new Site();
        var id = await Recorder(site, "R-1");
        await Happens(site, "R-1", id, 60, 1);
        await Do(site, id, "proofs", new { by = site.Ina });
        var ledger = site.Services.GetRequiredService<Ledger>();
        var list = ImmutableArray.Create(new RegisteredDevice("R-1", 1, "GT-01", "", "", ""));
        async Task Keep(string of, int times, LookKind kind, object found) =>
            await ledger.KeepLooks(
                Guid.Parse(site.JobId),
                of,
                "Ina Solberg",
                DateTimeOffset.UtcNow,
                [.. Enumerable.Repeat((kind, found), times)]
            );
        await Keep("search", 1, LookKind.Network, ImmutableArray<FoundDevice>.Empty);
        await Keep("R-1", 450, LookKind.Recorder, RecorderReading.OfList(list));
        await Keep("R-1", 250, LookKind.List, list);
        Assert.Equal("found", Channel(await Page(site, id), 1)["before"]![0]!["verdict"]!.ToString());
        var looks = (await site.Get($"/api/jobs/{site.JobId}/network"))["looks"]!.AsArray().Select(l => l!["kind"]!.ToString()).ToArray();
        Assert.Equal(["list", "network"], looks);
    }

    /// <summary>A camera that is moved to another channel was proven there, and is not here; its Card says so.</summary>
    [Fact]
    public async Task WhoComesToAnotherChannelIsProvenAnew()
    {
        using var site = new Site();
        var id = await Recorder(site, "R-1");
        await Happens(site, "R-1", id, 60, 1, 7, 8, 9);
        await Do(site, id, "proofs", new { by = site.Ina });
        var page = await Page(site, id);
        Assert.Equal("found", Channel(page, 7)["before"]![0]!["verdict"]!.ToString());
        var all = page["proposed"]!.AsArray().Select(p => p!["channel"]!.GetValue<int>()).ToArray();
        var set = await Set(site, id, page["seen"]!.ToString(), site.Ina, all);
        Assert.True(set["why"] is null, set.ToJsonString());
        page = await Page(site, id);
        Assert.Equal("found", Channel(page, 1)["before"]![0]!["verdict"]!.ToString());
        foreach (var channel in (int[])[7, 8, 9])
            Assert.Empty(Channel(page, channel)["before"]!.AsArray());
        // The ring's three, and the heads' one: each Card has the act.
        foreach (var label in (string[])["VL-01", "VL-02", "VL-03", "CC-04"])
            Assert.Contains((await site.Card(label))["card"]!["acts"]!.AsArray(), a => a!["actKind"]!.ToString() == "channel-changed");
        Assert.DoesNotContain((await site.Card("GT-01"))["card"]!["acts"]!.AsArray(), a => a!["actKind"]!.ToString() == "channel-changed");
    }

    /// <summary>Plate cameras and their recorders know each other by identifiers that nobody else has.</summary>
    [Fact]
    public async Task EventLinksAreHeldAgainstTheirRecorderAndEachOther()
    {
        using var site = new Site();
        async Task<JsonArray> Links() => (await site.Get($"/api/jobs/{site.JobId}/recorders/links"))["links"]!.AsArray();
        var links = await Links();
        Assert.Equal(["FB-02", "GT-01", "GT-05"], links.Select(l => l!["label"]!.ToString()));
        // Nobody has read one: nothing is said of any.
        Assert.All(links, l => Assert.True(l!["state"] is null && l["because"]!.AsArray().Count == 0 && l["proposed"]!.ToString() == ""));
        async Task Take(string label, string role, string server, string? atCamera, string? atRecorder)
        {
            (string Field, string? Word, double? Number)[] said =
            [
                ("role", role, null),
                ("server", server, null),
                ("port-camera", null, 8443),
                ("port-recorder", null, 8443),
                ("login-camera", "set", null),
                ("login-recorder", "set", null),
                ("id-camera", atCamera, null),
                ("id-recorder", atRecorder, null),
                ("light-camera", "green", null),
                ("light-recorder", "green", null),
            ];
            var lines = new[]
            {
                new
                {
                    said = said.Where(s => s.Word is not null || s.Number is not null)
                        .Select(s => new
                        {
                            field = s.Field,
                            word = s.Word,
                            number = s.Number,
                        })
                        .ToArray(),
                },
            };
            await site.Add(
                label,
                "readings",
                new
                {
                    row = (await Links()).Single(l => l!["label"]!.ToString() == label)!["rowId"]!.ToString(),
                    source = "typed",
                    value = new { kind = "form", lines },
                }
            );
        }
        await Take("GT-01", "entry", "10.46.8.11", "10010001", "10010001");
        await Take("GT-05", "exit", "10.46.8.12", "10010001", "10010001");
        await Take("FB-02", "other", "10.46.8.12", null, null);
        links = await Links();
        JsonNode Of(string label) => links.Single(l => l!["label"]!.ToString() == label)!;
        string[] Codes(string label) => [.. Of(label)["because"]!.AsArray().Select(b => b!["code"]!.ToString())];
        Assert.Equal("in", Of("GT-01")["state"]!.ToString());
        Assert.Contains("link.id-notUnique", Codes("GT-01"));
        // It sends to the other recorder, under another's identifier, with another role's code.
        Assert.Equal("out", Of("GT-05")["state"]!.ToString());
        Assert.Superset(
            new HashSet<string> { "link.at-camera", "link.server-other", "link.id-role", "link.id-notUnique" },
            Codes("GT-05").ToHashSet()
        );
        Assert.Equal("10090001", Of("FB-02")["proposed"]!.ToString());
        Assert.Equal(404, (int)(await site.Http.GetAsync($"/api/jobs/{Guid.NewGuid()}/recorders/links")).StatusCode);
    }

    /// <summary>Both sides are read at camera and recorder: which one is empty is told, and green once it is put right.</summary>
    [Fact]
    public async Task BothSidesOfALinkAreReadAndTheEmptyOneIsNamed()
    {
        using var site = new Site();
        async Task<(string State, string[] Because)> Read(string label)
        {
            var links = (await site.Get($"/api/jobs/{site.JobId}/recorders/links"))["links"]!.AsArray();
            var line = links.Single(l => l!["label"]!.ToString() == label)!;
            var row = line["rowId"]!.ToString();
            var (status, read) = await site.Post($"/api/cards/{line["deviceId"]}/tester", new { row });
            Assert.True(status == 200, read.ToJsonString());
            Assert.Equal("network", read["source"]!.ToString());
            await site.Add(
                label,
                "readings",
                new
                {
                    row,
                    source = "typed",
                    value = read["rows"]![0]!["value"]!.DeepClone(),
                    observationId = read["observationId"]!.ToString(),
                }
            );
            var after = (await site.Get($"/api/jobs/{site.JobId}/recorders/links"))["links"]!
                .AsArray()
                .Single(l => l!["label"]!.ToString() == label)!;
            return (after["state"]!.ToString(), [.. after["because"]!.AsArray().Select(b => b!["code"]!.ToString())]);
        }
        Assert.Equal("in", (await Read("GT-01")).State);
        var (state, because) = await Read("GT-05");
        Assert.Equal("out", state);
        Assert.Equal(["link.at-recorder", "link.no-port", "link.no-login", "link.id-notInOtherSystem", "link.red"], because);
        (state, because) = await Read("FB-02");
        Assert.Equal("out", state);
        Assert.Equal(["link.at-camera", "link.server-other", "link.red"], because);
        // The hand at the recorder sets its side.
        (await site.Outside.PostAsJsonAsync("/panel/recorders/R-1/mend", new { channel = 5 })).EnsureSuccessStatusCode();
        Assert.Equal("in", (await Read("GT-05")).State);
    }

    /// <summary>Where no recorder answers, a list that somebody exported says who is registered, and nothing of what runs.</summary>
    [Fact]
    public async Task AListThatWasExportedIsComparedAndProvesNothing()
    {
        using var site = new Site();
        var id = await Recorder(site, "R-2");
        const string Csv = "Ch;Camera name;Serial no\n1;PT-01;{1}\n2;PT-03;{3}\n3;PT-02;{2}\n9;somebody;KX77\n";
        async Task<string> Serial(string label) =>
            (await site.Get($"/api/cards/{site.Stops[label]}/register"))["values"]!["serial"]!.ToString();
        var file = Csv.Replace("{1}", await Serial("PT-01")).Replace("{2}", await Serial("PT-02")).Replace("{3}", await Serial("PT-03"));
        using var response = await site.Http.PostAsync(
            $"/api/jobs/{site.JobId}/network/lists/file?recorder=R-2&by=Ina",
            new ByteArrayContent(Encoding.UTF8.GetBytes(file)) { Headers = { ContentType = new("application/octet-stream") } }
        );
        var over = await site.Over(Site.Json(await response.Content.ReadAsStringAsync()));
        Assert.True(over["why"] is null, over.ToJsonString());
        var page = await Page(site, id);
        Assert.True(page["isTyped"]!.GetValue<bool>());
        Assert.Empty(Notes(page));
        Assert.Equal("asPlanned", Channel(page, 1)["finding"]!.ToString());
        Assert.Equal("exchanged", Channel(page, 2)["finding"]!.ToString());
        Assert.Equal("stranger", Channel(page, 9)["finding"]!.ToString());
        Assert.Equal("untold", Channel(page, 1)["state"]!.ToString());
        // What it says of itself comes before any list.
        await Do(site, id, "read", new { by = "Ina Solberg" });
        page = await Page(site, id);
        Assert.False(page["isTyped"]!.GetValue<bool>());
        Assert.Equal("asPlanned", Channel(page, 2)["finding"]!.ToString());
    }

    /// <summary>A recorder that nobody can ask, read off its page: who is registered there is known, and nothing of what runs.</summary>
    [Fact]
    public async Task WhatIsTypedOffItsPageStandsAsItsList()
    {
        using var site = new Site();
        var id = await Recorder(site, "R-2");
        async Task<JsonNode> Type(object channels, string recorder = "R-2") =>
            (
                await site.Send(
                    $"/api/jobs/{site.JobId}/network/lists/typed",
                    new
                    {
                        recorder,
                        channels,
                        by = "Ina Solberg",
                    }
                )
            ) switch
            {
                (200, var begun) => await site.Over(begun),
                var (_, refused) => refused,
            };
        object Line(int channel, string name = "", string serial = "") =>
            new
            {
                channel,
                name,
                serial,
                address = "",
            };
        // What cannot be is said in words, and nothing of it is kept.
        Assert.Equal("list.nothing-typed", (await Type(Array.Empty<object>()))["code"]!.ToString());
        Assert.Contains("twice", (await Type(new[] { Line(1, "a"), Line(1, "b") }))["why"]!.ToString());
        Assert.Contains("0 is no channel", (await Type(new[] { Line(0, "a") }))["why"]!.ToString());
        Assert.Contains("100000 is no channel", (await Type(new[] { Line(100_000, "a") }))["why"]!.ToString().Replace("\u202f", ""));
        Assert.Equal("problem.unreadable", (await Type(new object?[] { Line(1, "a"), null }))["code"]!.ToString());
        Assert.NotNull((await Type(new[] { Line(1) }, recorder: " "))["why"]);
        Assert.Null((await Page(site, id))["readAt"]);

        var serial = (await site.Get($"/api/cards/{site.Stops["PT-01"]}/register"))["values"]!["serial"]!.ToString();
        var over = await Type(new[] { Line(2, "  Quay, \"old\"  "), Line(1, "PT-01", serial) });
        Assert.Equal(2, over["look"]!["found"]!.GetValue<int>());
        var page = await Page(site, id);
        Assert.True(page["isTyped"]!.GetValue<bool>());
        Assert.Equal(("asPlanned", "untold"), (Channel(page, 1)["finding"]!.ToString(), Channel(page, 1)["state"]!.ToString()));
        Assert.Equal("Quay, \"old\"", Channel(page, 2)["name"]!.ToString());
    }

    /// <summary>A list that somebody exported and one that somebody typed say the same; neither can show, set or prove anything.</summary>
    [Fact]
    public async Task ListsAreRecordersThatOnlySayWhoIsRegistered()
    {
        WrittenChannel[] lines = [new(3, " Door ", "10.46.8.13", "TH4121", ""), new(1, new string('n', 80), "", "", "")];
        IRecorder typed = new TypedRecorder("R-9", lines);
        var file = Encoding.UTF8.GetBytes($"ch;name;ip;serial\n3; Door ;10.46.8.13;TH4121\n1;{new string('n', 80)};;\n");
        IRecorder listed = new ListedRecorder("R-9", stop => RecorderListFile.Read(file, stop));
        foreach (var recorder in new[] { typed, listed })
        {
            Assert.IsNotAssignableFrom<ILiveRecorder>(recorder);
            var (reading, trouble) = await recorder.Read(Now);
            Assert.Null(trouble);
            Assert.True(reading is { IsTyped: true, Clock: null, Disks.Length: 0 });
            Assert.Equal([(1, new string('n', 60)), (3, "Door")], reading.Channels.Select(c => (c.Number, c.Name)));
        }
        Assert.Equal(
            "list.too-long",
            (await new TypedRecorder("R-9", [.. Enumerable.Range(1, 10_001).Select(n => lines[0] with { Channel = n })]).Read(Now))
                .Trouble!
                .Code
        );
    }

    [Fact]
    public async Task WhatCannotBeIsSaidAndNothingIsKept()
    {
        using var site = new Site();
        var id = await Recorder(site, "R-1");
        var path = $"/api/jobs/{site.JobId}/recorders";
        async Task Refused(int status, string recorder, string way, double secondsAgo, params int[] channels)
        {
            var body = new
            {
                way,
                channels,
                secondsAgo,
                by = "",
            };
            Assert.Equal(status, (int)(await site.Http.PostAsJsonAsync($"{path}/{recorder}/events", body)).StatusCode);
        }
        await Refused(422, id, "walk", 0);
        foreach (var channel in (int[])[99, 0, -1, int.MaxValue])
            await Refused(422, id, "walk", 0, 1, channel);
        await Refused(422, id, "walk", -5, 1);
        await Refused(422, id, "walk", 1e9, 1);
        await Refused(400, id, "dance", 0, 1);
        await Refused(422, site.Stops["GT-01"], "walk", 0, 1);
        Assert.Equal(0, (await Page(site, id))["pending"]!.GetValue<int>());
        Assert.Equal(404, (int)(await site.Http.GetAsync($"{path}/{site.Stops["GT-01"]}")).StatusCode);
        Assert.Equal(404, (int)(await site.Http.GetAsync($"/api/jobs/{Guid.NewGuid()}/recorders")).StatusCode);
        await Happens(site, "R-1", id, 60, 1);
        Assert.NotNull((await Do(site, id, "proofs", new { by = Guid.NewGuid() }))["why"]);
        // It starts, and answers nobody: the event still waits.
        (await site.Outside.PostAsync("/panel/recorders/R-1/restart", null)).EnsureSuccessStatusCode();
        Assert.Contains("does not answer", (await Do(site, id, "proofs", new { by = site.Ina }))["why"]!.ToString());
        Assert.Equal(1, (await Page(site, id))["pending"]!.GetValue<int>());
    }

    private sealed class Answers(Func<HttpRequestMessage, CancellationToken, Task<HttpResponseMessage>> answer) : HttpMessageHandler
    {
        protected override Task<HttpResponseMessage> SendAsync(HttpRequestMessage request, CancellationToken cancel) =>
            answer(request, cancel);
    }

    private static HttpRecorder Asking(Func<HttpRequestMessage, HttpResponseMessage> answer, string label = "R-1") =>
        new(
            new HttpClient(new Answers((request, _) => Task.FromResult(answer(request)))) { BaseAddress = new Uri("http://recorder.test") },
            label,
            TimeSpan.FromMinutes(1),
            TimeProvider.System
        );

    private static HttpResponseMessage Json(string json, HttpStatusCode status = HttpStatusCode.OK) =>
        new(status) { Content = new StringContent(json, Encoding.UTF8, "application/json") };

    private static readonly CancellationToken Now = CancellationToken.None;

    [Theory]
    [InlineData("null", "recorder.nonsense")]
    [InlineData("[]", "recorder.nonsense")]
    [InlineData("""{"serial": 7}""", "recorder.nonsense")]
    [InlineData("""{"channels": [{"number": 0}]}""", "recorder.nonsense")]
    [InlineData("""{"channels": [null]}""", "recorder.nonsense")]
    [InlineData("""{"channels": [{"number": "one"}]}""", "recorder.nonsense")]
    [InlineData("""{"channels": [{"number": 1}, {"number": 1}]}""", "list.channel-twice")]
    [InlineData("<html>", "recorder.nonsense")]
    public async Task NonsenseIsTroubleAndNeverThrows(string json, string code)
    {
        var (reading, trouble) = await Asking(_ => Json(json)).Read(Now);
        Assert.Equal((null, code), (reading, trouble!.Code));
    }

    [Theory]
    [InlineData("""{"plates":null}""", 200, "recorder.nonsense")]
    [InlineData("""{"plates":[null]}""", 200, "recorder.nonsense")]
    [InlineData("""{"plates":[{"at":"yesterday","text":"AB1"}]}""", 200, "recorder.nonsense")]
    [InlineData(
        """{"plates":[{"at":"2026-10-14T09:00:00Z"},{"at":"2026-10-14T09:00:01Z"},{"at":"2026-10-14T09:00:02Z"}]}""",
        200,
        "problem.list-long"
    )]
    [InlineData("""[1,2""", 200, "recorder.nonsense")]
    [InlineData("""{}""", 404, "plates.no-reader")]
    [InlineData("""{}""", 503, "recorder.silent")]
    public async Task AListOfPlatesThatIsNoneIsToldSo(string json, int status, string code)
    {
        var (lines, ahead, trouble) = await Asking(_ => Json(json, (HttpStatusCode)status)).Plates(1, DateTimeOffset.UnixEpoch, 2, Now);
        Assert.Null(lines);
        Assert.Null(ahead);
        Assert.Equal(code, trouble!.Code);
    }

    [Fact]
    public async Task AListOfPlatesIsTakenAsItIsCut()
    {
        var text = new string('A', 5_000);
        var (lines, ahead, trouble) = await Asking(q =>
                Json(
                    q.RequestUri!.AbsolutePath.EndsWith("clock", StringComparison.Ordinal)
                        ? "{}"
                        : $$"""{"plates":[{"at":"2026-10-14T09:00:00Z","text":"{{text}}"},{"at":"2026-10-14T09:00:01+01:00"}]}"""
                )
            )
            .Plates(1, DateTimeOffset.UnixEpoch, 2, Now);
        Assert.Null(trouble);
        // Its clock was not to be had: nobody says how far it is ahead.
        Assert.Null(ahead);
        Assert.Equal([60, 0], lines!.Select(l => l.Text.Length));
    }

    [Fact]
    public async Task WhatItSaysInPartOrStrangelyMeansNothing()
    {
        var (reading, _) = await Asking(r =>
                r.RequestUri!.AbsolutePath.EndsWith("/clock", StringComparison.Ordinal)
                    // Of which zone?
                    ? Json("""{"heard": "2026-10-14T16:00:00", "answered": "2026-10-14T16:00:00"}""")
                    : Json(
                        """
                        {"channels": [{"number": 2, "mode": "sometimes", "state": "3", "peakMbps": -4, "wide": 1e3, "recordedPercent": 140, "oldest": "yesterday", "extra": {}}],
                         "disks": [{"bay": 1, "state": "singing"}, null], "users": [null, "", "owner"], "startedAt": "2026-10-14T16:00:00Z"}
                        """.Replace("1e3", "1000", StringComparison.Ordinal)
                    )
            )
            .Read(Now);
        var channel = reading!.Channels.Single();
        Assert.Equal(
            (RecordedWhen.Untold, ChannelState.Untold, null, 1000, null, null),
            (channel.When, channel.State, channel.PeakMbps, channel.Wide, channel.RecordedPercent, channel.Oldest)
        );
        Assert.Equal(DiskState.Untold, reading.Disks.Single().State);
        Assert.Equal(["owner"], reading.Users!.Value);
        // Without its clock nobody knows when it was started.
        Assert.Equal((null, null), (reading.Clock, reading.StartedAt));
        Assert.Null(reading.Notifies);
    }

    [Fact]
    public async Task TenThousandAreHeardAndOneMoreIsNot()
    {
        static string Many(int n) =>
            "{\"channels\": ["
            + string.Join(',', Enumerable.Range(1, n).Select(i => $"{{\"number\": {i}, \"name\": \"{new string('x', 100)}\"}}"))
            + "]}";
        var (reading, _) = await Asking(_ => Json(Many(10_000))).Read(Now);
        Assert.Equal((10_000, 60), (reading!.Channels.Length, reading.Channels[0].Name.Length));
        Assert.Equal("recorder.nonsense", (await Asking(_ => Json(Many(10_001))).Read(Now)).Trouble!.Code);
        Assert.Equal("recorder.nonsense", (await Asking(_ => Json(new string(' ', 5_000_000))).Read(Now)).Trouble!.Code);
    }

    private static readonly ClipAsk Ask = new(new(2026, 10, 14, 16, 7, 0, TimeSpan.Zero), new(0, 0.1));

    private static HttpResponseMessage Clip(
        string body,
        string type = "multipart/x-mixed-replace; boundary=picture",
        string? channel = "13"
    )
    {
        var response = new HttpResponseMessage(HttpStatusCode.OK) { Content = new ByteArrayContent(Encoding.Latin1.GetBytes(body)) };
        response.Content.Headers.TryAddWithoutValidation("Content-Type", type);
        if (channel is not null)
            response.Headers.TryAddWithoutValidation("Channel", channel);
        return response;
    }

    private static string Frames(int count, bool isWhole = true) =>
        string.Concat(
            Enumerable
                .Range(0, count)
                .Select(i =>
                    $"{(i == 0 ? "" : "\r\n")}--picture\r\nContent-Type: image/jpeg\r\nTimestamp: {Ask.There.AddSeconds(i - 2).ToString("O", CultureInfo.InvariantCulture)}\r\n\r\nframe {i}"
                )
        ) + (isWhole ? "\r\n--picture--\r\n" : "\r\n--pic");

    [Fact]
    public async Task AClipIsHeardPictureByPicture()
    {
        var asked = "";
        var (clip, still, trouble) = await Asking(
                r =>
                {
                    asked = r.RequestUri!.PathAndQuery;
                    return Clip(Frames(20));
                },
                "R 1/2"
            )
            .Clip(13, Ask, Now);
        Assert.Null(trouble);
        Assert.StartsWith("/recorder/R%201%2F2/clip?channel=13&from=2026-10-14T16%3A06%3A54.9", asked, StringComparison.Ordinal);
        Assert.Equal((20, true, 13), (clip!.FrameTimes.Length, clip.IsWhole, clip.Channel));
        // A second after the event.
        Assert.Equal("frame 3", Encoding.ASCII.GetString(still!));
        Assert.Equal(ClipVerdict.Found, ClipProof.Of(Ask, 13, RecordedWhen.Motion, clip).Verdict);
        var (cut, _, _) = await Asking(_ => Clip(Frames(5, false))).Clip(13, Ask, Now);
        Assert.False(cut!.IsWhole);
        Assert.Equal(ClipVerdict.CutOff, ClipProof.Of(Ask, 13, RecordedWhen.Motion, cut).Verdict);
    }

    [Fact]
    public async Task WhatIsNoClipIsSaidSo()
    {
        async Task<string?> Of(Func<HttpResponseMessage> answer) => (await Asking(_ => answer()).Clip(13, Ask, Now)).Trouble?.Code;
        Assert.Equal("recorder.nonsense", await Of(() => Clip("hello", "text/html")));
        Assert.Equal("recorder.nonsense", await Of(() => Clip(Frames(3), "multipart/x-mixed-replace")));
        Assert.Equal("recorder.nonsense", await Of(() => Clip(Frames(3).Replace("Timestamp", "Time", StringComparison.Ordinal))));
        Assert.Equal(
            "recorder.nonsense",
            await Of(() => Clip("--picture\r\nTimestamp: 2026-10-14T16:07:00Z\r\n\r\n" + new string('x', 3_000_000)))
        );
        Assert.Equal("recorder.nonsense", await Of(() => Clip(Frames(4_001))));
        Assert.Equal("recorder.silent", await Of(() => Clip("--pic")));
        Assert.Equal("recorder.no-channel", await Of(() => Json("", HttpStatusCode.NotFound)));
        Assert.Equal("recorder.silent", await Of(() => Json("", HttpStatusCode.ServiceUnavailable)));
        Assert.Equal("recorder.nonsense", await Of(() => Json("", HttpStatusCode.Redirect)));
        Assert.Null(await Of(() => new HttpResponseMessage(HttpStatusCode.NoContent)));
        Assert.Equal("recorder.silent", await Of(() => throw new HttpRequestException("no")));
    }

    [Fact]
    public async Task WhoHangsIsGivenUp()
    {
        var hanging = new HttpRecorder(
            new HttpClient(
                new Answers(
                    async (_, stop) =>
                    {
                        await Task.Delay(Timeout.Infinite, stop);
                        throw new InvalidOperationException();
                    }
                )
            )
            {
                BaseAddress = new Uri("http://recorder.test"),
            },
            "R-1",
            TimeSpan.FromMilliseconds(50),
            TimeProvider.System
        );
        Assert.Equal("recorder.silent", (await hanging.Read(Now)).Trouble!.Code);
        Assert.Equal("recorder.silent", (await hanging.Clip(1, Ask, Now)).Trouble!.Code);
        Assert.Equal("recorder.silent", (await hanging.Set([new(1, "VL-01")], Now))!.Code);
    }
}
