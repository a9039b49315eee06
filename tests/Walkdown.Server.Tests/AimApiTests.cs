using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Text.Json.Nodes;

namespace Walkdown.Server.Tests;

/// <summary>A camera aimed by its own pictures, through the real server and a simulated camera on the network: live, against the agreed
/// picture, until it says "stop"; what tightening moved; and what is told where nothing can be.</summary>
public sealed class AimApiTests
{
    private static async Task<string> Head(Site site, string label) =>
        (await site.Get($"/api/cards/{site.Stops[label]}/views"))["heads"]![0]!["id"]!.ToString();

    private static string Path(Site site, string label, string head, string what) => $"/api/cards/{site.Stops[label]}/aim/{head}/{what}";

    private static object Login(string serial) =>
        new
        {
            user = "site",
            password = $"Tern-{serial}-46",
            at = "",
        };

    private static async Task<JsonNode> Begin(Site site, string label, string head, object? login)
    {
        var (status, live) = await site.Send(Path(site, label, head, "begin"), new { login, by = site.Ina });
        Assert.True(status == 200, live.ToJsonString());
        return live;
    }

    /// <summary>Looks until the picture says what is waited for; each look waits for a newer picture by itself.</summary>
    private static async Task<JsonNode> Until(Site site, string label, string head, Func<JsonNode, bool> isThere, int most = 40)
    {
        JsonNode? live = null;
        for (var looks = 0; looks < most; looks++)
        {
            (var status, live) = await site.Send(Path(site, label, head, $"live?after={live?["number"] ?? 0}"), new { });
            Assert.Equal(200, status);
            if (isThere(live))
                return live;
        }
        throw new Xunit.Sdk.XunitException("It never came: " + live!.ToJsonString());
    }

    private static async Task<string> Picture(Site site, string label, byte[] file)
    {
        var id = Guid.CreateVersion7().ToString();
        using var body = new ByteArrayContent(file);
        body.Headers.ContentType = new MediaTypeHeaderValue("application/octet-stream");
        using var answer = await site.Http.PostAsync($"/api/cards/{site.Stops[label]}/pictures?id={id}&by={site.Ina}", body);
        Assert.True(answer.IsSuccessStatusCode, await answer.Content.ReadAsStringAsync());
        return id;
    }

    private static async Task<(int Status, JsonNode Answer)> File(Site site, string label, string head, byte[] file, string more = "")
    {
        using var body = new ByteArrayContent(file);
        body.Headers.ContentType = new MediaTypeHeaderValue("application/octet-stream");
        using var answer = await site.Http.PostAsync(Path(site, label, head, "file?use=aim" + more), body);
        return ((int)answer.StatusCode, Site.Json(await answer.Content.ReadAsStringAsync()));
    }

    /// <summary>The trial aim: its picture is agreed.</summary>
    private static async Task<string> Agree(Site site, string label)
    {
        var head = await Head(site, label);
        var views = await site.Get($"/api/cards/{site.Stops[label]}/views");
        await site.Add(
            label,
            "views",
            new
            {
                headId = head,
                design = views["heads"]![0]!["begin"]!.DeepClone(),
                agreedBy = "Odile Farrow",
                pictureId = await Picture(site, label, await site.Outside.GetByteArrayAsync($"/panel/views/{label}/1/agreed.jpg")),
            }
        );
        return head;
    }

    private static async Task Turn(Site site, string label, double pan, double tilt, double roll)
    {
        using var answer = await site.Outside.PostAsync(
            $"/panel/views/{label}/turn",
            JsonContent.Create(
                new
                {
                    head = 1,
                    pan,
                    tilt,
                    roll,
                }
            )
        );
        Assert.True(answer.IsSuccessStatusCode);
    }

    private static double Number(JsonNode? node) => node!.GetValue<double>();

    private static string Why(JsonNode live) => live["look"]?["why"]?["code"]?.ToString() ?? "";

