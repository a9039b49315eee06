using System.Net.Http.Headers;
using System.Text;
using System.Text.Json.Nodes;
using Walkdown.Core.Addressing;
using Walkdown.Formats;

namespace Walkdown.Server.Tests;

/// <summary>The plan of a network goes out as a table and comes back as the same plan; what is no plan is refused with its line.</summary>
public sealed class NetworkPlanFileTests
{
    private static readonly NetworkPlan Plan = new()
    {
        Subnet = "10.46.8.0/24",
        Gateway = "10.46.8.1",
        PoolFirst = "10.46.8.200",
        PoolLast = "10.46.8.249",
        LeaseServer = "10.46.8.1",
        TimeServer = "10.46.8.2",
        Reserved = [new("10.46.8.2", "10.46.8.9", "switches, \"K2\""), new("10.46.8.10", "10.46.8.10", "=HYPERLINK(1)")],
        Factory = ["192.168.90.60", "192.168.91.60"],
        FirstHostOffset = 21,
        GapEvery = 8,
        GapSize = 2,
        Tester = "10.46.8.11",
    };

    private static NetworkPlan Read(string text) => NetworkPlanFile.Read(Encoding.UTF8.GetBytes(text));

    [Fact]
    public void WhatIsWrittenReadsTheSame()
    {
        var file = NetworkPlanFile.Write(Plan);
        Assert.Equal(
            System.Text.Json.JsonSerializer.Serialize(Plan),
            System.Text.Json.JsonSerializer.Serialize(NetworkPlanFile.Read(file))
        );
        // A spreadsheet is given nothing to run.
        Assert.DoesNotContain(",=", Encoding.UTF8.GetString(file));
    }

    [Theory]
    [InlineData("What;From;To;For\nSubnet;10.46.8.0/24;;\nlease_server;10.46.8.1;;\n", null)]
    [InlineData("label,address\nCC-01,10.46.8.20\n", "lan.file-headings")]
    [InlineData("what,from\nsubnet,10.46.8.0/24\nSUBNET,10.47.8.0/24\n", "lan.file-twice")]
    [InlineData("what,from\nmask,255.255.255.0\n", "lan.file-what")]
    [InlineData("what,from\nfirst host,-3\n", "lan.file-number")]
    [InlineData(
        "what,from,to,for\nreserved,10.46.8.2,10.46.8.9,0123456789012345678901234567890123456789012345678901234567890\n",
        "lan.file-text"
    )]
    public void WhatIsNoPlanIsRefusedWithItsLine(string text, string? code) =>
        Assert.Equal(
            code,
            code is null
                ? Read(text).Subnet == "10.46.8.0/24"
                    ? null
                    : ""
                : Assert.Throws<SheetException>(() => Read(text)).What.Code
        );

    [Fact]
    public void AnEndlessOneIsNoPlan() =>
        Assert.Equal(
            "lan.file-long",
            Assert
                .Throws<SheetException>(() =>
                    Read("what,from\n" + string.Concat(Enumerable.Range(0, 600).Select(i => $"factory,192.168.9.{i % 250}\n")))
                )
                .What.Code
        );

    /// <summary>A file is looked at before it is kept: what is wrong in it is told by field, and the plan stays what it was.</summary>
    [Fact]
    public async Task AFileIsLookedAtBeforeItIsKept()
    {
        using var site = new Site();
        var network = $"/api/jobs/{site.JobId}/network";
        var planned = (await site.Get(network))["plan"]!.ToJsonString();
        var file = await site.Http.GetByteArrayAsync(network + "/plan.csv");
        async Task<(int Status, JsonNode Said)> Put(byte[] bytes)
        {
            using var body = new ByteArrayContent(bytes);
            body.Headers.ContentType = new MediaTypeHeaderValue("application/octet-stream");
            using var answer = await site.Http.PostAsync(network + "/plan/file", body);
            return ((int)answer.StatusCode, Site.Json(await answer.Content.ReadAsStringAsync()));
        }
        var (status, read) = await Put(file);
        Assert.Equal((200, planned, 0), (status, read["plan"]!.ToJsonString(), read["wrong"]!.AsArray().Count));
        (status, read) = await Put(Encoding.UTF8.GetBytes("what,from\nsubnet,10.46.8.0/24\ngateway,10.47.9.1\n"));
        Assert.Equal((200, "gateway"), (status, read["wrong"]![0]!["field"]!.ToString()));
        (status, read) = await Put([0x50, 0x4b, 3, 4, 0, 0, 0]);
        Assert.Equal(422, status);
        Assert.NotEmpty(read["detail"]!.ToString());
        Assert.Equal(planned, (await site.Get(network))["plan"]!.ToJsonString());
    }
}
