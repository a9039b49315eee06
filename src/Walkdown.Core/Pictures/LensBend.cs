namespace Walkdown.Core.Pictures;

/// <summary>How far a lens bends lines, found from two of its own pictures: a camera that turned shows the same things elsewhere in its
/// picture, and only the right bend lays all of them on each other.</summary>
internal static class LensBend
{
    /// <summary>Share of the half width, at its edge, that a lens may bend lines by.</summary>
    private const double Least = -0.08,
        Most = 0.36;

    /// <summary>Steps: to find it roughly in the smaller picture, and finely in the finest.</summary>
    private const double Rough = 0.04,
        Fine = 0.02;

    /// <summary>Bent otherwise by <see cref="Fine"/> the pictures must lie worse by so much at least; else nothing tells it.</summary>
    private const double LeastLoss = 0.0004;

    private const int Rounds = 3;

    /// <summary>Each is laid from a move that lies nearly right.</summary>
    private const int Steps = 5;

    /// <summary>Moved by less than this share of the picture's width nothing can tell it.</summary>
    private const double LeastMoved = 0.006;

    /// <param name="reference">As agreed.</param>
    /// <param name="now">Of the same camera, turned.</param>
    /// <param name="found">How it turned, as it was found with the bend from which to begin.</param>
    /// <param name="lens">A lens by its bend, in pixels of the finest size.</param>
    /// <param name="begin">The bend from which to begin.</param>
    /// <returns>The bend, and how it turned by that; null: the pictures do not tell.</returns>
    public static (PictureRegistration.Found<TurnMove> Found, double AtEdge)? Of(
        PicturePyramid reference,
        PicturePyramid now,
        PictureRegistration.Found<TurnMove> found,
        Func<double, Lens> lens,
        double begin
    )
    {
        found.Move.Map(0, 0, out var right, out var down);
        if (double.Hypot(right, down) < LeastMoved * reference.Levels[0].Width)
            return null;
        var (move, at) = (found.Move, begin);
        if (reference.Levels.Length > 1)
        {
            var size = reference.Levels[1].Width / (double)reference.Levels[0].Width;
            var best = Laid(1, size, at, null);
            Alignment.Result<TurnMove> more = default,
                less = default;
            Parallel.Invoke(() => more = Laid(1, size, at + Rough, null), () => less = Laid(1, size, at - Rough, null));
            var (next, way) = more.Correlation >= less.Correlation ? (more, Rough) : (less, -Rough);
            while (next.Correlation > best.Correlation && at + way is >= Least and <= Most)
            {
                (best, move, at) = (next, next.Move.Sized(1 / size), at + way);
                next = Laid(1, size, at + way, null);
            }
        }
        var toDetail = reference.Detail.Width / (double)reference.Levels[0].Width;
        for (var round = 0; round < Rounds; round++)
        {
            var use = TileAgreement.Of(reference, now, move.Behind(lens(at)).Sized(toDetail)).Use(reference.Levels[0]);
            var (less, here, more) = (0.0, 0.0, 0.0);
            var laid = default(Alignment.Result<TurnMove>);
            Parallel.Invoke(
                () => less = Laid(0, 1, at - Fine, use).Correlation,
                () => here = (laid = Laid(0, 1, at, use)).Correlation,
                () => more = Laid(0, 1, at + Fine, use).Correlation
            );
            var loss = here - (less + more) / 2;
            if (loss < LeastLoss)
                return null;
            var step = Math.Clamp((more - less) / (4 * loss), -1.5, 1.5) * Fine;
            (move, at) = (laid.Move, Math.Clamp(at + step, Least, Most));
            if (Math.Abs(step) < Fine)
                break;
        }
        return PictureRegistration.Settle(reference, now, move.Behind(lens(at))) is { } told ? (told, at) : null;

        Alignment.Result<TurnMove> Laid(int level, double size, double e, bool[]? use) =>
            Alignment.Refine(reference.Levels[level], now.Levels[level], move.Behind(lens(e)).Sized(size), use, Steps);
    }
}
