using System.Text.Json.Nodes;

namespace Walkdown.Server.Tests;

/// <summary>The way of an entry: what it is answered with, what it leaves in memory, and many at once.</summary>
public sealed class EntryTests(Site site) : IClassFixture<Site>
{
    private string Job => $"/api/jobs/{site.JobId}";

    private string Row(JsonNode card, string check, string part = "", string under = "any") =>
        Site.Row(card, check, part, under)["id"]!.ToString();

    /// <summary>As a page does: what changed is laid over what it holds.</summary>
    private static JsonNode Laid(JsonNode known, JsonNode saved)
    {
        if (saved["whole"] is JsonObject whole)
            return whole.DeepClone();
        var (next, changed) = (known.DeepClone(), saved["changed"]!);
        Assert.Equal(known["sequence"]!.GetValue<long>(), changed["follows"]!.GetValue<long>());
        next["sequence"] = saved["sequence"]!.DeepClone();
        next["faultWords"] = changed["faultWords"]!.DeepClone();
        foreach (var (name, value) in changed.AsObject())
            if (name is not ("follows" or "faultWords" or "rows"))
                next["card"]![name] = value?.DeepClone();
        foreach (var row in changed["rows"]!.AsArray())
        {
            var mine = next["card"]!["rows"]!.AsArray().Single(r => r!["id"]!.ToString() == row!["id"]!.ToString())!;
            foreach (var (name, value) in row!.AsObject())
                mine[name] = value?.DeepClone();
        }
        return next;
    }

    [Fact]
    public async Task WhatAnEntryIsAnsweredWithMakesTheCardThatIsOnRecord()
    {
        const string Label = "PT-03";
        var known = await site.Card(Label);
        async Task Enter(string what, object body, bool small = true)
        {
            var (status, saved) = await site.Send($"/api/cards/{site.Stops[Label]}/{what}", site.Entry(body));
            Assert.True(status == 200, saved.ToJsonString());
            Assert.Equal(small, saved["changed"] is not null);
            known = Laid(known, saved);
            var there = await site.Card(Label);
            Assert.Equal(there.ToJsonString(), known.ToJsonString());
        }
        object Typed(string row, string text) =>
            new
            {
                row,
                source = "typed",
                text,
                instrumentId = site.Instruments["Camera tester 1"],
            };
        var length = Row(known, "cable.length");
        await Enter("readings", Typed(length, "140"));
        await Enter("readings", Typed(Row(known, "cable.loop-resistance", "1-2"), "9.9"));
        await Enter(
            "faults",
            new
            {
                row = length,
                title = "longer than planned",
                severity = "major",
            }
        );
        var fault = known["card"]!["faults"]![0]!["fault"]!["id"]!.ToString();
        await Enter($"faults/{fault}/steps", new { text = "asked the terminal" });
        await Enter(
            "concessions",
            new
            {
                row = length,
                allowedBy = "Odile Farrow",
                reason = "the tray is what it is",
            }
        );
        await Enter("notes", new { row = length, text = "measured twice" });
        await Enter("notes", new { text = "of the place" });
        await Enter("exemptions", new { row = Row(known, "cable.label"), reason = "no label ordered" });
        await Enter("blocks", new { blockedBy = "terminal", reason = "lane closed" });
        await Enter("block-ends", new { of = known["card"]!["blocked"]!["id"]!.ToString() });
        var run = known["place"]!["runs"]![0]!["id"]!.ToString();
        // Work may void anything: the whole Card.
        await Enter(
            "acts",
            new
            {
                kind = "re-crimp",
                runId = run,
                end = "far",
            },
            small: false
        );
        var act = known["card"]!["acts"]![0]!["id"]!.ToString();
        await Enter("readings", Typed(length, "41.5"));
        await Enter("withdrawals", new { of = act, reason = "another cable" });
        await Enter("readings", Typed(length, "41.6"));
    }

    [Fact]
    public async Task AReadingIsAnsweredBriefly()
    {
        var row = Row(await site.Card("PT-04"), "cable.label");
        using var response = await site.Http.PostAsync(
            $"/api/cards/{site.Stops["PT-04"]}/readings",
            new StringContent(
                site.Entry(
                        new
                        {
                            row,
                            source = "typed",
                            value = new { kind = "yesNo", yes = true },
                        }
                    )
                    .ToJsonString(),
                System.Text.Encoding.UTF8,
                "application/json"
            )
        );
        var bytes = (await response.Content.ReadAsByteArrayAsync()).Length;
        Assert.InRange(bytes, 500, 8 * 1024);
    }

