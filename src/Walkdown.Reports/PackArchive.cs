using System.Collections.Immutable;
using System.IO.Compression;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using Walkdown.Core.Sealing;

namespace Walkdown.Reports;

/// <summary>What was taken out of a sealed pack for good, and what stands in its place: the tombstones, sealed.</summary>
public sealed record PackTombstones(string Format, ImmutableArray<PackTombstone> Of);

/// <param name="Was">SHA-256 as the manifest lists it.</param>
/// <param name="Now">Of what was put in its place; null where nothing was.</param>
public sealed record PackTombstone(string Name, string Was, string? Now, string By, string Reason, DateTimeOffset At);

/// <summary>
/// Writes a pack: files into a ZIP, each with its hash in a sealed manifest, and a line behind the archive that seals every byte of it.
/// Files go through one at a time, so that memory does not grow with the pack.
/// </summary>
public sealed class PackArchive : IDisposable
{
    public const string ManifestName = "manifest.json",
        TombstonesName = "tombstones.json",
        RecordName = "record.json";

    private readonly string _path;
    private readonly FileStream _stream;
    private readonly ZipArchive _zip;
    private readonly DateTimeOffset _at;
    private readonly ImmutableArray<PackFile>.Builder _files = ImmutableArray.CreateBuilder<PackFile>();

    public PackArchive(string path, DateTimeOffset at)
    {
        (_path, _at) = (path, at);
        _stream = new FileStream(path, FileMode.CreateNew, FileAccess.ReadWrite);
        _zip = new ZipArchive(_stream, ZipArchiveMode.Create, leaveOpen: true);
    }

    public ImmutableArray<PackFile> Files => _files.ToImmutable();

    public PackFile Add(string name, ReadOnlySpan<byte> content)
    {
        using (var entry = Entry(name))
            entry.Write(content);
        return Listed(name, content.Length, Convert.ToHexStringLower(SHA256.HashData(content)));
    }

    public async Task<PackFile> Add(string name, Stream content, CancellationToken cancel)
    {
        await using var entry = new HashedStream(Entry(name));
        await content.CopyToAsync(entry, cancel);
        return Listed(name, entry.Length, entry.Hash());
    }

    /// <summary>A file as a manifest lists it.</summary>
    public static PackFile Of(string name, byte[] content) => new(name, content.Length, Convert.ToHexStringLower(SHA256.HashData(content)));

    private PackFile Listed(string name, long bytes, string hash)
    {
        var file = new PackFile(name, bytes, hash);
        _files.Add(file);
        return file;
    }

    /// <summary>Pictures and documents are packed already.</summary>
    private Stream Entry(string name)
    {
        var entry = _zip.CreateEntry(
            name,
            name.EndsWith(".json", StringComparison.Ordinal) || name.EndsWith(".csv", StringComparison.Ordinal)
                ? CompressionLevel.Fastest
                : CompressionLevel.NoCompression
        );
        entry.LastWriteTime = _at.ToUniversalTime();
        return entry.Open();
    }

    /// <summary>Adds the manifest, and the tombstones where something was taken out, closes the archive and seals it.</summary>
    /// <param name="manifest">As it is sealed; of a pack from which something was taken out, the first one.</param>
    public void Finish(byte[] manifest, byte[]? tombstones, SealKey key)
    {
        using (var entry = Entry(ManifestName))
            entry.Write(manifest);
        if (tombstones is not null)
            using (var entry = Entry(TombstonesName))
                entry.Write(tombstones);
        // The comment's length is in the archive before the comment: it is left free first, then sealed over.
        _zip.Comment = new string(' ', FileSeal.Length);
        _zip.Dispose();
        SealEnd(_stream, _stream.Length - FileSeal.Length, key);
        _stream.Flush(flushToDisk: true);
        _stream.Dispose();
    }

    /// <summary>Writes the line that seals a file from its start to a place, at that place.</summary>
    public static void SealEnd(FileStream file, long bodyLength, SealKey key)
    {
        file.Flush();
        var hash = HashOf(file, bodyLength);
        file.Position = bodyLength;
        file.Write(FileSeal.Line(hash, key));
    }

    internal static string HashOf(Stream file, long length, CancellationToken cancel = default)
    {
        file.Position = 0;
        using var hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        var buffer = new byte[1 << 16];
        while (length > 0)
        {
            cancel.ThrowIfCancellationRequested();
            var read = file.Read(buffer, 0, (int)Math.Min(buffer.Length, length));
            if (read == 0)
                break;
            hash.AppendData(buffer, 0, read);
            length -= read;
        }
        return Convert.ToHexStringLower(hash.GetHashAndReset());
    }

    public static byte[] Sealed<T>(T what, SealKey key, DateTimeOffset at)
    {
        using var document = JsonDocument.Parse(CanonicalJson.Of(what));
        return RecordSeal.Seal(document.RootElement, key, at);
    }

    /// <summary>What an entry holds.</summary>
    /// <exception cref="InvalidDataException">More than it may.</exception>
    public static byte[] Bytes(ZipArchiveEntry entry, int most = 512 * 1024 * 1024)
    {
        using var stream = entry.Open();
        using var bytes = new MemoryStream();
        var buffer = new byte[1 << 16];
        int read;
        while ((read = stream.Read(buffer)) > 0)
        {
            bytes.Write(buffer, 0, read);
            if (bytes.Length > most)
                throw new InvalidDataException();
        }
        return bytes.ToArray();
    }

    /// <summary>A name that every file system takes and that cannot lead out of the pack.</summary>
    public static string SafeName(string label)
    {
        var text = new StringBuilder();
        foreach (var c in label)
            text.Append(char.IsAsciiLetterOrDigit(c) || c is '-' or '_' ? c : '_');
        return text.Length == 0 ? "_" : text.ToString(0, Math.Min(60, text.Length));
    }

    public void Dispose()
    {
        if (!_stream.CanWrite)
            return;
        _zip.Dispose();
        _stream.Dispose();
        File.Delete(_path);
    }
}
