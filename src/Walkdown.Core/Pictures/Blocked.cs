using Walkdown.Core.Measures;

namespace Walkdown.Core.Pictures;

/// <summary>What of a view is covered now, tile by tile against a picture in which it was free (docs/calculations.md, N): a tile that
/// had detail and is flat.</summary>
/// <param name="WithDetail">Tiles that had detail.</param>
/// <param name="Tiles">Those that are flat now, by row and column from 0.</param>
/// <param name="PercentOfDetail">Of those with detail; null: none had any.</param>
/// <param name="PercentOfPicture">Of all tiles.</param>
public sealed record Blocked(int WithDetail, ImmutableArray<(int Row, int Column)> Tiles, double? PercentOfDetail, double PercentOfPicture)
{
    /// <summary>A tile with a smaller deviation is flat, one with a larger has detail, where nobody says otherwise.</summary>
    internal const double FlatBelow = 4,
        DetailAbove = 8;

    /// <summary>Tiles that had detail and are flat, by the deviations of both.</summary>
    internal static IEnumerable<int> FlatNow(double[] had, double[] has, double flatBelow = FlatBelow, double detailAbove = DetailAbove) =>
        Enumerable.Range(0, had.Length).Where(i => had[i] > detailAbove && has[i] < flatBelow);

    /// <param name="reference">When it was free.</param>
    /// <param name="now">Of the same size.</param>
    /// <param name="rows">1 to 64.</param>
    /// <param name="columns">1 to 64.</param>
    /// <param name="flatBelow">A tile with a smaller deviation is flat.</param>
    /// <param name="detailAbove">A tile with a larger deviation has detail.</param>
    public static Blocked Of(
        GreyRaster reference,
        GreyRaster now,
        int rows = 9,
        int columns = 16,
        double flatBelow = FlatBelow,
        double detailAbove = DetailAbove
    )
    {
        GreyRaster.SameSize(reference, now);
        Require.Number(flatBelow, "flat_below");
        Require.Number(detailAbove, "reference_detail_above");
        var (had, has) = (Tiling.Deviations(reference, rows, columns), Tiling.Deviations(now, rows, columns));
        var detail = had.Count(d => d > detailAbove);
        var tiles = FlatNow(had, has, flatBelow, detailAbove).Select(i => (i / columns, i % columns)).ToImmutableArray();
        return new(detail, tiles, detail == 0 ? null : 100.0 * tiles.Length / detail, 100.0 * tiles.Length / had.Length);
    }
}

/// <summary>A picture in tiles.</summary>
internal static class Tiling
{
    /// <summary>Deviation of the levels of each tile, row by row.</summary>
    public static double[] Deviations(GreyRaster picture, int rows, int columns) =>
        [
            .. Parts(picture, rows, columns)
                .Select(part =>
                {
                    var (sum, squares) = PixelSums.Levels(picture, part);
                    double count = part.Wide * part.High;
                    return Math.Sqrt(Math.Max(0, squares / count - sum / count * (sum / count)));
                }),
        ];

    /// <summary>Where each tile lies, row by row.</summary>
    public static IEnumerable<PixelPart> Parts(GreyRaster picture, int rows, int columns)
    {
        Check(picture, rows, columns);
        for (var r = 0; r < rows; r++)
        for (var c = 0; c < columns; c++)
        {
            var (top, bottom) = GreyRaster.Part(picture.Height, rows, r);
            var (left, right) = GreyRaster.Part(picture.Width, columns, c);
            yield return new(left, top, right - left, bottom - top);
        }
    }

    /// <summary>Each tile cut out, row by row.</summary>
    public static IEnumerable<GreyRaster> Cut(GreyRaster picture, int rows, int columns) =>
        Parts(picture, rows, columns).Select(part => picture.Cut(part.Left, part.Top, part.Wide, part.High));

    private static void Check(GreyRaster picture, int rows, int columns)
    {
        Require.Number(rows, "rows", 1, 64);
        Require.Number(columns, "cols", 1, 64);
        Require.Consistent(picture.Width / columns >= 3 && picture.Height / rows >= 3, "rows");
    }
}
