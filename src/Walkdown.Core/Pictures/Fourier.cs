using System.Numerics;

namespace Walkdown.Core.Pictures;

/// <summary>Fourier transform of a square whose side is a power of two (Cooley and Tukey, radix 2), in place.</summary>
internal sealed class Fourier
{
    private readonly int _side;
    private readonly float[] _cos,
        _sin;
    private readonly int[] _swapped;

    public Fourier(int side)
    {
        _side = side;
        _cos = new float[side / 2];
        _sin = new float[side / 2];
        for (var i = 0; i < side / 2; i++)
            (_sin[i], _cos[i]) = ((float)Math.Sin(-2 * Math.PI * i / side), (float)Math.Cos(-2 * Math.PI * i / side));
        _swapped = new int[side];
        var bits = int.Log2(side);
        for (var i = 0; i < side; i++)
        {
            var turned = 0;
            for (var b = 0; b < bits; b++)
                turned |= ((i >> b) & 1) << (bits - 1 - b);
            _swapped[i] = turned;
        }
    }

    /// <summary>Forward, or back without dividing.</summary>
    public void Square(float[] re, float[] im, bool back = false)
    {
        Down(re, im, back);
        Transpose(re);
        Transpose(im);
        Down(re, im, back);
        Transpose(re);
        Transpose(im);
    }

    private void Transpose(float[] values)
    {
        const int Block = 16;
        for (var by = 0; by < _side; by += Block)
        for (var bx = by; bx < _side; bx += Block)
        for (var y = by; y < Math.Min(by + Block, _side); y++)
        for (var x = bx == by ? y + 1 : bx; x < Math.Min(bx + Block, _side); x++)
            (values[y * _side + x], values[x * _side + y]) = (values[x * _side + y], values[y * _side + x]);
    }

    /// <summary>Every column for itself, all of a row at once: one twiddle turns as many columns as the processor takes together.</summary>
    private void Down(float[] re, float[] im, bool back)
    {
        for (var i = 0; i < _side; i++)
            if (_swapped[i] is var j && j > i)
            {
                Swap(re, i, j);
                Swap(im, i, j);
            }
        var sign = back ? -1f : 1f;
        for (var half = 1; half < _side; half *= 2)
        {
            var step = _side / (2 * half);
            for (var from = 0; from < _side; from += 2 * half)
            for (var k = 0; k < half; k++)
                Turn(re, im, from + k, from + k + half, _cos[k * step], sign * _sin[k * step]);
        }
    }

    private void Swap(float[] values, int one, int other)
    {
        Span<float> a = values.AsSpan(one * _side, _side),
            b = values.AsSpan(other * _side, _side);
        for (var x = 0; x < a.Length; x++)
            (a[x], b[x]) = (b[x], a[x]);
    }

    private void Turn(float[] re, float[] im, int upper, int lower, float wr, float wi)
    {
        Span<float> a = re.AsSpan(upper * _side, _side),
            b = re.AsSpan(lower * _side, _side),
            c = im.AsSpan(upper * _side, _side),
            d = im.AsSpan(lower * _side, _side);
        var x = 0;
        for (; x <= a.Length - Vector<float>.Count; x += Vector<float>.Count)
        {
            var (ax, bx, cx, dx) = (At(a, x), At(b, x), At(c, x), At(d, x));
            var (tr, ti) = (wr * bx - wi * dx, wr * dx + wi * bx);
            (ax - tr).CopyTo(b[x..]);
            (cx - ti).CopyTo(d[x..]);
            (ax + tr).CopyTo(a[x..]);
            (cx + ti).CopyTo(c[x..]);
        }
        for (; x < a.Length; x++)
        {
            var (tr, ti) = (wr * b[x] - wi * d[x], wr * d[x] + wi * b[x]);
            (b[x], d[x]) = (a[x] - tr, c[x] - ti);
            a[x] += tr;
            c[x] += ti;
        }

        static Vector<float> At(Span<float> of, int x) => new(of[x..]);
    }
}
