using System.Text.Json;
using System.Text.Json.Nodes;
using Microsoft.Data.Sqlite;

namespace Walkdown.Server.Tests;

/// <summary>Looks at a simulated network over the real protocols, what is set there, and what becomes of logins.</summary>
public sealed class NetworkTests
{
    private const string FactorySecret = "setup-0000";

    private static readonly object Factory = new { user = "setup", password = FactorySecret };

    /// <summary>The login of each place, as its custodian would paste them.</summary>
    private static readonly object[] Logins =
    [
        .. StandIns
            .Schedule.Rows(File.ReadAllText(Path.Combine(Site.Root, "demo", "schedule.csv")))
            .Where(r => r["serial"].Length > 0)
            .Select(r => new
            {
                at = r["label"],
                user = "site",
                password = $"Tern-{r["serial"]}-46",
            }),
    ];

    private static async Task<JsonNode> Do(Site site, string what, object body)
    {
        var asked = JsonSerializer.SerializeToNode(body)!.AsObject();
        if (what is "mends" or "restarts" or "given")
            asked["by"] ??= site.Ina;
        var (status, work) = await site.Post($"/api/jobs/{site.JobId}/network/{what}", asked);
        Assert.True(status == 200, work.ToJsonString());
        return await site.Over(work);
    }

    private static Task<JsonNode> Mend(Site site, string label, string mend, string? by = null) =>
        Do(
            site,
            "mends",
            new
            {
                deviceId = site.Stops[label],
                mend,
                logins = Logins,
                by = by ?? site.Ina,
            }
        );

    private static Task<JsonNode> Look(Site site, string way, object[]? names = null, bool confirmed = true) =>
        Do(
            site,
            "looks",
            new
            {
                way,
                confirmed,
                names = names ?? [],
                logins = Logins,
                by = "Ina Solberg",
            }
        );

    /// <summary>The ledger, each of its lines with all that is known of it.</summary>
    private static async Task<JsonNode> Ledger(Site site)
    {
        var ledger = await site.Get($"/api/jobs/{site.JobId}/network");
        var rows = (await site.Get($"/api/jobs/{site.JobId}/network/rows?take=500"))["rows"]!;
        Assert.Equal(ledger["rows"]!.AsArray().Select(l => l!["key"]!.ToString()), rows.AsArray().Select(r => r!["key"]!.ToString()));
        ledger["rows"] = rows.DeepClone();
        return ledger;
    }

    private static JsonNode Row(JsonNode ledger, string label) =>
        ledger["rows"]!.AsArray().Single(l => l!["planned"]?["label"]?.ToString() == label)!;

    /// <summary>What the network showed goes onto the Cards, by a person.</summary>
    private static async Task TakeRows(Site site)
    {
        var draft = (await Do(site, "rows", new { }))["results"]!;
        // What is shown before it is taken is in the words of its row, and no code of ours.
        Assert.All(
            draft["lines"]!.AsArray().SelectMany(l => new[] { l!["text"], l["wasText"] }).OfType<JsonNode>(),
            t =>
                Assert.DoesNotContain(
                    t.ToString(),
                    (string[])["two", "one", "mask", "as-plan", "first-search", "two-ways", "frozen-in-pool"]
                )
        );
        var (status, taken) = await site.Post(
            $"/api/jobs/{site.JobId}/results/{draft["id"]}/take",
            site.Entry(new { fates = new[] { "in", "out", "notJudged" } })
        );
        Assert.True(status == 200, taken.ToJsonString());
    }

    private static string[] Notes(JsonNode ledger, string label) =>
        [
            .. Row(ledger, label)["notes"]!
                .AsArray()
                .Select(n => n!["code"]!.ToString())
                .Where(c => c != "ledger.found.macLocallyAdministered"),
        ];

