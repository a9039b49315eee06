using System.Collections.Immutable;
using System.Security.Cryptography;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Entries;
using Walkdown.Core.Measures;
using Walkdown.Core.Plates;

namespace Walkdown.Core.Tests;

/// <summary>Test drives before plate readers: made here with what happened to each pass, and found again from the list alone.</summary>
public sealed class PlateDriveTests
{
    private static readonly string[] Own = ["46TH1207", "46TH883", "TH46KLM"];

    /// <summary>A drive, and the list that a reader made of it.</summary>
    private sealed record Made(ImmutableArray<PlateMoment> Passes, ImmutableArray<PlateMoment> Lines, PassOutcome[] Planted, int Doubles);

    /// <summary>Somebody drives, the reader errs as it is told, keeps its rule, and its clock is off. No pass comes near the end of its
    /// time.
    /// </summary>
    private static Made Drive(
        int seed,
        int passes,
        double interval,
        RepeatRule rule,
        double ahead,
        double missed = 0.04,
        double misread = 0.04,
        double hidden = 0.1,
        double others = 0.5,
        double late = 0.8
    )
    {
        var random = new Random(seed);
        double Noise() => (random.NextDouble() + random.NextDouble() + random.NextDouble() - 1.5) * late;
        var (driven, lines, planted) = (new List<PlateMoment>(), new List<PlateMoment>(), new PassOutcome[passes]);
        var (doubles, now) = (0, 40_000.0);
        var (seen, written) = (new double?[Own.Length], new double?[Own.Length]);
        for (var i = 0; i < passes; i++)
        {
            var v = random.Next(Own.Length);
            now += 12 + 25 * random.NextDouble();
            double? Since() => now - (rule == RepeatRule.SinceLastSeen ? seen[v] : written[v]);
            // Most wait until the rule lets them be written down again; some come on purpose too soon.
            if (Since() is { } gap && gap < interval * 1.15 + 5)
            {
                if (random.NextDouble() < hidden && gap < interval * 0.85 - 5)
                    planted[i] = PassOutcome.Hidden;
                else
                    now += interval * 1.15 + 5 - gap;
            }
            driven.Add(new(Own[v], now + Noise()));
            if (planted[i] == PassOutcome.Hidden)
            {
                seen[v] = now;
                continue;
            }
            var luck = random.NextDouble();
            if (luck < missed)
                planted[i] = PassOutcome.Missed;
            else if (luck < missed + misread)
            {
                planted[i] = PassOutcome.Misread;
                lines.Add(new(Wrong(Own[v], random), now + ahead));
            }
            else
            {
                (seen[v], written[v]) = (now, now);
                lines.Add(new(Own[v], now + ahead));
                if (random.NextDouble() < 0.02 && interval < 5)
                {
                    doubles++;
                    lines.Add(new(Own[v], now + ahead + 5 + 3 * random.NextDouble()));
                }
            }
            if (random.NextDouble() < others)
                lines.Add(new(null, now + ahead + 30 * (random.NextDouble() - 0.5)));
        }
        return new([.. driven], [.. lines], planted, doubles);
    }

    private static string Wrong(string plate, Random random)
    {
        var at = random.Next(plate.Length);
        return random.Next(3) switch
        {
            0 => plate.Remove(at, 1),
            1 => plate.Insert(at, "I"),
            _ => plate[..at] + (plate[at] == '8' ? 'B' : '8') + plate[(at + 1)..],
        };
    }

    [Theory]
    [InlineData(1, 60, RepeatRule.SinceLastRecord, 3.2)]
    [InlineData(2, 60, RepeatRule.SinceLastSeen, -41.0)]
    [InlineData(3, 30, RepeatRule.SinceLastRecord, 3604.5)]
    [InlineData(4, 120, RepeatRule.SinceLastSeen, -7201.0)]
    [InlineData(5, 0, RepeatRule.SinceLastRecord, 0)]
    public void AThousandPassesAreFoundAgainAsTheyWereMade(int seed, double interval, RepeatRule rule, double ahead)
    {
        var made = Drive(seed, 1000, interval, rule, ahead);
        var match = PlateMatch.Of(made.Passes, made.Lines, interval, rule);
        Assert.InRange(match.Clock!.AheadSeconds, ahead - 0.5, ahead + 0.5);
        Assert.True(match.Clock.IsSure);
        Assert.Null(match.Found);
        for (var i = 0; i < 1000; i++)
            Assert.True(made.Planted[i] == match.Passes[i].Outcome, $"pass {i}: {made.Planted[i]}, found {match.Passes[i].Outcome}");
        Assert.Equal(made.Doubles, match.Lines.Count(l => l == LineFate.Double));
        Assert.Equal(made.Lines.Count(l => l.Plate is null), match.Lines.Count(l => l == LineFate.Other));
        Assert.DoesNotContain(LineFate.Unticked, match.Lines);
    }

