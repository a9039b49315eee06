using SkiaSharp;
using Svg;
using Svg.Skia;
using Svg.Skia.TypefaceProviders;

namespace Walkdown.Reports;

/// <summary>The drawing behind a site plan as it is printed: pale, so that the marks on it stand out. Nothing outside the file is read, no script is run.</summary>
public static class PlanPicture
{
    private const int MostPixels = 2200;
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(15);

    static PlanPicture()
    {
        SvgDocument.ResolveExternalImages = ExternalType.None;
        SvgDocument.ResolveExternalElements = ExternalType.None;
        SvgDocument.ResolveExternalXmlEntites = ExternalType.None;
        SvgDocument.DisableDtdProcessing = true;
    }

    /// <summary>JPEG of a drawing; null where it cannot be drawn, or not in the time that a pack can wait.</summary>
    /// <param name="file">SVG or PNG.</param>
    public static byte[]? Of(byte[] file, string mediaType)
    {
        // A drawing that folds into itself a million times must not hold up a handover.
        var drawn = Task.Run(() => mediaType == "image/svg+xml" ? OfSvg(file) : OfPicture(file));
        try
        {
            return drawn.Wait(Patience) ? drawn.Result : null;
        }
        catch (AggregateException)
        {
            return null;
        }
    }

    private static byte[]? OfSvg(byte[] file)
    {
        using var svg = new SKSvg();
        svg.Settings.EnableJavaScript = false;
        svg.Settings.TypefaceProviders = [new ShippedTypeface()];
        using var stream = new MemoryStream(file);
        if (svg.Load(stream) is not { CullRect: { Width: > 0, Height: > 0 } bounds } picture)
            return null;
        return Pale(
            bounds.Width,
            bounds.Height,
            canvas =>
            {
                canvas.Translate(-bounds.Left, -bounds.Top);
                canvas.DrawPicture(picture);
            }
        );
    }

    private static byte[]? OfPicture(byte[] file)
    {
        using var image = SKImage.FromEncodedData(file);
        return image is null
            ? null
            : Pale(
                image.Width,
                image.Height,
                canvas => canvas.DrawImage(image, 0, 0, new SKSamplingOptions(SKFilterMode.Linear, SKMipmapMode.Linear))
            );
    }

    private static byte[] Pale(float width, float height, Action<SKCanvas> draw)
    {
        var scale = MostPixels / Math.Max(width, height);
        using var surface = SKSurface.Create(new SKImageInfo(Math.Max(1, (int)(width * scale)), Math.Max(1, (int)(height * scale))));
        var canvas = surface.Canvas;
        canvas.Clear(SKColors.White);
        canvas.Save();
        canvas.Scale(scale);
        draw(canvas);
        canvas.Restore();
        canvas.DrawColor(SKColors.White.WithAlpha(90), SKBlendMode.SrcOver);
        using var image = surface.Snapshot();
        using var jpeg = image.Encode(SKEncodedImageFormat.Jpeg, 84);
        return jpeg.ToArray();
    }

    /// <summary>The font that ships stands for every other: a page looks the same on every machine.</summary>
    private sealed class ShippedTypeface : ITypefaceProvider
    {
        private readonly SKTypeface _regular = Of("Regular"),
            _bold = Of("Bold");

        public SKTypeface? FromFamilyName(
            string fontFamily,
            SKFontStyleWeight fontWeight,
            SKFontStyleWidth fontWidth,
            SKFontStyleSlant fontStyle
        ) => fontWeight >= SKFontStyleWeight.SemiBold ? _bold : _regular;

        private static SKTypeface Of(string weight)
        {
            using var stream = typeof(PlanPicture).Assembly.GetManifestResourceStream($"fonts/AtkinsonHyperlegibleNext-{weight}.ttf")!;
            return SKTypeface.FromStream(stream);
        }
    }
}
