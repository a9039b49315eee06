using Walkdown.Core.Measures;

namespace Walkdown.Core.Nights;

/// <summary>Why light lies over a night picture.</summary>
public enum VeilReason
{
    /// <summary>Its transport film is still on the cover: all over, nearly even.</summary>
    Film,

    /// <summary>A finger's print on the cover: a small round patch.</summary>
    Finger,

    /// <summary>The light barrier between infrared and lens is missing, or does not touch the cover: brighter all around the
    /// border.</summary>
    Foam,

    /// <summary>The rim of the cover stands in the beam: an arc at one side with a clear edge.</summary>
    Rim,

    /// <summary>A wall, eaves or a pipe near it throws the light back: one side white, the left dark.</summary>
    Wall,

    /// <summary>It looks too flat: light comes back from the shoulder of its own cover, half the picture is lifted.</summary>
    Tilt,

    /// <summary>Something was wiped over the cover: a streak.</summary>
    Smudge,
}

/// <summary>One reason, and how well it fits.</summary>
/// <param name="Reason">Why.</param>
/// <param name="Chance">Among those that are known here, 0 to 1; all together are 1.</param>
/// <param name="Explains">Share of the differences over the picture that its pattern explains, 0 to 1; of one without pattern 0.</param>
/// <param name="Because">What speaks for it, most weighty first.</param>
public sealed record VeilGuess(VeilReason Reason, double Chance, double Explains, ImmutableArray<Message> Because)
{
    /// <summary>What lies so much in a pattern lies in it; and less than the second figure says nothing.</summary>
    private const double Lies = 0.55,
        SaysNothing = 0.35;

    /// <summary>Light lies over the picture as this reason has it, and not as a view that is lit unevenly.</summary>
    internal bool IsItsPattern => Explains >= Lies;

    /// <summary>Of so little light it can be said that this may be it. What lies evenly is nothing that little light shows.</summary>
    internal bool MayBe => Reason != VeilReason.Film && Explains >= SaysNothing;
}

/// <summary>What is known of a camera beside its night picture.</summary>
/// <param name="TiltDeg">Under the horizon; null: not known.</param>
/// <param name="HasCover">It is behind a cover; null: not known.</param>
/// <param name="HasWhiteLight">It lights up what moves.</param>
public sealed record VeilKnown(double? TiltDeg = null, bool? HasCover = null, bool HasWhiteLight = false);

/// <summary>Ranks the reasons of a veil by where it lies: each reason's pattern is laid over the picture wherever it may stand, and the one
/// that leaves least, for as few free figures as it has, comes first (docs/calculations.md, N).</summary>
internal static class VeilReasons
{
    private const int Across = VeilMap.Across,
        Down = VeilMap.Down,
        Count = Across * Down;

    /// <summary>A pattern as it may stand: its height over each tile, 0 to about 1.</summary>
    private sealed record Shape(VeilReason Reason, float[] Over);

    private static readonly Lazy<ImmutableArray<Shape>> Shapes = new(() => [.. All()]);

    /// <summary>How many figures of a pattern are free beside its strength and what is even: where it lies, how large it is.</summary>
    private static int Free(VeilReason reason) =>
        reason switch
        {
            VeilReason.Film => 0,
            VeilReason.Foam => 1,
            VeilReason.Tilt => 2,
            VeilReason.Wall or VeilReason.Rim or VeilReason.Finger => 3,
            _ => 4,
        };

    /// <summary>Neighbouring tiles tell much the same: so many are told apart.</summary>
    private const double Told = 0.35;