    [Fact]
    public async Task ManyAtOnceAreEachKeptOrRefusedForThemselves()
    {
        string[] labels = ["BW-01", "BW-02", "BW-03", "GT-01"];
        var rows = new Dictionary<string, string>();
        foreach (var label in labels)
            rows[label] = Row(await site.Card(label), "cable.length");
        async Task<(int Status, JsonNode Body)> One(int n)
        {
            var label = labels[n % labels.Length];
            // Every fifth is one that cannot be: of no row, of nobody, or the work that runs alone.
            object body =
                n % 5 == 0
                    ? new
                    {
                        row = "cable.length~none",
                        source = "typed",
                        text = "1",
                    }
                    : new
                    {
                        row = rows[label],
                        source = "typed",
                        text = (40 + n % 7).ToString(System.Globalization.CultureInfo.InvariantCulture),
                    };
            var entry = site.Entry(body);
            if (n % 25 == 1)
                entry["by"] = Guid.NewGuid().ToString();
            if (n % 25 != 2)
                return await site.Send($"/api/cards/{site.Stops[label]}/readings", entry);
            return await site.Send($"/api/cards/{site.Stops[label]}/acts", site.Entry(new { kind = "restarted" }));
        }
        var answers = await Task.WhenAll(Enumerable.Range(0, 200).Select(One));
        var kept = 0;
        for (var n = 0; n < answers.Length; n++)
        {
            var right = n % 5 != 0 && n % 25 != 1;
            Assert.True(answers[n].Status == (right ? 200 : 422), $"{n}: {answers[n].Body.ToJsonString()}");
            kept += right ? 1 : 0;
        }
        // Each has a number of its own, and what is in memory is what is on the disk.
        var sequences = answers.Where(a => a.Status == 200).Select(a => a.Body["sequence"]!.GetValue<long>()).ToList();
        Assert.Equal(kept, sequences.Distinct().Count());
        var inMemory = new List<string>();
        foreach (var label in labels)
            inMemory.Add((await site.Card(label)).ToJsonString());
        await Reloaded();
        for (var i = 0; i < labels.Length; i++)
            Assert.Equal(inMemory[i], (await site.Card(labels[i])).ToJsonString());
    }

    /// <summary>What a change does not alter stays in memory and is right: a new person may write at once, a meter that proves wrong is in
    /// doubt at once, on Cards that were looked at before.</summary>
    [Fact]
    public async Task AChangeReachesTheCardsThatAreInMemory()
    {
        var row = Row(await site.Card("PT-05"), "cable.length");
        var meter = site.Instruments["Cable meter 2"];
        var reading = site.Entry(
            new
            {
                row,
                source = "typed",
                text = "41.5",
                instrumentId = meter,
            }
        );
        Assert.Equal(200, (await site.Post($"/api/cards/{site.Stops["PT-05"]}/readings", reading)).Status);
        var somebody = Guid.NewGuid();
        var note = site.Entry(new { text = "mine" });
        note["by"] = somebody.ToString();
        Assert.Equal(422, (await site.Post($"/api/cards/{site.Stops["PT-05"]}/notes", note)).Status);
        Assert.Equal(
            200,
            (
                await site.Post(
                    $"{Job}/people",
                    new
                    {
                        id = somebody,
                        name = "Tomas Reed",
                        role = "helper",
                        mayWitness = false,
                    }
                )
            ).Status
        );
        Assert.Equal(200, (await site.Post($"/api/cards/{site.Stops["PT-05"]}/notes", note)).Status);
        var before = Site.Row(await site.Card("PT-05"), "cable.length");
        Assert.Equal("counts", before["attempts"]!.AsArray().Last()!["standing"]!.ToString());
        var check = site.Entry(
            new
            {
                unit = "metre",
                reference = 100,
                reading = 60,
            }
        );
        Assert.Equal(200, (await site.Post($"{Job}/instruments/{meter}/checks", check)).Status);
        var after = Site.Row(await site.Card("PT-05"), "cable.length");
        Assert.Equal("instrumentInDoubt", after["attempts"]!.AsArray().Last()!["standing"]!.ToString());
        var stop = (await site.Get($"{Job}/walk"))["areas"]!
            .AsArray()
            .SelectMany(a => a!["stops"]!.AsArray())
            .Single(s => s!["label"]!.ToString() == "PT-05")!;
        Assert.Equal((await site.Card("PT-05"))["card"]!["taken"]!.GetValue<int>(), stop["taken"]!.GetValue<int>());
    }

