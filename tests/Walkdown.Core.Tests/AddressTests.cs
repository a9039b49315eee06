using System.Collections.Immutable;
using CsCheck;
using Walkdown.Core.Addressing;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Tests;

/// <summary>Addresses, the plan of a network, and what is planned, found and registered side by side; the worked cases of topic H stand
/// beside these.</summary>
public sealed class AddressTests
{
    private static readonly NetworkPlan Plan = new()
    {
        Subnet = "10.46.8.0/24",
        Gateway = "10.46.8.1",
        PoolFirst = "10.46.8.200",
        PoolLast = "10.46.8.239",
        Reserved = [new("10.46.8.2", "10.46.8.9", "recorders and switches")],
        Factory = ["192.168.46.10"],
        FirstHostOffset = 20,
    };

    private static AddressLedger.Terms Terms(
        bool searched = true,
        bool list = true,
        AddressPolicy policy = AddressPolicy.ReservedOrFrozen
    ) => new(Plan.Made, policy, Plan.Factory, searched ? [FoundBy.Search] : [], Read(("R-1", list)));

    private static ImmutableDictionary<string, bool> Read(params (string Recorder, bool IsRead)[] lists) =>
        lists.ToImmutableDictionary(l => l.Recorder, l => l.IsRead, StringComparer.OrdinalIgnoreCase);

    private static PlannedDevice Planned(int n, string? address = null, bool? linkUp = null, bool? powered = null) =>
        new(
            new Guid(n, 0, 0, new byte[8]),
            $"CC-{n:00}",
            $"Camera {n}",
            address ?? $"10.46.8.{n + 20}",
            $"02:46:08:00:00:{n:X2}",
            $"TH{n:0000}",
            "3.4.1",
            linkUp,
            powered
        );

    private static FoundDevice Found(int n, string? address = null) =>
        new()
        {
            Address = address ?? $"10.46.8.{n + 20}",
            By = [FoundBy.Search],
            HardwareAddress = $"02-46-08-00-00-{n:x2}",
            Serial = $" th{n:0000} ",
            Name = $"CC-{n:00}",
            Firmware = "3.4.1",
            Mask = "255.255.255.0",
            Gateway = "10.46.8.1",
            Leases = false,
            TimeSource = "ntp",
        };

    private static RegisteredDevice Registered(int n, string? address = null) =>
        new("R-1", n, $"CC-{n:00}", "", $"TH{n:0000}", address ?? $"10.46.8.{n + 20}");

    /// <summary>Made-up devices have made-up hardware addresses, and that is told of each.</summary>
    private static LedgerNote[] Told(LedgerRow row) => [.. row.Notes.Where(n => n.Code != "ledger.found.macLocallyAdministered")];

    private static IEnumerable<string> Notes(LedgerRow row) => Told(row).Select(n => n.Code);

    private static LedgerRow One(
        PlannedDevice? planned,
        FoundDevice? found,
        RegisteredDevice? registered,
        AddressLedger.Terms? terms = null
    ) =>
        Assert.Single(
            AddressLedger
                .Of(
                    terms ?? Terms(),
                    planned is null ? [] : [planned],
                    found is null ? [] : [found],
                    registered is null ? [] : [registered]
                )
                .Rows
        );

    [Theory]
    [InlineData("10.46.8.01")]
    [InlineData("10.46.8")]
    [InlineData("10.46.8.256")]
    [InlineData("10.46.8.1.2")]
    [InlineData("10.46..8")]
    [InlineData("0x0A.46.8.1")]
    [InlineData("10.46.8.+1")]
    [InlineData("１０.46.8.1")]
    public void WhatSomeDeviceMayReadOtherwiseIsNoAddress(string text) => Assert.Null(Ipv4Address.Read(text));

    [Fact]
    public void AnAddressIsWrittenAsItIsRead() =>
        Gen.UInt.Sample(n => Ipv4Address.Read(new Ipv4Address(n).ToString()) == new Ipv4Address(n));

    [Fact]
    public void AnAddressLiesInTheNetworkAroundItAndItsHostsAreCounted() =>
        Gen.Select(Gen.UInt, Gen.Int[0, 32])
            .Sample(
                (n, prefix) =>
                {
                    var address = new Ipv4Address(n);
                    var subnet = Subnet.Around(address, prefix);
                    return subnet.Contains(address)
                        && Subnet.Parse(subnet.ToString()) == subnet
                        && Subnet.PrefixOf(subnet.Mask.ToString()) == prefix
                        && subnet.UsableHosts == (prefix < 31 ? (1L << (32 - prefix)) - 2 : 1L << (32 - prefix))
                        && subnet.IsHost(address) != (subnet.IsNetworkAddress(address) || subnet.IsBroadcastAddress(address));
                }
            );

    [Theory]
    [InlineData("02:46:08-1D:31:4F")]
    [InlineData("2:46:8:1D:31:4F")]
    [InlineData("0246.081D:314F")]
    [InlineData("02:46:08:1D:31:4G")]
    [InlineData("")]
    public void MixedAndShortHardwareAddressesAreNone(string text) => Assert.Null(HardwareAddress.Read(text));

    [Fact]
    public void EveryNotationIsOneHardwareAddress() =>
        Gen.ULong[0, 0xFFFF_FFFF_FFFF]
            .Sample(n =>
            {
                var mac = new HardwareAddress(n);
                var plain = mac.ToString().Replace(":", "", StringComparison.Ordinal);
                return new[]
                {
                    mac.ToString(),
                    mac.ToString().Replace(':', '-').ToLowerInvariant(),
                    plain,
                    $"{plain[..4]}.{plain[4..8]}.{plain[8..]}",
                }.All(text => HardwareAddress.Read(text) == mac);
            });