    [Fact]
    public void ALongerTimeThanWasSaidIsFoundAndBlamedNotTheReader()
    {
        // The reader is said to wait 10 s; it waits 90 s, and many come after a minute.
        var made = Drive(7, 200, 90, RepeatRule.SinceLastRecord, 2, missed: 0, misread: 0, hidden: 0.6);
        Assert.True(made.Planted.Count(p => p == PassOutcome.Hidden) > 20);
        var match = PlateMatch.Of(made.Passes, made.Lines, 10, RepeatRule.SinceLastRecord);
        Assert.NotNull(match.Found);
        Assert.InRange(90, match.Found.FromSeconds - 15, match.Found.ToSeconds + 15);
        Assert.DoesNotContain(match.Passes, p => p.Outcome == PassOutcome.Missed);
    }

    [Fact]
    public void AReaderThatFailsIsNotExcusedByALongTime()
    {
        // One of ten is read: a time that is long enough would hide all that it missed.
        var made = Drive(11, 80, 30, RepeatRule.SinceLastRecord, 0, missed: 0.45, misread: 0.45);
        var match = PlateMatch.Of(made.Passes, made.Lines, 30, null);
        Assert.Null(match.Found);
        Assert.Equal(made.Planted.Count(p => p == PassOutcome.Missed), match.Passes.Count(p => p.Outcome == PassOutcome.Missed));
        // One that read the first pass of each, and then no more, may have a time of any length, or be broken: both are told.
        ImmutableArray<PlateMoment> passes = [.. Enumerable.Range(0, 20).Select(i => new PlateMoment(Own[i % 2], 50 * i + i % 3))];
        var stopped = PlateMatch.Of(passes, [passes[0], passes[1]], 30, null).Found;
        Assert.True(stopped is { IsOpen: true, FromSeconds: < 130 });
    }

    [Fact]
    public void EarlyPassesTellWhatTheTimeIsCountedFrom()
    {
        foreach (var rule in Enum.GetValues<RepeatRule>())
        {
            var design = Design() with { Rule = null, IntervalSeconds = 200, TurnSeconds = 40 };
            var plan = DrivePlan.Of(design, 95);
            var passes = new List<PlateMoment>();
            var at = 0.0;
            foreach (var pass in plan.Passes)
                passes.Add(new(PlateText.Folded(design.Vehicles.First(v => v.Name == pass.Vehicle).Plate), at += pass.GapSeconds));
            var written = RepeatRecords.Of([.. passes.Select(p => new PlatePass(p.Plate!, p.AtSeconds))], 200, rule).Recorded;
            ImmutableArray<PlateMoment> lines = [.. written.Select(i => passes[i])];
            var match = PlateMatch.Of([.. passes], lines, 200, null);
            Assert.Equal(rule, match.Rule.Rule);
            Assert.Equal(0, match.Against);
            // Of the passes that count none is lost to the rule but those that were to find it.
            Assert.Equal(plan.Counted, plan.Passes.Count(p => !p.FindsRule));
            Assert.All(
                Enumerable.Range(0, plan.Passes.Length).Where(i => !plan.Passes[i].FindsRule),
                i => Assert.Equal(PassOutcome.Read, match.Passes[i].Outcome)
            );
        }
    }

    [Fact]
    public void EvenSpacingIsNoReasonToBeSure()
    {
        // Every 60 s to the second, and the first half was not written down: one place further fits as well.
        ImmutableArray<PlateMoment> passes = [.. Enumerable.Range(0, 10).Select(i => new PlateMoment("AB1", 60 * i))];
        ImmutableArray<PlateMoment> lines = [.. Enumerable.Range(0, 9).Select(i => new PlateMoment("AB1", 60 * i + 3.0))];
        Assert.False(PlateMatch.Of(passes, lines, 0, null).Clock!.IsSure);
        // With the clock measured there is one that fits.
        var known = PlateMatch.Of(passes, lines, 0, null, knownSeconds: 3);
        Assert.True(known.Clock!.IsSure);
        Assert.Equal(PassOutcome.Missed, known.Passes[9].Outcome);
        Assert.Equal(PassOutcome.Missed, PlateMatch.Of(passes, lines, 0, null, knownSeconds: -57).Passes[0].Outcome);
    }