    [Fact]
    public async Task TheLadderFindsWhoCanBeFoundAndSaysOfTheRestWhatItKnows()
    {
        using var site = Site.WithField();
        var ledger = await Ledger(site);
        Assert.Equal("search", ledger["next"]!.ToString());
        Assert.Equal(["ledger.not-looked"], Notes(ledger, "CC-01"));
        Assert.Equal("done", (await Look(site, "search"))["state"]!.ToString());
        ledger = await Ledger(site);
        // A recorder and a switch answer no search for cameras: nobody has looked for them yet.
        Assert.All((string[])["R-1", "CR-01"], gear => Assert.Equal(["ledger.no-search"], Notes(ledger, gear)));
        Assert.Equal("unlooked", Row(ledger, "R-1")["standing"]!.ToString());
        Assert.Equal("searchAgain", ledger["next"]!.ToString());
        Assert.Contains("ledger.silent.nobody-looked", Notes(ledger, "PT-04"));
        Assert.Equal(["ledger.name-differs"], Notes(ledger, "GT-06"));
        Assert.Equal(["ledger.found.maskTooWide"], Notes(ledger, "VL-06"));
        Assert.Equal(["ledger.found.gatewayDiffers"], Notes(ledger, "VL-08"));
        Assert.Equal(["ledger.firmware-differs"], Notes(ledger, "CC-08"));
        Assert.Equal(["ledger.announces-elsewhere"], Notes(ledger, "CC-13"));
        Assert.Equal(["ledger.stream-not-as-said"], Notes(ledger, "BW-02"));
        Assert.Equal("H264 2560x1440", Row(ledger, "CC-01")["found"]!["streams"]![0]!["described"]!.ToString());
        Assert.Equal(["ledger.time-by-hand", "ledger.clock-step-behind"], Notes(ledger, "CC-14"));
        Assert.Equal(["asked.login-refused"], Notes(ledger, "FB-01"));
        Assert.Contains("ledger.found.duplicateAddress", Notes(ledger, "CC-10"));
        Assert.Contains("ledger.found.duplicateAddress", Notes(ledger, "CC-11"));
        Assert.Contains("ledger.found.factoryAddressShared", Notes(ledger, "BW-03"));
        Assert.Contains("ledger.replaced-device", Notes(ledger, "VL-07"));
        Assert.Contains("ledger.leased-needs-reservation", Notes(ledger, "GT-04"));
        // Heard from another network, as a search crosses what addresses do not.
        Assert.Equal("10.46.9.27", Row(ledger, "VL-09")["found"]!["address"]!.ToString());
        Assert.Equal(
            ["ledger.unknown-device"],
            ledger["rows"]!
                .AsArray()
                .Where(l => l!["planned"] is null)
                .SelectMany(l => l!["notes"]!.AsArray())
                .Select(n => n!["code"]!.ToString())
                .Where(c => c.StartsWith("ledger.unknown", StringComparison.Ordinal))
        );
        await Look(site, "searchAgain");
        Assert.Empty(Notes(await Ledger(site), "PT-04"));
        // Nobody's range is asked before a person has seen it.
        Assert.Contains("254", (await Look(site, "rangeScan", confirmed: false))["why"]!.ToString());
        await Look(site, "rangeScan");
        ledger = await Ledger(site);
        Assert.Equal(["ledger.search-off"], Notes(ledger, "PT-03"));
        Assert.Equal(["asked.no-camera"], Notes(ledger, "CR-01"));
        var missing = ledger["rows"]!.AsArray().Where(l => l!["planned"] is not null && l["found"] is null);
        Assert.Equal(["BW-06"], missing.Select(l => l!["planned"]!["label"]!.ToString()));
        Assert.Equal(4, ledger["looks"]!.AsArray().Count + 1);
    }

