using System.Text.Json.Nodes;

namespace Walkdown.Server.Tests;

/// <summary>Two devices on one cable, each with its pairs and a port of its own; and what has to be carried.</summary>
public sealed class SharedRunTests(Site site) : IClassFixture<Site>
{
    private string Job => $"/api/jobs/{site.JobId}";

    private async Task Edit(string label, params (string Field, string? Text)[] cells)
    {
        var (status, answer) = await site.Post(
            $"{Job}/register/edits",
            site.Entry(
                new
                {
                    why = "as patched",
                    edits = cells.Select(c => new
                    {
                        deviceId = site.Stops[label],
                        field = c.Field,
                        text = c.Text,
                    }),
                }
            )
        );
        Assert.True(status == 200, answer.ToString());
    }

    private async Task<string> Port(string label)
    {
        var values = (await site.Get($"/api/cards/{site.Stops[label]}/register"))["values"]!;
        return $"{values["cabinet"]} {values["port"]}";
    }

    private async Task<string?> PortOnCard(string label) =>
        (await site.Card(label))["place"]!["runs"]!.AsArray().Select(r => r!["port"]?.ToString()).First();

    /// <summary>CC-10 and CC-11 share a cable to port 12: what one is patched to moves the other no more.</summary>
    [Fact]
    public async Task EachHasAPortOfItsOwn()
    {
        Assert.Equal(("K2 12", "K2 12"), (await Port("CC-10"), await Port("CC-11")));
        await Edit("CC-11", ("port", "13"));
        Assert.Equal(("K2 12", "K2 13"), (await Port("CC-10"), await Port("CC-11")));
        Assert.Equal(("K2 port 12", "K2 port 13"), (await PortOnCard("CC-10"), await PortOnCard("CC-11")));
        var found = (await site.Get($"{Job}/find?q=K2 port 13"))["found"]!.AsArray();
        Assert.Equal(["CC-11"], found.Select(f => f!["label"]!.ToString()).Distinct());
        found = (await site.Get($"{Job}/find?q=K2 port 12"))["found"]!.AsArray();
        Assert.Equal(["CC-10"], found.Select(f => f!["label"]!.ToString()).Distinct());
        // The other moves by itself too, and the first stays.
        await Edit("CC-10", ("port", "23"));
        Assert.Equal(("K2 23", "K2 13"), (await Port("CC-10"), await Port("CC-11")));
        // Unplugged, it is at none; the other stays where it is, though both had the port in common.
        await Edit("CC-10", ("port", "13"));
        await Edit("CC-11", ("port", null));
        Assert.Equal(("K2 13", " "), (await Port("CC-10"), await Port("CC-11")));
        await Edit("CC-11", ("port", "13"), ("cabinet", "K2"));
        await Edit("CC-10", ("port", "23"));
        // Off the shared cable its port goes with it.
        await Edit("CC-11", ("run", "CC-11"));
        Assert.Equal("K2 23", await Port("CC-10"));
        Assert.Equal(0, site.Count("select count(*) from RunEnds where OfDeviceId is not null"));
    }

    [Fact]
    public async Task WhatHasToBeCarriedIsCountedByStops()
    {
        var load = await site.Get($"{Job}/walk/load?area=Boat%20workshop");
        var tester = Assert.Single(load["tools"]!.AsArray(), t => t!["id"]!.ToString() == "tester")!;
        Assert.True(tester["stops"]!.GetValue<int>() >= 5);
        Assert.StartsWith("BW-", tester["first"]!.ToString());
        var all = await site.Get($"{Job}/walk/load");
        Assert.True(all["tools"]!.AsArray().First(t => t!["id"]!.ToString() == "tester")!["stops"]!.GetValue<int>() > 30);
        Assert.Empty((await site.Get($"{Job}/walk/load?area=Nowhere"))["tools"]!.AsArray());
        Assert.Equal(404, (int)(await site.Http.GetAsync($"/api/jobs/{Guid.NewGuid()}/walk/load")).StatusCode);
    }
}