    [Fact]
    public async Task TurnedUntilItSaysStopThenTightenedAndMeasuredAgain()
    {
        using var site = Site.WithField();
        var head = await Head(site, "CC-07");
        // Nobody logs in: it gives no picture, and says why.
        Assert.True((await Begin(site, "CC-07", head, null))["wantsLogin"]!.GetValue<bool>());
        // Nobody has agreed: there is a picture, and nothing to lay it on.
        await Begin(site, "CC-07", head, Login("TH4275"));
        var open = await Until(site, "CC-07", head, l => l["number"]!.GetValue<int>() > 0);
        Assert.Null(open["look"]);
        Assert.Equal("aim.nothing-agreed", open["agreed"]!["why"]!["code"]!.ToString());

        Assert.Equal(head, await Agree(site, "CC-07"));
        await Begin(site, "CC-07", head, Login("TH4275"));
        var off = await Until(site, "CC-07", head, l => l["look"] is not null);
        var look = off["look"]!["measured"]!;
        // It hangs 2.3 degrees right, 1.1 up, 1.4 clockwise of what was agreed.
        Assert.Equal(-2.3, Number(look["panDeg"]), 0.1);
        Assert.Equal(1.1, Number(look["tiltDeg"]), 0.1);
        Assert.Equal(-1.4, Number(look["rollDeg"]), 0.15);
        Assert.Equal("turn", off["look"]!["state"]!.ToString());
        Assert.Equal(["left", "down", "counterClockwise"], off["look"]!["steps"]!.AsArray().Select(s => s!["way"]!.ToString()));
        Assert.Equal("out", look["off"]!.ToString());
        using (var shown = await site.Http.GetAsync(Path(site, "CC-07", head, $"picture.jpg?number={off["number"]}")))
            Assert.True(shown.StatusCode is System.Net.HttpStatusCode.OK or System.Net.HttpStatusCode.NotFound);

        // Turned as the steps say, as far as they say.
        await Turn(site, "CC-07", Number(look["panDeg"]), Number(look["tiltDeg"]), Number(look["rollDeg"]));
        var stop = await Until(site, "CC-07", head, l => l["look"]!["state"]!.ToString() == "stop");
        Assert.Empty(stop["look"]!["steps"]!.AsArray());
        var truth = Site.Json(await site.Outside.GetStringAsync("/panel/views/CC-07"))[0]!;
        Assert.InRange(double.Hypot(Number(truth["pan"]), Number(truth["tilt"])), 0, 0.5);

        // Kept: what it says is the server's word, and the Card has it.
        var kept = await Keep(site, "CC-07", head);
        var rows = kept["rows"]!.AsArray();
        Assert.Equal(["aim.off", "aim.upright", "aim.view", "fixing.roll"], rows.Select(r => r!["check"]!.ToString()).Order());
        var row = rows.Single(r => r!["check"]!.ToString() == "aim.off")!;
        Assert.InRange(Number(row["value"]!["value"]), 0, 0.2);
        Assert.Equal("in", row["state"]!.ToString());
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
        var reading = Site.Row(await site.Card("CC-07"), "aim.off")["attempts"]!.AsArray()[^1]!;
        Assert.Equal("picture", reading["source"]!.ToString());
        Assert.Equal("aim", reading["evidence"]![0]!["algorithm"]!.ToString());

        // Measured anew in the kept file it is the same, and what is drawn in lies where it was seen.
        var measured = (await site.Get($"/api/cards/{site.Stops["CC-07"]}/readings/{reading["readingId"]}/measured"))[0]!;
        Assert.Null(measured["again"]!["why"]);
        Assert.Superset(
            new HashSet<string> { "off_deg", "pan_deg", "roll_deg", "tilt_deg", "uncertainty_deg", "agreed_x_share" },
            measured["again"]!["figures"]!.AsArray().Select(f => f!["name"]!.ToString()).ToHashSet()
        );
        Assert.All(measured["again"]!["figures"]!.AsArray(), f => Assert.True(f!["isSame"]!.GetValue<bool>(), f.ToJsonString()));
        var ring = measured["marks"]!.AsArray().Single(m => m!["kind"]!.ToString() == "agreed")!;
        Assert.InRange(Number(ring["from"]!["x"]), 0.49, 0.51);
        var none = await site.Http.GetAsync($"/api/cards/{site.Stops["CC-07"]}/readings/{Guid.NewGuid()}/measured");
        Assert.Equal(404, (int)none.StatusCode);
        // The report has the picture with both marks, once, though several rows lean on it.
        var pdf = await site.Http.GetByteArrayAsync($"/api/cards/{site.Stops["CC-07"]}/report.pdf");
        Assert.Equal([0x25, 0x50, 0x44, 0x46], pdf[..4]);

        // Screws tight: it slipped, and how far is said against the picture before.
        await site.Send(Path(site, "CC-07", head, "lock"), new { tight = true });
        using (await site.Outside.PostAsync("/panel/views/CC-07/lock", JsonContent.Create(new { tight = true }))) { }
        var moved = await Until(site, "CC-07", head, l => l["moved"] is { } m && Number(m["degrees"]) > 0.3);
        Assert.True(moved["isLocked"]!.GetValue<bool>());
        Assert.Equal(0.58, Number(moved["moved"]!["degrees"]), 0.1);
        Assert.Equal("up", moved["moved"]!["steps"]![0]!["way"]!.ToString());
        var after = (await Keep(site, "CC-07", head))["rows"]!.AsArray().Select(r => r!["check"]!.ToString());
        Assert.Contains("aim.off-after", after);
        Assert.DoesNotContain("aim.off", after);
    }

