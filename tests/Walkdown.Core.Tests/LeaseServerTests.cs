using Walkdown.Core.Acceptance;
using Walkdown.Core.Addressing;

namespace Walkdown.Core.Tests;

/// <summary>Who gives addresses on the cameras' network, held against the plan.</summary>
public class LeaseServerTests
{
    private static readonly NetworkPlan Plan = new()
    {
        Subnet = "10.46.8.0/24",
        Gateway = "10.46.8.1",
        PoolFirst = "10.46.8.200",
        PoolLast = "10.46.8.239",
    };

    private static readonly PlannedDevice[] Places =
    [
        new(Guid.NewGuid(), "CC-11", "", "10.46.8.39"),
        new(Guid.NewGuid(), "RT-1", "", "10.46.8.1"),
    ];

    private static LeaseOffer Offer(
        string server = "10.46.8.1",
        string offered = "10.46.8.216",
        string? mask = "255.255.255.0",
        string? gateway = "10.46.8.1",
        string? from = null
    ) => new(server, from ?? server, offered, mask, gateway, 43_200);

    private static LeaseServers Of(string planned, bool pool, params LeaseOffer[] offers) =>
        LeaseServers.Of((pool ? Plan : Plan with { PoolFirst = "", PoolLast = "" }).Made!, Ipv4Address.Read(planned), Places, offers);

    [Theory]
    // Nothing is planned: nobody is right, and anybody is one too many.
    [InlineData("", false, 0, "none", "lease.none")]
    [InlineData("", false, 1, "two", null)]
    // A range without who leases it: one that answers may be the one.
    [InlineData("", true, 0, null, "lease.silent-range")]
    [InlineData("", true, 1, null, "lease.unnamed")]
    [InlineData("", true, 2, "two", "lease.several")]
    // Named.
    [InlineData("10.46.8.1", true, 0, null, "lease.silent")]
    [InlineData("10.46.8.1", true, 1, "one", null)]
    [InlineData("10.46.8.1", true, 2, "two", "lease.several")]
    [InlineData("10.46.8.9", true, 1, "two", null)]
    public void TheRowIsAnsweredOnlyWhereWhatWasHeardSaysIt(string planned, bool pool, int heard, string? word, string? note)
    {
        var told = Of(planned, pool, [.. new[] { Offer(), Offer("10.46.8.77") }.Take(heard)]);
        Assert.Equal(word, told.Word);
        Assert.Equal(note, told.Notes.SingleOrDefault()?.Code);
        Assert.Equal(heard, told.Servers.Length);
    }

    [Fact]
    public void WhatAServerGivesIsHeldAgainstThePlan()
    {
        static string[] Codes(LeaseServers told) => [.. told.Servers.Single().Notes.Select(n => n.Code)];
        Assert.Equal(["lease.as-planned"], Codes(Of("10.46.8.1", true, Offer())));
        Assert.Equal("RT-1", Of("10.46.8.1", true, Offer()).Servers.Single().Label);
        Assert.Equal(["lease.unplanned"], Codes(Of("10.46.8.1", true, Offer("10.46.8.77"))));
        // A device that the register knows is no stranger: its own server was left on.
        Assert.Equal(["lease.switched-on"], Codes(Of("10.46.8.1", true, Offer("10.46.8.39"))));
        Assert.Equal(
            ["lease.outside-subnet", "lease.as-planned"],
            Codes(Of("10.46.8.1", true, Offer(offered: "172.20.46.50", gateway: "172.20.46.1")))
        );
        Assert.Equal(
            ["lease.outside-pool", "lease.takes-planned", "lease.as-planned"],
            Codes(Of("10.46.8.1", true, Offer(offered: "10.46.8.39")))
        );
        Assert.Equal(["lease.mask", "lease.as-planned"], Codes(Of("10.46.8.1", true, Offer(mask: "255.255.0.0"))));
        Assert.Equal(["lease.gateway", "lease.as-planned"], Codes(Of("10.46.8.1", true, Offer(gateway: "10.46.8.2"))));
        // A mask that is none is not the planned one.
        Assert.Equal(["lease.mask", "lease.as-planned"], Codes(Of("10.46.8.1", true, Offer(mask: "255.0.255.0"))));
        Assert.Equal(["lease.as-planned"], Codes(Of("10.46.8.1", true, Offer(gateway: null, mask: null))));
    }

    [Fact]
    public void AServerOnTheNetworkSendsForItselfAndOneElsewhereHasItCarried()
    {
        Assert.Contains("lease.another-sends", Of("10.46.8.1", true, Offer(from: "10.46.8.77")).Servers[0].Notes.Select(n => n.Code));
        Assert.Equal("one", Of("10.1.0.5", true, Offer("10.1.0.5", from: "10.46.8.1")).Word);
        Assert.DoesNotContain(
            "lease.another-sends",
            Of("10.1.0.5", true, Offer("10.1.0.5", from: "10.46.8.1")).Servers[0].Notes.Select(n => n.Code)
        );
    }

    [Fact]
    public void TheGravestStandsFirstAndOfOneServerTheLastOfferCounts()
    {
        var told = Of("10.46.8.1", true, Offer(), Offer("10.46.8.77"), Offer("10.46.8.77", offered: "10.46.8.231"));
        Assert.Equal(["10.46.8.77", "10.46.8.1"], told.Servers.Select(s => s.Address));
        Assert.Equal("10.46.8.231", told.Servers[0].Offers[0].Args[0]);
    }

    [Fact]
    public void WhatAnOfferDoesNotNameIsNotTold()
    {
        static string[] Told(LeaseOffer offer) => [.. offer.Told().Select(m => $"{m.Code} {m.Args[0]}")];
        Assert.Equal(
            ["lease.offers 10.46.8.216", "lease.with-mask 255.255.255.0", "lease.with-gateway 10.46.8.1", "lease.for-hours 12"],
            Told(Offer())
        );
        Assert.Equal(["lease.offers 10.46.8.216"], Told(Offer(mask: null, gateway: null) with { LeaseSeconds = null }));
    }

    [Fact]
    public void TheRowIsTheRecordersAndHasNoValueWhereNothingWasSaid()
    {
        Assert.Equal(
            ("link.rogue", "one"),
            Of("10.46.8.1", true, Offer()).Reading() is { } read ? (read.Check.Value, ((ChoiceValue)read.Value).Choice) : default
        );
        Assert.Null(Of("", true, Offer()).Reading());
    }

    [Theory]
    [InlineData("10.46.8.300", "leaseServer")]
    [InlineData("router", "leaseServer")]
    // It may be in another network.
    [InlineData("10.1.0.5", null)]
    public void ThePlanSaysWhatIsNoAddress(string server, string? field) =>
        Assert.Equal(field, (Plan with { LeaseServer = server }).Check().FirstOrDefault().Field);
}
