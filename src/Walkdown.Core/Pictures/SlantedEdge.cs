using Walkdown.Core.Measures;
using static Walkdown.Core.Measures.Angle;

namespace Walkdown.Core.Pictures;

/// <summary>Sharpness of a slanted edge as a frequency response, after ISO 12233 (docs/calculations.md, N). A camera's picture went
/// through gamma and sharpening: it compares the camera with itself and is no figure of the lens.</summary>
/// <param name="Verdict">Whether it could be measured; nothing else is told where it could not.</param>
/// <param name="Mtf50">Where half the contrast is left, cycles to a pixel.</param>
/// <param name="AngleDeg">Of the edge to the upright or the level, never negative.</param>
/// <param name="IsNearlyHorizontal">Else it is nearly upright.</param>
public sealed record SlantedEdge(EdgeVerdict Verdict, double Mtf50 = 0, double AngleDeg = 0, bool IsNearlyHorizontal = false)
{
    private const int PerPixel = 4;

    /// <summary>More than half a cycle to a pixel: finer than the pixels can carry.</summary>
    public bool IsOverNyquist => Mtf50 > 0.5;

    /// <param name="region">At least 16 x 16, with one edge through it.</param>
    public static SlantedEdge Of(GreyRaster region)
    {
        Require.Number(region.Width, "width", 16);
        Require.Number(region.Height, "height", 16);
        double across = 0,
            down = 0;
        for (var y = 0; y < region.Height; y++)
        for (var x = 1; x < region.Width; x++)
            across += Math.Abs(region[x, y] - region[x - 1, y]);
        for (var y = 1; y < region.Height; y++)
        for (var x = 0; x < region.Width; x++)
            down += Math.Abs(region[x, y] - region[x, y - 1]);
        var isLevel = down / (region.Width * (region.Height - 1.0)) > across / ((region.Width - 1.0) * region.Height);
        // From here on the edge is nearly upright.
        var (w, h) = isLevel ? (region.Height, region.Width) : (region.Width, region.Height);
        var at = new double[w * h];
        for (var y = 0; y < h; y++)
        for (var x = 0; x < w; x++)
            at[y * w + x] = isLevel ? region[y, x] : region[x, y];
        var rim = Math.Max(3, w / 8);
        double left = 0,
            right = 0;
        for (var y = 0; y < h; y++)
        for (var x = 0; x < rim; x++)
            (left, right) = (left + at[y * w + x], right + at[y * w + w - 1 - x]);
        if (left + right <= 0 || Math.Abs(left - right) / (left + right) < 0.1 - 1e-9)
            return new(EdgeVerdict.ContrastTooLow);
        if (Line(at, w, h, right > left ? 1 : -1) is not var (x0, slope))
            return new(EdgeVerdict.EdgeNotFound);
        var angle = Deg(Math.Atan(Math.Abs(slope)));
        if (angle is < 1 - 1e-9 or > 30 + 1e-9)
            return new(EdgeVerdict.EdgeAngleUnsuitable);
        var cos = Cos(angle);
        var reach = Math.Floor((w / 2.0 - h / 2.0 * Math.Abs(slope)) * cos - 1);
        if (reach < 8)
            return new(EdgeVerdict.RegionTooNarrowForThisAngle);
        return Response(at, w, h, x0, slope, cos, (int)reach) is { } half
            ? new(EdgeVerdict.Ok, half, angle, isLevel)
            : new(EdgeVerdict.NoCrossing);
    }

    /// <summary>The edge as a line, x of row 0 and its slope; null: under half of the rows have one.</summary>
    private static (double X0, double Slope)? Line(double[] at, int w, int h, int sign)
    {
        (double X0, double Slope)? line = null;
        for (var pass = 0; pass < 3; pass++)
        {
            double n = 0,
                sy = 0,
                sx = 0,
                syy = 0,
                sxy = 0;
            for (var y = 0; y < h; y++)
            {
                var middle = line is { } l ? l.X0 + l.Slope * y : (w - 1) / 2.0;
                double weight = 0,
                    moment = 0;
                for (var x = 1; x < w - 1; x++)
                {
                    var slope = sign * (at[y * w + x + 1] - at[y * w + x - 1]) / 2;
                    var u = (x - middle) / w;
                    if (Math.Abs(u) > 0.5)
                        continue;
                    var window = (0.54 + 0.46 * Math.Cos(2 * Math.PI * u)) * slope;
                    (weight, moment) = (weight + window, moment + window * x);
                }
                if (weight <= 1e-9)
                    continue;
                var centre = moment / weight;
                if (centre < 0 || centre > w - 1)
                    continue;
                (n, sy, sx, syy, sxy) = (n + 1, sy + y, sx + centre, syy + y * y, sxy + y * centre);
            }
            if (n < h / 2.0)
                return null;
            var slant = (n * sxy - sy * sx) / (n * syy - sy * sy);
            line = ((sx - slant * sy) / n, slant);
        }
        return line;
    }

