using Walkdown.Core.Measures;

namespace Walkdown.Core.Pictures;

/// <summary>Where black is lifted: haze, and infrared that comes back (docs/calculations.md, N). With a picture from before compare the
/// levels instead: a scene without black is not haze.</summary>
/// <param name="Centre">First percentile of the middle.</param>
/// <param name="Ring">Of all around it.</param>
/// <param name="Left">Of the left third.</param>
/// <param name="Right">Of the right third.</param>
/// <param name="Top">Of the top third.</param>
/// <param name="Bottom">Of the bottom third.</param>
/// <param name="Whole">Of all.</param>
/// <param name="Findings">What that means.</param>
public sealed record Haze(int Centre, int Ring, int Left, int Right, int Top, int Bottom, int Whole, ImmutableArray<HazeFinding> Findings)
{
    /// <param name="picture">Any size.</param>
    /// <param name="ringFraction">Left off each side for the middle, above 0 and under 0.5.</param>
    /// <param name="raisedAt">Black is raised from here.</param>
    /// <param name="differenceAt">One part against another, from here.</param>
    public static Haze Of(GreyRaster picture, double ringFraction = 0.2, double raisedAt = 45, double differenceAt = 15)
    {
        Require.Positive(ringFraction, "ring_fraction", Math.BitDecrement(0.5));
        Require.Number(raisedAt, "raised_at");
        Require.Number(differenceAt, "difference_at");
        var (w, h) = (picture.Width, picture.Height);
        var (mx, my) = ((int)(ringFraction * w), (int)(ringFraction * h));
        var (tx, ty) = (w / 3, h / 3);
        var all = picture.Histogram();
        var middle = picture.Cut(mx, my, w - 2 * mx, h - 2 * my).Histogram();
        var around = new int[256];
        for (var g = 0; g < 256; g++)
            around[g] = all[g] - middle[g];
        var whole = Black(all);
        var (centre, ring) = (Black(middle), around.Any(n => n > 0) ? Black(around) : whole);
        var (left, right) = (Black(picture.Cut(0, 0, tx, h).Histogram()), Black(picture.Cut(w - tx, 0, tx, h).Histogram()));
        var (top, bottom) = (Black(picture.Cut(0, 0, w, ty).Histogram()), Black(picture.Cut(0, h - ty, w, ty).Histogram()));
        var findings = ImmutableArray.CreateBuilder<HazeFinding>();
        if (new[] { centre, ring, left, right, top, bottom, whole }.All(v => v >= raisedAt))
            findings.Add(HazeFinding.BlackLevelRaisedEverywhere);
        else if (ring - centre >= differenceAt)
            findings.Add(HazeFinding.RingGlare);
        Side(left, right, HazeFinding.GlareFromLeft);
        Side(right, left, HazeFinding.GlareFromRight);
        Side(top, bottom, HazeFinding.GlareFromTop);
        Side(bottom, top, HazeFinding.GlareFromBottom);
        return new(centre, ring, left, right, top, bottom, whole, findings.ToImmutable());

        void Side(int side, int opposite, HazeFinding finding)
        {
            if (side - opposite >= differenceAt)
                findings.Add(finding);
        }
    }

    private static int Black(int[] histogram) => GreyRaster.Percentile(histogram, 1);
}

/// <summary>Where black is lifted.</summary>
public enum HazeFinding
{
    /// <summary>All over.</summary>
    BlackLevelRaisedEverywhere,

    /// <summary>Around the middle.</summary>
    RingGlare,

    /// <summary>On the left.</summary>
    GlareFromLeft,

    /// <summary>On the right.</summary>
    GlareFromRight,

    /// <summary>At the top.</summary>
    GlareFromTop,

    /// <summary>At the bottom.</summary>
    GlareFromBottom,
}
