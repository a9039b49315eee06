using System.IO.Compression;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Sealing;
using Walkdown.Reports;
using Walkdown.Server.Cards;
using Walkdown.Server.Power;
using Walkdown.Server.Shared;
using Walkdown.Storage;

namespace Walkdown.Server.Handover;

/// <summary>Takes an erased picture out of the evidence and out of every pack, for good.</summary>
public sealed class PackErasure(
    HandoverBook book,
    PackMaker maker,
    PackDrafts drafts,
    Ledger ledger,
    KeptFiles keptFiles,
    KeyFile key,
    DataFolder folder
) : IDisposable
{
    private readonly SemaphoreSlim _erasing = new(1, 1);

    /// <inheritdoc/>
    public void Dispose() => _erasing.Dispose();

    /// <summary>
    /// Takes a picture out of every pack that holds it, for good: the file goes, the reports that showed it are drawn anew without it, and
    /// sealed tombstones say what was taken. The record and the list of files stay as they were signed.
    /// </summary>
    /// <returns>Packs that cannot be opened and were left as they are.</returns>
    private async Task<List<string>> EraseFromPacks(Guid jobId, string hash, HandoverErasure erasure)
    {
        var left = new List<string>();
        await using var db = ledger.OpenDb();
        foreach (var revision in await db.Revisions.Where(r => r.JobId == jobId).ToListAsync())
        {
            var path = book.PathOf(revision);
            if (!File.Exists(path))
                continue;
            var work = Path.Combine(folder.PacksPath, $".{Guid.NewGuid():N}");
            Directory.CreateDirectory(work);
            try
            {
                if (!await Rewrite(path, work, hash, erasure, CancellationToken.None))
                    continue;
                File.Move(Path.Combine(work, "pack.zip"), path, overwrite: true);
            }
            catch (Exception problem) when (problem is InvalidDataException or JsonException)
            {
                // One that is damaged keeps no other from losing the picture.
                left.Add(Path.GetFileName(path));
            }
            finally
            {
                Directory.Delete(work, true);
            }
        }
        return left;
    }

    /// <summary>
    /// Takes a picture's file from the evidence, for which a full disk has room, then out of the packs; unless it hangs at another place
    /// too, where nobody had it erased. One at a time: two that rewrite one pack would each bring the other's picture back. Whoever
    /// asked may go; what was begun is ended.
    /// </summary>
    /// <returns>Packs that cannot be opened and were left as they are.</returns>
    public async Task<List<string>> EraseFile(Guid jobId, string hash, string shownHash, HandoverErasure erasure)
    {
        await _erasing.WaitAsync();
        try
        {
            return await EraseAlone(jobId, hash, shownHash, erasure);
        }
        finally
        {
            _erasing.Release();
        }
    }

    private async Task<List<string>> EraseAlone(Guid jobId, string hash, string shownHash, HandoverErasure erasure)
    {
        await using var db = ledger.OpenDb();
        drafts.Forget(jobId);
        foreach (var file in new[] { shownHash, hash })
            if (!await StillShown(db, file))
                keptFiles.Erase(file);
        // Another job's picture of the same file is another's to erase: only this job's packs lose it.
        return await db.Pictures.AnyAsync(p => p.JobId == jobId && p.Hash == hash && !db.Erasures.Any(e => e.PictureId == p.Id))
            ? []
            : await EraseFromPacks(jobId, hash, erasure);
    }

    /// <summary>Whether any job shows this file: as a picture that nobody erased, as its smaller copy, or as a plan.</summary>
    public static async Task<bool> StillShown(WalkdownDb db, string hash) =>
        await db.Pictures.AnyAsync(p =>
            (p.Hash == hash || p.ShownHash == hash) && !db.Erasures.Any(e => e.PictureId == p.Id && e.JobId == p.JobId)
        ) || await db.Drawings.AnyAsync(d => d.Hash == hash);

    /// <summary>
    /// Ends what a stop or a full disk broke off, and proves that nothing was left: a picture whose row says erased is in no evidence and
    /// in no pack of its job.
    /// </summary>
    public async Task FinishErasures(Guid? onlyJob = null)
    {
        await using var db = ledger.OpenDb();
        foreach (
            var gone in await db
                .Erasures.Where(e => onlyJob == null || e.JobId == onlyJob)
                .Join(
                    db.Pictures,
                    e => e.PictureId,
                    p => p.Id,
                    (e, p) =>
                        new
                        {
                            p.JobId,
                            ErasedIn = e.JobId,
                            p.Hash,
                            p.ShownHash,
                            e.By,
                            e.Reason,
                            e.At,
                        }
                )
                .ToListAsync()
        )
        {
            // An erasure of another job's picture erases nothing.
            if (gone.JobId != gone.ErasedIn)
                continue;
            if (keptFiles.Has(gone.Hash) || keptFiles.Has(gone.ShownHash) || await InAnyPack(db, gone.JobId, gone.Hash))
                await EraseFile(gone.JobId, gone.Hash, gone.ShownHash, new HandoverErasure(gone.By, gone.Reason, gone.At));
        }
    }

    private async Task<bool> InAnyPack(WalkdownDb db, Guid jobId, string hash)
    {
        foreach (var revision in await db.Revisions.Where(r => r.JobId == jobId).ToListAsync())
        {
            if (!File.Exists(book.PathOf(revision)))
                continue;
            try
            {
                using var zip = ZipFile.OpenRead(book.PathOf(revision));
                if (zip.Entries.Any(e => e.FullName.StartsWith($"evidence/{hash}.", StringComparison.Ordinal)))
                    return true;
            }
            catch (InvalidDataException)
            {
                // A pack that cannot be opened shows nobody anything; the check of a record says what is wrong with it.
            }
        }
        return false;
    }

    private async Task<bool> Rewrite(string path, string work, string hash, HandoverErasure erasure, CancellationToken cancel)
    {
        using var zip = ZipFile.OpenRead(path);
        var manifestBytes = PackArchive.Bytes(zip.GetEntry(PackArchive.ManifestName) ?? throw new InvalidDataException(path));
        var manifest = JsonSerializer.Deserialize<PackManifest>(manifestBytes, CoreJson.Options)!;
        var name = manifest.Files.FirstOrDefault(f => f.Name.StartsWith($"evidence/{hash}.", StringComparison.Ordinal))?.Name;
        if (name is null || zip.GetEntry(name) is null)
            return false;
        var recordBytes = PackArchive.Bytes(zip.GetEntry(PackArchive.RecordName) ?? throw new InvalidDataException(path));
        var record = JsonSerializer.Deserialize<HandoverRecord>(recordBytes, CoreJson.Options)!;
        var graves = zip.GetEntry(PackArchive.TombstonesName) is { } earlier
            ? JsonSerializer.Deserialize<PackTombstones>(PackArchive.Bytes(earlier), CoreJson.Options)!.Of.ToList()
            : [];
        graves.Add(new PackTombstone(name, manifest.Files.First(f => f.Name == name).Sha256, null, erasure.By, erasure.Reason, erasure.At));
        var gone = graves
            .Where(g => g.Now is null)
            .ToDictionary(g => Path.GetFileNameWithoutExtension(g.Name), g => new HandoverErasure(g.By, g.Reason, g.At));
        // Drawn as it was, but for the pictures that are gone.
        var shown = record with
        {
            Cards =
            [
                .. record.Cards.Select(c =>
                    c with
                    {
                        Pictures = [.. c.Pictures.Select(p => gone.GetValueOrDefault(p.Hash) is { } e ? p with { Erased = e } : p)],
                    }
                ),
            ],
        };
        using var archive = new PackArchive(Path.Combine(work, "pack.zip"), manifest.MadeAt);
        foreach (var entry in zip.Entries)
        {
            if (
                entry.FullName == name
                || entry.FullName is PackArchive.ManifestName or PackArchive.TombstonesName
                || entry.FullName.EndsWith(".pdf", StringComparison.Ordinal)
            )
                continue;
            await using var content = entry.Open();
            await archive.Add(entry.FullName, content, cancel);
        }
        Directory.CreateDirectory(Path.Combine(work, "cards"));
        zip.Entries.Where(e => e.FullName.StartsWith("cards/", StringComparison.Ordinal))
            .ToList()
            .ForEach(e => e.ExtractToFile(Path.Combine(work, "cards", Path.GetFileName(e.FullName))));
        var plan = await maker.PlanOf(shown, cancel);
        foreach (var language in record.Texts.Keys.Order(StringComparer.Ordinal))
        foreach (
            var file in maker.Reports(
                shown,
                manifest.Record,
                recordBytes,
                language,
                work,
                plan,
                file => PackMaker.Read(Path.Combine(work, file)),
                keptFiles.Read,
                () => { },
                cancel
            )
        )
        {
            await using var content = File.OpenRead(file);
            var added = await archive.Add(Path.GetFileName(file), content, cancel);
            var was = manifest.Files.First(f => f.Name == added.Name).Sha256;
            graves.RemoveAll(g => g.Name == added.Name);
            graves.Add(new PackTombstone(added.Name, was, added.Sha256, erasure.By, erasure.Reason, erasure.At));
        }
        archive.Finish(
            manifestBytes,
            PackArchive.Sealed(new PackTombstones(PackSealer.TombstoneFormat, [.. graves]), key.Key, erasure.At),
            key.Key
        );
        return true;
    }
}
