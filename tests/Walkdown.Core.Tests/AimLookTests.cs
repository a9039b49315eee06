using CsCheck;
using Walkdown.Core.Aiming;
using Walkdown.Core.Pictures;

namespace Walkdown.Core.Tests;

/// <summary>What a picture says to whoever turns: steps, "stop" that does not flicker, and nothing where there is nothing to tell. How
/// far off it is measured is tried on rendered places beside the stand-ins.</summary>
public sealed class AimLookTests
{
    private static GreyRaster Of(int width, int height, Func<int, int, double> level)
    {
        var levels = new byte[width * height];
        for (var y = 0; y < height; y++)
        for (var x = 0; x < width; x++)
            levels[y * width + x] = (byte)Math.Clamp(level(x, y), 0, 255);
        return new(width, height, levels);
    }

    /// <summary>Blots of many sizes, different everywhere.</summary>
    private static GreyRaster Yard(int width, int height) =>
        Of(
            width,
            height,
            (x, y) =>
            {
                var (u, v) = (640.0 * x / width, 640.0 * y / width);
                return 128 + 50 * Math.Sin(u / 9 + Math.Sin(v / 31) * 3) * Math.Sin(v / 13 + u * u / 9000) + 40 * Math.Sin(u / 47 + v / 61);
            }
        );

    private static readonly AimTolerance Two = new(2, 1);

    [Fact]
    public void TheSamePictureSaysStopInAnySizeOfItsShape()
    {
        var target = new AimTarget(Yard(1280, 720), 90, 20);
        foreach (var (w, h) in new[] { (1280, 720), (640, 360), (2560, 1440), (320, 180), (640, 362) })
        {
            var look = AimLook.Of(target, Yard(w, h), Two);
            Assert.True(look.State == AimState.Stop, $"{w} x {h}: {look}");
            // Rows that an encoder added are seen as a pixel.
            Assert.Equal(0, look.Measured!.OffDeg, 0.2);
            Assert.Empty(look.Steps);
        }
    }

    [Fact]
    public void WhatShowsNothingIsSaidSo()
    {
        var target = new AimTarget(Yard(640, 360), 90, 20);
        void Says(string code, GreyRaster picture)
        {
            var look = AimLook.Of(target, picture, Two);
            Assert.Equal((code, AimState.Look), (look.Why?.Code, look.State));
            Assert.Null(look.Measured);
            Assert.Empty(look.Steps);
        }
        Says("aim.black", Of(640, 360, (x, y) => (x + y) % 4));
        Says("aim.white", Of(640, 360, (_, _) => 253));
        Says("aim.flat", Of(640, 360, (x, _) => 120 + x % 3));
        Says("aim.other-shape", Yard(640, 480));
        Says("aim.no-match", Of(640, 360, (x, y) => new Random(x * 7919 + y).Next(256)));
        Assert.Equal(Orientation.Mirrored, AimLook.Of(target, Yard(640, 360).Mirrored(), Two).Stands);
    }

    /// <summary>Once said, "stop" stays until it is twice as far off; said again only where it is within again.</summary>
    [Fact]
    public void StopDoesNotFlicker() =>
        Gen.Select(Gen.Double[0.5, 10], Gen.Double[0.2, 5], Gen.Double[0, 0.5])
            .Sample(
                (off, roll, uncertainty) =>
                {
                    var tolerance = new AimTolerance(off, roll);
                    Assert.Equal(2 * tolerance.StopsWithin(uncertainty, false), tolerance.StopsWithin(uncertainty, true), 1e-9);
                    Assert.True(tolerance.RollStopsWithin(uncertainty, true) > tolerance.RollStopsWithin(uncertainty, false));
                    // Nobody is told to stop where the measurement could not see that he has to.
                    Assert.True(tolerance.StopsWithin(uncertainty, false) >= 2 * uncertainty);
                }
            );

    [Fact]
    public void StepsAreTheLargestFirstRollLastAndNothingThatCannotBeSeen()
    {
        Assert.Equal([AimWay.Down, AimWay.Left, AimWay.Clockwise], AimLook.StepsOf(-0.4, 1.2, 5, 0.05, 0.05).Select(s => s.Way));
        Assert.Equal([AimWay.Right, AimWay.Up], AimLook.StepsOf(3, -2, 0.04, 0.05, 0.05).Select(s => s.Way));
        Assert.Equal([AimWay.CounterClockwise], AimLook.StepsOf(0.04, -0.02, -0.4, 0.05, 0.05).Select(s => s.Way));
        Assert.Empty(AimLook.StepsOf(0, 0, 0, 0.05, 0.05));
    }

    [Fact]
    public void BetweenTwoAxesIsTheAngleOfTheirRays() =>
        Gen.Select(Gen.Double[-90, 90], Gen.Double[-90, 90], Gen.Double[-180, 180])
            .Sample(
                (a, b, pan) =>
                {
                    static (double X, double Y, double Z) Ray(double tilt, double aside) =>
                        (
                            Math.Cos(tilt * Math.PI / 180) * Math.Sin(aside * Math.PI / 180),
                            Math.Sin(tilt * Math.PI / 180),
                            Math.Cos(tilt * Math.PI / 180) * Math.Cos(aside * Math.PI / 180)
                        );
                    var (p, q) = (Ray(a, 0), Ray(b, pan));
                    var (x, y, z) = (p.Y * q.Z - p.Z * q.Y, p.Z * q.X - p.X * q.Z, p.X * q.Y - p.Y * q.X);
                    var angle = Math.Atan2(Math.Sqrt(x * x + y * y + z * z), p.X * q.X + p.Y * q.Y + p.Z * q.Z) * 180 / Math.PI;
                    Assert.Equal(angle, AimLook.Between(a, b, pan), 1e-5);
                }
            );

