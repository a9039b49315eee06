using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;

namespace Walkdown.Server.Tests;

/// <summary>A test drive before a plate reader through the real server: agreed, ticked off, its list taken, its rows told, and nobody
/// else's plate kept.</summary>
public sealed class PlateApiTests
{
    private static readonly object Drive = new
    {
        vehicles = new[] { new { name = "A", plate = "46-TH-1207" }, new { name = "B", plate = "46-TH-883" } },
        speedsKmh = new[] { 20, 40 },
        lanes = Array.Empty<string>(),
        bothWays = false,
        intervalSeconds = 30,
        rule = (string?)null,
        turnSeconds = 60,
        allowedMisses = 0,
        isAlone = false,
    };

    private static Task<JsonNode> Agree(Site site, string label) => site.Add(label, "plates/drives", new { design = Drive });

    private static Task<JsonNode> Plates(Site site, string label) => site.Get($"/api/cards/{site.Stops[label]}/plates");

    private static Task<JsonNode> Tick(Site site, string label, string vehicle, double ago) =>
        site.Add(
            label,
            "plates/passes",
            new
            {
                vehicle,
                kmh = 20,
                secondsBefore = ago,
            }
        );

    private static object Said(Site site, object? more = null)
    {
        var body = more is null ? [] : JsonSerializer.SerializeToNode(more)!.AsObject();
        body["by"] = site.Ina;
        body["takenAt"] = DateTimeOffset.UtcNow.ToString("O");
        body["clockOffsetMs"] = 0;
        return body;
    }

    private static Task<(int Status, JsonNode Answer)> File(Site site, string label, byte[] file, string from = "file") =>
        site.Send(
            $"/api/cards/{site.Stops[label]}/plates/file",
            Said(
                site,
                new
                {
                    name = "export.csv",
                    from,
                    file,
                }
            )
        );

    private static string[] Outcomes(JsonNode plates) => [.. plates["trial"]!["passes"]!.AsArray().Select(p => p!["outcome"]!.ToString())];

    [Fact]
    public async Task ADriveIsTickedOffItsListIsHadFromTheDiskAndItsRowIsTold()
    {
        using var site = new Site();
        const string label = "GT-05";
        (await site.Outside.PostAsJsonAsync($"/panel/plates/{label}/mend", new { })).EnsureSuccessStatusCode();
        await Agree(site, label);
        // Twelve passes, 50 s apart, the last half a minute ago; the third comes again after ten seconds.
        double[] ago = [.. Enumerable.Range(0, 12).Select(i => 30 + 50.0 * (11 - i) + i % 3), 30 + 50 * 9 - 10];
        string[] who = [.. Enumerable.Range(0, 12).Select(i => i % 2 == 0 ? "A" : "B"), "A"];
        var driven = who.Zip(ago, (w, a) => new { plate = w == "A" ? "46-TH-1207" : "46 TH 883", secondsAgo = a });
        (await site.Outside.PostAsJsonAsync($"/panel/plates/{label}/drive", driven)).EnsureSuccessStatusCode();
        foreach (var (w, a) in who.Zip(ago))
            await Tick(site, label, w, a - 0.7);
        Assert.All(Outcomes(await Plates(site, label)), o => Assert.Equal("noList", o));

        var (status, answer) = await site.Send($"/api/cards/{site.Stops[label]}/plates/ask", Said(site));
        Assert.True(status == 200, answer.ToJsonString());
        var plates = await Plates(site, label);
        // The one that came again too soon stands as the fourth.
        Assert.Equal("hidden", Outcomes(plates)[3]);
        Assert.Equal(12, Outcomes(plates).Count(o => o is "read" or "misread" or "missed"));
        Assert.True(Outcomes(plates).Count(o => o == "read") >= 10);
        var list = plates["trial"]!["lists"]![0]!;
        Assert.Equal(("recorder", "R-1"), (list["from"]!.ToString(), list["name"]!.ToString()));
        Assert.InRange(list["measuredAheadSeconds"]!.GetValue<double>(), 0.6, 1.2);

        var row = Assert.Single(plates["rows"]!.AsArray())!;
        Assert.Equal(13, row["lines"]!.AsArray().Count);
        Assert.Equal("tooClose", row["state"]!.ToString());
        await site.Add(
            label,
            "readings",
            new
            {
                row = row["row"]!.ToString(),
                source = "typed",
                value = new { kind = "form", lines = row["lines"]!.DeepClone() },
            }
        );
        Assert.True((await Plates(site, label))["rows"]![0]!["isKept"]!.GetValue<bool>());
    }

