using System.Net.Http.Headers;
using System.Text.Json.Nodes;
using SkiaSharp;
using Walkdown.Core.Nights;
using Walkdown.Core.Pictures;
using Walkdown.Formats;
using Walkdown.StandIns.Scenes;

namespace Walkdown.Server.Tests;

/// <summary>What the dark does to a camera, by its pictures: from the file to the reason, to what was tried, and to the row.</summary>
public sealed class NightApiTests
{
    private const int Wide = 640,
        High = 360;

    private static readonly ScenePose Pose = new()
    {
        Tilt = 24,
        Azimuth = 70,
        Field = 80,
    };

    private static NightLook Looked(int number, string? kind)
    {
        const int Across = 480,
            Down = 270;
        var made = MadeNight.Of(number, kind, Across, Down);
        GreyRaster Grey(byte[] colours) =>
            new(
                Across,
                Down,
                [.. Enumerable.Range(0, Across * Down).Select(i => GreyRaster.Grey(colours[4 * i], colours[4 * i + 1], colours[4 * i + 2]))]
            );
        var run = new NightRun(new(0.5, 0.6), Grey(made.Day), new());
        return made.Nights.Select(n => run.Next(new(Grey(n), 0))).Last();
    }

    /// <summary>Long shadows by day that are gone in the dark, a line that shines white near the camera, a vehicle that came: each was
    /// taken for light over the view.</summary>
    [Theory]
    [InlineData(839)]
    [InlineData(847)]
    [InlineData(1023)]
    [InlineData(1111)]
    [InlineData(1247)]
    public void WhatTheDayAloneShowedIsNoVeil(int number) => Assert.NotEqual(NightState.Veiled, Looked(number, null).State);

    /// <summary>A faint print lies in a round patch, as no unevenly lit view does.</summary>
    [Theory]
    [InlineData(57)]
    [InlineData(137)]
    [InlineData(313)]
    public void AFaintPrintIsToldByItsPattern(int number)
    {
        var look = Looked(number, "finger");
        Assert.Equal((NightState.Veiled, VeilReason.Finger), (look.State, look.Reasons[0].Reason));
    }

    private static byte[] File(byte[] colours, int quality = 92)
    {
        using var bitmap = new SKBitmap(new SKImageInfo(Wide, High, SKColorType.Rgba8888, SKAlphaType.Opaque));
        colours.CopyTo(bitmap.GetPixelSpan());
        using var data = bitmap.Encode(SKEncodedImageFormat.Jpeg, quality);
        return data.ToArray();
    }

    private static byte[] Day(NightFault? fault = null, int grain = 3)
    {
        var colours = new Scene(5).DrawColours(Pose, new(), Wide, High);
        if (fault is not null)
            SceneNight.ByDay(colours, Wide, High, fault);
        new SceneLens(0, null, 1.5, grain).Through(colours, Wide, High);
        return File(colours);
    }

    private static byte[] Night(NightFault fault, int seed, bool isLit = true)
    {
        var mood = new SceneMood
        {
            Daylight = 0.04,
            Moving = 1,
            Seed = seed,
            Infrared = isLit ? 0.9 : 0,
        };
        var colours = new Scene(5).DrawColours(Pose, mood, Wide, High);
        var grain = SceneNight.Through(colours, Wide, High, fault, isLit);
        new SceneLens(0, null, 2 * grain, seed).Through(colours, Wide, High);
        return File(colours);
    }

    private static readonly NightFault Nothing = new(null, 0),
        Foam = new("foam", 2, 0, 0.4, 5);

    private static async Task<string> Head(Site site, string label) =>
        (await site.Get($"/api/cards/{site.Stops[label]}/views"))["heads"]![0]!["id"]!.ToString();

    private static async Task<(int Status, JsonNode Answer)> Look(
        Site site,
        string head,
        byte[] file,
        string where = "?use=night&x=0.5&y=0.6",
        string label = "CC-07"
    )
    {
        using var body = new ByteArrayContent(file);
        body.Headers.ContentType = new MediaTypeHeaderValue("application/octet-stream");
        using var answer = await site.Http.PostAsync($"/api/cards/{site.Stops[label]}/aim/{head}/file{where}", body);
        return ((int)answer.StatusCode, Site.Json(await answer.Content.ReadAsStringAsync()));
    }