    [Fact]
    public void WhatIsGivenIsFreeAndUpwardsAndNobodyElseHasIt() =>
        Gen.Select(
                Gen.Int[1, 250],
                Gen.Int[0, 5],
                Gen.Int[0, 4],
                Gen.Int[0, 254].Array[0, 20],
                Gen.Int[0, 120],
                Gen.Int[1, 250],
                Gen.Int[0, 30]
            )
            .Sample(
                (offset, every, gap, used, count, from, wide) =>
                {
                    var subnet = Subnet.Parse("10.46.8.0/24");
                    Ipv4Address At(int n) => new(subnet.Network.Number + (uint)n);
                    var reserved = new AddressRange(At(from), At(Math.Min(255, from + wide)));
                    var rules = new AddressAllocation.Rules(subnet, At(1), offset, [reserved], every, gap, null, [.. used.Select(At)]);
                    var result = AddressAllocation.Of(
                        rules,
                        [.. Enumerable.Range(0, count).Select(i => new AddressAllocation.Device($"D{i}"))]
                    );
                    var given = result.Assigned.Select(a => Ipv4Address.Parse(a.Address, "")).ToList();
                    return given.SequenceEqual(given.Distinct().Order())
                        && given.TrueForAll(a =>
                            subnet.IsHost(a)
                            && a.Number >= At(offset).Number
                            && a != At(1)
                            && !reserved.Contains(a)
                            && !used.Select(At).Contains(a)
                        )
                        && given.Count + result.Unassigned.Length == count;
                }
            );

    [Fact]
    public void AGapOfAnySizeAndRangesOfAnySizeAreSteppedOverAtOnce()
    {
        var subnet = Subnet.Parse("10.0.0.0/8");
        var all = AddressRange.Parse("10.0.0.0", "10.255.255.250", "reserved");
        var result = AddressAllocation.Of(new(subnet, null, 1, [all], 1, int.MaxValue), [new("A"), new("B")]);
        Assert.Equal("10.255.255.251", Assert.Single(result.Assigned).Address);
        Assert.Equal(["B"], result.Unassigned);
    }

    private static readonly Gen<ListedDevice[]> Lists = Gen.Select(Gen.Int[0, 9], Gen.Int[0, 9], Gen.Int[0, 9])
        .Select(
            (mac, serial, address) =>
                new ListedDevice(
                    "",
                    mac == 0 ? null : $"02:46:08:00:00:0{mac}",
                    serial == 0 ? " " : $"s{serial}",
                    address == 0 ? "none" : $"10.0.0.{address}"
                )
        )
        .Array[0, 9]
        .Select(list => list.Select((d, i) => d with { Id = $"{i}" }).ToArray());

    [Fact]
    public void EveryDeviceStandsInOneRowWhateverTheOrder() =>
        Gen.Select(Lists, Lists, Lists, Gen.Int)
            .Sample(
                (p, f, r, seed) =>
                {
                    var rows = ThreeLists.Of(p, f, r).Rows;
                    bool Once(IEnumerable<string?> told, ListedDevice[] list) =>
                        told.OfType<string>().Order().SequenceEqual(list.Select(d => d.Id).Order());
                    if (
                        !Once(rows.Select(x => x.Planned), p)
                        || !Once(rows.Select(x => x.Found), f)
                        || !Once(rows.Select(x => x.Registered), r)
                    )
                        return false;
                    var random = new Random(seed);
                    ListedDevice[] Shuffled(ListedDevice[] list)
                    {
                        var other = list.ToArray();
                        random.Shuffle(other);
                        return other;
                    }
                    var again = ThreeLists.Of(Shuffled(p), Shuffled(f), Shuffled(r)).Rows;
                    return rows.Select(Told).Order(StringComparer.Ordinal).SequenceEqual(again.Select(Told).Order(StringComparer.Ordinal));
                }
            );

    private static string Told(ThreeLists.Row row) =>
        $"{row.Planned}|{row.Found}|{row.Registered}|{row.FoundBy}|{row.RegisteredBy}|{row.Class}|{string.Join(',', row.Differences)}";

    [Fact]
    public void PlanAndNetworkMeetTheSameFromBothSides() =>
        Gen.Select(Lists, Lists)
            .Sample(
                (one, other) =>
                {
                    var there = ThreeLists
                        .Of(one, other, [])
                        .Rows.Where(r => r.FoundBy is not null)
                        .Select(r => (r.Planned, r.Found, r.FoundBy));
                    var back = ThreeLists
                        .Of(other, one, [])
                        .Rows.Where(r => r.FoundBy is not null)
                        .Select(r => (Planned: r.Found, Found: r.Planned, r.FoundBy));
                    return there.Order().SequenceEqual(back.Order());
                }
            );

    [Theory]
    [InlineData("10.46.8.5/24", "lan.host-bits")]
    [InlineData("10.46.8.0", "lan.no-subnet")]
    [InlineData("", "lan.no-subnet")]
    [InlineData("10.46.8.5/99", "lan.no-subnet")]
    [InlineData("@secret", "lan.no-subnet")]
    [InlineData("10.0.0.0/8", "lan.prefix")]
    [InlineData("10.46.8.0/31", "lan.prefix")]
    public void ANetworkThatCannotBeIsSaidSo(string subnet, string code) =>
        Assert.Contains((Plan with { Subnet = subnet }).Check(), w => w.Field == "subnet" && w.Why.Code == code);

