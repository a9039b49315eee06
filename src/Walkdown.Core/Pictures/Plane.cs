using System.Numerics;

namespace Walkdown.Core.Pictures;

/// <summary>A picture as numbers between which there are others: what registration works on.</summary>
internal sealed class Plane(int width, int height, float[] values)
{
    public int Width { get; } = width;
    public int Height { get; } = height;
    public float[] Values { get; } = values;

    /// <summary>A raster made small enough that no side is longer than <paramref name="longest"/>; each value is the mean of the pixels
    /// that it stands for, so that nothing finer than it is left in it.</summary>
    public static Plane Of(GreyRaster picture, int longest)
    {
        var shrink = Math.Max(1, Math.Max(picture.Width, picture.Height) / (double)longest);
        return Of(picture, (int)Math.Round(picture.Width / shrink), (int)Math.Round(picture.Height / shrink));
    }

    /// <summary>A raster in another size; enlarged, its values are those between.</summary>
    public static Plane Of(GreyRaster picture, int width, int height)
    {
        if (width > picture.Width || height > picture.Height)
            return Enlarged(picture, width, height);
        if (width == picture.Width && height == picture.Height)
        {
            var same = new float[width * height];
            for (var i = 0; i < same.Length; i++)
                same[i] = picture.Levels[i];
            return new(width, height, same);
        }
        // Down first, many columns at once, then across: every pixel is touched once, by its share of where it falls.
        var (byX, byY) = (picture.Width / (double)width, picture.Height / (double)height);
        var columns = Shares(picture.Width, width, byX);
        var rows = Shares(picture.Height, height, byY);
        var values = new float[width * height];
        var line = new float[picture.Width];
        var scale = (float)(1 / (byX * byY));
        for (var y = 0; y < height; y++)
        {
            var (top, bottom, first, last) = rows[y];
            Array.Clear(line);
            for (var sy = top; sy <= bottom; sy++)
                AddTo(
                    line,
                    picture.Levels.Slice(sy * picture.Width, picture.Width),
                    sy == top ? first
                        : sy == bottom ? last
                        : 1f
                );
            var into = values.AsSpan(y * width, width);
            for (var x = 0; x < width; x++)
            {
                var (left, right, l, r) = columns[x];
                var sum = l * line[left];
                foreach (var whole in line.AsSpan(left + 1, Math.Max(0, right - left - 1)))
                    sum += whole;
                into[x] = scale * (right > left ? sum + r * line[right] : sum);
            }
        }
        return new(width, height, values);
    }

    /// <summary>Adds a row of levels, by its weight.</summary>
    private static void AddTo(float[] line, ReadOnlySpan<byte> row, float weight)
    {
        var x = 0;
        for (; x <= row.Length - Vector<byte>.Count; x += Vector<byte>.Count)
        {
            Vector.Widen(new Vector<byte>(row[x..]), out var low, out var high);
            Quarter(low, x);
            Quarter(high, x + Vector<ushort>.Count);
        }
        for (; x < row.Length; x++)
            line[x] += weight * row[x];

        void Quarter(Vector<ushort> levels, int at)
        {
            Vector.Widen(levels, out var first, out var second);
            (new Vector<float>(line, at) + weight * Vector.ConvertToSingle(Vector.AsVectorInt32(first))).CopyTo(line, at);
            at += Vector<float>.Count;
            (new Vector<float>(line, at) + weight * Vector.ConvertToSingle(Vector.AsVectorInt32(second))).CopyTo(line, at);
        }
    }

    private static Plane Enlarged(GreyRaster picture, int width, int height)
    {
        var values = new float[width * height];
        for (var y = 0; y < height; y++)
        {
            var (y0, y1, fy) = Beside(y, height, picture.Height);
            for (var x = 0; x < width; x++)
            {
                var (x0, x1, fx) = Beside(x, width, picture.Width);
                var top = picture[x0, y0] + fx * (picture[x1, y0] - picture[x0, y0]);
                var low = picture[x0, y1] + fx * (picture[x1, y1] - picture[x0, y1]);
                values[y * width + x] = top + fy * (low - top);
            }
        }
        return new(width, height, values);

        static (int, int, float) Beside(int at, int made, int old)
        {
            var where = Math.Clamp((at + 0.5f) * old / made - 0.5f, 0, old - 1);
            var first = (int)where;
            return (first, Math.Min(old - 1, first + 1), where - first);
        }
    }

    /// <summary>For each of the new pixels: the first and last old one that it covers, and how much of each.</summary>
    private static (int First, int Last, float OfFirst, float OfLast)[] Shares(int old, int made, double by)
    {
        var shares = new (int, int, float, float)[made];
        for (var i = 0; i < made; i++)
        {
            var (from, to) = (i * by, Math.Min(old, (i + 1) * by));
            var first = (int)from;
            var last = Math.Min(old - 1, (int)Math.Ceiling(to) - 1);
            shares[i] =
                last <= first ? (first, first, (float)(to - from), 0) : (first, last, (float)(first + 1 - from), (float)(to - last));
        }
        return shares;
    }

