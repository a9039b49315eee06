using System.Net.Http.Headers;
using System.Text;
using System.Text.Json.Nodes;
using static Walkdown.Server.Tests.Site;

namespace Walkdown.Server.Tests;

/// <summary>Budgets, paths, sweeps and instruments' files through the real server.</summary>
public sealed class PowerTests(Site site) : IClassFixture<Site>
{
    private async Task<JsonNode> Switch(string cabinet, string label = "") =>
        (await site.Get($"/api/jobs/{site.JobId}/power"))["switches"]!
            .AsArray()
            .Single(s => s!["cabinet"]!.ToString() == cabinet && s["figures"]!["label"]!.ToString() == label)!;

    private static int[] Refused(JsonNode budget) => [.. budget["refused"]!.AsArray().Select(p => p!.GetValue<int>())];

    [Fact]
    public async Task ABudgetSaysWhoFallsOutAndAnotherIsTriedWithoutKeepingIt()
    {
        var k3 = await Switch("K3");
        Assert.NotEmpty(Refused(k3["budget"]!["byDraw"]!));
        var figures = k3["figures"]!.DeepClone();
        figures["budgetWatts"] = 240;
        var path = $"/api/jobs/{site.JobId}/power/{k3["id"]}";
        var (status, trial) = await site.Post(path + "/try", new { figures, ports = Array.Empty<object>() });
        Assert.Equal(200, status);
        Assert.Empty(Refused(trial["switch"]!["budget"]!["byDraw"]!));
        Assert.NotEmpty(Refused((await Switch("K3"))["budget"]!["byDraw"]!));
        // Two cameras that hang nowhere yet: what their ports take, and nothing of it is kept.
        object[] more = [new { powerClass = 4, watts = (double?)null }, new { powerClass = 2, watts = (double?)5.5 }];
        var (_, fuller) = await site.Post(path + "/try", new { figures, more });
        double Demand(JsonNode trial, string by) => trial["switch"]!["budget"]![by]!["demandWatts"]!.GetValue<double>();
        Assert.Equal(Demand(trial, "byClass") + 30 + 7, Demand(fuller, "byClass"), 6);
        Assert.Equal(Demand(trial, "byDraw") + 30 + 5.5, Demand(fuller, "byDraw"), 6);
        Assert.Equal(2, fuller["switch"]!["ports"]!.AsArray().Count(p => p!["label"]!.ToString().StartsWith('+')));
        foreach (
            object no in new object[] { new { powerClass = 9 }, new { powerClass = 3, watts = -1 }, new { powerClass = 3, watts = 500 } }
        )
        {
            var (refused, told) = await site.Post(path + "/try", new { figures, more = new[] { no } });
            Assert.Equal((422, "source.more"), (refused, told["code"]!.ToString()));
        }
        var (_, afterwards) = await site.Post(path + "/try", new { figures });
        Assert.Equal(Demand(trial, "byDraw"), Demand(afterwards, "byDraw"), 6);
        figures["budgetWatts"] = -5;
        var (bad, problem) = await site.Post(path + "/try", new { figures });
        Assert.Equal((422, "source.budget", "budgetWatts"), (bad, problem["code"]!.ToString(), problem["field"]!.ToString()));
    }

    [Fact]
    public async Task FiguresThatAreKeptReachTheCards()
    {
        var inj = await Switch("K1", "INJ-1");
        Assert.Equal("legacyHighPower", inj["figures"]!["mode"]!.ToString());
        Assert.Equal("@choice.legacy", Row(await site.Card("VL-10"), "power.mode-switch")["expected"]!["word"]!.ToString());
        var figures = inj["figures"]!.DeepClone();
        figures["mode"] = "standard";
        using var response = await site.Http.PutAsync(
            $"/api/jobs/{site.JobId}/power/{inj["id"]}",
            System.Net.Http.Json.JsonContent.Create(
                new
                {
                    figures,
                    by = site.Ina,
                    why = "another injector was fitted",
                }
            )
        );
        response.EnsureSuccessStatusCode();
        var change = (await Switch("K1", "INJ-1"))["changes"]![0]!;
        Assert.Equal(("Ina Solberg", "another injector was fitted"), (change["by"]!.ToString(), change["why"]!.ToString()));
        using var nobody = await site.Http.PutAsync(
            $"/api/jobs/{site.JobId}/power/{inj["id"]}",
            System.Net.Http.Json.JsonContent.Create(new { figures })
        );
        Assert.Equal(System.Net.HttpStatusCode.UnprocessableEntity, nobody.StatusCode);
        Assert.Equal("@choice.standard", Row(await site.Card("VL-10"), "power.mode-switch")["expected"]!["word"]!.ToString());
    }

