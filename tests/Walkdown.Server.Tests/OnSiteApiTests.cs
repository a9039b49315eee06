using System.Net.Http.Json;
using System.Text.Json.Nodes;

namespace Walkdown.Server.Tests;

/// <summary>What is on site, what rows wait for, rows of several fields, and the budget as a row; through the real server and its
/// file.</summary>
public sealed class OnSiteApiTests(Site site) : IClassFixture<Site>
{
    private string Job => $"/api/jobs/{site.JobId}";

    private static Task Cover(Site on, params string[] parts) =>
        on.Over(
            on.Post(
                $"/api/jobs/{on.JobId}/practice",
                new
                {
                    settings = new
                    {
                        rule = "guarded",
                        scheme = "t568B",
                        scope = new { parts },
                    },
                    why = "this is ours",
                    by = on.Ina,
                }
            ).Result.Body
        );

    private static JsonNode Row(JsonNode card, string check) =>
        card["card"]!["rows"]!.AsArray().First(r => r!["key"]!["check"]!.ToString() == check)!;

    private Task<(int Status, JsonNode Body)> Say(object body) => site.Post($"{Job}/site/presences", body);

    [Fact]
    public async Task WhatAPersonSaysIsThereIsKeptAndBringsItsRowsBack()
    {
        var data = Directory.CreateTempSubdirectory("walkdown-test-").FullName;
        var before = Site.On(data);
        await Cover(before, "aim");
        Assert.Null(Row(await before.Card("GT-02"), "aim.agreed")["wait"]!["until"]);
        var from = DateTimeOffset.UtcNow.AddMinutes(-5);
        var (status, answer) = await before.Post($"/api/jobs/{before.JobId}/site/presences", new { presence = "second-person", from });
        Assert.Equal(200, status);
        Assert.Contains(answer["presences"]!.AsArray(), p => p!["id"]!.ToString() == "second-person" && p["stay"] is not null);
        before.Stop();
        using var after = Site.On(data);
        Assert.NotNull(Row(await after.Card("GT-02"), "aim.agreed")["wait"]!["until"]);
        // Taken back it is not there.
        await after.Post($"/api/jobs/{after.JobId}/site/presences", new { presence = "second-person" });
        Assert.Null(Row(await after.Card("GT-02"), "aim.agreed")["wait"]!["until"]);
    }

    /// <summary>A Card of which all that is left waits for somebody is not the next one, and says for whom, on the Walk.</summary>
    [Fact]
    public async Task OnTheWalkAStopSaysForWhomItWaits()
    {
        await Cover(site, "aim");
        await Say(new { presence = "second-person" });
        var first = (await site.Get($"{Job}/walk"))["next"]!["id"]!.ToString();
        var label = site.Stops.Single(s => s.Value == first).Key;
        foreach (var row in (await site.Card(label))["card"]!["rows"]!.AsArray().Where(r => r!["required"]!.GetValue<bool>()))
            if (row!["key"]!["check"]!.ToString() != "aim.agreed")
                await site.Add(label, "exemptions", new { row = row["id"]!.ToString(), reason = "made up" });
        var walk = await site.Get($"{Job}/walk");
        Assert.NotEqual(first, walk["next"]!["id"]!.ToString());
        var stop = walk["areas"]!.AsArray().SelectMany(a => a!["stops"]!.AsArray()).Single(s => s!["id"]!.ToString() == first)!;
        Assert.Equal(("presence.second-person", null), (stop["waitsFor"]!.ToString(), stop["waitsUntil"]?.ToString()));
        await Say(new { presence = "second-person", from = DateTimeOffset.UtcNow.AddMinutes(-1) });
        Assert.Equal(first, (await site.Get($"{Job}/walk"))["next"]!["id"]!.ToString());
    }