    /// <summary>Made smaller or larger, a picture keeps its mean, and what is all one grey stays so.</summary>
    [Fact]
    public void AnotherSizeIsTheSamePicture() =>
        Gen.Select(Gen.Int[3, 90], Gen.Int[3, 90], Gen.Int[3, 120], Gen.Int[3, 120], Gen.Byte)
            .Sample(
                (w, h, toW, toH, grey) =>
                {
                    var flat = Of(w, h, (_, _) => grey).Sized(toW, toH);
                    Assert.Equal((toW, toH), (flat.Width, flat.Height));
                    Assert.True(flat.Levels.IndexOfAnyExcept(grey) < 0);
                    var ramp = Of(w, h, (x, _) => 250.0 * x / w);
                    Assert.Equal(Mean(ramp), Mean(ramp.Sized(toW, toH)), 1.5 + 130.0 / w);
                    Assert.True(ramp.Mirrored().Mirrored().Levels.SequenceEqual(ramp.Levels));
                }
            );

    /// <summary>A touched line says how the camera is turned; a touched length says its detail in pixels of what is recorded, whatever size
    /// of picture was touched.</summary>
    [Fact]
    public void TouchedPointsSayRollAndDetail() =>
        Gen.Select(Gen.Double[-20, 20], Gen.Int[200, 2000], Gen.Double[0.2, 5])
            .Sample(
                (lean, wide, metres) =>
                {
                    var high = wide * 9 / 16;
                    // Level things lean clockwise in the picture of a camera that is turned the other way.
                    var half = 0.3 * wide;
                    var (dx, dy) = (half * Math.Cos(lean * Math.PI / 180) / wide, half * Math.Sin(lean * Math.PI / 180) / high);
                    var touch = new AimTouch(TouchedThing.Horizon, new(0.5 - dx, 0.5 - dy), new(0.5 + dx, 0.5 + dy));
                    Assert.Null(touch.Refuse());
                    var roll = touch.Measure(wide, high, 3840)!;
                    Assert.Equal("fixing.roll", roll.Check.Value);
                    Assert.Equal(-lean, roll.Value.Value, 0.006);
                    var length = touch with { Thing = TouchedThing.Length, Metres = metres };
                    var detail = length.Measure(wide, high, 3840)!;
                    Assert.Equal("aim.detail", detail.Check.Value);
                    Assert.Equal(0.6 * 3840 / metres, detail.Value.Value, 0.06);
                    Assert.True(detail.Uncertainty > 0);
                    var region = touch.Region(wide, high);
                    Assert.True(region.X >= 0 && region.X + region.Width <= wide && region.Y >= 0 && region.Y + region.Height <= high);
                }
            );

    [Fact]
    public void WhatMeasuresNothingIsRefusedInWords()
    {
        var good = new AimTouch(TouchedThing.Length, new(0.2, 0.5), new(0.8, 0.5), 1);
        Assert.Null(good.Refuse());
        foreach (
            var (bad, code, field) in new (AimTouch, string, string)[]
            {
                (good with { Thing = (TouchedThing)9 }, "touch.thing", "thing"),
                (good with { To = good.From }, "touch.points", "to"),
                (good with { To = new(1.2, 0.5) }, "touch.points", "to"),
                (good with { To = new(double.NaN, 0.5) }, "touch.points", "to"),
                (good with { Metres = null }, "touch.length", "metres"),
                (good with { Metres = 0 }, "touch.length", "metres"),
                (good with { Metres = double.PositiveInfinity }, "touch.length", "metres"),
                (good with { MetresOff = 1 }, "touch.off", "metresOff"),
                (good with { MetresOff = -0.1 }, "touch.off", "metresOff"),
            }
        )
            Assert.Equal((code, field), (bad.Refuse()!.Value.Why.Code, bad.Refuse()!.Value.Field));
        Assert.Null((good with { Thing = TouchedThing.Upright, Metres = null }).Refuse());
    }

    /// <summary>Where what it shows agrees in part only, its mirror is asked, and the better one counts.</summary>
    [Fact]
    public void AStandingIsByTheBetterOfTwo()
    {
        static (Orientation, int) Of(Laid asItIs, Laid mirrored)
        {
            var asked = 0;
            var stands = PictureStanding.Of(
                asItIs,
                () =>
                {
                    asked++;
                    return mirrored;
                }
            );
            return (stands.Stands, asked);
        }
        var none = new Laid(false, 0, 0);
        Assert.Equal((Orientation.AsReference, 0), Of(new(true, 0.9, 3), none));
        Assert.Equal((Orientation.UpsideDown, 0), Of(new(true, 0.9, -178), none));
        Assert.Equal((Orientation.AsReference, 1), Of(new(true, 0.4, 3), new(true, 0.35, 0)));
        Assert.Equal((Orientation.Mirrored, 1), Of(new(true, 0.4, 3), new(true, 0.8, 0)));
        Assert.Equal((Orientation.Flipped, 1), Of(none, new(true, 0.8, 179)));
        Assert.Equal((Orientation.Undecided, 1), Of(none, none));
    }

    private sealed record Laid(bool IsMatch, double Agreement, double TurnedDeg) : ILaid;

    private static double Mean(GreyRaster picture)
    {
        double sum = 0;
        foreach (var g in picture.Levels)
            sum += g;
        return sum / picture.Levels.Length;
    }
}
