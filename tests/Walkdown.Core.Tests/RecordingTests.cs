using Walkdown.Core.Acceptance;
using Walkdown.Core.Clocks;
using Walkdown.Core.Measures;
using Walkdown.Core.Recording;

namespace Walkdown.Core.Tests;

/// <summary>Clocks and recordings beside the worked cases: what holds for any figures, and what cannot be.</summary>
public sealed class RecordingTests
{
    // Each test throws its own, so that none depends on which ran before it.
    private readonly Random dice = new(46);

    private double Between(double low, double high) => low + (high - low) * dice.NextDouble();

    /// <summary>However uneven the path, the truth is never further off than the uncertainty says.</summary>
    [Fact]
    public void NoPathHidesMoreThanHalfOfItsDelay()
    {
        for (var n = 0; n < 2000; n++)
        {
            var (truth, there, taken, back) = (Between(-90000, 90000), Between(0, 0.4), Between(0, 0.1), Between(0, 0.4));
            var asked = Between(0, 86400);
            var offset = ClockOffset.Of(new(asked, asked + there + truth, asked + there + taken + truth, asked + there + taken + back));
            Assert.True(Math.Abs(offset.OffsetSeconds - truth) <= offset.UncertaintySeconds + 1e-9);
            Assert.Equal(there + back, offset.DelaySeconds, 6);
        }
    }

    [Fact]
    public void StampsThatContradictThemselvesAreThrownAwayOrRefused()
    {
        // Answered faster than light: beyond both precisions it is no reading, within it is a delay of nothing.
        Assert.False(ClockOffset.Of(new(100, 103, 103.2, 100.1)).IsUsable);
        Assert.Equal(0, ClockOffset.Of(new(100, 103, 103.2, 100.1, 0.2)).DelaySeconds);
        Assert.Null(ClockOffset.BestOf([new(100, 103, 103.2, 100.1)]));
        Assert.Throws<BadInputException>(() => ClockOffset.BestOf([]));
        Assert.Throws<BadInputException>(() => ClockOffset.Of(new(100, 103, 102, 101)));
        Assert.Throws<BadInputException>(() => ClockOffset.Of(new(double.NaN, 103, 104, 105)));
    }

    [Theory]
    [InlineData(3600 + 119, ClockMistake.DaylightSavingOrOneHourZone)]
    [InlineData(3600 + 121, ClockMistake.DriftOrNeverSet)]
    [InlineData(-20700, ClockMistake.WrongTimeZoneQuarterHour)]
    [InlineData(26 * 3600, ClockMistake.WrongTimeZone)]
    [InlineData(26 * 3600 + 900, ClockMistake.WrongDateAndZone)]
    [InlineData(86400 * 400, ClockMistake.WrongDateWholeDays)]
    [InlineData(86400 * 400 + 7200, ClockMistake.ClockLostDate)]
    [InlineData(-86400.0 * 20000 + 333, ClockMistake.ClockLostDate)]
    [InlineData(-2, ClockMistake.InLimit)]
    public void AnOffsetIsSortedByItsStep(double offset, ClockMistake mistake)
    {
        Assert.Equal(mistake, ZoneMistake.Of(offset).Mistake);
        // What is ahead and what is behind by as much is the same mistake.
        Assert.Equal(mistake, ZoneMistake.Of(-offset).Mistake);
    }

    [Fact]
    public void AShutterOfAWholeNumberOfRipplesLeavesNone()
    {
        foreach (var mains in new[] { 50, 60 })
        foreach (var rate in new[] { 1.0, 12.5, 15, 25, 29.97, 30, 60 })
        foreach (var exposure in MainsLight.Of(mains, rate, 1 / rate).SafeExposures)
        {
            var light = MainsLight.Of(mains, rate, exposure);
            Assert.True(light.IsSafe && light.RippleLeft < 1e-9 && !light.IsLongerThanFrame);
        }
        // None fits in a frame of a camera that is faster than the light.
        Assert.Empty(MainsLight.Of(50, 240, 1 / 240.0).SafeExposures);
        Assert.Equal((FrameRateFamily.Either, true), MainsLight.Standard(60, 10));
        Assert.Equal((FrameRateFamily.Neither, false), MainsLight.Standard(50, 7));
        Assert.Throws<BadInputException>(() => MainsLight.Of(16, 25, 0.01));
    }

