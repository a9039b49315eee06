using Walkdown.Core.Pictures;

namespace Walkdown.Core.Nights;

/// <summary>One tile of a picture: how much of its light lies over the view and shows nothing of it.</summary>
/// <param name="Light">Mean light, as a share of white; linear.</param>
/// <param name="Veil">Light that lies over it, likewise; null: nothing tells.</param>
/// <param name="Clipped">Share of its pixels that are white.</param>
/// <param name="IsPlain">By day nothing is to be seen in it: sky, or a surface.</param>
/// <param name="ByDay">Its light by day against the mean of that picture.</param>
public readonly record struct VeilTile(double Light, double? Veil, double Clipped, bool IsPlain, double ByDay)
{
    /// <summary>Share of its light that lies over it; null: nothing tells.</summary>
    public double? Share => Veil is { } veil ? (Light > 0 ? veil / Light : 0) : null;
}

/// <summary>Where light lies over a night picture like a veil: tile by tile against the same view by day (docs/calculations.md, N). A veil
/// adds light and takes nothing away: what was dark is lifted, and contrast falls by the same share. The smaller of both counts, so that a
/// scene without black is no fog.</summary>
/// <param name="Columns">Tiles across.</param>
/// <param name="Rows">Tiles down.</param>
/// <param name="Tiles">Row by row.</param>
public sealed record VeilMap(int Columns, int Rows, ImmutableArray<VeilTile> Tiles)
{
    internal const int Across = 16,
        Down = 9;

    /// <summary>Light of a tile without contrast that is nothing beside the picture's mean.</summary>
    private const double Nothing = 0.12;

    /// <summary>Tiles without contrast that are so much brighter than the others, and so bright, show nothing but light, if they are so
    /// many: a surface near the lamps. Fewer are a sign or a patch of ground.</summary>
    private const double Glaring = 2,
        Bright = 0.35;
    private const int LeastGlaring = 8;

    /// <summary>Likeness from which a tile shows what it showed by day.</summary>
    private const double StillThere = 0.4;

    /// <summary>So little of its light lies over a clear tile; clear ones are looked for so many tiles around.</summary>
    private const double Clear = 0.2;
    private const int Around = 4;

    /// <summary>Share of all light, where it is known, that lies over the view; 0 to 1.</summary>
    public double Share
    {
        get
        {
            var (veil, light) = (Tiles.Sum(t => t.Veil ?? 0), Tiles.Sum(t => t.Veil is null ? 0 : t.Light));
            return light > 0 ? veil / light : 0;
        }
    }

    /// <summary>Likewise of one part of the picture, which is cut into so many; null: nothing is known of it.</summary>
    internal double? ShareOf(int row, int column, int down, int across)
    {
        var (veil, light, isKnown) = (0.0, 0.0, false);
        for (var y = row * Rows / down; y < (row + 1) * Rows / down; y++)
        for (var x = column * Columns / across; x < (column + 1) * Columns / across; x++)
            if (Tiles[y * Columns + x] is { Veil: { } lies } tile)
                (veil, light, isKnown) = (veil + lies, light + tile.Light, true);
        return !isKnown ? null
            : light > 0 ? veil / light
            : 0;
    }

    /// <summary>Share of tiles of which something is known.</summary>
    public double Known => (double)Tiles.Count(t => t.Veil is not null) / Tiles.Length;

    /// <summary>Mean light of the picture, share of white, linear.</summary>
    public double Light => Tiles.Average(t => t.Light);

    /// <param name="night">In the dark.</param>
    /// <param name="day">The same view by day.</param>
    internal static VeilMap Of(ImmutableArray<TileLight> night, ImmutableArray<TileLight?> day)
    {
        // Of what was not in the picture by day nothing is known.
        TileLight[] there = [.. day.OfType<TileLight>()];
        var mean = night.Average(t => t.Mean);
        var dayMean = there.Length > 0 ? Math.Max(1e-6, there.Average(t => t.Mean)) : 1;
        var seen = night.Where((_, i) => day[i] is { IsPlain: false }).Select(t => t.Mean).Order().ToArray();
        var glaring = Math.Max(Bright, seen.Length > 0 ? Glaring * seen[seen.Length / 2] : Bright);
        if (night.Where((t, i) => day[i] is { IsPlain: true } && t.Mean > glaring).Count() < LeastGlaring)
            glaring = double.MaxValue;
        double?[] veils = [.. night.Select((tile, i) => day[i] is { } then ? Veil(tile, then, mean, glaring) : null)];
        return new(
            Across,
            Down,
            [
                .. night.Select(
                    (tile, i) =>
                        day[i] is { } then
                            ? new VeilTile(tile.Mean, Unshadowed(night, day, veils, i), tile.Clipped, then.IsPlain, then.Mean / dayMean)
                            : new VeilTile(tile.Mean, null, tile.Clipped, false, 1)
                ),
            ]
        );
    }

