using System.Net.Http.Json;
using System.Text;
using System.Text.Json.Nodes;
using Microsoft.Data.Sqlite;
using static Walkdown.Server.Tests.Site;

namespace Walkdown.Server.Tests;

public sealed class CardApiTests(Site site) : IClassFixture<Site>
{
    [Fact]
    public async Task TheDemoHasItsStopsHeadEndFirst()
    {
        var walk = await site.Get($"/api/jobs/{site.JobId}/walk");
        Assert.Equal("Comms room", walk["areas"]![0]!["name"]!.ToString());
        Assert.Equal(65, site.Stops.Count);
        Assert.Equal(4, walk["cabinets"]!.AsArray().Count);
    }

    [Fact]
    public async Task TheSameEntryAgainIsHarmlessAndAnotherBodyIsNot()
    {
        var row = Row(await site.Card("PT-01"), "cable.length")["id"]!.ToString();
        var entry = site.Entry(
            new
            {
                row,
                source = "typed",
                text = "51,2 m",
            }
        );
        var path = $"/api/cards/{site.Stops["PT-01"]}/readings";
        var (first, one) = await site.Post(path, entry);
        var (again, two) = await site.Post(path, entry.DeepClone());
        Assert.Equal((200, 200), (first, again));
        Assert.Single(Row(one, "cable.length")["attempts"]!.AsArray());
        Assert.Single(Row(two, "cable.length")["attempts"]!.AsArray());
        entry["text"] = "52 m";
        var (other, problem) = await site.Post(path, entry);
        Assert.Equal((409, "problem.same-id-other-body"), (other, problem["code"]!.ToString()));
    }

    [Theory]
    [InlineData("NaN", "number.unreadable")]
    [InlineData("1,2.3", "number.two-signs")]
    [InlineData("12 V", "number.unit")]
    [InlineData("99999", "reading.impossible")]
    [InlineData("", "number.empty")]
    public async Task ABadNumberIsRefusedInWords(string text, string code)
    {
        var before = site.Count("SELECT count(*) FROM Journal");
        var row = Row(await site.Card("PT-02"), "cable.length")["id"]!.ToString();
        var (status, problem) = await site.Post(
            $"/api/cards/{site.Stops["PT-02"]}/readings",
            site.Entry(
                new
                {
                    row,
                    source = "typed",
                    text,
                }
            )
        );
        Assert.Equal((422, code), (status, problem["code"]!.ToString()));
        Assert.NotEqual(code, problem["detail"]!.ToString());
        Assert.Equal(before, site.Count("SELECT count(*) FROM Journal"));
    }

    [Fact]
    public async Task TheMainUnitsMapIsRefused()
    {
        var row = Row(await site.Card("PT-02"), "cable.wire-map")["id"]!.ToString();
        var map = Enumerable.Range(1, 8).Select(p => new[] { p }).ToArray();
        var (status, problem) = await site.Post(
            $"/api/cards/{site.Stops["PT-02"]}/readings",
            site.Entry(
                new
                {
                    row,
                    source = "typed",
                    value = new
                    {
                        kind = "wireMap",
                        nearToFar = map,
                        readAt = "mainUnit",
                        openDistanceMetres = (object?)null,
                        remoteLabel = (string?)null,
                    },
                }
            )
        );
        Assert.Equal((422, "reading.main-unit"), (status, problem["code"]!.ToString()));
    }

    [Theory]
    [InlineData("{")]
    [InlineData("[]")]
    [InlineData("null")]
    [InlineData("{\"id\":\"x\"}")]
    [InlineData("{\"id\":\"01a210bf-ab3d-75a3-9ef5-772ed95c3101\",\"row\":1}")]
    [InlineData("{\"value\":{\"kind\":\"nonsense\"}}")]
    [InlineData("{\"value\":{\"kind\":\"number\",\"value\":\"1\",\"unit\":\"metre\"}}")]
    [InlineData("{\"value\":{}}")]
    public async Task NothingUnreadableIsAServerError(string body)
    {
        foreach (
            var what in new[]
            {
                "readings",
                "preview",
                "tester",
                "acts",
                "withdrawals",
                "exemptions",
                "concessions",
                "notes",
                "faults",
                "faults/01a210bf-ab3d-75a3-9ef5-772ed95c3101/steps",
            }
        )
        {
            using var response = await site.Http.PostAsync(
                $"/api/cards/{site.Stops["PT-03"]}/{what}",
                new StringContent(body, Encoding.UTF8, "application/json")
            );
            Assert.InRange((int)response.StatusCode, 400, 499);
            Assert.Equal("application/problem+json", response.Content.Headers.ContentType!.MediaType);
        }
    }