    private RecordedStream Any() =>
        new(
            Between(0, 16),
            (RecordingMode)dice.Next(4),
            Between(0, 100),
            Between(0, 24),
            dice.Next(8),
            dice.Next(2) == 0 ? 0 : Between(0, 0.5)
        );

    /// <summary>At 200 points what is asked in days, in room and in rate is one relation, by the worked formulas.</summary>
    [Fact]
    public void DaysRoomAndRateAreOneRelation()
    {
        for (var n = 0; n < 200; n++)
        {
            RecordedStream[] streams = [.. Enumerable.Range(0, dice.Next(1, 70)).Select(_ => Any())];
            var (room, reserve, days) = (Between(1, 400), Between(0, 30), Between(1, 90));
            var held = Retention.Of(streams, room, CapacityUnit.Tb, reserve, days);
            var byHand = streams.Sum(s =>
            {
                var duty =
                    (s.Mode is RecordingMode.Motion or RecordingMode.ScheduleMotion ? s.MotionPercent!.Value / 100 : 1)
                    * (
                        s.Mode is RecordingMode.Schedule or RecordingMode.ScheduleMotion ? s.HoursPerDay!.Value / 24 * s.DaysPerWeek / 7 : 1
                    );
                return s.BitRateMbps * duty + s.BackgroundMbps * (1 - duty);
            });
            Assert.Equal(byHand, held.MeanMbps, 9);
            Assert.Equal(room * 1e12 * (1 - reserve / 100) / (byHand * 125000 * 86400), held.Days!.Value, 6);
            // As much as is needed holds as long as was promised, and not a moment less.
            Assert.Equal(RetentionVerdict.Ok, Retention.Of(streams, held.NeededTb!.Value, CapacityUnit.Tb, reserve, days).Verdict);
            Assert.Equal(
                RetentionVerdict.TooShort,
                Retention.Of(streams, held.NeededTb!.Value * 0.999, CapacityUnit.Tb, reserve, days).Verdict
            );
            Assert.True(held.PeakMbps >= held.MeanMbps - 1e-9);
        }
    }

    /// <summary>Nothing recorded is never full, and that is no promise kept by anybody: it is told as what it is.</summary>
    [Fact]
    public void NothingIsRecordedIsNoNumberOfDays()
    {
        var none = Retention.Of([], 24, CapacityUnit.Tb, 5, 31);
        Assert.Equal((null, 0.0, 0.0), (none.Days, none.BytesPerDay, none.NeededTb!.Value));
        Assert.Equal(RetentionVerdict.NotChecked, Retention.Of([], 24, CapacityUnit.Tb).Verdict);
        Assert.Null(Retention.DaysUntilFull(6, CapacityUnit.Tb, 0));
        Assert.Null(Retention.DaysUntilFull(6, CapacityUnit.Tb, 64, overwrites: true));
    }

    [Fact]
    public void WhatAModeNeedsAndIsNotSaidIsRefused()
    {
        Assert.Equal(
            "motion_duty_percent",
            Assert.Throws<BadInputException>(() => new RecordedStream(4, RecordingMode.Motion).MeanMbps).Field
        );
        Assert.Equal(
            "hours_per_day",
            Assert.Throws<BadInputException>(() => new RecordedStream(4, RecordingMode.ScheduleMotion, 30).Duty).Field
        );
        Assert.Throws<BadInputException>(() => new RecordedStream(-1).PeakMbps);
        Assert.Throws<BadInputException>(() => Retention.Of([], 24, CapacityUnit.Tb, 100));
        Assert.Throws<BadInputException>(() => RecorderLoad.Of([new(4, RecordingMode.Motion, 130)], 64, 1000));
    }

