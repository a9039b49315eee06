namespace Walkdown.Core.Pictures;

/// <summary>Noise of a picture, grey levels (Immerkaer 1996). Noise reduction in the camera hides it: little noise with little sharpness
/// at night is smear.</summary>
/// <param name="SigmaTiles">25th percentile of its tiles, which dodges texture.</param>
/// <param name="SigmaWhole">Of the whole picture.</param>
/// <param name="SignalDb">Mean against <paramref name="SigmaTiles"/>; null: one of them is 0.</param>
public sealed record PictureNoise(double SigmaTiles, double SigmaWhole, double? SignalDb)
{
    /// <param name="picture">Whose tiles are at least 3 x 3.</param>
    /// <param name="rows">1 to 64.</param>
    /// <param name="columns">1 to 64.</param>
    public static PictureNoise Of(GreyRaster picture, int rows = 6, int columns = 8)
    {
        double[] tiles = [.. Tiling.Parts(picture, rows, columns).Select(part => Sigma(picture, part)).Order()];
        var sigma = tiles[Math.Max(1, (int)Math.Ceiling(0.25 * tiles.Length - 1e-9)) - 1];
        var (mean, _) = GreyRaster.Moments(picture.Histogram());
        return new(sigma, Sigma(picture), sigma > 0 && mean > 0 ? 20 * Math.Log10(mean / sigma) : null);
    }

    /// <summary>Of the inner pixels, by a mask that leaves out slopes and curves.</summary>
    internal static double Sigma(GreyRaster picture) => Sigma(picture, picture.Whole);

    private static double Sigma(GreyRaster picture, PixelPart part)
    {
        long sum = 0;
        for (var y = 1; y < part.High - 1; y++)
            sum += PixelSums.Grain(picture.Row(part, y - 1), picture.Row(part, y), picture.Row(part, y + 1));
        return Math.Sqrt(Math.PI / 2) / 6 * sum / ((double)(part.Wide - 2) * (part.High - 2));
    }
}
