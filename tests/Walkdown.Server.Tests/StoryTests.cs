using System.Text;
using UglyToad.PdfPig;
using static Walkdown.Server.Tests.Site;

namespace Walkdown.Server.Tests;

/// <summary>One device through the whole slice, and the catalogue, the tester's bad days and the schedule around it.</summary>
public sealed class StoryTests(Site site) : IClassFixture<Site>
{
    private Task<(int Status, System.Text.Json.Nodes.JsonNode Body)> Outside(string what, object body) =>
        site.Post("/api/demo/" + what, body);

    private const string Everything =
        "SELECT (SELECT count(*) FROM Devices) + (SELECT count(*) FROM Runs) + (SELECT count(*) FROM RunEnds) "
        + "+ (SELECT count(*) FROM Channels) + (SELECT count(*) FROM Journal)";

    [Fact]
    public async Task TestedRepairedRetestedAndReported()
    {
        var card = await site.ReadAll("CC-07");
        Assert.Equal("refused", card["card"]!["verdict"]!["verdict"]!.ToString());
        var map = Row(card, "cable.wire-map");
        Assert.Equal("open-at-distance", map["causes"]![0]!["id"]!.ToString());
        await site.Add(
            "CC-07",
            "faults",
            new
            {
                row = map["id"]!.ToString(),
                title = "Pins 5 and 8 open at the camera",
                severity = "major",
                causeId = "open-at-distance",
            }
        );
        var fault = (await site.Card("CC-07"))["card"]!["faults"]![0]!["fault"]!["id"]!.ToString();
        await Outside("runs/CC-07/work", new { act = "re-punch", end = "far" });
        card = await site.Add(
            "CC-07",
            "acts",
            new
            {
                kind = "re-punch",
                runId = card["place"]!["runs"]![0]!["id"]!.ToString(),
                end = "far",
                faultId = fault,
            }
        );
        Assert.Equal("stale", Row(card, "cable.wire-map")["state"]!.ToString());
        Assert.Equal(
            "open",
            card["card"]!["verdict"]!["verdict"]!.ToString() == "refused" ? "open" : card["card"]!["verdict"]!["verdict"]!.ToString()
        );
        card = await site.ReadAll("CC-07");
        Assert.Equal("accepted", card["card"]!["verdict"]!["verdict"]!.ToString());
        Assert.False(card["card"]!["faults"]![0]!["open"]!.GetValue<bool>());

        var json = await site.Get($"/api/cards/{site.Stops["CC-07"]}/report.json");
        Assert.Equal("walkdown-card/1", json["format"]!.ToString());
        using var pdf = PdfDocument.Open(await site.Http.GetByteArrayAsync($"/api/cards/{site.Stops["CC-07"]}/report.pdf"));
        var text = string.Join("\n", pdf.GetPages().Select(p => string.Join(" ", p.GetWords().Select(w => w.Text))));
        foreach (
            var expected in new[]
            {
                "CC-07",
                "Accepted",
                "Roof edge, quay side",
                "TH4275",
                "CT-1140",
                "15 June 2027",
                "Pins 5 and 8 open at the camera",
                "Ina Solberg",
                "IEEE 802.3",
                "Void since the work",
                "Every row",
                $"page 1 of {pdf.NumberOfPages}",
                "Simulated site",
            }
        )
            Assert.Contains(expected, text);
        foreach (var row in json["card"]!["rows"]!.AsArray().Where(r => r!["check"]!["entry"]!.ToString() == "number"))
        foreach (var attempt in row!["attempts"]!.AsArray())
            Assert.Contains(
                attempt!["value"]!["value"]!
                    .GetValue<double>()
                    .ToString("F" + row["check"]!["decimals"], System.Globalization.CultureInfo.InvariantCulture),
                text
            );
        Assert.True(pdf.TryGetBookmarks(out var bookmarks));
        Assert.Contains(bookmarks.GetNodes(), b => b.Title == "Every row");
        Assert.All(pdf.GetPages().SelectMany(p => p.Letters).Select(l => l.FontName).Distinct(), font => Assert.Contains("Atkinson", font));
    }

    [Theory]
    [InlineData("VL-03", "cable.wire-map", "two-schemes")]
    [InlineData("BW-04", "cable.loop-resistance", "wrong-material")]
    [InlineData("VL-10", "power.poe-class", "device-on-standard")]
    [InlineData("FB-04", "cable.length", "longer-than-plan")]
    [InlineData("GT-05", "cable.length", "unlisted-cord")]
    public async Task EachHiddenFaultIsFoundWithItsCause(string label, string check, string cause)
    {
        var card = await site.ReadAll(label);
        Assert.Contains(
            card["card"]!["rows"]!.AsArray(),
            r =>
                r!["key"]!["check"]!.ToString() == check
                && r["state"]!.ToString() == "out"
                && r["causes"]!.AsArray().Any(c => c!["id"]!.ToString() == cause)
        );
    }

