using CsCheck;
using Walkdown.Core.Pictures;

namespace Walkdown.Core.Tests;

/// <summary>Many pixels at once are the same as one after another: whatever the width, with what is left over at its end.</summary>
public sealed class PixelSumsTests
{
    private static readonly Gen<(byte[] Above, byte[] Here, byte[] Below)> Rows = Gen.Int[3, 300]
        .SelectMany(width =>
            Gen.Select(
                // As bright and as dark as can be beside each other: the greatest differences that there are.
                Gen.OneOf(Gen.Byte, Gen.OneOfConst<byte>(0, 255)).Array[width],
                Gen.OneOf(Gen.Byte, Gen.OneOfConst<byte>(0, 255)).Array[width],
                Gen.OneOf(Gen.Byte, Gen.OneOfConst<byte>(0, 255)).Array[width]
            )
        );

    [Fact]
    public void LevelsAreSummed() =>
        Rows.Sample(rows =>
        {
            var (sum, squares) = PixelSums.Levels(rows.Here);
            Assert.Equal(rows.Here.Sum(g => (long)g), sum);
            Assert.Equal(rows.Here.Sum(g => (long)g * g), squares);
        });

    [Fact]
    public void SlopesAreSummed() =>
        Rows.Sample(rows =>
        {
            var (a, h, b) = rows;
            var inner = Enumerable.Range(1, h.Length - 2).ToArray();
            long Bent(int x) => h[x - 1] + h[x + 1] + a[x] + b[x] - 4 * h[x];
            var told = PixelSums.Slopes(a, h, b);
            Assert.Equal(
                inner.Sum(x => (long)((h[x + 1] - h[x - 1]) * (h[x + 1] - h[x - 1]) + (b[x] - a[x]) * (b[x] - a[x]))),
                told.Slopes
            );
            Assert.Equal(inner.Sum(Bent), told.Laplacians);
            Assert.Equal(inner.Sum(x => Bent(x) * Bent(x)), told.Squares);
        });

    [Fact]
    public void GrainIsSummed() =>
        Rows.Sample(rows =>
        {
            var (a, h, b) = rows;
            long Of(int x) =>
                Math.Abs(a[x - 1] - 2 * a[x] + a[x + 1] - 2 * h[x - 1] + 4 * h[x] - 2 * h[x + 1] + b[x - 1] - 2 * b[x] + b[x + 1]);
            Assert.Equal(Enumerable.Range(1, h.Length - 2).Sum(Of), PixelSums.Grain(a, h, b));
        });

    /// <summary>The longest row that a picture may have, of what sums up most: nothing runs over.</summary>
    [Fact]
    public void NothingRunsOver()
    {
        const int Long = GreyRaster.Most / 3;
        byte[] Chequered(int from) => [.. Enumerable.Range(0, Long).Select(x => (byte)((x + from) % 2 == 0 ? 255 : 0))];
        var (even, odd) = (Chequered(0), Chequered(1));
        Assert.Equal((255L * (Long / 2), 255L * 255 * (Long / 2)), PixelSums.Levels(even[..(Long / 2 * 2)]));
        var told = PixelSums.Slopes(odd, even, odd);
        Assert.Equal(1020L * 1020 * (Long - 2), told.Squares);
        Assert.Equal(2040L * (Long - 2), PixelSums.Grain(odd, even, odd));
    }

    /// <summary>A picture made smaller: each value is the mean of what it stands for, whether its side divides or not.</summary>
    [Fact]
    public void ASmallerPictureIsTheMeanOfWhatItStandsFor() =>
        Gen.Select(Gen.Int[9, 90], Gen.Int[9, 60], Gen.Int[3, 9], Gen.Int[3, 9])
            .Sample(
                (wide, high, w, h) =>
                {
                    var levels = new byte[wide * high];
                    new Random(wide * 1000 + high).NextBytes(levels);
                    var plane = Plane.Of(new GreyRaster(wide, high, levels), w, h);
                    for (var y = 0; y < h; y++)
                    for (var x = 0; x < w; x++)
                    {
                        double sum = 0;
                        for (var sy = 0; sy < high; sy++)
                        for (var sx = 0; sx < wide; sx++)
                            sum += levels[sy * wide + sx] * Shared(sx, x, wide, w) * Shared(sy, y, high, h);
                        Assert.Equal(sum * w * h / (wide * high), plane.Values[y * w + x], 1e-2);
                    }
                },
                iter: 40
            );

    /// <summary>How much of an old pixel a new one covers.</summary>
    private static double Shared(int old, int made, int length, int parts)
    {
        var by = length / (double)parts;
        return Math.Max(0, Math.Min(old + 1, (made + 1) * by) - Math.Max(old, made * by));
    }
}
