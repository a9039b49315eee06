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
    internal const int Rows = 9,
        Columns = 16;

    /// <summary>So many tiles at least are told of: one alone is a bird, or a sign.</summary>
    private const int Least = 3;

    /// <summary>Of its tiles in the outer third of the picture on one side, to be that side's.</summary>
    private const double OfSide = 0.7;

    /// <summary>With less of its contrast than that over all, it is another light: what is flat says nothing then.</summary>
    private const double LeastContrast = 0.4;

    /// <summary>Further off a tile of the one picture is no tile of the other: share of the field, and degrees of roll.</summary>
    private const double LaidOff = 0.03,
        LaidRolled = 2;

    /// <summary>What a picture shows less of than the agreed one.</summary>
    /// <param name="target">The agreed view.</param>
    /// <param name="look">How the picture lies on it.</param>
    /// <param name="now">The picture.</param>
    /// <returns>Null: it lies too far off, or is in another light: nothing can be told.</returns>
    public static ImmutableArray<ViewHarm>? Of(AimTarget target, AimLook look, GreyRaster now) =>
        look.Measured is { } laid
        && laid.OffDeg <= LaidOff * target.HorizontalDeg
        && Math.Abs(laid.RollDeg) <= LaidRolled
        && target.Sized(now) is { } sized
            ? Of(target.Tiles, ViewTiles.Of(sized))
            : null;

    /// <inheritdoc cref="Of(AimTarget, AimLook, GreyRaster)"/>
    /// <param name="agreed">As it was agreed.</param>
    /// <param name="now">The same view, laid on it to within a tile.</param>
    internal static ImmutableArray<ViewHarm>? Of(ViewTiles agreed, ViewTiles now)
    {
        double[] left =
        [
            .. agreed.Deviations.Zip(now.Deviations).Where(d => d.First > Blocked.DetailAbove).Select(d => d.Second / d.First).Order(),
        ];
        if (left.Length < Least || left[left.Length / 2] < LeastContrast)
            return null;
        var glare = Enumerable.Range(0, Rows * Columns).Where(i => now.White[i] && !agreed.White[i]).ToList();
        // What is white is flat too: it is told once.
        var covered = Blocked.FlatNow(agreed.Deviations, now.Deviations).Where(i => !now.White[i]).ToList();
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
}

/// <summary>What is seen in each part of a picture, 16 by 9, row by row.</summary>
/// <param name="Deviations">Of its levels.</param>
/// <param name="White">Half of it, or more, is white.</param>
internal sealed record ViewTiles(double[] Deviations, bool[] White)
{
    /// <summary>White from here, and that share of a tile.</summary>
    private const int WhiteFrom = 250;
    private const double MostWhite = 0.5;

    public static ViewTiles Of(GreyRaster picture) =>
        new(
            Tiling.Deviations(picture, ViewHarm.Rows, ViewHarm.Columns),
            [
                .. Tiling
                    .Cut(picture, ViewHarm.Rows, ViewHarm.Columns)
                    .Select(tile => Exposure.Of(tile, 0, WhiteFrom).OverPercent >= 100 * MostWhite),
            ]
        );
}
