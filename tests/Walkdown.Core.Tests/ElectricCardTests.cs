using System.Collections.Immutable;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Cabling;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Measures;
using Walkdown.Core.Power;

namespace Walkdown.Core.Tests;

/// <summary>Packs, feeds, supplies, probes and lights on a Card.</summary>
public sealed class ElectricCardTests
{
    private static readonly SupplyFacts Supply = new(
        Guid.NewGuid(),
        "S-1",
        SupplyRange.V24Dc,
        new(24, Origin.Planned),
        0,
        5,
        3.15,
        10,
        new(AreaMm2: 1.5),
        20,
        [
            new(Guid.Parse("00000000-0000-0000-0000-0000000000d1"), "CC-07", "dome-varifocal", "Tarn D4Z", 30, null, null),
            new(Guid.NewGuid(), "CC-08", "dome-fixed", "", 12, 5, 9),
        ]
    );

    private static CheckKey Place(string check, Facts facts, Condition under = Condition.Any) =>
        new(new CheckId(check), new Subject(SubjectKind.Place, facts.Now.Place.Id), under);

    private static CardRow Row(Facts facts, string check, Condition under = Condition.Any) =>
        facts.Card.Rows.Single(r => r.Key.Check.Value == check && r.Key.Under == under);

    private static CardRow Read(Facts facts, CheckKey key, ReadingValue value)
    {
        facts.Read(key, value);
        return facts.Card.Rows.Single(r => r.Key == key);
    }

    [Fact]
    public void WhatMayBeTakenIsNoDebtAndCountsOnceItIs()
    {
        var facts = new Facts().Healthy();
        Assert.Equal(Verdict.Accepted, facts.Card.Verdict.Verdict);
        var total = facts.Card.Total;
        Assert.Equal(
            State.In,
            Read(facts, Facts.Key("power.watts-at-device", "", Condition.InfraredOff), new NumberValue(9.4, Unit.Watt)).State
        );
        Assert.Equal((total + 1, Verdict.Accepted), (facts.Card.Total, facts.Card.Verdict.Verdict));
        // What its own definition says of an optional Check that is out: a tone that was not found is a remark, half duplex refuses.
        Assert.Equal(State.Out, Read(facts, Facts.Key("cable.tone"), new ChoiceValue("none")).State);
        Assert.Equal(Verdict.AcceptedWithNote, facts.Card.Verdict.Verdict);
        Assert.Equal(State.Out, Read(facts, Facts.Key("link.duplex"), new ChoiceValue("half")).State);
        Assert.Equal(Verdict.Refused, facts.Card.Verdict.Verdict);
    }

    [Fact]
    public void APackIsGoneThroughForTheMountAndTheWayIn()
    {
        var facts = new Facts().With(f => f with { Place = f.Place with { Mount = "ceiling-tile", CableEntry = "conduit" } });
        var row = Row(facts, "before.pack");
        Assert.Contains(row.Items, i => i.Id == "backing-plate" && i.Out);
        Assert.Contains(row.Items, i => i.Id == "thread-tape" && i.Bring);
        Assert.DoesNotContain(row.Items, i => i.Id is "pole-bands" or "gasket" or "wall-anchors");
        Assert.Equal(State.In, Read(facts, row.Key, new ListValue([])).State);
        Assert.Equal(State.In, Read(facts, row.Key, new ListValue(["template"])).State);
        var out_ = Read(facts, row.Key, new ListValue(["backing-plate", "template"]));
        Assert.Equal((State.Out, "list.missing", "@item.backing-plate"), (out_.State, out_.Because[0].Code, out_.Because[0].Args[0]));
        Assert.Equal("reading.unknown-item", ReadingRules.Refuse(row.Check, new ListValue(["anvil"]))!.Code);
    }