    private static async Task<JsonNode> Keep(Site site, string label, string head)
    {
        // A newer picture may have come: then that is the one to keep.
        for (var tries = 0; ; tries++)
        {
            var (_, live) = await site.Send(Path(site, label, head, "live?after=0"), new { });
            var (status, kept) = await site.Send(
                Path(site, label, head, "keep"),
                new
                {
                    pictureId = Guid.CreateVersion7(),
                    number = live["number"]!.GetValue<int>(),
                    by = site.Ina,
                }
            );
            if (status == 200)
                return kept;
            Assert.Equal("aim.gone", kept["code"]!.ToString());
            Assert.True(tries < 20);
        }
    }

    [Fact]
    public async Task AWrongLoginIsShownOnce()
    {
        using var site = Site.WithField();
        var head = await Head(site, "CC-08");
        await Begin(
            site,
            "CC-08",
            head,
            new
            {
                user = "site",
                password = "guess",
                at = "",
            }
        );
        var live = await Until(site, "CC-08", head, l => l["wantsLogin"]!.GetValue<bool>());
        Assert.Equal("asked.login-refused", live["trouble"]!["code"]!.ToString());
        Assert.False(live["isLive"]!.GetValue<bool>());
        var cameras = Site.Json(await site.Outside.GetStringAsync("/panel/cameras")).AsArray();
        Assert.Equal(1, cameras.Single(c => c!["label"]!.ToString() == "CC-08")!["failed"]!.GetValue<int>());
    }

    [Fact]
    public async Task WhatCannotBeTurnedRightIsSaidInWordsAndWithoutDegrees()
    {
        using var site = Site.WithField();
        foreach (
            var (label, why, stands) in new[]
            {
                ("CC-05", "aim.upside-down", "upsideDown"),
                ("CC-03", "aim.mirrored", "mirrored"),
                ("CC-01", "aim.no-match", "undecided"),
                ("CC-13", "aim.black", "undecided"),
            }
        )
        {
            var head = await Agree(site, label);
            await Begin(site, label, head, Login(Serial(label)));
            var live = await Until(site, label, head, l => l["look"] is not null);
            Assert.Equal((why, stands, "look"), (Why(live), live["look"]!["stands"]!.ToString(), live["look"]!["state"]!.ToString()));
            Assert.Null(live["look"]!["measured"]);
            Assert.Empty(live["look"]!["steps"]!.AsArray());
            // What is kept of it says no degrees either.
            var rows = (await Keep(site, label, head))["rows"]!.AsArray().Select(r => r!["check"]!.ToString()).ToArray();
            Assert.Equal(stands == "undecided" ? [] : ["aim.upright"], rows);
        }
    }