    [Fact]
    public void AListOfNothingButOneOwnPlateEndsInTime()
    {
        // As long as lists may be, all of one plate: a vehicle that stands before the camera all day, and 800 passes of it.
        ImmutableArray<PlateMoment> passes = [.. Enumerable.Range(0, 800).Select(i => new PlateMoment("AB12", 97 * i + i % 5))];
        ImmutableArray<PlateMoment> lines = [.. Enumerable.Range(0, 5_000).Select(i => new PlateMoment("AB12", 17.3 * i))];
        var match = PlateMatch.Of(passes, lines, 30, null);
        Assert.False(match.Clock!.IsSure);
        Assert.Equal(800, match.Passes.Length);
    }

    [Fact]
    public void AListThatHasNothingOfOursSaysNothing()
    {
        ImmutableArray<PlateMoment> passes = [new("AB1", 0), new("AB1", 60)];
        Assert.All(PlateMatch.Of(passes, [], 0, null).Passes, p => Assert.Equal(PassOutcome.NoList, p.Outcome));
        Assert.All(PlateMatch.Of(passes, [new(null, 1)], 0, null).Passes, p => Assert.Equal(PassOutcome.NoList, p.Outcome));
        // Of a clock that was measured it says that nothing was read.
        Assert.All(PlateMatch.Of(passes, [], 0, null, knownSeconds: 2).Passes, p => Assert.Equal(PassOutcome.Missed, p.Outcome));
        // Two days off is another day's list, and nobody drove at all.
        Assert.Null(PlateMatch.Of(passes, [new("AB1", 200_000)], 0, null).Clock);
        Assert.Equal([LineFate.Unticked], PlateMatch.Of([], [new("AB1", 5)], 0, null, vehicles: ["AB1"]).Lines);
        Assert.Equal([LineFate.Other], PlateMatch.Of([], [new("AB1", 5)], 0, null).Lines);
        Assert.Throws<BadInputException>(() => PlateMatch.Of([new("AB1", double.NaN)], [], 0, null));
    }

    [Fact]
    public void WhoIsNearlyCalledSoIsSomebodyElse()
    {
        ImmutableArray<PlateMoment> passes = [.. Enumerable.Range(0, 6).Select(i => new PlateMoment("46TH1207", 200 * i + i * i))];
        // One letter off: ten seconds after a pass it is the same vehicle, half way between two passes it is another's plate.
        ImmutableArray<PlateMoment> lines = [.. passes, new("46TH1287", 210), new("46TH1287", 300), new("46TH1207", 700)];
        var match = PlateMatch.Of(passes, lines, 0, null);
        Assert.Equal([LineFate.Double, LineFate.Other, LineFate.Unticked], match.Lines[6..]);
        Assert.All(match.Passes, p => Assert.Equal(PassOutcome.Read, p.Outcome));
    }

    [Fact]
    public void WhatIsReadBesideAPassIsThatPassWhereNobodyElseDrives()
    {
        ImmutableArray<PlateMoment> passes = [.. Enumerable.Range(0, 6).Select(i => new PlateMoment("46TH1207", 50 * i + i * i))];
        var lines = passes.SetItem(3, new(null, passes[3].AtSeconds + 1)).Add(new(null, 25));
        Assert.Equal(PassOutcome.Missed, PlateMatch.Of(passes, lines, 0, null).Passes[3].Outcome);
        var alone = PlateMatch.Of(passes, lines, 0, null, isAlone: true);
        Assert.Equal(PassOutcome.Misread, alone.Passes[3].Outcome);
        Assert.Equal(LineFate.Other, alone.Lines[6]);
    }

    [Theory]
    [InlineData("46-TH 1207", "46TH1207")]
    [InlineData("АВ 123 СК", "AB123CK")]
    [InlineData("ΑΒΕ 4567", "ABE4567")]
    [InlineData("١٢٣ ABC", "123ABC")]
    [InlineData("ＡＢ１２", "AB12")]
    [InlineData("京A·12345", "京A12345")]
    [InlineData("\u202Eab12\u200F", "AB12")]
    [InlineData("\uD83D!?", "")]
    [InlineData(null, "")]
    public void APlateIsComparedByItsLettersAndDigits(string? plate, string folded) => Assert.Equal(folded, PlateText.Folded(plate));

