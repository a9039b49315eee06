using System.Net.Http.Json;
using System.Text.Json.Nodes;

namespace Walkdown.Server.Tests;

/// <summary>What the views of a whole site cover, through the real server: told of what was agreed, of walls that were drawn, and of nothing
/// that nobody said.</summary>
public sealed class CoverageApiTests
{
    private static string Path(Site site, string what = "") => $"/api/jobs/{site.JobId}/coverage{what}";

    private static object[] Box(double left, double top, double right, double bottom) =>
        [new { x = left, y = top }, new { x = right, y = top }, new { x = right, y = bottom }, new { x = left, y = bottom }];

    /// <summary>A view of CC-07, which hangs at 122, 86 and 5.2 m high, is agreed: to the south, a target at 12 m.</summary>
    private static async Task Agree(Site site, double? azimuth, string? agreedBy = "Odile Farrow")
    {
        var views = await site.Get($"/api/cards/{site.Stops["CC-07"]}/views");
        var design = views["heads"]![0]!["begin"]!.DeepClone().AsObject();
        (design["tiltDeg"], design["azimuthDeg"]) = (30, azimuth);
        design["targets"] = new JsonArray(
            new JsonObject
            {
                ["name"] = "Gangway",
                ["groundMetres"] = 12,
                ["asideMetres"] = 0,
                ["heightMetres"] = 1.7,
                ["level"] = "observe",
            }
        );
        var (status, body) = await site.Send(
            $"/api/cards/{site.Stops["CC-07"]}/views",
            site.Entry(
                new
                {
                    headId = views["heads"]![0]!["id"]!.ToString(),
                    design,
                    agreedBy,
                }
            )
        );
        Assert.True(status == 200, body?.ToString());
    }

    private static async Task<(int Status, JsonNode Body)> Draw(
        Site site,
        object[] grounds,
        object[]? walls = null,
        double northDeg = 0,
        string? path = null,
        string? was = null
    )
    {
        was ??= (await site.Get(Path(site)))["version"]!.ToString();
        using var answer = await site.Http.PutAsJsonAsync(
            path ?? Path(site, "/ground"),
            new
            {
                ground = new
                {
                    grounds,
                    walls = walls ?? [],
                    northDeg,
                },
                was,
            },
            TestContext.Current.CancellationToken
        );
        return ((int)answer.StatusCode, JsonNode.Parse(await answer.Content.ReadAsStringAsync(TestContext.Current.CancellationToken))!);
    }

    private static object Quay(params object[] corners) =>
        new
        {
            name = "Quay",
            level = "detect",
            corners = corners.Length > 0 ? corners : Box(120, 94, 124, 100),
        };

    private static double Seen(JsonNode answer) => answer["coverage"]!["grounds"]![0]!["seenPercent"]!.GetValue<double>();

    [Fact]
    public async Task GroundIsSeenByWhatWasAgreedAndHiddenByWalls()
    {
        using var site = new Site();
        var (status, none) = await Draw(site, [Quay()]);
        Assert.Equal(200, status);
        // Nobody has planned a view: nothing is seen, and every camera is named with what it lacks.
        Assert.Equal(0, Seen(none));
        Assert.Contains(none["leftOut"]!.AsArray(), v => v!["label"]!.ToString() == "CC-07" && v["lacks"]!.ToString() == "view");
        Assert.DoesNotContain(none["leftOut"]!.AsArray(), v => v!["label"]!.ToString() == "R-1");
        // A view that looks nowhere in particular is left out too.
        await Agree(site, null);
        Assert.Contains(
            (await site.Get(Path(site)))["leftOut"]!.AsArray(),
            v => v!["label"]!.ToString() == "CC-07" && v["lacks"]!.ToString() == "bearing"
        );
        await Agree(site, 180);
        var seen = await site.Get(Path(site));
        Assert.Equal(100, Seen(seen));
        Assert.DoesNotContain(seen["leftOut"]!.AsArray(), v => v!["label"]!.ToString() == "CC-07");
        var target = Assert.Single(seen["coverage"]!["targets"]!.AsArray())!;
        Assert.Equal(("Gangway", "holds"), (target["name"]!.ToString(), target["sight"]!.ToString()));
        Assert.Equal(98, target["at"]!["y"]!.GetValue<double>(), 1e-6);
        // A wall, and a plan whose north is elsewhere.
        object wall = new { corners = new object[] { new { x = 110, y = 90 }, new { x = 134, y = 90 } }, heightMetres = (double?)null };
        var (_, walled) = await Draw(site, [Quay()], [wall]);
        Assert.Equal(0, Seen(walled));
        Assert.Equal("hidden", walled["coverage"]!["targets"]![0]!["sight"]!.ToString());
        Assert.Equal(0, Seen((await Draw(site, [Quay()], northDeg: 180)).Body));
        // It is the job's: read anew it is the same, and gone once it is taken out.
        Assert.Equal(180, (await site.Get(Path(site)))["ground"]!["northDeg"]!.GetValue<double>());
        var (_, empty) = await Draw(site, []);
        Assert.Empty(empty["coverage"]!["grounds"]!.AsArray());
        Assert.NotEmpty(empty["coverage"]!["outlines"]![0]!["edge"]!.AsArray());
    }

