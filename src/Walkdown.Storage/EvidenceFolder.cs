using System.Security.Cryptography;

namespace Walkdown.Storage;

/// <summary>Files named by their SHA-256, in lower-case hexadecimal: the same content is kept once, and a changed one is another.</summary>
public sealed class EvidenceFolder(DataFolder folder)
{
    private string PathOf(string hash) => Path.Combine(folder.EvidencePath, hash[..2], hash);

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

    /// <summary>Takes a file away for good; its hash stays wherever it is named.</summary>
    public void Erase(string hash)
    {
        if (Has(hash))
            File.Delete(PathOf(hash));
    }

    public bool Has(string hash) => IsHash(hash) && File.Exists(PathOf(hash));

    private static bool IsHash(string hash) => hash.Length == 64 && hash.All(char.IsAsciiHexDigitLower);

    /// <summary>The content, or null where it is not here.</summary>
    public Stream? Open(string hash) => Has(hash) ? File.OpenRead(PathOf(hash)) : null;

    /// <summary>All of the content, or null where it is not here.</summary>
    public byte[]? Read(string hash) => Has(hash) ? File.ReadAllBytes(PathOf(hash)) : null;
}