    [Fact]
    public async Task RandomShapesNeverGetAServerError()
    {
        var random = new Random(46);
        var row = Row(await site.Card("PT-04"), "cable.wire-map")["id"]!.ToString();
        JsonNode? Any() =>
            random.Next(9) switch
            {
                0 => null,
                1 => random.NextDouble() * 1e12,
                2 => -1,
                3 => "x" + (char)random.Next(1, 0x2fff),
                4 => new JsonArray(1, "2", new JsonObject()),
                5 => new JsonObject
                {
                    ["kind"] = "wireMap",
                    ["nearToFar"] = new JsonArray(new JsonArray(99)),
                    ["readAt"] = "farUnit",
                    ["openDistanceMetres"] = new JsonObject { ["9"] = -1 },
                    ["remoteLabel"] = null,
                },
                6 => "1970-01-01T00:00:00Z",
                7 => Guid.NewGuid().ToString(),
                _ => true,
            };
        string[] fields =
        [
            "id",
            "row",
            "value",
            "text",
            "kind",
            "by",
            "takenAt",
            "clockOffsetMs",
            "source",
            "runId",
            "end",
            "of",
            "reason",
            "title",
            "severity",
            "found",
            "instrumentId",
            "newSerial",
        ];
        for (var i = 0; i < 400; i++)
        {
            var body = site.Entry(
                new
                {
                    row,
                    source = "typed",
                    kind = "unit-swapped",
                    reason = "r",
                    title = "t",
                    severity = "minor",
                    text = "t",
                    of = Guid.NewGuid(),
                    newSerial = "S" + i,
                    allowedBy = "x",
                }
            );
            for (var n = random.Next(1, 4); n > 0; n--)
                body[fields[random.Next(fields.Length)]] = Any();
            foreach (var what in new[] { "readings", "preview", "acts", "withdrawals", "faults", "notes" })
            {
                using var response = await site.Http.PostAsJsonAsync($"/api/cards/{site.Stops["PT-04"]}/{what}", body);
                Assert.True((int)response.StatusCode < 500, $"{what} {response.StatusCode} {body.ToJsonString()}");
            }
        }
    }

    [Fact]
    public async Task TenMegabytesAreRefusedBeforeTheyAreRead()
    {
        using var request = new HttpRequestMessage(HttpMethod.Post, $"/api/cards/{site.Stops["PT-03"]}/notes")
        {
            Content = new StringContent("{\"text\":\"" + new string('x', 10_500_000) + "\"}", Encoding.UTF8, "application/json"),
        };
        request.Headers.ExpectContinue = true;
        using var response = await site.Http.SendAsync(request);
        Assert.Equal(413, (int)response.StatusCode);
    }

    [Theory]
    [InlineData("GET", "/api/cards/00000000-0000-0000-0000-000000000001", 404)]
    [InlineData("GET", "/api/cards/nonsense", 404)]
    [InlineData("GET", "/api/jobs/00000000-0000-0000-0000-000000000001/walk", 404)]
    [InlineData("DELETE", "/api/jobs", 404)]
    [InlineData("GET", "/api/nothing/here", 404)]
    public async Task UnknownAddressesSaySo(string method, string path, int status)
    {
        using var response = await site.Http.SendAsync(new HttpRequestMessage(new HttpMethod(method), path));
        Assert.Equal(status, (int)response.StatusCode);
        Assert.Contains("problem.", await response.Content.ReadAsStringAsync());
    }

    [Fact]
    public async Task APreviewWritesNothing()
    {
        var before = site.Count("SELECT count(*) FROM Readings");
        var row = Row(await site.Card("PT-05"), "cable.length")["id"]!.ToString();
        var (status, preview) = await site.Post(
            $"/api/cards/{site.Stops["PT-05"]}/preview",
            new
            {
                row,
                text = "200",
                instrumentId = site.Instruments["Cable meter 2"],
            }
        );
        Assert.Equal((200, "out"), (status, preview["state"]!.ToString()));
        Assert.Equal(before, site.Count("SELECT count(*) FROM Readings"));
    }