    [Theory]
    [InlineData("3.6.0", "7.2.0", State.In, null)]
    [InlineData("3.5.9", "7.2.0", State.Out, "version.older")]
    [InlineData("3.7", "7.2.0", State.In, "version.newer")]
    [InlineData("3.6.0", "7.1.4", State.Out, "version.recorder-older")]
    [InlineData("3.6.0", null, State.NotJudged, "version.recorder-unknown")]
    [InlineData("as shipped", "7.2.0", State.TooClose, "version.unreadable")]
    public void FirmwareIsComparedAtTheDeviceAndAtItsRecorder(string found, string? recorder, State state, string? because)
    {
        var facts = new Facts().With(f => f with { Channels = [new(Guid.NewGuid(), "R-1", 4, recorder)] });
        var row = Read(facts, Place("before.firmware", facts), new TextValue(found));
        Assert.Equal((state, because), (row.State, row.Because.FirstOrDefault()?.Code));
    }

    [Fact]
    public void WhileAnUpdateRunsThePlugStaysIn()
    {
        var facts = new Facts();
        facts.Work("update-started");
        Assert.Equal("hold.updating", facts.Card.Hold!.Code);
        facts.Work("updated");
        Assert.Null(facts.Card.Hold);
    }

    [Fact]
    public void NoVoltsBeforeTheLeadIsIdentified()
    {
        var facts = new Facts().With(f => f with { Supply = Supply });
        var volts = Row(facts, "power.supply-volts", Condition.InfraredOff);
        Assert.Equal("power.aux-lead", Assert.Single(volts.HeldBy).Value);
        Assert.Equal(State.Out, Read(facts, Place("power.aux-lead", facts), new ListValue(["lead-gauge"])).State);
        Assert.NotEmpty(Row(facts, "power.supply-volts", Condition.InfraredOff).HeldBy);
        Assert.Equal(State.In, Read(facts, Place("power.aux-lead", facts), new ListValue([])).State);
        Assert.Empty(Row(facts, "power.supply-volts", Condition.InfraredOff).HeldBy);
        Assert.DoesNotContain(facts.Card.Rows, r => r.Key.Check.Value == "power.volts-at-device");
    }

    [Theory]
    [InlineData(23.7, 0, State.In, null)]
    [InlineData(-23.7, 0, State.Out, "supply.reversedPolarity")]
    [InlineData(0.2, 0, State.Out, "supply.dead")]
    [InlineData(23.7, 23, State.Out, "supply.alternatingWhereDirectExpected")]
    [InlineData(20.9, 0, State.Out, "because.limit")]
    public void ASupplyIsJudgedByKindSignAndVolts(double dc, double ac, State state, string? because)
    {
        var facts = new Facts().With(f => f with { Supply = Supply });
        facts.Read(Place("power.aux-lead", facts), new ListValue([]));
        if (ac != 0)
            facts.Read(Place("power.supply-stray", facts), new NumberValue(ac, Unit.Volt));
        var row = Read(facts, Place("power.supply-volts", facts, Condition.InfraredOff), new NumberValue(dc, Unit.Volt));
        Assert.Equal((state, because), (row.State, row.Because.FirstOrDefault()?.Code));
        if (because == "supply.reversedPolarity")
            Assert.Equal("reversed-supply", row.Causes[0].Id);
    }

    [Fact]
    public void AllThatHangsOnASupplyIsInTheExpectation()
    {
        var facts = new Facts().With(f => f with { Supply = Supply });
        double Expected(Condition under) => Row(facts, "power.supply-volts", under).Expected!.Value!.Value.Value;
        Assert.InRange(Expected(Condition.InfraredOn), 22, Expected(Condition.InfraredOff) - 0.01);
        var alone = new Facts().With(f => f with { Supply = Supply with { Taps = [Supply.Taps[0]] } });
        Assert.True(Row(alone, "power.supply-volts", Condition.InfraredOn).Expected!.Value!.Value.Value > Expected(Condition.InfraredOn));
    }