    [Fact]
    public async Task NobodyElsesPlateIsKeptAnywhere()
    {
        var data = Directory.CreateTempSubdirectory("walkdown-test-").FullName;
        using var site = Site.On(data);
        await Agree(site, "GT-01");
        var start = DateTimeOffset.UtcNow.AddMinutes(-10);
        for (var i = 0; i < 4; i++)
            await Tick(site, "GT-01", "A", 600 - 70 * i - 3 * i * i);
        var lines = new StringBuilder("Plate;Date;Time;Lane\r\n");
        for (var i = 0; i < 4; i++)
        {
            var at = start.AddSeconds(70 * i + 3 * i * i);
            lines.Append($"{(i == 2 ? "4GTH1207" : "46TH1207")};{at:yyyy-MM-dd};{at:HH:mm:ss};1\r\n");
            lines.Append($"191-D-4711{i % 2};{at:yyyy-MM-dd};{at.AddSeconds(20):HH:mm:ss};1\r\n");
        }
        var (status, answer) = await File(site, "GT-01", Encoding.UTF8.GetBytes(lines.ToString()), "cameraPage");
        Assert.True(status == 200, answer.ToJsonString());
        Assert.DoesNotContain("4711", answer.ToJsonString(), StringComparison.Ordinal);
        var plates = await Plates(site, "GT-01");
        Assert.Equal(["read", "read", "misread", "read"], Outcomes(plates));
        Assert.Equal("4GTH1207", plates["trial"]!["passes"]![2]!["read"]!.ToString());
        Assert.Equal(4, plates["trial"]!["lists"]![0]!["others"]!.GetValue<int>());
        Assert.Contains("drive.page-forgets", plates["trial"]!["told"]!.AsArray().Select(t => t!["code"]!.ToString()));
        site.Stop();
        var isOwnKept = false;
        foreach (var file in Directory.EnumerateFiles(data, "*", SearchOption.AllDirectories))
        {
            var text = Encoding.Latin1.GetString(await System.IO.File.ReadAllBytesAsync(file));
            isOwnKept |= text.Contains("4GTH1207", StringComparison.Ordinal);
            Assert.False(text.Contains("D-4711", StringComparison.Ordinal) || text.Contains("191D4711", StringComparison.Ordinal), file);
        }
        Assert.True(isOwnKept);
    }

    [Fact]
    public async Task WhatIsCarelessIsRefusedInWords()
    {
        using var site = new Site();
        async Task Refused(string label, string what, object body, string code, int expected = 422)
        {
            var (status, why) = await site.Send($"/api/cards/{site.Stops[label]}/{what}", site.Entry(body));
            Assert.Equal((expected, code), (status, why["code"]!.ToString()));
            Assert.DoesNotContain("{0}", why["detail"]!.ToString(), StringComparison.Ordinal);
        }
        await Refused("CC-07", "plates/drives", new { design = Drive }, "problem.no-plate-reader");
        await Refused("GT-01", "plates/passes", new { vehicle = "A" }, "problem.no-drive");
        var (noDrive, whyNot) = await site.Send($"/api/cards/{site.Stops["GT-01"]}/plates/ask", Said(site));
        Assert.Equal((422, "problem.no-drive"), (noDrive, whyNot["code"]!.ToString()));
        Assert.False((await Plates(site, "CC-07"))["isReader"]!.GetValue<bool>());
        await Agree(site, "GT-01");
        await Refused("GT-01", "plates/passes", new { vehicle = "Z" }, "problem.no-vehicle");
        await Refused("GT-01", "plates/passes", new { vehicle = "A", lane = "left" }, "problem.no-lane");
        await Refused("GT-01", "plates/passes", new { vehicle = "A", secondsBefore = -5 }, "problem.pass-when");
        await Refused("GT-01", "plates/passes", new { vehicle = "A", kmh = 900 }, "drive.outside");
        await Refused("GT-01", "plates/drives", new { design = (object?)null }, "problem.unreadable", 400);

        async Task NoList(string text, string code)
        {
            var (status, why) = await File(site, "GT-01", Encoding.UTF8.GetBytes(text));
            Assert.Equal((422, code), (status, why["code"]!.ToString()));
        }
        await NoList("", "sheet.empty");
        await NoList("%PDF-1.7", "sheet.pdf");
        await NoList("name,size\nx,2\n", "plates.no-headings");
        await NoList("time,plate\nyesterday,46TH1207\n", "plates.no-time");
        await NoList("time,plate\n" + string.Concat(Enumerable.Repeat("2026-10-14 10:00:00,46TH1207\n", 5_001)), "problem.list-long");
        var (forged, whose) = await File(site, "GT-01", "time,plate\n"u8.ToArray(), "recorder");
        Assert.Equal((422, "problem.list-from"), (forged, whose["code"]!.ToString()));
        var (none, answer) = await File(site, "GT-01", "time,plate\n"u8.ToArray());
        Assert.True(none == 200, answer.ToJsonString());
        Assert.Empty((await Plates(site, "GT-01"))["trial"]!["passes"]!.AsArray());
        var (unknown, _) = await site.Send($"/api/cards/{Guid.NewGuid()}/plates/ask", Said(site));
        Assert.Equal(404, unknown);
    }

