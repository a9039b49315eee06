using Walkdown.Core.Aiming;
using Walkdown.Core.Measures;
using Walkdown.Core.Pictures;

namespace Walkdown.Core.Tests;

/// <summary>A picture on a monitor that was photographed from aside comes flat again by its four corners.</summary>
public sealed class MonitorCornersTests
{
    private const int Wide = 1600,
        High = 1200;

    /// <summary>Something in every part, nothing of it twice.</summary>
    private static double Picture(double u, double v) =>
        120 + 60 * Math.Sin(9 * u + 4 * v * v) + 40 * Math.Cos(13 * v - 5 * u * u) + (u > 0.3 && u < 0.42 && v > 0.6 ? 30 : 0);

    private static GreyRaster Shown(int wide = 640, int high = 360)
    {
        var levels = new byte[wide * high];
        for (var y = 0; y < high; y++)
        for (var x = 0; x < wide; x++)
            levels[y * wide + x] = (byte)Math.Clamp(Picture((x + 0.5) / wide, (y + 0.5) / high), 0, 255);
        return new(wide, high, levels);
    }

    /// <summary>Photographed by a pinhole that stands aside: the monitor lies in space, turned and leaning.</summary>
    private static (GreyRaster Photo, MonitorCorners Corners) Photograph(double turnDeg, double leanDeg, double rollDeg)
    {
        var (st, ct) = Math.SinCos(turnDeg * Math.PI / 180);
        var (sl, cl) = Math.SinCos(leanDeg * Math.PI / 180);
        var (sr, cr) = Math.SinCos(rollDeg * Math.PI / 180);
        // A point of the monitor (16 by 9, its middle 22 away) in the photograph, pixels.
        (double X, double Y) Seen(double u, double v)
        {
            var (x, y) = ((u - 0.5) * 16, (v - 0.5) * 9);
            (x, y) = (x * cr - y * sr, x * sr + y * cr);
            var (px, pz) = (x * ct, x * st);
            var (py, pz2) = (y * cl, y * sl);
            var z = 22 + pz + pz2;
            return (Wide / 2.0 + 1700 * px / z, High / 2.0 + 1700 * py / z);
        }
        // Backwards by steps: each pixel's place on the monitor.
        var levels = new byte[Wide * High];
        for (var y = 0; y < High; y++)
        for (var x = 0; x < Wide; x++)
        {
            var (u, v) = (0.5, 0.5);
            for (var i = 0; i < 12; i++)
            {
                var (sx, sy) = Seen(u, v);
                var (ax, ay) = Seen(u + 1e-4, v);
                var (bx, by) = Seen(u, v + 1e-4);
                var (a, b, c, d) = ((ax - sx) / 1e-4, (bx - sx) / 1e-4, (ay - sy) / 1e-4, (by - sy) / 1e-4);
                var (dx, dy, det) = (x + 0.5 - sx, y + 0.5 - sy, a * d - b * c);
                (u, v) = (u + (d * dx - b * dy) / det, v + (a * dy - c * dx) / det);
                if (u is < -2 or > 3 || v is < -2 or > 3)
                    break;
            }
            levels[y * Wide + x] = u is >= 0 and <= 1 && v is >= 0 and <= 1 ? (byte)Math.Clamp(Picture(u, v), 0, 255) : (byte)25;
        }
        PictureShare At(double u, double v) => Seen(u, v) is var (x, y) ? new(x / Wide, y / High) : default;
        return (new(Wide, High, levels), new(At(0, 0), At(1, 0), At(1, 1), At(0, 1)));
    }