    private static string Serial(string label) =>
        StandIns
            .Schedule.Rows(System.IO.File.ReadAllText(System.IO.Path.Combine(Site.Root, "demo", "schedule.csv")))
            .Single(r => r["label"] == label)["serial"];

    [Fact]
    public async Task AFileIsMeasuredOnceAndWhatIsNoneIsRefused()
    {
        using var site = new Site();
        var head = await Agree(site, "CC-07");
        var agreed = await site.Outside.GetByteArrayAsync("/panel/views/CC-07/1/agreed.jpg");
        var other = await site.Outside.GetByteArrayAsync("/panel/views/CC-08/1/agreed.jpg");
        var (status, same) = await File(site, "CC-07", head, agreed);
        Assert.Equal((200, "stop"), (status, same["look"]!["state"]!.ToString()));
        Assert.False(same["isLive"]!.GetValue<bool>());
        // The whole of it, as if it were photographed square; and corners that are none.
        (status, var flat) = await File(site, "CC-07", head, agreed, "&corners=0,0,1,0,1,1,0,1");
        Assert.Equal((200, "stop"), (status, flat["look"]!["state"]!.ToString()));
        var (sure, surer) = (Number(flat["look"]!["measured"]!["uncertaintyDeg"]), Number(same["look"]!["measured"]!["uncertaintyDeg"]));
        Assert.True(sure > surer);
        foreach (
            var (corners, code) in new[]
            {
                ("0,0,1,0,1,1", "corners.order"),
                ("0,0,1,0,1,1,0,NaN", "corners.order"),
                ("1,0,0,0,0,1,1,1", "corners.order"),
                ("0,0,2,0,1,1,0,1", "corners.outside"),
                ("0.1,0.1,0.3,0.1,0.3,0.3,0.1,0.3", "corners.small"),
            }
        )
        {
            (status, var refused) = await File(site, "CC-07", head, agreed, "&corners=" + corners);
            Assert.Equal((422, code), (status, refused["code"]!.ToString()));
        }
        (status, var stranger) = await File(site, "CC-07", head, other);
        Assert.Equal((200, "aim.no-match"), (status, Why(stranger)));
        using (var body = new ByteArrayContent(agreed))
        {
            body.Headers.ContentType = new MediaTypeHeaderValue("application/octet-stream");
            using var soft = await site.Http.PostAsync(Path(site, "CC-07", head, "file?use=focus&corners=0,0,1,0,1,1,0,1"), body);
            Assert.Equal("corners.only-aim", Site.Json(await soft.Content.ReadAsStringAsync())["code"]!.ToString());
        }
        foreach (var bad in new byte[][] { [], [1, 2, 3], agreed[..2000], System.Text.Encoding.UTF8.GetBytes("<svg/>") })
        {
            (status, var refused) = await File(site, "CC-07", head, bad);
            Assert.Equal((422, "aim.not-a-picture"), (status, refused["code"]!.ToString()));
        }
        // The one before is still there, and kept without an answer where it has none.
        Assert.Empty((await Keep(site, "CC-07", head))["rows"]!.AsArray());
    }

