namespace Walkdown.Core.Pictures;

/// <summary>Lays one picture on another by small steps until they correlate best (enhanced correlation, Evangelidis and Psarakis
/// 2008): light and contrast may differ between them.</summary>
internal static class Alignment
{
    /// <summary>How well they lie.</summary>
    /// <param name="Move">Found.</param>
    /// <param name="Correlation">Over what they share, -1 to 1.</param>
    /// <param name="Overlap">Share of the first picture that the second shows.</param>
    public readonly record struct Result<TMove>(TMove Move, double Correlation, double Overlap)
        where TMove : struct, IMove<TMove>;

    /// <summary>From a rough move to a fine one on one size of the pictures.</summary>
    /// <param name="first">Whose points are moved.</param>
    /// <param name="second">Where they come to lie.</param>
    /// <param name="move">Where to begin, in pixels of this size.</param>
    /// <param name="use">Whether a pixel of the first counts; null: all do.</param>
    /// <param name="steps">At most.</param>
    public static Result<TMove> Refine<TMove>(Plane first, Plane second, TMove move, bool[]? use = null, int steps = 25)
        where TMove : struct, IMove<TMove>
    {
        var best = new Result<TMove>(move, -1, 0);
        Span<double> step = stackalloc double[4];
        for (var i = 0; i < steps; i++)
        {
            if (!Step(first, second, move, use, out var correlation, out var overlap, step))
                return correlation > best.Correlation ? new(move, correlation, overlap) : best;
            if (correlation > best.Correlation)
                best = new(move, correlation, overlap);
            else if (correlation < best.Correlation - 0.02)
                return best;
            var next = move.After(step);
            // Moved by less than a few thousandths of a pixel at the picture's corner: there.
            var (cx, cy) = (first.Width / 2f, first.Height / 2f);
            move.Map(cx, cy, out var u, out var v);
            next.Map(cx, cy, out var nu, out var nv);
            next.Map(-cx, cy, out var mu, out var mv);
            move.Map(-cx, cy, out var lu, out var lv);
            move = next;
            if (Math.Abs(nu - u) + Math.Abs(nv - v) + Math.Abs(mu - lu) + Math.Abs(mv - lv) < 0.004f)
                break;
        }
        Step(first, second, move, use, out var last, out var shared, step);
        return last > best.Correlation ? new(move, last, shared) : best;
    }

    /// <summary>How alike two pictures are where one lies on the other.</summary>
    /// <param name="Count">Pixels that both show.</param>
    /// <param name="First">Variance of the first there.</param>
    /// <param name="Second">Of the second.</param>
    /// <param name="Together">Their covariance.</param>
    public readonly record struct Likeness(double Count, double First, double Second, double Together)
    {
        /// <summary>-1 to 1; where one of them is flat it is not known.</summary>
        public double Correlation => Together / Math.Sqrt(First * Second);
    }

    /// <summary>How alike a part of one picture is to what the other shows there.</summary>
    /// <param name="first">Whose points are moved.</param>
    /// <param name="second">Where they come to lie.</param>
    /// <param name="move">From the one to the other, in their pixels.</param>
    /// <param name="part">Of the first.</param>
    /// <param name="stride">Each so many-th pixel of each so many-th row.</param>
    public static Likeness Alike<TMove>(Plane first, Plane second, TMove move, PixelPart part, int stride = 1)
        where TMove : struct, IMove<TMove>
    {
        var (cx, cy) = ((first.Width - 1) / 2f, (first.Height - 1) / 2f);
        var (dx, dy) = ((second.Width - 1) / 2f, (second.Height - 1) / 2f);
        double n = 0,
            sa = 0,
            sb = 0,
            saa = 0,
            sbb = 0,
            sab = 0;
        for (var y = part.Top; y < part.Top + part.High; y += stride)
        for (var x = part.Left; x < part.Left + part.Wide; x += stride)
        {
            move.Map(x - cx, y - cy, out var u, out var v);
            if (!second.At(u + dx, v + dy, out var there))
                continue;
            var here = first.Values[y * first.Width + x] - 128;
            there -= 128;
            (n, sa, sb, saa, sbb, sab) = (n + 1, sa + here, sb + there, saa + here * here, sbb + there * there, sab + here * there);
        }
        return n == 0 ? default : new(n, saa / n - sa / n * (sa / n), sbb / n - sb / n * (sb / n), sab / n - sa / n * (sb / n));
    }