    [Fact]
    public void AClassIsTheLeastThatWritesSoFast()
    {
        Assert.Equal("C10", MemoryCard.Of(40).LowestClass);
        Assert.Null(MemoryCard.Of(400).LowestClass);
        var card = MemoryCard.Of(8, cardGb: 128, dutyPercent: 50, enduranceTbw: 40);
        Assert.Equal(2.963, card.Days!.Value, 3);
        Assert.Equal(925.9, card.WearOutDays!.Value, 1);
        // More disks never hold less, and a spare is no room.
        Assert.Equal(DiskArray.Of(ArrayLevel.Level5, 5, 8).UsableTb, DiskArray.Of(ArrayLevel.Level5, 6, 8, hotSpares: 1).UsableTb);
        Assert.Throws<BadInputException>(() => DiskArray.Of(ArrayLevel.Level10, 7, 8));
    }

    // ---- what breaks first

    private static RecorderStore Store(double days = 31) => new(ArrayLevel.Level5, 6, 12, 0, 5, days, 240);

    private static ChannelLoad Channel(int n, RateOrigin origin = RateOrigin.Said) =>
        new(n, $"VL-{n:00}", "Vehicle lanes", new RecordedStream(7.77, RecordingMode.Motion, 70), origin, 15);

    private static ChannelLoad[] Channels(int count = 26, RateOrigin origin = RateOrigin.Said) =>
        [.. Enumerable.Range(1, count).Select(n => Channel(n, origin))];

    /// <summary>The example of the page: 26 channels of 7.77 Mbit/s, seven tenths of the day, six disks of 12 TB.</summary>
    [Fact]
    public void AllHoldsAndIntakeBreaksFirst()
    {
        var held = RecordingForecast.Of(Store(), Channels());
        Assert.Equal(141.414, held.Retention.MeanMbps, 9);
        Assert.Equal(202.02, held.Retention.PeakMbps, 9);
        Assert.Equal(57, held.Retention.UsableBytes / 1e12, 9);
        Assert.Equal(37.3, held.Retention.Days!.Value, 1);
        Assert.Equal(Outcome.In, held.Outcome);
        Assert.Equal([RecordingLimit.Intake, RecordingLimit.Days], held.Spare.Select(s => s.Limit));
        Assert.Equal(held.Retention.MeanMbps, held.ChannelMbps.Sum(), 9);
        Assert.Equal((0.188, 0.204), (Math.Round(held.Spare[0].Share, 3), Math.Round(held.Spare[1].Share, 3)));
        Assert.Equal(17.8, held.Most.FramesPerSecond!.Value, 1);
        Assert.Equal(9.23, held.Most.MeanMbps!.Value, 2);
        Assert.Equal(84.3, held.Most.MotionPercent!.Value, 1);
        Assert.Equal(37.3, held.Most.Days!.Value, 1);
    }