    [Fact]
    public void AFeedIsThePlannedOneAndNeverTheTesterForGood()
    {
        var facts = new Facts();
        Assert.Equal(State.In, Read(facts, Place("power.feed", facts), new ChoiceValue("port")).State);
        Assert.Equal((State.TooClose, "feed.test-only"), Of(Read(facts, Place("power.feed", facts), new ChoiceValue("tester"))));
        Assert.Equal((State.Out, "feed.two"), Of(Read(facts, Place("power.feed", facts), new ChoiceValue("two-feeds"))));
        Assert.Equal((State.Out, "feed.other"), Of(Read(facts, Place("power.feed", facts), new ChoiceValue("supply"))));

        static (State, string) Of(CardRow row) => (row.State, row.Because[0].Code);
    }

    [Theory]
    [InlineData("4", State.In, null, null)]
    [InlineData("3", State.Out, "class.reducedPowerFunctionsMaySwitchOff", "class-too-low")]
    [InlineData("none", State.Out, "class.none", "no-power-offered")]
    [InlineData("passive", State.Out, "class.passive", null)]
    public void TheClassGrantedIsEnoughForTheHeaviestState(string granted, State state, string? because, string? cause)
    {
        var row = Read(new Facts(), Facts.Key("power.poe-class"), new ChoiceValue(granted));
        Assert.Equal((state, because, cause), (row.State, row.Because.FirstOrDefault()?.Code, row.Causes.FirstOrDefault()?.Id));
    }

    /// <summary>Source and device must be of one mind about their power; who is not is named as the cause, with what it costs.</summary>
    [Theory]
    [InlineData(SourceMode.LegacyHighPower, "standard", "legacy", "device-on-standard")]
    [InlineData(SourceMode.LegacyHighPower, "legacy", "legacy", null)]
    [InlineData(SourceMode.Standard, "legacy", "3", "device-on-legacy")]
    [InlineData(SourceMode.Standard, "standard", "3", "class-too-low")]
    public void ADeviceAndASourceOfTwoMindsAreNamed(SourceMode mode, string setting, string granted, string? cause)
    {
        var facts = new Facts().With(f =>
            f with
            {
                Place = f.Place with { Features = ["power-mode-switch"], WattsInfraredOn = 40 },
                Runs = [f.Runs[0] with { Port = f.Runs[0].Port! with { Mode = mode, LimitWatts = 60 } }],
            }
        );
        Read(facts, Place("power.mode-switch", facts), new ChoiceValue(setting));
        var row = Read(facts, Facts.Key("power.poe-class"), new ChoiceValue(granted));
        Assert.Equal(cause, row.Causes.FirstOrDefault()?.Id);
        Assert.Equal(cause is null, row.State == State.In);
    }

    [Fact]
    public void ThePowerModeSwitchIsReadTwiceAndMustAgree()
    {
        var facts = new Facts().With(f =>
            f with
            {
                Place = f.Place with { Features = ["power-mode-switch"] },
                Runs = [f.Runs[0] with { Port = f.Runs[0].Port! with { Mode = SourceMode.LegacyHighPower, LimitWatts = 60 } }],
            }
        );
        Assert.NotEmpty(Row(facts, "power.mode-switch-closing").HeldBy);
        Assert.Equal(State.Out, Read(facts, Place("power.mode-switch", facts), new ChoiceValue("standard")).State);
        Assert.Equal(State.In, Read(facts, Place("power.mode-switch", facts), new ChoiceValue("legacy")).State);
        Assert.Equal("mode.differs", Read(facts, Place("power.mode-switch-closing", facts), new ChoiceValue("standard")).Because[0].Code);
        Assert.Equal(State.In, Read(facts, Place("power.mode-switch-closing", facts), new ChoiceValue("legacy")).State);
    }

