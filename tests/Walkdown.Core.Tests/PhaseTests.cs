using CsCheck;
using Walkdown.Core.Pictures;

namespace Walkdown.Core.Tests;

/// <summary>The transform under registration, against the sum that defines it; and two pictures held against one in one go.</summary>
public sealed class PhaseTests
{
    private static float[] Noise(int side, int seed)
    {
        var random = new Random(seed);
        return [.. Enumerable.Range(0, side * side).Select(_ => (float)(200 * random.NextDouble() - 100))];
    }

    [Fact]
    public void TheTransformIsTheSumThatDefinesIt()
    {
        const int Side = 16;
        var (re, im) = (Noise(Side, 1), Noise(Side, 2));
        var (was, wasIm) = ((float[])re.Clone(), (float[])im.Clone());
        var fourier = new Fourier(Side);
        fourier.Square(re, im);
        foreach (var (u, v) in new[] { (0, 0), (1, 0), (0, 1), (5, 11), (15, 8) })
        {
            var sum = System.Numerics.Complex.Zero;
            for (var y = 0; y < Side; y++)
            for (var x = 0; x < Side; x++)
                sum +=
                    new System.Numerics.Complex(was[y * Side + x], wasIm[y * Side + x])
                    * System.Numerics.Complex.FromPolarCoordinates(1, -2 * Math.PI * (u * x + v * y) / Side);
            Assert.Equal(sum.Real, re[v * Side + u], 0.01);
            Assert.Equal(sum.Imaginary, im[v * Side + u], 0.01);
        }
        fourier.Square(re, im, back: true);
        for (var i = 0; i < re.Length; i++)
            Assert.True(Math.Abs(re[i] / (Side * Side) - was[i]) < 1e-3 && Math.Abs(im[i] / (Side * Side) - wasIm[i]) < 1e-3);
    }

    /// <summary>A picture moved round by any way is found there; and a second beside it, in the same go, as if it were alone.</summary>
    [Fact]
    public void TwoAreFoundAsEachAlone() =>
        Gen.Select(Gen.Int[-31, 31], Gen.Int[-31, 31], Gen.Int[1, 1000])
            .Sample(
                (right, down, seed) =>
                {
                    const int Side = 64;
                    var phases = new PhaseCorrelation(Side);
                    // Round a circle nothing is cut off; a wide blur leaves one peak.
                    var first = Noise(Side, seed);
                    var moved = new float[first.Length];
                    for (var y = 0; y < Side; y++)
                    for (var x = 0; x < Side; x++)
                        moved[(y + down + Side) % Side * Side + (x + right + Side) % Side] = first[y * Side + x];
                    PhaseCorrelation.Spectrum Of(float[] values)
                    {
                        var (re, im) = ((float[])values.Clone(), new float[values.Length]);
                        new Fourier(Side).Square(re, im);
                        return new(re, im);
                    }
                    var (a, b, other) = (Of(first), Of(moved), Of(Noise(Side, seed + 5000)));
                    var (one, second) = phases.Find(a, b, other);
                    var (alone, secondAlone) = (phases.Find(a, b), phases.Find(a, other));
                    Assert.Equal(right, one.X, 0.01);
                    Assert.Equal(down, one.Y, 0.01);
                    Assert.Equal(0, double.Hypot(alone.X - one.X, alone.Y - one.Y), 1e-3);
                    Assert.Equal(alone.Height, one.Height, 1e-3);
                    Assert.Equal(secondAlone.Height, second.Height, 1e-3);
                    Assert.True(one.Height > 0.9 && second.Height < 0.2);
                },
                iter: 40
            );
}