    /// <summary>What was kept last stands where nothing was agreed, and says so; a later plan does not replace what was agreed.</summary>
    [Fact]
    public async Task WhatIsOnlyPlannedIsToldApart()
    {
        using var site = new Site();
        await Draw(site, [Quay()]);
        await Agree(site, 180, null);
        Assert.False((await site.Get(Path(site)))["coverage"]!["outlines"]![0]!["isAgreed"]!.GetValue<bool>());
        await Agree(site, 180);
        await Agree(site, 0, null);
        var told = await site.Get(Path(site));
        Assert.True(Assert.Single(told["coverage"]!["outlines"]!.AsArray())!["isAgreed"]!.GetValue<bool>());
        Assert.Equal(100, Seen(told));
    }

    /// <summary>Two draw at once: the second is told, and what the first drew stays.</summary>
    [Fact]
    public async Task WhatSomebodyDrewMeanwhileIsNotLost()
    {
        using var site = new Site();
        var was = (await site.Get(Path(site)))["version"]!.ToString();
        Assert.Equal(200, (await Draw(site, [Quay()], was: was)).Status);
        var (status, body) = await Draw(site, [], was: was);
        Assert.Equal((409, "ground.overtaken"), (status, body["code"]!.ToString()));
        var now = await site.Get(Path(site));
        Assert.Single(now["ground"]!["grounds"]!.AsArray());
        Assert.Equal(200, (await Draw(site, [], was: now["version"]!.ToString())).Status);
    }

    /// <summary>A strip that leans over the whole sheet has four thousand million squares around it: it is kept, nothing is told of it, and
    /// the page stands.</summary>
    [Fact]
    public async Task AStripOverTheWholeSheetBreaksNothing()
    {
        using var site = new Site();
        var strip = Quay(new { x = 0, y = 0 }, new { x = 20_000, y = 19_999.5 }, new { x = 20_000, y = 20_000 });
        var (status, told) = await Draw(site, [strip, Quay()]);
        Assert.Equal(200, status);
        Assert.Null(told["coverage"]!["grounds"]![0]!["seenPercent"]);
        Assert.Equal(0, (await site.Get(Path(site)))["coverage"]!["grounds"]![1]!["seenPercent"]!.GetValue<double>());
    }

    /// <summary>The levels of either edition, asked for as a page writes it; what is no edition is said, and a number is none.</summary>
    [Fact]
    public async Task ItSpeaksTheLevelsThatAreAskedFor()
    {
        using var site = new Site();
        await Draw(site, [Quay()]);
        await Agree(site, 180);
        async Task<string[]> LevelsOf(string edition) =>
            [.. (await site.Get(Path(site, "?edition=" + edition)))["coverage"]!["levels"]!.AsArray().Select(l => l!.ToString())];
        Assert.Contains("detect", await LevelsOf("edition2014"));
        Assert.Equal(await LevelsOf("edition2014"), await LevelsOf("Edition2014"));
        Assert.NotEqual(await LevelsOf("edition2014"), await LevelsOf("edition2025"));
        foreach (var none in new[] { "1", "edition1999", "edition2014,edition2025" })
        {
            using var answer = await site.Http.GetAsync(Path(site, "?edition=" + none), TestContext.Current.CancellationToken);
            Assert.Equal(400, (int)answer.StatusCode);
        }
    }

    [Fact]
    public async Task WhatCannotBeDrawnIsRefusedInWordsAndNothingIsKept()
    {
        using var site = new Site();
        await Draw(site, [Quay()]);
        foreach (
            var (grounds, code) in new (object[], string)[]
            {
                ([Quay(Box(0, 0, 0.5, 0.5))], "ground.nothing"),
                ([Quay(new { x = 0, y = 0 }, new { x = 5, y = 0 })], "ground.corners"),
                ([Quay(Box(0, 0, 1e9, 5))], "ground.far"),
                ([.. Enumerable.Repeat(Quay(), 41)], "ground.too-many"),
                ([null!], "problem.unreadable"),
                (
                    [
                        new
                        {
                            name = "Quay",
                            level = "see",
                            corners = Box(0, 0, 5, 5),
                        },
                    ],
                    "problem.unreadable"
                ),
            }
        )
        {
            var (status, body) = await Draw(site, grounds);
            Assert.InRange(status, 400, 422);
            Assert.Equal(code, body["code"]!.ToString());
        }
        Assert.Equal("ground.north", (await Draw(site, [], northDeg: 400)).Body["code"]!.ToString());
        Assert.Equal("Quay", (await site.Get(Path(site)))["ground"]!["grounds"]![0]!["name"]!.ToString());
        Assert.Equal(
            404,
            (int)(await site.Http.GetAsync($"/api/jobs/{Guid.NewGuid()}/coverage", TestContext.Current.CancellationToken)).StatusCode
        );
        Assert.Equal(404, (await Draw(site, [], path: $"/api/jobs/{Guid.NewGuid()}/coverage/ground")).Status);
    }
}