    /// <summary>Correlation as it lies, and the step that betters it; false: there is none.</summary>
    private static bool Step<TMove>(
        Plane first,
        Plane second,
        TMove move,
        bool[]? use,
        out double correlation,
        out double overlap,
        Span<double> step
    )
        where TMove : struct, IMove<TMove>
    {
        Span<double> h = stackalloc double[10];
        Span<double> gr = stackalloc double[4];
        Span<double> gw = stackalloc double[4];
        Span<double> g = stackalloc double[4];
        Span<float> s = stackalloc float[4];
        h.Clear();
        gr.Clear();
        gw.Clear();
        g.Clear();
        double n = 0,
            sr = 0,
            sw = 0,
            srr = 0,
            sww = 0,
            srw = 0;
        var (w, height) = (first.Width, first.Height);
        var (cx, cy) = ((w - 1) / 2f, (height - 1) / 2f);
        var (dx, dy) = ((second.Width - 1) / 2f, (second.Height - 1) / 2f);
        var values = second.Values;
        // Big pictures are looked at every other pixel: a quarter of the work for nearly the same answer.
        var stride = w * height > 150_000 ? 2 : 1;
        double counted = 0;
        for (var y = 0; y < height; y += stride)
        {
            // One row in single precision, added up in double: short sums keep their digits.
            float rn = 0,
                rr = 0,
                rw = 0,
                rrr = 0,
                rww = 0,
                rrw = 0;
            float h0 = 0,
                h1 = 0,
                h2 = 0,
                h3 = 0,
                h4 = 0,
                h5 = 0,
                h6 = 0,
                h7 = 0,
                h8 = 0,
                h9 = 0;
            float r0 = 0,
                r1 = 0,
                r2 = 0,
                r3 = 0,
                w0 = 0,
                w1 = 0,
                w2 = 0,
                w3 = 0,
                g0 = 0,
                g1 = 0,
                g2 = 0,
                g3 = 0;
            for (var x = 0; x < w; x += stride)
            {
                if (use is not null && !use[y * w + x])
                    continue;
                counted++;
                var (px, py) = (x - cx, y - cy);
                move.Map(px, py, out var u, out var v);
                var (qx, qy) = (u + dx, v + dy);
                if (!(qx >= 0 && qy >= 0 && qx < second.Width - 1.001f && qy < second.Height - 1.001f))
                    continue;
                var (x0, y0) = ((int)qx, (int)qy);
                var (fx, fy) = (qx - x0, qy - y0);
                var i = y0 * second.Width + x0;
                float a = values[i],
                    b = values[i + 1],
                    c = values[i + second.Width],
                    d = values[i + second.Width + 1];
                var top = a + fx * (b - a);
                var value = top + fy * (c + fx * (d - c) - top) - 128f;
                var gx = b - a + fy * (d - c - b + a);
                var gy = c - a + fx * (d - b - c + a);
                move.Slopes(px, py, u, v, gx, gy, s);
                var r = first.Values[y * w + x] - 128f;
                float s0 = s[0],
                    s1 = s[1],
                    s2 = s[2],
                    s3 = s[3];
                rn++;
                rr += r;
                rw += value;
                rrr += r * r;
                rww += value * value;
                rrw += r * value;
                h0 += s0 * s0;
                h1 += s0 * s1;
                h2 += s0 * s2;
                h3 += s0 * s3;
                h4 += s1 * s1;
                h5 += s1 * s2;
                h6 += s1 * s3;
                h7 += s2 * s2;
                h8 += s2 * s3;
                h9 += s3 * s3;
                r0 += s0 * r;
                r1 += s1 * r;
                r2 += s2 * r;
                r3 += s3 * r;
                w0 += s0 * value;
                w1 += s1 * value;
                w2 += s2 * value;
                w3 += s3 * value;
                g0 += s0;
                g1 += s1;
                g2 += s2;
                g3 += s3;
            }
            (n, sr, sw, srr, sww, srw) = (n + rn, sr + rr, sw + rw, srr + rrr, sww + rww, srw + rrw);
            h[0] += h0;
            h[1] += h1;
            h[2] += h2;
            h[3] += h3;
            h[4] += h4;
            h[5] += h5;
            h[6] += h6;
            h[7] += h7;
            h[8] += h8;
            h[9] += h9;
            gr[0] += r0;
            gr[1] += r1;
            gr[2] += r2;
            gr[3] += r3;
            gw[0] += w0;
            gw[1] += w1;
            gw[2] += w2;
            gw[3] += w3;
            g[0] += g0;
            g[1] += g1;
            g[2] += g2;
            g[3] += g3;
        }
        overlap = counted > 0 ? n / counted : 0;
        correlation = -1;
        if (n < 64)
            return false;
        double mr = sr / n,
            mw = sw / n;
        double crr = srr - n * mr * mr,
            cww = sww - n * mw * mw,
            crw = srw - n * mr * mw;
        if (crr < 1e-6 * n || cww < 1e-6 * n)
        {
            correlation = 0;
            return false;
        }
        correlation = crw / Math.Sqrt(crr * cww);
        for (int i = 0, k = 0; i < 4; i++)
        {
            gr[i] -= mr * g[i];
            gw[i] -= mw * g[i];
            for (var j = i; j < 4; j++, k++)
                h[k] -= g[i] * g[j] / n;
        }
        Span<double> a4 = stackalloc double[4];
        Span<double> b4 = stackalloc double[4];
        if (!Solve(h, gr, a4) || !Solve(h, gw, b4))
            return false;
        double rhr = 0,
            whw = 0;
        for (var i = 0; i < 4; i++)
            (rhr, whw) = (rhr + gr[i] * b4[i], whw + gw[i] * b4[i]);
        var (over, under) = (cww - whw, crw - rhr);
        // Where the small step would turn the sign, take the plain one.
        var lambda = under > 1e-9 ? over / under : Math.Sqrt(cww / crr);
        for (var i = 0; i < 4; i++)
            step[i] = lambda * a4[i] - b4[i];
        return true;
    }

