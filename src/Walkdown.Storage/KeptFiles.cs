using System.Security.Cryptography;

namespace Walkdown.Storage;

/// <summary>Files named by their SHA-256, in lower-case hexadecimal: the same content is kept once, and a changed one is another.</summary>
public sealed class KeptFiles(DataFolder folder)
{
    /// <summary>Where the content of a hash lies, or would.</summary>
    /// <exception cref="ArgumentException">No hash.</exception>
    public string PathOf(string hash) =>
        IsHash(hash) ? Path.Combine(folder.FilesPath, hash[..2], hash) : throw new ArgumentException("no hash", nameof(hash));

    /// <summary>Keeps the content; a crash on the way leaves nothing under its name.</summary>
    /// <returns>Its hash.</returns>
    public async Task<string> Put(byte[] content, CancellationToken cancel = default)
    {
        var hash = Convert.ToHexStringLower(SHA256.HashData(content));
        var path = PathOf(hash);
        if (File.Exists(path))
            return hash;
        Directory.CreateDirectory(Path.GetDirectoryName(path)!);
        var draft = $"{path}.{Guid.NewGuid():N}";
        try
        {
            await using (var file = new FileStream(draft, FileMode.CreateNew, FileAccess.Write, FileShare.None))
            {
                await file.WriteAsync(content, cancel);
                file.Flush(flushToDisk: true);
            }
            File.Move(draft, path, overwrite: true);
        }
        finally
        {
            File.Delete(draft);
        }
        return hash;
    }

    /// <summary>Keeps what a stream holds under a hash that was checked before, without holding it in memory.</summary>
    /// <exception cref="InvalidDataException">It has another hash.</exception>
    public async Task Put(Stream content, string hash, CancellationToken cancel = default)
    {
        if (!IsHash(hash))
            throw new InvalidDataException(hash);
        if (File.Exists(PathOf(hash)))
            return;
        Directory.CreateDirectory(Path.GetDirectoryName(PathOf(hash))!);
        var draft = $"{PathOf(hash)}.{Guid.NewGuid():N}";
        try
        {
            await using (var file = new FileStream(draft, FileMode.CreateNew, FileAccess.ReadWrite, FileShare.None))
            {
                await content.CopyToAsync(file, cancel);
                file.Position = 0;
                if (Convert.ToHexStringLower(await SHA256.HashDataAsync(file, cancel)) != hash)
                    throw new InvalidDataException(hash);
                file.Flush(flushToDisk: true);
            }
            File.Move(draft, PathOf(hash), overwrite: true);
        }
        finally
        {
            File.Delete(draft);
        }
    }

    /// <summary>Takes a file away for good; its hash stays wherever it is named.</summary>
    public void Erase(string hash)
    {
        if (Has(hash))
            File.Delete(PathOf(hash));
    }

    public bool Has(string hash) => IsHash(hash) && File.Exists(PathOf(hash));

    /// <summary>Evidence that was half written: its hash, a point and what no other has. Nothing else in the folder is touched.</summary>
    internal static bool IsDraft(string path) =>
        Path.GetFileName(path).Split('.') is [var hash, var once] && IsHash(hash) && Guid.TryParseExact(once, "N", out _);

    private static bool IsHash(string hash) => hash.Length == 64 && hash.All(char.IsAsciiHexDigitLower);

    /// <summary>The content, or null where it is not here.</summary>
    public Stream? Open(string hash) => Has(hash) ? File.OpenRead(PathOf(hash)) : null;

    /// <summary>Bytes of the content, or null where it is not here.</summary>
    public long? LengthOf(string hash) => Has(hash) ? new FileInfo(PathOf(hash)).Length : null;

    /// <summary>All of the content, or null where it is not here.</summary>
    public byte[]? Read(string hash) => Has(hash) ? File.ReadAllBytes(PathOf(hash)) : null;
}