    /// <summary>Where half of the contrast is left; null: not up to one cycle to a pixel.</summary>
    private static double? Response(double[] at, int w, int h, double x0, double slope, double cos, int reach)
    {
        var bins = 2 * reach * PerPixel;
        var (sum, count) = (new double[bins], new int[bins]);
        for (var y = 0; y < h; y++)
        for (var x = 0; x < w; x++)
        {
            var bin = (int)Math.Floor((x - x0 - slope * y) * cos * PerPixel) + bins / 2;
            if (bin < 0 || bin >= bins)
                continue;
            sum[bin] += at[y * w + x];
            count[bin]++;
        }
        var edge = new double[bins];
        var known = Enumerable.Range(0, bins).Where(i => count[i] > 0).ToArray();
        if (known.Length < 2)
            return null;
        for (int i = 0, k = 0; i < bins; i++)
        {
            while (k < known.Length - 2 && known[k + 1] < i)
                k++;
            var (a, b) = (known[k], known[k + 1]);
            edge[i] =
                count[i] > 0 ? sum[i] / count[i]
                : i < a ? sum[a] / count[a]
                : i > b ? sum[b] / count[b]
                : sum[a] / count[a] + (i - a) * (sum[b] / count[b] - sum[a] / count[a]) / (b - a);
        }
        var spread = new double[bins];
        for (var i = 1; i < bins - 1; i++)
            spread[i] = (edge[i + 1] - edge[i - 1]) / 2;
        var peak = Array.IndexOf(spread, spread.MaxBy(Math.Abs));
        for (var i = 0; i < bins; i++)
        {
            var u = (i - peak) / (double)bins;
            spread[i] *= Math.Abs(u) > 0.5 ? 0 : 0.54 + 0.46 * Math.Cos(2 * Math.PI * u);
        }
        var zero = Math.Abs(spread.Sum());
        if (zero <= 0)
            return null;
        // Finely enough that a straight line between two frequencies is exact.
        const int Steps = 512;
        var before = 1.0;
        for (var k = 1; k <= Steps; k++)
        {
            var f = k / (double)Steps;
            double re = 0,
                im = 0;
            for (var i = 0; i < bins; i++)
            {
                var (s, c) = Math.SinCos(2 * Math.PI * f * (i - peak) / PerPixel);
                (re, im) = (re + spread[i] * c, im - spread[i] * s);
            }
            // Of the two-bin difference, and of the bin's own width.
            var difference = Sinc(2 * f / PerPixel);
            var value = double.Hypot(re, im) / zero / difference / Sinc(f / PerPixel);
            if (value < 0.5)
                return (k - 1 + (before - 0.5) / (before - value)) / Steps;
            before = value;
        }
        return null;
    }

    private static double Sinc(double x) => x == 0 ? 1 : Math.Max(1e-3, Math.Abs(Math.Sin(Math.PI * x) / (Math.PI * x)));
}

/// <summary>Whether an edge could be measured.</summary>
public enum EdgeVerdict
{
    /// <summary>It could.</summary>
    Ok,

    /// <summary>Its two sides are too much alike.</summary>
    ContrastTooLow,

    /// <summary>It stands straighter than 1 degree or leans more than 30.</summary>
    EdgeAngleUnsuitable,

    /// <summary>Under half of the rows have one.</summary>
    EdgeNotFound,

    /// <summary>Too little of both sides is in it.</summary>
    RegionTooNarrowForThisAngle,

    /// <summary>Contrast never falls to half.</summary>
    NoCrossing,
}
