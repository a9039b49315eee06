using System.Collections.Immutable;
using Walkdown.Core.Addressing;

namespace Walkdown.Core.Tests;

/// <summary>Who hangs on which port, by what switches have learned: as planned, elsewhere, shared, looped, and who does not
/// belong.</summary>
public sealed class PortTablesTests
{
    private static string Mac(int n) => $"02:46:08:00:00:{n:X2}";

    private static PlannedPort Seat(int n, string cabinet = "K1", int? port = null, bool isCamera = true, string? mac = null) =>
        new(new Guid(n, 0, 0, new byte[8]), $"CC-{n:00}", mac ?? Mac(n), new(cabinet, port ?? n), isCamera);

    private static LearnedAddress At(int n, string cabinet = "K1", int? port = null) => new(cabinet, port ?? n, Mac(n).Replace(':', '-'));

    private static PortTables Of(
        PlannedPort[] planned,
        LearnedAddress[] learned,
        KnownStranger[]? strangers = null,
        string? server = null
    ) => PortTables.Of(planned, learned, strangers ?? [], server);

    private static string[] Codes(PortTables tables) => [.. tables.Findings.Select(f => f.Note.Code)];

    [Fact]
    public void EachOnItsOwnPortIsAsPlannedAndTheUplinkIsNobodysSeat()
    {
        // K2 hangs behind K1: each learns the other's devices at its uplink.
        var tables = Of([Seat(1), Seat(2), Seat(3, "K2")], [At(1), At(2), At(3, port: 28), At(3, "K2"), At(1, "K2", 28), At(2, "K2", 28)]);
        Assert.Equal(["ports.isolated"], Codes(tables));
        Assert.Equal(3, tables.AsPlanned.Count);
        Assert.Equal((0, 0), (tables.Unseen, tables.Unasked));
    }

    [Fact]
    public void ExchangedCordsAreToldForBoth()
    {
        var tables = Of([Seat(1), Seat(2), Seat(3)], [At(1, port: 2), At(2, port: 1), At(3)]);
        Assert.Equal(["ports.on-anothers", "ports.on-anothers", "ports.isolated"], Codes(tables));
        Assert.Equal(["CC-01", "K1 2", "CC-02", "K1 1"], tables.Findings[0].Note.Args);
        Assert.Equal([Seat(3).Id], tables.AsPlanned.Keys);
    }

    [Theory]
    [InlineData("elsewhere", 1, 9, "CC-01 K1 1 K1 9")]
    [InlineData("unseen", 0, 0, "CC-01 K1 1")]
    public void WhoHangsWhereNobodyBelongsOrIsNotHeard(string code, int learned, int port, string args)
    {
        var tables = Of([Seat(1), Seat(2)], learned == 0 ? [At(2)] : [At(learned, port: port), At(2)]);
        var finding = Assert.Single(tables.Findings, f => f.Device is not null);
        Assert.Equal(("ports." + code, args), (finding.Note.Code, string.Join(' ', finding.Note.Args)));
    }

    [Fact]
    public void WhatStandsBetweenAndWhatIsLoopedHasToBeLookedAt()
    {
        // A switch that nobody planned at the port of CC-01, with two more behind it.
        var between = Of([Seat(1), Seat(2)], [At(1), At(8, port: 1), At(9, port: 1), At(2)]);
        Assert.Contains("ports.shares", Codes(between));
        Assert.Contains("ports.stranger-behind", Codes(between));
        Assert.DoesNotContain(Seat(1).Id, between.AsPlanned.Keys);
        // Alone at two ports.
        Assert.Contains("ports.twice", Codes(Of([Seat(1)], [At(1), At(1, port: 5)])));
        // Only ever seen behind others.
        Assert.Contains("ports.behind", Codes(Of([Seat(1), Seat(2)], [At(2), At(1, "K2", 28), At(2, "K2", 28)])));
    }

    /// <summary>Two on one cable by sharing adapters have one port by plan: that is no switch between.</summary>
    [Fact]
    public void WhoSharesAPortByPlanIsAsPlanned()
    {
        var tables = Of([Seat(1), Seat(2, port: 1)], [At(1), At(2, port: 1)]);
        Assert.Equal((2, "ports.isolated"), (tables.AsPlanned.Count, Assert.Single(Codes(tables))));
    }

    [Fact]
    public void AStrangerIsToldByWhatIsKnownOfItAndWhereAServerTooManyMayBe()
    {
        KnownStranger[] kiosk = [new(Mac(90), "10.46.8.120")];
        var alone = Of([Seat(1)], [At(1), At(90, port: 22)], kiosk);
        Assert.Equal(["ports.stranger", "ports.flat"], Codes(alone));
        Assert.Contains("10.46.8.120", alone.Findings[0].Note.Args[1]);
        // Who answers elsewhere is not that server; of whom nothing is known it may be.
        Assert.Equal("ports.stranger", Of([Seat(1)], [At(1), At(90, port: 22)], kiosk, "10.46.8.150").Findings[0].Note.Code);
        Assert.Equal("10.46.8.150", Of([Seat(1)], [At(1), At(91, port: 22)], kiosk, "10.46.8.150").Findings[0].Note.Args[2]);
        // On the seat of one who was not heard: another unit, and no stranger.
        var other = Of([Seat(1), Seat(2)], [At(90, port: 1), At(2)], kiosk);
        Assert.Equal(["ports.other-unit", "ports.isolated"], Codes(other));
        Assert.Equal(["CC-01", "K1 1", Mac(90)], other.Findings[0].Note.Args);
        Assert.Equal(0, other.Unseen);
    }