    public static TheoryData<string, string> Careless =>
        new()
        {
            { """{ "presence": "the-king", "from": "2026-11-27T08:00:00Z" }""", "problem.unknown-presence" },
            {
                """{ "presence": "second-person", "from": "2026-11-27T08:00:00Z", "until": "2026-11-27T08:00:00Z" }""",
                "problem.presence-ends"
            },
            { """{ "presence": "second-person", "until": "2026-11-27T08:00:00Z" }""", "problem.presence-ends" },
            { """{ "presence": "second-person", "from": "1926-11-27T08:00:00Z" }""", "problem.presence-when" },
            { """{ "presence": "second-person", "untilWall": "2026-12-31T00:00" }""", "problem.presence-ends" },
        };

    [Theory]
    [MemberData(nameof(Careless))]
    public async Task WhatCannotBeThereIsRefusedInWordsAndNothingChanges(string body, string code)
    {
        var before = (await site.Get($"{Job}/site"))["presences"]!.ToJsonString();
        var (status, answer) = await Say(JsonNode.Parse(body)!);
        Assert.Equal((422, code), (status, answer["code"]!.ToString()));
        Assert.Equal(before, (await site.Get($"{Job}/site"))["presences"]!.ToJsonString());
    }

    /// <summary>An hour that the spring skips, by the clock on the wall, is an hour later; the browser's own zone has no say.</summary>
    [Fact]
    public async Task AClockOnTheWallIsTheSites()
    {
        var (_, answer) = await Say(new { presence = "second-person", fromWall = "2027-03-28T01:30" });
        var stay = answer["presences"]!.AsArray().Single(p => p!["id"]!.ToString() == "second-person")!["stay"]!;
        Assert.Equal(
            new DateTimeOffset(2027, 3, 28, 1, 30, 0, TimeSpan.Zero),
            DateTimeOffset.Parse(stay["from"]!.ToString(), System.Globalization.CultureInfo.InvariantCulture).ToUniversalTime()
        );
    }

    [Theory]
    [InlineData("""{ "latitudeDeg": 91, "longitudeDeg": 0 }""", 422)]
    [InlineData("""{ "latitudeDeg": 51, "longitudeDeg": null }""", 422)]
    [InlineData("""{ "latitudeDeg": 51, "longitudeDeg": -181 }""", 422)]
    [InlineData("""{ "latitudeDeg": "north", "longitudeDeg": 0 }""", 400)]
    [InlineData("""{ "latitudeDeg": 51.5, "longitudeDeg": -0.1 }""", 200)]
    public async Task WhereTheSiteIsSaysWhenItIsDark(string body, int status)
    {
        await Cover(site, "night");
        await site.Http.PutAsJsonAsync($"{Job}/site/place", new { latitudeDeg = (double?)null, longitudeDeg = (double?)null });
        var answer = await site.Http.PutAsJsonAsync($"{Job}/site/place", JsonNode.Parse(body));
        Assert.Equal(status, (int)answer.StatusCode);
        var source = Row(await site.Card("GT-02"), "night.picture")["wait"]!["source"]!["code"]!.ToString();
        Assert.Equal(status == 200 ? "wait.by-site" : "wait.by-zone", source);
    }

    [Fact]
    public async Task AnUnknownJobHasNoSite()
    {
        var nobody = $"/api/jobs/{Guid.NewGuid()}/site";
        Assert.Equal(404, (int)(await site.Http.GetAsync(nobody)).StatusCode);
        Assert.Equal(404, (await site.Post(nobody + "/presences", new { presence = "second-person" })).Status);
        Assert.Equal(404, (int)(await site.Http.PutAsJsonAsync(nobody + "/place", new { latitudeDeg = 1, longitudeDeg = 1 })).StatusCode);
    }

    /// <summary>What waits for the recorder comes back on every Card on its channels once it was timed from power to picture.</summary>
    [Fact]
    public async Task ARecorderThatIsUpLetsItsChannelsBeLookedAt()
    {
        await Cover(site, "recorder", "power");
        Assert.Null(Row(await site.Card("GT-02"), "recorder.shows")["wait"]!["until"]);
        await site.Add(
            "R-1",
            "readings",
            new
            {
                row = Row(await site.Card("R-1"), "power.boot")["id"]!.ToString(),
                source = "typed",
                text = "90",
            }
        );
        Assert.NotNull(Row(await site.Card("GT-02"), "recorder.shows")["wait"]!["until"]);
    }

