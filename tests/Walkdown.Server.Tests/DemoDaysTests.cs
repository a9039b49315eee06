using System.Text.Json.Nodes;
using Microsoft.Extensions.DependencyInjection;
using UglyToad.PdfPig;
using Walkdown.Server.Demo;

namespace Walkdown.Server.Tests;

/// <summary>One site for all that is asked of it: two days of work take a while.</summary>
public sealed class TwoDays : IDisposable
{
    public Site Site { get; } = Site.AfterTwoDays(Directory.CreateTempSubdirectory("walkdown-test-").FullName);

    public void Dispose() => Site.Dispose();
}

/// <summary>The made-up site after two days of work: told in a file, done through the record's one door.</summary>
public sealed class DemoDaysTests(TwoDays days) : IClassFixture<TwoDays>
{
    private readonly Site _site = days.Site;

    private async Task<List<JsonNode>> Stops() =>
        [
            .. (await _site.Get($"/api/jobs/{_site.JobId}/walk"))["areas"]!
                .AsArray()
                .SelectMany(a => a!["stops"]!.AsArray())
                .OfType<JsonNode>(),
        ];

    private static JsonNode[] Rows(JsonNode card, string check) =>
        [.. card["card"]!["rows"]!.AsArray().Where(r => r!["key"]!["check"]!.ToString() == check)!];

    [Fact]
    public async Task EveryScreenHasSomethingToShow()
    {
        var stops = await Stops();
        // Every kind that the catalogue knows stands somewhere on the site.
        var kinds = (await _site.Get("/api/catalogue/own"))["kinds"]!.AsArray().Select(k => k!["id"]!.ToString());
        Assert.Equal([], kinds.Except(stops.Select(s => s["kind"]!.ToString())));
        // Finished, with a concession, refused and open; waiting, and held up.
        var many = stops.CountBy(s => s["verdict"]!.ToString()).ToDictionary();
        Assert.True(many["accepted"] >= 25, $"{many["accepted"]} are accepted");
        Assert.Equal((1, true, true), (many["acceptedWithNote"], many["refused"] >= 4, many["open"] >= 20));
        // Sealed yesterday afternoon: it waits for a day, whatever the hour is that this is tried at, and then comes back by itself.
        var waits = stops.Where(s => s["waitsFor"]?.ToString() == "check.fixing.seals").Select(s => s["label"]!.ToString()).ToList();
        var open = new List<string>();
        foreach (var label in new[] { "VL-09", "CC-09" })
        {
            var seal = Rows(await _site.Card(label), "fixing.seals").Single()["attempts"]!.AsArray()[^1]!;
            if (DateTimeOffset.UtcNow < seal["takenAt"]!.GetValue<DateTimeOffset>().AddHours(24))
                open.Add(label);
        }
        Assert.DoesNotContain(waits, w => w is "VL-09" or "CC-09" && !open.Contains(w));
        Assert.True(open.Count < 2 || waits.Count > 0, string.Join(' ', open));
        Assert.Equal(4, stops.Count(s => s["blocked"]?["by"]?.ToString() == "Harbour office"));
        Assert.True(stops.Sum(s => s["openFaults"]!.GetValue<int>()) >= 4);
        // Pictures are there, and prove what asks for one.
        var pictures = await _site.Get($"/api/jobs/{_site.JobId}/pictures");
        Assert.True(pictures["count"]!.GetValue<int>() > 100, $"{pictures["count"]} pictures");
        Assert.DoesNotContain("because.no-picture", (await _site.Card("GT-01")).ToJsonString());
    }

    [Fact]
    public async Task AFaultIsFoundMendedAndRetestedOnRecordAndInTheWorld()
    {
        var card = await _site.Card("VL-03");
        var map = Rows(card, "cable.wire-map").Single();
        Assert.Equal(["out", "in"], map["attempts"]!.AsArray().Select(a => a!["state"]!.ToString()));
        Assert.Equal("accepted", card["card"]!["verdict"]!["verdict"]!.ToString());
        Assert.False(card["card"]!["faults"]![0]!["open"]!.GetValue<bool>());
        // The tester reads what was mended.
        var (status, read) = await _site.Send($"/api/cards/{_site.Stops["VL-03"]}/tester", new { row = map["id"]!.ToString() });
        Assert.Equal((200, "in"), (status, read["rows"]![0]!["state"]!.ToString()));
    }

    [Fact]
    public async Task WhatIsNotPlannedSoIsRefusedAndWhatIsConcededSaysByWhom()
    {
        Assert.Equal("refused", (await _site.Card("GT-05"))["card"]!["verdict"]!["verdict"]!.ToString());
        var conceded = Rows(await _site.Card("BW-04"), "cable.loop-resistance");
        Assert.Equal(4, conceded.Length);
        Assert.All(
            conceded,
            row => Assert.Equal(("out", "Odile Farrow"), (row["state"]!.ToString(), row["conceded"]!["allowedBy"]!.ToString()))
        );
    }

    /// <summary>A Card of the whole job on paper: nothing runs out of the page, and no line lies on another.</summary>
    [Fact]
    public async Task WhatIsSaidAtLengthStaysOnThePage()
    {
        var pdf = await _site.Http.GetByteArrayAsync($"/api/cards/{_site.Stops["VL-03"]}/report.pdf");
        using var pages = PdfDocument.Open(pdf);
        var words = pages.GetPages().SelectMany(page => page.GetWords().Select(word => (page, word))).ToList();
        Assert.All(
            words,
            w =>
                Assert.True(
                    w.word.BoundingBox.Left > 20 && w.word.BoundingBox.Right < w.page.Width - 20,
                    $"{w.word.Text} on {w.page.Number}"
                )
        );
        // The name of the place stands beside its label, not in a column of single words.
        var first = words.Where(w => w.page.Number == 1).Select(w => w.word).ToList();
        var (head, queue) = (first.First(w => w.Text == "head"), first.First(w => w.Text == "queue"));
        Assert.Equal(head.BoundingBox.Bottom, queue.BoundingBox.Bottom, 4.0);
    }

    [Fact]
    public async Task ASecondStartChangesNothing()
    {
        var before = (await _site.Card("GT-01"))["sequence"]!.GetValue<long>();
        await _site.Services.GetRequiredService<DemoDays>().Work(Path.Combine(Site.Root, "demo", "two-days.json"), null);
        Assert.Equal(before, (await _site.Card("GT-01"))["sequence"]!.GetValue<long>());
    }
}