    [Fact]
    public void SlipsSayWhatWasTakenForWhat()
    {
        Assert.Equal([new PlateSlip("B", "8", false)], PlateText.Slips("AB12", "A812"));
        Assert.Equal([new PlateSlip(null, "0", true)], PlateText.Slips("AB12", "0AB12"));
        Assert.Equal([new PlateSlip("2", null, true)], PlateText.Slips("AB12", "AB1"));
        var random = new Random(3);
        for (var i = 0; i < 300; i++)
        {
            var (own, read) = (Text(random), Text(random));
            Assert.Equal(PlateText.Distance(own, read), PlateText.Slips(own, read).Length);
            Assert.Equal(PlateText.Distance(own, read), PlateText.Distance(read, own));
        }

        static string Text(Random random) =>
            string.Concat(Enumerable.Range(0, random.Next(1, 8)).Select(_ => (char)('A' + random.Next(4))));
    }

    [Fact]
    public void OthersPlatesAreNeverKept()
    {
        var facts = Reader();
        DateTimeOffset At(int s) => Facts.Start.AddSeconds(s);
        Enter(facts, (id, at) => new PlateDriveRequest(id, Design(), Facts.Ina, at, 0), At(-60));
        for (var i = 0; i < 3; i++)
            Enter(facts, (id, at) => new PlatePassRequest(id, "A", Facts.Ina, at, 0), At(100 * i + i * i));
        (DateTimeOffset, string)[] lines =
        [
            (At(0), "46 TH 1207"),
            (At(101), "4GTH1207"),
            // Nearly an own plate where none passed is somebody's own.
            (At(160), "46-TH-1287"),
            (At(170), "191-D-12345"),
            (At(175), "191 D 12345"),
            (At(180), ""),
            (At(204), "46TH1207"),
        ];
        var record = new DriveRecord(facts.Now, Facts.Shipped);
        var kept = record.Kept(lines, RandomNumberGenerator.GetBytes(32), null);
        Assert.Equal(["46 TH 1207", "4GTH1207", null, null, null, null, "46TH1207"], kept.Select(k => k.Text));
        Assert.Equal(kept[3].Mark, kept[4].Mark);
        Assert.NotEqual(kept[2].Mark, kept[3].Mark);
        Assert.Null(kept[5].Mark);
        // Of the next list's secret the same plate is another mark.
        Assert.NotEqual(kept[3].Mark, record.Kept(lines, RandomNumberGenerator.GetBytes(32), null)[3].Mark);
        Enter(facts, (id, at) => new PlateListRequest(id, PlateListFrom.File, "x.csv", kept, Facts.Ina, at, 0), At(600));
        var trial = PlateTrial.Of(facts.Now, Facts.Shipped);
        Assert.Equal((4, 1), (trial.Lists[0].Others, trial.Lists[0].OthersAgain));
        Assert.Contains(new Message("drive.others-again.one", "1"), trial.Told);
        // One that comes from a phone later had its text taken for somebody else's: the list is to be had again.
        Enter(facts, (id, at) => new PlatePassRequest(id, "A", Facts.Ina, at, 0, SecondsBefore: 440), At(600));
        Assert.Contains(new Message("drive.after-list.one", "1"), PlateTrial.Of(facts.Now, Facts.Shipped).Told);
    }

    private static DriveDesign Design() =>
        new()
        {
            Vehicles = [new("A", "46-TH-1207"), new("B", "46-TH-883")],
            SpeedsKmh = [20, 40],
            Lanes = ["left", "right"],
            IntervalSeconds = 30,
            Rule = RepeatRule.SinceLastRecord,
        };

    [Fact]
    public void APlanHasEachSortAsOftenAndNoVehicleTooSoon()
    {
        var design = Design() with { BothWays = true, IntervalSeconds = 100 };
        var plan = DrivePlan.Of(design, 95);
        Assert.Equal((73, 59), (plan.Counted, plan.ByTable));
        foreach (var vehicle in design.Vehicles)
        {
            var at = 0.0;
            double? last = null;
            foreach (var pass in plan.Passes)
            {
                at += pass.GapSeconds;
                if (pass.Vehicle != vehicle.Name)
                    continue;
                Assert.True(pass.FindsRule || last is null || at - last > 100);
                last = at;
            }
        }
        // Sixteen sorts: the most often driven is driven once more than the least.
        var sorts = plan.Passes.Where(p => !p.FindsRule).CountBy(p => (p.Vehicle, p.Kmh, p.Lane, p.Way)).Select(c => c.Value).ToList();
        Assert.Equal(16, sorts.Count);
        Assert.InRange(sorts.Max() - sorts.Min(), 0, 1);
        Assert.Equal(110, DrivePlan.Of(design with { AllowedMisses = 1 }, 95).Counted);
        Assert.Equal(DrivePlan.Most, DrivePlan.Of(design, 99.5).Counted);
    }