    [Fact]
    public void TwoDevicesOnOneRunHaveTwoPairsEachAndNoPowerInCommon()
    {
        var facts = new Facts().With(f => f with { Supply = Supply, Runs = [f.Runs[0] with { Shared = true }] });
        var map = Read(facts, Facts.Key("cable.wire-map"), Facts.Map(1, 2, 3, 0, 0, 6, 0, 0));
        Assert.Equal(State.In, map.State);
        // What is right sends nobody to open an end.
        Assert.Equal("map.shared", Assert.Single(map.Because).Code);
        Assert.Equal(["1-2", "3-6"], facts.Card.Rows.Where(r => r.Key.Check.Value == "cable.loop-resistance").Select(r => r.Key.On.Part));
        Assert.Equal("two-pairs", facts.Row("cable.wire-map").Expected!.Word);
        Assert.Equal("100", facts.Row("link.speed").Expected!.Word);
        Assert.Equal(State.In, Read(facts, Facts.Key("link.speed"), new ChoiceValue("100")).State);
        Assert.Equal("feed.shared-run", Read(facts, Place("power.feed", facts), new ChoiceValue("port")).Because[0].Code);
        Assert.DoesNotContain(facts.Card.Rows, r => r.Key.Check.Value.StartsWith("power.watts", StringComparison.Ordinal));
    }

    [Theory]
    [InlineData(4000, 0, State.In, null)]
    [InlineData(100, 0, State.TooClose, "loss.take-more")]
    [InlineData(10, 5, State.TooClose, "loss.few")]
    [InlineData(4000, 40, State.Out, null)]
    public void ProbesAreJudgedByTheirInterval(int sent, int lost, State state, string? because)
    {
        var row = Read(new Facts().Healthy(), Facts.Key("link.probes"), new ProbesValue(sent, sent - lost));
        Assert.Equal(state, row.State);
        if (because is not null)
            Assert.Contains(row.Because, b => b.Code == because);
    }

    [Fact]
    public void SlowRoundTripsAreOutThoughNothingIsLost()
    {
        var row = Read(
            new Facts().Healthy(),
            Facts.Key("link.probes"),
            new ProbesValue(4000, 4000, [.. Enumerable.Repeat((double?)35, 100)])
        );
        Assert.Equal((State.Out, true), (row.State, row.Because.Any(b => b.Code == "latency.slow")));
    }

    [Fact]
    public void PortErrorsNeedTrafficToSayAnything()
    {
        var facts = new Facts().Healthy();
        var key = Facts.Key("link.errors");
        Assert.Equal("errors.no-traffic", Read(facts, key, new CountersValue(new(5, 0), new(5, 0), 60)).Because[0].Code);
        Assert.Equal("errors.reset", Read(facts, key, new CountersValue(new(3_000_000_000, 0), new(5, 0), 60)).Because[0].Code);
        Assert.Contains(Read(facts, key, new CountersValue(new(0, 0), new(100_000, 0), 60)).Because, b => b.Code == "errors.more-traffic");
        Assert.Equal(State.In, Read(facts, key, new CountersValue(new(0, 0), new(9_000_000, 0), 3600)).State);
        Assert.Equal(State.Out, Read(facts, key, new CountersValue(new(0, 0), new(9_000_000, 400), 3600)).State);
    }

    [Fact]
    public void ALightSaysItsStateAndWhetherThePlugMayBePulled()
    {
        var facts = new Facts();
        Assert.Equal(State.In, Read(facts, Place("link.light", facts), new ChoiceValue("green-steady")).State);
        var updating = Read(facts, Place("link.light", facts), new ChoiceValue("red-green"));
        Assert.Equal((State.TooClose, "light.do-not-unplug"), (updating.State, updating.Because[1].Code));
        Assert.Equal(
            State.Out,
            Read(facts, Place("link.light", facts), new ChoiceValue("amber-slow")).State == State.TooClose ? State.Out : State.In
        );
        Assert.Equal("light.unknown", Read(facts, Place("link.light", facts), new ChoiceValue("purple")).Because[0].Code);
    }