    [Fact]
    public async Task DevicesOnOneFactoryAddressGetTheirsOneAfterAnother()
    {
        using var site = Site.WithField();
        (await site.Outside.PostAsync("/panel/cameras/as-made", null)).EnsureSuccessStatusCode();
        var work = await Do(site, "given", new { factory = Factory });
        Assert.True(work["state"]!.ToString() == "done", work["why"]?.ToString());
        var cameras = Site.Json(await site.Outside.GetStringAsync("/panel/cameras")).AsArray();
        var planned = StandIns
            .Schedule.Rows(File.ReadAllText(Path.Combine(Site.Root, "demo", "schedule.csv")))
            .Where(r => r["address"].Length > 0)
            .ToDictionary(r => r["label"], r => r["address"]);
        // Two do not: the stranger is nobody's, and the unit that hangs at VL-07 is none of the register; it is the last, or those behind
        // it wait.
        var left = cameras.Where(c => c!["address"]!.ToString() == "192.168.46.10").Select(c => c!["label"]!.ToString()).ToList();
        Assert.All(
            cameras.Where(c => c!["isCamera"]!.GetValue<bool>() && !left.Contains(c["label"]!.ToString())),
            c => Assert.Equal(planned[c!["label"]!.ToString()], c["address"]!.ToString())
        );
        Assert.True(work["look"]!["found"]!.GetValue<int>() >= 20, work.ToJsonString());
        Assert.Contains(work["look"]!["words"]!.AsArray(), w => w!["code"]!.ToString() == "lan.give-unknown");
    }

    /// <summary>What Walkdown does at a device is work on its Card, and nothing is done to one that is being updated.</summary>
    [Fact]
    public async Task WhatIsDoneFromHereStandsOnTheCardAndWaitsForAnUpdate()
    {
        using var site = Site.WithField();
        await Look(site, "search");
        Task<JsonNode> Mend(string label, string mend, string? by = null) => NetworkTests.Mend(site, label, mend, by);
        async Task<string[]> Acts(string label) =>
            [.. (await site.Card(label))["card"]!["acts"]!.AsArray().Select(a => $"{a!["actKind"]}: {a["text"]}")];
        async Task<string> State(string label, string check) => Site.Row(await site.Card(label), check)["state"]!.ToString();
        var row = Site.Row(await site.Card("VL-06"), "address.unique")["id"]!.ToString();
        await site.Add(
            "VL-06",
            "readings",
            new
            {
                row,
                source = "typed",
                value = new { kind = "yesNo", yes = true },
            }
        );
        Assert.Equal("in", await State("VL-06", "address.unique"));
        Assert.Equal("lan.holds", (await Mend("VL-06", "setAddress"))["look"]!["words"]![0]!["code"]!.ToString());
        Assert.StartsWith("address-changed: From 10.46.", Assert.Single(await Acts("VL-06")));
        Assert.Equal("stale", await State("VL-06", "address.unique"));
        await Mend("CC-02", "setTimeSource");
        Assert.StartsWith("time-changed: ", Assert.Single(await Acts("CC-02")));
        // A name moves nobody: what was proven stays.
        await Mend("GT-06", "setName");
        Assert.Empty(await Acts("GT-06"));
        // A stranger sets nothing.
        Assert.NotNull((await Mend("VL-09", "setAddress", Guid.NewGuid().ToString()))["why"]);
        Assert.Empty(await Acts("VL-09"));
        await site.Add("VL-09", "acts", new { kind = "update-started" });
        Assert.Contains("VL-09 is being updated", (await Mend("VL-09", "setAddress"))["why"]!.ToString());
        var restart = await Do(site, "restarts", new { deviceId = site.Stops["VL-09"], logins = Logins });
        Assert.Contains("VL-09 is being updated", restart["why"]!.ToString());
        await site.Add("VL-09", "acts", new { kind = "updated" });
        Assert.Equal("lan.holds", (await Mend("VL-09", "setAddress"))["look"]!["words"]![0]!["code"]!.ToString());
        Assert.Equal(["update-started", "updated", "address-changed"], (await Acts("VL-09")).Select(a => a.Split(':')[0]));
    }

