using System.Buffers.Binary;
using System.Globalization;
using System.Text;
using System.Xml;
using SkiaSharp;
using Svg;
using Svg.Skia;
using Svg.Skia.TypefaceProviders;

namespace Walkdown.Reports;

/// <summary>The drawing behind a site plan as it is printed: pale, so that the marks on it stand out. Nothing outside the file is read, no
/// script is run.</summary>
public static class PlanPicture
{
    private const int MostPixels = 2200;
    private const int MostElements = 300_000,
        MostDepth = 150;
    private const long MostPicturePixels = 60_000_000;

    static PlanPicture()
    {
        SvgDocument.ResolveExternalImages = ExternalType.None;
        SvgDocument.ResolveExternalElements = ExternalType.None;
        SvgDocument.ResolveExternalXmlEntites = ExternalType.None;
        SvgDocument.DisableDtdProcessing = true;
    }

    /// <summary>JPEG of a drawing; null where it cannot be drawn. It takes as long as the drawing makes it: the caller sees to an
    /// end.</summary>
    /// <param name="file">SVG or PNG.</param>
    public static byte[]? Of(byte[] file, string mediaType)
    {
        try
        {
            return mediaType == "image/svg+xml"
                ? Folds(file)
                    ? null
                    : OfSvg(file)
                : OfPicture(file);
        }
        catch (Exception problem) when (problem is not OutOfMemoryException)
        {
            // A drawing may be broken in any way; then there is none.
            return null;
        }
    }

    /// <summary>Whether an SVG unfolds, by what it uses again, to more than any plan has; or nests deeper, or leads back into
    /// itself.</summary>
    public static bool Folds(byte[] file)
    {
        var byId = new Dictionary<string, Part>();
        var open = new Stack<Part>();
        var count = 0;
        Part? root = null;
        try
        {
            using var xml = Xml(file);
            while (xml.Read())
            {
                if (xml.NodeType == XmlNodeType.EndElement)
                    open.Pop();
                if (xml.NodeType != XmlNodeType.Element)
                    continue;
                if (++count > MostElements || open.Count > MostDepth)
                    return true;
                var part = new Part();
                if (open.TryPeek(out var parent))
                    parent.Inside.Add(part);
                root ??= part;
                var empty = xml.IsEmptyElement;
                for (var more = xml.MoveToFirstAttribute(); more; more = xml.MoveToNextAttribute())
                {
                    if (xml.LocalName == "id")
                        byId[xml.Value] = part;
                    // A use, and whatever is filled, clipped, masked or marked by another part.
                    else if (xml.LocalName == "href" && xml.Value.StartsWith('#'))
                        part.Uses.Add(xml.Value[1..]);
                    else if (
                        xml.Value.IndexOf("url(#", StringComparison.Ordinal) is >= 0 and var at
                        && xml.Value.IndexOf(')', at) is > 0 and var end
                    )
                        part.Uses.Add(xml.Value[(at + 5)..end].Trim('"', '\''));
                }
                if (!empty)
                    open.Push(part);
            }
        }
        catch (XmlException)
        {
            return false;
        }
        return root is null || root.Weight(byId) > MostElements;
    }

    /// <summary>Type and size in pixels of a PNG by its header, of an SVG by its root element; null for anything else.</summary>
    public static (string MediaType, double Width, double Height)? SizeOf(byte[] file)
    {
        if (
            file is [0x89, 0x50, 0x4E, 0x47, 0x0D, 0x0A, 0x1A, 0x0A, ..]
            && file.Length > 33
            && Encoding.ASCII.GetString(file, 12, 4) == "IHDR"
        )
        {
            double w = BinaryPrimitives.ReadUInt32BigEndian(file.AsSpan(16)),
                h = BinaryPrimitives.ReadUInt32BigEndian(file.AsSpan(20));
            return w is > 0 and < 40_000 && h is > 0 and < 40_000 ? ("image/png", w, h) : null;
        }
        try
        {
            using var xml = Xml(file);
            if (xml.MoveToContent() != XmlNodeType.Element || xml.LocalName != "svg")
                return null;
            var box = xml.GetAttribute("viewBox")?.Split([' ', ','], StringSplitOptions.RemoveEmptyEntries);
            double? width = Pixels(xml.GetAttribute("width")),
                height = Pixels(xml.GetAttribute("height"));
            if ((width is null || height is null) && box is { Length: 4 })
                (width, height) = (Pixels(box[2]), Pixels(box[3]));
            return width is > 0 and < 1e6 && height is > 0 and < 1e6 ? ("image/svg+xml", width.Value, height.Value) : null;
        }
        catch (XmlException)
        {
            return null;
        }
    }

    private static double? Pixels(string? length)
    {
        if (length is null || length.EndsWith('%'))
            return null;
        var (number, factor) = length switch
        {
            _ when length.EndsWith("px", StringComparison.Ordinal) => (length[..^2], 1.0),
            _ when length.EndsWith("mm", StringComparison.Ordinal) => (length[..^2], 96 / 25.4),
            _ when length.EndsWith("cm", StringComparison.Ordinal) => (length[..^2], 96 / 2.54),
            _ when length.EndsWith("in", StringComparison.Ordinal) => (length[..^2], 96.0),
            _ when length.EndsWith("pt", StringComparison.Ordinal) => (length[..^2], 96 / 72.0),
            _ => (length, 1.0),
        };
        return double.TryParse(number, NumberStyles.Float, CultureInfo.InvariantCulture, out var n) ? n * factor : null;
    }

    /// <summary>A drawing's text: nothing outside it is read, and it has an end.</summary>
    private static XmlReader Xml(byte[] file) =>
        XmlReader.Create(
            new MemoryStream(file),
            new XmlReaderSettings
            {
                DtdProcessing = DtdProcessing.Ignore,
                XmlResolver = null,
                IgnoreComments = true,
                MaxCharactersInDocument = 60_000_000,
            }
        );

    private sealed class Part
    {
        private long _weight = -1;

        public List<Part> Inside { get; } = [];
        public List<string> Uses { get; } = [];

        /// <summary>Elements that it comes to, itself and all that it uses; beyond any plan where it leads back into itself.</summary>
        public long Weight(IReadOnlyDictionary<string, Part> byId)
        {
            if (_weight >= 0)
                return _weight;
            // Until it is known it is more than enough: whoever comes back here has gone in a ring.
            _weight = MostElements + 1L;
            long sum = 1;
            foreach (var part in Inside)
                sum = Math.Min(sum + part.Weight(byId), 1L << 40);
            foreach (var use in Uses)
                if (byId.TryGetValue(use, out var used))
                    sum = Math.Min(sum + used.Weight(byId), 1L << 40);
            return _weight = sum;
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
        using (var codec = SKCodec.Create(new SKMemoryStream(file)))
            if (codec is null || (long)codec.Info.Width * codec.Info.Height > MostPicturePixels)
                return null;
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
