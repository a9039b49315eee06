using Walkdown.Core.Measures;
using Walkdown.Core.Pictures;

namespace Walkdown.Core.Aiming;

/// <summary>
/// The four corners of a camera's picture on a monitor that was photographed, touched in the photograph: by them it is laid flat again. A
/// flat thing is seen through a pinhole by a projective map, which four points fix (Hartley and Zisserman, Multiple View Geometry,
/// chapter 2).
/// </summary>
/// <param name="TopLeft">In shares of the photograph.</param>
/// <param name="TopRight">Likewise.</param>
/// <param name="BottomRight">Likewise.</param>
/// <param name="BottomLeft">Likewise.</param>
public sealed record MonitorCorners(PictureShare TopLeft, PictureShare TopRight, PictureShare BottomRight, PictureShare BottomLeft)
{
    /// <summary>The picture fills at least so much of the photograph.</summary>
    private const double LeastArea = 0.06;

    /// <summary>A corner is touched to so much of the photograph's longer side, as an expanded uncertainty.</summary>
    private const double TouchShare = 0.003;

    /// <summary>What corners that are off so much do to the axis (as a share of the field) and about it (as a share of a radian): 95 of
    /// 100 of 300 draws over fields of 30 to 95 degrees and monitors from aside (docs/calculations.md, L). A picture that leans is laid
    /// on by more than a mean of its corners.</summary>
    private const double OffTimes = 1.25,
        RollTimes = 1.6;

    /// <summary>Fewer pixels across are too few to lay anything on.</summary>
    private const int LeastWide = 320;

    private const int MostWide = 1280;

    private PictureShare[] All => [TopLeft, TopRight, BottomRight, BottomLeft];

    /// <summary>Why they are no corners of a picture, as somebody sees who stands before it; null: they are.</summary>
    /// <param name="wide">Of the photograph, pixels.</param>
    /// <param name="high">Of the photograph, pixels.</param>
    public Message? Refuse(int wide, int high)
    {
        var all = All;
        if (all.Any(p => p is not { X: >= 0 and <= 1, Y: >= 0 and <= 1 }))
            return new("corners.outside");
        double area = 0;
        for (var i = 0; i < 4; i++)
        {
            var (a, b, c) = (all[i], all[(i + 1) % 4], all[(i + 2) % 4]);
            // Turning the same way at each corner: no two are exchanged, and none is pushed in.
            if ((b.X - a.X) * (c.Y - b.Y) - (b.Y - a.Y) * (c.X - b.X) <= 1e-4)
                return new("corners.order");
            area += (a.X * b.Y - b.X * a.Y) / 2;
        }
        return area < LeastArea || Across(wide, high) < LeastWide ? new("corners.small", Message.Number(LeastWide, 0)) : null;
    }

    /// <summary>Pixels of the photograph that the picture is wide, as a mean of its upper and lower side.</summary>
    private double Across(int wide, int high) => (Length(TopLeft, TopRight, wide, high) + Length(BottomLeft, BottomRight, wide, high)) / 2;

    private static double Length(PictureShare a, PictureShare b, int wide, int high) =>
        double.Hypot((a.X - b.X) * wide, (a.Y - b.Y) * high);

    /// <summary>How far what is measured in the straightened picture may be off because hands set the corners, expanded, degrees: of the
    /// axis, and about it.</summary>
    /// <param name="wide">Of the photograph, pixels.</param>
    /// <param name="high">Of the photograph, pixels.</param>
    /// <param name="horizontalDeg">The camera's field.</param>
    public (double OffDeg, double RollDeg) Touched(int wide, int high, double horizontalDeg)
    {
        var share = TouchShare * Math.Max(wide, high) / Across(wide, high);
        return (OffTimes * share * horizontalDeg, RollTimes * Angle.Deg(share));
    }

    /// <summary>The picture as the camera sent it, as near as the photograph has it.</summary>
    /// <param name="photo">The photograph.</param>
    /// <param name="shape">Height of the picture against its width.</param>
    /// <exception cref="BadInputException">The corners are none (<see cref="Refuse"/>), or the shape is none.</exception>
    public GreyRaster Straighten(GreyRaster photo, double shape)
    {
        Require.Consistent(Refuse(photo.Width, photo.Height) is null, "corners");
        Require.Number(shape, "shape", 0.1, 4);
        var wide = (int)Math.Clamp(Math.Round(Across(photo.Width, photo.Height)), LeastWide, MostWide);
        var high = Math.Max(3, (int)Math.Round(wide * shape));
        var map = Map(photo);
        var levels = new byte[wide * high];
        for (var y = 0; y < high; y++)
        for (var x = 0; x < wide; x++)
        {
            // Four looks into each pixel: a photograph is often finer than the picture in it.
            double sum = 0;
            for (var k = 0; k < 4; k++)
            {
                var (u, v) = ((x + 0.25 + k % 2 * 0.5) / wide, (y + 0.25 + k / 2 * 0.5) / high);
                var w = map.G * u + map.H * v + 1;
                sum += Level(photo, (map.A * u + map.B * v + map.C) / w, (map.D * u + map.E * v + map.F) / w);
            }
            levels[y * wide + x] = (byte)Math.Round(sum / 4);
        }
        return new(wide, high, levels);
    }

    /// <summary>From the unit square to the photograph's pixels.</summary>
    private (double A, double B, double C, double D, double E, double F, double G, double H) Map(GreyRaster photo)
    {
        var p = All.Select(c => (X: c.X * photo.Width, Y: c.Y * photo.Height)).ToArray();
        var (dx1, dx2, sx) = (p[1].X - p[2].X, p[3].X - p[2].X, p[0].X - p[1].X + p[2].X - p[3].X);
        var (dy1, dy2, sy) = (p[1].Y - p[2].Y, p[3].Y - p[2].Y, p[0].Y - p[1].Y + p[2].Y - p[3].Y);
        var det = dx1 * dy2 - dx2 * dy1;
        var (g, h) = ((sx * dy2 - dx2 * sy) / det, (dx1 * sy - sx * dy1) / det);
        return (
            p[1].X - p[0].X + g * p[1].X,
            p[3].X - p[0].X + h * p[3].X,
            p[0].X,
            p[1].Y - p[0].Y + g * p[1].Y,
            p[3].Y - p[0].Y + h * p[3].Y,
            p[0].Y,
            g,
            h
        );
    }

    /// <summary>Between four pixels; the border goes on beyond itself.</summary>
    private static double Level(GreyRaster photo, double x, double y)
    {
        (x, y) = (Math.Clamp(x - 0.5, 0, photo.Width - 1.0), Math.Clamp(y - 0.5, 0, photo.Height - 1.0));
        var (left, top) = (Math.Min((int)x, photo.Width - 2), Math.Min((int)y, photo.Height - 2));
        var (fx, fy) = (x - left, y - top);
        var upper = photo[left, top] * (1 - fx) + photo[left + 1, top] * fx;
        var lower = photo[left, top + 1] * (1 - fx) + photo[left + 1, top + 1] * fx;
        return upper * (1 - fy) + lower * fy;
    }
}