    [Fact]
    public async Task WhatIsSetIsReadBackAndWhatDoesNotHoldIsSaidSo()
    {
        using var site = Site.WithField();
        await Look(site, "search");
        async Task<string> Mend(string label, string mend) =>
            (await NetworkTests.Mend(site, label, mend)) is var over && over["look"] is { } look
                ? look["words"]![0]!["code"]!.ToString()
                : over["why"]!.ToString();
        Assert.Equal("lan.holds", await Mend("GT-06", "setName"));
        Assert.Equal("lan.holds", await Mend("VL-06", "setAddress"));
        Assert.Equal("lan.holds", await Mend("VL-08", "setGateway"));
        Assert.Equal("lan.holds", await Mend("VL-09", "setAddress"));
        Assert.Equal("lan.holds", await Mend("CC-02", "setTimeSource"));
        // This model takes its time from the recorder alone: that is told, and no press of ours is taken for it.
        Assert.StartsWith("There is nothing of this kind", await Mend("CC-14", "setTimeSource"));
        Assert.Equal("@setting.time", Row(await Ledger(site), "CC-14")["setAt"]![0]!["args"]![0]!.ToString());
        // One that takes it and forgets it until it is started, and one that refuses.
        Assert.Equal("lan.not-held", await Mend("VL-02", "setName"));
        Assert.Contains("This setting cannot be changed here", await Mend("VL-03", "setName"));
        // Nothing is there to mend any more, and a stranger at the address is not set.
        Assert.Contains("GT-06", await Mend("GT-06", "setName"));
        Assert.Contains("VL-07", await Mend("VL-07", "setName"));
        var restart = await Do(site, "restarts", new { deviceId = site.Stops["VL-02"], logins = Logins });
        // What was taken and shows only after a start is told by name.
        Assert.Equal(
            ["lan.kept", "lan.since-start @lan.what.name"],
            restart["look"]!["words"]!.AsArray().Select(w => w!["code"] + (w["code"]!.ToString() == "lan.kept" ? "" : " " + w["args"]![0]))
        );
        restart = await Do(site, "restarts", new { deviceId = site.Stops["VL-02"], logins = Logins });
        Assert.Equal(["lan.kept", "lan.start-same"], restart["look"]!["words"]!.AsArray().Select(w => w!["code"]!.ToString()));
        // One that leases is elsewhere after its start.
        restart = await Do(site, "restarts", new { deviceId = site.Stops["GT-04"], logins = Logins });
        Assert.Equal("lan.moved", restart["look"]!["words"]![0]!["code"]!.ToString());
        var ledger = await Ledger(site);
        foreach (var label in (string[])["GT-06", "VL-06", "VL-08", "VL-09", "VL-02"])
            Assert.Empty(Notes(ledger, label));
        Assert.Contains("ledger.moved-at-start", Notes(ledger, "GT-04"));
        var truth = Site.Json(await site.Outside.GetStringAsync("/panel/cameras")).AsArray();
        Assert.Equal("10.46.8.27", truth.Single(c => c!["label"]!.ToString() == "VL-09")!["address"]!.ToString());
    }

