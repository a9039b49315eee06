using System.Text;
using SkiaSharp;
using Walkdown.Reports;

namespace Walkdown.Server.Tests;

/// <summary>A picture as it comes from a phone: any form that people have is taken, stands upright, and says nothing of the
/// place.</summary>
public sealed class PhotoTests
{
    private const string Secret = "54.3521N 9.8731E Ina's phone";

    /// <summary>Left half black, right half white, a red mark in the upper left corner; so that one sees which way up it is.</summary>
    private static SKBitmap Marked(SKColorType type = SKColorType.Rgba8888, SKAlphaType alpha = SKAlphaType.Opaque)
    {
        var bitmap = new SKBitmap(new SKImageInfo(160, 96, type, alpha));
        using var canvas = new SKCanvas(bitmap);
        canvas.Clear(SKColors.White);
        using var paint = new SKPaint { Color = SKColors.Black };
        canvas.DrawRect(0, 0, 80, 96, paint);
        paint.Color = SKColors.Red;
        canvas.DrawRect(0, 0, 24, 24, paint);
        return bitmap;
    }

    private static byte[] Jpeg()
    {
        using var bitmap = Marked();
        using var data = bitmap.Encode(SKEncodedImageFormat.Jpeg, 95);
        return data.ToArray();
    }

    private static byte[] Segment(byte marker, byte[] body) =>
        [0xFF, marker, (byte)((body.Length + 2) >> 8), (byte)((body.Length + 2) & 0xFF), .. body];

    private static byte[] Exif(int orientation) =>
        Segment(
            0xE1,
            [
                .. "Exif\0\0II*\0"u8,
                8,
                0,
                0,
                0,
                1,
                0,
                0x12,
                0x01,
                3,
                0,
                1,
                0,
                0,
                0,
                (byte)orientation,
                0,
                0,
                0,
                0,
                0,
                0,
                0,
                .. Encoding.ASCII.GetBytes(Secret),
            ]
        );

    private static byte[] With(byte[] jpeg, params byte[][] segments) => [.. jpeg[..2], .. segments.SelectMany(s => s), .. jpeg[2..]];

    private static bool Says(byte[] file) => file.AsSpan().IndexOf(Encoding.ASCII.GetBytes(Secret)) >= 0;

    /// <summary>Where the red mark is in the copy that is shown: top or bottom, left or right.</summary>
    private static string MarkOf(byte[] shown)
    {
        using var seen = SKBitmap.Decode(shown);
        bool Red(int x, int y) => seen.GetPixel(x, y) is { Red: > 200, Green: < 90 };
        foreach (var (x, y, where) in new[] { (8, 8, "top left"), (seen.Width - 8, 8, "top right"), (8, seen.Height - 8, "bottom left") })
            if (Red(x, y))
                return $"{where} of {seen.Width} x {seen.Height}";
        return $"bottom right of {seen.Width} x {seen.Height}";
    }

    [Theory]
    [InlineData(1, "top left of 160 x 96")]
    [InlineData(2, "top right of 160 x 96")]
    [InlineData(3, "bottom right of 160 x 96")]
    [InlineData(4, "bottom left of 160 x 96")]
    [InlineData(5, "top left of 96 x 160")]
    [InlineData(6, "top right of 96 x 160")]
    [InlineData(7, "bottom right of 96 x 160")]
    [InlineData(8, "bottom left of 96 x 160")]
    public void APictureStandsUprightAndSaysNothingOfThePlace(int orientation, string mark)
    {
        var taken = With(Jpeg(), Exif(orientation));
        Assert.True(Says(taken));
        var kept = PictureFile.WithoutPlace(taken)!;
        Assert.False(Says(kept));
        Assert.Equal(mark, MarkOf(Photo.Read(taken)!.Shown));
        Assert.Equal(mark, MarkOf(Photo.Read(kept)!.Shown));
    }

    public static TheoryData<string> Hiding =>
        [
            "exif",
            "xmp",
            "photoshop",
            "comment",
            "own copy",
            "behind the end",
            "between scans",
            "after garbage",
            "after a lone marker",
            "head",
            "colour word",
        ];

    [Theory]
    [MemberData(nameof(Hiding))]
    public void WhereverAPlaceIsWrittenItGoesAndNotAPixelIsTouched(string where)
    {
        var plain = Jpeg();
        var secret = Encoding.ASCII.GetBytes(Secret);
        var scan = plain.AsSpan().IndexOf((byte[])[0xFF, 0xDA]);
        byte[] taken = where switch
        {
            "exif" => With(plain, Exif(1)),
            "xmp" => With(plain, Segment(0xE1, [.. "http://ns.adobe.com/xap/1.0/\0"u8, .. secret])),
            "photoshop" => With(plain, Segment(0xED, secret)),
            "comment" => With(plain, Segment(0xFE, secret)),
            "own copy" => With(plain, Segment(0xE2, [.. "MPF\0"u8, .. secret])),
            "head" => With(plain, Segment(0xE0, [.. "JFXX\0"u8, .. secret])),
            "colour word" => With(plain, Segment(0xEE, [.. "Adobe"u8, .. secret])),
            "behind the end" => [.. plain, .. secret],
            "between scans" => [.. plain[..^2], .. Segment(0xFE, secret), .. plain[^2..]],
            "after garbage" => [.. plain[..scan], 0x00, 0x17, .. Segment(0xFE, secret), .. plain[scan..]],
            _ => [.. plain[..2], 0xFF, 0x01, 0xFF, 0xD3, .. Segment(0xE1, secret), .. plain[2..]],
        };
        Assert.True(Says(taken));
        var kept = PictureFile.WithoutPlace(taken)!;
        Assert.False(Says(kept));
        using var before = SKBitmap.Decode(plain);
        using var after = SKBitmap.Decode(kept);
        Assert.Equal(before.Bytes, after.Bytes);
        Assert.Equal(kept, PictureFile.WithoutPlace(kept));
    }

