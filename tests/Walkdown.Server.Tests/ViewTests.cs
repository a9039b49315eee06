using System.Text.Json.Nodes;

namespace Walkdown.Server.Tests;

/// <summary>Planned views through the real server: tried, kept, agreed, and refused in words.</summary>
public sealed class ViewTests
{
    private static JsonObject Design(JsonNode views) => views["heads"]![0]!["begin"]!.DeepClone().AsObject();

    private static JsonArray Gate() =>
        [
            new JsonObject
            {
                ["name"] = "Person at the gate",
                ["groundMetres"] = 12,
                ["asideMetres"] = 0,
                ["heightMetres"] = 1.7,
                ["level"] = "observe",
            },
        ];

    private static Task<JsonNode> Views(Site site, string label) => site.Get($"/api/cards/{site.Stops[label]}/views");

    private static string Path(Site site, string label, string what = "") => $"/api/cards/{site.Stops[label]}/views{what}";

    [Fact]
    public async Task BeginsWithWhatScheduleAndModelSayAndIsNobodysPlan()
    {
        using var site = new Site();
        var views = await Views(site, "CC-07");
        var head = views["heads"]!.AsArray().Single()!;
        Assert.Equal((0, 0, 0), (head["kept"]!.GetValue<int>(), head["last"]!.AsArray().Count, head["agreed"]!.AsArray().Count));
        Assert.Equal(
            (5.2, 98, 3840),
            (
                head["begin"]!["heightMetres"]!.GetValue<double>(),
                head["begin"]!["horizontalDeg"]!.GetValue<double>(),
                head["begin"]!["pixelsWide"]!.GetValue<int>()
            )
        );
        Assert.Contains("view.note.no-target", head["figures"]!["notes"]!.AsArray().Select(n => n!["code"]!.ToString()));
        // Every head of a camera with several has its own.
        Assert.True((await Views(site, "CC-04"))["heads"]!.AsArray().Count > 1);
        // A recorder looks at nothing, and cannot be made to.
        Assert.Empty((await Views(site, "R-1"))["heads"]!.AsArray());
        var (status, _) = await site.Send(Path(site, "R-1"), site.Entry(new { headId = head["id"]!.ToString(), design = Design(views) }));
        Assert.Equal(422, status);
    }

    [Fact]
    public async Task WhatIsTriedIsNotKeptAndWhatIsAgreedIsExpected()
    {
        using var site = new Site();
        var views = await Views(site, "CC-07");
        var (head, design) = (views["heads"]![0]!["id"]!.ToString(), Design(views));
        (design["tiltDeg"], design["targets"]) = (31.5, Gate());
        var (status, figures) = await site.Send(Path(site, "CC-07", "/try"), new { design });
        Assert.Equal(200, status);
        Assert.True(figures["targets"]![0]!["pixelsPerMetre"]!.GetValue<double>() > 62.5);
        Assert.Equal(0, (await Views(site, "CC-07"))["heads"]![0]!["kept"]!.GetValue<int>());

        await site.Add("CC-07", "views", new { headId = head, design });
        var kept = (await Views(site, "CC-07"))["heads"]![0]!;
        Assert.Equal((1, 0), (kept["kept"]!.GetValue<int>(), kept["agreed"]!.AsArray().Count));
        Assert.Equal(31.5, kept["begin"]!["tiltDeg"]!.GetValue<double>());
        Assert.Null(Site.Row(await site.Card("CC-07"), "fixing.tilt")["expected"]!["value"]);

        await site.Add(
            "CC-07",
            "views",
            new
            {
                headId = head,
                design,
                agreedBy = " Odile Farrow ",
            }
        );
        var agreed = (await Views(site, "CC-07"))["heads"]![0]!["agreed"]![0]!;
        Assert.Equal("Odile Farrow", agreed["agreedBy"]!.ToString());
        var card = await site.Card("CC-07");
        Assert.Equal(31.5, Site.Row(card, "fixing.tilt")["expected"]!["value"]!["value"]!.GetValue<double>());
        Assert.Equal(62.5, Site.Row(card, "aim.detail")["window"]!["min"]!.GetValue<double>());
        // The same on the page that is printed, and after the server was started anew.
        var data = site.Data;
        site.Stop();
        using var again = Site.On(data);
        Assert.Equal(31.5, Site.Row(await again.Card("CC-07"), "fixing.tilt")["expected"]!["value"]!["value"]!.GetValue<double>());
    }

