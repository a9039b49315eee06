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
        var (move, at) = (found.Move, begin);
        if (reference.Levels.Length > 1)
        {
            var size = reference.Levels[1].Width / (double)reference.Levels[0].Width;
            var best = Laid(1, size, at, null);
            foreach (var way in new[] { Rough, -Rough })
            {
                var climbed = false;
                for (
                    var e = at + way;
                    e is >= Least and <= Most && Laid(1, size, e, null) is var next && next.Correlation > best.Correlation;
                    e += way
                )
                    (best, move, at, climbed) = (next, next.Move.Sized(1 / size), e, true);
                if (climbed)
                    break;
            }
        }
        for (var round = 0; round < Rounds; round++)
        {
            var settled = PictureRegistration.Settle(reference, now, move.Behind(lens(at)));
            if (settled is null)
                return null;
            var use = TileAgreement
                .Of(reference, now, settled.Move.Sized(reference.Detail.Width / (double)reference.Levels[0].Width))
                .Use(reference.Levels[0]);
            move = settled.Move;
            var here = Laid(0, 1, at, use).Correlation;
            var (less, more) = (Laid(0, 1, at - Fine, use).Correlation, Laid(0, 1, at + Fine, use).Correlation);
            var loss = here - (less + more) / 2;
            if (loss < LeastLoss)
                return null;
            var step = Math.Clamp((more - less) / (4 * loss), -1.5, 1.5) * Fine;
            at = Math.Clamp(at + step, Least, Most);
            if (Math.Abs(step) < Fine / 2)
                break;
        }
        return PictureRegistration.Settle(reference, now, move.Behind(lens(at))) is { } told ? (told, at) : null;

        Alignment.Result<TurnMove> Laid(int level, double size, double e, bool[]? use) =>
            Alignment.Refine(reference.Levels[level], now.Levels[level], move.Behind(lens(e)).Sized(size), use, steps: 10);
    }
}