    /// <summary>The most of each thing holds, and a hair more does not: whatever the site.</summary>
    [Fact]
    public void TheMostThatHoldsIsTheEdge()
    {
        for (var n = 0; n < 200; n++)
        {
            var store = Store(Between(5, 60)) with { Disks = 3 + dice.Next(9), IntakeMbps = Between(60, 400) };
            ChannelLoad[] channels =
            [
                .. Enumerable
                    .Range(1, 1 + dice.Next(40))
                    .Select(i =>
                        Channel(i) with
                        {
                            Stream = new RecordedStream(Between(1, 12), RecordingMode.Motion, Between(5, 95), BackgroundMbps: 0),
                            FramesPerSecond = 12,
                        }
                    ),
            ];
            var held = RecordingForecast.Of(store, channels);
            bool Holds(RecordingTry tried)
            {
                var f = RecordingForecast.Of(store, channels, tried);
                return f.Retention.PeakMbps <= store.IntakeMbps && f.Retention.Verdict == RetentionVerdict.Ok;
            }
            Assert.True(Holds(new(FramesPerSecond: held.Most.FramesPerSecond * (1 - 1e-6))));
            if (held.Most.FramesPerSecond is { } frames and < 999)
                Assert.False(Holds(new(FramesPerSecond: frames * (1 + 1e-6))));
            Assert.True(Holds(new(MeanMbps: held.Most.MeanMbps * (1 - 1e-6))));
            Assert.False(Holds(new(MeanMbps: held.Most.MeanMbps * (1 + 1e-6))));
            bool Days(RecordingTry tried) => RecordingForecast.Of(store, channels, tried).Retention.Verdict == RetentionVerdict.Ok;
            Assert.True(Days(new(DaysPromised: held.Most.Days * (1 - 1e-6))));
            Assert.False(Days(new(DaysPromised: held.Most.Days * (1 + 1e-6))));
            if (held.Most.MotionPercent is > 0 and < 100 and var most)
            {
                Assert.True(Days(new(MotionPercent: most * (1 - 1e-6))));
                Assert.False(Days(new(MotionPercent: Math.Min(100, most * (1 + 1e-6)))));
            }
        }
    }

    private static LineAllowed Line(double upload, double sends, int viewers, double each) => new(new(upload, sends, viewers, each), 70);

    /// <summary>16 Mbit/s of a line of 40 go out all day: 28 may, so six viewers of 2 fit, and a day without it is made up in 32 hours of
    /// nobody looking.</summary>
    [Fact]
    public void ALineIsFullAtTheShareThatMayBeUsed()
    {
        var held = RecordingForecast.Of(Store(), Channels(), null, Line(40, 16, 6, 2)).Line!;
        Assert.Equal((28, 28, 6, true), (held.UsedMbps, held.AllowedMbps, held.MostViewers, held.IsWithin));
        Assert.False(RecordingForecast.Of(Store(), Channels(), new(Viewers: 7), Line(40, 16, 6, 2)).Line!.IsWithin);
        // Half the rate sends half, and twice the viewers' room is there.
        var half = RecordingForecast.Of(Store(), Channels(), new(MeanMbps: 7.77 / 2), Line(40, 16, 6, 2)).Line!;
        Assert.Equal((8, 10), (Math.Round(half.SendsMbps, 9), half.MostViewers));
        Assert.Equal(32, new OutsideLine(40, 16, 0, 2).HoursToCatchUp(70)!.Value, 9);
        Assert.Null(new OutsideLine(40, 16, 6, 2).HoursToCatchUp(70));
        Assert.Null(new OutsideLine(40, 16, 6, 0).MostViewers(70));
        Assert.Equal(0, new OutsideLine(10, 16, 6, 2).MostViewers(70));
        Assert.Null(RecordingForecast.Of(Store(), Channels()).Line);
    }

    /// <summary>What is told as the most fits, and more does not; what is sent limits rate and motion, too.</summary>
    [Fact]
    public void TheMostThatALineHoldsIsItsEdge()
    {
        var store = Store(1) with { IntakeMbps = null };
        for (var n = 0; n < 200; n++)
        {
            var line = Line(Between(20, 400), Between(1, 12), dice.Next(4), Between(0.2, 4));
            LineForecast At(RecordingTry tried) => RecordingForecast.Of(store, Channels(4), tried, line).Line!;
            var held = RecordingForecast.Of(store, Channels(4), null, line);
            var most = held.Line!.MostViewers!.Value;
            Assert.Equal(most > 0 || held.Line.SendsMbps <= held.Line.AllowedMbps, At(new(Viewers: most)).IsWithin);
            Assert.False(At(new(Viewers: most + 1)).IsWithin);
            if (!held.Line.IsWithin)
                continue;
            Assert.Equal(RecordingLimit.Line, held.Spare.MinBy(s => s.Share)!.Limit);
            Assert.True(At(new(MeanMbps: held.Most.MeanMbps * (1 - 1e-6))).IsWithin);
            Assert.False(At(new(MeanMbps: held.Most.MeanMbps * (1 + 1e-6))).IsWithin);
            if (held.Most.MotionPercent is > 0 and < 100 and var motion)
            {
                Assert.True(At(new(MotionPercent: motion * (1 - 1e-6))).IsWithin);
                Assert.False(At(new(MotionPercent: motion * (1 + 1e-6))).IsWithin);
            }
        }
    }