    /// <summary>Two cameras on one cable: what is read and taken back at one is read and taken back at the other, in memory as on the
    /// disk.</summary>
    [Fact]
    public async Task WhatIsReadOnASharedRunIsReadAndTakenBackAtBothEnds()
    {
        var pair = new List<string>();
        foreach (var (label, _) in site.Stops)
        {
            var card = await site.Card(label);
            if (card["card"]!["rows"]!.AsArray().Count(r => r!["key"]!["check"]!.ToString() == "cable.loop-resistance") == 2)
                pair.Add(label);
        }
        Assert.True(pair.Count >= 2, "the demo has two cameras on one cable");
        string Counts(JsonNode card) => Site.Row(card, "cable.length")["counts"]?.ToString() ?? "none";
        var row = Row(await site.Card(pair[0]), "cable.length");
        Assert.Equal(row, Row(await site.Card(pair[1]), "cable.length"));
        var reading = site.Entry(
            new
            {
                row,
                source = "typed",
                text = "33",
                instrumentId = site.Instruments["Camera tester 1"],
            }
        );
        Assert.Equal(200, (await site.Post($"/api/cards/{site.Stops[pair[0]]}/readings", reading)).Status);
        Assert.Equal(reading["id"]!.ToString(), Counts(await site.Card(pair[1])));
        var inMemory = (await site.Card(pair[1])).ToJsonString();
        await Reloaded();
        Assert.Equal(inMemory, (await site.Card(pair[1])).ToJsonString());

        await site.Add(pair[0], "withdrawals", new { of = reading["id"]!.ToString(), reason = "another cable" });
        Assert.Equal("none", Counts(await site.Card(pair[1])));
        inMemory = (await site.Card(pair[1])).ToJsonString();
        await Reloaded();
        Assert.Equal(inMemory, (await site.Card(pair[1])).ToJsonString());
        Assert.Equal("none", Counts(await site.Card(pair[0])));
    }

    /// <summary>A change that alters everything: whatever is shown next comes from the disk.</summary>
    private async Task Reloaded()
    {
        var practice = await site.Get($"{Job}/practice");
        var settings = practice["settings"]!.AsObject();
        settings["sides"]!["start-up"] = settings["sides"]!["start-up"]!.ToString() == "switch" ? "recorder" : "switch";
        for (var n = 0; n < 2; n++)
        {
            var (status, work) = await site.Send(
                $"{Job}/practice",
                new
                {
                    settings,
                    why = "to have everything read again",
                    by = site.Ina,
                }
            );
            Assert.True(status is 200 or 202, work.ToJsonString());
            await site.Over(work);
            settings["sides"]!["start-up"] = settings["sides"]!["start-up"]!.ToString() == "switch" ? "recorder" : "switch";
        }
    }

    [Fact]
    public async Task DefinitionsTravelOnceByTheirVersion()
    {
        var card = JsonNode.Parse(await site.Http.GetStringAsync($"/api/cards/{site.Stops["PT-03"]}"))!;
        Assert.All(card["card"]!["rows"]!.AsArray(), row => Assert.Null(row!["check"]));
        using var first = await site.Http.GetAsync("/api/catalogue/definitions");
        var tag = first.Headers.ETag!;
        Assert.Equal($"\"{card["definitions"]}\"", tag.Tag);
        using var again = new HttpRequestMessage(HttpMethod.Get, "/api/catalogue/definitions");
        again.Headers.IfNoneMatch.Add(tag);
        using var answer = await site.Http.SendAsync(again);
        Assert.Equal(304, (int)answer.StatusCode);
        Assert.Empty(await answer.Content.ReadAsByteArrayAsync());
        using var other = new HttpRequestMessage(HttpMethod.Get, "/api/catalogue/definitions");
        other.Headers.TryAddWithoutValidation("If-None-Match", "\"older\"");
        Assert.Equal(200, (int)(await site.Http.SendAsync(other)).StatusCode);
        // The record keeps them whole: it is read without the server.
        var report = await site.Get($"/api/cards/{site.Stops["PT-03"]}/report.json");
        Assert.All(report["card"]!["rows"]!.AsArray(), row => Assert.NotNull(row!["check"]!["judge"]));
    }

