using System.Buffers.Binary;
using MetadataExtractor;
using MetadataExtractor.Formats.Exif;
using MetadataExtractor.IO;

namespace Walkdown.Reports;

/// <summary>
/// A picture's file without what it says beside the picture: where it was taken, by which phone, its own small copy. Which way up it is
/// stays, and not a pixel is touched. What has
/// no location in it cannot give one away, in a pack, in a bundle or anywhere else.
/// </summary>
public static class PictureFile
{
    /// <summary>The file without its metadata; the same bytes where it has none. Null where it is neither JPEG nor PNG, or cannot be
    /// followed from its start to its end: what cannot be told apart from the pixels is not taken.</summary>
    public static byte[]? WithoutPlace(byte[] file) =>
        file switch
        {
            [0xFF, 0xD8, 0xFF, ..] => Jpeg(file),
            [0x89, 0x50, 0x4E, 0x47, 0x0D, 0x0A, 0x1A, 0x0A, ..] => Png(file),
            _ => null,
        };

    /// <summary>JPEG (ITU-T T.81, annex B): segments, scans and what lies between them, up to its end; what hangs behind that is no
    /// picture. Application segments and comments go, but for JFIF, Adobe's colour word and the colour profile.</summary>
    private static byte[]? Jpeg(byte[] file)
    {
        using var kept = new MemoryStream(file.Length);
        kept.Write(file, 0, 2);
        var at = 2;
        var origin = 1;
        var head = kept.Position;
        while (at + 1 < file.Length)
        {
            var marker = file[at + 1];
            // Between segments any other byte is passed over by every reader; so are fill bytes and markers without a length.
            if (file[at] != 0xFF || marker is 0xFF or 0x00)
            {
                at++;
                continue;
            }
            if (marker is 0x01 or (>= 0xD0 and <= 0xD8))
            {
                at += 2;
                continue;
            }
            if (marker == 0xD9)
            {
                kept.Write(file, at, 2);
                var clean = kept.ToArray();
                return origin == 1 ? clean : [.. clean.AsSpan(0, (int)head), .. Orientation(origin), .. clean.AsSpan((int)head)];
            }
            if (at + 4 > file.Length || BinaryPrimitives.ReadUInt16BigEndian(file.AsSpan(at + 2)) is var length && length < 2)
                return null;
            if (at + 2 + length > file.Length)
                return null;
            var segment = file.AsSpan(at, 2 + length);
            if (marker == 0xE1 && segment[4..].StartsWith("Exif\0\0"u8))
                origin = OrientationOf(segment[10..]) ?? origin;
            // Of application segments only those stay that say what the pixels are.
            var stays = marker switch
            {
                0xE0 => segment[4..].StartsWith("JFIF\0"u8) && length == 16,
                0xE2 => segment[4..].StartsWith("ICC_PROFILE\0"u8),
                0xEE => segment[4..].StartsWith("Adobe"u8) && length == 14,
                _ => marker is >= 0xC0 and <= 0xDF,
            };
            if (stays)
                kept.Write(segment);
            if (stays && marker == 0xE0)
                head = kept.Position;
            at += 2 + length;
            if (marker != 0xDA)
                continue;
            var end = EndOfScan(file, at);
            kept.Write(file, at, end - at);
            at = end;
        }
        return null;
    }

    /// <summary>Where the pixels of a scan end and the next marker stands.</summary>
    private static int EndOfScan(byte[] file, int from)
    {
        for (var i = from; i + 1 < file.Length; i++)
            if (file[i] == 0xFF && file[i + 1] is not (0x00 or 0xFF or (>= 0xD0 and <= 0xD7)))
                return i;
        return file.Length;
    }

    /// <summary>Which way up the camera was, 1 to 8 (EXIF); null where it does not say, or nobody can read it.</summary>
    private static int? OrientationOf(ReadOnlySpan<byte> tiff)
    {
        try
        {
            return new ExifReader()
                .Extract(new ByteArrayReader(tiff.ToArray()))
                .OfType<ExifIfd0Directory>()
                .Select(d =>
                    d.TryGetInt32(ExifDirectoryBase.TagOrientation, out var origin) && origin is >= 1 and <= 8 ? origin : (int?)null
                )
                .FirstOrDefault(origin => origin is not null);
        }
        catch (Exception problem) when (problem is MetadataException or ImageProcessingException or IOException or OverflowException)
        {
            return null;
        }
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
    private static byte[]? Png(byte[] file)
    {
        using var kept = new MemoryStream(file.Length);
        kept.Write(file, 0, 8);
        var at = 8;
        while (at + 12 <= file.Length)
        {
            var length = BinaryPrimitives.ReadUInt32BigEndian(file.AsSpan(at));
            if (length > int.MaxValue || at + 12 + (long)length > file.Length)
                return null;
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
        return null;
    }
}