    public static ImmutableArray<VeilGuess> Of(VeilMap map, VeilKnown known)
    {
        var (veil, use) = (new double[Count], new bool[Count]);
        double scale = 0;
        var n = 0;
        for (var i = 0; i < Count; i++)
            if (map.Tiles[i].Veil is { } over)
            {
                (veil[i], use[i]) = (over, true);
                scale += over;
                n++;
            }
        if (n < 12 || scale <= 0)
            return [];
        scale /= n;
        double total = 0;
        for (var i = 0; i < Count; i++)
        {
            // Its root: what is much brighter than all else says where it lies, not how much.
            veil[i] = Math.Sqrt(veil[i] / scale);
            if (use[i])
                total += veil[i];
        }
        var mean = total / n;
        double spread = 0;
        for (var i = 0; i < Count; i++)
            spread += use[i] ? (veil[i] - mean) * (veil[i] - mean) : 0;
        var best = new Dictionary<VeilReason, (double Left, float[]? Over, double Even)> { [VeilReason.Film] = (spread, null, mean) };
        foreach (var shape in Shapes.Value)
        {
            var (left, strength, even) = Fit(veil, use, n, shape.Over);
            if (strength > 0 && (!best.TryGetValue(shape.Reason, out var before) || left < before.Left))
                best[shape.Reason] = (left, shape.Over, even);
        }
        // What is left by noise of the measure itself: no pattern fits better than that.
        var floor = 0.015 * n;
        var scores = new List<(VeilReason Reason, double Score, double Explains, List<Message> Because)>();
        foreach (var (reason, (left, over, even)) in best)
        {
            var score = -0.5 * Told * (n * Math.Log((left + floor) / n) + (Free(reason) + (over is null ? 1 : 2)) * Math.Log(n));
            var explains = spread > 0 ? Math.Clamp(1 - left / spread, 0, 1) : 0;
            var because = new List<Message>
            {
                new($"night.because.{reason.ToString().ToLowerInvariant()}", Message.Number(100 * explains, 0)),
            };
            score += Beside(reason, map, over, known, because);
            // A pattern that explains little is none, and what lies in one place lifts little elsewhere.
            if (over is not null)
                score -= 8 * Math.Max(0, 0.4 - explains) + 9 * Math.Max(0, even / mean - (reason == VeilReason.Foam ? 0.7 : 0.5));
            scores.Add((reason, score, explains, because));
        }
        var top = scores.Max(s => s.Score);
        var sum = scores.Sum(s => Math.Exp(s.Score - top));
        return
        [
            .. scores
                .OrderByDescending(s => s.Score)
                .Select(s => new VeilGuess(s.Reason, Math.Exp(s.Score - top) / sum, s.Explains, [.. s.Because])),
        ];
    }

    /// <summary>What else speaks for or against a reason than where light lies.</summary>
    private static double Beside(VeilReason reason, VeilMap map, float[]? over, VeilKnown known, List<Message> because)
    {
        double score = 0;
        double clipped = 0,
            plain = 0,
            byDay = 0,
            lifted = 0;
        for (var i = 0; i < Count; i++)
            if (over is null || over[i] > 0.5)
            {
                var tile = map.Tiles[i];
                (clipped, plain) = (clipped + tile.Clipped, plain + (tile.IsPlain ? 1 : 0));
                (byDay, lifted) = (byDay + tile.ByDay, lifted + 1);
            }
        var (white, isPlain, isLit) = lifted > 0 ? (clipped / lifted, plain / lifted, byDay / lifted) : (0, 0, 1);
        // Scattered light is seldom white; a surface near the lamps nearly always.
        if (reason is VeilReason.Wall or VeilReason.Rim)
        {
            score += white > 0.25 ? 2 : -2;
            if (white > 0.25)
                because.Add(new("night.because.white"));
        }
        else if (white > 0.25)
            score -= 2;
        // A surface that throws light back stands there by day too, and hides what is behind it.
        if (reason is VeilReason.Wall or VeilReason.Rim)
            score +=
                isPlain > 0.7 ? 1.5
                : isPlain < 0.4 ? -3
                : 0;
        else if (reason is VeilReason.Finger or VeilReason.Smudge)
            score += isPlain > 0.8 ? -1 : 0;
        // A rim is black by day, a wall is lit.
        if (reason == VeilReason.Rim)
            score +=
                isLit < 0.5 ? 1.5
                : isLit > 0.9 ? -2
                : 0;
        if (reason == VeilReason.Wall)
            score +=
                isLit < 0.5 ? -1.5
                : isLit > 0.9 ? 1
                : 0;
        // The shoulder of a cover is above.
        if (reason == VeilReason.Tilt && over is not null && over[..(4 * Across)].Sum() < over[(5 * Across)..].Sum())
            score -= 1.5;
        if (reason == VeilReason.Tilt && known.TiltDeg is { } tilt)
        {
            score +=
                tilt < 10 ? 2
                : tilt < 30 ? 0
                : -1.5;
            if (tilt < 30)
                because.Add(new("night.because.flat", Message.Number(tilt, 0)));
        }
        if (known.HasCover == false && reason is VeilReason.Foam or VeilReason.Rim)
            score -= 3;
        return score;
    }

    /// <summary>Least squares of an even veil and a pattern; both only add light.</summary>
    private static (double Left, double Strength, double Even) Fit(double[] veil, bool[] use, int n, float[] over)
    {
        double s = 0,
            v = 0,
            ss = 0,
            sv = 0,
            vv = 0;
        for (var i = 0; i < Count; i++)
        {
            if (!use[i])
                continue;
            s += over[i];
            v += veil[i];
            ss += over[i] * over[i];
            sv += over[i] * veil[i];
            vv += veil[i] * veil[i];
        }
        var det = n * ss - s * s;
        if (det < 1e-6)
            return (vv, 0, 0);
        var (b, a) = ((n * sv - s * v) / det, 0.0);
        a = (v - b * s) / n;
        if (a < 0)
            (a, b) = (0, ss > 0 ? sv / ss : 0);
        if (b <= 0)
            return (vv, 0, 0);
        return (Math.Max(0, vv - 2 * a * v - 2 * b * sv + n * a * a + 2 * a * b * s + b * b * ss), b, a);
    }

