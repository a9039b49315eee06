using System.Text.Json.Nodes;

namespace Walkdown.Server.Tests;

/// <summary>The motor of a lens, driven over the network by what its pictures say.</summary>
public sealed class LensDriveTests
{
    private static async Task<string> Path(Site site, string label)
    {
        var head = (await site.Get($"/api/cards/{site.Stops[label]}/views"))["heads"]![0]!["id"]!.ToString();
        return $"/api/cards/{site.Stops[label]}/aim/{head}";
    }

    private static async Task<JsonNode> Begin(Site site, string label, string serial, string use = "focus")
    {
        var login = new
        {
            at = "",
            user = "site",
            password = $"Tern-{serial}-46",
        };
        var (status, live) = await site.Send(
            $"{await Path(site, label)}/begin",
            new
            {
                by = site.Ina,
                login,
                use,
            }
        );
        Assert.True(status == 200, live.ToJsonString());
        return await Until(site, label, l => l["number"]!.GetValue<int>() > 0);
    }

    /// <summary>What is told, once it is as it should be: each answer waits for the next picture.</summary>
    private static async Task<JsonNode> Until(Site site, string label, Func<JsonNode, bool> isSo)
    {
        var (after, last) = (0, (JsonNode)new JsonObject());
        for (var looks = 0; looks < 200; looks++)
        {
            var (_, live) = await site.Send($"{await Path(site, label)}/live?after={after}", new { });
            if (isSo(live))
                return live;
            (after, last) = (live["number"]!.GetValue<int>(), live);
        }
        throw new InvalidOperationException($"It was never so: {last["trouble"]} {last["focus"]?["motor"]}");
    }

    private static async Task<(int Status, JsonNode Body)> Ask(Site site, string label, string ask, double share = 0) =>
        await site.Send(
            $"{await Path(site, label)}/motor",
            new
            {
                ask,
                share,
                by = site.Ina,
            }
        );

    private static async Task<double> OffSharpest(Site site, string label) =>
        Site.Json(await site.Outside.GetStringAsync($"/panel/views/{label}"))[0]!["offSharpest"]!.GetValue<double>();

    private static double Place(JsonNode live) => live["focus"]!["motor"]!["place"]!.GetValue<double>();

    [Fact]
    public async Task ItIsSteppedAndDrivenToItsSharpest()
    {
        using var site = Site.WithField();
        var began = Place(await Begin(site, "CC-03", "TH4247"));
        Assert.True(Math.Abs(await OffSharpest(site, "CC-03")) > 5);

        // A step, and more than there is: never beyond its end.
        await Ask(site, "CC-03", "step", 0.05);
        await Until(site, "CC-03", l => Math.Abs(Place(l) - began - 0.05) < 1e-6);
        await Ask(site, "CC-03", "step", 1);
        await Until(site, "CC-03", l => Place(l) == 1);
        Assert.Equal(422, (await Ask(site, "CC-03", "step", 1.01)).Status);
        Assert.InRange((await Ask(site, "CC-03", "round")).Status, 400, 422);
        await Ask(site, "CC-03", "step", began - 1);
        await Until(site, "CC-03", l => Math.Abs(Place(l) - began) < 1e-6);

        // Stopped on the way it goes back to where it was.
        await Ask(site, "CC-03", "sharpest");
        await Until(site, "CC-03", l => l["focus"]!["motor"]!["sweep"]!["steps"]!.AsArray().Count > 2);
        await Ask(site, "CC-03", "stop");
        var stopped = await Until(site, "CC-03", l => Math.Abs(Place(l) - began) < 1e-6);
        Assert.Equal("motor.stopped", stopped["focus"]!["motor"]!["sweep"]!["why"]!["code"]!.ToString());

        await Ask(site, "CC-03", "sharpest");
        var done = await Until(site, "CC-03", l => l["focus"]!["motor"]!["sweep"]!["phase"]!.ToString() is "done" or "failed");
        Assert.Equal("done", done["focus"]!["motor"]!["sweep"]!["phase"]!.ToString());
        Assert.InRange(Math.Abs(await OffSharpest(site, "CC-03")), 0, 0.5);
        // What it stands at is what the row would be told.
        Assert.Equal("stop", done["focus"]!["look"]!["state"]!.ToString());
        // Stepped off it, it is not said to stand there any more.
        await Ask(site, "CC-03", "step", -0.05);
        await Until(site, "CC-03", l => Place(l) < Place(done) - 0.04 && l["focus"]!["motor"]!["sweep"] is null);
    }

