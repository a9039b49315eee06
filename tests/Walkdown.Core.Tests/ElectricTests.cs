using System.Collections.Immutable;
using CsCheck;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Cabling;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Links;
using Walkdown.Core.Measures;
using Walkdown.Core.Power;
using Walkdown.Core.Results;

namespace Walkdown.Core.Tests;

/// <summary>Properties of supplies, paths, budgets and links; single numbers are held by the worked cases.</summary>
public sealed class ElectricTests
{
    private static readonly Gen<LowVoltage.Tap> Tap = Gen.Select(
        Gen.Double[0, 40],
        Gen.Bool,
        Gen.Double[0.05, 1],
        (m, power, v) => new LowVoltage.Tap(m, new(power ? LoadKind.ConstantPower : LoadKind.ConstantCurrent, power ? v * 8 : v * 0.6))
    );
    private static readonly LowVoltage.Wire Wire = new(AreaMm2: 1.5);

    [Fact]
    public void EveryDeviceOnASupplySeesTheDropOfAllThatFlowsPastIt() =>
        Tap.Array[1, 5]
            .Sample(taps =>
            {
                var run = LowVoltage.Along(12, Wire, 20, taps);
                if (!run.Solved)
                    return;
                Assert.Equal(run.Amperes.Sum(), run.SupplyAmperes, 9);
                var perMetre = Wire.LoopOhmsPerMetre(20);
                for (var i = 0; i < taps.Length; i++)
                {
                    // Second route: superpose the drop of each load over the stretch it shares with device i.
                    var drop = taps.Select((t, j) => run.Amperes[j] * perMetre * Math.Min(t.Metres, taps[i].Metres)).Sum();
                    Assert.Equal(12 - drop, run.Volts[i], 6);
                    var load = taps[i].Load;
                    Assert.Equal(load.Kind == LoadKind.ConstantCurrent ? load.Value : load.Value / run.Volts[i], run.Amperes[i], 6);
                }
            });

    [Fact]
    public void OneTapIsTheSingleRun() =>
        Gen.Select(Gen.Double[0.1, 80], Gen.Double[0.1, 9])
            .Sample(
                (metres, watts) =>
                {
                    var alone = LowVoltage.Single(12, metres, Wire, 20, new(LoadKind.ConstantPower, watts));
                    var along = LowVoltage.Along(12, Wire, 20, [new(metres, new(LoadKind.ConstantPower, watts))]);
                    return alone.Volts is null ? !along.Solved : along.Solved && Math.Abs(alone.Volts.Value - along.Volts[0]) < 1e-6;
                }
            );

    [Fact]
    public void AWattWithAFactorOfOneIsTheSameOnBothKindsOfSupply() =>
        Gen.Select(Gen.Double[1, 60], Gen.Double[0.5, 20])
            .Sample(
                (metres, watts) =>
                {
                    var direct = LowVoltage.Single(24, metres, Wire, 20, new(LoadKind.ConstantPower, watts), 1, SupplyRange.V24Dc);
                    var alternating = LowVoltage.Single(24, metres, Wire, 20, new(LoadKind.ConstantPower, watts), 1, SupplyRange.V24Ac);
                    return direct.Volts is null
                        ? alternating.Volts is null
                        : Math.Abs(direct.Volts.Value - alternating.Volts!.Value) < 1e-9;
                }
            );

    [Fact]
    public void TheLongestRunLeavesTheDeviceItsLeast() =>
        Gen.Select(Gen.Double[0.05, 2], Gen.Bool)
            .Sample(
                (load, power) =>
                {
                    var what = new LowVoltage.Load(power ? LoadKind.ConstantPower : LoadKind.ConstantCurrent, power ? load * 10 : load);
                    var metres = LowVoltage.LongestMetres(12, 10.8, Wire, 20, what);
                    return Math.Abs(LowVoltage.Single(12, metres, Wire, 20, what).Volts!.Value - 10.8) < 1e-6;
                }
            );

