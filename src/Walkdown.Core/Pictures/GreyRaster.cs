using System.Runtime.CompilerServices;
using System.Runtime.InteropServices;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Pictures;

/// <summary>A part of a picture, pixels.</summary>
/// <param name="Left">Its first column.</param>
/// <param name="Top">Its first row.</param>
/// <param name="Wide">Columns.</param>
/// <param name="High">Rows.</param>
internal readonly record struct PixelPart(int Left, int Top, int Wide, int High);

/// <summary>A picture as grey levels 0 to 255, row by row from the top left. Whoever decodes a file makes one; Core knows no
/// file.</summary>
public sealed class GreyRaster
{
    /// <summary>Bigger pictures are refused, pixels.</summary>
    public const int Most = 80_000_000;

    private readonly byte[] _levels;

    /// <param name="width">At least 3.</param>
    /// <param name="height">At least 3.</param>
    /// <param name="levels">Row by row; kept, not copied.</param>
    /// <exception cref="BadInputException">Smaller than 3 x 3, larger than <see cref="Most"/>, or not as many levels as pixels.</exception>
    public GreyRaster(int width, int height, byte[] levels)
    {
        Require.Number(width, "width", 3);
        Require.Number(height, "height", 3);
        Require.Number((double)width * height, "image", 9, Most);
        Require.Consistent(levels.Length == width * height, "image");
        (Width, Height, _levels) = (width, height, levels);
    }

    /// <summary>Pixels across.</summary>
    public int Width { get; }

    /// <summary>Pixels down.</summary>
    public int Height { get; }

    /// <summary>All levels, row by row.</summary>
    public ReadOnlySpan<byte> Levels => _levels;

    /// <summary>All of it.</summary>
    internal PixelPart Whole => new(0, 0, Width, Height);

    /// <summary>A row of a part, counted from the part's own first.</summary>
    internal ReadOnlySpan<byte> Row(PixelPart part, int row) => _levels.AsSpan((part.Top + row) * Width + part.Left, part.Wide);

    /// <summary>Level of one pixel.</summary>
    public byte this[int x, int y] => _levels[y * Width + x];

    /// <summary>Grey of a colour, a whole number (ITU-R BT.601).</summary>
    public static byte Grey(byte red, byte green, byte blue) => (byte)Math.Round(0.299 * red + 0.587 * green + 0.114 * blue);

    /// <summary>A part of the picture, inside it.</summary>
    public GreyRaster Cut(int x, int y, int width, int height)
    {
        Require.Consistent(x >= 0 && y >= 0 && x + width <= Width && y + height <= Height, "region");
        var cut = new byte[width * height];
        for (var row = 0; row < height; row++)
            Levels.Slice((y + row) * Width + x, width).CopyTo(cut.AsSpan(row * width));
        return new(width, height, cut);
    }

    /// <summary>In another size: of a smaller one each pixel is the mean of what it stands for, of a larger one what lies
    /// between.</summary>
    /// <param name="width">At least 3.</param>
    /// <param name="height">At least 3.</param>
    public GreyRaster Sized(int width, int height)
    {
        if (width == Width && height == Height)
            return this;
        var plane = Plane.Of(this, width, height);
        var levels = new byte[width * height];
        for (var i = 0; i < levels.Length; i++)
            levels[i] = (byte)Math.Clamp(Math.Round(plane.Values[i]), 0, 255);
        return new(width, height, levels);
    }

    /// <summary>Each so many-th pixel of each so many-th row, so that at most about <paramref name="most"/> are left: for what is told of a
    /// picture as a whole.</summary>
    internal GreyRaster Thinned(int most)
    {
        var step = (int)Math.Ceiling(Math.Sqrt((double)Width * Height / most));
        if (step <= 1 || Width / step < 3 || Height / step < 3)
            return this;
        var (w, h) = (Width / step, Height / step);
        var levels = new byte[w * h];
        for (var y = 0; y < h; y++)
        {
            var row = Levels.Slice(y * step * Width, Width);
            for (var x = 0; x < w; x++)
                levels[y * w + x] = row[x * step];
        }
        return new(w, h, levels);
    }

    /// <summary>Left and right changed.</summary>
    public GreyRaster Mirrored()
    {
        var levels = (byte[])_levels.Clone();
        for (var row = 0; row < Height; row++)
            levels.AsSpan(row * Width, Width).Reverse();
        return new(Width, Height, levels);
    }

    /// <summary>Edges of part <paramref name="at"/> of <paramref name="parts"/> along a length.</summary>
    internal static (int From, int To) Part(int length, int parts, int at) =>
        ((int)((long)at * length / parts), (int)((long)(at + 1) * length / parts));

    /// <summary>Two pictures that are compared have one size.</summary>
    internal static void SameSize(GreyRaster a, GreyRaster b) =>
        Require.Consistent(a.Width == b.Width && a.Height == b.Height, "new_image");

    /// <summary>How many pixels have each level.</summary>
    internal int[] Histogram()
    {
        // Eight counts side by side: the next pixel need not wait for the last one's, and eight are read at once. A level is a byte, so no
        // count can lie outside.
        const int Beside = 8;
        Span<int> counts = stackalloc int[Beside * 256];
        counts.Clear();
        ref var first = ref MemoryMarshal.GetReference(counts);
        var levels = Levels;
        var eight = MemoryMarshal.Cast<byte, ulong>(levels);
        foreach (var levelsOf in eight)
        {
            Unsafe.Add(ref first, (nuint)(byte)levelsOf)++;
            Unsafe.Add(ref first, 256 + (nuint)(byte)(levelsOf >> 8))++;
            Unsafe.Add(ref first, 512 + (nuint)(byte)(levelsOf >> 16))++;
            Unsafe.Add(ref first, 768 + (nuint)(byte)(levelsOf >> 24))++;
            Unsafe.Add(ref first, 1024 + (nuint)(byte)(levelsOf >> 32))++;
            Unsafe.Add(ref first, 1280 + (nuint)(byte)(levelsOf >> 40))++;
            Unsafe.Add(ref first, 1536 + (nuint)(byte)(levelsOf >> 48))++;
            Unsafe.Add(ref first, 1792 + (nuint)(byte)(levelsOf >> 56))++;
        }
        for (var i = eight.Length * 8; i < levels.Length; i++)
            counts[levels[i]]++;
        var all = new int[256];
        for (var g = 0; g < 256; g++)
        for (var n = 0; n < Beside; n++)
            all[g] += counts[n * 256 + g];
        return all;
    }

    /// <summary>Percentile of a histogram by nearest rank.</summary>
    internal static int Percentile(ReadOnlySpan<int> histogram, double percent)
    {
        long count = 0;
        foreach (var n in histogram)
            count += n;
        var rank = Math.Max(1, (long)Math.Ceiling(percent / 100 * count - 1e-9));
        long seen = 0;
        for (var g = 0; g < 256; g++)
            if ((seen += histogram[g]) >= rank)
                return g;
        return 255;
    }

    /// <summary>Mean and deviation (by the count) of a histogram.</summary>
    internal static (double Mean, double Deviation) Moments(ReadOnlySpan<int> histogram)
    {
        double count = 0,
            sum = 0,
            squares = 0;
        for (var g = 0; g < 256; g++)
        {
            count += histogram[g];
            sum += (double)g * histogram[g];
            squares += (double)g * g * histogram[g];
        }
        var mean = sum / count;
        return (mean, Math.Sqrt(Math.Max(0, squares / count - mean * mean)));
    }
}
