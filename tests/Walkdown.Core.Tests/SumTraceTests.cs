using System.Globalization;
using CsCheck;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Handover;
using Walkdown.Core.Measures;
using Walkdown.Core.Power;
using static Walkdown.Core.Tests.Facts;

namespace Walkdown.Core.Tests;

/// <summary>The numbers of the first and last pages: what a trace names must add up to what is printed.</summary>
public sealed class SumTraceTests
{
    private static PortLoad Port(
        int number,
        string label,
        int powerClass,
        double? planned,
        double? measured,
        PortPriority priority = PortPriority.Low
    ) => new(Guid.NewGuid(), number, Guid.NewGuid(), label, powerClass, planned, measured, priority, false, true, true);

    [Fact]
    public void ABudgetSaysWhatIsKeptBackWhatEachPortTakesAndWhereThatComesFrom()
    {
        var budget = SiteBudget.Of(
            60,
            10,
            null,
            [Port(1, "GT-01", 3, 8.8, 7.4), Port(2, "GT-02", 4, 15.1, null, PortPriority.Critical), Port(3, "GT-03", 4, null, null)]
        );
        var sum = SumTrace.Budget("K1", 60, 10, budget);
        Assert.Equal(new Message("sum.source.usable", "60", "10", "54"), sum.Steps[0].What);
        var asked = sum.Steps[1];
        Assert.Equal(new Message("sum.source.asked", "3", "52.5"), asked.What);
        // In the order in which they are granted, each with its origin: planned, measured, and assumed where only the class is known.
        Assert.Equal(["2 GT-02 15.1 W", "1 GT-01 7.4 W", "3 GT-03 30 W"], asked.From.Select(t => t.Value));
        Assert.Equal([Origin.Planned, Origin.Measured, Origin.Assumed], asked.From.Select(t => t.Origin));
        Assert.Equal(new Message("sum.source.left", "54", "52.5", "1.5"), sum.Steps[2].What);
        Assert.Equal(new Message("sum.left", "1.5", "W"), sum.Value);
        Assert.Equal("sum.source.all-fed", sum.Steps[3].What.Code);

        // A planned draw may be off by a fifth; what was read is as it was read, and a class is the most that can be.
        var wide = SumTrace.Budget("K1", 60, 10, budget, 20);
        Assert.Equal(["3\u00a0W", null, null], wide.Steps[1].From.Select(t => t.PlusMinus));
        Assert.Equal(new Message("sum.source.between", "20", "49.5", "55.5"), wide.Steps[2].What);
    }

    [Fact]
    public void WhoGetsNothingIsNamedAndWhatNobodyKnowsIsSaid()
    {
        var ports = new[] { Port(1, "A", 4, 20, null), Port(2, "B", 4, 20, null) };
        var over = SumTrace.Budget("K2", 30, 0, SiteBudget.Of(30, 0, null, ports));
        Assert.Equal(new Message("sum.source.whole", "30"), over.Steps[0].What);
        Assert.Single(over.Steps[0].From);
        Assert.Equal(new Message("sum.source.dropped", "2"), over.Steps[^1].What);
        Assert.Equal(new Message("sum.left", "-10", "W"), over.Value);
        var unknown = SumTrace.Budget("K3", null, 0, SiteBudget.Of(null, 0, null, ports));
        Assert.Equal("sum.source.unknown", unknown.Steps[0].What.Code);
        Assert.Equal(new Message("sum.asked", "40", "W"), unknown.Value);
        Assert.DoesNotContain(unknown.Steps, s => s.What.Code is "sum.source.left" or "sum.source.all-fed" or "sum.source.dropped");
    }

