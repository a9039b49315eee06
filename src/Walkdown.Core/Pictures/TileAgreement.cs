namespace Walkdown.Core.Pictures;

/// <summary>Tile by tile, whether two pictures that lie on each other agree in detail. Light and shadow change slowly over a tile and do
/// not count; what moved, or stands before it, does not agree.</summary>
internal sealed class TileAgreement
{
    private const int Rows = 9,
        Columns = 16;
    private const double Agrees = 0.5;

    // Detail is what stands out of the picture's own grain, in evened values.
    private const double LeastHere = 144,
        LeastThere = 36;

    private readonly double[] _alike = new double[Rows * Columns];

    /// <summary>Tiles that both show and in which there is something to compare.</summary>
    public int WithDetail { get; private set; }

    /// <summary>Those of them that agree.</summary>
    public int Agreeing { get; private set; }

    /// <summary>Of those with something to compare, the share that agrees.</summary>
    public double Share => WithDetail == 0 ? 0 : Agreeing / (double)WithDetail;

    /// <param name="reference">Whose tiles.</param>
    /// <param name="now">Against it.</param>
    /// <param name="move">In pixels of <see cref="PicturePyramid.Detail"/>.</param>
    public static TileAgreement Of<TMove>(PicturePyramid reference, PicturePyramid now, TMove move)
        where TMove : struct, IMove<TMove>
    {
        var (a, b) = (reference.Detail, now.Detail);
        var told = new TileAgreement();
        for (var tile = 0; tile < Rows * Columns; tile++)
        {
            var (top, bottom) = GreyRaster.Part(a.Height, Rows, tile / Columns);
            var (left, right) = GreyRaster.Part(a.Width, Columns, tile % Columns);
            var seen = Alignment.Alike(a, b, move, new(left, top, right - left, bottom - top));
            told._alike[tile] = double.NaN;
            if (seen.Count < 0.5 * (bottom - top) * (right - left) || seen.Count < 16)
                continue;
            if (seen.First < LeastHere || seen.Second < LeastThere)
                continue;
            var alike = seen.Correlation;
            told._alike[tile] = alike;
            told.WithDetail++;
            if (alike >= Agrees)
                told.Agreeing++;
        }
        return told;
    }

    /// <summary>Which pixels of a picture lie in tiles that do not disagree.</summary>
    public bool[] Use(Plane plane)
    {
        var use = new bool[plane.Values.Length];
        for (var tile = 0; tile < Rows * Columns; tile++)
        {
            if (_alike[tile] < 0.3)
                continue;
            var (top, bottom) = GreyRaster.Part(plane.Height, Rows, tile / Columns);
            var (left, right) = GreyRaster.Part(plane.Width, Columns, tile % Columns);
            for (var y = top; y < bottom; y++)
                use.AsSpan(y * plane.Width + left, right - left).Fill(true);
        }
        return use;
    }
}
