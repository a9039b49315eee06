using Walkdown.Core.Aiming;
using Walkdown.Core.Entries;
using Walkdown.Core.Measures;
using Walkdown.Core.Pictures;

namespace Walkdown.Core.Focusing;

/// <summary>A part of the picture whose sharpness is told by itself.</summary>
public enum FocusSpot
{
    /// <summary>Where somebody touched: what the camera is for.</summary>
    Target,

    /// <summary>The middle.</summary>
    Centre,

    /// <summary>Corner.</summary>
    TopLeft,

    /// <summary>Corner.</summary>
    TopRight,

    /// <summary>Corner.</summary>
    BottomLeft,

    /// <summary>Corner.</summary>
    BottomRight,
}

/// <summary>How much detail a part of a picture has (docs/calculations.md, N): mean squared slope, freed of noise and of light.</summary>
/// <param name="Spot">Which part.</param>
/// <param name="Region">Pixels of the picture.</param>
/// <param name="Detail">Against the mean squared; null: too little is there to be told from noise.</param>
/// <param name="Uncertainty">Of that by noise alone, as a share, twice the deviation.</param>
/// <param name="MeanGrey">0 to 255.</param>
public sealed record SpotDetail(FocusSpot Spot, PictureRegion Region, double? Detail, double Uncertainty, double MeanGrey);

/// <summary>Detail at the target, in the middle and in the corners of one picture.</summary>
public static class FocusSpots
{
    /// <summary>A spot's share of the picture's width and height.</summary>
    private const double Size = 0.16;

    /// <summary>Smaller pictures tell nothing, pixels.</summary>
    public const int LeastWide = 160,
        LeastHigh = 90;

    /// <summary>Corners begin so far from the border: the edge of a cover is not the picture's.</summary>
    private const double Rim = 0.02;

    /// <summary>Slopes must be so much steeper than those of noise alone to say anything.</summary>
    private const double LeastOverNoise = 0.5;

    /// <summary>Flatter than this, grey levels squared, it is a wall or the sky.</summary>
    private const double LeastEnergy = 1;

    /// <summary>Of more than this share of pixels at an end of the scale the detail is not known.</summary>
    private const double MostClipped = 0.4;

    /// <param name="picture">At least <see cref="LeastWide"/> by <see cref="LeastHigh"/>.</param>
    /// <param name="target">Its middle, in shares of the picture.</param>
    public static ImmutableArray<SpotDetail> Of(GreyRaster picture, PictureShare target)
    {
        Require.Consistent(picture is { Width: >= LeastWide, Height: >= LeastHigh }, "image");
        var (w, h) = Sides(picture);
        var (left, top) = ((int)(Rim * picture.Width), (int)(Rim * picture.Height));
        var (right, bottom) = (picture.Width - left - w, picture.Height - top - h);
        var (aimed, middle) = (Region(picture, target), Region(picture, new(0.5, 0.5)));
        (FocusSpot Spot, int X, int Y)[] places =
        [
            (FocusSpot.Target, aimed.X, aimed.Y),
            (FocusSpot.Centre, middle.X, middle.Y),
            (FocusSpot.TopLeft, left, top),
            (FocusSpot.TopRight, right, top),
            (FocusSpot.BottomLeft, left, bottom),
            (FocusSpot.BottomRight, right, bottom),
        ];
        GreyRaster[] cuts = [.. places.Select(p => picture.Cut(p.X, p.Y, w, h))];
        // The quietest part tells the noise of all: elsewhere it is mixed with what is seen. At an end of the scale there is none.
        bool[] clipped = [.. cuts.Select(c => Clipped(c) > MostClipped)];
        var noise = cuts.Where((_, i) => !clipped[i]).Select(c => PictureNoise.Of(c, 3, 3).SigmaTiles).DefaultIfEmpty(0).Min();
        return [.. places.Select((p, i) => Detail(p.Spot, new(p.X, p.Y, w, h), cuts[i], noise, clipped[i]))];
    }

    /// <summary>The part around a point, as large as each is, inside the picture.</summary>
    internal static PictureRegion Region(GreyRaster picture, PictureShare around)
    {
        var (w, h) = Sides(picture);
        return new(At(around.X, picture.Width, w), At(around.Y, picture.Height, h), w, h);

        static int At(double share, int length, int size) =>
            Math.Clamp((int)Math.Round(share * length) - size / 2, 0, Math.Max(0, length - size));
    }

    private static (int Wide, int High) Sides(GreyRaster picture) =>
        (Math.Max(9, (int)(Size * picture.Width)), Math.Max(9, (int)(Size * picture.Height)));

    private static SpotDetail Detail(FocusSpot spot, PictureRegion region, GreyRaster cut, double noise, bool isClipped)
    {
        var (energy, uncertainty, grey) = Slopes(cut, noise);
        if (energy < Math.Max(LeastEnergy, LeastOverNoise * noise * noise) || isClipped)
            return new(spot, region, null, 0, grey);
        var mean = Math.Max(1, grey);
        return new(spot, region, energy / (mean * mean), uncertainty, grey);
    }

    /// <summary>Mean squared slope without noise, how sure that is by noise alone (a share, twice the deviation), and the mean
    /// level.</summary>
    /// <param name="cut">A part of a picture.</param>
    /// <param name="noise">Of its pixels, grey levels.</param>
    internal static (double Energy, double Uncertainty, double MeanGrey) Slopes(GreyRaster cut, double noise)
    {
        var sharp = Sharpness.Of(cut);
        var (floor, energy) = (noise * noise, sharp.GradientEnergy - noise * noise);
        // Noise of the slopes themselves, and of slopes times what is seen; neighbours share pixels, so a half of them counts.
        var spread = Math.Sqrt(Math.Max(0, floor * floor + 2 * energy * floor) / (cut.Levels.Length / 2.0));
        return (energy, energy > 0 ? 2 * spread / energy : 0, sharp.MeanGrey);
    }

    /// <summary>Share of pixels that are black or white.</summary>
    private static double Clipped(GreyRaster cut)
    {
        var histogram = cut.Histogram();
        double clipped = 0;
        for (var g = 0; g < 256; g++)
            if (g is < 3 or > 252)
                clipped += histogram[g];
        return clipped / cut.Levels.Length;
    }
}