    [Fact]
    public async Task AReadingCitesThePictureThatItWasSeenInAsLongAsThereIsOne()
    {
        const string Label = "PT-05";
        var (card, place) = (await site.Card(Label), site.Stops[Label]);
        var picture = Guid.CreateVersion7();
        var taken = DateTimeOffset.UtcNow.AddMinutes(-30);
        var reading = site.Entry(
            new
            {
                row = Row(card, "cable.length"),
                source = "typed",
                text = "60",
                evidence = new[] { new { pictureId = picture } },
            }
        );
        var (early, refused) = await site.Send($"/api/cards/{place}/readings", reading);
        Assert.Equal((422, "evidence.unknown-picture"), (early, refused["code"]!.ToString()));
        using var file = new ByteArrayContent(HandoverTests.Picture(90));
        file.Headers.ContentType = new("application/octet-stream");
        using var sent = await site.Http.PostAsync(
            $"/api/cards/{place}/pictures?id={picture}&by={site.Ina}&takenAt={Uri.EscapeDataString(taken.ToString("O"))}&clockOffsetMs=0",
            file
        );
        Assert.Equal(200, (int)sent.StatusCode);
        var line = Site.Json(await sent.Content.ReadAsStringAsync()).AsArray().Single(p => p!["id"]!.ToString() == picture.ToString())!;
        // Taken without a network, it says when it was taken, not when it came.
        Assert.Equal(taken, line["takenAt"]!.GetValue<DateTimeOffset>(), TimeSpan.FromMilliseconds(2));
        Assert.Equal(200, (await site.Send($"/api/cards/{place}/readings", reading)).Status);
        var attempt = Site.Row(await site.Card(Label), "cable.length")["attempts"]!.AsArray().Last()!;
        Assert.Equal(line["hash"]!.ToString(), attempt["evidence"]!.AsArray().Single()!["pictureHash"]!.ToString());
        // From the disk as from memory.
        await Reloaded();
        var anew = Site.Row(await site.Card(Label), "cable.length")["attempts"]!.AsArray().Last()!;
        Assert.Equal(attempt.ToJsonString(), anew.ToJsonString());
        // Erased, it can be cited no more; what was read stays, with the hash of what was seen.
        var (erased, _) = await site.Post(
            $"/api/cards/{place}/pictures/{picture}/erase",
            new
            {
                id = Guid.CreateVersion7(),
                by = "M. Thole",
                reason = "a face",
            }
        );
        Assert.Equal(200, erased);
        reading["id"] = Guid.CreateVersion7().ToString();
        Assert.Equal("evidence.unknown-picture", (await site.Send($"/api/cards/{place}/readings", reading)).Body["code"]!.ToString());
        Assert.Single(Site.Row(await site.Card(Label), "cable.length")["attempts"]!.AsArray().Last()!["evidence"]!.AsArray());
    }

    [Fact]
    public async Task AStrangersPictureQuestionIsAnsweredInWords()
    {
        var place = site.Stops["PT-04"];
        async Task<(int, string)> Send(string query, string type, byte[] body)
        {
            using var content = new ByteArrayContent(body);
            content.Headers.ContentType = new(type);
            using var answer = await site.Http.PostAsync($"/api/cards/{place}/pictures?{query}", content);
            return ((int)answer.StatusCode, Site.Json(await answer.Content.ReadAsStringAsync())["code"]!.ToString());
        }
        var who = $"id={Guid.CreateVersion7()}&by={site.Ina}";
        Assert.Equal((415, "problem.media"), await Send(who, "text/plain", [1, 2, 3]));
        Assert.Equal(
            (400, "problem.unreadable"),
            await Send(who + "&takenAt=yesterday", "application/octet-stream", HandoverTests.Picture(1))
        );
        Assert.Equal(
            (422, "problem.time"),
            await Send(who + "&takenAt=1815-06-18T10:00:00Z", "application/octet-stream", HandoverTests.Picture(1))
        );
        Assert.Equal((422, "picture.not-a-picture"), await Send(who, "application/octet-stream", [1, 2, 3]));
        using var found = await site.Http.GetAsync($"/api/jobs/{Guid.NewGuid()}/found");
        Assert.Equal(404, (int)found.StatusCode);
        using var any = new HttpRequestMessage(HttpMethod.Get, "/api/catalogue/definitions");
        any.Headers.TryAddWithoutValidation("If-None-Match", "*");
        Assert.Equal(304, (int)(await site.Http.SendAsync(any)).StatusCode);
    }
}
