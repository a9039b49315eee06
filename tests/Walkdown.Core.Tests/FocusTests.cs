using CsCheck;
using Walkdown.Core.Aiming;
using Walkdown.Core.Focusing;
using Walkdown.Core.Pictures;

namespace Walkdown.Core.Tests;

/// <summary>What pictures say while a ring is turned: never "stop" before the sharpest was passed on both sides, and nothing where there is
/// nothing to tell.</summary>
public sealed class FocusTests
{
    private const int Wide = 320,
        High = 180;

    private static readonly PictureShare Middle = new(0.5, 0.5);

    /// <summary>A yard of edges, blurred by so many pixels, with noise that a seed repeats.</summary>
    /// <param name="blur">Deviation, pixels; by place where a lens is not even.</param>
    private static GreyRaster Yard(Func<double, double, double> blur, int seed, double noise = 1.5, double light = 1)
    {
        var random = new Random(seed);
        var levels = new byte[Wide * High];
        for (var y = 0; y < High; y++)
        for (var x = 0; x < Wide; x++)
        {
            // Bars of a grating that is blurred keep their shape and lose their depth.
            var sigma = blur((double)x / Wide, (double)y / High);
            var level = 120.0;
            foreach (var (fx, fy, deep) in new[] { (0.9, 0.2, 40.0), (0.25, 0.7, 30.0), (0.08, -0.05, 25.0) })
                level += deep * Math.Exp(-(fx * fx + fy * fy) * sigma * sigma / 2) * Math.Sin(fx * x + fy * y + 0.3 * Math.Sin(y / 17.0));
            var off = noise * (random.NextDouble() + random.NextDouble() + random.NextDouble() + random.NextDouble() - 2) * 1.732;
            levels[y * Wide + x] = (byte)Math.Clamp(Math.Round(light * level + off), 0, 255);
        }
        return new(Wide, High, levels);
    }

    private static GreyRaster Ring(double position, int seed, double noise = 1.5) => Yard((_, _) => 0.4 + Math.Abs(position), seed, noise);

    private static List<FocusLook> Turn(FocusRun run, params double[] positions) => [.. positions.Select((p, i) => run.Next(Ring(p, i)))];

    [Fact]
    public void StopIsSaidOnlyOnceTheTopWasPassedOnBothSidesAndOnlyThere()
    {
        var looks = Turn(new(Middle), -1.2, -0.9, -0.6, -0.3, 0, 0, 0.3, 0.6, 0.9, 0.6, 0.3, 0.02, 0);
        Assert.DoesNotContain(looks.Take(11), l => l.State == FocusState.Stop);
        Assert.Equal([FocusState.Better, FocusState.Better], looks.Skip(2).Take(2).Select(l => l.State));
        Assert.False(looks[5].IsTopKnown);
        Assert.Equal(FocusState.Worse, looks[8].State);
        Assert.True(looks[8].IsTopKnown);
        Assert.Equal(FocusState.Better, looks[10].State);
        Assert.Equal(FocusState.Stop, looks[12].State);
        Assert.Equal(1, looks[12].OfBest!.Value, 0.04);
    }

    [Fact]
    public void TheWrongWayFirstIsSaidSo()
    {
        var looks = Turn(new(Middle), -0.6, -0.8, -1.1, -1.3, -1.0, -0.6, -0.2);
        Assert.Equal(FocusState.Worse, looks[3].State);
        Assert.Equal(FocusState.Better, looks[5].State);
        Assert.False(looks[^1].IsTopKnown);
    }

    /// <summary>A hand that does what is said and nothing else, at once: it must not be sent back and forth over a top that it never
    /// learns.</summary>
    [Fact]
    public void WhoDoesWhatIsSaidComesToStop() =>
        (from start in Gen.Double[-1.6, 1.6] from way in Gen.Bool from seed in Gen.Int[0, 10_000] select (start, way, seed)).Sample(
            s =>
            {
                var (run, at, way, by, seed) = (new FocusRun(Middle), s.start, s.way ? 1 : -1, 0.4, s.seed);
                for (var turns = 0; turns < 60; turns++)
                {
                    var look = run.Next(Ring(at, seed++));
                    // Several pictures come while a hand rests.
                    look = run.Next(Ring(at, seed++));
                    if (look.State == FocusState.Stop)
                        return;
                    if (look.State == FocusState.Worse)
                        (way, by) = (-way, Math.Max(0.1, by * 0.8));
                    at = Math.Clamp(at + way * by, -3, 3);
                }
                Assert.Fail($"never stopped from {s.start}, at {at}");
            },
            iter: 12
        );

