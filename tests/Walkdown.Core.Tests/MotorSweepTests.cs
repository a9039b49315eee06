using Walkdown.Core.Focusing;

namespace Walkdown.Core.Tests;

/// <summary>The motor of a lens is driven to its sharpest: whatever its figures are, with play in its gears and with noise.</summary>
public sealed class MotorSweepTests
{
    /// <summary>A lens whose motor drives a ring with play: the ring comes after it only once the play is through.</summary>
    private sealed class Lens(MotorTravel travel, double sharpest, double wide, double play = 0, double noise = 0, int seed = 1)
    {
        private readonly Random _random = new(seed);
        private double _ring = (travel.Least + travel.Most) / 2;

        public int Drives { get; private set; }

        public double Ring => _ring;

        public void Drive(double to)
        {
            Assert.InRange(to, travel.Least, travel.Most);
            Drives++;
            _ring = Math.Clamp(_ring, to - play / 2, to + play / 2);
        }

        /// <summary>Energy of slopes falls with the square of the blur.</summary>
        public double Detail =>
            100 / (1 + (_ring - sharpest) * (_ring - sharpest) / (wide * wide)) * (1 + noise * (2 * _random.NextDouble() - 1));
    }

    private static MotorLook Sweep(MotorTravel travel, Lens lens, Func<int, double>? more = null)
    {
        var sweep = new MotorSweep(travel);
        var looks = 0;
        while (sweep.Next is { } place)
        {
            lens.Drive(place);
            Assert.True(lens.Drives < 90);
            sweep.At(sweep.IsLook ? lens.Detail + (more?.Invoke(looks++) ?? 0) : null);
            Assert.True(sweep.Look.Planned >= sweep.Look.Steps.Length);
        }
        return sweep.Look;
    }

    public static TheoryData<double, double> Travels =>
        new()
        {
            { 0, 1 },
            { -1, 1 },
            { 0, 255 },
            { 120, 4800 },
        };

    [Theory]
    [MemberData(nameof(Travels))]
    public void ItIsLeftAtItsSharpest(double least, double most)
    {
        var travel = new MotorTravel(least, most);
        for (var seed = 0; seed < 60; seed++)
        {
            var random = new Random(seed);
            var span = most - least;
            // Anywhere but at its very ends, plainly or hardly softer beside it, with play up to a fiftieth.
            var (sharpest, wide) = (least + span * (0.05 + 0.9 * random.NextDouble()), span * (0.02 + 0.1 * random.NextDouble()));
            var lens = new Lens(travel, sharpest, wide, span * 0.02 * random.NextDouble(), 0.01, seed);
            var look = Sweep(travel, lens);
            Assert.True(look is { Phase: MotorPhase.Done, Why: null }, $"{seed}: {look.Phase} {look.Why?.Code}");
            // Within a fifth of the depth in which it loses a half: four parts in a hundred of its sharpness.
            Assert.True(Math.Abs(lens.Ring - sharpest) < 0.2 * wide, $"{seed}: {(lens.Ring - sharpest) / wide}");
            Assert.True(look.OfBest >= 0.94);
            Assert.Equal(look.Planned, look.Steps.Length);
            Assert.InRange(lens.Drives, 20, 75);
        }
    }

    [Fact]
    public void WhatHasNoTopIsSaidAndNotDrivenOn()
    {
        var travel = new MotorTravel(0, 1);
        var flat = Sweep(travel, new Lens(travel, 0.5, 40));
        Assert.Equal((MotorPhase.Failed, "motor.flat"), (flat.Phase, flat.Why!.Code));
        Assert.Null(flat.Top);
        // Nothing to be seen at all: black, or a cap on it.
        var sweep = new MotorSweep(travel);
        while (sweep.Next is not null)
            sweep.At(null);
        Assert.Equal("motor.flat", sweep.Look.Why!.Code);
    }

    [Theory]
    [InlineData(-0.3)]
    [InlineData(1.3)]
    public void AtItsEndItIsLeftThereAndThatIsSaid(double sharpest)
    {
        var travel = new MotorTravel(0, 1);
        var lens = new Lens(travel, sharpest, 0.2);
        var look = Sweep(travel, lens);
        Assert.Equal((MotorPhase.Failed, "motor.at-end"), (look.Phase, look.Why!.Code));
        Assert.Equal(Math.Clamp(sharpest, 0, 1), lens.Ring);
    }

    /// <summary>A lorry goes by and its lettering is sharper than anything: what is not there when it comes back was none.</summary>
    [Fact]
    public void WhatWentByIsNoTop()
    {
        var travel = new MotorTravel(0, 1);
        for (var at = 0; at < 24; at++)
        {
            var lens = new Lens(travel, 0.62, 0.06);
            var look = Sweep(travel, lens, i => i == at ? 400 : 0);
            if (look.Phase == MotorPhase.Done)
                Assert.True(Math.Abs(lens.Ring - 0.62) < 0.03, $"{at}: {lens.Ring}");
            else
                Assert.Equal("motor.not-there", look.Why!.Code);
        }
    }

    [Fact]
    public void WhatIsStoppedSaysWhy()
    {
        var sweep = new MotorSweep(new(0, 1));
        sweep.At(3);
        sweep.Fail(new("motor.stopped"));
        Assert.Null(sweep.Next);
        Assert.False(sweep.IsLook);
        Assert.Equal((MotorPhase.Failed, "motor.stopped", 1), (sweep.Look.Phase, sweep.Look.Why!.Code, sweep.Look.Steps.Length));
    }

    [Theory]
    [InlineData(0, 1, true)]
    [InlineData(1, 1, false)]
    [InlineData(1, 0, false)]
    [InlineData(double.NaN, 1, false)]
    [InlineData(0, double.PositiveInfinity, false)]
    [InlineData(-1e308, 1e308, false)]
    public void ATravelHasTwoEnds(double least, double most, bool isSound) => Assert.Equal(isSound, new MotorTravel(least, most).IsSound);
}