    private static IEnumerable<Shape> All()
    {
        // Places are counted in widths of the picture from its middle; its height is 9 to 16.
        const double High = 9.0 / 16;
        foreach (var power in (double[])[2, 3, 4])
            yield return Make(VeilReason.Foam, (x, y) => Math.Pow(double.Hypot(x, y) / double.Hypot(0.5, High / 2), power));
        for (var way = 0; way < 4; way++)
        {
            var (s, c) = Math.SinCos(way * Math.PI / 2);
            var half = way % 2 == 0 ? High / 2 : 0.5;
            foreach (var at in (double[])[-0.5, -0.25, 0, 0.25, 0.5])
            foreach (var soft in (double[])[0.4, 0.6, 0.9])
                yield return Make(VeilReason.Tilt, (x, y) => Step((s * x - c * y - at * half) / (soft * half)));
        }
        for (var cx = -7; cx <= 7; cx++)
        for (var cy = -4; cy <= 4; cy++)
            foreach (var size in (double[])[0.06, 0.09, 0.13])
                yield return Make(VeilReason.Finger, (x, y) => Bell(double.Hypot(x - cx / 15.0, y - cy / 15.0) / size));
        for (var way = 0; way < 8; way++)
        {
            var (s, c) = Math.SinCos(way * Math.PI / 8);
            for (var off = -3; off <= 3; off++)
                foreach (var wide in (double[])[0.08, 0.13, 0.19])
                foreach (var along in (double[])[-0.3, 0, 0.3])
                foreach (var length in (double[])[0.3, 0.5, 5])
                    // Its thickest runs through the picture, not along its border.
                    if ((length < 1 || along == 0) && Math.Abs(off * 0.09) + 0.7 * wide < Math.Abs(s) * 0.5 + Math.Abs(c) * High / 2)
                        yield return Make(
                            VeilReason.Smudge,
                            (x, y) => Bell((-s * x + c * y - off * 0.09) / wide) * Bell((c * x + s * y - along) / length)
                        );
        }
        for (var way = 0; way < 24; way++)
        {
            var (s, c) = Math.SinCos(way * Math.PI / 12);
            // So far the picture goes that way.
            var reach = Math.Abs(s) * 0.5 + Math.Abs(c) * High / 2;
            foreach (var at in (double[])[0.1, 0.2, 0.3, 0.4, 0.5, 0.6, 0.7])
            {
                // The rim bends around the picture, as a circle that is nearly as large as what is seen.
                foreach (var bend in (double[])[0.5, 0.7, 0.9])
                    yield return Make(
                        VeilReason.Rim,
                        (x, y) => Step((double.Hypot(x - s * (at * reach - bend), y + c * (at * reach - bend)) - bend) / 0.02)
                    );
                // A wall: brightest at the border, where it is nearest, straight where it ends.
                foreach (var fall in (double[])[0, 1, 3])
                    yield return Make(
                        VeilReason.Wall,
                        (x, y) =>
                        {
                            var far = s * x - c * y - at * reach;
                            return far < 0 ? 0 : Math.Pow(0.3 + 0.7 * Math.Min(1, far / (reach * (1 - at))), fall);
                        }
                    );
                foreach (var fall in (double[])[0, 1, 3])
                    yield return Make(
                        VeilReason.Wall,
                        (x, y) =>
                        {
                            var far = s * x - c * y + (at - 0.1) * reach;
                            return far < 0 ? 0 : Math.Pow(0.3 + 0.7 * Math.Min(1, far / (reach * (0.9 + at))), fall);
                        }
                    );
            }
        }

        static double Bell(double at) => Math.Exp(-0.5 * at * at);

        static double Step(double at) => 1 / (1 + Math.Exp(-4 * at));

        static Shape Make(VeilReason reason, Func<double, double, double> over)
        {
            var at = new float[Count];
            for (var i = 0; i < Count; i++)
            {
                double sum = 0;
                // Four places of each tile: an edge may go through it.
                for (var part = 0; part < 4; part++)
                    sum += over(
                        (i % Across + 0.25 + 0.5 * (part & 1)) / Across - 0.5,
                        ((i / Across + 0.25 + 0.5 * (part >> 1)) / Down - 0.5) * High
                    );
                // As light is told here: by its root, so that what is dark counts too.
                at[i] = (float)Math.Sqrt(sum / 4);
            }
            return new(reason, at);
        }
    }
}