    [Fact]
    public void OfASwitchThatWasNotAskedNothingIsSaid()
    {
        var tables = Of([Seat(1), Seat(2, "K3"), Seat(3, mac: "")], [At(1)]);
        Assert.Equal((1, 2, 0), (tables.AsPlanned.Count, tables.Unasked, tables.Unseen));
        // Nobody was asked: nothing is isolated, either.
        Assert.Empty(Of([Seat(1)], []).Findings);
    }

    /// <summary>Neither the order of the tables nor that of the register changes what is said; nobody is told as planned and
    /// otherwise.</summary>
    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    public void TheOrderOfWhatIsLearnedChangesNothing(int seed)
    {
        var random = new Random(seed);
        PlannedPort[] planned = [.. Enumerable.Range(1, 60).Select(n => Seat(n, "K" + n % 4, n, n % 9 > 0, n % 11 == 0 ? "" : null))];
        LearnedAddress[] learned =
        [
            .. Enumerable
                .Range(1, 70)
                .SelectMany(n => Enumerable.Range(0, 1 + random.Next(3)).Select(_ => At(n, "K" + random.Next(3), 1 + random.Next(64)))),
        ];
        var one = Of(planned, learned);
        random.Shuffle(planned);
        random.Shuffle(learned);
        var other = Of(planned, learned);
        static IEnumerable<string> Told(PortTables t) =>
            t.Findings.Select(f => $"{f.Device} {f.Note.Code} {string.Join(' ', f.Note.Args)}").Order();
        Assert.Equal(Told(one), Told(other));
        Assert.Equal(one.AsPlanned.Keys.Order(), other.AsPlanned.Keys.Order());
        Assert.Empty(one.AsPlanned.Keys.Intersect(one.Findings.Select(f => f.Device).OfType<Guid>()));
        Assert.Equal(
            planned.Length,
            one.AsPlanned.Count + one.Unasked + one.Findings.Select(f => f.Device).OfType<Guid>().Distinct().Count()
        );
    }

    /// <summary>
    /// A large site: every switch has everybody else at its uplink, which is thousands of lines a switch. What is kept of them says the
    /// same and is no longer than the site.
    /// </summary>
    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    public void WhatIsKeptOfALargeSiteSaysTheSame(int seed)
    {
        var random = new Random(seed);
        const int cabinets = 20,
            each = 24;
        static string Of48(int n) => $"02:46:08:00:{n >> 8:X2}:{n & 255:X2}";
        PlannedPort[] planned =
        [
            .. Enumerable
                .Range(0, cabinets * each)
                .Select(n => new PlannedPort(
                    new Guid(n + 1, 0, 0, new byte[8]),
                    $"D{n}",
                    Of48(n),
                    new($"K{n / each}", n % each + 1),
                    true
                )),
        ];
        // A few cords exchanged, a few silent, a few strangers, alone and behind small switches.
        var at = planned
            .Where(_ => random.Next(20) > 0)
            .Select(p => (p.HardwareAddress, Seat: random.Next(15) == 0 ? p.Seat! with { Number = 1 + random.Next(each) } : p.Seat!))
            .Concat(
                Enumerable
                    .Range(9000, 30)
                    .Select(n => (HardwareAddress: Of48(n), Seat: new PortSeat($"K{random.Next(cabinets)}", 1 + random.Next(each + 3))))
            )
            .ToList();
        LearnedAddress[] whole =
        [
            .. at.SelectMany(d =>
                Enumerable
                    .Range(0, cabinets)
                    .Select(k =>
                        d.Seat.Cabinet == $"K{k}"
                            ? new LearnedAddress(d.Seat.Cabinet, d.Seat.Number, d.HardwareAddress)
                            : new LearnedAddress($"K{k}", 28, d.HardwareAddress)
                    )
            ),
        ];
        var kept = PortTables.Nearest(whole);
        Assert.True(kept.Length < 2 * at.Count, $"{kept.Length} of {whole.Length}");
        var (all, some) = (Of(planned, whole), Of(planned, [.. kept]));
        Assert.Equal(
            all.Findings.Select(f => $"{f.Device} {f.Note.Code} {string.Join(' ', f.Note.Args)}"),
            some.Findings.Select(f => $"{f.Device} {f.Note.Code} {string.Join(' ', f.Note.Args)}")
        );
        Assert.Equal(all.AsPlanned.OrderBy(p => p.Key), some.AsPlanned.OrderBy(p => p.Key));
        Assert.Contains(all.Findings, f => f.Note.Code == "ports.on-anothers");
    }
}
