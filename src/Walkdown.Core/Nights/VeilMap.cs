using Walkdown.Core.Pictures;

namespace Walkdown.Core.Nights;

/// <summary>One tile of a picture: how much of its light lies over the view and shows nothing of it.</summary>
/// <param name="Light">Mean light, as a share of white; linear.</param>
/// <param name="Veil">Light that lies over it, likewise; null: nothing tells.</param>
/// <param name="Clipped">Share of its pixels that are white.</param>
/// <param name="IsPlain">By day nothing is to be seen in it: sky, or a surface.</param>
/// <param name="ByDay">Its light by day against the mean of that picture.</param>
public readonly record struct VeilTile(double Light, double? Veil, double Clipped, bool IsPlain, double ByDay);

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

    /// <summary>Pixels of a tile's side; what is finer is noise, and the lens.</summary>
    private const int Side = 20;

    /// <summary>Contrast by day, deviation against mean light, under which a tile has nothing to be veiled.</summary>
    private const double LeastContrast = 0.1;

    /// <summary>The darkest so many of a tile are its black.</summary>
    private const double BlackShare = 0.04;

    /// <summary>Light of a tile without contrast that is nothing beside the picture's mean.</summary>
    private const double Nothing = 0.12;

    /// <summary>Tiles without contrast that are so much brighter than the others, and so bright, show nothing but light, if they are so many:
    /// a surface near the lamps. Fewer are a sign or a patch of ground.</summary>
    private const double Glaring = 2,
        Bright = 0.35;
    private const int LeastGlaring = 8;

    /// <summary>White from here, and clipped from this share.</summary>
    private const byte White = 250;
    private const double MostClipped = 0.3;

    private static readonly double[] Linear = [.. Enumerable.Range(0, 256).Select(g => Math.Pow(g / 255.0, 2.2))];

    /// <summary>Share of all light, where it is known, that lies over the view; 0 to 1.</summary>
    public double Share => Part(_ => true) ?? 0;

    /// <summary>Share of tiles of which something is known.</summary>
    public double Known => (double)Tiles.Count(t => t.Veil is not null) / Tiles.Length;

    /// <summary>Mean light of the picture, share of white, linear.</summary>
    public double Light => Tiles.Average(t => t.Light);

    /// <summary>Light of a grey level as a share of white.</summary>
    internal static double LinearOf(byte grey) => Linear[grey];

    /// <param name="night">In the dark.</param>
    /// <param name="day">The same view by day, of the same shape.</param>
    /// <param name="right">What the night shows at a place stands so far right of it by day, share of the width.</param>
    /// <param name="down">Likewise below it, share of the height.</param>
    public static VeilMap Of(GreyRaster night, GreyRaster day, double right = 0, double down = 0)
    {
        var (now, then) = (Small(night), Small(day));
        var (dx, dy) = ((int)Math.Round(right * Across * Side), (int)Math.Round(down * Down * Side));
        var tiles = new (double Mean, double Black, double Contrast, double Clipped)[2, Across * Down];
        Measure(now, tiles, 0, 0, 0);
        Measure(then, tiles, 1, dx, dy);
        // Of what was not in the picture by day nothing is known.
        int[] both = [.. Enumerable.Range(0, Across * Down).Where(i => tiles[1, i].Mean >= 0)];
        var mean = Enumerable.Range(0, Across * Down).Average(i => tiles[0, i].Mean);
        var dayMean = both.Length > 0 ? both.Average(i => tiles[1, i].Mean) : 0;
        var seen = both.Where(i => !IsPlain(tiles[1, i])).Select(i => tiles[0, i].Mean).Order().ToArray();
        var glaring = Math.Max(Bright, seen.Length > 0 ? Glaring * seen[seen.Length / 2] : Bright);
        if (both.Count(i => IsPlain(tiles[1, i]) && tiles[0, i].Mean > glaring) < LeastGlaring)
            glaring = double.MaxValue;
        var told = ImmutableArray.CreateBuilder<VeilTile>(Across * Down);
        for (var i = 0; i < Across * Down; i++)
        {
            var (here, there) = (tiles[0, i], tiles[1, i]);
            if (there.Mean < 0)
                told.Add(new(here.Mean, null, here.Clipped, false, 1));
            else
                told.Add(
                    new(here.Mean, Veil(here, there, mean, glaring), here.Clipped, IsPlain(there), there.Mean / Math.Max(1e-6, dayMean))
                );
        }
        return new(Across, Down, told.MoveToImmutable());
    }

    private static double? Veil(
        (double Mean, double Black, double Contrast, double Clipped) night,
        (double Mean, double Black, double Contrast, double Clipped) day,
        double mean,
        double glaring
    )
    {
        // White over all: whatever it is, it is not the view.
        if (night.Clipped > MostClipped)
            return night.Mean;
        if (night.Mean < 1e-4)
            return 0;
        // At most as much as its darkest lies over all of it.
        if (IsPlain(day))
            return night.Black < Nothing * mean ? night.Black
                : night.Mean > glaring ? night.Mean
                : null;
        var dark = day.Black / day.Mean;
        var byBlack = (night.Black / night.Mean - dark) / (1 - dark);
        var byContrast = 1 - night.Contrast / day.Contrast;
        return night.Mean * Math.Clamp(Math.Min(byBlack, byContrast), 0, 1);
    }

    private static bool IsPlain((double Mean, double Black, double Contrast, double Clipped) day) =>
        day.Contrast < LeastContrast || day.Clipped > MostClipped;

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
                            if (map.Tiles[i] is { Veil: { } veil, Light: > 0 and var light } && !(veil / light >= least))
                                least = veil / light;
                        return tile with { Veil = least * tile.Light };
                    }
                ),
            ],
        };
    }

    /// <summary>Share of the light of some tiles that lies over them; null: nothing is known of them.</summary>
    /// <param name="which">By column and row, from 0.</param>
    public double? Part(Func<(int Column, int Row), bool> which)
    {
        double veil = 0,
            light = 0;
        for (var i = 0; i < Tiles.Length; i++)
            if (Tiles[i].Veil is { } over && which((i % Columns, i / Columns)))
                (veil, light) = (veil + over, light + Tiles[i].Light);
        return light > 0 ? veil / light : null;
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

    private static GreyRaster Small(GreyRaster picture) =>
        // A very large one is thinned first: what is left is averaged still.
        picture.Thinned(4 * Across * Side * Down * Side).Sized(Across * Side, Down * Side);

    private static void Measure(
        GreyRaster picture,
        (double Mean, double Black, double Contrast, double Clipped)[,] tiles,
        int at,
        int right,
        int down
    )
    {
        var (light, off) = (new double[Side * Side], new double[Side * Side]);
        // A tile that is lit more on one side than on the other has no more contrast for that: its slope is taken out.
        const double Middle = (Side - 1) / 2.0;
        var squares = Side * Side * (Side * Side - 1) / 12.0;
        for (var tile = 0; tile < Across * Down; tile++)
        {
            var (left, top) = (tile % Across * Side + right, tile / Across * Side + down);
            if (left < 0 || top < 0 || left + Side > picture.Width || top + Side > picture.Height)
            {
                tiles[at, tile] = (-1, 0, 0, 0);
                continue;
            }
            double sum = 0,
                byX = 0,
                byY = 0,
                clipped = 0;
            for (var y = 0; y < Side; y++)
            {
                var row = picture.Levels.Slice((top + y) * picture.Width + left, Side);
                for (var x = 0; x < Side; x++)
                {
                    var l = Linear[row[x]];
                    light[y * Side + x] = l;
                    (sum, byX, byY) = (sum + l, byX + l * (x - Middle), byY + l * (y - Middle));
                    clipped += row[x] >= White ? 1 : 0;
                }
            }
            var mean = sum / light.Length;
            double variance = 0;
            for (var i = 0; i < off.Length; i++)
            {
                off[i] = light[i] - mean - byX / squares * (i % Side - Middle) - byY / squares * (i / Side - Middle);
                variance += off[i] * off[i] / off.Length;
            }
            Array.Sort(off);
            var dark = Math.Max(1, (int)(BlackShare * off.Length));
            double black = 0;
            for (var i = 0; i < dark; i++)
                black += off[i] / dark;
            tiles[at, tile] = (mean, Math.Max(0, mean + black), mean > 1e-6 ? Math.Sqrt(variance) / mean : 0, clipped / off.Length);
        }
    }
}