    [Fact]
    public void EachFieldOfAPlanIsHeldAgainstTheNetwork()
    {
        Assert.Empty(Plan.Check());
        string[] Wrong(NetworkPlan plan) => [.. plan.Check().Select(w => $"{w.Field} {w.Why.Code}")];
        Assert.Equal(["gateway lan.outside"], Wrong(Plan with { Gateway = "10.46.9.1" }));
        Assert.Equal(["gateway lan.outside"], Wrong(Plan with { Gateway = "10.46.8.255" }));
        Assert.Equal(["poolLast lan.half-range"], Wrong(Plan with { PoolLast = " " }));
        Assert.Equal(["poolFirst lan.range-reversed"], Wrong(Plan with { PoolFirst = "10.46.8.250" }));
        Assert.Equal(["reserved.0 lan.outside"], Wrong(Plan with { Reserved = [new("10.46.8.2", "10.46.9.9")] }));
        Assert.Equal(["reserved.0 lan.half-range"], Wrong(Plan with { Reserved = [new("", "")] }));
        Assert.Equal(["factory.0 lan.no-address"], Wrong(Plan with { Factory = ["factory"] }));
        Assert.Equal(["firstHostOffset lan.offset"], Wrong(Plan with { FirstHostOffset = 256 }));
        Assert.Equal(["gapEvery lan.gap"], Wrong(Plan with { GapEvery = -1 }));
        Assert.Null((Plan with { GapSize = 5000 }).Made);
    }

    [Fact]
    public void WhatAgreesEverywhereHasNothingToSay()
    {
        var row = One(Planned(1), Found(1), Registered(1));
        Assert.Equal(RowStanding.AsPlanned, row.Standing);
        Assert.Empty(Told(row));
        Assert.Equal(LedgerWeight.Told, Assert.Single(row.Notes).Weight);
        Assert.Equal(DeviceKey.Mac, row.FoundBy);
    }

    [Fact]
    public void AnAddressThatDiffersIsMendedInTheDeviceAndTheRecorderThatAsksElsewhereIsNamed()
    {
        var row = One(Planned(1), Found(1, "10.46.8.77"), Registered(1));
        Assert.Equal(["ledger.address-differs", "ledger.recorder-asks-as-planned"], Notes(row));
        Assert.Equal(LedgerMend.SetAddress, row.Notes[0].Mend);
        Assert.Equal(["10.46.8.21", "10.46.8.77"], row.Notes[0].Args);
        Assert.Equal(["R-1", "1", "10.46.8.21", "10.46.8.77"], Told(row)[1].Args);
        Assert.NotEqual(RowStanding.AsPlanned, row.Standing);
        // Where the recorder is the one that is wrong, it is the recorder that is named.
        var asks = One(Planned(1), Found(1), Registered(1, "10.46.8.133"));
        Assert.Equal(["ledger.recorder-asks-elsewhere"], Notes(asks));
        Assert.Equal(["R-1", "1", "10.46.8.133", "10.46.8.21"], asks.Notes[0].Args);
    }

    [Fact]
    public void AnotherUnitAtTheAddressIsNotedAndNotMistaken()
    {
        var row = One(Planned(1), Found(9, "10.46.8.21"), null, Terms(list: false));
        Assert.Equal(ListClass.ReplacedDevice, row.Class);
        var note = row.Notes.First(n => n.Code == "ledger.replaced-device");
        Assert.Equal(LedgerMend.NoteUnit, note.Mend);
        Assert.DoesNotContain("ledger.serial-differs", Notes(row));
    }

    [Fact]
    public void OnASharedFactoryAddressNothingIsSetByAPress()
    {
        string At(int n) => "192.168.46.10";
        var ledger = AddressLedger.Of(Terms(list: false), [Planned(1), Planned(2)], [Found(1, At(1)), Found(2, At(2))], []);
        Assert.All(
            ledger.Rows,
            row =>
            {
                Assert.Contains("ledger.found.factoryAddressShared", Notes(row));
                Assert.DoesNotContain(row.Notes, n => n.Code.StartsWith("ledger.found.", StringComparison.Ordinal) && n.Mend is not null);
            }
        );
        var alone = One(Planned(1), Found(1, At(1)), null, Terms(list: false));
        Assert.Contains(alone.Notes, n => n is { Code: "ledger.found.factoryAddress", Mend: LedgerMend.SetAddress });
    }

    [Fact]
    public void WhereASettingIsSetIsToldByTheModelAndWhatOnlyAnotherCanSetIsNotPressed()
    {
        var found = Found(1, "10.46.8.99") with { TimeSource = "manual" };
        LedgerRow Of(params (string Setting, string[] At)[] places) =>
            One(
                Planned(1) with
                {
                    Places = [.. places.Select(p => new SettingPlace(p.Setting, [.. p.At]))],
                },
                found,
                null,
                Terms(list: false)
            );
        LedgerMend? Mend(LedgerRow row, string code) => row.Notes.Single(n => n.Code == code).Mend;
        var unknown = Of();
        Assert.Equal(LedgerMend.SetTimeSource, Mend(unknown, "ledger.time-by-hand"));
        Assert.Empty(unknown.SetAt);
        var row = Of(("address", ["tester", "page"]), ("time", ["recorder"]), ("focus", ["lens"]));
        // Its clock is the recorder's to set: told, and not offered.
        Assert.Null(Mend(row, "ledger.time-by-hand"));
        Assert.Equal(LedgerMend.SetAddress, Mend(row, "ledger.address-differs"));
        Assert.Equal(
            [("@setting.address", "@surface.tester, @surface.page"), ("@setting.time", "@surface.recorder")],
            row.SetAt.Select(m => (m.Args[0], m.Args[1]))
        );
        Assert.Equal(LedgerMend.SetTimeSource, Mend(Of(("time", [])), "ledger.time-by-hand"));
    }