    /// <summary>A motor that takes no place and says none is run against its end first, and counted from there.</summary>
    [Fact]
    public async Task OneThatCanOnlyRunIsDrivenToItsSharpestToo()
    {
        using var site = Site.WithField();
        var begun = await Begin(site, "GT-05", "TH4149");
        Assert.NotNull(begun["focus"]!["motor"]);
        Assert.Null(begun["focus"]!["motor"]!["place"]);
        using (
            await site.Outside.PostAsync("/panel/views/GT-05/ring", System.Net.Http.Json.JsonContent.Create(new { head = 1, steps = -7.5 }))
        ) { }
        Assert.True(Math.Abs(await OffSharpest(site, "GT-05")) > 5);
        // On a busy machine a run is longer than it was meant: then it is not there again, says so, and is asked once more.
        JsonNode done = new JsonObject();
        for (var presses = 0; presses < 3; presses++)
        {
            await Ask(site, "GT-05", "sharpest");
            await Until(site, "GT-05", l => l["focus"]!["motor"]!["sweep"]?["phase"]!.ToString() is not (null or "done" or "failed"));
            done = await Until(site, "GT-05", l => l["focus"]!["motor"]!["sweep"]?["phase"]!.ToString() is "done" or "failed");
            if (done["focus"]!["motor"]!["sweep"]!["phase"]!.ToString() == "done")
                break;
            Assert.Equal("motor.not-there", done["focus"]!["motor"]!["sweep"]!["why"]!["code"]!.ToString());
        }
        Assert.Equal("done", done["focus"]!["motor"]!["sweep"]!["phase"]!.ToString());
        Assert.InRange(Math.Abs(await OffSharpest(site, "GT-05")), 0, 0.8);
        Assert.InRange(Place(done), 0.3, 7.7);
    }

    /// <summary>Focus that somebody told before is not in any more: the lens stands elsewhere.</summary>
    [Fact]
    public async Task WhatWasToldOfItsFocusIsVoidOnceItIsDriven()
    {
        using var site = Site.WithField();
        async Task<JsonNode> Row() => Site.Row(await site.Card("CC-03"), "focus.cover-on", "", "coverOn");
        await Begin(site, "CC-03", "TH4247");
        await site.Add(
            "CC-03",
            "readings",
            new
            {
                row = (await Row())["id"]!.ToString(),
                value = new { kind = "choice", choice = "sharp" },
                source = "typed",
            }
        );
        Assert.NotNull((await Row())["counts"]);
        var before = (await site.Send($"{await Path(site, "CC-03")}/live?after=0", new { })).Body;
        Assert.True(before["focus"]!["motor"]!["voids"]!.GetValue<bool>());
        var (status, after) = await Ask(site, "CC-03", "step", 0.01);
        Assert.True(status == 200, after.ToJsonString());
        Assert.False(after["focus"]!["motor"]!["voids"]!.GetValue<bool>());
        var row = await Row();
        Assert.Null(row["counts"]);
        Assert.Equal("voidedByAct", row["attempts"]![0]!["standing"]!.ToString());
        // Entered once, by whoever drives it.
        await Ask(site, "CC-03", "step", 0.01);
        Assert.Single((await site.Card("CC-03"))["card"]!["acts"]!.AsArray());
    }

    /// <summary>A lens with rings, one that is not focused, one that nobody looks through: said, and nothing is driven.</summary>
    [Fact]
    public async Task WhatHasNoMotorIsNotDriven()
    {
        using var site = Site.WithField();
        Assert.Equal("motor.none", (await Ask(site, "CC-16", "sharpest")).Body["code"]!.ToString());
        var rings = await Begin(site, "CC-16", SerialOf("CC-16"));
        Assert.Null(rings["focus"]!["motor"]);
        Assert.Equal("motor.none", (await Ask(site, "CC-16", "sharpest")).Body["code"]!.ToString());
        await Begin(site, "CC-03", "TH4247", "aim");
        Assert.Equal("motor.none", (await Ask(site, "CC-03", "sharpest")).Body["code"]!.ToString());
    }

    private static string SerialOf(string label) =>
        StandIns
            .Schedule.Rows(File.ReadAllText(System.IO.Path.Combine(Site.Root, "demo", "schedule.csv")))
            .Single(r => r["label"] == label)["serial"];
}