    [Fact]
    public void AnEstimateNearThePromiseIsTooCloseAndNothingRecordedIsNoVerdict()
    {
        var days = RecordingForecast.Of(Store(), Channels()).Retention.Days!.Value;
        Assert.Equal(Outcome.TooClose, RecordingForecast.Of(Store(days * 1.05), Channels(origin: RateOrigin.Estimated)).Outcome);
        Assert.Equal(Outcome.Out, RecordingForecast.Of(Store(days * 1.05), Channels()).Outcome);
        Assert.Equal(Outcome.Out, RecordingForecast.Of(Store(days * 1.2), Channels(origin: RateOrigin.Estimated)).Outcome);
        var none = RecordingForecast.Of(Store(), []);
        Assert.Null(none.Outcome);
        Assert.Null(none.Most.Days);
        // What has no rate of frames does not follow it, and nothing is promised of it.
        var mixed = RecordingForecast.Of(Store(), [.. Channels(2), Channel(3) with { FramesPerSecond = null }]);
        Assert.Null(mixed.Most.FramesPerSecond);
    }

    /// <summary>What nobody has said limits nothing, and is not told as if it did.</summary>
    [Fact]
    public void AnIntakeThatNobodyKnowsIsNoLimit()
    {
        var held = RecordingForecast.Of(Store() with { IntakeMbps = null }, Channels());
        Assert.Equal(RecordingLimit.Days, Assert.Single(held.Spare).Limit);
        Assert.Equal(18.06, held.Most.FramesPerSecond!.Value, 2);
        Assert.Empty(RecordingForecast.Of(Store() with { IntakeMbps = null }, []).Spare);
    }

    [Theory]
    [InlineData(ArrayLevel.Level5, 2, "store.few")]
    [InlineData(ArrayLevel.Level10, 5, "store.odd")]
    [InlineData(ArrayLevel.None, 1, null)]
    public void DisksThatHoldNothingSayWhy(ArrayLevel level, int disks, string? code) =>
        Assert.Equal(code, (Store() with { Level = level, Disks = disks }).Trouble()?.Code);

    // ---- on the Card

    private static CardRow Take(Facts facts, string check, ReadingValue value)
    {
        WholeWork.Take(facts, facts.Card.Rows.First(r => r.Check.Id.Value == check), value);
        return facts.Card.Rows.First(r => r.Check.Id.Value == check);
    }

    private static FormValue Says(params (string, object)[] said) => Crew.GoodAnswers.Line(said);

    [Theory]
    [InlineData("one-parity", 6, 12000, 1527, "recorder", 31, State.In, "store.holds")]
    [InlineData("two-parity", 6, 12000, 1527, "recorder", 31, State.Out, "store.short")]
    [InlineData("one-parity", 6, 12000, 1527, "estimate", 35, State.TooClose, "store.estimate")]
    [InlineData("one-parity", 6, 12000, 1527, "estimate", 30, State.In, "store.holds")]
    [InlineData("none", 1, 8000, 100, "recorder", 31, State.In, "store.no-redundancy")]
    [InlineData("one-parity", 2, 8000, 100, "recorder", 31, State.NotJudged, "store.few")]
    [InlineData("mirror-stripe", 5, 8000, 100, "recorder", 31, State.NotJudged, "store.odd")]
    [InlineData("one-parity", 6, 12000, 0, "recorder", 31, State.NotJudged, "store.nothing")]
    public void ARecorderSaysHowLongItHolds(
        string level,
        int disks,
        int disk,
        int written,
        string source,
        int days,
        State state,
        string code
    )
    {
        var facts = WholeWork.Job("recorder");
        Assert.True(facts.Card.Rows.Single(r => r.Check.Id.Value == "recorder.store").Required);
        var row = Take(
            facts,
            "recorder.store",
            Says(("level", level), ("disks", disks), ("disk", disk), ("written", written), ("source", source), ("days", days))
        );
        Assert.Equal(state, row.State);
        Assert.Contains(row.Because, b => b.Code == code);
    }