    /// <summary>The switches tell who hangs where: exchanged cords, a stranger, the server too many; and the camera side fills its
    /// row.</summary>
    [Fact]
    public async Task SwitchesTellWhoHangsOnWhichPort()
    {
        using var site = Site.WithField();
        await Look(site, "search");
        await Do(site, "lease-servers", new { by = "Ina Solberg" });
        var asked = await Do(site, "ports", new { by = "Ina Solberg" });
        Assert.Equal("ports.asked", asked["look"]!["words"]![0]!["code"]!.ToString());
        async Task<string[]> Told() =>
            [
                .. (await site.Get($"/api/jobs/{site.JobId}/network"))["ports"]!["findings"]!
                    .AsArray()
                    .Select(f => $"{f!["note"]!["code"]} {string.Join(' ', f["note"]!["args"]!.AsArray())}"),
            ];
        var told = await Told();
        Assert.Contains("ports.on-anothers CC-09 K2 16 CC-14 K2 11", told);
        Assert.Contains("ports.on-anothers CC-14 K2 11 CC-09 K2 16", told);
        Assert.Contains(told, w => w.StartsWith("ports.stranger-leases K2 23 02:46:0A:15:00:96 10.46.8.150", StringComparison.Ordinal));
        Assert.Contains(told, w => w.StartsWith("ports.stranger K2 22", StringComparison.Ordinal) && w.Contains("10.46.8.120"));
        Assert.Contains("ports.other-unit VL-07 K1 13 02:46:08:7A:10:05", told);
        // Without power nothing is learned, and that is no fault of the cord.
        Assert.Contains(told, w => w.StartsWith("ports.unseen BW-06", StringComparison.Ordinal));
        // The camera side is a reading of those that hang where they should, and of no others.
        var draft = (await Do(site, "rows", new { }))["results"]!;
        string[] roles =
        [
            .. draft["lines"]!.AsArray().Where(l => l!["function"]!.ToString() == "link.port-role").Select(l => l!["device"]!.ToString()),
        ];
        Assert.Contains("CC-08", roles);
        Assert.DoesNotContain("CC-09", roles);
        // The cords are put right.
        foreach (var label in (string[])["CC-09", "CC-14"])
            (await site.Outside.PostAsync($"/panel/network/{label}/mend", null, TestContext.Current.CancellationToken)).Dispose();
        await Do(site, "ports", new { by = "Ina Solberg" });
        Assert.DoesNotContain(await Told(), w => w.StartsWith("ports.on-anothers", StringComparison.Ordinal));
    }

    /// <summary>A recorder's row says what it has; from then on other figures can be tried, by what its cameras say of their
    /// streams.</summary>
    [Fact]
    public async Task ARecorderIsTriedOutWithOtherFigures()
    {
        using var site = Site.WithField();
        var at = $"/api/cards/{site.Stops["R-1"]}/recording";
        // Nobody has said what it has: nothing is foretold.
        var before = await site.Get(at);
        Assert.Equal((0, 0), (before["store"]!.AsArray().Count, before["read"]!.AsArray().Count));
        await Look(site, "search");
        async Task Say(string check, params (string Field, object Says)[] said)
        {
            var card = await site.Card("R-1");
            var row = card["card"]!["rows"]!.AsArray().Single(r => r!["key"]!["check"]!.ToString() == check)!;
            var lines = new[]
            {
                new
                {
                    said = said.Select(s => new
                    {
                        field = s.Field,
                        number = s.Says as int?,
                        word = s.Says as string,
                    }),
                },
            };
            await site.Add(
                "R-1",
                "readings",
                new
                {
                    row = row["id"]!.ToString(),
                    source = "typed",
                    value = new { kind = "form", lines },
                }
            );
        }
        await Say(
            "recorder.store",
            ("level", "one-parity"),
            ("disks", 6),
            ("disk", 12000),
            ("written", 1200),
            ("source", "recorder"),
            ("days", 31)
        );
        var read = await site.Get(at);
        Assert.Equal(47.5, read["read"]![0]!["retention"]!["days"]!.GetValue<double>(), 1);
        Assert.All(read["loads"]!["channels"]!.AsArray(), c => Assert.Equal("recorded", c!["origin"]!.ToString()));
        var most = read["read"]![0]!["most"]!["days"]!.GetValue<double>();
        async Task<string> Outcome(string query) => (await site.Get(at + "?" + query))["tried"]![0]!["outcome"]!.ToString();
        string Text(double days) => days.ToString(System.Globalization.CultureInfo.InvariantCulture);
        Assert.Equal("in", await Outcome($"days={Text(most - 0.1)}"));
        Assert.Equal("out", await Outcome($"days={Text(most + 0.1)}"));
        // What its line carries nobody has said: nothing is told of it, and then it is.
        Assert.Null(read["read"]![0]!["line"]);
        await Say("recorder.line", ("upload", 20), ("viewers", 2), ("each", 3));
        var line = (await site.Get(at + "?viewers=5"))["tried"]![0]!["line"]!;
        Assert.Equal((4, false), (line["mostViewers"]!.GetValue<int>(), line["isWithin"]!.GetValue<bool>()));
        Assert.True((await site.Get(at))["read"]![0]!["line"]!["isWithin"]!.GetValue<bool>());
        // A figure that cannot be is refused in words, wherever it comes from.
        foreach (var query in (string[])["days=0", "frames=-1", "rate=1e9", "motion=101", "viewers=-1", "viewers=1000000"])
        {
            using var refused = await site.Http.GetAsync(at + "?" + query, TestContext.Current.CancellationToken);
            Assert.Equal((query, 422), (query, (int)refused.StatusCode));
            Assert.NotEmpty(
                Site.Json(await refused.Content.ReadAsStringAsync(TestContext.Current.CancellationToken))["detail"]!.ToString()
            );
        }
        using var nobody = await site.Http.GetAsync($"/api/cards/{Guid.NewGuid()}/recording", TestContext.Current.CancellationToken);
        Assert.Equal(404, (int)nobody.StatusCode);
    }

