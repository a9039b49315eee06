using System.Collections.Immutable;
using System.IO.Compression;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core.Sealing;
using static Walkdown.Storage.BundleTables;

namespace Walkdown.Storage;

/// <summary>Writes a job whole: rows, files, and the sealed list of both.</summary>
public static class BundleWriter
{
    /// <summary>Writes a bundle: rows by table, then evidence and packs, one file at a time.</summary>
    public static async Task Write(
        DataFolder data,
        KeptFiles keptFiles,
        WalkdownDb db,
        Guid jobId,
        string file,
        SealKey key,
        DateTimeOffset now,
        IProgress<(int Done, int Of)>? progress,
        CancellationToken cancel
    )
    {
        var job = await db.Jobs.FirstAsync(j => j.Id == jobId, cancel);
        // What cannot be read here would be read as something else there.
        if (await RegisterDamage.All(db) is { IsEmpty: false } damaged)
            throw new BundleException(new("problem.damaged", string.Join(", ", damaged.Select(d => d.ToString()).Distinct())));
        var files = ImmutableArray.CreateBuilder<BundleFile>();
        await using var stream = new FileStream(file, FileMode.Create, FileAccess.ReadWrite);
        using var zip = new ZipArchive(stream, ZipArchiveMode.Create, leaveOpen: true);
        // Sequences are an installation's own; in a bundle they are counted from one.
        var ranks = await Ranks(db, jobId);
        var hashes = await Hashes(db, jobId);
        // By their ids: what a row calls its file is never a path.
        var packs = (await db.Revisions.Where(r => r.JobId == jobId).Select(r => r.Id).ToListAsync(cancel))
            .Select(id => $"{id:N}.zip")
            .ToList();
        var (done, of) = (0, Tables.Length + hashes.Count + packs.Count);
        foreach (var table in Tables)
        {
            cancel.ThrowIfCancellationRequested();
            var name = $"data/{table.Name}.json";
            await using var entry = new HashedStream(zip.CreateEntry(name, CompressionLevel.Fastest).Open());
            await table.Write(db, jobId, entry, row => Renumber(row, old => Rank(ranks, old)), cancel);
            files.Add(new BundleFile(name, entry.Length, entry.Hash()));
            progress?.Report((++done, of));
        }
        if (File.Exists(Path.Combine(data.CatalogueFolder, "own.json")))
            using (var entry = zip.CreateEntry("catalogue/own.json", CompressionLevel.Fastest).Open())
            await using (var content = File.OpenRead(Path.Combine(data.CatalogueFolder, "own.json")))
                files.Add(await Copied("catalogue/own.json", content, entry, cancel));
        foreach (var hash in hashes)
        {
            if (keptFiles.Open(hash) is { } content)
                await using (content)
                using (var entry = zip.CreateEntry($"evidence/{hash}", CompressionLevel.NoCompression).Open())
                    files.Add(await Copied($"evidence/{hash}", content, entry, cancel));
            progress?.Report((++done, of));
        }
        foreach (var pack in packs)
        {
            if (File.Exists(Path.Combine(data.PacksPath, pack)))
                await using (var content = File.OpenRead(Path.Combine(data.PacksPath, pack)))
                using (var entry = zip.CreateEntry($"packs/{pack}", CompressionLevel.NoCompression).Open())
                    files.Add(await Copied($"packs/{pack}", content, entry, cancel));
            progress?.Report((++done, of));
        }
        var head = new BundleHead(Format, jobId, job.Name, now, db.Database.GetMigrations().Last(), files.ToImmutable());
        using var document = JsonDocument.Parse(CanonicalJson.Of(head));
        using (var entry = zip.CreateEntry(HeadName).Open())
            entry.Write(RecordSeal.Seal(document.RootElement, key, now));
    }

    internal static async Task<List<string>> Hashes(WalkdownDb db, Guid jobId)
    {
        var erased = await db.Erasures.Where(e => e.JobId == jobId).Select(e => e.PictureId).ToListAsync();
        var pictures = await db.Pictures.Where(p => p.JobId == jobId).ToListAsync();
        var drawing = await db.Drawings.Where(d => d.JobId == jobId).Select(d => d.Hash).ToListAsync();
        return
        [
            .. pictures
                .Where(p => !erased.Contains(p.Id))
                .SelectMany(p => new[] { p.Hash, p.ShownHash })
                .Concat(drawing)
                .Distinct()
                .Order(StringComparer.Ordinal),
        ];
    }

    internal static async Task<BundleFile> Copied(string name, Stream from, Stream to, CancellationToken cancel)
    {
        await using var hashed = new HashedStream(to);
        await from.CopyToAsync(hashed, cancel);
        return new BundleFile(name, hashed.Length, hashed.Hash());
    }
}