    [Fact]
    public async Task AMeasuredDrawTakesThePlaceOfThePlannedOne()
    {
        var row = Row(await site.Card("BW-03"), "power.watts-at-port", "", "infraredOn")["id"]!.ToString();
        await site.Add(
            "BW-03",
            "readings",
            new
            {
                row,
                source = "typed",
                text = "16,2 W",
                instrumentId = site.Instruments["Camera tester 1"],
            }
        );
        var port = (await Switch("K4"))["ports"]!.AsArray().Single(p => p!["label"]!.ToString() == "BW-03")!;
        Assert.Equal(16.2, port["measuredWatts"]!.GetValue<double>(), 3);
    }

    [Fact]
    public async Task ASupplyShowsVoltsAtEveryDeviceOnItsRun()
    {
        var supply = (await site.Get($"/api/jobs/{site.JobId}/power"))["supplies"]!
            .AsArray()
            .Single(s => s!["figures"]!["label"]!.ToString() == "S-1")!;
        var volts = supply["taps"]!.AsArray().Select(t => t!["volts"]!.GetValue<double>()).ToList();
        Assert.Equal(["BW-05", "BW-06"], supply["taps"]!.AsArray().Select(t => t!["label"]!.ToString()));
        Assert.True(24 > volts[0] && volts[0] > volts[1]);
        var figures = supply["figures"]!.DeepClone();
        (figures["wireAreaMm2"], figures["wireGaugeAwg"]) = (null, 20);
        var (_, trial) = await site.Post($"/api/jobs/{site.JobId}/power/{supply["id"]}/try", new { figures });
        Assert.True(trial["supply"]!["taps"]![1]!["volts"]!.GetValue<double>() < volts[1]);
    }

    [Fact]
    public async Task ARunIsTriedPieceByPieceAndKeptAsBuilt()
    {
        var path = (await site.Get($"/api/cards/{site.Stops["CC-02"]}/path"))[0]!;
        var settings = path["settings"]!.DeepClone();
        object[] pieces =
        [
            new
            {
                kind = "cord",
                metres = 3,
                gaugeAwg = 26,
            },
            new
            {
                kind = "panel",
                contactOhms = 0.4,
                label = "PP-2/11",
            },
            new
            {
                kind = "cable",
                metres = 84,
                gaugeAwg = 24,
            },
        ];
        var tryIt = $"/api/cards/{site.Stops["CC-02"]}/path/try";
        var (status, trial) = await site.Post(
            tryIt,
            new
            {
                runId = path["runId"],
                pieces,
                settings,
            }
        );
        Assert.Equal(200, status);
        var before = path["result"]!["states"]![1]!["volts"]!.GetValue<double>();
        Assert.True(trial["result"]!["states"]![1]!["volts"]!.GetValue<double>() < before);
        Assert.Equal(3, trial["result"]!["states"]![1]!["rungs"]!.AsArray().Count);
        var (_, wrong) = await site.Post(
            tryIt,
            new
            {
                runId = path["runId"],
                pieces = new[] { new { kind = "cable", metres = 0 } },
                settings,
            }
        );
        Assert.Equal((0, true), (wrong["problems"]![0]!["piece"]!.GetValue<int>(), wrong["result"] is null));

        var expected = Row(await site.Card("CC-02"), "cable.loop-resistance", "1-2")["expected"]!["value"]!["value"]!.GetValue<double>();
        var (kept, card) = await site.Post(
            $"/api/cards/{site.Stops["CC-02"]}/path",
            site.Entry(
                new
                {
                    runId = path["runId"],
                    pieces,
                    temperatureC = (double?)null,
                }
            )
        );
        Assert.Equal(200, kept);
        Assert.True(Row(card, "cable.loop-resistance", "1-2")["expected"]!["value"]!["value"]!.GetValue<double>() > expected + 0.5);
        Assert.Contains(
            card["place"]!["differences"]!.AsArray(),
            d => d!["field"]!.ToString() == "path" && d["asBuilt"]!.ToString() == "PP-2/11"
        );
        Assert.True((await site.Get($"/api/cards/{site.Stops["CC-02"]}/path"))[0]!["drawn"]!.GetValue<bool>());
    }

