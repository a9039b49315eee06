using System.Collections.Immutable;
using Walkdown.Core.Recording;
using Xunit;

namespace Walkdown.Core.Tests;

/// <summary>Who is on which channel, and the fewest exchanges that put it right.</summary>
public sealed class ChannelMapTests
{
    private static PlannedChannel Plan(int number, string label, int head = 1, int heads = 1, Guid? device = null) =>
        new(
            Guid.NewGuid(),
            number,
            device ?? Guid.NewGuid(),
            label,
            "Ramp " + label,
            "Vehicle lanes",
            head,
            heads,
            "TH" + label,
            "",
            heads > 1 ? "" : "10.46.8." + (20 + number)
        );

    private static RecorderChannel Has(int number, PlannedChannel of, int? input = null) =>
        new(
            number,
            ChannelMap.NameOf(of),
            of.Serial,
            "",
            of.Address,
            input ?? of.Head,
            ChannelState.Live,
            RecordedWhen.Motion,
            RecordedPercent: 40
        );

    [Fact]
    public void WhatIsAsPlannedNeedsNoHand()
    {
        PlannedChannel[] plan = [Plan(1, "VL-01"), Plan(2, "VL-02")];
        var map = ChannelMap.Of(plan, [.. plan.Select(p => Has(p.Number, p))]);
        Assert.All(map.Channels, c => Assert.Equal((ChannelFinding.AsPlanned, KnownBy.Serial, false), (c.Finding, c.By, c.NeedsHand)));
        Assert.Empty(map.Exchanges);
        Assert.Empty(ProposedSetting.Of(map));
        Assert.All(map.Channels, c => Assert.Empty(RecorderNotes.Of(c, null)));
    }

    [Fact]
    public void ThreeInARingNeedTwoExchanges()
    {
        PlannedChannel[] p = [Plan(7, "VL-01"), Plan(8, "VL-02"), Plan(9, "VL-03")];
        var map = ChannelMap.Of(p, [Has(7, p[1]), Has(8, p[2]), Has(9, p[0])]);
        Assert.All(map.Channels, c => Assert.Equal(ChannelFinding.Exchanged, c.Finding));
        Assert.Equal([new(7, 8, "VL-03", "VL-02"), new(7, 9, "VL-01", "VL-03")], map.Exchanges);
        // One writing: each channel takes the device that is its own.
        Assert.Equal([(7, 9), (8, 7), (9, 8)], ProposedSetting.Of(map).Select(s => (s.Channel, s.From!.Value)));
    }

    [Fact]
    public void HeadsInAnotherOrderAreToldAndNotGuessed()
    {
        var device = Guid.NewGuid();
        PlannedChannel[] p = [Plan(20, "CC-04", 1, 3, device), Plan(21, "CC-04", 2, 3, device), Plan(22, "CC-04", 3, 3, device)];
        var map = ChannelMap.Of(p, [Has(20, p[0]), Has(21, p[2]), Has(22, p[1])]);
        Assert.Equal([ChannelFinding.AsPlanned, ChannelFinding.OtherHead, ChannelFinding.OtherHead], map.Channels.Select(c => c.Finding));
        Assert.Equal([new(21, 22, "CC-04 2", "CC-04 3")], map.Exchanges);
        var untold = ChannelMap.Of(p, [.. p.Select(c => Has(c.Number, c) with { Input = null })]);
        Assert.All(untold.Channels, c => Assert.Equal((ChannelFinding.Untold, true), (c.Finding, c.NeedsHand)));
        Assert.Empty(untold.Exchanges);
    }

    [Fact]
    public void WhoIsNotWhoIsPlannedIsSaid()
    {
        PlannedChannel[] p = [Plan(1, "VL-01"), Plan(2, "VL-02"), Plan(3, "VL-03"), Plan(4, "VL-04")];
        var map = ChannelMap.Of(
            p,
            [
                Has(1, p[0]) with
                {
                    Serial = "KX9",
                    Address = "10.46.8.99",
                },
                Has(2, p[1]) with
                {
                    Serial = "",
                    Address = "",
                    HardwareAddress = "",
                },
                Has(4, p[0]) with
                {
                    Name = "VL-04",
                },
                Has(40, p[2]) with
                {
                    Name = "old ramp",
                },
                new(41, "nobody", State: ChannelState.Empty),
            ]
        );
        Assert.Equal(
            [ChannelFinding.Stranger, ChannelFinding.Untold, ChannelFinding.Missing, ChannelFinding.Exchanged, ChannelFinding.Unplanned],
            map.Channels.Select(c => c.Finding)
        );
        // VL-01 comes home from 4, VL-03 from 40: a move each.
        Assert.Equal([(1, 4), (3, 40)], map.Exchanges.Select(e => (e.A, e.B)));
        // The recorder does not tell of channel 3, so it cannot be set there by what was read.
        Assert.DoesNotContain(ProposedSetting.Of(map), s => s.Channel == 3);
        // An unknown number at a known address: another unit answers there.
        var swapped = ChannelMap.Of(p, [Has(1, p[0]) with { Serial = "KX9" }]).Channels[0];
        Assert.Equal((ChannelFinding.AsPlanned, KnownBy.Address), (swapped.Finding, swapped.By));
    }

    [Fact]
    public void WhoStandsTwiceStandsRightlyOnHisOwn()
    {
        PlannedChannel[] p = [Plan(1, "VL-01"), Plan(2, "VL-02")];
        var map = ChannelMap.Of(p, [Has(1, p[1]), Has(2, p[1])]);
        Assert.Equal([ChannelFinding.Twice, ChannelFinding.AsPlanned], map.Channels.Select(c => c.Finding));
        Assert.Empty(map.Exchanges);
    }

