using System.Buffers.Binary;

namespace Walkdown.Reports;

/// <summary>
/// A picture's file without what it says beside the picture: where it was taken, by which phone, its own small copy. Which way up it is
/// stays, and not a pixel is touched. What has
/// no location in it cannot give one away, in a pack, in a bundle or anywhere else.
/// </summary>
public static class PictureFile
{
    /// <summary>The file without its metadata; the same bytes where it has none, or is neither JPEG nor PNG.</summary>
    public static byte[] WithoutPlace(byte[] file) =>
        file switch
        {
            [0xFF, 0xD8, 0xFF, ..] => Jpeg(file),
            [0x89, 0x50, 0x4E, 0x47, 0x0D, 0x0A, 0x1A, 0x0A, ..] => Png(file),
            _ => file,
        };

    /// <summary>JPEG (ITU-T T.81, annex B): marker segments up to the scan. Application segments and comments go, but for JFIF, Adobe's
    /// colour word and the colour profile.</summary>
    private static byte[] Jpeg(byte[] file)
    {
        using var kept = new MemoryStream(file.Length);
        kept.Write(file, 0, 2);
        var at = 2;
        var origin = 1;
        var head = kept.Position;
        while (at + 4 <= file.Length && file[at] == 0xFF)
        {
            var marker = file[at + 1];
            if (marker == 0xFF)
            {
                at++;
                continue;
            }
            var length = BinaryPrimitives.ReadUInt16BigEndian(file.AsSpan(at + 2));
            if (length < 2 || at + 2 + length > file.Length)
                return file;
            var segment = file.AsSpan(at, 2 + length);
            if (marker == 0xE1 && segment[4..].StartsWith("Exif\0\0"u8))
                origin = OrientationOf(segment[10..]) ?? origin;
            var goes =
                marker is >= 0xE1 and <= 0xEF and not (0xE2 or 0xEE)
                || marker == 0xFE
                || marker == 0xE2 && !segment[4..].StartsWith("ICC_PROFILE"u8);
            if (!goes)
                kept.Write(segment);
            if (marker == 0xE0)
                head = kept.Position;
            at += 2 + length;
            if (marker != 0xDA)
                continue;
            // From the scan on there are only pixels; what hangs behind the end of the picture is none.
            var end = EndOf(file, at);
            kept.Write(file, at, end - at);
            var clean = kept.ToArray();
            return origin == 1 ? clean : [.. clean.AsSpan(0, (int)head), .. Orientation(origin), .. clean.AsSpan((int)head)];
        }
        return file;
    }

    /// <summary>Behind the end of the picture: scans and the segments between them are gone through, so that no byte of a table is taken
    /// for it.</summary>
    private static int EndOf(byte[] file, int from)
    {
        var i = from;
        while (i + 1 < file.Length)
        {
            if (file[i] != 0xFF || file[i + 1] == 0xFF)
                i++;
            else if (file[i + 1] == 0xD9)
                return i + 2;
            else if (file[i + 1] is 0x00 or (>= 0xD0 and <= 0xD7) || i + 4 > file.Length)
                i += 2;
            else
                i += 2 + BinaryPrimitives.ReadUInt16BigEndian(file.AsSpan(i + 2));
        }
        return file.Length;
    }

    /// <summary>Tag 0x0112 of the first directory.</summary>
    private static int? OrientationOf(ReadOnlySpan<byte> tiff)
    {
        if (tiff.Length < 14)
            return null;
        var little = tiff[0] == (byte)'I';
        int Two(ReadOnlySpan<byte> b) => little ? BinaryPrimitives.ReadUInt16LittleEndian(b) : BinaryPrimitives.ReadUInt16BigEndian(b);
        long Four(ReadOnlySpan<byte> b) => little ? BinaryPrimitives.ReadUInt32LittleEndian(b) : BinaryPrimitives.ReadUInt32BigEndian(b);
        var start = Four(tiff[4..]);
        if (start + 2 > tiff.Length)
            return null;
        var entries = Two(tiff[(int)start..]);
        for (var i = 0; i < entries && start + 2 + 12 * (i + 1) <= tiff.Length; i++)
        {
            var entry = tiff.Slice((int)start + 2 + 12 * i, 12);
            if (Two(entry) == 0x0112 && Two(entry[8..]) is >= 1 and <= 8 and var origin)
                return origin;
        }
        return null;
    }

    /// <summary>An EXIF segment that says which way up it is, and nothing else.</summary>
    private static byte[] Orientation(int origin) =>
        [
            0xFF,
            0xE1,
            0x00,
            0x22,
            (byte)'E',
            (byte)'x',
            (byte)'i',
            (byte)'f',
            0,
            0,
            (byte)'M',
            (byte)'M',
            0,
            42,
            0,
            0,
            0,
            8,
            0,
            1,
            0x01,
            0x12,
            0,
            3,
            0,
            0,
            0,
            1,
            0,
            (byte)origin,
            0,
            0,
            0,
            0,
            0,
            0,
        ];

    /// <summary>PNG (ISO/IEC 15948): texts, EXIF and the time of the last change go, and everything behind the end.</summary>
    private static byte[] Png(byte[] file)
    {
        using var kept = new MemoryStream(file.Length);
        kept.Write(file, 0, 8);
        var at = 8;
        while (at + 12 <= file.Length)
        {
            var length = BinaryPrimitives.ReadUInt32BigEndian(file.AsSpan(at));
            if (length > int.MaxValue || at + 12 + (long)length > file.Length)
                return file;
            var name = file.AsSpan(at + 4, 4);
            if (
                !name.SequenceEqual("tEXt"u8)
                && !name.SequenceEqual("zTXt"u8)
                && !name.SequenceEqual("iTXt"u8)
                && !name.SequenceEqual("eXIf"u8)
                && !name.SequenceEqual("tIME"u8)
            )
                kept.Write(file, at, 12 + (int)length);
            at += 12 + (int)length;
            if (name.SequenceEqual("IEND"u8))
                return kept.ToArray();
        }
        return file;
    }
}
