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
    public static Sharpness Of(GreyRaster picture)
    {
        var (w, h) = (picture.Width, picture.Height);
        var g = picture.Levels;
        long sum = 0;
        foreach (var level in g)
            sum += level;
        long slopes = 0,
            total = 0,
            squares = 0;
        for (var y = 1; y < h - 1; y++)
        {
            var above = g.Slice((y - 1) * w, w);
            var here = g.Slice(y * w, w);
            var below = g.Slice((y + 1) * w, w);
            for (var x = 1; x < w - 1; x++)
            {
                var dx = here[x + 1] - here[x - 1];
                var dy = below[x] - above[x];
                slopes += dx * dx + dy * dy;
                var laplacian = here[x - 1] + here[x + 1] + above[x] + below[x] - 4 * here[x];
                total += laplacian;
                squares += laplacian * laplacian;
            }
        }
        double n = (double)(w - 2) * (h - 2);
        return new(sum / (double)g.Length, slopes / 4.0 / n, Math.Max(0, squares / n - total / n * (total / n)));
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
        double[] all = [.. Tiling.Cut(picture, rows, columns).Select(t => Sharpness.Of(t).GradientNormalised)];
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