    [Fact]
    public void ALadderEndsAtTheDeviceAndItsSharesAreTheWhole() =>
        Gen.Select(Gen.Double[1, 60], Gen.Double[0, 10], Gen.Double[0, 1], Gen.Double[1, 25])
            .Sample(
                (cable, cord, contact, watts) =>
                {
                    var path = new RunPath([
                        new(PieceKind.Cord, cord + 0.1, 26),
                        new(PieceKind.Panel, ContactOhms: contact),
                        new(PieceKind.Cable, cable, 24),
                        new(PieceKind.Cord, 1, 24),
                    ]);
                    var ladder = PowerPath.Along(path, 54, watts, 25, 2, 4);
                    if (!ladder.Run.Solved)
                        return;
                    Assert.Equal(ladder.Run.Volts!.Value, ladder.Rungs[^1].Volts!.Value, 9);
                    Assert.Equal(1, ladder.Rungs.Sum(r => r.Share), 9);
                    Assert.Equal(path.Metres, ladder.Rungs[^1].ToMetres, 9);
                    Assert.True(ladder.Rungs.Zip(ladder.Rungs.Skip(1)).All(p => p.First.Volts >= p.Second.Volts));
                }
            );

    [Fact]
    public void ATrialIsHeldAgainstTheLimitsInForce()
    {
        var own = new CatalogueFile
        {
            Overrides = true,
            Limits =
            [
                new()
                {
                    Id = "length.channel",
                    Max = 60,
                    Unit = Unit.Metre,
                    Source = "company rule",
                    Purpose = "old trays",
                },
                new()
                {
                    Id = "supply.v12Dc",
                    Min = 11.5,
                    Max = 13,
                    Unit = Unit.Volt,
                    Source = "sheet",
                    Purpose = "device",
                },
            ],
        };
        var catalogue = Catalogue
            .Read([.. Catalogue.Shipped, ("own.json", System.Text.Json.JsonSerializer.Serialize(own, Catalogue.Json))], Facts.Texts)
            .Catalogue!;
        var run = new RunTrialInput(
            RunPath.Of(70, 24, ConductorMaterial.SolidCopper, 0, 24),
            20,
            false,
            LinkConfiguration.Channel,
            54,
            4,
            9,
            18
        );
        Assert.Equal((true, false), (RunTrial.Of(run, Facts.Shipped).LengthInLimit, RunTrial.Of(run, catalogue).LengthInLimit));
        var supply = new SupplyFacts(
            Guid.NewGuid(),
            "S-2",
            SupplyRange.V12Dc,
            new(12, Origin.Planned),
            0,
            5,
            null,
            null,
            Wire,
            20,
            [new(Guid.NewGuid(), "CC-10", "dome-fixed", "", 35, 5, 9)]
        );
        Assert.Equal(
            (0, 1),
            (SupplyRun.Of(supply, Facts.Shipped, null).OutOfRange.Length, SupplyRun.Of(supply, catalogue, null).OutOfRange.Length)
        );
        Assert.False(
            SupplyRun
                .Of(
                    supply with
                    {
                        Taps = [supply.Taps[0] with { Kind = "recorder", WattsInfraredOff = null, WattsInfraredOn = null }],
                    },
                    catalogue,
                    null
                )
                .Solved
        );
    }

    [Fact]
    public void ASplitterAsksMoreOfTheRunThanItsDevice()
    {
        var path = new RunPath([new(PieceKind.Cable, 60, 24), new(PieceKind.Splitter, EfficiencyPercent: 80)]);
        Assert.Equal(10, PowerPath.Along(path, 54, 8, 20, 2).DeviceWattsAtRun, 9);
    }

    [Fact]
    public void APathScaledToAMeasuredLoopHasThatLoop() =>
        Gen.Select(Gen.Double[5, 90], Gen.Double[5, 90])
            .Sample(
                (drawn, measured) =>
                    Math.Abs(
                        RunPath.Of(drawn, 24, ConductorMaterial.SolidCopper, 4, 26).WithTotalMetres(measured + 4).Metres - (measured + 4)
                    ) < 1e-9
            );

    [Fact]
    public void APathThatCannotBeIsToldPieceByPiece()
    {
        var problems = new RunPath([
            new(PieceKind.Cable, 0, 24),
            new(PieceKind.Splitter),
            new(PieceKind.Panel, 3),
            new(PieceKind.Cord, 2, 60),
        ]).Problems();
        Assert.Equal(
            [(0, "path.length"), (1, "path.efficiency"), (1, "path.splitter-last"), (2, "path.no-length"), (3, "path.gauge")],
            problems.Select(p => (p.Piece, p.What.Code))
        );
        Assert.Contains(new RunPath([]).Problems(), p => p.What.Code == "path.count");
    }

