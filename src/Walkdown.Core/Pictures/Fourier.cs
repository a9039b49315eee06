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
        for (var y = 0; y < _side; y++)
            Line(re.AsSpan(y * _side, _side), im.AsSpan(y * _side, _side), back);
        Transpose(re);
        Transpose(im);
        for (var y = 0; y < _side; y++)
            Line(re.AsSpan(y * _side, _side), im.AsSpan(y * _side, _side), back);
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

    private void Line(Span<float> re, Span<float> im, bool back)
    {
        for (var i = 0; i < _side; i++)
        {
            var j = _swapped[i];
            if (j > i)
                (re[i], re[j], im[i], im[j]) = (re[j], re[i], im[j], im[i]);
        }
        var sign = back ? -1f : 1f;
        for (var half = 1; half < _side; half *= 2)
        {
            var step = _side / (2 * half);
            for (var from = 0; from < _side; from += 2 * half)
            {
                Span<float> a = re.Slice(from, half),
                    b = re.Slice(from + half, half),
                    c = im.Slice(from, half),
                    d = im.Slice(from + half, half);
                for (var k = 0; k < half; k++)
                {
                    var (wr, wi) = (_cos[k * step], sign * _sin[k * step]);
                    var tr = wr * b[k] - wi * d[k];
                    var ti = wr * d[k] + wi * b[k];
                    (b[k], d[k]) = (a[k] - tr, c[k] - ti);
                    a[k] += tr;
                    c[k] += ti;
                }
            }
        }
    }
}