    /// <summary>Between two grips: detail in pixels of the recorded picture, roll of something level; kept with where it was
    /// touched.</summary>
    [Fact]
    public async Task WhatIsTouchedIsMeasuredAndKept()
    {
        using var site = new Site();
        var head = await Agree(site, "CC-07");
        var (_, live) = await File(site, "CC-07", head, await site.Outside.GetByteArrayAsync("/panel/views/CC-07/1/agreed.jpg"));
        var number = live["number"]!.GetValue<int>();
        object Touch(string thing, double toY, double? metres) =>
            new
            {
                thing,
                from = new { x = 0.25, y = 0.5 },
                to = new { x = 0.75, y = toY },
                metres,
            };
        var (status, told) = await site.Send(Path(site, "CC-07", head, "touch"), new { number, touch = Touch("length", 0.5, 2) });
        // Half of the 3840 pixels that it records, of 640 that were touched, on two metres.
        Assert.Equal((200, 960.0), (status, Number(told["measured"]!["value"]!["value"])));
        Assert.Equal("aim.detail", told["row"]!["check"]!.ToString());
        (status, told) = await site.Send(Path(site, "CC-07", head, "touch"), new { number, touch = Touch("horizon", 0.52, null) });
        Assert.Equal(-Math.Atan2(0.02 * 360, 0.5 * 640) * 180 / Math.PI, Number(told["measured"]!["value"]!["value"]), 0.01);
        foreach (var (bad, code) in new[] { (Touch("length", 0.5, null), "touch.length"), (Touch("upright", 7, null), "touch.points") })
        {
            (status, told) = await site.Send(Path(site, "CC-07", head, "touch"), new { number, touch = bad });
            Assert.Equal((422, code), (status, told["code"]!.ToString()));
        }
        (status, told) = await site.Send(Path(site, "CC-07", head, "touch"), new { number = 77, touch = Touch("length", 0.5, 2) });
        Assert.Equal((422, "aim.gone"), (status, told["code"]!.ToString()));

        (status, var kept) = await site.Send(
            Path(site, "CC-07", head, "keep"),
            new
            {
                pictureId = Guid.CreateVersion7(),
                number,
                by = site.Ina,
                touch = Touch("length", 0.5, 2),
            }
        );
        Assert.True(status == 200, kept.ToJsonString());
        Assert.Equal(["aim.detail"], kept["rows"]!.AsArray().Select(r => r!["check"]!.ToString()));
        var evidence = kept["evidence"]!;
        Assert.Equal(
            ("touch", 160, 320),
            (evidence["algorithm"]!.ToString(), evidence["region"]!["x"]!.GetValue<int>(), evidence["region"]!["width"]!.GetValue<int>())
        );
        Assert.Equal(2, Number(evidence["inputs"]!["target_length_m"]));
    }