    [Fact]
    public void ABudgetNeverGivesMoreThanItHas() =>
        Gen.Select(Gen.Double[0, 400], Gen.Int[0, 8].Array[0, 24])
            .Sample(
                (budget, classes) =>
                {
                    var ports = classes
                        .Select(
                            (c, i) =>
                                new PortLoad(
                                    Guid.NewGuid(),
                                    i + 1,
                                    Guid.NewGuid(),
                                    $"P{i}",
                                    c,
                                    5,
                                    i % 3 == 0 ? 6 : null,
                                    (PortPriority)(i % 3),
                                    false,
                                    true,
                                    true
                                )
                        )
                        .ToList();
                    var site = SiteBudget.Of(budget, 10, null, ports);
                    var granted = ports
                        .Where(p => !site.ByClass.Refused.Contains(p.Number))
                        .Sum(p => PoeClass.Of(p.PowerClass!.Value).SourceWatts);
                    return granted <= budget * 0.9 + 1e-9
                        && site.ByClass.Refused.Length <= ports.Count
                        && site.Measured == (ports.Count + 2) / 3;
                }
            );

    /// <summary>Whatever hangs where, a camera that is tried takes a free port, and adds to the demand exactly what it is.</summary>
    [Fact]
    public void ACameraThatIsTriedTakesAFreePortAndNoOther() =>
        Gen.Select(Gen.Bool.Array[0, 12], Gen.Select(Gen.Int[0, 8], Gen.Double[0, 60]).Array[0, 6])
            .Sample(
                (taken, tried) =>
                {
                    var ports = taken
                        .Select(
                            (isTaken, i) =>
                                new PortLoad(
                                    Guid.NewGuid(),
                                    i + 1,
                                    isTaken ? Guid.NewGuid() : null,
                                    isTaken ? $"P{i}" : "",
                                    3,
                                    5,
                                    null,
                                    PortPriority.Low,
                                    false,
                                    isTaken,
                                    isTaken
                                )
                        )
                        .ToList();
                    var more = SiteBudget.More(ports, tried.Select(t => new MoreCamera(t.Item1, t.Item2)));
                    var free = Enumerable.Range(1, 99).Where(n => n > taken.Length || !taken[n - 1]).Take(tried.Length);
                    var all = ports.Where(p => more.All(m => m.Number != p.Number)).Concat(more).ToList();
                    var added =
                        SiteBudget.Of(null, 0, null, all).ByDraw.DemandWatts - SiteBudget.Of(null, 0, null, ports).ByDraw.DemandWatts;
                    return more.Select(m => m.Number).SequenceEqual(free) && Math.Abs(added - tried.Sum(t => t.Item2)) < 1e-6;
                }
            );

    [Fact]
    public void ADaytimeDrawIsNoWorstCase()
    {
        Assert.Null(SiteBudget.Heaviest([(Condition.InfraredOff, 9.4)]));
        Assert.Equal(17.2, SiteBudget.Heaviest([(Condition.InfraredOff, 19), (Condition.InfraredOn, 17.2), (Condition.HeaterOn, 15)]));
        Assert.Equal(7.1, SiteBudget.Heaviest([(Condition.Any, 7.1)]));
    }

    [Fact]
    public void WhatHangsWrongOnASwitchIsFound()
    {
        var site = SiteBudget.Of(
            100,
            0,
            30,
            [
                new(Guid.NewGuid(), 1, Guid.NewGuid(), "CC-01", 4, 18, null, PortPriority.Low, true, true, true),
                new(Guid.NewGuid(), 2, Guid.NewGuid(), "CC-02", null, 5, null, PortPriority.Low, false, true, true),
                new(Guid.NewGuid(), 3, Guid.NewGuid(), "CC-03", 6, 41, null, PortPriority.Critical, false, true, true),
                new(Guid.NewGuid(), 4, Guid.NewGuid(), "CC-04", 3, 9, 16.2, PortPriority.Low, false, true, true),
                new(Guid.NewGuid(), 5, Guid.NewGuid(), "R-1", null, null, null, PortPriority.Low, true, false, false),
            ]
        );
        Assert.Equal(
            [(1, "budget.camera-on-uplink"), (2, "budget.no-class"), (3, "budget.port-limit"), (4, "budget.over-class")],
            site.Findings.Select(f => (f.Port, f.What.Code))
        );
        Assert.Equal((4, 1, 4), (site.Powered, site.Measured, site.FirstToDrop));
    }