    [Fact]
    public async Task APhoneWhoseClockIsWrongIsCorrectedByItsOffset()
    {
        var row = Row(await site.Card("PT-06"), "cable.length")["id"]!.ToString();
        var entry = site.Entry(
            new
            {
                row,
                source = "typed",
                text = "41",
            }
        );
        entry["takenAt"] = DateTimeOffset.UtcNow.AddHours(-3).ToString("O");
        entry["clockOffsetMs"] = 3 * 3600 * 1000;
        var (_, answer) = await site.Post($"/api/cards/{site.Stops["PT-06"]}/readings", entry);
        var taken = DateTimeOffset.Parse(Row(answer, "cable.length")["attempts"]![0]!["takenAt"]!.ToString());
        Assert.InRange((DateTimeOffset.UtcNow - taken).TotalSeconds, -1, 60);
    }

    [Fact]
    public async Task AnUnitThatHangsElsewhereCannotBeFitted()
    {
        var serial = (await site.Card("FB-01"))["place"]!["serial"]!.ToString();
        var (status, problem) = await site.Post(
            $"/api/cards/{site.Stops["FB-02"]}/acts",
            site.Entry(new { kind = "unit-swapped", newSerial = serial })
        );
        Assert.Equal((422, "problem.unit-hangs-elsewhere"), (status, problem["code"]!.ToString()));
    }

    [Fact]
    public async Task ASwappedUnitTakesItsReadingsWithIt()
    {
        await site.ReadAll("FB-03");
        var answer = await site.Add("FB-03", "acts", new { kind = "unit-swapped", newSerial = "TH-NEW-1" });
        Assert.Equal("TH-NEW-1", answer["place"]!["serial"]!.ToString());
        Assert.Equal("stale", Row(answer, "link.speed")["state"]!.ToString());
        Assert.Equal("in", Row(answer, "cable.wire-map")["state"]!.ToString());
    }

    /// <summary>A Card that is in memory hears what is said and done at its recorder.</summary>
    [Fact]
    public async Task WhatIsSaidAndDoneAtARecorderReachesItsCameras()
    {
        var label = "";
        foreach (var stop in site.Stops.Keys.Where(s => s.StartsWith("CC", StringComparison.Ordinal)))
            if (
                (await site.Card(stop))["place"]!["channels"]!.AsArray() is [var only]
                && only!.ToString().StartsWith("R-2 ", StringComparison.Ordinal)
            )
                label = stop;
        string[] Needs(JsonNode card) => [.. Row(card, "time.offset")["needs"]!.AsArray().Select(n => n!["args"]![1]!.ToString())];
        async Task<JsonNode> At(string at, string check, object value)
        {
            var row = Row(await site.Card(at), check)["id"]!.ToString();
            return await site.Add(
                at,
                "readings",
                new
                {
                    row,
                    source = "typed",
                    value,
                }
            );
        }
        Assert.Equal(["@check.time.zone"], Needs(await site.Card(label)));
        await At("R-2", "time.zone", new { kind = "yesNo", yes = true });
        Assert.Empty(Needs(await site.Card(label)));
        await At(label, "recorder.registered", new { kind = "choice", choice = "recorder" });
        var recorder = await site.Card("R-2");
        Assert.InRange(recorder["place"]!["records"]!.GetValue<int>(), 5, 60);
        await site.Add("R-2", "acts", new { kind = "restarted" });
        Assert.Equal("in", Row(await site.Card(label), "recorder.registered")["state"]!.ToString());
        await site.Add("R-2", "acts", new { kind = "reset" });
        var row = Row(await site.Card(label), "recorder.registered");
        Assert.Equal(
            ("stale", "stale.voidedAt", "R-2"),
            (row["state"]!.ToString(), row["because"]![0]!["code"]!.ToString(), row["because"]![0]!["args"]![1]!.ToString())
        );
        var catalogue = await site.Get("/api/catalogue");
        Assert.Contains("recorder.registered", catalogue["voidedAtRecorder"]!["reset"]!.AsArray().Select(c => c!.ToString()));
    }

