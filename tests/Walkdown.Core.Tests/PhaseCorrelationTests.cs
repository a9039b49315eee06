using Walkdown.Core.Pictures;

namespace Walkdown.Core.Tests;

/// <summary>What is done with spectra at once is the same as done with each picture for itself.</summary>
public sealed class PhaseCorrelationTests
{
    private const int Side = 64;

    private static Plane Drawn(int seed, int wide = 60, int high = 40)
    {
        var random = new Random(seed);
        return new(wide, high, [.. Enumerable.Range(0, wide * high).Select(_ => (float)random.Next(256))]);
    }

    private static Plane Other(Plane of, Func<int, int, (int X, int Y)> from) =>
        new(
            of.Width,
            of.Height,
            [
                .. Enumerable
                    .Range(0, of.Values.Length)
                    .Select(i => from(i % of.Width, i / of.Width))
                    .Select(at => of.Values[at.Y * of.Width + at.X]),
            ]
        );

    [Fact]
    public void TwoSpectraAtOnceAreThoseOfEach()
    {
        var phases = new PhaseCorrelation(Side);
        var (a, b) = (Drawn(1), Drawn(2, 33, 64));
        var (one, other) = phases.Of(a, b);
        foreach (var (told, alone) in new[] { (one, phases.Of(a)), (other, phases.Of(b)) })
        foreach (var (are, were) in new[] { (told.Re, alone.Re), (told.Im, alone.Im) })
            for (var i = 0; i < are.Length; i++)
                Assert.Equal(were[i], are[i], 0.05);
    }

    /// <summary>Turned or seen in a mirror, its spectrum says by its peak what that of the turned picture says.</summary>
    [Fact]
    public void ATurnedSpectrumIsOfTheTurnedPicture()
    {
        var phases = new PhaseCorrelation(Side);
        var picture = Drawn(3);
        var (wide, high) = (picture.Width - 1, picture.Height - 1);
        var spectrum = phases.Of(picture);
        var flipped = phases.Flipped(spectrum);
        var seen = new[]
        {
            (PhaseCorrelation.Turned(spectrum), Other(picture, (x, y) => (wide - x, high - y))),
            (flipped, Other(picture, (x, y) => (wide - x, y))),
            (PhaseCorrelation.Turned(flipped), Other(picture, (x, y) => (x, high - y))),
        };
        foreach (var (of, turned) in seen)
        {
            // Against itself turned: one peak, as high as there is, and nothing like it elsewhere.
            var peak = phases.Find(phases.Of(turned), of);
            Assert.True(peak.Height > 0.95, $"{peak}");
            // Against the picture as it was: none.
            Assert.True(phases.Find(spectrum, of).Height < 0.2);
        }
    }
}
