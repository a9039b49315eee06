using System.Collections.Concurrent;
using System.Numerics;

namespace Walkdown.Core.Pictures;

/// <summary>How two pictures lie on each other, by the phases of their spectra: one peak where one is the other moved, none where they
/// have nothing in common (Kuglin and Hines 1975).</summary>
internal sealed class PhaseCorrelation
{
    private static readonly ConcurrentDictionary<int, PhaseCorrelation> Sides = new();

    private readonly Fourier _fourier;

    public PhaseCorrelation(int side)
    {
        Side = side;
        _fourier = new(side);
    }

    /// <summary>One for all squares of a side: nothing of it changes.</summary>
    public static PhaseCorrelation OfSide(int side) => Sides.GetOrAdd(side, static s => new(s));

    /// <summary>Of the square, a power of two.</summary>
    public int Side { get; }

    /// <summary>The highest point.</summary>
    /// <param name="X">The second is moved right by so much, pixels between them too.</param>
    /// <param name="Y">And down.</param>
    /// <param name="Height">Of the peak, at most 1.</param>
    /// <param name="Ratio">Against the highest elsewhere: more than 6 pixels away either way.</param>
    public readonly record struct Peak(double X, double Y, double Height, double Ratio);

    /// <summary>A spectrum.</summary>
    internal sealed record Spectrum(float[] Re, float[] Im);

    /// <summary>Of a picture, its mean taken out and faded to its borders (Hann).</summary>
    /// <param name="picture">No side longer than <see cref="Side"/>.</param>
    /// <param name="fadeDown">Its top and bottom too; not where they follow each other round a circle.</param>
    public Spectrum Of(Plane picture, bool fadeDown = true)
    {
        var (re, im) = (Faded(picture, fadeDown), new float[Side * Side]);
        _fourier.Square(re, im);
        return new(re, im);
    }

    /// <summary>Of two pictures at once: both are real, so that of one spectrum the even part is the first's, the odd one the
    /// second's.</summary>
    public (Spectrum One, Spectrum Other) Of(Plane one, Plane other)
    {
        var (re, im) = (Faded(one, true), Faded(other, true));
        _fourier.Square(re, im);
        Spectrum a = new(new float[re.Length], new float[re.Length]),
            b = new(new float[re.Length], new float[re.Length]);
        for (var y = 0; y < Side; y++)
        for (var x = 0; x < Side; x++)
        {
            var (i, j) = (y * Side + x, Against(y) * Side + Against(x));
            (a.Re[i], a.Im[i]) = ((re[i] + re[j]) / 2, (im[i] - im[j]) / 2);
            (b.Re[i], b.Im[i]) = ((im[i] + im[j]) / 2, (re[j] - re[i]) / 2);
        }
        return (a, b);
    }

    /// <summary>Of the same picture with left and right changed, wherever it then lies in its square.</summary>
    public Spectrum Flipped(Spectrum of)
    {
        Spectrum flipped = new(new float[of.Re.Length], new float[of.Re.Length]);
        for (var y = 0; y < Side; y++)
        for (var x = 0; x < Side; x++)
        {
            var (i, j) = (y * Side + x, y * Side + Against(x));
            (flipped.Re[i], flipped.Im[i]) = (of.Re[j], of.Im[j]);
        }
        return flipped;
    }

    /// <summary>Of the same picture turned by half, wherever it then lies in its square.</summary>
    public static Spectrum Turned(Spectrum of) => new(of.Re, Array.ConvertAll(of.Im, static v => -v));

    /// <summary>The frequency that goes the other way.</summary>
    private int Against(int at) => (Side - at) & (Side - 1);

    /// <summary>A picture in its square, its mean taken out and faded to its borders.</summary>
    private float[] Faded(Plane picture, bool fadeDown)
    {
        var (w, h) = (picture.Width, picture.Height);
        double sum = 0;
        foreach (var v in picture.Values)
            sum += v;
        var mean = (float)(sum / picture.Values.Length);
        var values = new float[Side * Side];
        var (across, down) = (Hann(w), fadeDown ? Hann(h) : [.. Enumerable.Repeat(1f, h)]);
        for (var y = 0; y < h; y++)
        for (var x = 0; x < w; x++)
            values[y * Side + x] = (picture.Values[y * w + x] - mean) * across[x] * down[y];
        return values;
    }

    /// <summary>The surface over which the second lies on the first, from a move of nothing on, wrapping around.</summary>
    public float[] Surface(Spectrum a, Spectrum b) => Surfaces(a, b, null).One;