    [Fact]
    public async Task ARunThatCarriesNoPowerHasNoLadder()
    {
        // BW-05 is fed at 24 V, CC-10 shares its run.
        foreach (var label in new[] { "BW-05", "CC-10" })
        {
            var path = (await site.Get($"/api/cards/{site.Stops[label]}/path"))[0]!;
            var (_, trial) = await site.Post(
                $"/api/cards/{site.Stops[label]}/path/try",
                new
                {
                    runId = path["runId"],
                    pieces = path["pieces"],
                    settings = path["settings"],
                }
            );
            Assert.Empty(trial["result"]!["states"]!.AsArray());
        }
    }

    [Fact]
    public async Task ARecordersVersionReachesTheCamerasOnItsChannels()
    {
        // CC-13 is a model that needs 7.2 at its recorder.
        var camera = Row(await site.Card("CC-13"), "before.firmware")["id"]!.ToString();
        var answer = await site.Add(
            "CC-13",
            "readings",
            new
            {
                row = camera,
                source = "typed",
                value = new { kind = "text", text = "3.6.0" },
            }
        );
        Assert.Equal("notJudged", Row(answer, "before.firmware")["state"]!.ToString());
        foreach (var recorder in new[] { "R-1", "R-2" })
        {
            var row = Row(await site.Card(recorder), "before.firmware")["id"]!.ToString();
            await site.Add(
                recorder,
                "readings",
                new
                {
                    row,
                    source = "typed",
                    value = new { kind = "text", text = "7.3" },
                }
            );
        }
        Assert.Equal("in", Row(await site.Card("CC-13"), "before.firmware")["state"]!.ToString());
    }

    [Fact]
    public async Task NobodyPullsThePlugWhileAnUpdateRuns()
    {
        await site.Add("CC-12", "acts", new { kind = "update-started" });
        var (status, problem) = await site.Post($"/api/cards/{site.Stops["CC-12"]}/acts", site.Entry(new { kind = "restarted" }));
        Assert.Equal((422, "hold.updating"), (status, problem["code"]!.ToString()));
        await site.Add("CC-12", "acts", new { kind = "updated" });
        Assert.Null((await site.Add("CC-12", "acts", new { kind = "restarted" }))["card"]!["hold"]);
    }

    [Fact]
    public async Task AnAreaIsReadShownAndTakenWholeOnce()
    {
        object Sweep(bool onlyDue) =>
            new
            {
                area = "Pontoon",
                under = "infraredOff",
                onlyDue,
                instrumentId = site.Instruments["Camera tester 1"],
            };
        var (_, all) = await site.Post($"/api/jobs/{site.JobId}/results/sweep", Sweep(false));
        Assert.True((await Finished(all))["total"]!.GetValue<int>() > 80);
        // What is due is what the Card asks for: taking it does not raise what is owed.
        var owed = (await site.Card("PT-03"))["card"]!["total"]!.GetValue<int>();
        var (_, work) = await site.Post($"/api/jobs/{site.JobId}/results/sweep", Sweep(true));
        var draft = await Finished(work);
        Assert.InRange(draft["total"]!.GetValue<int>(), 30, 6 * owed);
        Assert.Equal(6, draft["devices"]!.GetValue<int>());
        Assert.Empty(Row(await site.Card("PT-03"), "cable.length")["attempts"]!.AsArray());
        var take = $"/api/jobs/{site.JobId}/results/{draft["id"]}/take";
        var entry = site.Entry(new { fates = new[] { "in", "tooClose", "out" } });
        var (status, taken) = await site.Post(take, entry);
        Assert.Equal((200, true), (status, taken["taken"]!.GetValue<bool>()));
        Assert.Equal(200, (await site.Post(take, entry.DeepClone())).Status);
        Assert.Single(Row(await site.Card("PT-03"), "cable.length")["attempts"]!.AsArray());
        Assert.Equal(owed, (await site.Card("PT-03"))["card"]!["total"]!.GetValue<int>());
        var (again, problem) = await site.Post(take, site.Entry(new { fates = new[] { "in" } }));
        Assert.Equal((422, "result.taken-already"), (again, problem["code"]!.ToString()));
    }