    /// <summary>The view by day is agreed, with its picture.</summary>
    private static async Task Agree(Site site, string head, byte[] file)
    {
        await Look(site, head, file, "");
        var id = Guid.CreateVersion7();
        var (status, kept) = await site.Send(
            $"/api/cards/{site.Stops["CC-07"]}/aim/{head}/keep",
            new
            {
                pictureId = id,
                number = 1,
                by = site.Ina,
            }
        );
        Assert.True(status == 200, kept.ToJsonString());
        var proposal = (await site.Get($"/api/cards/{site.Stops["CC-07"]}/views"))["heads"]![0]!["begin"]!;
        await site.Add(
            "CC-07",
            "views",
            new
            {
                headId = head,
                design = proposal.DeepClone(),
                agreedBy = "Odile Farrow",
                pictureId = id,
            }
        );
    }

    /// <summary>While somebody covers the light sensor its changes are counted; in so short a time nothing is told to be right.</summary>
    [Fact]
    public async Task ChangingOverIsSeenInThePictures()
    {
        using var site = new Site();
        var head = await Head(site, "CC-07");
        async Task<string?> Seen(byte[] file)
        {
            var (status, live) = await Look(site, head, file);
            Assert.True(status == 200, live.ToJsonString());
            return live["night"]!["look"]!["switch"]?["told"]!["code"]!.ToString();
        }
        Assert.Null(await Seen(Day()));
        Assert.Equal("night.switch-over", await Seen(Night(Nothing, 1)));
        Assert.Equal("night.switch-rest", await Seen(Day(Foam)));
        Assert.Equal("night.switch-rest", await Seen(Night(Nothing, 2)));
        Assert.Equal("night.switch-many", await Seen(Day()));
        Assert.Equal("night.switch-many", await Seen(Night(Nothing, 3)));
        Assert.Equal("night.switch-hunts", await Seen(Day(Foam)));
        // Kept, the row knows, with the picture that it was seen in.
        var (kept, told) = await site.Send(
            $"/api/cards/{site.Stops["CC-07"]}/aim/{head}/keep",
            new
            {
                pictureId = Guid.CreateVersion7(),
                number = 7,
                by = site.Ina,
            }
        );
        Assert.True(kept == 200, told.ToJsonString());
        var row = told["rows"]!.AsArray().Single(r => r!["check"]!.ToString() == "night.switch")!;
        Assert.Equal(("hunts", "out"), (row["value"]!["choice"]!.ToString(), row["state"]!.ToString()));
    }

    /// <summary>A white light is watched in its own pictures: the row learns what they show, keeps what was said of what they do not, and
    /// a camera without one is asked nothing.</summary>
    [Fact]
    public async Task AWhiteLightIsSeenToComeOnAndGoOff()
    {
        using var site = new Site();
        var at = $"/api/cards/{site.Stops["GT-07"]}";
        var head = await Head(site, "GT-07");
        // Nobody looks: it cannot be watched.
        var (none, why) = await site.Send($"{at}/aim/{head}/walked", new { });
        Assert.True(none == 422, why.ToJsonString());
        var number = 0;
        async Task<JsonNode> Seen(byte[] file)
        {
            var (status, live) = await Look(site, head, file, label: "GT-07");
            Assert.True(status == 200, live.ToJsonString());
            number = (int)live["number"]!;
            return live["night"]!["look"]!;
        }
        async Task<JsonNode> Kept()
        {
            var (status, kept) = await site.Send(
                $"{at}/aim/{head}/keep",
                new
                {
                    pictureId = Guid.CreateVersion7(),
                    number,
                    by = site.Ina,
                }
            );
            Assert.True(status == 200, kept.ToJsonString());
            return kept["rows"]!.AsArray().Single(r => r!["check"]!.ToString() == "light.white")!;
        }
        string[] Fields(JsonNode row) => [.. row["value"]!["lines"]![0]!["said"]!.AsArray().Select(f => $"{f!["field"]} {f["word"]}")];
        for (var i = 1; i <= 3; i++)
            Assert.Equal("night.lamp-rest", (await Seen(Night(Nothing, i)))["lamp"]!["told"]!["code"]!.ToString());
        var (walked, _) = await site.Send($"{at}/aim/{head}/walked", new { });
        Assert.Equal(200, walked);
        // One picture may be anything; it is no night picture either way, and no changing over.
        var lit = await Seen(Day());
        Assert.Equal(("look", "night.lamp-lit"), (lit["state"]!.ToString(), lit["why"]!["code"]!.ToString()));
        lit = await Seen(Day(grain: 9));
        Assert.Equal(("true", "comes-on"), (lit["lamp"]!["isLit"]!.ToString(), lit["lamp"]!["movement"]!.ToString()));
        Assert.Null(lit["switch"]);
        var row = await Kept();
        Assert.Equal(["movement comes-on", "colour colour"], Fields(row));
        Assert.Equal("notJudged", row["state"]!.ToString());

        // What no picture shows is said on the Card, and stays when the next picture is kept.
        await site.Add(
            "GT-07",
            "readings",
            new
            {
                row = row["row"]!.ToString(),
                source = "typed",
                value = JsonNode.Parse(
                    """
                    { "kind": "form", "lines": [{ "said": [{ "field": "off", "word": "can-be-off" }, { "field": "neighbours", "word": "not-lit" }] }] }
                    """
                ),
            }
        );
        await Seen(Night(Nothing, 4));
        var dark = await Seen(Night(Nothing, 5));
        Assert.Equal("goes-off", dark["lamp"]!["still"]!.ToString());
        row = await Kept();
        Assert.Equal(["movement comes-on", "colour colour", "still goes-off", "off can-be-off", "neighbours not-lit"], Fields(row));
        // What was looked at while the sun is up is not judged: the row waits for the dark.
        var all = await site.Card("GT-07");
        static IEnumerable<JsonObject> Within(JsonNode? node) =>
            node switch
            {
                JsonObject o => o.SelectMany(p => Within(p.Value)).Prepend(o),
                JsonArray a => a.SelectMany(Within),
                _ => [],
            };
        var asked = Within(all).First(o => o["id"] is JsonValue id && id.ToString() == row["row"]!.ToString() && o.ContainsKey("wait"));
        var isDay = asked["wait"]?["until"] is { } until && (DateTimeOffset)until > DateTimeOffset.UtcNow;
        Assert.Equal(isDay ? "notJudged" : "in", row["state"]!.ToString());

        // One that has none.
        var other = await Head(site, "CC-07");
        Assert.Null((await Look(site, other, Night(Nothing, 1))).Answer["night"]!["look"]!["lamp"]);
        var (refused, _) = await site.Send($"/api/cards/{site.Stops["CC-07"]}/aim/{other}/walked", new { });
        Assert.Equal(422, refused);
    }