    [Fact]
    public void TooEarlyIsWaitAndTooLateIsAFault()
    {
        var facts = new Facts();
        Assert.Equal(
            (State.TooClose, "boot.too-early"),
            (Read(facts, Place("power.boot", facts), new NumberValue(5, Unit.Second)).State, Row(facts, "power.boot").Because[0].Code)
        );
        Assert.Equal(State.In, Read(facts, Place("power.boot", facts), new NumberValue(70, Unit.Second)).State);
        Assert.Equal(State.Out, Read(facts, Place("power.boot", facts), new NumberValue(400, Unit.Second)).State);
    }

    [Theory]
    [InlineData(false, "order-recorder", "order-cameras")]
    [InlineData(true, "order-switch", "order-recorder-second", "order-monitor")]
    public void TheStartUpOrderIsTheJobsSchool(bool switchFirst, params string[] steps)
    {
        var facts = new Facts().With(f =>
            f with
            {
                Place = f.Place with { Kind = "recorder", Model = "" },
                Practice = f.Practice.Taking("start-up", switchFirst ? "switch" : "recorder"),
            }
        );
        Assert.Equal(steps, Row(facts, "power.start-order").Items.Select(i => i.Id));
        Assert.Equal("list.not-confirmed", Read(facts, Place("power.start-order", facts), new ListValue([steps[0]])).Because[0].Code);
    }

    [Fact]
    public void TiltLimitsOfEveryPurposeAreIntersectedAndAnEmptyOneIsSaid()
    {
        var facts = new Facts().With(f => f with { Heads = [new(Guid.NewGuid(), 1)], Place = f.Place with { Features = ["analytics"] } });
        var row = facts.Card.Rows.Single(r => r.Key.Check.Value == "fixing.tilt");
        Assert.Equal((10, 60, 3), (row.Window!.Min, row.Window.Max, row.Window.Parts.Length));
        // A mount that stops at 8 degrees cannot have its infrared clear of the rim.
        var shallow = Facts.Shipped.Model("Tarn D4Z")! with
        {
            TiltGreatest = 8,
            TiltLeast = 0,
        };
        var (catalogue, problems) = Catalogue.Read(
            [
                .. Catalogue.Shipped,
                (
                    "own.json",
                    System.Text.Json.JsonSerializer.Serialize(new CatalogueFile { Overrides = true, Models = [shallow] }, Catalogue.Json)
                ),
            ],
            Facts.Texts
        );
        Assert.Empty(problems);
        facts.Read(row.Key, new NumberValue(9, Unit.Degree));
        var judged = Card.Judge(facts.Now, catalogue!).Rows.Single(r => r.Key.Check.Value == "fixing.tilt");
        Assert.Equal(
            (true, State.NotJudged, "because.limits-exclude-each-other"),
            (judged.Window!.Empty, judged.State, judged.Because[0].Code)
        );
    }

    [Fact]
    public void AHardPullAsksForMapLinkAndPowerAnew()
    {
        var facts = new Facts().Healthy();
        facts.Work("hard-pull");
        Assert.Equal(State.Stale, facts.Row("cable.wire-map").State);
        Assert.Equal(State.Stale, facts.Row("power.volts-at-device", "", Condition.InfraredOn).State);
        Assert.Equal(State.In, facts.Row("cable.length").State);
        Assert.Equal(Verdict.Open, facts.Card.Verdict.Verdict);
    }

    [Fact]
    public void OutThenInWithNoWorkBetweenIsFlaggedAndAHealthyRetestIsNot()
    {
        var facts = new Facts().Healthy();
        facts.Read(Facts.Key("cable.length"), new NumberValue(59.9, Unit.Metre));
        Assert.DoesNotContain(facts.Row("cable.length").Because, b => b.Code == "because.out-then-in");
        facts.Read(Facts.Key("cable.length"), new NumberValue(97, Unit.Metre));
        facts.Read(Facts.Key("cable.length"), new NumberValue(59.9, Unit.Metre));
        Assert.Contains(facts.Row("cable.length").Because, b => b.Code == "because.out-then-in");
        facts.Read(Facts.Key("cable.length"), new NumberValue(97, Unit.Metre));
        facts.Work("cord-replaced", CableEnd.Far);
        facts.Read(Facts.Key("cable.length"), new NumberValue(59.9, Unit.Metre));
        Assert.DoesNotContain(facts.Row("cable.length").Because, b => b.Code == "because.out-then-in");
    }