    private static double? Veil(TileLight night, TileLight day, double mean, double glaring)
    {
        // White over all: whatever it is, it is not the view. A line on the ground that shines has dark beside it.
        if (night.IsWhite)
            return night.Black;
        if (night.Mean < 1e-4)
            return 0;
        // At most as much as its darkest lies over all of it.
        if (day.IsPlain)
            return night.Black < Nothing * mean ? night.Black
                : night.Mean > glaring ? night.Mean
                : null;
        var dark = day.Black / day.Mean;
        var byBlack = (night.Black / night.Mean - dark) / (1 - dark);
        var byContrast = 1 - night.Contrast / day.Contrast;
        return night.Mean * Math.Clamp(Math.Min(byBlack, byContrast), 0, 1);
    }

    /// <summary>A shadow that lay in a tile by day is gone in the dark, as if something lay over it: but nothing that lies over it leaves it
    /// as bright as the clear tiles to both sides of it are. That is asked where it shows nothing of what it showed by day.</summary>
    private static double? Unshadowed(ImmutableArray<TileLight> night, ImmutableArray<TileLight?> day, double?[] veils, int tile)
    {
        var (now, then) = (night[tile], day[tile]!);
        if (!(veils[tile] > Clear * now.Mean) || now.IsWhite || then.IsPlain || now.LikenessTo(then) >= StillThere)
            return veils[tile];
        double? gain = null;
        foreach (var (right, down) in (ReadOnlySpan<(int, int)>)[(1, 0), (0, 1), (1, 1), (1, -1)])
            if (
                Gain(right, down) is { } one
                && Gain(-right, -down) is { } other
                && Math.Sqrt(one * other) is var between
                && !(between >= gain)
            )
                gain = between;
        return gain is null ? veils[tile] : Math.Min(veils[tile]!.Value, Math.Max(0, now.Mean - gain.Value * then.Upper));

        // Of the nearest clear tile one way: its light against that by day.
        double? Gain(int right, int down)
        {
            for (var far = 1; far <= Around; far++)
            {
                var (row, column) = (tile / Across + far * down, tile % Across + far * right);
                if (row is < 0 or >= Down || column is < 0 or >= Across)
                    return null;
                var i = row * Across + column;
                if (veils[i] <= Clear * night[i].Mean && day[i] is { Mean: > 0 } clear)
                    return night[i].Mean / clear.Mean;
            }
            return null;
        }
    }

    /// <summary>Of pictures of one view the least veil of each tile: what went by in one of them is none.</summary>
    /// <param name="maps">At least one, the newest last: its light counts.</param>
    public static VeilMap Least(IReadOnlyList<VeilMap> maps)
    {
        var newest = maps[^1];
        return newest with
        {
            Tiles =
            [
                .. newest.Tiles.Select(
                    (tile, i) =>
                    {
                        double? least = null;
                        foreach (var map in maps)
                            if (map.Tiles[i].Share is { } share && !(share >= least))
                                least = share;
                        return tile with { Veil = least * tile.Light };
                    }
                ),
            ],
        };
    }

    /// <summary>Share of the light that lies over the view where it is worst: three tiles by three. Dark places are nothing that anybody
    /// sees. Null: nothing is known of any.</summary>
    public double? Worst
    {
        get
        {
            var least = 0.25 * Light;
            double? worst = null;
            for (var row = 1; row < Rows - 1; row++)
            for (var column = 1; column < Columns - 1; column++)
            {
                double veil = 0,
                    light = 0;
                var known = 0;
                for (var part = 0; part < 9; part++)
                {
                    var tile = Tiles[(row + part / 3 - 1) * Columns + column + part % 3 - 1];
                    if (tile.Veil is { } over)
                        (veil, light, known) = (veil + over, light + tile.Light, known + 1);
                }
                if (known >= 5 && light / known > least && !(veil / light <= worst))
                    worst = veil / light;
            }
            return worst;
        }
    }

    /// <summary>Light of each tile, row by row.</summary>
    /// <param name="picture">Any size.</param>
    /// <param name="right">Its tiles stand so far right, share of the width.</param>
    /// <param name="down">Likewise below, share of the height.</param>
    /// <returns>Null where a tile is not wholly in the picture.</returns>
    internal static ImmutableArray<TileLight?> Lights(GreyRaster picture, double right = 0, double down = 0)
    {
        // A very large one is thinned first: what is left is averaged still.
        var small = picture
            .Thinned(4 * Across * TileLight.Side * Down * TileLight.Side)
            .Sized(Across * TileLight.Side, Down * TileLight.Side);
        var (dx, dy) = ((int)Math.Round(right * small.Width), (int)Math.Round(down * small.Height));
        return
        [
            .. Enumerable
                .Range(0, Across * Down)
                .Select(tile => (Left: tile % Across * TileLight.Side + dx, Top: tile / Across * TileLight.Side + dy))
                .Select(at =>
                    at is { Left: >= 0, Top: >= 0 } && at.Left + TileLight.Side <= small.Width && at.Top + TileLight.Side <= small.Height
                        ? TileLight.Of(small, at.Left, at.Top)
                        : null
                ),
        ];
    }
}
