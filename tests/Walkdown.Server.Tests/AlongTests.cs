using System.Text.Json.Nodes;

namespace Walkdown.Server.Tests;

/// <summary>What a device takes along is what it would be shown Card by Card; a draft is the pack that would be sealed.</summary>
public sealed class AlongTests : IDisposable
{
    private readonly Site _site = new();

    public void Dispose() => _site.Dispose();

    private string Job => $"/api/jobs/{_site.JobId}";

    [Fact]
    public async Task ThePagesHoldEveryCardOnceAsItIsShown()
    {
        await _site.ReadAll("CC-07");
        var walk = await _site.Get($"{Job}/walk");
        var expected = walk["areas"]!.AsArray().SelectMany(a => a!["stops"]!.AsArray()).Select(s => s!["id"]!.ToString()).ToList();
        var seen = new List<string>();
        for (var skip = 0; skip < expected.Count; skip += 20)
        {
            var page = await _site.Get($"{Job}/cards?skip={skip}&take=20");
            Assert.Equal(expected.Count, page["of"]!.GetValue<int>());
            Assert.True(page["sequence"]!.GetValue<long>() <= walk["sequence"]!.GetValue<long>() + 1000);
            foreach (var card in page["cards"]!.AsArray())
            {
                seen.Add(card!["place"]!["id"]!.ToString());
                if (card["place"]!["label"]!.ToString() is "CC-07" or "GT-01" or "R-1")
                    Assert.True(
                        JsonNode.DeepEquals(Site.Json(await _site.Http.GetStringAsync($"/api/cards/{seen[^1]}")), card),
                        $"{card["place"]!["label"]}"
                    );
            }
        }
        Assert.Equal(expected, seen);
        Assert.Empty((await _site.Get($"{Job}/cards?skip=9999"))["cards"]!.AsArray());
    }

    [Fact]
    public async Task OneAreaIsThatAreaAndAPageHasItsBounds()
    {
        var area = (await _site.Get($"{Job}/walk"))["areas"]![1]!;
        var page = await _site.Get($"{Job}/cards?area={Uri.EscapeDataString(area["name"]!.ToString())}");
        Assert.Equal(
            area["stops"]!.AsArray().Select(s => s!["id"]!.ToString()),
            page["cards"]!.AsArray().Select(c => c!["place"]!["id"]!.ToString())
        );
        Assert.Equal(0, (await _site.Get($"{Job}/cards?area=Nowhere"))["of"]!.GetValue<int>());
        foreach (var bad in new[] { "take=0", "take=201", "skip=-1", "take=many" })
        {
            using var answer = await _site.Http.GetAsync($"{Job}/cards?{bad}");
            Assert.True((int)answer.StatusCode is 400 or 422, $"{bad}: {(int)answer.StatusCode}");
        }
        using var unknown = await _site.Http.GetAsync($"/api/jobs/{Guid.NewGuid()}/cards");
        Assert.Equal(404, (int)unknown.StatusCode);
    }

    private async Task<JsonNode> Draft(string language, string? device = null)
    {
        var (status, work) = await _site.Post($"{Job}/handover/draft", new { deviceId = device, language });
        Assert.Equal(200, status);
        return await _site.Over(work);
    }

    [Fact]
    public async Task ADraftIsReadAndLeavesNothingOnRecord()
    {
        await _site.ReadAll("CC-07");
        var before = await _site.Get($"{Job}/handover");
        var work = await Draft("en");
        Assert.Equal("done", work["state"]!.ToString());
        var draft = work["draft"]!;
        Assert.Equal(before["shown"]!.ToString(), draft["shown"]!.ToString());
        var bytes = await _site.Http.GetByteArrayAsync($"{Job}/handover/draft/{draft["id"]}/{draft["files"]![0]}");
        Assert.Equal("%PDF-", System.Text.Encoding.ASCII.GetString(bytes, 0, 5));
        var after = await _site.Get($"{Job}/handover");
        Assert.Equal(before["sequence"]!.ToString(), after["sequence"]!.ToString());
        Assert.Empty(after["revisions"]!.AsArray());
        Assert.Empty(Directory.EnumerateFiles(Path.Combine(_site.Data, "packs"), "*.zip"));

        // One Card, in another language; of another job, or of a name that is none, there is nothing.
        var one = (await Draft("de", _site.Stops["CC-07"]))["draft"]!;
        var file = one["files"]![0]!.ToString();
        Assert.Equal("report.de.pdf", file);
        foreach (
            var path in new[]
            {
                $"/api/jobs/{Guid.NewGuid()}/handover/draft/{one["id"]}/{file}",
                $"{Job}/handover/draft/{Guid.NewGuid()}/{file}",
                $"{Job}/handover/draft/{one["id"]}/record.json",
                $"{Job}/handover/draft/{one["id"]}/..%2F..%2Fwalkdown.db",
            }
        )
        {
            using var answer = await _site.Http.GetAsync(path);
            Assert.Equal(404, (int)answer.StatusCode);
        }
        Assert.Equal(422, (await _site.Post($"{Job}/handover/draft", new { deviceId = (string?)null, language = "xx" })).Status);
        Assert.Equal(404, (await _site.Post($"{Job}/handover/draft", new { deviceId = Guid.NewGuid(), language = "en" })).Status);
    }
}