    [Fact]
    public void ALineOfAListShowsWhatItsRowSays()
    {
        var there = LedgerLine.Of(One(Planned(1), Found(1), Registered(1)));
        Assert.Equal(
            ("CC-01", "10.46.8.21", "10.46.8.21", "10.46.8.21", 1),
            (there.Name, there.Planned, there.Found, there.AskedAt, there.Channel)
        );
        Assert.Equal((ListBond.Agree, ListBond.Agree, false), (there.PlannedToFound, there.FoundToRegistered, there.AddressDiffers));
        Assert.Empty(there.Notes);
        var moved = LedgerLine.Of(One(Planned(1), Found(1, "10.46.8.99"), Registered(1)));
        Assert.Equal((ListBond.Differ, ListBond.Differ, true), (moved.PlannedToFound, moved.FoundToRegistered, moved.AddressDiffers));
        Assert.Equal("ledger.address-differs", moved.Notes[0].Code);
        // Another unit at its address is no agreement, though the addresses are the same.
        var another = LedgerLine.Of(
            One(Planned(1), Found(1) with { Serial = "XX1", HardwareAddress = "02:46:08:99:00:01" }, null, Terms(list: false))
        );
        Assert.Equal((ListBond.Differ, false), (another.PlannedToFound, another.AddressDiffers));
        var silent = LedgerLine.Of(One(Planned(1), null, null));
        Assert.Equal(
            (ListBond.Apart, ListBond.Apart, "", ""),
            (silent.PlannedToFound, silent.FoundToRegistered, silent.Found, silent.Recorder)
        );
        var stranger = LedgerLine.Of(One(null, Found(1) with { HardwareAddress = null }, null, Terms(list: false)));
        Assert.Equal((null, "", "th0001"), (stranger.DeviceId, stranger.PlaceName, stranger.Unit));
        // What is only told stands in its row alone.
        var told = One(Planned(1), Found(1) with { AnswersSearches = false }, Registered(1));
        Assert.Contains("ledger.search-off", Notes(told));
        Assert.Empty(LedgerLine.Of(told).Notes);
    }

    [Theory]
    [InlineData(AddressPolicy.FixedPlan, "ledger.leased-in-fixed-plan", LedgerWeight.Wrong)]
    [InlineData(AddressPolicy.ReservedOrFrozen, "ledger.leased-needs-reservation", LedgerWeight.Look)]
    [InlineData(AddressPolicy.Automatic, null, null)]
    public void ALeaseIsJudgedByTheSchool(AddressPolicy policy, string? code, LedgerWeight? weight)
    {
        var row = One(Planned(1), Found(1) with { Leases = true }, null, Terms(list: false, policy: policy));
        var note = row.Notes.FirstOrDefault(n => n.Code.StartsWith("ledger.leased", StringComparison.Ordinal));
        Assert.Equal((code, weight), (note?.Code, note?.Weight));
    }

    [Fact]
    public void WhoIsAskedForAtAnAddressMustNotLeaseItUnderAnySchool() =>
        Assert.Contains(
            One(Planned(1), Found(1) with { Leases = true }, Registered(1), Terms(policy: AddressPolicy.Automatic)).Notes,
            n => n is { Code: "ledger.leased-and-asked-for", Weight: LedgerWeight.Wrong }
        );

    [Fact]
    public void AFrozenAddressInsideThePoolIsWrong() =>
        Assert.Contains(
            "ledger.found.fixedInsidePool",
            Notes(One(Planned(1, "10.46.8.210"), Found(1, "10.46.8.210"), null, Terms(list: false)))
        );

    [Fact]
    public void SettingsThatDifferAreNamedEachWithItsMend()
    {
        var row = One(
            Planned(1),
            Found(1) with
            {
                Name = "@CC-02",
                Firmware = "3.4.0",
                Gateway = "10.46.8.2",
                Mask = "255.255.0.0",
                AnswersSearches = false,
                TimeSource = "manual",
                ClockAheadSeconds = -3600,
                AnnouncesElsewhere = "10.46.8.99",
            },
            Registered(1)
        );
        Assert.Equal(
            [
                ("ledger.found.gatewayDiffers", LedgerMend.SetGateway),
                ("ledger.found.maskTooWide", LedgerMend.SetAddress),
                ("ledger.name-differs", LedgerMend.SetName),
                ("ledger.firmware-differs", null),
                ("ledger.time-by-hand", LedgerMend.SetTimeSource),
                ("ledger.clock-step-behind", null),
                ("ledger.announces-elsewhere", null),
                ("ledger.search-off", LedgerMend.AnswerSearches),
            ],
            Told(row).Select(n => (n.Code, n.Mend))
        );
        // What a device calls itself is never taken for one of our own codes.
        Assert.Equal("@@CC-02", row.Notes.First(n => n.Code == "ledger.name-differs").Args[0]);
    }

    [Theory]
    [InlineData(null, null, null, "nobody-looked")]
    [InlineData(null, true, null, "link-and-silent")]
    [InlineData(null, false, null, "no-link")]
    [InlineData(null, false, false, "no-power")]
    [InlineData("10.46.8.210", true, true, "planned-in-pool")]
    [InlineData("192.168.1.5", true, true, "planned-elsewhere")]
    public void WhySomebodyIsSilentIsSaidByWhatIsKnown(string? address, bool? linkUp, bool? powered, string why) =>
        Assert.Contains($"ledger.silent.{why}", Notes(One(Planned(1, address, linkUp, powered), null, null)));

