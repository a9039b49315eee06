using System.Collections.Immutable;
using System.Text.Json;
using Walkdown.Core.Catalogues;
using Walkdown.Reports;
using Walkdown.Storage;

namespace Walkdown.Server.Shared;

/// <summary>
/// The catalogue in force: what ships with Core and the company's own files in the data folder. A file that is dropped in is in force
/// with the next request; a file with a fault leaves the one before in force and is named.
/// </summary>
public sealed class CatalogueStore(DataFolder folder)
{
    public sealed record InForce(Catalogue Catalogue, Texts Texts, ImmutableArray<CatalogueProblem> Problems, string Signature);

    private readonly Lock _lock = new();

    /// <summary>What was found by one look at the folder: of which moment, and after which change of our own.</summary>
    private sealed record Look(InForce Found, long FolderAt, long Written, long At);

    private volatile Look? _look;
    private long _written;

    public Catalogue Catalogue => Current.Catalogue;

    public Texts Texts => Current.Texts;

    public InForce Current
    {
        get
        {
            // A file that comes or goes changes the folder, which is one look; edits in place are looked for a few times a second.
            var now = Environment.TickCount64;
            // Read before the folder is: a look that began before a change was written does not pass for one after it.
            var written = Interlocked.Read(ref _written);
            var changed = Directory.GetLastWriteTimeUtc(folder.CatalogueFolder).Ticks;
            if (_look is { } look && look.FolderAt == changed && look.Written == written && now - look.At < 250)
                return look.Found;
            var signature = Signature();
            lock (_lock)
            {
                // A look counts from when it has found something: nobody is given the old edition while the new one is being read.
                var found = _look?.Found is { } known && known.Signature == signature ? known : Load(signature);
                _look = new Look(found, changed, written, now);
                return found;
            }
        }
    }

    /// <summary>The file that is edited in the application.</summary>
    public const string OwnFile = "own.json";

    /// <summary>The catalogue as it would be with another own file; nothing is kept.</summary>
    public (Catalogue? Catalogue, ImmutableArray<CatalogueProblem> Problems) With(CatalogueFile own)
    {
        var others = Contents().Where(file => file.Name != OwnFile);
        return Catalogue.Read(
            Catalogue.Shipped.Concat(others).Append((OwnFile, JsonSerializer.Serialize(own with { Overrides = true }, Catalogue.Json))),
            Texts.Shipped("en").Keys.ToHashSet()
        );
    }

    /// <summary>What was edited in the application; empty where nothing was.</summary>
    public CatalogueFile Own()
    {
        var path = Path.Combine(folder.CatalogueFolder, OwnFile);
        try
        {
            return File.Exists(path)
                ? JsonSerializer.Deserialize<CatalogueFile>(File.ReadAllText(path), Catalogue.Json) ?? new CatalogueFile()
                : new CatalogueFile();
        }
        catch (Exception problem) when (problem is JsonException or NotSupportedException or IOException)
        {
            // Cut off, or written over: the newest edition on record heals it at the next start.
            return new CatalogueFile();
        }
    }

    /// <summary>Puts the own file in force, whole or not at all. The one before is kept beside it, in force nowhere.</summary>
    public void Keep(string json)
    {
        var path = Path.Combine(folder.CatalogueFolder, OwnFile);
        using (var file = new FileStream(path + ".new", FileMode.Create, FileAccess.Write))
        {
            file.Write(System.Text.Encoding.UTF8.GetBytes(json));
            // On disk before it takes the place of the old one: a pulled plug leaves the one or the other, never half.
            file.Flush(flushToDisk: true);
        }
        // The own file is there at every moment: whoever judges meanwhile sees the old one or the new one, never none.
        if (File.Exists(path))
        {
            File.Copy(path, path + ".old", overwrite: true);
            File.Move(path + ".old", path + ".before", overwrite: true);
        }
        else
            File.Delete(path + ".before");
        File.Move(path + ".new", path, overwrite: true);
        LookAgain();
    }

    /// <summary>Takes back the last <see cref="Keep"/>, for which a full disk has room.</summary>
    public void Undo()
    {
        var path = Path.Combine(folder.CatalogueFolder, OwnFile);
        if (File.Exists(path + ".before"))
            File.Move(path + ".before", path, overwrite: true);
        else
            File.Delete(path);
        LookAgain();
    }

    /// <summary>The folder was changed behind its back.</summary>
    public void LookAgain() => Interlocked.Increment(ref _written);

    private InForce Load(string signature)
    {
        var shippedTexts = Texts.Shipped("en").Keys.ToHashSet();
        var own = Contents().ToList();
        var (catalogue, problems) = Catalogue.Read(Catalogue.Shipped.Concat(own), shippedTexts);
        if (catalogue is null && _look?.Found is { } before)
            return before with { Problems = problems, Signature = signature };
        // At the start nothing was in force before: a file with a fault is left out, and what the other files say holds.
        while (catalogue is null && own.RemoveAll(file => problems.Any(p => p.File == file.Name)) > 0)
        {
            var (rest, more) = Catalogue.Read(Catalogue.Shipped.Concat(own), shippedTexts);
            (catalogue, problems) = (rest, [.. problems, .. more]);
        }
        catalogue ??=
            Catalogue.Read(Catalogue.Shipped, shippedTexts).Catalogue
            ?? throw new InvalidOperationException("The catalogue that ships is not sound: " + string.Join("; ", problems));
        return new InForce(catalogue, new Texts("en", catalogue.Texts.GetValueOrDefault("en")), problems, signature);
    }

    private IEnumerable<string> Files() =>
        Directory.Exists(folder.CatalogueFolder)
            ? Directory.EnumerateFiles(folder.CatalogueFolder, "*.json").Order(StringComparer.Ordinal)
            : [];

    /// <summary>The files that can be read. One that goes while it is looked at is gone; a larger one than any catalogue is none.</summary>
    private IEnumerable<(string Name, string Text)> Contents()
    {
        foreach (var file in Files())
        {
            string text;
            try
            {
                text = new FileInfo(file).Length <= 8 * 1024 * 1024 ? File.ReadAllText(file) : "a file of more than 8 MB is no catalogue";
            }
            catch (FileNotFoundException)
            {
                continue;
            }
            yield return (Path.GetFileName(file), text);
        }
    }

    private string Signature() =>
        string.Join(
            '|',
            Files()
                .Select(file => new FileInfo(file))
                .Where(file => file.Exists)
                .Select(file => $"{file.FullName}:{file.LastWriteTimeUtc.Ticks}:{file.Length}")
        );
}
