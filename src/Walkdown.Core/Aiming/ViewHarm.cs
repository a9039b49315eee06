using Walkdown.Core.Measures;
using Walkdown.Core.Pictures;

namespace Walkdown.Core.Aiming;

/// <summary>What harms a view.</summary>
public enum HarmKind
{
    /// <summary>Something stands before what was agreed: a shroud, an eave, a leaf.</summary>
    Covered,

    /// <summary>White where the agreed view was not: a lamp, the sun, glass.</summary>
    Glare,
}

/// <summary>Where in a picture.</summary>
public enum HarmSide
{
    /// <summary>No side by itself.</summary>
    Inside,

    /// <summary>Along it.</summary>
    Top,

    /// <summary>Along it.</summary>
    Right,

    /// <summary>Along it.</summary>
    Bottom,

    /// <summary>Along it.</summary>
    Left,
}

/// <summary>A part of a picture that shows less than was agreed (docs/calculations.md, N: blocked, exposure).</summary>
/// <param name="Kind">What it is.</param>
/// <param name="Side">Where most of it lies.</param>
/// <param name="Share">Of the picture, 0 to 1.</param>
/// <param name="Tiles">Its tiles: the upper left corner of each, in shares of the picture; a tile is a 16th wide and a 9th high.</param>
/// <param name="Said">In words.</param>
public sealed record ViewHarm(HarmKind Kind, HarmSide Side, double Share, ImmutableArray<PictureShare> Tiles, Message Said)
{
    private const int Rows = 9,
        Columns = 16;

    /// <summary>So many tiles at least are told of: one alone is a bird, or a sign.</summary>
    private const int Least = 3;

    /// <summary>Of its tiles in the outer third of the picture on one side, to be that side's.</summary>
    private const double OfSide = 0.7;

    /// <summary>White from here, and that share of a tile.</summary>
    private const int White = 250;
    private const double MostWhite = 0.5;

    /// <summary>With less of its contrast than that over all, it is another light: what is flat says nothing then.</summary>
    private const double LeastContrast = 0.4;

    /// <summary>What the picture shows less of than the agreed one.</summary>
    /// <param name="agreed">As it was agreed.</param>
    /// <param name="now">The same view, laid on it to within a tile; of the same size.</param>
    /// <returns>Null: in this light nothing can be told.</returns>
    public static ImmutableArray<ViewHarm>? Of(GreyRaster agreed, GreyRaster now)
    {
        var (had, has) = (Tiling.Deviations(agreed, Rows, Columns), Tiling.Deviations(now, Rows, Columns));
        var left = had.Select((d, i) => (Had: d, Now: has[i])).Where(d => d.Had > 8).Select(d => d.Now / d.Had).Order().ToArray();
        if (left.Length < Least || left[left.Length / 2] < LeastContrast)
            return null;
        var (before, after) = (WhiteTiles(agreed), WhiteTiles(now));
        var glare = Enumerable.Range(0, Rows * Columns).Where(i => after[i] && !before[i]).ToList();
        // What is white is flat too: it is told once.
        var covered = Blocked.Of(agreed, now, Rows, Columns).Tiles.Select(t => t.Row * Columns + t.Column).Where(i => !after[i]).ToList();
        return [.. Told(HarmKind.Covered, covered), .. Told(HarmKind.Glare, glare)];
    }

    private static IEnumerable<ViewHarm> Told(HarmKind kind, List<int> tiles)
    {
        if (tiles.Count < Least)
            yield break;
        var side = SideOf(tiles);
        var share = (double)tiles.Count / (Rows * Columns);
        yield return new(
            kind,
            side,
            share,
            [.. tiles.Select(i => new PictureShare((double)(i % Columns) / Columns, (double)(i / Columns) / Rows))],
            new($"harm.{Codes.Of(kind)}-{Codes.Of(side)}", Message.Number(share * 100, 0))
        );
    }

    private static HarmSide SideOf(List<int> tiles)
    {
        (HarmSide Side, int Count)[] sides =
        [
            (HarmSide.Top, tiles.Count(i => i / Columns < Rows / 3)),
            (HarmSide.Bottom, tiles.Count(i => i / Columns >= Rows - Rows / 3)),
            (HarmSide.Left, tiles.Count(i => i % Columns < Columns / 3)),
            (HarmSide.Right, tiles.Count(i => i % Columns >= Columns - Columns / 3)),
        ];
        var most = sides.MaxBy(s => s.Count);
        return most.Count >= OfSide * tiles.Count ? most.Side : HarmSide.Inside;
    }

    private static bool[] WhiteTiles(GreyRaster picture) =>
        [.. Tiling.Cut(picture, Rows, Columns).Select(tile => Exposure.Of(tile, 0, White).OverPercent >= 100 * MostWhite)];
}
