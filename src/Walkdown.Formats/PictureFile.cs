using SkiaSharp;
using Walkdown.Core.Measures;
using Walkdown.Core.Pictures;

namespace Walkdown.Formats;

/// <summary>JPEG and PNG files as grey levels, upright as their metadata says.</summary>
public static class PictureFile
{
    /// <summary>Rows that are read at a time.</summary>
    private const int Strip = 64;

    /// <summary>Grey levels of a file.</summary>
    /// <param name="file">JPEG or PNG, whole.</param>
    /// <exception cref="BadInputException">No picture, cut off, smaller than 3 x 3, or larger than
    /// <see cref="GreyRaster.Most"/>.</exception>
    public static GreyRaster Read(byte[] file) => ReadSeen(file).Grey;

    /// <summary>The same, with how much colour is in it.</summary>
    /// <exception cref="BadInputException">As <see cref="Read"/>.</exception>
    public static SeenPicture ReadSeen(byte[] file)
    {
        if (file.Length == 0)
            throw new BadInputException(BadInputReason.Empty, "image");
        using var codec = SKCodec.Create(new SKMemoryStream(file));
        if (codec is null || codec.EncodedFormat is not (SKEncodedImageFormat.Jpeg or SKEncodedImageFormat.Png))
            throw new BadInputException(BadInputReason.UnknownValue, "image");
        var (w, h) = (codec.Info.Width, codec.Info.Height);
        Require.Number((double)w * h, "image", 9, GreyRaster.Most);
        var levels = new byte[w * h];
        var info = new SKImageInfo(w, h, SKColorType.Rgba8888, SKAlphaType.Unpremul);
        var colour = codec.StartScanlineDecode(info) == SKCodecResult.Success ? Strips(codec, info, levels) : Whole(codec, info, levels);
        return new(Upright(new(w, h, levels), codec.EncodedOrigin), (double)colour / levels.Length);
    }

    /// <summary>A strip at a time: the colours of a very large picture take four times the room of its levels.</summary>
    private static long Strips(SKCodec codec, SKImageInfo info, byte[] levels)
    {
        using var strip = new SKBitmap(info.WithSize(info.Width, Math.Min(Strip, info.Height)));
        long colour = 0;
        for (var y = 0; y < info.Height; )
        {
            var rows = Math.Min(strip.Height, info.Height - y);
            // A file that was cut off gives half a picture: that is none.
            if (codec.GetScanlines(strip.GetPixels(), rows, strip.RowBytes) != rows)
                throw new BadInputException(BadInputReason.UnknownValue, "image");
            colour += ToGrey(strip.GetPixelSpan(), levels.AsSpan(y * info.Width, rows * info.Width));
            y += rows;
        }
        return colour;
    }

    /// <summary>Where a file does not come from top to bottom, such as an interlaced one.</summary>
    private static long Whole(SKCodec codec, SKImageInfo info, byte[] levels)
    {
        using var bitmap = new SKBitmap(info);
        if (codec.GetPixels(bitmap.Info, bitmap.GetPixels()) != SKCodecResult.Success)
            throw new BadInputException(BadInputReason.UnknownValue, "image");
        return ToGrey(bitmap.GetPixelSpan(), levels);
    }

    /// <returns>Colour: how far red, green and blue lie from each other, in all.</returns>
    private static long ToGrey(ReadOnlySpan<byte> colours, Span<byte> levels)
    {
        long colour = 0;
        for (var i = 0; i < levels.Length; i++)
        {
            var (red, green, blue) = (colours[4 * i], colours[4 * i + 1], colours[4 * i + 2]);
            levels[i] = GreyRaster.Grey(red, green, blue);
            colour += Math.Max(red, Math.Max(green, blue)) - Math.Min(red, Math.Min(green, blue));
        }
        return colour;
    }

    /// <summary>The same; null where it is no such picture, or there is none.</summary>
    public static GreyRaster? TryRead(byte[]? file) => TryReadSeen(file)?.Grey;

    /// <summary>The same; null where it is no such picture, or there is none.</summary>
    public static SeenPicture? TryReadSeen(byte[]? file)
    {
        try
        {
            return file is null ? null : ReadSeen(file);
        }
        catch (BadInputException)
        {
            return null;
        }
    }

    /// <summary>Grey levels as a JPEG file.</summary>
    public static byte[] Jpeg(GreyRaster picture)
    {
        using var bitmap = new SKBitmap(new SKImageInfo(picture.Width, picture.Height, SKColorType.Gray8, SKAlphaType.Opaque));
        for (var y = 0; y < picture.Height; y++)
            picture.Levels.Slice(y * picture.Width, picture.Width).CopyTo(bitmap.GetPixelSpan()[(y * bitmap.RowBytes)..]);
        using var data = bitmap.Encode(SKEncodedImageFormat.Jpeg, 92);
        return data.ToArray();
    }

    /// <summary>The eight ways in which a camera may have been held (EXIF 2.32, Orientation).</summary>
    private static GreyRaster Upright(GreyRaster picture, SKEncodedOrigin origin)
    {
        if (origin is SKEncodedOrigin.TopLeft or SKEncodedOrigin.Default)
            return picture;
        var (w, h) = (picture.Width, picture.Height);
        var lies =
            origin is SKEncodedOrigin.LeftTop or SKEncodedOrigin.RightTop or SKEncodedOrigin.RightBottom or SKEncodedOrigin.LeftBottom;
        var (across, down) = lies ? (h, w) : (w, h);
        var levels = new byte[w * h];
        for (var y = 0; y < down; y++)
        for (var x = 0; x < across; x++)
            levels[y * across + x] = origin switch
            {
                SKEncodedOrigin.TopRight => picture[w - 1 - x, y],
                SKEncodedOrigin.BottomRight => picture[w - 1 - x, h - 1 - y],
                SKEncodedOrigin.BottomLeft => picture[x, h - 1 - y],
                SKEncodedOrigin.LeftTop => picture[y, x],
                SKEncodedOrigin.RightTop => picture[y, h - 1 - x],
                SKEncodedOrigin.RightBottom => picture[w - 1 - y, h - 1 - x],
                _ => picture[w - 1 - y, x],
            };
        return new(across, down, levels);
    }
}