    [Fact]
    public void NobodyIsMissingBeforeAnybodyLookedAndNobodyUnregisteredWithoutAList() =>
        Assert.Equal(["ledger.not-looked"], Notes(One(Planned(1), null, null, Terms(searched: false, list: false))));

    /// <summary>A switch answers no search for cameras, and who was asked alone says nothing of the others.</summary>
    [Theory]
    [InlineData(true, RowStanding.Unlooked, new FoundBy[0])]
    [InlineData(true, RowStanding.Unlooked, new[] { FoundBy.ByHand, FoundBy.OtherNetwork })]
    [InlineData(true, RowStanding.Silent, new[] { FoundBy.Search })]
    [InlineData(true, RowStanding.Silent, new[] { FoundBy.SearchAgain })]
    [InlineData(true, RowStanding.Silent, new[] { FoundBy.RangeScan })]
    [InlineData(false, RowStanding.Unlooked, new[] { FoundBy.Search, FoundBy.SearchAgain })]
    [InlineData(false, RowStanding.Silent, new[] { FoundBy.Search, FoundBy.RangeScan })]
    public void OnlyWhoWasLookedForIsSilent(bool isCamera, RowStanding standing, FoundBy[] tried)
    {
        var ledger = AddressLedger.Of(
            Terms(list: false) with
            {
                Tried = [.. tried],
            },
            [Planned(1, linkUp: true) with { IsCamera = isCamera }],
            [],
            []
        );
        var row = Assert.Single(ledger.Rows);
        Assert.Equal(standing, row.Standing);
        Assert.Equal(
            standing == RowStanding.Silent ? StripMark.Missing : StripMark.Planned,
            Assert.Single(NetworkStrip.Of(Plan, Plan.Made!, ledger).Marks, m => m.Key == row.Key).Kind
        );
    }

    /// <summary>What may stand in a list that nobody read is not unregistered.</summary>
    [Theory]
    [InlineData("", "", "", "ledger.list.none")]
    [InlineData("R-1", "", "", "ledger.list.unread R-1")]
    [InlineData("R-1", "R-2", "", "ledger.list.unread R-1")]
    [InlineData("", "R-2", "", "ledger.list.unread R-1")]
    [InlineData("R-1,R-2", "", "", "ledger.list.several-unread 2")]
    [InlineData("", "R-1,R-2", "ledger.not-registered", "ledger.list.not-registered")]
    [InlineData("r-1", "R-1", "ledger.not-registered", "ledger.list.not-registered")]
    public void NobodyIsUnregisteredInAListThatNobodyRead(string planned, string read, string note, string told)
    {
        string[] Parts(string text) => text.Split(',', StringSplitOptions.RemoveEmptyEntries);
        var lists = told == "ledger.list.none" ? Read() : Read(("R-1", Parts(read).Contains("R-1")), ("R-2", Parts(read).Contains("R-2")));
        var row = One(Planned(1) with { Recorders = [.. Parts(planned)] }, Found(1), null, Terms() with { Lists = lists });
        Assert.Equal(note, string.Join(',', Notes(row)));
        Assert.Equal(told, $"{row.Unregistered!.Code} {string.Join(',', row.Unregistered.Args)}".Trim());
        Assert.Equal(row.Unregistered, LedgerLine.Of(row).Unregistered);
        var all = AddressLedger.Of(
            Terms() with
            {
                Lists = lists,
            },
            [Planned(1) with { Recorders = row.Planned!.Recorders }],
            [Found(1)],
            []
        );
        Assert.Equal(note.Length == 0 ? 1 : 0, all.Uncompared);
        // A switch stands in no recorder's list, and nobody asks why.
        Assert.Null(One(Planned(1) with { IsCamera = false }, Found(1), null, Terms() with { Lists = lists }).Unregistered);
    }

    /// <summary>Four channels of a camera of four heads have one serial number: they are it, and no doubles. More than are planned
    /// are.</summary>
    [Theory]
    [InlineData(4, 4, "", 0)]
    [InlineData(4, 2, "", 0)]
    [InlineData(1, 2, "ledger.not-registered", 1)]
    [InlineData(4, 5, "ledger.not-registered", 1)]
    public void ChannelsOfOneDeviceAreOneEntry(int planned, int registered, string notes, int ambiguous)
    {
        var ledger = AddressLedger.Of(
            Terms(),
            [Planned(1) with { Recorders = [.. Enumerable.Repeat("R-1", planned)] }],
            [Found(1)],
            [.. Enumerable.Range(20, registered).Select(n => Registered(1) with { Channel = n })]
        );
        Assert.Equal(notes, string.Join(',', Notes(ledger.Rows[0])));
        Assert.Equal(ambiguous, ledger.Ambiguous.Count(a => a.Key == DeviceKey.Serial));
        if (notes.Length == 0)
            Assert.Equal(20, Assert.Single(ledger.Rows).Registered!.Channel);
    }