    /// <summary>Four equations, their matrix symmetric and given by its upper half; false: they do not say.</summary>
    private static bool Solve(ReadOnlySpan<double> upper, ReadOnlySpan<double> right, Span<double> x)
    {
        Span<double> m = stackalloc double[20];
        for (int i = 0, k = 0; i < 4; i++)
        {
            for (var j = i; j < 4; j++, k++)
                m[5 * i + j] = m[5 * j + i] = upper[k];
            m[5 * i + 4] = right[i];
        }
        for (var c = 0; c < 4; c++)
        {
            var p = c;
            for (var r = c + 1; r < 4; r++)
                if (Math.Abs(m[5 * r + c]) > Math.Abs(m[5 * p + c]))
                    p = r;
            if (Math.Abs(m[5 * p + c]) < 1e-12)
                return false;
            for (var j = 0; j < 5; j++)
                (m[5 * c + j], m[5 * p + j]) = (m[5 * p + j], m[5 * c + j]);
            for (var r = 0; r < 4; r++)
            {
                if (r == c)
                    continue;
                var by = m[5 * r + c] / m[5 * c + c];
                for (var j = c; j < 5; j++)
                    m[5 * r + j] -= by * m[5 * c + j];
            }
        }
        for (var i = 0; i < 4; i++)
            x[i] = m[5 * i + 4] / m[5 * i + i];
        return true;
    }
}