    [Fact]
    public async Task AFactoryLoginIsProvenRefusedAndNoSecretIsWrittenAnywhere()
    {
        using var site = Site.WithField();
        await Look(site, "search");
        var work = await Do(site, "trials", new { factory = Factory, own = Logins });
        Assert.Equal("done", work["state"]!.ToString());
        var ledger = await Ledger(site);
        Assert.Equal(["ledger.factory-login-opens"], Notes(ledger, "CC-06"));
        Assert.Contains("ledger.own-login-refused", Notes(ledger, "FB-01"));
        Assert.Empty(Notes(ledger, "CC-01"));
        // One word for all is told, though nobody keeps the word.
        await Do(site, "trials", new { own = new[] { new { user = "setup", password = FactorySecret } } });
        Assert.Contains(
            Notes(await Ledger(site), "CC-06"),
            n => n is "ledger.login-shared" or "ledger.factory-login-opens" or "ledger.own-login-refused"
        );
        // Onto the Cards, by a person, who is shown first what it would be.
        await Do(site, "trials", new { factory = Factory, own = Logins });
        await TakeRows(site);
        var refused = Site.Row(await site.Card("CC-01"), "address.factory-refused");
        Assert.Equal("in", refused["state"]!.ToString());
        Assert.Equal("network", refused["attempts"]![0]!["source"]!.ToString());
        Assert.Equal("out", Site.Row(await site.Card("CC-06"), "address.factory-refused")["state"]!.ToString());
        Assert.Equal("out", Site.Row(await site.Card("CC-10"), "address.unique")["state"]!.ToString());
        site.Stop();
        var secrets = Logins.Select(l => (string)l.GetType().GetProperty("password")!.GetValue(l)!).Append(FactorySecret).ToArray();
        SqliteConnection.ClearAllPools();
        foreach (var file in Directory.EnumerateFiles(site.Data, "*", SearchOption.AllDirectories))
        {
            var text = System.Text.Encoding.Latin1.GetString(await File.ReadAllBytesAsync(file));
            Assert.DoesNotContain(secrets, s => text.Contains(s, StringComparison.Ordinal));
        }
    }