    [Fact]
    public async Task RowsAreOnlyAdded()
    {
        var row = Row(await site.Card("BW-01"), "cable.label")["id"]!.ToString();
        await site.Add(
            "BW-01",
            "readings",
            new
            {
                row,
                source = "typed",
                value = new { kind = "yesNo", yes = true },
            }
        );
        foreach (
            var sql in new[]
            {
                "UPDATE Readings SET ValueJson='{}'",
                "DELETE FROM Readings",
                "DELETE FROM Journal",
                "UPDATE Journal SET Kind='x'",
            }
        )
            Assert.Contains("only added", Assert.Throws<SqliteException>(() => site.Count(sql + " RETURNING 1")).Message);
    }

    [Fact]
    public async Task TwoPeopleAtOneFaultRaiseItOnce()
    {
        var row = Row(await site.Card("BW-02"), "cable.label")["id"]!.ToString();
        await site.Add(
            "BW-02",
            "readings",
            new
            {
                row,
                source = "typed",
                value = new { kind = "yesNo", yes = false },
            }
        );
        var both = await Task.WhenAll(
            Enumerable
                .Range(0, 2)
                .Select(n =>
                    site.Post(
                        $"/api/cards/{site.Stops["BW-02"]}/faults",
                        site.Entry(
                            new
                            {
                                row,
                                title = $"Label missing {n}",
                                severity = "minor",
                            }
                        )
                    )
                )
        );
        Assert.Equal([200, 422], both.Select(b => b.Status).Order());
        Assert.Equal("problem.fault-stands", both.Single(b => b.Status == 422).Body["code"]!.ToString());
    }

    [Fact]
    public async Task TheCachedSummaryIsWhatJudgingAnewGives()
    {
        await site.ReadAll("BW-03");
        var stop = (await site.Get($"/api/jobs/{site.JobId}/walk"))["areas"]!
            .AsArray()
            .SelectMany(a => a!["stops"]!.AsArray())
            .Single(s => s!["label"]!.ToString() == "BW-03")!;
        var card = (await site.Card("BW-03"))["card"]!;
        Assert.Equal(card["verdict"]!["verdict"]!.ToString(), stop["verdict"]!.ToString());
        Assert.Equal(card["legs"]!.AsArray().Select(l => l!["state"]!.ToString()), stop["legs"]!.AsArray().Select(l => l!.ToString()));
        Assert.Equal(card["taken"]!.GetValue<int>(), stop["taken"]!.GetValue<int>());
    }

    [Fact]
    public async Task AnotherBrowserHearsWithinASecondAndCanResume()
    {
        using var request = new HttpRequestMessage(HttpMethod.Get, $"/api/jobs/{site.JobId}/live");
        using var stream = await site.Http.SendAsync(request, HttpCompletionOption.ResponseHeadersRead);
        using var reader = new StreamReader(await stream.Content.ReadAsStreamAsync());
        async Task<string> Next(string starts)
        {
            using var limit = new CancellationTokenSource(TimeSpan.FromSeconds(10));
            while (await reader.ReadLineAsync(limit.Token) is { } line)
                if (line.StartsWith(starts, StringComparison.Ordinal))
                    return line;
            throw new InvalidOperationException("the stream ended");
        }
        await Next("event: hello");
        var hello = await Next("id:");
        var row = Row(await site.Card("VL-01"), "cable.label")["id"]!.ToString();
        var clock = System.Diagnostics.Stopwatch.StartNew();
        await site.Add(
            "VL-01",
            "readings",
            new
            {
                row,
                source = "typed",
                value = new { kind = "yesNo", yes = true },
            }
        );
        await Next("event: kept");
        Assert.InRange(clock.Elapsed.TotalSeconds, 0, 1);
        using var again = new HttpRequestMessage(HttpMethod.Get, $"/api/jobs/{site.JobId}/live");
        again.Headers.Add("Last-Event-ID", hello[3..].Trim());
        using var resumed = await site.Http.SendAsync(again, HttpCompletionOption.ResponseHeadersRead);
        using var second = new StreamReader(await resumed.Content.ReadAsStreamAsync());
        Assert.Equal("event: kept", await second.ReadLineAsync());
    }
}