    [Theory]
    [InlineData("VL-01", 1, true)]
    [InlineData(" vl-01 ", 1, true)]
    [InlineData("Ramp VL-01", 1, true)]
    [InlineData("VL-01 Ramp VL-01", 1, true)]
    [InlineData("VL-01 2", 1, false)]
    [InlineData("VL-01 2", 4, true)]
    [InlineData("VL-011", 1, false)]
    [InlineData("Camera 13", 1, false)]
    public void NamesAreTheLabelOrTheName(string said, int heads, bool isName) =>
        Assert.Equal(isName, ChannelMap.IsName(said, Plan(7, "VL-01", heads > 1 ? 2 : 1, heads)));

    [Fact]
    public void AWrongModeOrNameNeedsAHandThoughTheDeviceIsRight()
    {
        var p = Plan(13, "VL-07");
        ChannelStanding Of(RecorderChannel read) => ChannelMap.Of([p], [read]).Channels[0];
        string[] Codes(RecorderChannel read) => [.. RecorderNotes.Of(Of(read), null).Select(n => n.Said.Code)];
        Assert.Equal(["map.on-alarm", "map.name"], Codes(Has(13, p) with { When = RecordedWhen.Alarm, Name = "Camera 13" }));
        Assert.Equal(["map.off"], Codes(Has(13, p) with { When = RecordedWhen.Off }));
        Assert.Equal(["map.offline"], Codes(Has(13, p) with { State = ChannelState.Offline }));
        Assert.Equal(["map.nothing-written"], Codes(Has(13, p) with { When = RecordedWhen.Schedule, RecordedPercent = 0 }));
        Assert.True(Of(Has(13, p) with { When = RecordedWhen.Off }).NeedsHand);
        // What it does not say is neither right nor wrong.
        Assert.False(Of(Has(13, p) with { When = RecordedWhen.Untold, Name = "" }).NameDiffers);
    }

    /// <summary>Every exchange that is told puts its channels right, and none could be spared: of up to five channels all ways were
    /// tried.</summary>
    [Fact]
    public void NoFewerExchangesWouldDo()
    {
        var dice = new Random(7);
        for (var n = 0; n < 300; n++)
        {
            var count = 2 + dice.Next(4);
            PlannedChannel[] plan = [.. Enumerable.Range(1, count).Select(i => Plan(i, "VL-0" + i))];
            // Some channels carry nobody.
            PlannedChannel?[] there = [.. plan.Select(p => dice.Next(4) == 0 ? null : p)];
            dice.Shuffle(there);
            var occupants = Enumerable.Range(1, count).ToDictionary(i => i, i => there[i - 1]);
            var told = ChannelMap.Fewest(occupants);
            foreach (var e in told)
                (occupants[e.A], occupants[e.B]) = (occupants[e.B], occupants[e.A]);
            Assert.All(occupants, o => Assert.True(o.Value is null || o.Value.Number == o.Key));
            Assert.Equal(Least([.. there.Select(p => p?.Number)]), told.Length);
        }
    }

    /// <summary>By trying all exchanges, one more at a time.</summary>
    private static int Least(int?[] start)
    {
        static string Key(int?[] s) => string.Join(',', s);
        var seen = new HashSet<string> { Key(start) };
        var ring = new List<int?[]> { start };
        for (var steps = 0; ; steps++)
        {
            if (ring.Exists(s => s.Select((at, i) => at is null || at == i + 1).All(ok => ok)))
                return steps;
            ring =
            [
                .. from s in ring
                from a in Enumerable.Range(0, s.Length)
                from b in Enumerable.Range(0, s.Length)
                where a < b
                let next = s.Select(
                        (at, i) =>
                            i == a ? s[b]
                            : i == b ? s[a]
                            : at
                    )
                    .ToArray()
                where seen.Add(Key(next))
                select next,
            ];
        }
    }

    [Fact]
    public void TwoThatArePlannedOnOneChannelEndInNoCircle()
    {
        PlannedChannel[] p = [Plan(1, "VL-01"), Plan(2, "VL-02"), Plan(2, "VL-03")];
        var map = ChannelMap.Of(p, [Has(1, p[1]), Has(2, p[2])]);
        Assert.Empty(map.Exchanges);
    }

    [Fact]
    public void TenThousandChannelsAreCompared()
    {
        PlannedChannel[] plan = [.. Enumerable.Range(1, 10_000).Select(i => Plan(i, "C" + i) with { Address = "" })];
        var map = ChannelMap.Of(plan, [.. plan.Select(p => Has(p.Number % 10_000 + 1, p))]);
        Assert.Equal(9_999, map.Exchanges.Length);
    }

    [Fact]
    public void WhatWasNotTakenIsNamed()
    {
        PlannedChannel[] p = [Plan(1, "VL-01"), Plan(2, "VL-02")];
        var before = ChannelMap.Of(p, [Has(1, p[1]), Has(2, p[0])]);
        var set = ProposedSetting.Of(before);
        Assert.Equal(2, set.Length);
        Assert.Equal([1, 2], ProposedSetting.NotTaken(set, before));
        Assert.Empty(ProposedSetting.NotTaken(set, ChannelMap.Of(p, [Has(1, p[0]), Has(2, p[1])])));
        Assert.Equal([2], ProposedSetting.NotTaken(set, ChannelMap.Of(p, [Has(1, p[0])])));
    }
}