    /// <summary>Half the size, each value the mean of four.</summary>
    public Plane Halved()
    {
        var (w, h) = (Width / 2, Height / 2);
        var half = new float[w * h];
        for (var y = 0; y < h; y++)
        {
            var above = Values.AsSpan(2 * y * Width, Width);
            var below = Values.AsSpan((2 * y + 1) * Width, Width);
            for (var x = 0; x < w; x++)
                half[y * w + x] = 0.25f * (above[2 * x] + above[2 * x + 1] + below[2 * x] + below[2 * x + 1]);
        }
        return new(w, h, half);
    }

    /// <summary>Lightly smoothed: 1 2 1 each way.</summary>
    public Plane Smoothed()
    {
        var (w, h) = (Width, Height);
        var across = new float[w * h];
        for (var y = 0; y < h; y++)
        {
            var from = Values.AsSpan(y * w, w);
            var to = across.AsSpan(y * w, w);
            for (var x = 1; x < w - 1; x++)
                to[x] = 0.25f * (from[x - 1] + 2 * from[x] + from[x + 1]);
            to[0] = 0.25f * (3 * from[0] + from[1]);
            to[w - 1] = 0.25f * (from[w - 2] + 3 * from[w - 1]);
        }
        var both = new float[w * h];
        for (var y = 0; y < h; y++)
        {
            var (up, down) = (Math.Max(0, y - 1) * w, Math.Min(h - 1, y + 1) * w);
            for (var x = 0; x < w; x++)
                both[y * w + x] = 0.25f * (across[up + x] + 2 * across[y * w + x] + across[down + x]);
        }
        return new(w, h, both);
    }

    /// <summary>Without what changes slowly, and with equal contrast everywhere: of each value the mean of its surroundings is taken, and
    /// the rest is measured by their deviation. A lamp, dusk or a camera's own light then leave the same picture. Where there is nothing
    /// but grain it stays small.</summary>
    public Plane Evened()
    {
        const float Grain = 6,
            Scale = 30;
        var radius = Math.Max(4, Math.Max(Width, Height) / 24);
        var squares = new float[Values.Length];
        for (var i = 0; i < squares.Length; i++)
            squares[i] = (Values[i] - 128) * (Values[i] - 128);
        var (means, spreads) = (Averaged(Values, Width, Height, radius), Averaged(squares, Width, Height, radius));
        var even = new float[Values.Length];
        for (var i = 0; i < even.Length; i++)
        {
            var about = Math.Max(0, spreads[i] - (means[i] - 128) * (means[i] - 128));
            even[i] = 128 + Scale * (Values[i] - means[i]) / MathF.Sqrt(about + Grain * Grain);
        }
        return new(Width, Height, even);
    }

    /// <summary>Means over squares, as far as they lie in the picture.</summary>
    private static float[] Averaged(float[] values, int w, int h, int radius)
    {
        var across = new float[values.Length];
        for (var y = 0; y < h; y++)
        {
            double sum = 0;
            var (from, to) = (0, -1);
            for (var x = 0; x < w; x++)
            {
                while (to < Math.Min(w - 1, x + radius))
                    sum += values[y * w + ++to];
                while (from < x - radius)
                    sum -= values[y * w + from++];
                across[y * w + x] = (float)(sum / (to - from + 1));
            }
        }
        var both = new float[values.Length];
        var sums = new double[w];
        var (top, bottom) = (0, -1);
        for (var y = 0; y < h; y++)
        {
            while (bottom < Math.Min(h - 1, y + radius))
            {
                bottom++;
                for (var x = 0; x < w; x++)
                    sums[x] += across[bottom * w + x];
            }
            while (top < y - radius)
            {
                for (var x = 0; x < w; x++)
                    sums[x] -= across[top * w + x];
                top++;
            }
            for (var x = 0; x < w; x++)
                both[y * w + x] = (float)(sums[x] / (bottom - top + 1));
        }
        return both;
    }

    /// <summary>Value between pixels, by its four neighbours; false: outside.</summary>
    public bool At(float x, float y, out float value)
    {
        var (x0, y0) = ((int)x, (int)y);
        if (x < 0 || y < 0 || x0 >= Width - 1 || y0 >= Height - 1)
        {
            value = 0;
            return false;
        }
        var (fx, fy) = (x - x0, y - y0);
        var i = y0 * Width + x0;
        var top = Values[i] + fx * (Values[i + 1] - Values[i]);
        var low = Values[i + Width] + fx * (Values[i + Width + 1] - Values[i + Width]);
        value = top + fy * (low - top);
        return true;
    }
}
