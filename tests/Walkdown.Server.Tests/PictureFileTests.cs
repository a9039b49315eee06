using SkiaSharp;
using Walkdown.Core.Measures;
using Walkdown.Core.Pictures;
using Walkdown.Formats;

namespace Walkdown.Server.Tests;

/// <summary>Files as grey levels: each pixel where it was, however many strips it takes, and half a file is no picture.</summary>
public sealed class PictureFileTests
{
    private static byte[] File(int wide, int high, SKEncodedImageFormat format)
    {
        using var bitmap = new SKBitmap(new SKImageInfo(wide, high, SKColorType.Rgba8888, SKAlphaType.Opaque));
        for (var y = 0; y < high; y++)
        for (var x = 0; x < wide; x++)
            bitmap.SetPixel(x, y, Colour(x, y));
        using var data = bitmap.Encode(format, 98);
        return data.ToArray();
    }

    private static SKColor Colour(int x, int y) => new((byte)(x * 3 % 256), (byte)(y * 2 % 256), (byte)((x + y) % 256));

    [Theory]
    [InlineData(100, 63)]
    [InlineData(100, 64)]
    [InlineData(3, 131)]
    [InlineData(517, 300)]
    public void EachPixelOfAPngIsWhereItWas(int wide, int high)
    {
        var read = PictureFile.Read(File(wide, high, SKEncodedImageFormat.Png));
        Assert.Equal((wide, high), (read.Width, read.Height));
        for (var y = 0; y < high; y++)
        for (var x = 0; x < wide; x++)
        {
            var colour = Colour(x, y);
            Assert.Equal(GreyRaster.Grey(colour.Red, colour.Green, colour.Blue), read[x, y]);
        }
    }

    [Theory]
    [InlineData(SKEncodedImageFormat.Jpeg)]
    [InlineData(SKEncodedImageFormat.Png)]
    public void HalfAFileIsNoPictureWhereverItWasCut(SKEncodedImageFormat format)
    {
        var whole = File(640, 400, format);
        Assert.NotNull(PictureFile.TryRead(whole));
        foreach (var share in new[] { 0.02, 0.2, 0.5, 0.9 })
            Assert.Throws<BadInputException>(() => PictureFile.Read(whole[..(int)(share * whole.Length)]));
    }
}