    [Fact]
    public void AColourProfileStaysForItIsOfThePixels()
    {
        var taken = With(Jpeg(), Segment(0xE2, [.. "ICC_PROFILE\0"u8, 1, 1, .. "profile"u8]));
        Assert.True(PictureFile.WithoutPlace(taken)!.AsSpan().IndexOf("ICC_PROFILE"u8) > 0);
    }

    [Theory]
    [InlineData("tEXt")]
    [InlineData("iTXt")]
    [InlineData("zTXt")]
    [InlineData("eXIf")]
    [InlineData("tIME")]
    public void APngLosesItsWordsToo(string chunk)
    {
        using var bitmap = Marked();
        using var data = bitmap.Encode(SKEncodedImageFormat.Png, 90);
        var plain = data.ToArray();
        var secret = Encoding.ASCII.GetBytes(Secret);
        byte[] body = [.. Encoding.ASCII.GetBytes(chunk), .. secret];
        byte[] taken = [.. plain[..33], 0, 0, 0, (byte)secret.Length, .. body, 0, 0, 0, 0, .. plain[33..], .. secret];
        Assert.Equal(plain, PictureFile.WithoutPlace(taken));
    }

    /// <summary>What cannot be followed from start to end may hide anything: it is not taken, and nothing falls over.</summary>
    /// <summary>A picture of more pixels than is kept is told by its size; what is none, or cut off, is not.</summary>
    [Fact]
    public void APictureOfTooManyPixelsIsToldByItsSize()
    {
        static byte[] Png(int wide, int high)
        {
            using var bitmap = new SKBitmap(new SKImageInfo(wide, high, SKColorType.Gray8));
            using var data = bitmap.Encode(SKEncodedImageFormat.Png, 100);
            return data.ToArray();
        }
        var large = Png(7000, 5000);
        Assert.Null(Photo.Read(large));
        Assert.Equal((7000, 5000), Photo.Beyond(large));
        Assert.Null(Photo.Beyond(Png(1200, 900)));
        Assert.Null(Photo.Beyond([]));
        Assert.Null(Photo.Beyond([1, 2, 3]));
    }

    [Fact]
    public void WhatCannotBeFollowedIsNotTaken()
    {
        var taken = With(Jpeg(), Exif(6));
        for (var length = 0; length < taken.Length; length++)
            Assert.Null(PictureFile.WithoutPlace(taken[..length]));
        Assert.Null(PictureFile.WithoutPlace("GIF89a"u8.ToArray()));
        Assert.Null(PictureFile.WithoutPlace([0xFF, 0xD8, 0xFF, 0xE1, 0x00, 0x01, 0xFF, 0xD9]));
        var random = new Random(11);
        for (var i = 0; i < 3000; i++)
        {
            var bent = taken.ToArray();
            for (var n = random.Next(1, 6); n > 0; n--)
                bent[random.Next(2, Math.Min(bent.Length, 400))] = (byte)random.Next(256);
            if (PictureFile.WithoutPlace(bent) is { } kept && Photo.Read(kept) is not null)
                Assert.False(Says(kept));
        }
    }

    /// <summary>Pictures of a screen are see-through in places, those of an old camera grey; they lie on white, as on paper.</summary>
    [Theory]
    [InlineData(SKColorType.Rgba8888, SKAlphaType.Premul)]
    [InlineData(SKColorType.Rgba8888, SKAlphaType.Unpremul)]
    [InlineData(SKColorType.Rgba8888, SKAlphaType.Opaque)]
    [InlineData(SKColorType.Gray8, SKAlphaType.Opaque)]
    [InlineData(SKColorType.Rgb565, SKAlphaType.Opaque)]
    [InlineData(SKColorType.RgbaF16, SKAlphaType.Premul)]
    public void AnyKindOfPngIsTaken(SKColorType type, SKAlphaType alpha)
    {
        using var bitmap = new SKBitmap(new SKImageInfo(120, 80, type, alpha));
        bitmap.Erase(alpha == SKAlphaType.Opaque ? SKColors.White : SKColors.Transparent);
        using var data = bitmap.Encode(SKEncodedImageFormat.Png, 90);
        var photo = Photo.Read(data.ToArray());
        Assert.NotNull(photo);
        Assert.Equal(("image/png", 120, 80), (photo.MediaType, photo.Width, photo.Height));
        using var seen = SKBitmap.Decode(photo.Shown);
        Assert.InRange(seen.GetPixel(60, 40).Green, 250, 255);
    }
}