    [Fact]
    public async Task APlanIsHeldAgainstItselfAndAddressesAreGivenInTheOrderOfTheWalk()
    {
        using var site = Site.WithField();
        var ledger = await Ledger(site);
        var plan = ledger["plan"]!.DeepClone();
        async Task<(int Status, JsonNode Body)> Put(Action<JsonNode> change)
        {
            var other = plan.DeepClone();
            change(other);
            using var response = await site.Http.PutAsync(
                $"/api/jobs/{site.JobId}/network/plan",
                new StringContent(new JsonObject { ["plan"] = other }.ToJsonString(), System.Text.Encoding.UTF8, "application/json")
            );
            return ((int)response.StatusCode, Site.Json(await response.Content.ReadAsStringAsync()));
        }
        var (status, problem) = await Put(p => p["subnet"] = "10.46.8.5/24");
        Assert.Equal((422, "subnet"), (status, problem["field"]!.ToString()));
        Assert.Contains("10.46.8.0/24", problem["detail"]!.ToString());
        (status, problem) = await Put(p => p["poolLast"] = "10.46.9.9");
        Assert.Equal((422, "poolFirst"), (status, problem["field"]!.ToString()));
        (status, _) = await Put(p => (p["firstHostOffset"], p["gapEvery"], p["gapSize"]) = (100, 4, 2));
        Assert.Equal(200, status);
        var (_, proposed) = await site.Post($"/api/jobs/{site.JobId}/network/propose", new { anew = true, areas = new[] { "Gate" } });
        var given = proposed.AsArray().Select(p => p!["to"]!.ToString()).ToList();
        Assert.Equal("10.46.8.100", given[0]);
        Assert.Equal(given.Count, given.Distinct().Count());
        Assert.DoesNotContain("10.46.8.104", given);
        // The stranger's address is nobody's to give, once it is known.
        await Look(site, "search");
        await Put(p => p["firstHostOffset"] = 120);
        (_, proposed) = await site.Post($"/api/jobs/{site.JobId}/network/propose", new { anew = true, areas = new[] { "Gate" } });
        Assert.DoesNotContain("10.46.8.120", proposed.AsArray().Select(p => p!["to"]!.ToString()));
        (_, proposed) = await site.Post($"/api/jobs/{site.JobId}/network/propose", new { anew = false, areas = Array.Empty<string>() });
        Assert.All(proposed.AsArray(), p => Assert.Equal("", p!["from"]!.ToString()));
    }

    [Fact]
    public async Task ARecordersListIsReadAndEveryDifferenceIsNamed()
    {
        using var site = Site.WithField();
        await Look(site, "search");
        async Task ReadList(string recorder) => Assert.Equal("done", (await Do(site, "lists/read", new { recorder }))["state"]!.ToString());
        await ReadList("R-2");
        var ledger = await Ledger(site);
        // It is planned on R-1, and nobody has read that list.
        Assert.DoesNotContain("ledger.not-registered", Notes(ledger, "VL-05"));
        Assert.Equal("ledger.list.unread", Row(ledger, "VL-05")["unregistered"]!["code"]!.ToString());
        await ReadList("R-1");
        ledger = await Ledger(site);
        Assert.Contains("ledger.not-registered", Notes(ledger, "VL-05"));
        // Four heads, four channels, one serial number.
        Assert.Empty(Notes(ledger, "CC-04"));
        Assert.Contains("ledger.recorder-asks-elsewhere", Notes(ledger, "CC-05"));
        Assert.Contains("ledger.leased-and-asked-for", Notes(ledger, "GT-04"));
        Assert.Empty(Notes(ledger, "CC-01"));
        Assert.Contains(
            ledger["rows"]!.AsArray(),
            l => l!["class"]!.ToString() == "staleRegistration" && l["registered"]!["channel"]!.GetValue<int>() == 40
        );
        Assert.Contains("R-9", (await Do(site, "lists/read", new { recorder = "R-9" }))["why"]!.ToString());
        async Task<JsonNode> File(string text)
        {
            using var response = await site.Http.PostAsync(
                $"/api/jobs/{site.JobId}/network/lists/file?recorder=R-1",
                new ByteArrayContent(System.Text.Encoding.UTF8.GetBytes(text))
                {
                    Headers = { ContentType = new("application/octet-stream") },
                }
            );
            return await site.Over(Site.Json(await response.Content.ReadAsStringAsync()));
        }
        Assert.Equal(
            2,
            (await File("Ch;Camera name;IP address;Serial no.\n1;Door;10.46.8.29;TH4233\n2;@desk;10.46.8.30;TH4240\n"))["look"]![
                "found"
            ]!.GetValue<int>()
        );
        Assert.Contains("twice", (await File("channel,name\n1,a\n1,b\n"))["why"]!.ToString());
        Assert.Contains("heading", (await File("a,b\n1,2\n"))["why"]!.ToString());
        Assert.Contains("one", (await File("channel\none\n"))["why"]!.ToString());
    }