    /// <summary>The surfaces over which a second and a third lie on the first. Both are real: one transform back gives them as its two
    /// parts.</summary>
    private (float[] One, float[] Other) Surfaces(Spectrum a, Spectrum b, Spectrum? other)
    {
        var (re, im) = (new float[Side * Side], new float[Side * Side]);
        // A square of a power of two is whole in vectors of any width that there is.
        for (var i = 0; i < re.Length; i += Vector<float>.Count)
        {
            var (r, m) = Phases(a, b, i);
            if (other is not null)
            {
                var (r2, m2) = Phases(a, other, i);
                (r, m) = (r - m2, m + r2);
            }
            r.CopyTo(re, i);
            m.CopyTo(im, i);
        }
        _fourier.Square(re, im, back: true);
        var scale = 1f / (Side * Side);
        for (var i = 0; i < re.Length; i++)
            (re[i], im[i]) = (re[i] * scale, im[i] * scale);
        return (re, im);

        // The second times the first turned back, its size taken out.
        static (Vector<float> Re, Vector<float> Im) Phases(Spectrum a, Spectrum b, int i)
        {
            Vector<float> ar = new(a.Re, i),
                ai = new(a.Im, i),
                br = new(b.Re, i),
                bi = new(b.Im, i);
            var (r, m) = (br * ar + bi * ai, bi * ar - br * ai);
            var size = Vector.SquareRoot(r * r + m * m);
            var by = Vector.ConditionalSelect(Vector.GreaterThan(size, new(1e-9f)), Vector<float>.One / size, Vector<float>.Zero);
            return (r * by, m * by);
        }
    }

    /// <summary>Where the second lies on the first.</summary>
    public Peak Find(Spectrum a, Spectrum b) => Highest(Surface(a, b));

    /// <summary>Where a second and a third lie on the first.</summary>
    public (Peak One, Peak Other) Find(Spectrum a, Spectrum b, Spectrum other)
    {
        var (one, second) = Surfaces(a, b, other);
        return (Highest(one), Highest(second));
    }

    /// <summary>The highest points of a surface, which is used up.</summary>
    public IEnumerable<Peak> Peaks(float[] surface, int count)
    {
        for (var n = 0; n < count; n++)
        {
            var peak = Highest(surface);
            yield return peak;
            // The next one is looked for elsewhere.
            var (px, py) = ((int)Math.Round(peak.X), (int)Math.Round(peak.Y));
            for (var dy = -4; dy <= 4; dy++)
            for (var dx = -4; dx <= 4; dx++)
                surface[Wrapped(py + dy) * Side + Wrapped(px + dx)] = 0;
        }
    }

    private int Wrapped(int at) => (at % Side + Side) % Side;

    /// <summary>The highest point of a surface.</summary>
    public Peak Highest(float[] surface)
    {
        Span<float> rows = stackalloc float[Side];
        for (var y = 0; y < Side; y++)
            rows[y] = Most(surface.AsSpan(y * Side, Side));
        var py = rows.IndexOf(Most(rows));
        var px = surface.AsSpan(py * Side, Side).IndexOf(rows[py]);
        var top = py * Side + px;
        var elsewhere = 1e-9f;
        for (var y = 0; y < Side; y++)
        {
            if (rows[y] <= elsewhere)
                continue;
            if (Away(y, py) > 6)
                elsewhere = rows[y];
            else
                for (var x = 0; x < Side; x++)
                    if (Away(x, px) > 6 && surface[y * Side + x] > elsewhere)
                        elsewhere = surface[y * Side + x];
        }
        // The centre of what stands within two pixels of it.
        double sum = 0,
            sx = 0,
            sy = 0;
        for (var dy = -2; dy <= 2; dy++)
        for (var dx = -2; dx <= 2; dx++)
        {
            var v = Math.Max(0, surface[Wrapped(py + dy) * Side + Wrapped(px + dx)]);
            (sum, sx, sy) = (sum + v, sx + v * dx, sy + v * dy);
        }
        var (cx, cy) = sum > 0 ? (px + sx / sum, py + sy / sum) : (px, py);
        return new(cx > Side / 2.0 ? cx - Side : cx, cy > Side / 2.0 ? cy - Side : cy, surface[top], surface[top] / elsewhere);
    }

    private static float Most(ReadOnlySpan<float> values)
    {
        var most = new Vector<float>(values);
        for (var i = Vector<float>.Count; i < values.Length; i += Vector<float>.Count)
            most = Vector.Max(most, new(values[i..]));
        var one = most[0];
        for (var i = 1; i < Vector<float>.Count; i++)
            one = Math.Max(one, most[i]);
        return one;
    }

    private int Away(int a, int b)
    {
        var d = Math.Abs(a - b);
        return Math.Min(d, Side - d);
    }

    private static float[] Hann(int length)
    {
        var window = new float[length];
        for (var i = 0; i < length; i++)
            window[i] = (float)(0.5 - 0.5 * Math.Cos(2 * Math.PI * (i + 0.5) / length));
        return window;
    }
}