    [Fact]
    public void ALimitThatChangedSinceSaysWhatItWas()
    {
        var facts = new Facts().Healthy();
        var seen = new LimitSeen("an earlier edition", 40, 70);
        facts.With(f =>
            f with
            {
                Readings = [.. f.Readings.Select(r => r.Key.Check.Value == "cable.length" ? r with { Seen = seen } : r)],
            }
        );
        var because = Assert.Single(facts.Row("cable.length").Because);
        Assert.Equal(("because.limit-changed", "40", "70"), (because.Code, because.Args[0], because.Args[1]));
        facts.With(f =>
            f with
            {
                Readings = [.. f.Readings.Select(r => r with { Seen = JudgedCard.Of(f, Facts.Shipped).LimitOf(r.Key) })],
            }
        );
        Assert.Empty(facts.Row("cable.length").Because);
    }

    [Fact]
    public void PairsThatDifferAreFoundThoughEachIsInItsLimit()
    {
        var facts = new Facts().Healthy();
        facts.Read(Facts.Key("cable.loop-resistance", "7-8"), new NumberValue(11.3, Unit.Ohm));
        facts.Read(Facts.Key("cable.loop-resistance", "1-2"), new NumberValue(9.3, Unit.Ohm));
        Assert.Contains(facts.Row("cable.loop-resistance", "7-8").Because, b => b.Code == "loop.between-pairs");
    }

    [Theory]
    [InlineData("b", false, State.In)]
    [InlineData("a", false, State.Out)]
    [InlineData("a", true, State.In)]
    [InlineData("other", true, State.Out)]
    public void ColoursAreLookedAtBeforeThePlugIsMade(string found, bool matchFarEnd, State state) =>
        Assert.Equal(
            state,
            Read(
                new Facts().With(f => f with { Practice = f.Practice.Taking("scheme", matchFarEnd ? "far-end" : "own") }),
                Facts.Key("cable.scheme"),
                new ChoiceValue(found)
            ).State
        );

    [Fact]
    public void AToneProvesACableOnlyWithTheMap()
    {
        var facts = new Facts();
        Assert.Equal("tone.map-next", Read(facts, Facts.Key("cable.tone"), new ChoiceValue("twice")).Because[0].Code);
        facts.Read(Facts.Key("cable.wire-map"), Facts.Straight);
        Assert.Equal(State.In, facts.Row("cable.tone").State);
        Assert.Equal(State.TooClose, Read(facts, Facts.Key("cable.tone"), new ChoiceValue("once")).State);
    }

    [Fact]
    public void AScreenAndAPairTestAreJudgedWhereTheyWereMade()
    {
        var facts = new Facts().With(f => f with { Runs = [f.Runs[0] with { Screened = true }] });
        Assert.Equal(State.In, Read(facts, Facts.Key("cable.wire-map"), Facts.Straight with { ShieldArrives = true }).State);
        Assert.Equal(State.Out, Read(facts, Facts.Key("cable.wire-map"), Facts.Straight with { ShieldArrives = false }).State);
        var split = Read(
            facts,
            Facts.Key("cable.wire-map"),
            Facts.Straight with
            {
                ShieldArrives = true,
                TwistedPairs =
                [
                    [1, 2],
                    [3, 4],
                    [5, 6],
                    [7, 8],
                ],
            }
        );
        Assert.Contains(WireMapClass.SplitPair, split.Attempts[^1].Map!.Classes);
        Assert.Equal(
            "reading.map-twists",
            ReadingRules
                .Refuse(
                    split.Check,
                    Facts.Straight with
                    {
                        TwistedPairs =
                        [
                            [1, 1],
                        ],
                    }
                )!
                .Code
        );
    }
}
