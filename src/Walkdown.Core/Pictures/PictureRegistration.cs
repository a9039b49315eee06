using Walkdown.Core.Measures;
using static Walkdown.Core.Measures.Angle;

namespace Walkdown.Core.Pictures;

/// <summary>How a picture lies on another one of the same size: moved, turned, zoomed; or not at all (docs/calculations.md, N).</summary>
/// <param name="IsMatch">They show the same. Where they do not, nothing else is told.</param>
/// <param name="ShiftX">The middle moved right by so much, pixels.</param>
/// <param name="ShiftY">And down.</param>
/// <param name="TurnDeg">Content turned clockwise, above -180 and up to 180.</param>
/// <param name="Scale">Content is so many times the size.</param>
/// <param name="Correlation">Of what lies on each other and agrees, up to 1.</param>
/// <param name="Overlap">Share of the reference that the picture shows.</param>
/// <param name="Agreement">Share of the tiles with detail that agree in detail: what moved, or stands before it, does not.</param>
public sealed record PictureRegistration(
    bool IsMatch,
    double ShiftX,
    double ShiftY,
    double TurnDeg,
    double Scale,
    double Correlation,
    double Overlap,
    double Agreement
) : ILaid
{
    double ILaid.TurnedDeg => TurnDeg;

    /// <summary>Below this correlation it is no match, and no degrees are told.</summary>
    public const double LeastCorrelation = 0.6;

    private const double LeastOverlap = 0.2,
        LeastAgreement = 0.4;
    private const int LeastTiles = 5;

    /// <summary>In so narrow a picture chance does not lie as well as in a wider one: what lies no better than that is none.</summary>
    private const int Small = 100;

    /// <summary>Places that are looked at where phases say nothing: by every other pixel, steps each way, and how long each is, in shares of
    /// the picture and in degrees.</summary>
    private const int ScanStride = 2,
        ScanAcross = 7,
        ScanDown = 5,
        ScanLeans = 3;
    private const double ScanStepAcross = 0.05,
        ScanStepDown = 0.07,
        ScanStepDeg = 2.5;

    /// <summary>Of them so many are made fine in the small picture, and of those so many judged.</summary>
    private const int ScanTries = 48,
        ScanJudged = 12;

    /// <summary>So often what agrees is chosen anew.</summary>
    private const int SettledAfter = 3;

    /// <summary>As long as so much more of it does.</summary>
    private const double MoreAgrees = 0.02;

    internal static readonly PictureRegistration None = new(false, 0, 0, 0, 1, 0, 0, 0);

    /// <summary>How a camera turned, right and down positive, of the shift in its picture: content that went right is a camera that went
    /// left.</summary>
    /// <param name="pixelsWide">Of the picture.</param>
    /// <param name="horizontalDeg">Its field, above 0 and under 180.</param>
    public (double PanDeg, double TiltDeg) CameraTurn(int pixelsWide, double horizontalDeg)
    {
        var focal = Optics.Pinhole.FocalPixels(pixelsWide, horizontalDeg);
        return (-Deg(Math.Atan(ShiftX / focal)), Deg(Math.Atan(ShiftY / focal)));
    }

    /// <param name="reference">As agreed.</param>
    /// <param name="now">Of the same size.</param>
    public static PictureRegistration Of(GreyRaster reference, GreyRaster now)
    {
        GreyRaster.SameSize(reference, now);
        return Of(new PicturePyramid(reference), new PicturePyramid(now));
    }

    /// <param name="reference">As agreed.</param>
    /// <param name="now">Of the same size.</param>
    /// <param name="turnedFirst">It looks as if it stood upside down: that is tried first.</param>
    public static PictureRegistration Of(PicturePyramid reference, PicturePyramid now, bool turnedFirst = false)
    {
        Require.Consistent(reference.Width == now.Width && reference.Height == now.Height && reference.Side == now.Side, "new_image");
        if (Find(reference, now, static (rough, _) => rough, turnedFirst) is not { } f)
            return None;
        var byX = reference.Width / (double)reference.Levels[0].Width;
        var byY = reference.Height / (double)reference.Levels[0].Height;
        return new(true, f.Move.X * byX, f.Move.Y * byY, Folded(Deg(f.Move.TurnRad)), f.Move.Scale, f.Correlation, f.Overlap, f.Agreement);
    }

    /// <summary>A move that was found, in pixels of the finest size.</summary>
    internal sealed record Found<TMove>(TMove Move, double Correlation, double Overlap, double Agreement)
        where TMove : struct, IMove<TMove>;

    /// <summary>The move, or nothing where the pictures do not show the same.</summary>
    /// <param name="reference">As agreed.</param>
    /// <param name="now">Against it.</param>
    /// <param name="turnedFirst">It looks as if it stood upside down.</param>
    /// <param name="begin">A picture's rough move as the sort that is looked for, in pixels of a size; that size against the
    /// finest.</param>
    internal static Found<TMove>? Find<TMove>(
        PicturePyramid reference,
        PicturePyramid now,
        Func<SimilarMove, double, TMove> begin,
        bool turnedFirst = false
    )
        where TMove : struct, IMove<TMove>
    {
        var phases = PhaseCorrelation.OfSide(reference.Side);
        var first = reference.Spectrum;
        // Most often a camera was turned a little: then the plain phases say it, by one of their highest peaks.
        Found<TMove>? best = null;
        if (turnedFirst && Best(phases.Surface(first, phases.Of(Unmoved(now.Coarse, Math.PI, 1))), Math.PI, 1, 2))
            return best;
        if (Best(phases.Surface(first, now.Spectrum), 0, 1, 4))
            return best;
        // Then it was turned far and leans: perspective bends what phases hold against each other, a camera that turned does not.
        if (!reference.IsForMany)
            foreach (var move in Scanned(reference, now, begin))
                if (Better(Judge(reference, now, move)))
                    return best;
        foreach (var (turn, scale) in Turns(phases, reference, now))
            if (Best(phases.Surface(first, phases.Of(Unmoved(now.Coarse, turn, scale))), turn, scale, 2))
                return best;
        return best;

        // True: surely it.
        bool Best(float[] surface, double turn, double scale, int peaks)
        {
            foreach (var peak in phases.Peaks(surface, peaks))
            {
                // The shift was found in the turned picture: it is turned with it.
                var move = SimilarMove.Of(turn, scale, 0, 0);
                move.Map((float)peak.X, (float)peak.Y, out var x, out var y);
                if (Better(Judge(reference, now, Begun(move with { X = x, Y = y }))))
                    return true;
            }
            return false;
        }

        // True: surely it.
        bool Better(Found<TMove>? found)
        {
            if (found is not null && (best is null || found.Agreement > best.Agreement))
                best = found;
            return best?.Agreement >= PictureStanding.Surely;
        }

        // A rough move of the picture for the phases, as one of the coarsest size.
        TMove Begun(SimilarMove rough)
        {
            double wide = reference.Levels[^1].Width;
            return begin(rough.Sized(wide / reference.Coarse.Width), wide / reference.Levels[0].Width);
        }
    }

    /// <summary>Turns and zooms that the spectra suggest, the likeliest first.</summary>
    private static IEnumerable<(double TurnRad, double Scale)> Turns(PhaseCorrelation phases, PicturePyramid a, PicturePyramid b)
    {
        // A bracket leans by a few degrees more often than it lies on its side: the spectra of a turned camera say that badly.
        foreach (var deg in new[] { 3.0, -3, 6, -6 })
            yield return (Rad(deg), 1);
        const double Inner = 4;
        var side = phases.Side;
        var step = Math.Log(side / 2.0 / Inner) / side;
        foreach (var peak in phases.Peaks(phases.Surface(Polar(a), Polar(b)), 4))
        {
            var (turn, scale) = (peak.Y * Math.PI / side, Math.Exp(-peak.X * step));
            if (scale is > 0.45 and < 2.2)
            {
                yield return (turn, scale);
                yield return (turn + Math.PI, scale);
            }
        }
        yield return (Math.PI, 1);

        PhaseCorrelation.Spectrum Polar(PicturePyramid picture)
        {
            var spectrum = picture.Spectrum;
            var values = new float[side * side];
            for (var row = 0; row < side; row++)
            {
                var (s, c) = Math.SinCos(Math.PI * row / side);
                for (var column = 0; column < side; column++)
                {
                    var r = Inner * Math.Exp(column * step);
                    var (x, y) = (r * c, r * s);
                    var (x0, y0) = ((int)Math.Floor(x), (int)Math.Floor(y));
                    var (fx, fy) = (x - x0, y - y0);
                    var top = Size(x0, y0) * (1 - fx) + Size(x0 + 1, y0) * fx;
                    var low = Size(x0, y0 + 1) * (1 - fx) + Size(x0 + 1, y0 + 1) * fx;
                    values[row * side + column] = (float)Math.Log(1 + top * (1 - fy) + low * fy);
                }
            }
            return phases.Of(new Plane(side, side, values), fadeDown: false);

            double Size(int x, int y)
            {
                var i = (y & (side - 1)) * side + (x & (side - 1));
                return Math.Sqrt(spectrum.Re[i] * spectrum.Re[i] + spectrum.Im[i] * spectrum.Im[i]);
            }
        }
    }

    /// <summary>A picture as it was before it was turned and zoomed.</summary>
    private static Plane Unmoved(Plane picture, double turn, double scale)
    {
        var (w, h) = (picture.Width, picture.Height);
        var move = SimilarMove.Of(turn, scale, 0, 0);
        var mean = picture.Values.Average();
        var values = new float[w * h];
        for (var y = 0; y < h; y++)
        for (var x = 0; x < w; x++)
        {
            move.Map(x - (w - 1) / 2f, y - (h - 1) / 2f, out var u, out var v);
            values[y * w + x] = picture.At(u + (w - 1) / 2f, v + (h - 1) / 2f, out var value) ? value : mean;
        }
        return new(w, h, values);
    }

    /// <summary>Every place within a third of the view, and leaning either way, looked at in a very small picture; the likeliest ones, as
    /// moves of the coarsest size, the best first.</summary>
    private static IEnumerable<TMove> Scanned<TMove>(PicturePyramid reference, PicturePyramid now, Func<SimilarMove, double, TMove> begin)
        where TMove : struct, IMove<TMove>
    {
        var (first, second) = (reference.Scanned, now.Scanned);
        var size = first.Width / (double)reference.Levels[0].Width;
        const int Across = 2 * ScanAcross + 1,
            Down = 2 * ScanDown + 1,
            Leans = 2 * ScanLeans + 1;
        var (moves, alike) = (new TMove[Leans, Down, Across], new double[Leans, Down, Across]);
        for (var lean = 0; lean < Leans; lean++)
        for (var down = 0; down < Down; down++)
        for (var across = 0; across < Across; across++)
        {
            var (x, y) = ((across - ScanAcross) * ScanStepAcross * first.Width, (down - ScanDown) * ScanStepDown * first.Height);
            var move = begin(SimilarMove.Of(Rad((lean - ScanLeans) * ScanStepDeg), 1, x, y), size);
            var laid = Alignment.Alike(first, second, move, new(0, 0, first.Width, first.Height), ScanStride);
            var isKnown =
                laid.Count * ScanStride * ScanStride >= LeastOverlap * first.Width * first.Height && laid is { First: > 0, Second: > 0 };
            (moves[lean, down, across], alike[lean, down, across]) = (move, isKnown ? laid.Correlation : -1);
        }
        var tops = new List<(double Alike, TMove Move)>();
        for (var lean = 0; lean < Leans; lean++)
        for (var down = 0; down < Down; down++)
        for (var across = 0; across < Across; across++)
            if (IsTop(lean, down, across))
                tops.Add((alike[lean, down, across], moves[lean, down, across]));
        return tops.OrderByDescending(s => s.Alike)
            .Take(ScanTries)
            .Select(s => Alignment.Refine(first, second, s.Move))
            .OrderByDescending(r => r.Correlation)
            .Take(ScanJudged)
            .Select(r => r.Move.Sized(reference.Levels[^1].Width / (double)first.Width));

        // Nothing beside it lies better.
        bool IsTop(int lean, int down, int across)
        {
            for (var l = Math.Max(0, lean - 1); l <= Math.Min(Leans - 1, lean + 1); l++)
            for (var d = Math.Max(0, down - 1); d <= Math.Min(Down - 1, down + 1); d++)
            for (var a = Math.Max(0, across - 1); a <= Math.Min(Across - 1, across + 1); a++)
                if (alike[l, d, a] > alike[lean, down, across])
                    return false;
            return alike[lean, down, across] > 0;
        }
    }

    /// <summary>A rough move made fine, and whether what then lies on each other is the same.</summary>
    /// <param name="reference">As agreed.</param>
    /// <param name="now">Against it.</param>
    /// <param name="move">In pixels of the coarsest size.</param>
    private static Found<TMove>? Judge<TMove>(PicturePyramid reference, PicturePyramid now, TMove move)
        where TMove : struct, IMove<TMove>
    {
        var coarsest = reference.Levels.Length - 1;
        double Wide(int level) => reference.Levels[level].Width;
        for (var level = coarsest; level >= 1; level--)
        {
            var found = Alignment.Refine(reference.Levels[level], now.Levels[level], move);
            if (
                found.Overlap < LeastOverlap
                || found.Correlation < (reference.Levels[level].Width < Small ? 0.3 : 0.2)
                || found.Move.Scale is < 0.45 or > 2.2
            )
                return null;
            move = found.Move.Sized(Wide(level - 1) / Wide(level));
        }
        return Settle(reference, now, move);
    }

    /// <summary>What agrees where a move lays one on the other, and the move by that alone.</summary>
    internal static Found<TMove>? Settle<TMove>(PicturePyramid reference, PicturePyramid now, TMove move)
        where TMove : struct, IMove<TMove>
    {
        var toDetail = reference.Detail.Width / (double)reference.Levels[0].Width;
        var tiles = TileAgreement.Of(reference, now, move.Sized(toDetail));
        if (tiles.WithDetail < LeastTiles)
            return null;
        // What was left out while it lay roughly belongs to it once it lies better: chosen anew as long as more comes to agree.
        Alignment.Result<TMove> fine;
        for (var round = 0; ; round++)
        {
            var use = tiles.Agreeing < tiles.WithDetail ? tiles.Use(reference.Levels[0]) : null;
            fine = Alignment.Refine(reference.Levels[0], now.Levels[0], move, use);
            var had = tiles.Share;
            tiles = TileAgreement.Of(reference, now, fine.Move.Sized(toDetail));
            if (round == SettledAfter || tiles.Share < had + MoreAgrees)
                break;
            move = fine.Move;
        }
        var agreement = tiles.Share;
        return
            fine.Correlation < LeastCorrelation || fine.Overlap < LeastOverlap || agreement < LeastAgreement || tiles.Agreeing < LeastTiles
            ? null
            : new(fine.Move, fine.Correlation, fine.Overlap, agreement);
    }
}