    [Fact]
    public async Task AFormIsKeptJudgedAndRefusedInWords()
    {
        await Cover(site, "cable");
        var row = Row(await site.Card("GT-02"), "cable.hole")["id"]!.ToString();
        object Hole(double hole) =>
            new
            {
                row,
                source = "typed",
                value = new
                {
                    kind = "form",
                    lines = new[]
                    {
                        new
                        {
                            said = new object[]
                            {
                                new { field = "passes", word = "plug" },
                                new { field = "cables", number = 1 },
                                new { field = "hole", number = hole },
                                new { field = "sealed", word = "yes" },
                            },
                        },
                    },
                },
            };
        await site.Add("GT-02", "readings", Hole(12));
        Assert.Equal("out", Row(await site.Card("GT-02"), "cable.hole")["state"]!.ToString());
        await site.Add("GT-02", "readings", Hole(24));
        Assert.Equal("in", Row(await site.Card("GT-02"), "cable.hole")["state"]!.ToString());
        foreach (
            var value in new[]
            {
                """{ "kind": "form" }""",
                """{ "kind": "form", "lines": null }""",
                """{ "kind": "form", "lines": [null] }""",
                """{ "kind": "form", "lines": [{ "said": null }] }""",
                """{ "kind": "form", "lines": [{ "said": [null] }] }""",
                """{ "kind": "form", "lines": [{ "said": [{ "field": null }] }] }""",
                """{ "kind": "form", "lines": [{ "said": [{ "field": "hole", "number": 1e308 }] }] }""",
                """{ "kind": "form", "lines": [{ "said": [{ "field": "hole", "word": "wide" }] }] }""",
                $$"""{ "kind": "form", "lines": [{{string.Join(",", Enumerable.Repeat("{ \"said\": [] }", 600))}}] }""",
            }
        )
        {
            var (status, answer) = await site.Post(
                $"/api/cards/{site.Stops["GT-02"]}/readings",
                site.Entry(
                    new
                    {
                        row,
                        source = "typed",
                        value = JsonNode.Parse(value),
                    }
                )
            );
            Assert.True(status is 400 or 422, $"{status} {value[..Math.Min(60, value.Length)]} {answer}");
        }
        Assert.Equal("in", Row(await site.Card("GT-02"), "cable.hole")["state"]!.ToString());
    }

    /// <summary>The planted fault of PT-06: its port is dropped when everything on its switch draws its most. It counts, and what a
    /// neighbour draws is its budget too.</summary>
    [Fact]
    public async Task TheBudgetCountsAndFollowsWhatTheNeighboursDraw()
    {
        await Cover(site, "power");
        var row = Row(await site.Card("PT-06"), "power.budget");
        Assert.Equal("out", row["state"]!.ToString());
        Assert.Equal("refused", (await site.Card("PT-06"))["card"]!["verdict"]!["verdict"]!.ToString());
        var source = await site.Get($"/api/cards/{site.Stops["PT-06"]}/source");
        Assert.Equal(source[0]!["state"]!.ToString(), row["state"]!.ToString());
        // Nobody enters it.
        var (status, answer) = await site.Post(
            $"/api/cards/{site.Stops["PT-06"]}/readings",
            site.Entry(
                new
                {
                    row = row["id"]!.ToString(),
                    source = "typed",
                    value = new { kind = "yesNo", yes = true },
                }
            )
        );
        Assert.Equal((422, "reading.wrong-entry"), (status, answer["code"]!.ToString()));
        // Its neighbours turn out to draw next to nothing: there is enough for all.
        foreach (var label in site.Stops.Keys.Where(l => l.StartsWith("PT-", StringComparison.Ordinal)))
        {
            var at = (await site.Card(label))["card"]!["rows"]!
                .AsArray()
                .FirstOrDefault(r =>
                    r!["key"]!["check"]!.ToString() == "power.watts-at-port"
                    && r["key"]!["under"]!.ToString().Contains("nfraredOn", StringComparison.Ordinal)
                );
            if (at is not null)
                await site.Add(
                    label,
                    "readings",
                    new
                    {
                        row = at["id"]!.ToString(),
                        source = "typed",
                        text = "2",
                    }
                );
        }
        Assert.NotEqual("out", Row(await site.Card("PT-06"), "power.budget")["state"]!.ToString());
    }