    private static Facts Reader() => WholeWork.Job("number-plate");

    private static void Enter(Facts facts, Func<Guid, DateTimeOffset, EntryRequest> make, DateTimeOffset at)
    {
        var request = make(Guid.CreateVersion7(), at);
        var judged = JudgedCard.Of(facts.Now with { Now = at }, Facts.Shipped);
        var decision = request.Decide(new EntryContext(judged, facts.Now.Events.Length + 1, at, at));
        Assert.Null(decision.Refused);
        facts.With(f => f with { Events = f.Events.AddRange(decision.Events), Now = at });
    }

    [Fact]
    public void ADriveByDayAndByNightBecomesTheTwoRows()
    {
        var facts = Reader();
        var noon = new DateTimeOffset(2026, 10, 14, 12, 0, 0, TimeSpan.Zero);
        Enter(facts, (id, at) => new PlateDriveRequest(id, Design(), Facts.Ina, at, 0), noon);
        var lines = new List<(DateTimeOffset, string)>();
        foreach (var (start, wrong) in new[] { (noon, -1), (noon.AddHours(9), 4) })
            for (var i = 0; i < 10; i++)
            {
                var at = start.AddSeconds(40 * i + i % 3);
                Enter(facts, (id, t) => new PlatePassRequest(id, i % 2 == 0 ? "a" : "B", Facts.Ina, t, 0, Kmh: 20, Lane: "left"), at);
                lines.Add(
                    (
                        at.AddSeconds(5),
                        i == wrong ? "4G-TH-1207"
                        : i % 2 == 0 ? "46 TH 1207"
                        : "46TH883"
                    )
                );
            }
        lines.Add((noon.AddSeconds(17), "191-D-4411"));
        Enter(
            facts,
            (id, at) =>
                new PlateListRequest(
                    id,
                    PlateListFrom.Recorder,
                    "R-1",
                    new DriveRecord(facts.Now, Facts.Shipped).Kept(lines, new byte[32], null),
                    Facts.Ina,
                    at,
                    0
                ),
            noon.AddHours(10)
        );
        var trial = PlateTrial.Of(facts.Now, Facts.Shipped);
        Assert.Equal((10, 10, 10), (trial.Counts[0].Passes, trial.Counts[0].Counted, trial.Counts[0].Right));
        Assert.Equal((10, 9, 1), (trial.Counts[1].Counted, trial.Counts[1].Right, trial.Counts[1].Misread));
        Assert.Equal(63, trial.Counts[0].More);
        Assert.Equal([PlateTrial.Day, PlateTrial.Night], trial.Values.Select(v => v.Check));
        Assert.Equal(new PlateSlip("6", "G", false), Assert.Single(trial.Passes.SelectMany(p => p.Slips)));
        Assert.Contains(trial.Told, m => m.Code == "drive.clock-ahead");
        Assert.Equal(1, trial.Lists[0].Others);
        Assert.DoesNotContain(trial.Lines, l => l.Text is "191-D-4411");
        Assert.Equal("A", trial.Next!.Vehicle);
        foreach (var (check, value) in trial.Values)
        {
            var row = facts.Card.Rows.First(r => r.Check.Id == check);
            var preview = Card.Preview(facts.Now, Facts.Shipped, row.Key, value, row.Key.Under, null);
            Assert.Equal((State.TooClose, "trials.rate"), (preview.Attempt.State, preview.Attempt.Because[0].Code));
        }
    }