    [Fact]
    public void TheProbesAskedForDecideAndOneLessDoesNot() =>
        Gen.Select(Gen.Int[0, 20], Gen.Double[0.1, 5])
            .Sample(
                (lost, limit) =>
                {
                    if (ProbeLoss.ToPass(lost, limit) is not { } enough)
                        return true;
                    return ProbeLoss.Judge(enough, enough - lost, limit).Verdict == LossVerdict.Pass
                        && (enough <= lost + 1 || ProbeLoss.Judge(enough - 1, enough - 1 - lost, limit).Verdict != LossVerdict.Pass);
                }
            );

    [Fact]
    public void ACounterThatWrapsIsFollowedAndOneThatWasResetIsNot()
    {
        Assert.Equal(200, InterfaceErrors.Between(new(4294967196, 0), new(100, 0), 60).Packets);
        Assert.Equal(CounterVerdict.CounterResetReadAgain, InterfaceErrors.Between(new(3_000_000_000, 5), new(100, 5), 60).Verdict);
        Assert.Equal(CounterVerdict.NoTraffic, InterfaceErrors.Between(new(7, 7), new(7, 7), 60).Verdict);
        Assert.Throws<BadInputException>(() => InterfaceErrors.Between(new(4294967296, 0), new(5, 0), 60));
    }

    [Theory]
    [InlineData("Length (m)", "length", "", "any", "m")]
    [InlineData("Loop 1-2 [ohm]", "loop-resistance", "1-2", "any", "ohm")]
    [InlineData("DC loop pair 36", "loop-resistance", "3-6", "any", "")]
    [InlineData("PoE volts IR on", "poe-volts", "", "infraredOn", "")]
    [InlineData("volts, day (V)", "poe-volts", "", "infraredOff", "V")]
    [InlineData("cable length ft", "length", "", "any", "ft")]
    [InlineData("WIREMAP", "wire-map", "", "any", "")]
    [InlineData("remarks", null, "", "any", "")]
    public void HeadingsOfResultsAreRead(string heading, string? function, string part, string under, string unit)
    {
        var column = ResultColumn.Read(heading);
        Assert.Equal(function, column?.Function);
        if (column is not null)
            Assert.Equal((part, under, unit), (column.Part, Codes.Of(column.Under), column.UnitText));
    }

    [Theory]
    [InlineData("12345678", 8)]
    [InlineData("1 2 3 6 5 4 7 8", 8)]
    [InlineData("1234-67-", 6)]
    [InlineData("1,2,3,x,x,6,x,x", 4)]
    [InlineData("1234567", null)]
    [InlineData("12345679", null)]
    public void MapsAreReadFromText(string text, int? landing) =>
        Assert.Equal(landing, ResultColumn.MapOf(text)?.Count(far => !far.IsEmpty));

    [Theory]
    [InlineData("61,3", "m", 61.3)]
    [InlineData("201.1", "ft", 61.295)]
    [InlineData("61.3 m", "ft", 61.3)]
    [InlineData("0.0613", "km", 61.3)]
    public void UnitsOfAnyHabitComeOutInMetres(string text, string unit, double metres)
    {
        var (value, refused) = ResultValue.Read(
            Facts.Shipped.CheckById[new CheckId("cable.length")],
            new(1, "CC-07", "length", "", Condition.Any, text, unit, null, "", "", null, null)
        );
        Assert.Null(refused);
        Assert.Equal(metres, ((NumberValue)value!).Value, 3);
    }

    [Theory]
    [InlineData("3.4.1", "3.4.1", 0)]
    [InlineData("V3.10", "3.9", 1)]
    [InlineData("3.4", "3.4.1", -1)]
    [InlineData("build 20260301", "20260228", 1)]
    [InlineData("unknown", "3.4", null)]
    public void VersionsAreComparedNumberByNumber(string found, string baseline, int? order) =>
        Assert.Equal(order, FirmwareVersion.Compare(found, baseline) is { } o ? Math.Sign(o) : null);

