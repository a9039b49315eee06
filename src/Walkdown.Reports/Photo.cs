using SkiaSharp;

namespace Walkdown.Reports;

/// <summary>A picture as it came, looked at: its size, and a smaller copy that stands upright.</summary>
/// <param name="Shown">JPEG, at most <see cref="Photo.MostShown"/> pixels on its longer side.</param>
public sealed record Photo(string MediaType, int Width, int Height, byte[] Shown)
{
    public const int MostShown = 1280;
    private const long MostPixels = 130_000_000,
        MostPixelsWhole = 30_000_000;

    /// <summary>A picture is unpacked whole while its smaller copy is made: one at a time holds the memory that one needs.</summary>
    private static readonly SemaphoreSlim One = new(1, 1);

    /// <summary>Reads a JPEG or PNG; null where it is none, is cut off, or is larger than any camera's.</summary>
    public static Photo? Read(byte[] file)
    {
        One.Wait();
        try
        {
            return ReadAlone(file);
        }
        finally
        {
            One.Release();
        }
    }

    /// <summary>Its size where it is a JPEG or PNG of more pixels than <see cref="Read"/> takes; null for anything else.</summary>
    public static (int Wide, int High)? Beyond(byte[] file)
    {
        using var codec = SKCodec.Create(new SKMemoryStream(file));
        if (codec is null || codec.EncodedFormat is not (SKEncodedImageFormat.Jpeg or SKEncodedImageFormat.Png))
            return null;
        var most = codec.EncodedFormat == SKEncodedImageFormat.Jpeg ? MostPixels : MostPixelsWhole;
        return (long)codec.Info.Width * codec.Info.Height > most ? (codec.Info.Width, codec.Info.Height) : null;
    }

    private static Photo? ReadAlone(byte[] file)
    {
        using var codec = SKCodec.Create(new SKMemoryStream(file));
        if (codec is null || codec.EncodedFormat is not (SKEncodedImageFormat.Jpeg or SKEncodedImageFormat.Png))
            return null;
        var pixels = (long)codec.Info.Width * codec.Info.Height;
        if (pixels > MostPixels)
            return null;
        // A JPEG is unpacked at a half, a quarter or an eighth of its size; a PNG cannot be, and has to be smaller.
        var part =
            codec.EncodedFormat == SKEncodedImageFormat.Jpeg
                ? codec.GetScaledDimensions(Math.Min(1f, 2f * MostShown / Math.Max(codec.Info.Width, codec.Info.Height)))
                : codec.Info.Size;
        if ((long)part.Width * part.Height > MostPixelsWhole)
            return null;
        // A picture of a screen may be see-through in places: it lies on white, as on paper.
        var alpha = codec.Info.AlphaType == SKAlphaType.Opaque ? SKAlphaType.Opaque : SKAlphaType.Premul;
        using var bitmap = new SKBitmap(new SKImageInfo(part.Width, part.Height, SKColorType.Rgba8888, alpha));
        if (codec.GetPixels(bitmap.Info, bitmap.GetPixels()) != SKCodecResult.Success)
            return null;
        var origin = codec.EncodedOrigin;
        var turned =
            origin is SKEncodedOrigin.LeftTop or SKEncodedOrigin.RightTop or SKEncodedOrigin.RightBottom or SKEncodedOrigin.LeftBottom;
        var (width, height) = turned ? (bitmap.Height, bitmap.Width) : (bitmap.Width, bitmap.Height);
        var scale = Math.Min(1, (double)MostShown / Math.Max(width, height));
        var (w, h) = (Math.Max(1, (int)Math.Round(width * scale)), Math.Max(1, (int)Math.Round(height * scale)));
        using var surface = SKSurface.Create(new SKImageInfo(w, h));
        var canvas = surface.Canvas;
        canvas.Clear(SKColors.White);
        canvas.Scale((float)w / width, (float)h / height);
        // All eight ways in which a camera may have been held, mirrored ones too (EXIF 2.32, Orientation).
        canvas.Concat(
            origin switch
            {
                SKEncodedOrigin.TopRight => new SKMatrix(-1, 0, width, 0, 1, 0, 0, 0, 1),
                SKEncodedOrigin.BottomRight => new SKMatrix(-1, 0, width, 0, -1, height, 0, 0, 1),
                SKEncodedOrigin.BottomLeft => new SKMatrix(1, 0, 0, 0, -1, height, 0, 0, 1),
                SKEncodedOrigin.LeftTop => new SKMatrix(0, 1, 0, 1, 0, 0, 0, 0, 1),
                SKEncodedOrigin.RightTop => new SKMatrix(0, -1, width, 1, 0, 0, 0, 0, 1),
                SKEncodedOrigin.RightBottom => new SKMatrix(0, -1, width, -1, 0, height, 0, 0, 1),
                SKEncodedOrigin.LeftBottom => new SKMatrix(0, 1, 0, -1, 0, height, 0, 0, 1),
                _ => SKMatrix.Identity,
            }
        );
        using var image = SKImage.FromBitmap(bitmap);
        canvas.DrawImage(image, 0, 0, new SKSamplingOptions(SKFilterMode.Linear, SKMipmapMode.Linear));
        using var snapshot = surface.Snapshot();
        using var jpeg = snapshot.Encode(SKEncodedImageFormat.Jpeg, 82);
        return new Photo(
            codec.EncodedFormat == SKEncodedImageFormat.Jpeg ? "image/jpeg" : "image/png",
            turned ? codec.Info.Height : codec.Info.Width,
            turned ? codec.Info.Width : codec.Info.Height,
            jpeg.ToArray()
        );
    }
}
