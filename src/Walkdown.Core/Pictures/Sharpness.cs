namespace Walkdown.Core.Pictures;

/// <summary>How much detail a picture has (docs/calculations.md, N). It depends on the scene: only pictures of one view compare.</summary>
/// <param name="MeanGrey">Of the whole, its border too.</param>
/// <param name="GradientEnergy">Mean of the squared slopes, by central differences, of the inner pixels.</param>
/// <param name="LaplacianVariance">Of the four-neighbour Laplacian, of the inner pixels.</param>
public sealed record Sharpness(double MeanGrey, double GradientEnergy, double LaplacianVariance)
{
    /// <summary>Against the mean squared (at least 1), so that a brighter picture is not a sharper one.</summary>
    public double GradientNormalised => GradientEnergy / Squared;

    /// <summary>Against the mean squared (at least 1).</summary>
    public double LaplacianNormalised => LaplacianVariance / Squared;

    private double Squared => Math.Max(1, MeanGrey) * Math.Max(1, MeanGrey);

    /// <param name="picture">At least 3 x 3.</param>
    public static Sharpness Of(GreyRaster picture) => Of(picture, picture.Whole);

    /// <summary>Of a part, as if it were cut out.</summary>
    internal static Sharpness Of(GreyRaster picture, PixelPart part)
    {
        long sum = 0,
            slopes = 0,
            total = 0,
            squares = 0;
        for (var y = 0; y < part.High; y++)
        {
            sum += PixelSums.Levels(picture, part with { Top = part.Top + y, High = 1 }).Sum;
            if (y == 0 || y == part.High - 1)
                continue;
            var here = PixelSums.Slopes(picture.Row(part, y - 1), picture.Row(part, y), picture.Row(part, y + 1));
            slopes += here.Slopes;
            total += here.Laplacians;
            squares += here.Squares;
        }
        double n = (double)(part.Wide - 2) * (part.High - 2);
        return new(sum / ((double)part.Wide * part.High), slopes / 4.0 / n, Math.Max(0, squares / n - total / n * (total / n)));
    }
}

/// <summary>Detail tile by tile, as gradient energy against each tile's own mean.</summary>
/// <param name="Tiles">By row and column.</param>
/// <param name="Median">Of all.</param>
/// <param name="Sharpest">Row and column, from 0; the first in reading order.</param>
/// <param name="Softest">Row and column, from 0; the first in reading order.</param>
public sealed record SharpnessMap(
    ImmutableArray<ImmutableArray<double>> Tiles,
    double Median,
    (int Row, int Column) Sharpest,
    (int Row, int Column) Softest
)
{
    /// <param name="picture">Whose tiles are at least 3 x 3.</param>
    /// <param name="rows">1 to 64.</param>
    /// <param name="columns">1 to 64.</param>
    public static SharpnessMap Of(GreyRaster picture, int rows, int columns)
    {
        double[] all = [.. Tiling.Parts(picture, rows, columns).Select(part => Sharpness.Of(picture, part).GradientNormalised)];
        var sorted = all.Order().ToArray();
        var (best, worst) = (Array.IndexOf(all, sorted[^1]), Array.IndexOf(all, sorted[0]));
        return new(
            [.. Enumerable.Range(0, rows).Select(r => all[(r * columns)..((r + 1) * columns)].ToImmutableArray())],
            (sorted[(sorted.Length - 1) / 2] + sorted[sorted.Length / 2]) / 2,
            (best / columns, best % columns),
            (worst / columns, worst % columns)
        );
    }
}