    [Theory]
    [InlineData(0, 0, 0)]
    [InlineData(25, 0, 0)]
    [InlineData(-18, 14, 3)]
    [InlineData(32, -10, -6)]
    public void AMonitorFromAsideIsLaidFlat(double turn, double lean, double roll)
    {
        var (photo, corners) = Photograph(turn, lean, roll);
        Assert.Null(corners.Refuse(Wide, High));
        var flat = corners.Straighten(photo, 9 / 16.0);
        Assert.Equal(9 / 16.0, (double)flat.Height / flat.Width, 0.01);
        // Level by level it is the picture, up to its blur.
        var off = 0.0;
        for (var y = 4; y < flat.Height - 4; y++)
        for (var x = 4; x < flat.Width - 4; x++)
            off += Math.Abs(flat[x, y] - Picture((x + 0.5) / flat.Width, (y + 0.5) / flat.Height));
        Assert.InRange(off / ((flat.Height - 8.0) * (flat.Width - 8)), 0, 1.5);
        // And a camera that hangs as agreed is said to.
        var look = AimLook.Of(new(Shown(), 60, 12), flat, new(1, 2), hand: corners.Touched(Wide, High, 60));
        Assert.InRange(look.Measured!.OffDeg, 0, 0.15);
        Assert.InRange(Math.Abs(look.Measured.RollDeg), 0, 0.15);
    }

    /// <summary>Corners that are touched beside themselves, as hands do, move the picture by no more than is said, as often as is
    /// said.</summary>
    [Fact]
    public void HowSureItIsHoldsWhatHandsDo()
    {
        var (photo, corners) = Photograph(20, 6, 1);
        var target = new AimTarget(Shown(), 60, 12);
        var luck = new Random(46);
        double Slip() => 0.0015 * Math.Sqrt(-2 * Math.Log(1 - luck.NextDouble())) * Math.Cos(2 * Math.PI * luck.NextDouble());
        PictureShare Off(PictureShare p) => new(p.X + Slip(), p.Y + Slip() * Wide / High);
        var (within, level) = (0, 0);
        for (var i = 0; i < 14; i++)
        {
            var touched = new MonitorCorners(
                Off(corners.TopLeft),
                Off(corners.TopRight),
                Off(corners.BottomRight),
                Off(corners.BottomLeft)
            );
            var hand = touched.Touched(Wide, High, 60);
            var look = AimLook.Of(target, touched.Straighten(photo, 9 / 16.0), new(1, 2), hand: hand).Measured!;
            Assert.True(look.UncertaintyDeg >= hand.OffDeg && look.RollUncertaintyDeg >= hand.RollDeg);
            within += look.OffDeg <= look.UncertaintyDeg ? 1 : 0;
            level += Math.Abs(look.RollDeg) <= look.RollUncertaintyDeg ? 1 : 0;
        }
        Assert.True(within >= 13 && level >= 13, $"{within} {level}");
    }

    [Fact]
    public void WhatIsNoPictureIsRefused()
    {
        PictureShare[] good = [new(0.1, 0.1), new(0.9, 0.1), new(0.9, 0.9), new(0.1, 0.9)];
        string? Why(params PictureShare[] p) => new MonitorCorners(p[0], p[1], p[2], p[3]).Refuse(Wide, High)?.Code;
        Assert.Null(Why(good));
        // Begun at another corner it is another picture, but one.
        Assert.Null(Why([.. good[1..], good[0]]));
        Assert.Equal("corners.order", Why([.. good.Reverse()]));
        Assert.Equal("corners.order", Why(good[0], good[2], good[1], good[3]));
        Assert.Equal("corners.order", Why(good[0], good[1], new(0.3, 0.3), good[3]));
        Assert.Equal("corners.order", Why(good[0], good[0], good[2], good[3]));
        Assert.Equal("corners.outside", Why(new(-0.1, 0.1), good[1], good[2], good[3]));
        Assert.Equal("corners.outside", Why(new(double.NaN, 0.1), good[1], good[2], good[3]));
        Assert.Equal("corners.small", Why(new(0.4, 0.4), new(0.5, 0.4), new(0.5, 0.5), new(0.4, 0.5)));
        Assert.Throws<BadInputException>(() => new MonitorCorners(good[0], good[2], good[1], good[3]).Straighten(Shown(), 0.5625));
        Assert.Throws<BadInputException>(() => new MonitorCorners(good[0], good[1], good[2], good[3]).Straighten(Shown(), 0));
    }
}