    [Fact]
    public void WhoTurnsNothingIsToldToTurnHoweverLongHeWaits()
    {
        var run = new FocusRun(Middle);
        for (var i = 0; i < 60; i++)
            Assert.Equal(FocusState.Turn, run.Next(Ring(0, i)).State);
    }

    [Fact]
    public void AnySweepEndsInStopWithinTheStepOfItsTop() =>
        (from top in Gen.Double[-1, 1] from step in Gen.Double[0.08, 0.3] from seed in Gen.Int[0, 10_000] select (top, step, seed)).Sample(
            s =>
            {
                var run = new FocusRun(Middle);
                FocusLook? look = null;
                var seed = s.seed;
                var at = -2.0;
                // As a hand would: over it, then back, in smaller steps.
                void Go(double to, double by)
                {
                    for (; Math.Sign(by) * (to - at) > 0 && look?.State != FocusState.Stop; at += by)
                        look = run.Next(Ring(at - s.top, seed++));
                }
                Go(2.2, s.step);
                Assert.NotEqual(FocusState.Stop, look!.State);
                Go(-2.2, -s.step / 2);
                Assert.Equal(FocusState.Stop, look.State);
                // Three hundredths of sharpness are lost by so much blur.
                Assert.True(Math.Abs(at + s.step / 2 - s.top) <= 0.35, $"stopped at {at}, top at {s.top}");
            },
            iter: 12
        );

    [Fact]
    public void SomethingThatGoesByIsNoTop()
    {
        var run = new FocusRun(Middle);
        Turn(run, -1.2, -0.9, -0.6);
        // One picture alone that is much sharper: a lorry with letters on it.
        run.Next(Ring(0, 77));
        var after = run.Next(Ring(-0.6, 78));
        Assert.False(after.IsTopKnown);
        Assert.True(after.OfBest > 0.9, after.ToString());
    }

    [Fact]
    public void WhatShowsNothingTellsNothing()
    {
        static GreyRaster Flat(Func<int, int, int> level)
        {
            var levels = new byte[Wide * High];
            for (var y = 0; y < High; y++)
            for (var x = 0; x < Wide; x++)
                levels[y * Wide + x] = (byte)level(x, y);
            return new(Wide, High, levels);
        }
        void Says(string code, GreyRaster picture)
        {
            var look = new FocusRun(Middle).Next(picture);
            Assert.Equal((FocusState.Look, code), (look.State, look.Why!.Code));
            Assert.Null(look.OfBest);
            Assert.Null(FocusRows.Says(look));
        }
        Says("aim.black", Flat((_, _) => 2));
        Says("aim.white", Flat((_, _) => 254));
        Says("aim.flat", Flat((_, _) => 90));
        // The target is a wall; around it there is enough.
        Says("focus.flat", Flat((x, y) => Math.Abs(x - Wide / 2) < 60 && Math.Abs(y - High / 2) < 40 ? 100 : 60 + 100 * (x / 5 % 2)));
        // Noise alone is no detail, however much of it.
        var random = new Random(3);
        Says("focus.flat", Flat((x, _) => (x < 30 ? 40 : 120) + random.Next(-14, 15)));
    }

    [Fact]
    public void LightIsNoSharpness()
    {
        var (bright, dim) = (FocusSpots.Of(Yard((_, _) => 0.5, 1), Middle), FocusSpots.Of(Yard((_, _) => 0.5, 2, light: 0.6), Middle));
        foreach (var (a, b) in bright.Zip(dim))
            Assert.Equal(FocusChange.Same, SpotChange.Of(a, b).Change);
        var noisy = FocusSpots.Of(Yard((_, _) => 0.5, 3, noise: 6), Middle);
        Assert.Equal(FocusChange.Same, SpotChange.Of(bright[0], noisy[0]).Change);
        Assert.True(noisy[0].Uncertainty > bright[0].Uncertainty);
    }