    [Fact]
    public async Task RefusesInWordsAndKeepsNothing()
    {
        using var site = new Site();
        var views = await Views(site, "CC-07");
        var head = views["heads"]![0]!["id"]!.ToString();
        foreach (
            var (field, value) in new (string, JsonNode?)[]
            {
                ("tiltDeg", 120),
                ("horizontalDeg", 0),
                ("heightMetres", -2),
                ("pixelsWide", 3),
                ("azimuthDeg", 400),
                ("use", "spying"),
                ("targets", new JsonArray { Gate()[0]!.DeepClone().AsObject().With("name", "") }),
                ("groundMetres", new JsonArray { Gate()[0]!.DeepClone().AsObject().With("groundMetres", -1) }),
            }
        )
        {
            var design = Design(views);
            design[field == "groundMetres" ? "targets" : field] = value;
            var (tried, why) = await site.Send(Path(site, "CC-07", "/try"), new { design });
            Assert.Equal((422, field), (tried, why["field"]?.ToString()));
            var (kept, _) = await site.Send(Path(site, "CC-07"), site.Entry(new { headId = head, design }));
            Assert.Equal(422, kept);
        }
        var good = Design(views);
        var (unknown, problem) = await site.Send(Path(site, "CC-07"), site.Entry(new { headId = Guid.NewGuid(), design = good }));
        Assert.Equal((422, "problem.unknown-head"), (unknown, problem["code"]!.ToString()));
        var (nobody, said) = await site.Send(
            Path(site, "CC-07"),
            site.Entry(
                new
                {
                    headId = head,
                    design = good,
                    agreedBy = "  ",
                }
            )
        );
        Assert.Equal((422, "agreedBy"), (nobody, said["field"]!.ToString()));
        foreach (var body in new object[] { new { headId = head }, new { headId = head, design = "wide" }, new { design = 7 } })
            Assert.InRange((await site.Send(Path(site, "CC-07"), site.Entry(body))).Status, 400, 422);
        Assert.Equal(0, (await Views(site, "CC-07"))["heads"]![0]!["kept"]!.GetValue<int>());
        Assert.Equal(404, (await site.Send($"/api/cards/{Guid.NewGuid()}/views/try", new { design = good })).Status);
    }

    [Fact]
    public async Task ARepeatedPressIsOneAndAnotherBodyIsNone()
    {
        using var site = new Site();
        var views = await Views(site, "CC-07");
        var (head, design) = (views["heads"]![0]!["id"]!.ToString(), Design(views));
        var entry = site.Entry(new { headId = head, design });
        for (var press = 0; press < 3; press++)
            Assert.Equal(200, (await site.Send(Path(site, "CC-07"), entry)).Status);
        Assert.Equal(1, (await Views(site, "CC-07"))["heads"]![0]!["kept"]!.GetValue<int>());
        entry["design"]!["tiltDeg"] = 44;
        Assert.Equal(409, (await site.Send(Path(site, "CC-07"), entry)).Status);
    }

    [Fact]
    public async Task TheSunIsToldOnceItIsKnownWhereTheCameraLooks()
    {
        using var site = new Site();
        var design = Design(await Views(site, "CC-07"));
        var (none, why) = await site.Send(Path(site, "CC-07", "/glare"), new { design });
        Assert.Equal((422, "view.no-azimuth"), (none, why["code"]!.ToString()));
        (design["azimuthDeg"], design["tiltDeg"], design["horizontalDeg"]) = (90, 8, 60);
        var (status, glare) = await site.Send(Path(site, "CC-07", "/glare"), new { design });
        Assert.Equal(200, status);
        // East, 8 degrees down, in the south of England: most of the year, not in midwinter.
        Assert.InRange(glare["daysInView"]!.GetValue<int>(), 250, 330);
        Assert.All(glare["days"]!.AsArray(), d => Assert.True(d!["inGuard"]!.GetValue<int>() > 0));
        design["azimuthDeg"] = 0;
        Assert.Equal(0, (await site.Send(Path(site, "CC-07", "/glare"), new { design })).Body["daysInView"]!.GetValue<int>());
    }
}

file static class JsonWith
{
    public static JsonObject With(this JsonObject of, string field, JsonNode? value)
    {
        of[field] = value;
        return of;
    }
}