    /// <summary>Where the rows tell stories of their own, the Card says which one explains most of them.</summary>
    [Theory]
    [InlineData("GT-05", "unlisted-cord")]
    [InlineData("BW-04", "wrong-material")]
    [InlineData("PT-05", null)]
    public async Task OneCauseForTheWholeCard(string label, string? cause)
    {
        var likely = (await site.ReadAll(label, onlyRequired: true))["card"]!["mostLikely"];
        Assert.Equal(cause, likely?["id"]!.ToString());
        Assert.True(cause is null || likely!["rows"]!.AsArray().Count > 1);
    }

    [Fact]
    public async Task HealthyRunsAreAccepted()
    {
        foreach (var label in new[] { "R-1", "GT-01", "CC-01", "PT-03", "BW-02" })
            Assert.Equal("accepted", (await site.ReadAll(label))["card"]!["verdict"]!["verdict"]!.ToString());
    }

    /// <summary>With every row, its limits and its sources.</summary>
    [Theory]
    [InlineData("CC-05")]
    [InlineData("FB-03")]
    [InlineData("R-2")]
    public async Task ACleanCardIsASheetOfTwoSides(string label)
    {
        Assert.Equal("accepted", (await site.ReadAll(label, onlyRequired: true))["card"]!["verdict"]!["verdict"]!.ToString());
        using var pages = UglyToad.PdfPig.PdfDocument.Open(await site.Http.GetByteArrayAsync($"/api/cards/{site.Stops[label]}/report.pdf"));
        Assert.True(pages.NumberOfPages == 2, $"{label}: {pages.GetPages().Last().Text}");
    }

    [Fact]
    public async Task TheTestersBadDaysAreSaidInWordsAndTakeNothing()
    {
        var row = Row(await site.Card("CC-02"), "cable.wire-map")["id"]!.ToString();
        foreach (
            var (mood, code) in new[] { ("silent", "tester.silent"), ("nonsense", "tester.nonsense"), ("otherRun", "tester.other-run") }
        )
        {
            await Outside("mood", new { mood });
            var (status, problem) = await site.Post($"/api/cards/{site.Stops["CC-02"]}/tester", new { row });
            Assert.Equal((502, code), (status, problem["code"]!.ToString()));
        }
        await Outside("mood", new { mood = "normal" });
        Assert.Empty(Row(await site.Card("CC-02"), "cable.wire-map")["attempts"]!.AsArray());
        // What it answered is a reading of another run: that was found, and says by what.
        var found = (await site.Get($"/api/jobs/{site.JobId}/found")).AsArray().First()!;
        Assert.Equal("tester", found["source"]!.ToString());
        Assert.NotEqual("CC-02", found["found"]!["label"]!.ToString());
        Assert.Equal(found["deviceId"] is null ? "" : "label", found["matchedBy"]!.ToString());
    }

    /// <summary>One answer for four pairs is shown, judged, before it is saved: as which it is then kept.</summary>
    [Theory]
    [InlineData("VL-03", "cable.wire-map", "", 1, "out")]
    [InlineData("CC-05", "cable.loop-resistance", "1-2", 4, "in")]
    public async Task WhatAnAnswerIsForetoldAsItIsKeptAs(string label, string check, string part, int rows, string state)
    {
        var row = Row(await site.Card(label), check, part)["id"]!.ToString();
        var (_, read) = await site.Post($"/api/cards/{site.Stops[label]}/tester", new { row });
        Assert.Equal(rows, read["rows"]!.AsArray().Count);
        foreach (var one in read["rows"]!.AsArray())
        {
            Assert.Equal(state, one!["state"]!.ToString());
            var card = await site.Add(
                label,
                "readings",
                new
                {
                    row = one["row"]!.ToString(),
                    source = "tester",
                    instrumentId = site.Instruments["Camera tester 1"],
                    observationId = read["observationId"]!.ToString(),
                }
            );
            Assert.Equal(
                state,
                card["card"]!["rows"]!.AsArray().Single(r => r!["id"]!.ToString() == one["row"]!.ToString())!["state"]!.ToString()
            );
        }
    }

    [Fact]
    public async Task AnInstrumentOutOfDateIsKeptAndDoesNotCount()
    {
        var row = Row(await site.Card("CC-03"), "power.volts-at-device", "", "infraredOff")["id"]!.ToString();
        var answer = await site.Add(
            "CC-03",
            "readings",
            new
            {
                row,
                source = "typed",
                text = "53.0",
                instrumentId = site.Instruments["Old meter"],
            }
        );
        Assert.Equal("stale", Row(answer, "power.volts-at-device", "", "infraredOff")["state"]!.ToString());
    }

    [Fact]
    public async Task TheScheduleTakenTwiceChangesNothing()
    {
        var csv = await File.ReadAllBytesAsync(Path.Combine(Root, "demo", "schedule.csv"));
        var before = site.Count(Everything);
        using var response = await site.Http.PostAsync(
            $"/api/jobs/{site.JobId}/schedule",
            new ByteArrayContent(csv) { Headers = { ContentType = new("text/csv") } }
        );
        var result = Json(await response.Content.ReadAsStringAsync());
        Assert.Equal((0, 0, 65), (result["added"]!.GetValue<int>(), result["changed"]!.GetValue<int>(), result["same"]!.GetValue<int>()));
        Assert.Equal(before, site.Count(Everything));
    }

