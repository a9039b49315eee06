using Walkdown.Core.Measures;

namespace Walkdown.Core.Pictures;

/// <summary>Where a lens was sharpest as it was turned (docs/calculations.md, N): the vertex of a parabola through the best and its
/// neighbours.</summary>
/// <param name="Verdict">Whether there is a top.</param>
/// <param name="Position">Of it; null: there is no clear one.</param>
/// <param name="Peak">Its value.</param>
public sealed record FocusSweep(FocusVerdict Verdict, double? Position, double Peak)
{
    private const double LeastSpan = 0.10;

    /// <param name="positions">Of the ring or motor, each once.</param>
    /// <param name="values">Sharpness at each, at least 0; as many, at least 3.</param>
    public static FocusSweep Of(IReadOnlyList<double> positions, IReadOnlyList<double> values)
    {
        if (positions.Count == 0)
            throw new BadInputException(BadInputReason.Empty, "positions");
        Require.Consistent(positions.Count == values.Count, "sharpness_values");
        Require.Consistent(positions.Count >= 3, "positions");
        for (var i = 0; i < positions.Count; i++)
        {
            Require.Number(positions[i], "positions");
            Require.Number(values[i], "sharpness_values", 0);
        }
        Require.Consistent(positions.Distinct().Count() == positions.Count, "positions");
        (double X, double Y)[] at = [.. positions.Zip(values).OrderBy(p => p.First)];
        var (top, low) = (at.Max(p => p.Y), at.Min(p => p.Y));
        if (top <= 0 || top - low < LeastSpan * top - 1e-9 * top)
            return new(FocusVerdict.NoClearPeak, null, top);
        var best = Array.FindIndex(at, p => p.Y == top);
        if (best == 0 || best == at.Length - 1)
            return new(FocusVerdict.PeakAtEndOfSweep, at[best].X, top);
        var (a, b, c) = (at[best - 1], at[best], at[best + 1]);
        // Newton's form through the three.
        var first = (b.Y - a.Y) / (b.X - a.X);
        var second = ((c.Y - b.Y) / (c.X - b.X) - first) / (c.X - a.X);
        if (second >= 0)
            return new(FocusVerdict.Ok, b.X, b.Y);
        var x = (a.X + b.X) / 2 - first / (2 * second);
        return new(FocusVerdict.Ok, x, a.Y + first * (x - a.X) + second * (x - a.X) * (x - b.X));
    }
}

/// <summary>Whether a sweep has a top.</summary>
public enum FocusVerdict
{
    /// <summary>It has.</summary>
    Ok,

    /// <summary>The values hardly differ.</summary>
    NoClearPeak,

    /// <summary>The best is the first or the last: go on that way.</summary>
    PeakAtEndOfSweep,
}

/// <summary>Whether a picture is sharper than an earlier one of the same view, each freed of its own noise and of its light.</summary>
/// <param name="Verdict">What that is.</param>
/// <param name="Ratio">Of the second to the first; null: the first has no detail.</param>
public sealed record FocusComparison(FocusChange Verdict, double? Ratio)
{
    /// <param name="before">The earlier one.</param>
    /// <param name="after">Of the same size.</param>
    /// <param name="allowedPercent">So much either way is the same.</param>
    public static FocusComparison Of(GreyRaster before, GreyRaster after, double allowedPercent = 15)
    {
        GreyRaster.SameSize(before, after);
        Require.Number(allowedPercent, "allowed_loss_percent");
        var first = Detail(before);
        if (first <= 0)
            return new(FocusChange.NoDetail, null);
        var ratio = Detail(after) / first;
        return new(
            ratio < 1 - allowedPercent / 100 - 1e-9 ? FocusChange.Softer
                : ratio > 1 + allowedPercent / 100 + 1e-9 ? FocusChange.Sharper
                : FocusChange.Same,
            ratio
        );
    }

    private static double Detail(GreyRaster picture)
    {
        var sharp = Sharpness.Of(picture);
        var noise = PictureNoise.Sigma(picture);
        var mean = Math.Max(1, sharp.MeanGrey);
        return Math.Max(0, sharp.GradientEnergy - noise * noise) / (mean * mean);
    }
}

/// <summary>How sharpness changed.</summary>
public enum FocusChange
{
    /// <summary>Within what is allowed.</summary>
    Same,

    /// <summary>More.</summary>
    Sharper,

    /// <summary>Less.</summary>
    Softer,

    /// <summary>There was nothing to compare.</summary>
    NoDetail,
}