    [Fact]
    public async Task AFileIsMatchedReconciledAndTaken()
    {
        const string Csv = """
            Results of 14 October;;;;;;
            Cable ID;Length (m);Loop 1-2 (ohm);Wire Map;PoE volts IR on;Tested;Serial
            gt 02;58,1;10,02;12345678;52,1;2026-10-14 09:30;CT-1140
            GT-03;44.0;7.30;1234567;;2026-10-14 09:35;CT-1140
            GT-04;two;;12345678;;04/05/2026;CT-1140
            OLD-99;40;;;;2026-10-14 09:40;XX-1
            GT-06;53;;;;;CT-1140
            GT-06;54;;;;;CT-1140
            """;
        var draft = await Finished(await Upload("results.csv", Csv));
        var lines = draft["lines"]!.AsArray();
        string Fate(string where, string function) =>
            lines.First(l => l!["where"]!.ToString() == where && l["function"]!.ToString() == function)!["fate"]!.ToString();
        Assert.Equal(("in", "refused", "refused"), (Fate("gt 02", "length"), Fate("GT-03", "wire-map"), Fate("GT-04", "length")));
        Assert.Equal("OLD-99", draft["unmatched"]![0]!["where"]!.ToString());
        Assert.Equal("XX-1", draft["instruments"]![0]!["serial"]!.ToString());
        Assert.Single(lines, l => l!["where"]!.ToString() == "GT-06" && l["fate"]!.ToString() == "refused");
        var (_, matched) = await site.Post(
            $"/api/jobs/{site.JobId}/results/{draft["id"]}/assign",
            new
            {
                labels = new Dictionary<string, string> { ["OLD-99"] = site.Stops["GT-01"] },
                instrumentId = site.Instruments["Old meter"],
            }
        );
        Assert.Empty(matched["unmatched"]!.AsArray());
        Assert.Contains(matched["lines"]!.AsArray(), l => l!["where"]!.ToString() == "OLD-99" && !l["instrumentCounts"]!.GetValue<bool>());
        await site.Post(
            $"/api/jobs/{site.JobId}/results/{draft["id"]}/take",
            site.Entry(new { fates = new[] { "in", "out", "tooClose" } })
        );
        var reading = Row(await site.Card("GT-02"), "cable.length")["attempts"]![0]!;
        Assert.Equal((58.1, "imported"), (reading["value"]!["value"]!.GetValue<double>(), reading["source"]!.ToString()));
        Assert.Equal("2026-10-14T08:30:00+00:00", reading["takenAt"]!.ToString());
        // The same file again brings nothing new.
        var second = await Finished(await Upload("results.csv", Csv));
        Assert.Equal(
            "known",
            second["lines"]!.AsArray().First(l => l!["where"]!.ToString() == "gt 02" && l["function"]!.ToString() == "length")![
                "fate"
            ]!.ToString()
        );
    }

    [Fact]
    public async Task JsonCarriesWhatATableCannot()
    {
        const string File = """
            { "format": "walkdown-results", "version": 1, "results": [
              { "run": "FB-02", "function": "probes", "sent": 4000, "received": 3970, "at": "2026-10-14T10:00:00Z" },
              { "run": "FB-02", "function": "wire-map", "map": [[1],[2],[3],[4],[5],[6],[7],[8]],
                "twistedPairs": [[1,2],[3,4],[5,6],[7,8]], "at": "2026-10-14T10:00:00Z" },
              { "run": "FB-02", "function": "counters", "first": { "packets": 4294967000, "errors": 2 },
                "second": { "packets": 9000000, "errors": 2 }, "intervalS": 3600, "at": "2026-10-14T10:00:00Z" },
              { "run": "FB-02", "function": "flux" } ] }
            """;
        var draft = await Finished(await Upload("results.json", File));
        Assert.Equal(
            ["out", "out", "in", "refused"],
            draft["lines"]!.AsArray().OrderBy(l => l!["line"]!.GetValue<int>()).Select(l => l!["fate"]!.ToString())
        );
    }

    [Theory]
    [InlineData("{ \"results\": [ { \"run\": ", "cut off")]
    [InlineData("a,b,c\n1,2,3\n", "headings")]
    [InlineData("%PDF-1.7 x", "PDF")]
    [InlineData("run,function,value\n", "no result")]
    public async Task AFileThatIsNoneIsRefusedInWords(string file, string word)
    {
        var work = await Upload("odd.csv", file);
        work = await site.Over(work);
        Assert.Equal("failed", work["state"]!.ToString());
        Assert.Contains(word, work["why"]!.ToString());
    }

    private async Task<JsonNode> Upload(string name, string text)
    {
        using var body = new ByteArrayContent(Encoding.UTF8.GetBytes(text));
        body.Headers.ContentType = new MediaTypeHeaderValue("application/octet-stream");
        using var response = await site.Http.PostAsync($"/api/jobs/{site.JobId}/results/file?name={name}", body);
        response.EnsureSuccessStatusCode();
        return Json(await response.Content.ReadAsStringAsync());
    }

    private async Task<JsonNode> Finished(JsonNode work)
    {
        work = await site.Over(work);
        Assert.True(work["state"]!.ToString() == "done", work["why"]?.ToString());
        return work["results"]!;
    }
}