    [Fact]
    public void ASecondVisitAsksForItsOwnListAndKeepsWhatTheFirstSaid()
    {
        var facts = Reader();
        var noon = new DateTimeOffset(2026, 10, 14, 12, 0, 0, TimeSpan.Zero);
        Assert.Equal(facts.Now.Now.AddMinutes(-10), new DriveRecord(facts.Now, Facts.Shipped).ListSince);
        Enter(facts, (id, at) => new PlateDriveRequest(id, Design(), Facts.Ina, at, 0), noon);
        foreach (var start in new[] { noon, noon.AddHours(9) })
        {
            for (var i = 0; i < 4; i++)
                Enter(facts, (id, t) => new PlatePassRequest(id, "A", Facts.Ina, t, 0), start.AddSeconds(45 * i + i * i));
            Assert.Equal(start.AddMinutes(-10), new DriveRecord(facts.Now, Facts.Shipped).ListSince);
            // The second list begins with the second visit, by a clock that was set meanwhile.
            var ahead = start == noon ? 300 : 0;
            PlateLine[] lines =
            [
                .. Enumerable.Range(0, 3).Select(i => new PlateLine(start.AddSeconds(ahead + 45 * i + i * i), "46TH1207", null)),
            ];
            Enter(
                facts,
                (id, at) =>
                    new PlateListRequest(id, PlateListFrom.Recorder, "R-1", [.. lines], Facts.Ina, at, 0, Covers: start.AddMinutes(-10)),
                start.AddMinutes(20)
            );
        }
        var trial = PlateTrial.Of(facts.Now, Facts.Shipped);
        Assert.Equal(["Read", "Read", "Read", "Missed", "Read", "Read", "Read", "Missed"], trial.Passes.Select(p => p.Outcome.ToString()));
        Assert.Equal([0, 300], trial.Lists.Select(l => Math.Round(l.Clock!.AheadSeconds)));
    }

    [Fact]
    public void WhatWasDrivenBeforeTheReaderWasChangedNoLongerCounts()
    {
        var facts = Reader();
        Enter(facts, (id, at) => new PlateDriveRequest(id, Design() with { IntervalSeconds = 0 }, Facts.Ina, at, 0), Facts.Start);
        void Passes(int from) =>
            Enumerable
                .Range(0, 5)
                .ToList()
                .ForEach(i =>
                    Enter(facts, (id, t) => new PlatePassRequest(id, "A", Facts.Ina, t, 0), Facts.Start.AddSeconds(from + 50 * i + i * i))
                );
        // All that was read: two before, and all after its exposure was set.
        int[] read = [0, 51, 1000, 1051, 1104, 1159, 1216];
        (DateTimeOffset, string)[] lines = [.. read.Select(s => (Facts.Start.AddSeconds(s), "46TH1207"))];
        Passes(0);
        Assert.Equal(68, PlateTrial.Of(facts.Now, Facts.Shipped).Left);
        facts.With(f =>
            f with
            {
                Events = f.Events.Add(
                    new Act
                    {
                        Id = Guid.NewGuid(),
                        By = Facts.Ina,
                        At = Facts.Start.AddSeconds(900),
                        Sequence = f.Events.Length + 1,
                        ActKind = "setting-changed",
                        On = new Subject(SubjectKind.Place, f.Place.Id),
                    }
                ),
            }
        );
        Passes(1000);
        Enter(
            facts,
            (id, at) =>
                new PlateListRequest(
                    id,
                    PlateListFrom.Recorder,
                    "R-1",
                    new DriveRecord(facts.Now, Facts.Shipped).Kept(lines, new byte[32], 0),
                    Facts.Ina,
                    at,
                    0,
                    AheadSeconds: 0
                ),
            Facts.Start.AddHours(1)
        );
        var trial = PlateTrial.Of(facts.Now, Facts.Shipped);
        Assert.Equal(5, trial.Passes.Count(p => p.Outcome == PassOutcome.Read));
        Assert.Equal((5, 5, 0), (trial.Passes.Length, trial.Lists[0].Records, trial.Lists[0].Unticked));
        Assert.Contains(new Message("drive.outdated", "5"), trial.Told);
        Assert.Equal(5, Assert.Single(trial.Values).Value.Lines.Length);
        Assert.Equal(68, trial.Left);
    }

