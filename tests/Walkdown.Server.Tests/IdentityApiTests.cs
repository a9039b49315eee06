using System.Net.Http.Headers;
using System.Text.Json.Nodes;

namespace Walkdown.Server.Tests;

/// <summary>Which channel shows which camera, by pictures of a simulated recorder: a ring of three, two heads exchanged, one upside
/// down, one mirrored, a stranger; and what the Cards are told of it.</summary>
public sealed class IdentityApiTests
{
    private static async Task Agree(Site site, string label, int heads = 1)
    {
        var views = await site.Get($"/api/cards/{site.Stops[label]}/views");
        for (var head = 1; head <= heads; head++)
        {
            var picture = Guid.CreateVersion7().ToString();
            using var body = new ByteArrayContent(await site.Outside.GetByteArrayAsync($"/panel/views/{label}/{head}/agreed.jpg"));
            body.Headers.ContentType = new MediaTypeHeaderValue("application/octet-stream");
            using var sent = await site.Http.PostAsync($"/api/cards/{site.Stops[label]}/pictures?id={picture}&by={site.Ina}", body);
            Assert.True(sent.IsSuccessStatusCode);
            await site.Add(
                label,
                "views",
                new
                {
                    headId = views["heads"]![head - 1]!["id"]!.ToString(),
                    design = views["heads"]![head - 1]!["begin"]!.DeepClone(),
                    agreedBy = "Odile Farrow",
                    pictureId = picture,
                }
            );
        }
    }

    private static async Task<JsonNode> Do(Site site, string what, object body)
    {
        var (status, work) = await site.Post($"/api/jobs/{site.JobId}/recorders/{site.Stops["R-1"]}/views/{what}", body);
        Assert.True(status == 200, work.ToJsonString());
        return await site.Over(work);
    }

    private static JsonNode Channel(JsonNode board, int number) =>
        board["channels"]!.AsArray().Single(c => c!["view"]!["number"]!.GetValue<int>() == number)!;

    [Fact]
    public async Task SwapsAreFoundInPicturesAndToldToCardsOnlyWhereTheyAreSure()
    {
        using var site = new Site();
        var at = $"/api/jobs/{site.JobId}/recorders/{site.Stops["R-1"]}/views";
        Assert.Null((await site.Get(at))["at"]);
        foreach (var label in new[] { "VL-01", "VL-02", "VL-03", "CC-01", "CC-03", "CC-05", "CC-06", "CC-13" })
            await Agree(site, label);
        await Agree(site, "CC-04", 4);
        Assert.Equal("done", (await Do(site, "look", new { by = site.Ina }))["state"]!.ToString());
        var board = await site.Get(at);

        (string, string?) Is(int channel)
        {
            var view = Channel(board, channel)["view"]!;
            return (view["finding"]!.ToString(), view["shows"] is { } s ? $"{s["label"]} {s["head"]}" : null);
        }
        Assert.Equal(("swapped", "VL-02 1"), Is(7));
        Assert.Equal(("swapped", "VL-03 1"), Is(8));
        Assert.Equal(("swapped", "VL-01 1"), Is(9));
        Assert.Equal(("swapped", "CC-04 3"), Is(21));
        Assert.Equal(("swapped", "CC-04 2"), Is(22));
        Assert.Equal(("same", "CC-06 1"), Is(25));
        Assert.Equal(("upsideDown", "CC-05 1"), Is(24));
        Assert.Equal(("mirrored", "CC-03 1"), Is(19));
        // It looks at another corner; the plan's other views are not agreed, so that is said too.
        Assert.Equal(("stranger", null), Is(17));
        Assert.Equal("identity.maybe-unagreed", Channel(board, 17)["view"]!["why"]!["code"]!.ToString());
        // Nobody is on it; and a view that was never agreed is no stranger.
        Assert.Equal("identity.nobody", Channel(board, 11)["view"]!["why"]!["code"]!.ToString());
        Assert.Equal("identity.not-agreed", Channel(board, 1)["view"]!["why"]!["code"]!.ToString());
        // Two moves for the ring of three, one for the two heads.
        Assert.Equal(
            ["7 8", "7 9", "21 22"],
            board["exchanges"]!.AsArray().Select(e => $"{e!["a"]} {e["b"]}").OrderBy(e => int.Parse(e.Split(' ')[0])).ThenBy(e => e)
        );
        using (var picture = await site.Http.GetAsync($"{at}/picture.jpg?look={board["number"]}&channel=7"))
            Assert.Equal("image/jpeg", picture.Content.Headers.ContentType!.MediaType);
        // By way of another job nobody gets it.
        var elsewhere = at.Replace(site.JobId, Guid.NewGuid().ToString(), StringComparison.Ordinal);
        using (var picture = await site.Http.GetAsync($"{elsewhere}/picture.jpg?look={board["number"]}&channel=7"))
            Assert.Equal(System.Net.HttpStatusCode.NotFound, picture.StatusCode);

        // The Cards are told: its own picture is kept with it.
        var told = await Do(
            site,
            "tell",
            new
            {
                number = board["number"]!.GetValue<int>(),
                channels = new[] { 25, 11, 9 },
                by = site.Ina,
            }
        );
        Assert.Equal("done", told["state"]!.ToString());
        var shows = Site.Row(await site.Card("CC-06"), "recorder.shows")["attempts"]!.AsArray();
        Assert.True(shows[^1]!["value"]!["yes"]!.GetValue<bool>());
        Assert.Equal(("picture", "identity"), (shows[^1]!["source"]!.ToString(), shows[^1]!["evidence"]![0]!["algorithm"]!.ToString()));

        // An older look is not told; nobody's recorder is not looked at.
        var stale = await Do(
            site,
            "tell",
            new
            {
                number = 99,
                channels = new[] { 25 },
                by = site.Ina,
            }
        );
        Assert.Equal("failed", stale["state"]!.ToString());
        using var none = await site.Http.GetAsync($"/api/jobs/{site.JobId}/recorders/{Guid.NewGuid()}/views");
        Assert.Equal(System.Net.HttpStatusCode.UnprocessableEntity, none.StatusCode);
    }
}