    [Theory]
    [InlineData(3600.4, "daylight-rule", "1 @clock.ahead 0.4")]
    [InlineData(-43201, "twelve-hours", "12 @clock.behind 1")]
    [InlineData(19800, "wrong-zone", "5.5 @clock.ahead 0")]
    [InlineData(172800, "wrong-date", "48 @clock.ahead 0")]
    [InlineData(-900000000, "clock-lost-date", "900000000")]
    [InlineData(41, "drifts-or-never-set", "41")]
    public void AClockThatIsOffSaysWhatItLooksLike(double offset, string cause, string said)
    {
        var facts = WholeWork.Job("bullet");
        var row = Take(facts, "time.offset", new NumberValue(offset, Unit.Second));
        Assert.Equal(State.Out, row.State);
        Assert.Equal(cause, Assert.Single(row.Causes).Id);
        Assert.Equal(said, string.Join(' ', row.Causes[0].Evidence.Args));
    }

    /// <summary>The largest stream counts; what was written in a day moves every rate; what is off or unknown is told and not
    /// reckoned.</summary>
    [Fact]
    public void ChannelsAreReckonedWithByWhatIsKnown()
    {
        Addressing.CameraStream[] two = [new("sub", "H264", 640, 360, 15, 400), new("main", "H264", 2560, 1440, 15, 4000)];
        ChannelRead[] read =
        [
            new(3, "CC-03", "Concourse", [], null, null, "always"),
            new(2, "CC-02", "Concourse", [], 2560, 1440, null),
            new(1, "CC-01", "Concourse", [.. two], null, null, "motion"),
            new(4, "CC-04", "Concourse", [.. two], null, null, "off"),
        ];
        var known = ChannelLoads.Of(read, null);
        Assert.Equal([(1, RateOrigin.Said), (2, RateOrigin.Estimated)], known.Channels.Select(c => (c.Channel, c.Origin)));
        Assert.Equal((4.0, 5.5296), (known.Channels[0].Stream.BitRateMbps, Math.Round(known.Channels[1].Stream.BitRateMbps, 4)));
        Assert.Equal("CC-03", Assert.Single(known.Unknown));
        Assert.Equal("CC-04", Assert.Single(known.NotRecorded));
        Assert.True(known.MotionAssumed);
        var written = ChannelLoads.Of(read, 54);
        Assert.Equal(54 * 8000 / 86400.0, written.Channels.Sum(c => c.Stream.MeanMbps), 9);
        Assert.All(written.Channels, c => Assert.Equal(RateOrigin.Recorded, c.Origin));
        // Of nothing a share is nothing.
        Assert.Empty(ChannelLoads.Of([], 54).Channels);
    }