    [Fact]
    public void WhatFeedsComesUpBeforeWhatIsFedInWhateverOrderItWasEntered() =>
        Gen.Int[0, 7]
            .Array[8]
            .Sample(up =>
            {
                Guid[] ids = [.. Enumerable.Range(0, 8).Select(_ => Guid.NewGuid())];
                // Each cabinet hangs on one of lower number; the first is the head end.
                StartCabinet[] cabinets =
                [
                    .. ids.Select((id, i) => new StartCabinet(id, $"K{i}", i == 0 ? null : ids[up[i] % i])).OrderBy(c => c.Id),
                ];
                StartDevice[] cameras = [.. ids.Select((id, i) => new StartDevice(Guid.NewGuid(), $"C-{i}", "dome-fixed", "", id, null))];
                var stages = StartOrder.Of(cabinets, cameras, switchFirst: false, Facts.Shipped);
                var order = stages.Select(s => s.Cabinet).ToList();
                Assert.Equal(8, order.Count);
                foreach (var cabinet in cabinets)
                    if (cabinet.FedFrom is { } from)
                        Assert.True(order.IndexOf(cabinets.Single(c => c.Id == from).Label) < order.IndexOf(cabinet.Label));
            });

    [Fact]
    public void TheSchoolSaysWhetherTheRecorderIsFirstAndTooEarlyIsWaitWhileLateIsAFault()
    {
        var cabinet = Guid.NewGuid();
        StartDevice[] devices =
        [
            new(Guid.NewGuid(), "R-1", "recorder", "Holdfast 32", cabinet, 20),
            new(Guid.NewGuid(), "C-1", "dome-fixed", "", cabinet, 400),
            new(Guid.NewGuid(), "C-2", "dome-fixed", "", null, 70),
        ];
        StartCabinet[] cabinets = [new(cabinet, "K1", null)];
        var recorder = StartOrder.Of(cabinets, devices, switchFirst: false, Facts.Shipped);
        Assert.Equal([StartStageKind.Recorders, StartStageKind.Cabinet, StartStageKind.Cameras], recorder.Select(s => s.Kind));
        Assert.Equal(
            [StartTiming.TooEarly, StartTiming.TooLate, StartTiming.InTime],
            recorder.SelectMany(s => s.Devices).Select(d => d.Timing)
        );
        Assert.Equal((60, 300), (recorder[0].WaitLeastSeconds, recorder[0].WaitMostSeconds));
        Assert.Equal(
            [StartStageKind.Cabinet, StartStageKind.Recorders, StartStageKind.Cameras],
            StartOrder.Of(cabinets, devices, switchFirst: true, Facts.Shipped).Select(s => s.Kind)
        );
    }

    [Fact]
    public void AnInjectorIsAskedForWhatPassesItAndASplitterForWhatTheDeviceTakes()
    {
        var path = new RunPath([
            new(PieceKind.Injector, RatedWatts: 15),
            new(PieceKind.Cable, 80, 24, ConductorMaterial.SolidCopper),
            new(PieceKind.Splitter, EfficiencyPercent: 85, RatedWatts: 12),
        ]);
        var trial = RunTrial.Of(new RunTrialInput(path, 20, false, LinkConfiguration.PermanentLink, 54, 4, 11.9, 12.9), Facts.Shipped);
        Assert.Empty(trial.States[0].Findings);
        // 12.9 W behind 85 % are 15.2 W at the splitter and more at the injector.
        Assert.Equal(["path.overloaded", "path.overloaded"], trial.States[1].Findings.Select(f => f.Code));
        Assert.Equal("12.9", trial.States[1].Findings[1].Args[1]);
    }

    [Fact]
    public void ABudgetSaysToEachPortWhetherItIsKeptDroppedOrTheFirstToGo()
    {
        static PortLoad Load(int n, double watts, PortPriority priority) =>
            new(Guid.NewGuid(), n, Guid.NewGuid(), $"C-{n}", 4, watts, null, priority, false, true, true);
        PortLoad[] ports = [Load(1, 20, PortPriority.High), Load(2, 20, PortPriority.Low), Load(3, 20, PortPriority.Low)];
        var tight = SiteBudget.Of(45, 0, null, ports);
        Assert.Equal([State.TooClose, State.TooClose, State.Out], ports.Select(p => SiteBudget.StandingOf(tight, p.Number).State));
        var wide = SiteBudget.Of(120, 0, null, ports);
        Assert.Equal(
            ["budget.fits", "budget.fits", "budget.fits-and-first"],
            ports.Select(p => SiteBudget.StandingOf(wide, p.Number).Why.Code)
        );
        Assert.Equal(State.NotTaken, SiteBudget.StandingOf(SiteBudget.Of(null, 0, null, ports), 1).State);
    }
}
