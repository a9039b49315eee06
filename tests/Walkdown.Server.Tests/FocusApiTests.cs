using System.Net.Http.Headers;
using System.Text.Json.Nodes;
using SkiaSharp;
using Walkdown.StandIns.Scenes;

namespace Walkdown.Server.Tests;

/// <summary>How sharp a camera is, by pictures of a ring that is turned: from the file to the row, and against what was kept.</summary>
public sealed class FocusApiTests
{
    private static async Task<string> Head(Site site, string label) =>
        (await site.Get($"/api/cards/{site.Stops[label]}/views"))["heads"]![0]!["id"]!.ToString();

    /// <summary>A place through a lens that is off by so many steps.</summary>
    private static byte[] Picture(double steps, int seed, int wide = 1280, int scene = 5, string? smear = null)
    {
        var high = wide * 9 / 16;
        var colours = new Scene(scene).DrawColours(new ScenePose { Tilt = 28, Azimuth = 40 }, new(), wide, high);
        new SceneLens(steps, smear, 1.5, seed).Through(colours, wide, high);
        using var bitmap = new SKBitmap(new SKImageInfo(wide, high, SKColorType.Rgba8888, SKAlphaType.Opaque));
        colours.CopyTo(bitmap.GetPixelSpan());
        using var data = bitmap.Encode(SKEncodedImageFormat.Jpeg, 95);
        return data.ToArray();
    }

    private static async Task<(int Status, JsonNode Answer)> Look(
        Site site,
        string label,
        string head,
        byte[] file,
        string where = "?use=focus&x=0.5&y=0.5"
    )
    {
        using var body = new ByteArrayContent(file);
        body.Headers.ContentType = new MediaTypeHeaderValue("application/octet-stream");
        using var answer = await site.Http.PostAsync($"/api/cards/{site.Stops[label]}/aim/{head}/file{where}", body);
        return ((int)answer.StatusCode, Site.Json(await answer.Content.ReadAsStringAsync()));
    }

    private static Task<(int Status, JsonNode Answer)> Keep(Site site, string label, string head, JsonNode live, bool isCovered) =>
        site.Send(
            $"/api/cards/{site.Stops[label]}/aim/{head}/keep",
            new
            {
                pictureId = Guid.CreateVersion7(),
                number = live["number"]!.GetValue<int>(),
                by = site.Ina,
                focus = new { isCovered },
            }
        );

    [Fact]
    public async Task ARingIsTurnedUntilItSaysStopAndLaterPicturesAreHeldAgainstWhatWasKept()
    {
        using var site = new Site();
        var head = await Head(site, "CC-07");
        JsonNode live = new JsonObject();
        var said = new List<string>();
        var seed = 1;
        async Task<JsonNode> Seen(double steps, string? smear = null)
        {
            (var status, live) = await Look(site, "CC-07", head, Picture(steps, seed++, smear: smear));
            Assert.True(status == 200, live.ToJsonString());
            return live["focus"]!;
        }
        string State() => live["focus"]!["look"]!["state"]!.ToString();

        // One alone tells no row; kept, it is a picture and nothing else.
        await Seen(3);
        Assert.Null(live["look"]);
        Assert.Null(live["focus"]!["says"]);
        var (kept, alone) = await Keep(site, "CC-07", head, live, true);
        Assert.Equal(200, kept);
        Assert.Empty(alone["rows"]!.AsArray());

        var first = live;
        foreach (var steps in new[] { 2.0, 1, 0, 0, 1, 2.5, 1, 0 })
        {
            await Seen(steps);
            said.Add(State());
        }
        // Who has just seen a picture keeps that one, whatever has come since.
        (kept, alone) = await Keep(site, "CC-07", head, first, true);
        Assert.True(kept == 200, alone.ToJsonString());
        Assert.Empty(alone["rows"]!.AsArray());
        Assert.Equal(["better", "better", "better"], said.Take(3));
        Assert.DoesNotContain("stop", said.Take(7));
        Assert.Equal(("worse", "stop"), (said[5], said[7]));
        Assert.Equal("sharp", live["focus"]!["says"]!.ToString());

        (kept, var told) = await Keep(site, "CC-07", head, live, true);
        Assert.True(kept == 200, told.ToJsonString());
        var row = told["rows"]![0]!;
        Assert.Equal(("focus.cover-on", "sharp"), (row["check"]!.ToString(), row["value"]!["choice"]!.ToString()));
        Assert.Equal("focus", told["evidence"]!["algorithm"]!.ToString());
        await site.Add(
            "CC-07",
            "readings",
            new
            {
                row = row["row"]!.ToString(),
                value = row["value"]!.DeepClone(),
                observationId = told["observationId"]!.ToString(),
                source = "typed",
                evidence = new[] { told["evidence"]!.DeepClone() },
            }
        );

        var cited = Site.Row(await site.Card("CC-07"), "focus.cover-on", "", "coverOn")["attempts"]!.AsArray()[^1]!["readingId"];
        var again = (await site.Get($"/api/cards/{site.Stops["CC-07"]}/readings/{cited}/measured"))[0]!;
        Assert.Contains("detail_Target", again["again"]!["figures"]!.AsArray().Select(f => f!["name"]!.ToString()));
        Assert.All(again["again"]!["figures"]!.AsArray(), f => Assert.True(f!["isSame"]!.GetValue<bool>(), f.ToJsonString()));
        Assert.Equal("target", again["marks"]![0]!["kind"]!.ToString());

        // Another day, begun anew: one picture is enough against the one that was kept.
        await Look(site, "CC-07", head, Picture(0, 50), "");
        Assert.Equal("sharp", (await Seen(0.1))["says"]!.ToString());
        Assert.True(live["focus"]!["against"]!["isCovered"]!.GetValue<bool>());
        Assert.Equal("soft", (await Seen(3))["says"]!.ToString());
        Assert.Equal("corner", (await Seen(0.1, "right"))["says"]!.ToString());

        // Tightened: against the picture before; taken back, against the kept one again.
        await Seen(0);
        async Task<(bool? IsBeforeLock, bool? IsCovered)> Against(bool tight)
        {
            (var answered, live) = await site.Send($"/api/cards/{site.Stops["CC-07"]}/aim/{head}/lock", new { tight });
            Assert.Equal(200, answered);
            await Seen(1.5);
            var against = live["focus"]!["against"]!;
            return (against["isBeforeLock"]!.GetValue<bool>(), against["isCovered"]?.GetValue<bool>());
        }
        Assert.Equal((true, null), await Against(true));
        Assert.Equal("softer", live["focus"]!["look"]!["spots"]![0]!["change"]!["change"]!.ToString());
        Assert.Equal((false, true), await Against(false));

        // Of another size or place nothing is compared, and that is said.
        await Look(site, "CC-07", head, Picture(0, 51), "");
        (_, live) = await Look(site, "CC-07", head, Picture(0, 52, wide: 640));
        Assert.Equal("focus.other-size", live["focus"]!["against"]!["why"]!["code"]!.ToString());
        await Look(site, "CC-07", head, Picture(0, 53), "");
        (_, live) = await Look(site, "CC-07", head, Picture(0, 54, scene: 6));
        Assert.Equal("focus.other-view", live["focus"]!["against"]!["why"]!["code"]!.ToString());
        Assert.Null(live["focus"]!["says"]);
    }