    [Fact]
    public async Task AVeilIsNamedWhatWasTriedIsToldAndTheRowKnows()
    {
        using var site = new Site();
        var head = await Head(site, "CC-07");
        await Agree(site, head, Day());
        var tried = $"/api/cards/{site.Stops["CC-07"]}/aim/{head}/tried";
        JsonNode live = new JsonObject();
        async Task<JsonNode> Seen(byte[] file)
        {
            (var status, live) = await Look(site, head, file);
            Assert.True(status == 200, live.ToJsonString());
            return live["night"]!;
        }
        var (refused, why) = await site.Send(tried, new { act = "wiped" });
        Assert.Equal((422, "night.nothing-to-try"), (refused, why["code"]!.ToString()));

        await Seen(Night(Foam, 1));
        var night = await Seen(Night(Foam, 2));
        Assert.Equal("veiled", night["look"]!["state"]!.ToString());
        Assert.Equal("foam", night["look"]!["reasons"]![0]!["reason"]!.ToString());
        Assert.False(night["against"]!["isFocus"]!.GetValue<bool>());
        Assert.Equal("ring", night["says"]!.ToString());
        Assert.Equal("foamPressed", night["next"]![0]!.ToString());

        Assert.Equal(200, (await site.Send(tried, new { act = "wiped" })).Status);
        night = await Seen(Night(Foam, 3));
        Assert.False(night["tries"]![0]!["helped"]!.GetValue<bool>());
        Assert.Equal(200, (await site.Send(tried, new { act = "foamPressed" })).Status);
        await Seen(Night(Nothing, 4));
        night = await Seen(Night(Nothing, 5));
        Assert.True(night["tries"]![1]!["helped"]!.GetValue<bool>());
        Assert.Equal("clear", night["look"]!["state"]!.ToString());
        Assert.Equal("foam", night["look"]!["reasons"]![0]!["reason"]!.ToString());

        var (status, kept) = await site.Send(
            $"/api/cards/{site.Stops["CC-07"]}/aim/{head}/keep",
            new
            {
                pictureId = Guid.CreateVersion7(),
                number = live["number"]!.GetValue<int>(),
                by = site.Ina,
            }
        );
        Assert.True(status == 200, kept.ToJsonString());
        var row = Assert.Single(kept["rows"]!.AsArray())!;
        Assert.Equal(("night.picture", "clear"), (row["check"]!.ToString(), row["value"]!["choice"]!.ToString()));
        Assert.Equal("night", kept["evidence"]!["algorithm"]!.ToString());
        Assert.InRange(kept["evidence"]!["inputs"]!["veil_share"]!.GetValue<double>(), 0, NightLook.MostShare);
        await site.Add(
            "CC-07",
            "readings",
            new
            {
                row = row["row"]!.ToString(),
                source = "typed",
                value = row["value"]!.DeepClone(),
                observationId = kept["observationId"]!.ToString(),
                evidence = new[] { kept["evidence"]!.DeepClone() },
            }
        );
        // What its last picture alone gave is read in it again, against the same picture by day.
        var reading = Site.Row(await site.Card("CC-07"), "night.picture", under: "dark")["attempts"]!.AsArray()[^1]!;
        var measured = (await site.Get($"/api/cards/{site.Stops["CC-07"]}/readings/{reading["readingId"]}/measured"))[0]!;
        Assert.Null(measured["again"]!["why"]);
        Assert.Contains("last_picture_veil_worst", measured["again"]!["figures"]!.AsArray().Select(f => f!["name"]!.ToString()));
        Assert.All(measured["again"]!["figures"]!.AsArray(), f => Assert.True(f!["isSame"]!.GetValue<bool>(), f.ToJsonString()));

        // Begun anew elsewhere in the picture, what was tried is forgotten.
        (status, live) = await site.Send($"/api/cards/{site.Stops["CC-07"]}/aim/{head}/focus", new { target = new { x = 0.4, y = 0.7 } });
        Assert.Equal(200, status);
        Assert.Empty(live["night"]!["tries"]!.AsArray());
    }

