using System.Runtime.InteropServices;
using Walkdown.Core.Pictures;

namespace Walkdown.Core.Nights;

/// <summary>Light of one tile of a picture.</summary>
/// <param name="Mean">Share of white, linear.</param>
/// <param name="Black">Of its darkest, likewise.</param>
/// <param name="Contrast">Deviation against the mean.</param>
/// <param name="Clipped">Share of its pixels that are white.</param>
/// <param name="Pixels">Row by row, likewise linear, its slope taken out.</param>
internal sealed record TileLight(double Mean, double Black, double Contrast, double Clipped, ImmutableArray<float> Pixels)
{
    /// <summary>Pixels of a tile's side; what is finer is noise, and the lens.</summary>
    public const int Side = 20;

    /// <summary>The darkest so many of a tile are its black.</summary>
    private const double BlackShare = 0.04;

    /// <summary>White from here.</summary>
    private const byte White = 250;

    /// <summary>Contrast under which nothing is to be seen in it.</summary>
    private const double LeastContrast = 0.1;

    /// <summary>White from this share.</summary>
    private const double MostClipped = 0.3;

    private static readonly double[] Linear = [.. Enumerable.Range(0, 256).Select(g => Math.Pow(g / 255.0, 2.2))];

    /// <summary>Light of a grey level as a share of white.</summary>
    public static double LinearOf(byte grey) => Linear[grey];

    /// <summary>Too much of it is white to say anything of what it shows.</summary>
    public bool IsWhite => Clipped > MostClipped;

    /// <summary>Nothing is to be seen in it: sky, or a surface.</summary>
    public bool IsPlain => Contrast < LeastContrast || IsWhite;

    /// <param name="picture">All of it.</param>
    /// <param name="left">Of the tile, which lies wholly in it.</param>
    /// <param name="top">Likewise.</param>
    public static TileLight Of(GreyRaster picture, int left, int top)
    {
        var pixels = new float[Side * Side];
        Span<double> off = stackalloc double[Side * Side];
        // A tile that is lit more on one side than on the other has no more contrast for that: its slope is taken out.
        const double Middle = (Side - 1) / 2.0;
        const double Squares = Side * Side * (Side * Side - 1) / 12.0;
        double sum = 0,
            byX = 0,
            byY = 0,
            clipped = 0;
        for (var y = 0; y < Side; y++)
        {
            var row = picture.Levels.Slice((top + y) * picture.Width + left, Side);
            for (var x = 0; x < Side; x++)
            {
                var l = Linear[row[x]];
                off[y * Side + x] = l;
                (sum, byX, byY) = (sum + l, byX + l * (x - Middle), byY + l * (y - Middle));
                clipped += row[x] >= White ? 1 : 0;
            }
        }
        var mean = sum / off.Length;
        double variance = 0;
        for (var i = 0; i < off.Length; i++)
        {
            off[i] -= mean + byX / Squares * (i % Side - Middle) + byY / Squares * (i / Side - Middle);
            variance += off[i] * off[i] / off.Length;
            pixels[i] = (float)(mean + off[i]);
        }
        off.Sort();
        var dark = Math.Max(1, (int)(BlackShare * off.Length));
        double black = 0;
        foreach (var below in off[..dark])
            black += below / dark;
        return new(
            mean,
            Math.Max(0, mean + black),
            mean > 1e-6 ? Math.Sqrt(variance) / mean : 0,
            clipped / off.Length,
            ImmutableCollectionsMarshal.AsImmutableArray(pixels)
        );
    }

    /// <summary>How alike what it shows is to what it showed by day, -1 to 1; 0 where one of them shows nothing.</summary>
    public double LikenessTo(TileLight day)
    {
        double together = 0,
            here = 0,
            there = 0;
        for (var i = 0; i < Pixels.Length; i++)
        {
            var (a, b) = (Pixels[i] - Mean, day.Pixels[i] - day.Mean);
            (together, here, there) = (together + a * b, here + a * a, there + b * b);
        }
        return here > 0 && there > 0 ? together / Math.Sqrt(here * there) : 0;
    }

    /// <summary>Mean of what is brighter in it than its mean: what no shadow lies on.</summary>
    public double Upper
    {
        get
        {
            var (sum, n) = (0.0, 0);
            foreach (var light in Pixels)
                if (light >= Mean)
                    (sum, n) = (sum + light, n + 1);
            return n > 0 ? sum / n : Mean;
        }
    }
}