    [Fact]
    public void SoManyMoreAreWantedAsTheRateIsShort()
    {
        var facts = Reader();
        var noon = new DateTimeOffset(2026, 10, 14, 12, 0, 0, TimeSpan.Zero);
        Enter(facts, (id, at) => new PlateDriveRequest(id, Design() with { IntervalSeconds = 0 }, Facts.Ina, at, 0), noon);
        var lines = new List<(DateTimeOffset, string)>();
        for (var i = 0; i < 73; i++)
        {
            var at = noon.AddSeconds(50 * i + i % 5);
            Enter(facts, (id, t) => new PlatePassRequest(id, i % 2 == 0 ? "A" : "B", Facts.Ina, t, 0), at);
            if (i != 30)
                lines.Add((at, i % 2 == 0 ? "46TH1207" : "46TH883"));
        }
        var before = PlateTrial.Of(facts.Now, Facts.Shipped);
        Assert.Equal((0, null), (before.Left, before.Next));
        Enter(
            facts,
            (id, at) =>
                new PlateListRequest(
                    id,
                    PlateListFrom.File,
                    "x",
                    new DriveRecord(facts.Now, Facts.Shipped).Kept(lines, new byte[32], null),
                    Facts.Ina,
                    at,
                    0
                ),
            noon.AddHours(2)
        );
        // One was missed: 110 with one miss would show 95 %.
        var trial = PlateTrial.Of(facts.Now, Facts.Shipped);
        Assert.Equal(37, trial.Left);
        Assert.Equal("A", trial.Next!.Vehicle);
        Enter(facts, (id, t) => new PlatePassRequest(id, "A", Facts.Ina, t, 0), noon.AddHours(3));
        Assert.Equal(36, PlateTrial.Of(facts.Now, Facts.Shipped).Left);
    }

    [Fact]
    public void APassTakenBackWasNotDrivenAndALaterOneIsInNoList()
    {
        var facts = Reader();
        Enter(facts, (id, at) => new PlateDriveRequest(id, Design(), Facts.Ina, at, 0), Facts.Start);
        for (var i = 0; i < 3; i++)
            Enter(facts, (id, at) => new PlatePassRequest(id, "A", Facts.Ina, at, 0), Facts.Start.AddMinutes(i));
        var taken = facts.Now.Events[^1].Id;
        Enter(facts, (id, at) => new WithdrawalRequest(id, taken, "thumb", Facts.Ina, at, 0), Facts.Start.AddMinutes(4));
        Enter(
            facts,
            (id, at) =>
                new PlateListRequest(
                    id,
                    PlateListFrom.CameraPage,
                    "page",
                    [new(Facts.Start.AddSeconds(1), "46TH1207", null), new(Facts.Start.AddSeconds(61), "46TH1207", null)],
                    Facts.Ina,
                    at,
                    0
                ),
            Facts.Start.AddMinutes(5)
        );
        Enter(facts, (id, at) => new PlatePassRequest(id, "B", Facts.Ina, at, 0, SecondsBefore: 20), Facts.Start.AddMinutes(8));
        // A second person at the roadside ticked the same one off.
        Enter(facts, (id, at) => new PlatePassRequest(id, "B", Facts.Ina, at, 0, SecondsBefore: 22), Facts.Start.AddMinutes(8));
        var trial = PlateTrial.Of(facts.Now, Facts.Shipped);
        Assert.Equal([PassOutcome.Read, PassOutcome.Read, PassOutcome.NoList], trial.Passes.Select(p => p.Outcome));
        Assert.Equal(Facts.Start.AddMinutes(8).AddSeconds(-22), trial.Passes[2].At);
        Assert.Equal(
            ["drive.page-forgets", "drive.twice.one", "drive.after-list.one"],
            trial.Told.Select(t => t.Code).Where(c => c is "drive.page-forgets" or "drive.twice.one" or "drive.after-list.one")
        );
    }

    [Fact]
    public void WhatSomebodyTypesIsNeverAWordOfOurs()
    {
        var facts = Reader();
        var design = Design() with { Vehicles = [new("@drive.of.day", "46TH1207"), new("B", "46TH883")], Lanes = ["@left", "right"] };
        Enter(facts, (id, at) => new PlateDriveRequest(id, design, Facts.Ina, at, 0), Facts.Start);
        Enter(facts, (id, t) => new PlatePassRequest(id, "@drive.of.day", Facts.Ina, t, 0, Lane: "@left"), Facts.Start);
        Enter(facts, (id, t) => new PlatePassRequest(id, "B", Facts.Ina, t, 0, Lane: "right"), Facts.Start.AddMinutes(1));
        var said = PlateTrial.Of(facts.Now, Facts.Shipped).Counts.SelectMany(c => c.Of.Args).ToList();
        Assert.Contains("@@drive.of.day", said);
        Assert.Contains("@@left", said);
        Assert.DoesNotContain("@drive.of.day", said);
    }

