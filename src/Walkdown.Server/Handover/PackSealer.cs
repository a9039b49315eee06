using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Serialization.Metadata;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Handover;
using Walkdown.Core.Measures;
using Walkdown.Core.Sealing;
using Walkdown.Formats;
using Walkdown.Reports;
using Walkdown.Server.Cards;
using Walkdown.Server.Power;
using Walkdown.Server.Shared;
using Walkdown.Server.Walk;
using Walkdown.Storage;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Handover;

/// <summary>Seals handover packs: what is gathered and drawn goes into one archive with its record, whole or not at all.</summary>
public sealed class PackSealer(
    HandoverBook book,
    Ledger ledger,
    PackMaker maker,
    KeptFiles keptFiles,
    KeyFile key,
    DataFolder folder,
    RegisterService register,
    TimeProvider time
) : IDisposable
{
    /// <summary>Formats of what a pack holds.</summary>
    public const string ManifestFormat = "walkdown-pack/1",
        TombstoneFormat = "walkdown-tombstones/1";

    internal const int MostDetailed = 400;

    private readonly SemaphoreSlim _sealing = new(1, 1);

    /// <inheritdoc/>
    public void Dispose() => _sealing.Dispose();

    /// <summary>Gathers, judges, draws and seals; then adds the revision, if nothing came in between.</summary>
    public async Task<RevisionLine> Seal(Guid jobId, SealRequest request, IProgress<(int Done, int Of)> progress, CancellationToken cancel)
    {
        // One seal at a time: a request that is sent twice finds the first one's revision.
        await _sealing.WaitAsync(cancel);
        try
        {
            return await SealAlone(jobId, request, progress, cancel);
        }
        finally
        {
            _sealing.Release();
        }
    }

    private async Task<RevisionLine> SealAlone(
        Guid jobId,
        SealRequest request,
        IProgress<(int Done, int Of)> progress,
        CancellationToken cancel
    )
    {
        var id = request.Id;
        await using (var db = ledger.OpenDb())
            if (await db.Revisions.FirstOrDefaultAsync(r => r.Id == id, cancel) is { } there)
                return book.LineOf(there);
        var work = Path.Combine(folder.PacksPath, $".{Guid.NewGuid():N}");
        var pack = Path.Combine(folder.PacksPath, $"{id:N}.zip");
        Directory.CreateDirectory(work);
        try
        {
            var made = await Make(jobId, request, work, progress, cancel);
            cancel.ThrowIfCancellationRequested();
            var revision = new Revision
            {
                Id = id,
                JobId = jobId,
                DeviceId = request.DeviceId,
                Number = made.Record.Revision,
                Hash = made.Hash,
                PreviousHash = made.Record.Previous,
                Key = key.Key.Fingerprint,
                File = $"{id:N}.zip",
                At = made.Record.At,
                UpTo = request.Sequence,
                SummaryJson = "",
            };
            var line = new RevisionLine(
                id,
                request.DeviceId,
                made.Record.Of,
                revision.Number,
                revision.Hash,
                revision.PreviousHash,
                revision.Key,
                revision.At,
                made.Record.Summary,
                [.. made.Record.Signatures.Select(s => new SignedBy(s.Role, s.Name, s.Position, s.Place, s.At, s.Typed))],
                made.Record.Reservations,
                made.Reports,
                0
            );
            revision.SummaryJson = JsonSerializer.Serialize(line, CoreJson.Options);
            await ledger.Change(
                jobId,
                "revision",
                async (db, sequence) =>
                {
                    await Unchanged(db, jobId, request);
                    revision.Sequence = sequence;
                    File.Move(Path.Combine(work, "pack.zip"), pack);
                    db.Add(revision);
                    return (true, true);
                }
            );
            return book.LineOf(revision);
        }
        catch
        {
            // Nothing half done: a pack without its row is none.
            await using var db = ledger.OpenDb();
            if (!await db.Revisions.AnyAsync(r => r.Id == id, CancellationToken.None))
                File.Delete(pack);
            throw;
        }
        finally
        {
            Directory.Delete(work, true);
        }
    }

    /// <summary>Two who sign at once, or a reading that came while somebody signed: the later one looks again before anything is
    /// sealed.</summary>
    private static async Task Unchanged(WalkdownDb db, Guid jobId, SealRequest request)
    {
        var newest = await db.Revisions.Where(r => r.JobId == jobId && r.DeviceId == request.DeviceId).MaxAsync(r => (int?)r.Number) ?? 0;
        if (newest != request.Follows)
            throw new Refusal(new("handover.sealed-meanwhile", newest.ToString()));
        if (await HandoverBook.SequenceOf(db, jobId) != request.Sequence)
            throw new Refusal(new("handover.changed-meanwhile"));
    }

    private sealed record Made(HandoverRecord Record, string Hash, ImmutableArray<string> Reports);

    private async Task<Made> Make(
        Guid jobId,
        SealRequest request,
        string work,
        IProgress<(int Done, int Of)> progress,
        CancellationToken cancel
    )
    {
        var at = time.GetUtcNow();
        var steps = new PackSteps(progress);
        using var archive = new PackArchive(Path.Combine(work, "pack.zip"), at);
        var (handover, inForce) = await maker.Gather(
            jobId,
            new PackRequest(request.Id, request.DeviceId, request.Signatures, request.Reservations, request.Languages),
            at,
            work,
            (name, bytes) => archive.Add(name, bytes),
            db => Unchanged(db, jobId, request),
            steps,
            cancel
        );
        // A concession that ended at midnight, a limit that somebody dropped in: they signed something else.
        if (handover.Shown != request.Shown)
            throw new Refusal(new("handover.changed-meanwhile"));
        var sealedRecord = PackArchive.Sealed(handover, key.Key, at);
        var hash = RecordSeal.Check(sealedRecord).Hash!;
        archive.Add(PackArchive.RecordName, sealedRecord);
        if (request.DeviceId is null)
        {
            var (rows, notes) = await register.Schedule(jobId, inForce);
            archive.Add("schedule.csv", SheetWriter.Csv(rows, notes));
            archive.Add("schedule.xlsx", SheetWriter.Xlsx(rows, notes));
        }
        // Pages are drawn while the pictures are copied: one takes the cores, the other the disk.
        var drawing = maker.Pages(handover, request.Languages, hash, sealedRecord, work, steps, cancel);
        try
        {
            if (handover.Drawing is { } drawn && keptFiles.Open(drawn.Hash) is { } behind)
                await using (behind)
                    await archive.Add($"plan.{(drawn.MediaType == "image/png" ? "png" : "svg")}", behind, cancel);
            foreach (var picture in handover.Cards.SelectMany(c => c.Pictures).Where(p => p.Erased is null).DistinctBy(p => p.Hash))
                if (keptFiles.Open(picture.Hash) is { } content)
                    await using (content)
                        await archive.Add(EvidenceName(picture), content, cancel);
        }
        catch
        {
            await Task.WhenAny(drawing);
            throw;
        }
        var reports = ImmutableArray.CreateBuilder<string>();
        foreach (var file in await drawing)
        {
            reports.Add(Path.GetFileName(file));
            await using (var content = File.OpenRead(file))
                await archive.Add(Path.GetFileName(file), content, cancel);
            File.Delete(file);
        }
        archive.Finish(
            PackArchive.Sealed(
                new PackManifest(ManifestFormat, request.Id, handover.Revision, handover.Job.Name, hash, at, archive.Files),
                key.Key,
                at
            ),
            null,
            key.Key
        );
        return new Made(handover, hash, reports.ToImmutable());
    }

    private static string EvidenceName(HandoverPicture picture) =>
        $"evidence/{picture.Hash}.{(picture.MediaType == "image/png" ? "png" : "jpg")}";
}