    [Fact]
    public void ADeviceOnAnotherRecorderThanPlannedIsTold()
    {
        var row = One(Planned(1) with { Recorders = ["R-2"] }, Found(1), Registered(1));
        Assert.Equal(["ledger.other-recorder"], Notes(row));
        Assert.Equal(["R-1", "1", "R-2"], Told(row)[0].Args);
        Assert.Empty(Notes(One(Planned(1) with { Recorders = ["R-2", "r-1"] }, Found(1), Registered(1))));
        // Before anybody has looked at the network nobody knows whether it is there.
        Assert.Equal(["ledger.unplanned-on-recorder"], Notes(One(null, null, Registered(9), Terms(searched: false))));
        Assert.Equal(["ledger.stale-registration"], Notes(One(null, null, Registered(9))));
    }

    [Fact]
    public void TheLadderGoesFromCheapToDearAndEndsByHand()
    {
        AddressLedger Ledger(params FoundDevice[] found) => AddressLedger.Of(Terms(list: false), [Planned(1), Planned(2)], found, []);
        FoundBy? Next(AddressLedger ledger, bool two, int others, params FoundBy[] tried) =>
            DiscoveryLadder.Of(ledger, tried, two, others).Next;
        var half = Ledger(Found(1));
        Assert.Equal(FoundBy.Search, Next(Ledger(), false, 1));
        Assert.Equal(FoundBy.SearchAgain, Next(half, false, 1, FoundBy.Search));
        Assert.Equal(FoundBy.RangeScan, Next(half, false, 1, FoundBy.Search, FoundBy.SearchAgain));
        Assert.Equal(FoundBy.OtherNetwork, Next(half, false, 1, FoundBy.Search, FoundBy.SearchAgain, FoundBy.RangeScan));
        Assert.Equal(FoundBy.ByHand, Next(half, false, 0, FoundBy.Search, FoundBy.SearchAgain, FoundBy.RangeScan));
        var both = Ledger(Found(1), Found(2));
        Assert.Null(Next(both, false, 1, FoundBy.Search));
        // A school that asks for two ways is not content with one.
        Assert.Equal(FoundBy.RangeScan, Next(both, true, 1, FoundBy.Search));
        Assert.Equal(1, DiscoveryLadder.Of(half, [FoundBy.Search], false, 0).Missing);
        // A switch has no reason to answer a search for cameras: nobody waits for it before each address is asked.
        var gear = AddressLedger.Of(Terms(list: false), [Planned(1), Planned(2) with { IsCamera = false }], [Found(1)], []);
        Assert.Equal(FoundBy.RangeScan, Next(gear, false, 1, FoundBy.Search));
        Assert.Equal("1", DiscoveryLadder.Of(gear, [], false, 0).Because[0].Args[0]);
    }

    [Fact]
    public void TheTesterTakesTheCardThatIsThereAndElseAFreeAddress()
    {
        var plan = Plan.Made!;
        var taken = new HashSet<Ipv4Address> { Ipv4Address.Parse("10.46.8.254", ""), Ipv4Address.Parse("10.46.8.21", "") };
        TesterAddress Of(params NetworkCard[] cards) => TesterAddress.Of(plan, cards, taken);
        var office = new NetworkCard("office", "172.16.0.9", 24, true);
        Assert.Equal(("field", ""), Short(Of(office, new("field", "10.46.8.250", 24, true))));
        Assert.Equal(("field", "10.46.8.253"), Short(Of(office, new("field", "10.46.8.21", 24, true))));
        Assert.Equal(("spare", "10.46.8.253"), Short(Of(office, new("spare", "169.254.3.4", 16, true))));
        Assert.Equal("tester-address.wide", Of(new NetworkCard("field", "10.46.8.250", 16, true)).Because[^1].Code);
        Assert.Equal("tester-address.narrow", Of(new NetworkCard("field", "10.46.8.250", 25, true)).Because[^1].Code);
        var none = Of(new NetworkCard("field", "10.46.8.250", 24, false));
        Assert.Null(none.Card);
        Assert.Equal(["tester-address.down", "tester-address.none"], none.Because.Select(b => b.Code));
        Assert.Equal("10.46.8.9", TesterAddress.Of(plan, [office], taken, Ipv4Address.Read("10.46.8.9")).Address);

        static (string?, string) Short(TesterAddress told) => (told.Card, told.Address);
    }

    [Fact]
    public void TheNetworkIsDrawnAddressByAddressAsItStands()
    {
        var rows = AddressLedger.Of(
            Terms(list: false),
            [Planned(1), Planned(2), Planned(3), Planned(4)],
            [
                Found(1),
                Found(2, "10.46.8.99"),
                Found(4, "10.46.9.24"),
                new() { Address = "10.46.8.120", Serial = "KX1" },
                Found(7, "10.46.8.77"),
                Found(8, "10.46.8.77"),
            ],
            []
        );
        var plan = Plan with { Tester = "10.46.8.254" };
        var strip = NetworkStrip.Of(plan, plan.Made!, rows);
        Assert.Equal(256, strip.Size);
        Assert.Equal(
            [
                (1, StripMark.Gateway),
                (21, StripMark.Found),
                (23, StripMark.Missing),
                (77, StripMark.Double),
                (77, StripMark.Double),
                (99, StripMark.Wrong),
                (120, StripMark.Unknown),
                (254, StripMark.Tester),
            ],
            strip.Marks.Select(m => ((int)m.At, m.Kind))
        );
        Assert.Equal([(200, 239, true), (2, 9, false)], strip.Ranges.Select(r => ((int)r.From, (int)r.To, r.IsLeased)));
        Assert.Equal("10.46.9.24", Assert.Single(strip.Elsewhere).Address);
        Assert.Equal(rows.Rows.Length, rows.Rows.Select(r => r.Key).Distinct().Count());
        Assert.All(
            NetworkStrip
                .Of(plan, plan.Made!, AddressLedger.Of(Terms(false, false), [Planned(1)], [], []))
                .Marks.Where(m => m.Key.Length > 0),
            m => Assert.Equal(StripMark.Planned, m.Kind)
        );
    }