    /// <summary>What a recorder says of a channel is reckoned with as it says it: its mean over the day, and the most when everything
    /// moves.</summary>
    [Fact]
    public void WhatWasReadOfAChannelIsItsMeanAndItsMost()
    {
        ChannelRead Channel(int n, RecordedWhen when, double? mean, double? peak) =>
            new(
                n,
                "VL-0" + n,
                "Lanes",
                [],
                2560,
                1440,
                "off",
                new(n, State: ChannelState.Live, When: when, MeanMbps: mean, PeakMbps: peak)
            );
        foreach (var when in (RecordedWhen[])[RecordedWhen.Motion, RecordedWhen.Schedule])
        {
            var load = ChannelLoads.Of([Channel(1, when, 3.2, 8)], null).Channels.Single();
            Assert.Equal(RateOrigin.Recorded, load.Origin);
            Assert.Equal(3.2, load.Stream.MeanMbps, 9);
            Assert.Equal(8, load.Stream.PeakMbps, 9);
        }
        Assert.Equal(3.2, ChannelLoads.Of([Channel(1, RecordedWhen.Always, 3.2, 8)], null).Channels.Single().Stream.MeanMbps, 9);
        // Read of all: one figure for all of them does not bend them.
        Assert.Equal(3.2, ChannelLoads.Of([Channel(1, RecordedWhen.Motion, 3.2, 8)], 5000).Channels.Single().Stream.MeanMbps, 9);
        Assert.False(ChannelLoads.Of([Channel(1, RecordedWhen.Motion, 3.2, 8)], null).MotionAssumed);
        // Not recorded by the recorder's word, whatever the Card says; and one that does not say both is reckoned as before.
        var card = Channel(2, RecordedWhen.Alarm, 0, 8) with
        {
            Mode = "always",
        };
        Assert.Equal(["VL-02"], ChannelLoads.Of([card], null).NotRecorded);
        var half = Channel(3, RecordedWhen.Motion, 3.2, null) with { Mode = "always" };
        Assert.Equal(RateOrigin.Estimated, ChannelLoads.Of([half], null).Channels.Single().Origin);
    }

    /// <summary>Those that are made are good, unlike those that are there, and none is made that has no room.</summary>
    [Fact]
    public void IdentifiersThatAreMadeAreGood()
    {
        var rule = new IdentifierRule(20, 11, new Dictionary<string, string> { ["131"] = "camera", ["118"] = "recorder" });
        var taken = new HashSet<string> { "34020000001310000001", "34020000001310000003" };
        var made = rule.Make("3402000000", "camera", 3, taken);
        Assert.Equal(["34020000001310000002", "34020000001310000004", "34020000001310000005"], made);
        var (rows, only) = rule.Check(
            [.. made.Select((m, i) => new EventIdentifier("C" + i, m, "camera"))],
            new Dictionary<string, string?>
            {
                ["C0"] = made[0] + " ",
                ["C1"] = made[0],
                ["D9"] = null,
            }
        );
        Assert.Equal(
            [
                [],
                [IdentifierFinding.DiffersFromOtherSystem],
                [IdentifierFinding.NotInOtherSystem],
            ],
            rows.Select(r => r.ToArray())
        );
        Assert.Equal(["D9"], only);
        Assert.Throws<BadInputException>(() => rule.Make("3402", "camera", 1, taken));
        Assert.Throws<BadInputException>(() => rule.Make("3402000000", "switch", 1, taken));
        Assert.Throws<BadInputException>(() => (rule with { Length = 14 }).Make("3402000000", "camera", 10, taken));
        Assert.Throws<BadInputException>(() => (rule with { RoleStart = 19 }).Check([]));
        Assert.Throws<BadInputException>(() => (rule with { RoleCodes = new Dictionary<string, string>() }).Check([]));
    }

    [Fact]
    public void IdentifiersAreToldFindingByFinding()
    {
        var rule = new IdentifierRule(8, 3, new Dictionary<string, string> { ["11"] = "camera", ["22"] = "recorder" });
        IdentifierFinding[] Of(string? identifier, string? role = null) => [.. rule.Check([new("A", identifier, role)]).Rows[0]];
        Assert.Empty(Of(" 00110001 ", "camera"));
        Assert.Empty(Of("00110001"));
        Assert.Equal([IdentifierFinding.Missing], Of(null));
        Assert.Equal([IdentifierFinding.Missing], Of("  "));
        Assert.Equal([IdentifierFinding.NotDigits, IdentifierFinding.WrongLength], Of("0011000x1"));
        // Digits of another script are none here.
        Assert.Equal([IdentifierFinding.NotDigits], Of("0011000\u0661"));
        Assert.Equal([IdentifierFinding.UnknownRoleCode], Of("00330001", "camera"));
        Assert.Equal([IdentifierFinding.RoleCodeOfAnotherKind], Of("00220001", "camera"));
        Assert.Equal(
            [
                [IdentifierFinding.NotUnique],
                [IdentifierFinding.NotUnique],
            ],
            rule.Check([new("A", "00110001"), new("B", "00110001 ")]).Rows.Select(r => r.ToArray())
        );
    }
}