    /// <summary>A floodlight in the view burns by night: touched it is told to the Card beside what was said there, and read again it is the
    /// same. By day it tells nothing.</summary>
    [Fact]
    public async Task ALampThatBurnsByNightIsToldToTheCard()
    {
        using var site = Site.WithField();
        var head = await Agree(site, "VL-04");
        await site.Add(
            "VL-04",
            "readings",
            new
            {
                row = Site.Row(await site.Card("VL-04"), "aim.hazards")["id"]!.ToString(),
                source = "typed",
                value = new
                {
                    kind = "items",
                    items = new[] { new { item = "no-sun", state = "fitted" }, new { item = "no-lamp", state = "fitted" } },
                },
            }
        );
        object Around(string thing, double? faces = null) =>
            new
            {
                thing,
                from = new { x = 0.69, y = 0.17 },
                to = new { x = 0.8, y = 0.27 },
                facesDeg = faces,
            };
        await Begin(site, "VL-04", head, Login("TH4184"));
        var live = await Until(site, "VL-04", head, l => l["look"]?["measured"] is not null);
        async Task<(int Status, JsonNode Body)> Ask(JsonNode seen, object touch, string what = "touch") =>
            await site.Send(
                Path(site, "VL-04", head, what),
                new
                {
                    number = seen["number"]!.GetValue<int>(),
                    touch,
                    by = site.Ina,
                    pictureId = Guid.CreateVersion7(),
                }
            );
        var (status, told) = await Ask(live, Around("lamp"));
        Assert.True(status == 200, told.ToJsonString());
        Assert.Equal(("dark", null), (told["light"]!["state"]!.ToString(), told["row"]));
        Assert.Null(told["measured"]);
        // Kept by day: the picture stays, and no row is told.
        (status, var kept) = await Ask(live, Around("lamp"), "keep");
        Assert.True(status == 200, kept.ToJsonString());
        Assert.Empty(kept["rows"]!.AsArray());
        (status, told) = await Ask(live, Around("mirror", 400));
        Assert.Equal((422, "touch.faces"), (status, told["code"]!.ToString()));

        using (await site.Outside.PostAsync("/panel/clock", JsonContent.Create(new { dark = true }))) { }
        JsonNode Lit(JsonNode l) => l["look"]!["measured"]!;
        for (var looks = 0; ; looks++)
        {
            live = await Until(
                site,
                "VL-04",
                head,
                l => l["number"]!.GetValue<int>() > live["number"]!.GetValue<int>() && Lit(l) is not null
            );
            (status, told) = await Ask(live, Around("lamp"));
            if (told["light"]?["state"]?.ToString() == "burns")
                break;
            Assert.True(looks < 40, told.ToJsonString());
        }
        Assert.InRange(Number(told["light"]!["rightDeg"]), 24, 34);
        Assert.Equal(("aim.hazards", "out"), (told["row"]!["check"]!.ToString(), told["row"]!["state"]?.ToString() ?? "out"));
        (status, kept) = await Ask(live, Around("lamp"), "keep");
        Assert.True(status == 200, kept.ToJsonString());
        var row = kept["rows"]!.AsArray().Single()!;
        Assert.Equal(
            [("no-sun", "fitted"), ("no-lamp", "missing")],
            row["value"]!["items"]!.AsArray().Select(i => (i!["item"]!.ToString(), i["state"]!.ToString()))
        );
        await site.Add(
            "VL-04",
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
        var reading = Site.Row(await site.Card("VL-04"), "aim.hazards")["attempts"]!.AsArray()[^1]!;
        Assert.Equal(("picture", "touch"), (reading["source"]!.ToString(), reading["evidence"]![0]!["algorithm"]!.ToString()));
        var measured = (await site.Get($"/api/cards/{site.Stops["VL-04"]}/readings/{reading["readingId"]}/measured"))[0]!;
        Assert.Null(measured["again"]!["why"]);
        Assert.All(measured["again"]!["figures"]!.AsArray(), f => Assert.True(f!["isSame"]!.GetValue<bool>(), f.ToJsonString()));
        Assert.Equal("target", measured["marks"]!.AsArray().Single()!["kind"]!.ToString());
    }

    /// <summary>A view that was agreed without a picture, by a target alone: touched in the picture it says what to turn.</summary>
    [Fact]
    public async Task APlannedTargetIsTouchedAndKept()
    {
        using var site = new Site();
        var head = await Head(site, "CC-07");
        await File(site, "CC-07", head, await site.Outside.GetByteArrayAsync("/panel/views/CC-07/1/agreed.jpg"));
        object Touch(double x) =>
            new
            {
                thing = "target",
                from = new { x, y = 0.5 },
                to = new { x = 0.75, y = 0.5 },
                metresOff = 0.2,
            };
        async Task<(int Status, JsonNode Body)> Ask(double x, string what = "touch") =>
            await site.Send(
                Path(site, "CC-07", head, what),
                new
                {
                    number = 1,
                    touch = Touch(x),
                    by = site.Ina,
                    pictureId = Guid.CreateVersion7(),
                }
            );
        var (status, answer) = await Ask(0.5);
        Assert.Equal((422, "touch.no-target"), (status, answer["code"]!.ToString()));
        var pictures = (await site.Card("CC-07"))["pictures"]?.AsArray().Count;
        (status, answer) = await Ask(0.5, "keep");
        Assert.Equal((422, "touch.no-target"), (status, answer["code"]!.ToString()));
        Assert.Equal(pictures, (await site.Card("CC-07"))["pictures"]?.AsArray().Count);

        var design = (await site.Get($"/api/cards/{site.Stops["CC-07"]}/views"))["heads"]![0]!["begin"]!.DeepClone();
        design["targets"] = System.Text.Json.JsonSerializer.SerializeToNode(
            new[]
            {
                new
                {
                    name = "Door",
                    groundMetres = 8.0,
                    asideMetres = 0.0,
                    heightMetres = 1.0,
                    level = "recognise",
                },
            }
        );
        await site.Add(
            "CC-07",
            "views",
            new
            {
                headId = head,
                design,
                agreedBy = "Odile Farrow",
            }
        );
        (status, answer) = await Ask(0.4);
        Assert.True(status == 200, answer.ToJsonString());
        Assert.Equal("aim.off", answer["measured"]!["check"]!.ToString());
        // It lies left of the middle: the camera looks right of it.
        Assert.Contains("left", answer["measured"]!["steps"]!.AsArray().Select(s => s!["way"]!.ToString()));
        (status, answer) = await Ask(0.4, "keep");
        Assert.True(status == 200, answer.ToJsonString());
        Assert.Equal("aim.off", answer["rows"]![0]!["check"]!.ToString());
        Assert.Equal(0.2, Number(answer["evidence"]!["inputs"]!["targets_uncertainty_m"]));
        (status, answer) = await Ask(1.4);
        Assert.Equal((422, "touch.points"), (status, answer["code"]!.ToString()));
    }

    /// <summary>A bracket that is not tight: hands off it stands still, and a push turns it for good. That is what the Card is
    /// told.</summary>
    [Fact]
    public async Task WhatAPushTurnsIsMeasuredAndKeptAsLoose()
    {
        using var site = Site.WithField();
        var head = await Head(site, "VL-06");
        async Task<(int Status, string Code)> Ask(string ask)
        {
            var (status, answer) = await site.Send(Path(site, "VL-06", head, "sway"), new { ask });
            return (status, answer["code"]?.ToString() ?? "");
        }
        async Task<(int Status, JsonNode Answer)> Keep() =>
            await site.Send(
                Path(site, "VL-06", head, "keep"),
                new
                {
                    pictureId = Guid.CreateVersion7(),
                    number = (await site.Send(Path(site, "VL-06", head, "live?after=0"), new { })).Body["number"]!.GetValue<int>(),
                    by = site.Ina,
                    isSway = true,
                }
            );
        // Nobody looks through it, or through a file alone: there is nothing to tell it of.
        Assert.Equal((422, "sway.not-live"), await Ask("begin"));
        await File(site, "VL-06", head, await site.Outside.GetByteArrayAsync("/panel/views/VL-06/1/agreed.jpg"));
        Assert.Equal((422, "sway.not-live"), await Ask("begin"));
        Assert.Equal((400, "problem.unreadable"), await Ask("shake-it"));

        await Begin(site, "VL-06", head, Login("TH4198"));
        await Until(site, "VL-06", head, l => l["number"]!.GetValue<int>() > 0);
        Assert.Equal((200, ""), await Ask("begin"));
        var (early, why) = await Keep();
        Assert.Equal((422, "sway.nothing-yet"), (early, why["code"]!.ToString()));
        await Until(site, "VL-06", head, l => l["sway"]!["phase"]!.ToString() == "push", 400);
        await site.Outside.PostAsync("/panel/views/VL-06/push", null);
        var done = await Until(site, "VL-06", head, l => l["sway"]!["phase"]!.ToString() == "done", 400);
        var sway = done["sway"]!["measured"]!;
        Assert.Equal(("loose", "in", "out"), (sway["says"]!.ToString(), sway["sway"]!.ToString(), sway["stays"]!.ToString()));

        var (status, kept) = await Keep();
        Assert.True(status == 200, kept.ToJsonString());
        Assert.Equal(
            [("fixing.stable", "out"), ("fixing.sway", "in")],
            kept["rows"]!.AsArray().Select(r => (r!["check"]!.ToString(), r["state"]!.ToString())).Order()
        );
        var row = kept["rows"]!.AsArray().Single(r => r!["check"]!.ToString() == "fixing.stable")!;
        await site.Add(
            "VL-06",
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
        var reading = Site.Row(await site.Card("VL-06"), "fixing.stable")["attempts"]!.AsArray()[^1]!;
        Assert.Equal(("picture", "sway"), (reading["source"]!.ToString(), reading["evidence"]![0]!["algorithm"]!.ToString()));
        Assert.InRange(Number(reading["evidence"]![0]!["inputs"]!["stays_percent"]), 0.3, 1.5);
        // Of one picture nobody can say it again, and it says so.
        var measured = (await site.Get($"/api/cards/{site.Stops["VL-06"]}/readings/{reading["readingId"]}/measured"))[0]!;
        Assert.Equal("again.several", measured["again"]!["why"]!["code"]!.ToString());
        // What it said then stays to be seen.
        Assert.Superset(
            new HashSet<string> { "sway_percent", "stays_percent", "pictures" },
            measured["again"]!["figures"]!.AsArray().Select(f => f!["name"]!.ToString()).ToHashSet()
        );
        // Begun anew, and the camera is asked no more: there is nothing that waits, and nothing to end is ended without a word.
        Assert.Equal((200, ""), await Ask("begin"));
        await site.Send(Path(site, "VL-06", head, "still"), new { });
        await Until(site, "VL-06", head, l => l["sway"] is null && !l["isLive"]!.GetValue<bool>());
        Assert.Equal((422, "sway.not-live"), await Ask("begin"));
        Assert.Equal((200, ""), await Ask("end"));
        // Its screws are touched: what was measured before says nothing of now.
        await site.Send(Path(site, "VL-06", head, "lock"), new { tight = true });
        var (after, gone) = await Keep();
        Assert.Equal((422, "sway.nothing-yet"), (after, gone["code"]!.ToString()));
    }

    [Fact]
    public async Task WhatIsNotThereIsRefusedInWords()
    {
        using var site = new Site();
        var (seven, eight) = (await Head(site, "CC-07"), await Head(site, "CC-08"));
        var (status, answer) = await site.Send(Path(site, "CC-07", eight, "begin"), new { by = site.Ina });
        Assert.Equal((404, "problem.unknown-head"), (status, answer["code"]!.ToString()));
        (status, answer) = await site.Send(Path(site, "CC-07", seven, "lock"), new { tight = true });
        Assert.Equal((422, "aim.nothing-yet"), (status, answer["code"]!.ToString()));
        (status, answer) = await site.Send(
            Path(site, "CC-07", seven, "keep"),
            new
            {
                pictureId = Guid.CreateVersion7(),
                number = 1,
                by = site.Ina,
            }
        );
        Assert.Equal((422, "aim.gone"), (status, answer["code"]!.ToString()));
        // A picture of another place is no picture of this view.
        var design = (await site.Get($"/api/cards/{site.Stops["CC-07"]}/views"))["heads"]![0]!["begin"]!;
        var foreign = await Picture(site, "CC-08", await site.Outside.GetByteArrayAsync("/panel/views/CC-08/1/agreed.jpg"));
        foreach (var picture in new[] { foreign, Guid.NewGuid().ToString() })
        {
            (status, answer) = await site.Send(
                $"/api/cards/{site.Stops["CC-07"]}/views",
                site.Entry(
                    new
                    {
                        headId = seven,
                        design = design.DeepClone(),
                        agreedBy = "Odile Farrow",
                        pictureId = picture,
                    }
                )
            );
            Assert.Equal((422, "evidence.unknown-picture"), (status, answer["code"]!.ToString()));
        }
        // No address, no camera to ask; nobody who answers, said so and not waited for.
        var silent = await Begin(site, "CC-07", seven, null);
        Assert.Equal(0, silent["number"]!.GetValue<int>());
        var trouble = await Until(site, "CC-07", seven, l => l["trouble"] is not null);
        Assert.StartsWith("asked.", trouble["trouble"]!["code"]!.ToString(), StringComparison.Ordinal);
    }
}