    [Fact]
    public async Task TheLaneIsTriedBeforeItIsKeptAndTheRowKnows()
    {
        using var site = new Site();
        var before = await Plates(site, "FB-02");
        Assert.Empty(before["geometry"]!.AsArray());
        var setting = before["setting"]!.AsObject();
        var path = $"/api/cards/{site.Stops["FB-02"]}/plates/geometry";
        async Task<(int, JsonNode)> Try(string field, double says)
        {
            var tried = setting.DeepClone();
            tried[field] = says;
            return await site.Send(path, new { setting = tried });
        }
        var (status, seen) = await Try("exposureMs", 20);
        Assert.True(status == 200, seen.ToJsonString());
        Assert.Contains("plates.blur", seen["seen"]!["wrong"]!.AsArray().Select(m => m!["code"]!.ToString()));
        Assert.Equal(4, seen["seen"]!["wrong"]!.AsArray().Count + seen["seen"]!["right"]!.AsArray().Count);
        foreach (var (field, says) in new[] { ("aheadMetres", 0.0), ("fieldDeg", 180), ("kmh", -3), ("plateMetres", 1e9) })
        {
            var (refused, why) = await Try(field, says);
            Assert.Equal((422, "drive.outside"), (refused, why["code"]!.ToString()));
        }
        Assert.Empty((await Plates(site, "FB-02"))["geometry"]!.AsArray());
        await site.Add(
            "FB-02",
            "readings",
            new
            {
                row = before["geometryRow"]!.ToString(),
                source = "typed",
                value = new { kind = "form", lines = seen["lines"]!.DeepClone() },
            }
        );
        var after = await Plates(site, "FB-02");
        Assert.Equal(20, after["setting"]!["exposureMs"]!.GetValue<double>());
        Assert.Equal(seen["seen"]!["wrong"]!.ToJsonString(), after["geometry"]![0]!["wrong"]!.ToJsonString());
        Assert.Equal("out", Site.Row(await site.Card("FB-02"), "plates.geometry")["state"]!.ToString());
    }

    /// <summary>In the view designer a plate reader is told what a plate is in the view that is tried; any other camera nothing.</summary>
    [Fact]
    public async Task TheViewDesignerKnowsOfPlates()
    {
        using var site = new Site();
        async Task<(int Status, JsonNode Answer)> Try(string label, double field)
        {
            var views = await site.Get($"/api/cards/{site.Stops[label]}/views");
            var design = views["heads"]![0]!["begin"]!.DeepClone();
            design["horizontalDeg"] = field;
            return await site.Send($"/api/cards/{site.Stops[label]}/views/plates", new { design });
        }
        var (status, wide) = await Try("GT-01", 60);
        Assert.True(status == 200, wide.ToJsonString());
        var (_, narrow) = await Try("GT-01", 20);
        double Pixels(JsonNode of) => of[0]!["seen"]!["geometry"]!["platePixels"]!.GetValue<double>();
        Assert.InRange(Pixels(narrow) / Pixels(wide), 3, 3.5);
        Assert.Equal(4, wide[0]!["onGround"]!.AsArray().Count);
        Assert.Empty((await Try("GT-02", 60)).Answer.AsArray());
        Assert.Equal(422, (await Try("GT-01", 400)).Status);
        // Nothing is agreed yet: no zone is drawn into anything.
        Assert.Null((await Plates(site, "GT-01"))["view"]);
    }

    [Fact]
    public async Task ARecorderThatDoesNotAnswerLosesNothing()
    {
        using var site = new Site();
        await Agree(site, "GT-01");
        await Tick(site, "GT-01", "A", 5);
        using var restart = await site.Outside.PostAsJsonAsync("/panel/recorders/R-1/restart", new { });
        restart.EnsureSuccessStatusCode();
        var (status, why) = await site.Send($"/api/cards/{site.Stops["GT-01"]}/plates/ask", Said(site));
        Assert.Equal(((int)HttpStatusCode.BadGateway, "recorder.silent"), (status, why["code"]!.ToString()));
        var plates = await Plates(site, "GT-01");
        Assert.Single(plates["trial"]!["passes"]!.AsArray());
        Assert.Empty(plates["trial"]!["lists"]!.AsArray());
    }

    [Fact]
    public async Task DayAndMonthAreToldByWhenTheDriveWas()
    {
        using var site = new Site();
        await Agree(site, "GT-01");
        var now = DateTimeOffset.UtcNow.AddMinutes(-5);
        for (var i = 0; i < 3; i++)
            await Tick(site, "GT-01", "A", 300 - 40 * i - i * i);
        foreach (var form in new[] { "dd/MM/yyyy HH:mm:ss", "MM/dd/yyyy HH:mm:ss", "yyyy-MM-ddTHH:mm:sszzz" })
        {
            var lines = string.Concat(
                Enumerable
                    .Range(0, 3)
                    .Select(i =>
                        now.AddSeconds(40 * i + i * i).ToString(form, System.Globalization.CultureInfo.InvariantCulture) + ",46-TH-1207\n"
                    )
            );
            var (status, answer) = await File(site, "GT-01", Encoding.UTF8.GetBytes("Timestamp,Number plate\n" + lines));
            Assert.True(status == 200, answer.ToJsonString());
            Assert.Equal(["read", "read", "read"], Outcomes(await Plates(site, "GT-01")));
        }
    }
}