    [Fact]
    public void WhatThePortsTakeAddsUpToWhatIsAskedWhateverTheSite() =>
        Gen.Select(Gen.Int[0, 8], Gen.Double[0.5, 60], Gen.Bool, Gen.Int[0, 2])
            .List[1, 24]
            .Sample(rows =>
            {
                var ports = rows.Select(
                        (r, i) =>
                            Port(
                                i + 1,
                                $"P{i}",
                                r.Item1,
                                Math.Round(r.Item2, 1),
                                r.Item3 ? Math.Round(r.Item2 / 2, 1) : null,
                                (PortPriority)r.Item4
                            )
                    )
                    .ToList();
                var sum = SumTrace.Budget("K", 100, 0, SiteBudget.Of(100, 0, null, ports));
                var asked = sum.Steps.Single(s => s.Kind == TraceKind.Sum);
                Assert.Equal(ports.Count, asked.From.Length);
                var added = asked.From.Sum(t => double.Parse(t.Value.Split(' ')[2], CultureInfo.InvariantCulture));
                Assert.Equal(double.Parse(asked.What.Args[1], CultureInfo.InvariantCulture), added, 0.051 * ports.Count);
            });

    [Fact]
    public void ASupplySaysAmpereAndTheVoltsThatReachEachDevice()
    {
        var supply = new SupplyFacts(
            Guid.NewGuid(),
            "S-1",
            SupplyRange.V12Dc,
            new(12.5, Origin.Planned),
            0,
            5,
            null,
            null,
            new(18),
            20,
            [
                new SupplyTap(Guid.NewGuid(), "CC-10", "camera.fixed", "", 12, 6, 9),
                new SupplyTap(Guid.NewGuid(), "CC-11", "camera.fixed", "", 20, 6, 9),
            ]
        );
        var run = SupplyRun.Of(supply, Shipped, null);
        var sum = SumTrace.Budget("S-1", supply, run, 0.8);
        Assert.Equal(new Message("sum.supply.usable", "5", "0.8", "4"), sum.Steps[0].What);
        Assert.Equal($"CC-10 9 W / {Message.Number(run.Volts[0])} V", sum.Steps[1].From[0].Value);
        Assert.Equal(new Message("sum.left", Message.Number(4 - run.SupplyAmperes!.Value), "A"), sum.Value);
        Assert.Equal("sum.supply.in", sum.Steps[^1].What.Code);
        Assert.NotNull(sum.Steps[^1].Edition);
        // Too long for its load: there is nothing to add up, and that is what it says.
        var far = supply with
        {
            Taps = [supply.Taps[0] with { Metres = 4000 }],
        };
        Assert.Contains(
            SumTrace.Budget("S-1", far, SupplyRun.Of(far, Shipped, null), 0.8).Steps,
            s => s.What.Code == "sum.supply.unsolved"
        );
    }

    [Fact]
    public void EveryCardIsInOneVerdictButForWhatWasTakenOffTheJob()
    {
        var sums = SumTrace
            .Counts([
                new("A", Verdict.Accepted, 0, 2),
                new("B", Verdict.Refused, 2, 0),
                new("C", Verdict.Open, 0, 0),
                new("D", Verdict.Refused, 1, 1, Cancelled: true),
            ])
            .ToDictionary(s => s.Of);
        Assert.Equal(new Message("sum.cards", "1", "3", "@verdict.refused"), sums["cards-refused"].Steps[0].What);
        Assert.Equal(["B"], sums["cards-refused"].Steps[0].From.Select(t => t.Value));
        Assert.Equal(new Message("sum.count", "0"), sums["cards-acceptedWithNote"].Value);
        Assert.Equal(["B 2", "D 1"], sums["faults"].Steps[0].From.Select(t => t.Value));
        Assert.Equal(new Message("sum.pictures", "3", "2"), sums["pictures"].Steps[0].What);
    }

    [Fact]
    public void SharesAreOfTheReadingsThatStand()
    {
        var honesty = new Honesty(8, 2, 6, 0, 0, 3, 0, 0, 0, []);
        Assert.Equal([("readings-tester", "75"), ("readings-typed", "25")], SumTrace.Shares(honesty).Select(s => (s.Of, s.Value.Args[0])));
        Assert.Equal(new Message("sum.readings", "11", "3", "8"), SumTrace.Readings(11, 3, [("Ina Solberg", 11)]).Steps[0].What);
        Assert.Equal(0, SumTrace.Percent(0, 0));
    }
}
