using SkiaSharp;

namespace Walkdown.Reports;

/// <summary>A picture as it came, looked at: its size, and a smaller copy that stands upright.</summary>
/// <param name="Shown">JPEG, at most <see cref="Photo.MostShown"/> pixels on its longer side.</param>
public sealed record Photo(string MediaType, int Width, int Height, byte[] Shown)
{
    public const int MostShown = 1280;
    private const long MostPixels = 80_000_000;

    /// <summary>Reads a JPEG or PNG; null where it is none, is cut off, or is larger than any camera's.</summary>
    public static Photo? Read(byte[] file)
    {
        using var codec = SKCodec.Create(new SKMemoryStream(file));
        if (codec is null || codec.EncodedFormat is not (SKEncodedImageFormat.Jpeg or SKEncodedImageFormat.Png))
            return null;
        if ((long)codec.Info.Width * codec.Info.Height > MostPixels)
            return null;
        using var bitmap = new SKBitmap(new SKImageInfo(codec.Info.Width, codec.Info.Height, SKColorType.Rgba8888, SKAlphaType.Opaque));
        if (codec.GetPixels(bitmap.Info, bitmap.GetPixels()) != SKCodecResult.Success)
            return null;
        var turned =
            codec.EncodedOrigin
            is SKEncodedOrigin.LeftTop
                or SKEncodedOrigin.RightTop
                or SKEncodedOrigin.RightBottom
                or SKEncodedOrigin.LeftBottom;
        var (width, height) = turned ? (bitmap.Height, bitmap.Width) : (bitmap.Width, bitmap.Height);
        var scale = Math.Min(1, (double)MostShown / Math.Max(width, height));
        var (w, h) = (Math.Max(1, (int)Math.Round(width * scale)), Math.Max(1, (int)Math.Round(height * scale)));
        using var surface = SKSurface.Create(new SKImageInfo(w, h));
        var canvas = surface.Canvas;
        canvas.Scale((float)w / width, (float)h / height);
        switch (codec.EncodedOrigin)
        {
            case SKEncodedOrigin.BottomRight:
                canvas.RotateDegrees(180, width / 2f, height / 2f);
                break;
            case SKEncodedOrigin.RightTop:
                canvas.Translate(width, 0);
                canvas.RotateDegrees(90);
                break;
            case SKEncodedOrigin.LeftBottom:
                canvas.Translate(0, height);
                canvas.RotateDegrees(270);
                break;
            case SKEncodedOrigin.TopRight:
                canvas.Scale(-1, 1, width / 2f, 0);
                break;
        }
        using var image = SKImage.FromBitmap(bitmap);
        canvas.DrawImage(image, 0, 0, new SKSamplingOptions(SKFilterMode.Linear, SKMipmapMode.Linear));
        using var snapshot = surface.Snapshot();
        using var jpeg = snapshot.Encode(SKEncodedImageFormat.Jpeg, 82);
        return new Photo(codec.EncodedFormat == SKEncodedImageFormat.Jpeg ? "image/jpeg" : "image/png", width, height, jpeg.ToArray());
    }
}
