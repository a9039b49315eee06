using Walkdown.Core.Sealing;

namespace Walkdown.Storage;

/// <summary>The installation's key in its data folder: made at the first start, readable by its owner only, in no backup but its
/// own.</summary>
public sealed class KeyFile(DataFolder folder)
{
    private readonly Lock _lock = new();
    private SealKey? _key;

    private string PathOf => Path.Combine(folder.Root, "seal-key.pem");

    /// <summary>The key; made where there is none yet.</summary>
    public SealKey Key
    {
        get
        {
            lock (_lock)
            {
                if (_key is not null)
                    return _key;
                if (!File.Exists(PathOf))
                    Write(SealKey.Create());
                return _key = SealKey.FromPem(File.ReadAllText(PathOf));
            }
        }
    }

    /// <summary>Puts a key from its backup in the place of the one that is there; what is sealed already keeps the old one's
    /// name.</summary>
    /// <exception cref="Core.Measures.BadInputException">No key, or another passphrase.</exception>
    public SealKey Restore(string pem, string passphrase)
    {
        var key = SealKey.FromPem(pem, passphrase);
        lock (_lock)
        {
            if (File.Exists(PathOf))
                File.Move(PathOf, $"{PathOf}.{Key.Fingerprint[..16]}", overwrite: true);
            Write(key);
            return _key = key;
        }
    }

    private void Write(SealKey key)
    {
        var draft = $"{PathOf}.{Guid.NewGuid():N}";
        var options = new FileStreamOptions { Mode = FileMode.CreateNew, Access = FileAccess.Write };
        if (!OperatingSystem.IsWindows())
            options.UnixCreateMode = UnixFileMode.UserRead | UnixFileMode.UserWrite;
        using (var file = new FileStream(draft, options))
        {
            file.Write(System.Text.Encoding.ASCII.GetBytes(key.ToPem()));
            file.Flush(flushToDisk: true);
        }
        File.Move(draft, PathOf, overwrite: true);
    }
}
