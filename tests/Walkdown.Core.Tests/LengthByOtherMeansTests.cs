using Walkdown.Core.Acceptance;
using Walkdown.Core.Cabling;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Tests;

/// <summary>The conversions of the worked cases are those that the Card says things by: length from a delay, from a loop, and the
/// velocity between them.</summary>
public sealed class LengthByOtherMeansTests
{
    [Theory]
    [InlineData(420)]
    [InlineData(490)]
    public void AnUnexpectedDelaySaysWhichLengthItWouldBeRightFor(double ns)
    {
        var facts = new Facts().Healthy();
        facts.Read(Facts.Key("cable.delay", "1-2"), new NumberValue(ns, Unit.Nanosecond));
        var row = facts.Row("cable.delay", "1-2");
        var said = Assert.Single(row.Unexpected, m => m.Code == "unexpected.length");
        // 545.4 ns a 100 m (docs/calculations.md, A).
        var metres = ns / (534 + 36 / Math.Sqrt(10)) * 100;
        Assert.Equal(Message.Number(metres, 1) + " m", said.Args[0]);
        var velocity = CableLength.VelocityFromKnownLength(metres, ns, roundTrip: false);
        Assert.True(velocity.Plausible);
        Assert.Equal(metres, CableLength.FromDelayMetres(velocity.Percent, ns, roundTrip: false), 6);
    }

    [Fact]
    public void ADelayOfNoRunAtAllIsExplainedByNoLength()
    {
        var facts = new Facts().Healthy();
        facts.Read(Facts.Key("cable.delay", "1-2"), new NumberValue(9000, Unit.Nanosecond));
        Assert.DoesNotContain(facts.Row("cable.delay", "1-2").Unexpected, m => m.Code == "unexpected.length");
        Assert.Contains(facts.Row("cable.delay", "1-2").Unexpected, m => m.Code == "unexpected.nothing-alone");
    }

    [Fact]
    public void AWrongVelocityIsToldByTheLengthThatTheLoopGives()
    {
        var facts = new Facts().Healthy();
        // 60 m by its loop; a tester set too fast shows 75.
        facts.Read(Facts.Key("cable.length"), new NumberValue(75, Unit.Metre));
        var cause = Assert.Single(facts.Row("cable.length").Causes, c => c.Evidence.Code == "evidence.velocity");
        var byLoop = Conductor.LengthFromLoopMetres(10.1, 24, 20, ConductorMaterial.SolidCopper);
        Assert.InRange(byLoop, 55, 65);
        Assert.Equal([Message.Number(75, 1), Message.Number(byLoop, 1)], cause.Evidence.Args.Take(2));
    }
}