    [Fact]
    public void ARowSaysHowItStandsAndWhatAChangeBreaks()
    {
        Assert.Equal(RowStanding.AsPlanned, One(Planned(1), Found(1), Registered(1)).Standing);
        Assert.Equal(RowStanding.ToLook, One(Planned(1), Found(1) with { TimeSource = "manual" }, Registered(1)).Standing);
        Assert.Equal(RowStanding.ToMend, One(Planned(1), Found(1) with { Name = "CC-02" }, Registered(1)).Standing);
        Assert.Equal(RowStanding.Silent, One(Planned(1), null, null).Standing);
        Assert.Equal(RowStanding.Unlooked, One(Planned(1), null, null, Terms(false, false)).Standing);
        // The recorder asks where the device is now: who moves the one has to change the other.
        Assert.Equal(["ledger.breaks"], Breaks(One(Planned(1), Found(1, "10.46.8.77"), Registered(1, "10.46.8.77"))));
        Assert.Empty(Breaks(One(Planned(1), Found(1, "10.46.8.77"), Registered(1))));
        Assert.Empty(Breaks(One(Planned(1), Found(1) with { Mask = "255.255.0.0" }, Registered(1))));
        // A plate camera that sends to where the recorder is now; another sends elsewhere.
        var linked = Planned(1) with
        {
            Links = [new("GT-01", Ipv4Address.Read("10.46.8.77")!.Value), new("FB-02", Ipv4Address.Read("10.46.8.12")!.Value)],
        };
        var moved = One(linked, Found(1, "10.46.8.77"), Registered(1));
        Assert.Equal(["ledger.breaks-link"], Breaks(moved));
        Assert.Equal("GT-01", moved.Breaks[0].Args[0].TrimStart('\u2068').TrimEnd('\u2069'));
        Assert.Empty(Breaks(One(linked, Found(1), Registered(1))));
        string[] Breaks(LedgerRow row) => [.. row.Breaks.Select(b => b.Code)];
    }

    [Theory]
    [InlineData(LedgerMend.SetAddress)]
    [InlineData(LedgerMend.SetGateway)]
    [InlineData(LedgerMend.SetName)]
    [InlineData(LedgerMend.AnswerSearches)]
    [InlineData(LedgerMend.SetTimeSource)]
    public void WhatWasSetHoldsOnlyWhereTheDeviceSaysSo(LedgerMend what)
    {
        var said = Found(1) with { OwnAddress = "10.46.8.21", AnswersSearches = true };
        Assert.True(Readback.Holds(what, Planned(1), Plan.Made!, said));
        var silent = new FoundDevice { Address = said.Address };
        Assert.False(Readback.Holds(what, Planned(1), Plan.Made!, silent));
    }

    [Fact]
    public void WhatAStartMadeTrueAndWhatItTookBackIsTold()
    {
        var before = Found(1) with { AnswersSearches = true, Streams = [new("main", "H264", 1920, 1080), new("sub", "H264", 640, 360)] };
        Assert.Empty(Readback.SinceStart(before, before));
        // Nothing is known of what it did not say.
        Assert.Empty(Readback.SinceStart(before, new FoundDevice { Address = before.Address }));
        var after = before with
        {
            Name = "",
            Gateway = "10.46.8.254",
            AnswersSearches = false,
            TimeSource = "manual",
            Streams = [new("main", "H265", 1920, 1080)],
        };
        Assert.Equal(
            [
                "@lan.what.name CC-01 \u2013",
                "@lan.what.gateway 10.46.8.1 10.46.8.254",
                "@lan.what.searches @ui.yes @ui.no",
                "@lan.what.time ntp manual",
                "@lan.what.stream H264 1920x1080 H265 1920x1080",
                "@lan.what.stream sub \u2013",
            ],
            Readback.SinceStart(before, after).Select(m => string.Join(' ', m.Args))
        );
        // A name that looks like a code of ours stays a name.
        Assert.Equal("@@ui.yes", Readback.SinceStart(before, before with { Name = "@ui.yes" }).Single().Args[2]);
    }

    [Fact]
    public void AUnitBelongsWhereItsSerialNumberIsElseItsHardwareAddress()
    {
        PlannedDevice[] places = [Planned(1), Planned(2), Planned(3) with { Serial = "" }];
        Assert.Equal("CC-02", FoundDevices.PlaceOf(Found(2) with { HardwareAddress = Planned(1).Mac }, places)?.Label);
        Assert.Equal("CC-03", FoundDevices.PlaceOf(Found(3) with { Serial = "NEW" }, places)?.Label);
        Assert.Null(FoundDevices.PlaceOf(Found(9), places));
        // What two places have tells neither.
        Assert.Null(FoundDevices.PlaceOf(Found(1) with { HardwareAddress = null }, [Planned(1), Planned(1) with { Id = Guid.NewGuid() }]));
    }