    [Fact]
    public async Task ByDayBlackOrWithNothingToHoldItAgainstNoRowIsTold()
    {
        using var site = new Site();
        var head = await Head(site, "CC-07");
        var (status, live) = await Look(site, head, Night(Foam, 1));
        Assert.Equal((200, "night.no-day"), (status, live["night"]!["look"]!["why"]!["code"]!.ToString()));
        Assert.Null(live["night"]!["says"]);
        Assert.Null(live["night"]!["against"]);
        Assert.Equal("night", live["use"]!.ToString());
        (_, live) = await Look(site, head, Day());
        Assert.Equal("colour", live["night"]!["look"]!["state"]!.ToString());
        Assert.Null(live["night"]!["says"]);
        (_, live) = await Look(site, head, File([.. Enumerable.Repeat<byte[]>([0, 0, 0, 255], Wide * High).SelectMany(p => p)]));
        Assert.Equal("black", live["night"]!["says"]!.ToString());
    }

    [Fact]
    public async Task WhatIsAskedWronglyIsRefusedInWords()
    {
        using var site = new Site();
        var head = await Head(site, "CC-07");
        foreach (var where in new[] { "?use=night&x=2&y=0.5", "?use=night&x=NaN&y=0" })
        {
            var (status, refused) = await Look(site, head, Day(), where);
            Assert.Equal((422, "focus.target"), (status, refused["code"]!.ToString()));
        }
        var at = $"/api/cards/{site.Stops["CC-07"]}/aim/{head}";
        foreach (
            var (what, body) in new (string, object)[]
            {
                ("/tried", new { act = "hammered" }),
                ("/begin", new { by = site.Ina, use = "dusk" }),
            }
        )
            Assert.Equal(400, (await site.Send(at + what, body)).Status);
        // What cannot be read says where.
        foreach (var where in new[] { "?use=dusk", "?use=7", "?use=night&x=left&y=0.5" })
        {
            var (status, refused) = await Look(site, head, Day(), where);
            Assert.Equal((400, "problem.unreadable"), (status, refused["code"]!.ToString()));
            Assert.DoesNotContain("{0}", refused["detail"]!.ToString());
        }
    }

    /// <summary>Each reason as a made-up camera would show it: the true one first, and a clean night is called foul by nothing.</summary>
    [Theory]
    [InlineData(null)]
    [InlineData("film")]
    [InlineData("finger")]
    [InlineData("foam")]
    [InlineData("rim")]
    [InlineData("wall")]
    [InlineData("tilt")]
    [InlineData("smudge")]
    public void TheTrueReasonComesFirst(string? kind)
    {
        var fault =
            kind is null ? Nothing
            : kind == "wall" ? new NightFault(kind, 9, 270, 0.6, 2)
            : kind == "rim" ? new NightFault(kind, 8, 200, 0.5, 2)
            : new NightFault(kind, 2.2, kind == "tilt" ? 0 : 140, 0.5, 2);
        var run = new NightRun(new(0.5, 0.6), PictureFile.Read(Day(fault)), new());
        run.Next(PictureFile.ReadSeen(Night(fault, 11)));
        var look = run.Next(PictureFile.ReadSeen(Night(fault, 12)));
        if (kind is null)
            Assert.Equal(NightState.Clear, look.State);
        else
            Assert.Equal(kind, look.Reasons[0].Reason.ToString().ToLowerInvariant());
    }

    [Fact]
    public void HowMuchColourIsInAFileIsSeen()
    {
        Assert.True(PictureFile.ReadSeen(Day()).IsColoured);
        Assert.False(PictureFile.ReadSeen(Night(Nothing, 1)).IsColoured);
    }
}