/// <summary>A card in a camera, through its row.</summary>
public sealed class CardInCameraTests
{
    private static (State State, string[] Codes) Of(string model, params (string Field, object Said)[] said)
    {
        var all = new Dictionary<string, object>
        {
            ["seat"] = "clicked",
            ["class"] = "u1",
            ["size"] = 128.0,
            ["rate"] = 6.0,
            ["on"] = "yes",
            ["clip"] = "yes",
        };
        foreach (var (field, value) in said)
            all[field] = value;
        var facts = new Facts().With(f =>
            f with
            {
                Place = f.Place with { Model = model, Features = ["card-slot"] },
                Practice = f.Practice with { Scope = WorkScope.Whole },
            }
        );
        var key = new CheckKey(new("recorder.card"), new Subject(SubjectKind.Place, facts.Now.Place.Id), Condition.Any);
        facts.Read(key, new FormValue([new([.. all.Select(f => new FieldSaid(f.Key, f.Value as double?, f.Value as string))])]));
        var row = facts.Card.Rows.Single(r => r.Key == key);
        Assert.True(row.Required);
        return (row.State, [.. row.Because.Select(b => b.Code)]);
    }

    [Fact]
    public void OneThatSuitsAndRecordsIsIn()
    {
        // 6 Mbit/s with twice the room are 1.5 MB/s; 128 GB hold 1.975 days.
        Assert.Equal(
            (State.In, "card.fast card.days card.wear-unsaid"),
            Of("Tarn D4Z") is var (state, codes) ? (state, string.Join(' ', codes)) : default
        );
        Assert.Equal("card.fast card.days card.worn", string.Join(' ', Of("Tarn D4Z", ("endurance", 60.0)).Codes));
        Assert.Contains("card.worn-soon", Of("Tarn D4Z", ("endurance", 20.0)).Codes);
    }

    [Theory]
    [InlineData("seat", "loose", "card.seat")]
    [InlineData("on", "no", "card.off")]
    [InlineData("clip", "no", "card.no-clip")]
    [InlineData("rate", 41.0, "card.slow")]
    [InlineData("size", 512.0, "card.too-large")]
    [InlineData("class", "c4", "card.class-asked")]
    [InlineData("usable", 60.0, "card.less")]
    [InlineData("lost", 0.5, "card.lost")]
    [InlineData("days", 7.0, "card.short")]
    public void EachThatDoesNotSuitIsSaid(string field, object said, string code)
    {
        var (state, codes) = Of("Tarn D4Z", (field, said));
        Assert.Equal((State.Out, code), (state, codes[0]));
    }

    [Fact]
    public void WhatNobodyHasSaidIsNotInOrder()
    {
        Assert.Equal(
            (State.NotJudged, "card.no-class"),
            Of("Tarn D4Z", ("class", "none")) is var (state, codes) ? (state, codes[0]) : default
        );
        // A model whose sheet says nothing of cards.
        Assert.Contains("card.model-unsaid", Of("Skerry B4").Codes.Concat(Of("Tarn D2").Codes).Concat(Of("Moor X2").Codes));
        // Part of the time is part of the wear, and of the days.
        Assert.DoesNotContain("card.short", Of("Tarn D4Z", ("days", 7.0), ("share", 20.0)).Codes);
    }
}
