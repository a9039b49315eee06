using Walkdown.Core.Measures;

namespace Walkdown.Core.Pictures;

/// <summary>How a picture is exposed, by its levels (docs/calculations.md, N).</summary>
/// <param name="UnderPercent">Of the pixels, as dark as can be.</param>
/// <param name="OverPercent">Of the pixels, as bright as can be.</param>
/// <param name="MeanGrey">Of all.</param>
/// <param name="Percentile5">Nearest rank.</param>
/// <param name="Percentile95">Nearest rank.</param>
/// <param name="Contrast">Deviation against the mean (at least 1).</param>
/// <param name="Findings">What that means.</param>
public sealed record Exposure(
    double UnderPercent,
    double OverPercent,
    double MeanGrey,
    int Percentile5,
    int Percentile95,
    double Contrast,
    ImmutableArray<ExposureFinding> Findings
)
{
    private const double UnderLimit = 25,
        OverLimit = 5;
    private const int LeastSpan = 40;

    /// <param name="picture">Any size.</param>
    /// <param name="darkAt">Dark from here down, 0 to 255.</param>
    /// <param name="brightAt">Bright from here up, 0 to 255.</param>
    public static Exposure Of(GreyRaster picture, int darkAt = 5, int brightAt = 250)
    {
        Require.Number(darkAt, "dark_at", 0, 255);
        Require.Number(brightAt, "bright_at", 0, 255);
        var histogram = picture.Histogram();
        double count = picture.Levels.Length;
        double under = 0,
            over = 0;
        for (var g = 0; g < 256; g++)
        {
            under += g <= darkAt ? histogram[g] : 0;
            over += g >= brightAt ? histogram[g] : 0;
        }
        (under, over) = (100 * under / count, 100 * over / count);
        var (mean, deviation) = GreyRaster.Moments(histogram);
        var (p5, p95) = (GreyRaster.Percentile(histogram, 5), GreyRaster.Percentile(histogram, 95));
        var findings = ImmutableArray.CreateBuilder<ExposureFinding>();
        if (under > UnderLimit + 1e-9)
            findings.Add(ExposureFinding.UnderExposed);
        if (over > OverLimit + 1e-9)
            findings.Add(ExposureFinding.OverExposed);
        if (p95 - p5 < LeastSpan)
            findings.Add(ExposureFinding.LowContrast);
        return new(under, over, mean, p5, p95, deviation / Math.Max(1, mean), findings.ToImmutable());
    }
}

/// <summary>What an exposure means.</summary>
public enum ExposureFinding
{
    /// <summary>Too much is black.</summary>
    UnderExposed,

    /// <summary>Too much is white.</summary>
    OverExposed,

    /// <summary>Dark and bright lie too near each other.</summary>
    LowContrast,
}
