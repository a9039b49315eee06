using Walkdown.Core.Entries;
using Walkdown.Core.Pictures;

namespace Walkdown.Core.Focusing;

/// <summary>An edge that was found beside a touched spot, and how sharp it is (docs/calculations.md, N: slanted edge): a door frame, a
/// printed chart, a plate will do. It compares a camera with itself: its picture went through gamma and sharpening.</summary>
/// <param name="Region">Where it was found, pixels.</param>
/// <param name="Mtf50">Where half the contrast is left, cycles to a pixel.</param>
/// <param name="Uncertainty">Of that: how much its two halves differ, and what the method leaves.</param>
/// <param name="AngleDeg">Of the edge to the upright or the level.</param>
/// <param name="IsOverNyquist">Finer than the pixels can carry: sharpened, or aliased.</param>
public sealed record EdgeNear(PictureRegion Region, double Mtf50, double Uncertainty, double AngleDeg, bool IsOverNyquist)
{
    /// <summary>Side of what is measured, pixels.</summary>
    private const int Side = 56;

    private const int Least = 32;

    /// <summary>As many of the best candidates are tried.</summary>
    private const int Tries = 4;

    /// <summary>What the method leaves (docs/calculations.md, N).</summary>
    private const double Method = 0.05;

    /// <summary>Slopes of one edge run one way: so much more than across it.</summary>
    private const double LeastOneWay = 0.9;

    /// <summary>Grey levels from pixel to pixel, as a mean of the squares, that an edge has at least.</summary>
    private const double LeastSlope = 6;

    /// <param name="picture">Any size.</param>
    /// <param name="around">Where to look for one.</param>
    /// <returns>Null: there is none that can be measured.</returns>
    public static EdgeNear? Of(GreyRaster picture, PictureRegion around)
    {
        var side = Math.Min(Side, Math.Min(around.Width, around.Height));
        // Its halves are measured, too: an edge needs 16 pixels of each.
        if (side < Least)
            return null;
        var noise = PictureNoise.Of(picture.Cut(around.X, around.Y, around.Width, around.Height), 3, 3).SigmaTiles;
        var found = new List<(double Worth, int X, int Y)>();
        var step = Math.Max(side / 3, Math.Max(around.Width, around.Height) / 24);
        for (var y = around.Y; y + side <= around.Y + around.Height; y += step)
        for (var x = around.X; x + side <= around.X + around.Width; x += step)
            if (Worth(picture, x, y, side, noise) is > 0 and var worth)
                found.Add((worth, x, y));
        foreach (var (_, x, y) in found.OrderByDescending(f => f.Worth).ThenBy(f => f.Y).ThenBy(f => f.X).Take(Tries))
        {
            var edge = SlantedEdge.Of(picture.Cut(x, y, side, side));
            if (edge.Verdict != EdgeVerdict.Ok)
                continue;
            // Its two halves, along the edge, ought to say the same.
            var (wide, high) = edge.IsNearlyHorizontal ? (side / 2, side) : (side, side / 2);
            var first = SlantedEdge.Of(picture.Cut(x, y, wide, high));
            var second = SlantedEdge.Of(picture.Cut(x + side - wide, y + side - high, wide, high));
            if (first.Verdict != EdgeVerdict.Ok || second.Verdict != EdgeVerdict.Ok)
                continue;
            var apart = Math.Abs(first.Mtf50 - second.Mtf50);
            if (apart > 0.3 * edge.Mtf50)
                continue;
            return new(new(x, y, side, side), edge.Mtf50, apart / 2 + Method * edge.Mtf50, edge.AngleDeg, edge.IsOverNyquist);
        }
        return null;
    }

    /// <summary>How much like one straight edge it is, a little askew; 0: not at all.</summary>
    private static double Worth(GreyRaster picture, int left, int top, int side, double noise)
    {
        double xx = 0,
            yy = 0,
            xy = 0;
        for (var y = top + 1; y < top + side - 1; y += 2)
        for (var x = left + 1; x < left + side - 1; x++)
        {
            double dx = picture[x + 1, y] - picture[x - 1, y],
                dy = picture[x, y + 1] - picture[x, y - 1];
            (xx, yy, xy) = (xx + dx * dx, yy + dy * dy, xy + dx * dy);
        }
        var n = (side - 2) * (side - 2) / 2.0;
        // Noise slopes every way alike.
        var every = 2 * noise * noise * n;
        (xx, yy) = (Math.Max(0, xx - every), Math.Max(0, yy - every));
        var (half, apart) = ((xx + yy) / 2, double.Hypot((xx - yy) / 2, xy));
        var (most, least) = (half + apart, half - apart);
        if (most / n < Math.Max(LeastSlope, 2 * noise * noise) || (most - least) / (most + least) < LeastOneWay)
            return 0;
        // Of the slope: an edge a little off the upright slopes a little off the level.
        var angle = 0.5 * Math.Atan2(2 * xy, xx - yy) * 180 / Math.PI;
        var askew = Math.Abs(angle - 90 * Math.Round(angle / 90));
        return askew is < 1.5 or > 28 ? 0 : most / n * (most - least) / (most + least);
    }
}