    /// <summary>A ball has no cover to take off: its one row is told whatever is said of it, and nobody is asked.</summary>
    [Fact]
    public async Task OfACameraWithoutACoverNobodyAsksHowThatIs()
    {
        using var site = new Site();
        var head = await Head(site, "CC-12");
        JsonNode live = new JsonObject();
        var seed = 1;
        foreach (var steps in new[] { 6.0, 3, 0, 0, 3, 6, 3, 0 })
            (_, live) = await Look(site, "CC-12", head, Picture(steps, seed++, 640));
        Assert.Equal("stop", live["focus"]!["look"]!["state"]!.ToString());
        Assert.False(live["focus"]!["hasCover"]!.GetValue<bool>());
        var (status, kept) = await Keep(site, "CC-12", head, live, false);
        Assert.Equal(200, status);
        Assert.Equal("focus.cover-on", Assert.Single(kept["rows"]!.AsArray())!["check"]!.ToString());
    }

    [Fact]
    public async Task WhatCannotBeMeasuredIsRefusedInWordsOrSaidSo()
    {
        using var site = new Site();
        var head = await Head(site, "CC-08");
        // Before any picture there is nothing to look at.
        var at = $"/api/cards/{site.Stops["CC-08"]}/aim/{head}/focus";
        var (status, refused) = await site.Send(at, new { target = new { x = 0.5, y = 0.5 } });
        Assert.Equal((422, "aim.nothing-yet"), (status, refused["code"]!.ToString()));
        foreach (var where in new[] { "?use=focus&x=1.5&y=0.5", "?use=focus&x=0.5&y=-1", "?use=focus&x=NaN&y=0" })
        {
            (status, refused) = await Look(site, "CC-08", head, Picture(0, 1, 640), where);
            Assert.Equal((422, "focus.target"), (status, refused["code"]!.ToString()));
        }
        (status, refused) = await Look(site, "CC-08", head, [1, 2, 3]);
        Assert.Equal((422, "aim.not-a-picture"), (status, refused["code"]!.ToString()));
        (status, var live) = await Look(site, "CC-08", head, Picture(0, 2, 640));
        Assert.Equal((200, "turn"), (status, live["focus"]!["look"]!["state"]!.ToString()));
        (status, refused) = await site.Send(at, new { target = new { x = 0.5, y = 2 } });
        Assert.Equal((422, "focus.target"), (status, refused["code"]!.ToString()));
        // Elsewhere it begins anew.
        (status, live) = await site.Send(at, new { target = new { x = 0.1, y = 0.9 } });
        Assert.Equal(200, status);
        Assert.Single(live["focus"]!["look"]!["trace"]!.AsArray());
        // Too small to have corners.
        (status, live) = await Look(site, "CC-08", head, Picture(0, 3, 64));
        Assert.Equal((200, "focus.too-small"), (status, live["focus"]!["look"]!["why"]!["code"]!.ToString()));
    }
}
