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

    /// <summary>Any part of a picture, wherever its rows begin and end.</summary>
    [Fact]
    public void LevelsOfAPartAreSummed() =>
        Gen.Select(Gen.Int[3, 150], Gen.Int[3, 9], Gen.Double[0, 1], Gen.Double[0, 1], Gen.Int[0, 999])
            .Sample(
                (wide, high, from, to, seed) =>
                {
                    var picture = Drawn(wide, high, seed);
                    var (left, right) = ((int)(Math.Min(from, to) * (wide - 1)), 1 + (int)(Math.Max(from, to) * (wide - 1)));
                    PixelPart part = new(left, 1, right - left, high - 2);
                    byte[] all = [.. Enumerable.Range(0, part.High).SelectMany(y => picture.Row(part, y).ToArray())];
                    Assert.Equal((all.Sum(g => (long)g), all.Sum(g => (long)g * g)), PixelSums.Levels(picture, part));
                }
            );

    /// <summary>Each level is counted, also those that fill no eight.</summary>
    [Fact]
    public void LevelsAreCounted() =>
        Gen.Select(Gen.Int[3, 60], Gen.Int[3, 9], Gen.Int[0, 999])
            .Sample(
                (wide, high, seed) =>
                {
                    var picture = Drawn(wide, high, seed);
                    var levels = picture.Levels.ToArray();
                    Assert.Equal(Enumerable.Range(0, 256).Select(g => levels.Count(l => l == g)), picture.Histogram());
                }
            );

    private static GreyRaster Drawn(int wide, int high, int seed)
    {
        var levels = new byte[wide * high];
        new Random(seed).NextBytes(levels);
        return new(wide, high, levels);
    }

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
        GreyRaster white = new(Long, 3, [.. Enumerable.Repeat((byte)255, 3 * Long)]);
        Assert.Equal((255L * 3 * Long, 255L * 255 * 3 * Long), PixelSums.Levels(white, white.Whole));
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