    [Fact]
    public async Task BesideAnOpenRowStandsWhatEachAnswerWouldTell()
    {
        await Cover(site, "night", "fixing");
        var card = await site.Card("GT-02");
        async Task<JsonArray> Answers(string check) =>
            (
                await site.Get($"/api/cards/{site.Stops["GT-02"]}/answers?row={Uri.EscapeDataString(Row(card, check)["id"]!.ToString())}")
            ).AsArray();
        var fog = (await Answers("night.picture")).Single(a => a!["value"]!["choice"]!.ToString() == "fog")!;
        Assert.Equal("out", fog["state"]!.ToString());
        Assert.Contains("bubble-dirty", fog.ToJsonString());
        Assert.Equal(["min", "max"], (await Answers("fixing.roll")).Select(a => a!["beyond"]!.ToString()));
        Assert.Empty(await Answers("fixing.seals"));
        Assert.Equal(404, (int)(await site.Http.GetAsync($"/api/cards/{site.Stops["GT-02"]}/answers?row=no")).StatusCode);
    }

    /// <summary>A row that another makes due is due in the answer to the entry itself.</summary>
    [Fact]
    public async Task WhatAnEntryMakesDueIsToldWithIt()
    {
        await Cover(site, "cable");
        var card = await site.Card("GT-02");
        Assert.False(Row(card, "cable.colours")["required"]!.GetValue<bool>());
        await site.Add(
            "GT-02",
            "acts",
            new
            {
                kind = "re-crimp",
                runId = Row(card, "cable.label")["key"]!["on"]!["id"]!.ToString(),
                end = "far",
            }
        );
        Assert.Equal("due.after", Row(await site.Card("GT-02"), "cable.colours")["dueBecause"]!["code"]!.ToString());
    }

    /// <summary>The report names a group of fasteners as what it is, says what several fields said, and has the row that nobody
    /// entered.</summary>
    [Fact]
    public async Task TheReportHasPartsFormsAndWhatWasWorkedOut()
    {
        await Cover(site, "fixing", "power", "before", "finish");
        var card = await site.Card("GT-03");
        // A "none" of its own words is none of a link.
        await site.Add(
            "GT-03",
            "readings",
            new
            {
                row = Row(card, "finish.defaults")["id"]!.ToString(),
                source = "typed",
                value = new { kind = "choice", choice = "none" },
            }
        );
        await site.Add(
            "GT-03",
            "readings",
            new
            {
                row = Row(card, "before.consent")["id"]!.ToString(),
                source = "typed",
                value = new
                {
                    kind = "form",
                    lines = new[]
                    {
                        new
                        {
                            said = new[]
                            {
                                new { field = "name", word = "M. Okafor" },
                                new { field = "role", word = "owner" },
                                new { field = "says", word = "yes" },
                            },
                        },
                    },
                },
            }
        );
        using var pdf = UglyToad.PdfPig.PdfDocument.Open(await site.Http.GetByteArrayAsync($"/api/cards/{site.Stops["GT-03"]}/report.pdf"));
        var text = string.Join(" ", pdf.GetPages().SelectMany(p => p.GetWords()).Select(w => w.Text));
        Assert.Contains("Tool for the fasteners, base", text);
        Assert.Contains("M. Okafor", text);
        Assert.Contains("Power budget", text);
        Assert.Contains("nothing", text);
        Assert.DoesNotContain("no link", text);
        Assert.DoesNotContain("pair base", text);
        Assert.DoesNotContain("field.", text);
        Assert.DoesNotContain("choice.", text);
    }
}