    [Fact]
    public void ALetterTakenForAnotherAgainAndAgainIsTold()
    {
        var facts = Reader();
        Enter(
            facts,
            (id, at) => new PlateDriveRequest(id, Design() with { IsAlone = true, IntervalSeconds = 0 }, Facts.Ina, at, 0),
            Facts.Start
        );
        var lines = new List<(DateTimeOffset, string)>();
        for (var i = 0; i < 24; i++)
        {
            var at = Facts.Start.AddSeconds(45 * i + i * i % 7);
            Enter(facts, (id, t) => new PlatePassRequest(id, i % 2 == 0 ? "A" : "B", Facts.Ina, t, 0, Kmh: i % 2 == 0 ? 20 : 40), at);
            lines.Add(
                (
                    at,
                    i % 2 == 0 ? "46TH1207"
                    : i > 12 ? "46THBB3"
                    : "046TH883"
                )
            );
        }
        lines.Add((Facts.Start.AddSeconds(20), "FERRY FISH"));
        Enter(
            facts,
            (id, at) =>
                new PlateListRequest(
                    id,
                    PlateListFrom.File,
                    "x.csv",
                    new DriveRecord(facts.Now, Facts.Shipped).Kept(lines, new byte[32], null),
                    Facts.Ina,
                    at,
                    0
                ),
            Facts.Start.AddHours(1)
        );
        var told = PlateTrial.Of(facts.Now, Facts.Shipped).Told;
        Assert.Contains(new Message("drive.slips", "8 \u2192 B (12)"), told);
        Assert.Contains(told, t => t is { Code: "drive.emblem", Args: ["6"] });
        Assert.Contains(told, t => t.Code == "drive.no-plates.one");
        Assert.Contains(new Message("drive.worse.vehicle", "0", "12", "12", "12", "B"), told);
        Assert.Contains(new Message("drive.worse.speed", "0", "12", "12", "12", "40"), told);
    }

    public static TheoryData<DriveDesign, string> Careless =>
        new()
        {
            { Design() with { Vehicles = [] }, "vehicles" },
            { Design() with { Vehicles = default }, "vehicles" },
            { Design() with { Vehicles = [null!] }, "vehicles" },
            { Design() with { Vehicles = [new("A", "46TH1207"), new("a ", "46TH1208")] }, "vehicles" },
            { Design() with { Vehicles = [new("A", "46TH1207"), new("B", "46 th-1207")] }, "vehicles" },
            { Design() with { Vehicles = [new("A", "--")] }, "vehicles" },
            { Design() with { Vehicles = [new("A", new string('4', 17))] }, "vehicles" },
            { Design() with { SpeedsKmh = [] }, "speedsKmh" },
            { Design() with { SpeedsKmh = [double.NaN] }, "speed" },
            { Design() with { Lanes = [""] }, "lanes" },
            { Design() with { IntervalSeconds = double.PositiveInfinity }, "intervalSeconds" },
            { Design() with { TurnSeconds = 0 }, "turnSeconds" },
            { Design() with { AllowedMisses = 11 }, "allowedMisses" },
            { Design() with { Rule = (RepeatRule)7 }, "rule" },
        };

    [Theory]
    [MemberData(nameof(Careless))]
    public void ACarelessDriveIsRefusedByName(DriveDesign design, string field) => Assert.Equal(field, design.Refuse()?.Field);

    [Theory]
    [InlineData("speed", 30, State.In, "plates.width")]
    [InlineData("speed", 120, State.Out, "plates.blur")]
    [InlineData("exposure", 10, State.Out, "plates.blur")]
    [InlineData("aside", 6, State.Out, "plates.angle-high")]
    [InlineData("field", 90, State.Out, "plates.small")]
    [InlineData("zone", 0.5, State.Out, "plates.few-frames")]
    public void TheLaneIsJudgedByWhatAPlateIsInThePicture(string field, double says, State state, string first)
    {
        var facts = Reader();
        var sheet = Walkdown.Crew.GoodAnswers.Sheets["plates.geometry"].Select(f => f.Field == field ? (field, (object)says) : f);
        WholeWork.Take(
            facts,
            facts.Card.Rows.First(r => r.Check.Id.Value == "plates.geometry"),
            Walkdown.Crew.GoodAnswers.Line([.. sheet])
        );
        var row = facts.Card.Rows.First(r => r.Check.Id.Value == "plates.geometry");
        Assert.Equal((state, first), (row.State, row.Because[0].Code));
        Assert.Equal(4, row.Because.Count(b => b.Code.StartsWith("plates.", StringComparison.Ordinal)));
    }
}