    [Fact]
    public async Task OnlyAddressesInsideAreAskedByHand()
    {
        using var site = Site.WithField();
        foreach (
            var (address, port, path) in ((string, int, string)[])
                [
                    ("8.8.8.8", 0, ""),
                    ("127.0.0.1", 0, ""),
                    ("10.46.8.29", 70000, ""),
                    ("10.46.8.29", 80, "no-slash"),
                    ("door.example", 80, ""),
                ]
        )
        {
            var work = await Look(
                site,
                "byHand",
                [
                    new
                    {
                        address,
                        port,
                        path,
                    },
                ]
            );
            Assert.True(work["state"]!.ToString() == "failed", address);
        }
        Assert.Equal(0, site.Count("SELECT COUNT(*) FROM Looks"));
    }

    [Fact]
    public async Task WhoGivesAddressesIsAskedAndASecondServerIsNamedUntilItIsUnplugged()
    {
        using var site = Site.WithField();
        Assert.Null((await Ledger(site))["leases"]);
        async Task<JsonNode> Asked()
        {
            var done = await Do(site, "lease-servers", new { by = "Ina Solberg" });
            Assert.True(done["state"]!.ToString() == "done", done.ToJsonString());
            return (await Ledger(site))["leases"]!;
        }
        string[] Of(JsonNode leases, int server) =>
            [.. leases["servers"]![server]!["notes"]!.AsArray().Select(n => n!["code"]!.ToString())];
        var before = await Asked();
        Assert.Equal(["10.46.8.150", "10.46.8.1"], before["servers"]!.AsArray().Select(s => s!["address"]!.ToString()));
        Assert.Equal(["lease.unplanned", "lease.outside-subnet"], Of(before, 0));
        Assert.Equal(["lease.as-planned"], Of(before, 1));
        Assert.Equal("two", before["word"]!.ToString());
        // Nobody has looked for devices: nobody is said to be silent.
        Assert.False((await Ledger(site))["hasSearched"]!.GetValue<bool>());
        // It is pulled out in the real world, and asked for again.
        var planted = Site.Json(await site.Http.GetStringAsync("/api/demo/network")).AsArray();
        Assert.Contains("old-router", planted.Select(o => o!["label"]!.ToString()));
        Assert.Equal(200, (await site.Send("/api/demo/network/old-router/mend", new { })).Status);
        Assert.Equal(404, (await site.Send("/api/demo/network/nobody/mend", new { })).Status);
        Assert.Equal(404, (await site.Send("/api/demo/network/VL-06/explode", new { })).Status);
        var after = await Asked();
        Assert.Equal(["10.46.8.1"], after["servers"]!.AsArray().Select(s => s!["address"]!.ToString()));
        Assert.Equal("one", after["word"]!.ToString());
        // The recorder's Card has a row for it: shown first, then taken by a person.
        await TakeRows(site);
        var row = Site.Row(await site.Card("R-1"), "link.rogue");
        Assert.Equal("in", row["state"]!.ToString());
        Assert.Equal("network", row["attempts"]![0]!["source"]!.ToString());
    }

    [Fact]
    public async Task WhatIsPlantedIsPutRightByHandToo()
    {
        using var site = Site.WithField();
        await Look(site, "search");
        Assert.Contains("ledger.found.maskTooWide", Notes(await Ledger(site), "VL-06"));
        Assert.Equal(200, (await site.Send("/api/demo/network/VL-06/mend", new { })).Status);
        await Look(site, "search");
        Assert.DoesNotContain("ledger.found.maskTooWide", Notes(await Ledger(site), "VL-06"));
        var planted = Site.Json(await site.Http.GetStringAsync("/api/demo/network")).AsArray();
        Assert.DoesNotContain("VL-06", planted.Select(o => o!["label"]!.ToString()));
    }
}