    [Fact]
    public void ACornerThatFallsIsNamedAndTheTargetIsNot()
    {
        var run = new FocusRun(Middle, Yard((_, _) => 0.5, 1));
        var look = run.Next(Yard((x, y) => x > 0.7 && y < 0.3 ? 1.6 : 0.5, 2));
        Assert.Equal(FocusChange.Softer, look.Spots.Single(s => s.Now.Spot == FocusSpot.TopRight).Change!.Change);
        Assert.All(look.Spots.Where(s => s.Now.Spot != FocusSpot.TopRight), s => Assert.Equal(FocusChange.Same, s.Change!.Change));
        Assert.Equal("corner", FocusRows.Says(look));
        Assert.Equal("soft", FocusRows.Says(run.Next(Ring(1.2, 3))));
        Assert.Equal("sharp", FocusRows.Says(run.Next(Ring(0.1, 4))));
        // Corners of sky tell nothing, and two are needed to say "to the corners".
        static GreyRaster Sky(GreyRaster yard, double from)
        {
            var levels = yard.Levels.ToArray();
            for (var y = 0; y < High; y++)
            for (var x = 0; x < Wide; x++)
                if (y < from * High && (x < Wide / 4 || x > 3 * Wide / 4))
                    levels[y * Wide + x] = 160;
            return new(Wide, High, levels);
        }
        FocusLook Under(double from) => new FocusRun(Middle, Sky(Ring(0.1, 7), from)).Next(Sky(Ring(0.1, 6), from));
        Assert.Equal("sharp", FocusRows.Says(Under(0.4)));
        Assert.Null(FocusRows.Says(Under(1)));
        // What is gone altogether is no less soft.
        Assert.Equal("corner", FocusRows.Says(run.Next(Sky(Ring(0.1, 6), 0.4))));
        // Alone, without a top and without anything earlier, it is nothing.
        Assert.Null(FocusRows.Says(new FocusRun(Middle).Next(Ring(0, 5))));
    }

    [Theory]
    [InlineData(0.8, 0)]
    [InlineData(1.4, 0)]
    [InlineData(1.0, 3)]
    [InlineData(2.2, 2)]
    public void AnEdgeIsFoundBesideTheTargetAndMeasured(double sigma, double noise)
    {
        var random = new Random(5);
        var levels = new byte[400 * 300];
        for (var y = 0; y < 300; y++)
        for (var x = 0; x < 400; x++)
        {
            var across = (x - 215 - (y - 150) * Math.Tan(6 * Math.PI / 180)) * Math.Cos(6 * Math.PI / 180);
            // An edge under a bell is the bell's sum.
            var share = 0.5 * (1 + Math.Tanh(across / sigma * 0.7978845608 * (1 + 0.044715 * across * across / (sigma * sigma))));
            var off = noise * (random.NextDouble() + random.NextDouble() + random.NextDouble() + random.NextDouble() - 2) * 1.732;
            levels[y * 400 + x] = (byte)Math.Clamp(Math.Round(60 + 120 * share + off), 0, 255);
        }
        var edge = EdgeNear.Of(new(400, 300, levels), new(150, 90, 120, 120));
        Assert.NotNull(edge);
        var truth = 0.1874 / sigma;
        Assert.Equal(truth, edge.Mtf50, (noise > 0 ? 0.1 : 0.05) * truth);
        Assert.Equal(6, edge.AngleDeg, 0.5);
        Assert.True(Math.Abs(edge.Mtf50 - truth) <= 2 * edge.Uncertainty);
        // A picture of nothing, and one of a grating, have none.
        Assert.Null(EdgeNear.Of(Yard((_, _) => 0.4, 1), new(100, 40, 120, 100)));
    }

    [Fact]
    public void AnotherSizeBeginsAnew()
    {
        var run = new FocusRun(Middle);
        Assert.True(Turn(run, -1.2, -0.6, 0, 0, 0.6, 1.2)[^1].IsTopKnown);
        var other = run.Next(Ring(0, 9).Sized(240, 135));
        Assert.Equal((FocusState.Turn, false, 1), (other.State, other.IsTopKnown, other.Trace.Length));
        Assert.Equal("focus.too-small", run.Next(Ring(0, 9).Sized(120, 68)).Why!.Code);
    }

    [Fact]
    public void NoSizeOfPictureIsTooOddToLookForAnEdge()
    {
        var random = new Random(8);
        for (var side = 90; side < 400; side += 7)
        {
            var levels = new byte[2 * side * side];
            for (var i = 0; i < levels.Length; i++)
                levels[i] = (byte)((i % (2 * side) - side + i / (2 * side) / 9 > 0 ? 180 : 60) + random.Next(0, 3));
            Assert.NotNull(new FocusRun(Middle).Next(new(2 * side, side, levels)));
        }
    }

    [Fact]
    public void VeryLongAtItTheTopIsStillKnown()
    {
        var run = new FocusRun(Middle);
        var tops = Turn(run, -1.2, -0.6, 0, 0, 0.6, 1.2);
        Assert.True(tops[^1].IsTopKnown);
        var one = Ring(0.6, 9);
        FocusLook? look = null;
        for (var i = 0; i < 4200; i++)
            look = run.Next(one);
        Assert.True(look!.IsTopKnown);
        Assert.Equal(90, look.Trace.Length);
    }
}
