using CsCheck;
using Walkdown.Core.Aiming;
using Walkdown.Core.Pictures;

namespace Walkdown.Core.Tests;

/// <summary>A lens that bends lines is found by its own pictures, and a turn behind it is told as behind one that bends none.</summary>
public sealed class LensBendTests
{
    private const int Wide = 640,
        High = 360;

    private static readonly Gen<Lens> Lenses = Gen.Select(Gen.Double[30, 110], Gen.Double[-0.05, 0.3])
        .Select(static (field, bend) => Lens.Of(Wide, field, bend));

    [Fact]
    public void WhateverTheBendItsEdgesShowItsField() =>
        Gen.Select(Gen.Double[20, 120], Gen.Double[-0.05, 0.3])
            .Sample(
                (field, bend) =>
                {
                    var lens = Lens.Of(Wide, field, bend);
                    var edge = lens.Bent(Math.Tan(field * Math.PI / 360) * lens.Focal, 0)!.Value;
                    Assert.Equal(Wide / 2.0, edge.X, 1e-6);
                    var half = lens.Sized(0.5).Bent(Math.Tan(field * Math.PI / 360) * lens.Focal / 2, 0)!.Value;
                    Assert.Equal(Wide / 4.0, half.X, 1e-6);
                }
            );

    /// <summary>Slopes by which a picture is laid are those of where its points come to lie.</summary>
    [Fact]
    public void SlopesAreThoseOfTheMove() =>
        Gen.Select(Lenses, Gen.Double[-250, 250], Gen.Double[-150, 150], Gen.Double[-40, 40], Gen.Double[-0.1, 0.1])
            .Sample(
                (lens, x, y, shift, turn) =>
                {
                    const double By = 1e-3;
                    var move = TurnMove.Of(SimilarMove.Of(turn, 1, shift, -shift / 2), lens);
                    move.Map((float)x, (float)y, out var u, out var v);
                    Span<float> slopes = stackalloc float[4];
                    foreach (var (gx, gy) in new[] { (1f, 0f), (0f, 1f) })
                    {
                        move.Slopes((float)x, (float)y, u, v, gx, gy, slopes);
                        for (var i = 0; i < 4; i++)
                        {
                            var step = new double[4];
                            step[i] = By;
                            move.After(step).Map((float)x, (float)y, out var mu, out var mv);
                            step[i] = -By;
                            move.After(step).Map((float)x, (float)y, out var lu, out var lv);
                            Assert.Equal((gx * (mu - lu) + gy * (mv - lv)) / (2 * By), slopes[i], 1 + 0.01 * Math.Abs(slopes[i]));
                        }
                    }
                },
                iter: 200
            );

    /// <summary>Chance on a grid, smooth between: it never comes again.</summary>
    private static double Blots(double x, double y)
    {
        var (column, row) = ((int)Math.Floor(x), (int)Math.Floor(y));
        var (fx, fy) = (x - column, y - row);
        (fx, fy) = (fx * fx * (3 - 2 * fx), fy * fy * (3 - 2 * fy));
        var top = Chance(column, row) * (1 - fx) + Chance(column + 1, row) * fx;
        var low = Chance(column, row + 1) * (1 - fx) + Chance(column + 1, row + 1) * fx;
        return top * (1 - fy) + low * fy;

        static double Chance(int x, int y)
        {
            var h = (uint)(x * 374761393 + y * 668265263);
            h = (h ^ (h >> 13)) * 1274126177u;
            return (h ^ (h >> 16)) / (double)uint.MaxValue;
        }
    }

    /// <summary>Blots on a sky around the camera: what a ray meets depends on its direction alone.</summary>
    private static GreyRaster Sky(double headingDeg, double tiltDeg, double fieldDeg, double barrel)
    {
        var focal = Wide / 2.0 * (1 + barrel) / Math.Tan(fieldDeg * Math.PI / 360);
        var edge = Wide / 2.0 / focal;
        var (st, ct) = Math.SinCos(tiltDeg * Math.PI / 180);
        var levels = new byte[Wide * High];
        for (var y = 0; y < High; y++)
        for (var x = 0; x < Wide; x++)
        {
            var (u, v) = ((x + 0.5 - Wide / 2.0) / focal, (y + 0.5 - High / 2.0) / focal);
            // Bent as a polynomial: another formula than the one that is looked for.
            var bend = 1 + barrel * (u * u + v * v) / (edge * edge);
            (u, v) = (u * bend, v * bend);
            var (down, ahead) = (v * ct + st, ct - v * st);
            var aside = headingDeg * Math.PI / 180 + Math.Atan2(u, ahead);
            var under = Math.Atan2(down, double.Hypot(u, ahead));
            levels[y * Wide + x] = (byte)Math.Clamp(40 + 90 * Blots(aside * 6, under * 6) + 90 * Blots(aside * 25, under * 25), 0, 255);
        }
        return new(Wide, High, levels);
    }

    [Theory]
    [InlineData(0, 90, 24)]
    [InlineData(0.04, 70, -16)]
    [InlineData(0.09, 90, 20)]
    [InlineData(0.12, 100, -25)]
    public void TheBendIsFoundAndTheTurnIsRight(double barrel, double field, double pan)
    {
        var agreed = new PicturePyramid(Sky(40, 12, field, barrel));
        var turn = CameraTurn.Of(agreed, new(Sky(40 + pan, 15, field, barrel)), field, 12);
        Assert.True(turn.IsMatch);
        Assert.Equal(barrel / (1 + barrel), turn.Bend!.Value, 0.01);
        Assert.Equal(-pan, turn.PanDeg, 0.1);
        Assert.Equal(-3, turn.TiltDeg, 0.1);
        Assert.Equal(0, turn.RollDeg, 0.15);
        // Known from then on it is not looked for, and tells a near turn right too.
        var near = CameraTurn.Of(agreed, new(Sky(43, 12, field, barrel)), field, 12, turn.Bend);
        Assert.Equal(turn.Bend, near.Bend);
        Assert.Equal(-3, near.PanDeg, 0.03);
    }

    /// <summary>One that hardly turned tells nothing of its lens: what it is off by is less sure then, the wider it is.</summary>
    [Fact]
    public void WhoHardlyTurnedTellsNothingOfTheLens()
    {
        double Uncertain(double field, double pan, double? bend = null)
        {
            var turn = CameraTurn.Of(new(Sky(40, 12, field, 0.08)), new(Sky(40 + pan, 12, field, 0.08)), field, 12, bend);
            Assert.Equal(bend, turn.Bend);
            return turn.UncertaintyDeg;
        }
        Assert.True(Uncertain(90, 0) < 0.03);
        Assert.InRange(Uncertain(90, 0.6), 0.02, 0.06);
        Assert.True(Uncertain(90, 0.6, bend: 0.074) < Uncertain(90, 0.6));
    }
}