    [Fact]
    public void LooksArePutTogetherByWhatStaysTheSame()
    {
        FoundDevice Nameless(string address) => new() { Address = address, By = [FoundBy.RangeScan] };
        FoundDevice Heard(string address, int n) =>
            new()
            {
                Address = address,
                By = [FoundBy.Search],
                Endpoint = $"urn:uuid:{n}",
                HardwareAddress = $"02:46:08:00:00:{n:X2}",
            };
        // Heard without a login, read with one, and moved: one device.
        var one = Assert.Single(
            FoundDevices.Merge([
                [Heard("10.46.8.30", 1)],
                [Found(1)],
                [Found(1, "10.46.8.99")],
            ])
        );
        Assert.Equal(("10.46.8.99", "urn:uuid:1"), (one.Address, one.Endpoint));
        // Who tells nothing is who answers there.
        Assert.Equal(
            "TH0001",
            Assert
                .Single(
                    FoundDevices.Merge([
                        [Found(1)],
                        [Nameless("10.46.8.21")],
                    ])
                )
                .Serial?.Trim()
                .ToUpperInvariant()
        );
        Assert.Equal(
            2,
            FoundDevices
                .Merge([
                    [Nameless("10.46.8.21"), Nameless("10.46.8.22")],
                ])
                .Length
        );
        // Two on one address are two, and a unit of another serial number is never the one before it.
        Assert.Equal(
            2,
            FoundDevices
                .Merge([
                    [Heard("10.46.8.39", 1), Heard("10.46.8.39", 2)],
                ])
                .Length
        );
        Assert.Equal(
            2,
            FoundDevices
                .Merge([
                    [Found(1)],
                    [Found(1) with { Serial = "OTHER" }],
                ])
                .Length
        );
    }

    [Fact]
    public void WhatTheNetworkShowedBecomesReadingsAndNothingMore()
    {
        string[] Rows(PlannedDevice planned, FoundDevice found) =>
            [
                .. AddressRows
                    .Of(Plan.Made!, One(planned, found, null, Terms(list: false)))
                    .Select(r =>
                        $"{r.Check.Value} {(r.Value as Walkdown.Core.Acceptance.ChoiceValue)?.Choice ?? (r.Value as Walkdown.Core.Acceptance.YesNoValue)?.Yes.ToString()}"
                    ),
            ];
        Assert.Equal(
            ["address.found first-search", "address.unique True", "address.policy fixed", "address.network as-plan", "address.name True"],
            Rows(Planned(1), Found(1))
        );
        Assert.Contains("address.network both", Rows(Planned(1), Found(1) with { Mask = "255.255.0.0", Gateway = "10.46.8.2" }));
        Assert.Contains("address.network gateway", Rows(Planned(1), Found(1) with { Gateway = "none" }));
        Assert.DoesNotContain(Rows(Planned(1), Found(1) with { Gateway = null }), r => r.Contains("network", StringComparison.Ordinal));
        Assert.Contains("address.name False", Rows(Planned(1), Found(1) with { Name = "CC-02" }));
        Assert.Equal("address.found two-ways", Rows(Planned(1), Found(1) with { By = [FoundBy.Search, FoundBy.RangeScan] })[0]);
        Assert.Equal("address.found first-search", Rows(Planned(1), Found(1) with { By = [FoundBy.Search, FoundBy.SearchAgain] })[0]);
        Assert.Equal("address.found by-hand", Rows(Planned(1), Found(1) with { By = [FoundBy.ByHand] })[0]);
        Assert.Contains("address.policy frozen-in-pool", Rows(Planned(1, "10.46.8.210"), Found(1, "10.46.8.210")));
        // Whether a lease is reserved nobody sees from here, and at another address than planned it is not the planned one that is unique.
        Assert.Equal(
            ["address.found first-search"],
            Rows(Planned(1), Found(1, "10.46.8.77") with { Leases = true, Mask = null, Name = null })
        );
        Assert.Contains("address.kept False", Rows(Planned(1), Found(1) with { KeptAddress = false }));
        Assert.Contains("address.factory-refused True", Rows(Planned(1), Found(1) with { Logins = new(false, false, true) }));
        Assert.Contains("address.factory-refused False", Rows(Planned(1), Found(1) with { Logins = new(true, null, null) }));
        Assert.DoesNotContain(
            Rows(Planned(1), Found(1) with { Logins = new(false, null, true) }),
            r => r.Contains("factory", StringComparison.Ordinal)
        );
        Assert.Empty(Rows(Planned(1), Found(9, "10.46.8.21")));
    }

    [Fact]
    public void TwoLooksAtOneDeviceKeepWhatEitherWasTold()
    {
        var first = Found(1) with { Model = "Tarn D2", Users = ["setup"] };
        var second = new FoundDevice
        {
            Address = "10.46.8.30",
            By = [FoundBy.RangeScan],
            Serial = "TH0001",
        };
        var both = first.With(second);
        Assert.Equal(("10.46.8.30", "Tarn D2", "TH0001"), (both.Address, both.Model, both.Serial));
        Assert.Equal([FoundBy.Search, FoundBy.RangeScan], both.By);
        Assert.Equal(first.Key, both.Key);
        // A certificate is compared with the one before, and a third with the second.
        var shown = (first with { Fingerprint = "A" }).With(second).With(second with { Fingerprint = "B" });
        Assert.Equal(("B", "A"), (shown.Fingerprint, shown.FingerprintBefore));
        Assert.Contains("ledger.certificate-changed", Notes(One(Planned(1, "10.46.8.30"), shown, null, Terms(list: false))));
        Assert.Null((first with { Fingerprint = "A" }).With(first with { Fingerprint = "A" }).FingerprintBefore);
        // Who has moved has left those behind that shared his address; who stays has not.
        Assert.Empty((first with { Others = ["a"] }).With(second).Others);
        Assert.Equal(["a", "b"], (first with { Others = ["b"] }).With(first with { Others = ["a"] }).Others);
    }
}