    [Theory]
    [InlineData("label;name\nA;B\n", "'kind' is missing")]
    [InlineData("label,name,area\nA,B,C\n", "'kind' is missing")]
    [InlineData("label,name,area,kind\nA,B,C,teapot\nA,,C,bullet\n", "'teapot' is no device kind")]
    [InlineData("label,name,area,kind,address,length_m,run\nA,B,C,bullet,10.46.8.300,-4,A\n", "is no IPv4 address")]
    [InlineData("label,name,area,kind\nX,B,C,bullet\nX,B,C,bullet\n", "stands already in row 2")]
    [InlineData("label,name,area,kind,recorder,channels\nX,B,C,bullet,R-9,1\n", "No recorder is labelled 'R-9'")]
    public async Task ABadScheduleIsRefusedWhole(string csv, string says)
    {
        var before = site.Count("SELECT count(*) FROM Devices");
        using var response = await site.Http.PostAsync(
            $"/api/jobs/{site.JobId}/schedule",
            new ByteArrayContent(Encoding.UTF8.GetBytes(csv)) { Headers = { ContentType = new("text/csv") } }
        );
        var problem = Json(await response.Content.ReadAsStringAsync());
        Assert.Equal(422, (int)response.StatusCode);
        Assert.Contains(
            problem["rows"]!.AsArray(),
            r => r!["what"]!.ToString().Contains(says, StringComparison.Ordinal) && r["mend"]!.ToString().Length > 5
        );
        Assert.Equal(before, site.Count("SELECT count(*) FROM Devices"));
    }

    [Fact]
    public async Task EveryBadRowIsNamedAtOnce()
    {
        var csv =
            "label,name,area,kind,port,length_m,run\n"
            + string.Join("\n", Enumerable.Range(1, 20).Select(n => $"Z-{n},N,A,bullet,3,x,Z-{n}"));
        using var response = await site.Http.PostAsync(
            $"/api/jobs/{site.JobId}/schedule",
            new ByteArrayContent(Encoding.UTF8.GetBytes(csv)) { Headers = { ContentType = new("text/csv") } }
        );
        var rows = Json(await response.Content.ReadAsStringAsync())["rows"]!.AsArray();
        Assert.Equal(Enumerable.Range(2, 20), rows.Select(r => r!["row"]!.GetValue<int>()).Distinct().Order());
    }

    [Fact]
    public async Task ANewKindAndCheckAsJsonReachCardAndReportWithoutARebuild()
    {
        var folder = Path.Combine(site.Data, "catalogue");
        File.Copy(Path.Combine(Root, "demo", "additions", "mast-camera.json"), Path.Combine(folder, "mast-camera.json"));
        var csv = "label,name,area,kind,run,length_m,model\nMA-01,Signal mast,Pontoon,mast-camera,MA-01,40,Mast 1\n";
        using var response = await site.Http.PostAsync(
            $"/api/jobs/{site.JobId}/schedule",
            new ByteArrayContent(Encoding.UTF8.GetBytes(csv)) { Headers = { ContentType = new("text/csv") } }
        );
        Assert.Equal(200, (int)response.StatusCode);
        var stop = (await site.Get($"/api/jobs/{site.JobId}/walk"))["areas"]!
            .AsArray()
            .SelectMany(a => a!["stops"]!.AsArray())
            .Single(s => s!["label"]!.ToString() == "MA-01")!;
        site.Stops["MA-01"] = stop["id"]!.ToString();
        var row = Row(await site.Card("MA-01"), "fixing.lanyard");
        var answer = await site.Add(
            "MA-01",
            "readings",
            new
            {
                row = row["id"]!.ToString(),
                source = "typed",
                value = new { kind = "yesNo", yes = true },
            }
        );
        Assert.Equal("in", Row(answer, "fixing.lanyard")["state"]!.ToString());
        var stay = await site.Add(
            "MA-01",
            "readings",
            new
            {
                row = Row(answer, "fixing.stay-tension")["id"]!.ToString(),
                source = "typed",
                text = "11",
            }
        );
        Assert.Equal("out", Row(stay, "fixing.stay-tension")["state"]!.ToString());
        using var pdf = PdfDocument.Open(await site.Http.GetByteArrayAsync($"/api/cards/{site.Stops["MA-01"]}/report.pdf"));
        var text = string.Join(" ", pdf.GetPages().SelectMany(p => p.GetWords()).Select(w => w.Text));
        Assert.Contains("Lanyard on both ends", text);
        Assert.Contains("Camera on a mast", text);

        await File.WriteAllTextAsync(Path.Combine(folder, "broken.json"), "{ \"checks\": [ { \"id\": 5 } ] }");
        var catalogue = await site.Get("/api/catalogue");
        Assert.Equal("broken.json", catalogue["problems"]![0]!["file"]!.ToString());
        Assert.Contains((await site.Card("MA-01"))["card"]!["rows"]!.AsArray(), r => r!["key"]!["check"]!.ToString() == "fixing.lanyard");
        File.Delete(Path.Combine(folder, "broken.json"));
    }
}
