using System.Collections.Immutable;
using System.IO.Compression;
using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core;
using Walkdown.Core.Measures;
using Walkdown.Core.People;
using Walkdown.Core.Sealing;
using Walkdown.Reports;
using Walkdown.Server.Door;
using Walkdown.Server.Jobs;
using Walkdown.Server.Shared;
using Walkdown.Server.Work;
using Walkdown.Storage;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Handover;

/// <param name="Key">Fingerprint of the key that somebody looked at: the bundle is taken only if it is sealed by that one.</param>
/// <param name="By">Who took it.</param>
public sealed record TakeBundleRequest(string Key, string By);

/// <summary>The handover of a job: its cover, its sealed revisions, its bundle; and the check of any record in hand.</summary>
public static class HandoverEndpoints
{
    private const long MostUpload = 4L << 30;

    public static void MapHandover(this RouteGroupBuilder api)
    {
        var job = api.MapGroup("/jobs/{jobId:guid}").WithTags("Handover");
        job.MapGet(
                "/handover",
                async Task<Results<Ok<HandoverAnswer>, ProblemHttpResult>> (Guid jobId, HandoverBook service) =>
                    await service.Get(jobId) is { } answer ? TypedResults.Ok(answer) : Problems.Of(404, "problem.unknown-job")
            )
            .WithName("getHandover");
        job.MapGet(
                "/handover/shown",
                async Task<Results<Ok<ShownAnswer>, ProblemHttpResult>> (Guid jobId, Guid deviceId, HandoverBook service) =>
                    await service.Shown(jobId, deviceId) is { } answer ? TypedResults.Ok(answer) : Problems.Of(404, "problem.unknown-card")
            )
            .WithName("getShown");
        job.MapGet(
                "/handover/sums/{of}",
                async Task<Results<Ok<SumAnswer>, ProblemHttpResult>> (Guid jobId, string of, Ledger ledger, HandoverBook service) =>
                    !await ImportEndpoints.Exists(ledger, jobId) ? Problems.Of(404, "problem.unknown-job")
                    : await service.Sum(jobId, of) is { } sum ? TypedResults.Ok(sum)
                    : Problems.Of(404, "handover.no-sum")
            )
            .WithName("getSum");
        job.MapPut("/handover/cover", KeepCover).WithName("keepCover").Needs(Right.HandOver);
        job.MapPost("/handover/revisions", Seal).WithName("sealRevision").Needs(Right.HandOver);
        job.MapPost("/handover/draft", Draft).WithName("makeDraft").Needs(Right.Draft);
        job.MapGet("/handover/draft/{draftId:guid}/{file}", FetchDraft)
            .WithName("getDraftFile")
            .Needs(Right.Draft)
            .Produces(200, contentType: "application/pdf");
        job.MapGet("/handover/revisions/{revisionId:guid}/{file}", Fetch)
            .WithName("getRevisionFile")
            .Produces(200, contentType: "application/octet-stream");
        job.MapPost("/bundle", Export).WithName("makeBundle").Needs(Right.Export);
        job.MapGet("/bundle/{workId:guid}.zip", Bundled)
            .WithName("getBundle")
            .Needs(Right.Export)
            .Produces(200, contentType: "application/zip");
        api.MapPost("/bundles/{workId:guid}/take", Take).WithTags("Handover").WithName("takeBundle").Needs(Right.TakeIn);
        api.MapPost("/bundles", Receive)
            .WithMetadata(new RequestSizeLimitAttribute(MostUpload))
            .Accepts<IFormFile>("application/octet-stream")
            .WithTags("Handover")
            .WithName("lookAtBundle")
            .Needs(Right.TakeIn);
        api.MapPost("/verify", Verify)
            .WithMetadata(new RequestSizeLimitAttribute(MostUpload))
            .Accepts<IFormFile>("application/octet-stream")
            .WithTags("Handover")
            .WithName("verifyRecord")
            .Needs(Right.Verify);
        api.MapGet("/seal-key", (KeyFile key) => TypedResults.Text(key.Key.PublicPem(), "application/x-pem-file"))
            .WithTags("Handover")
            .WithName("getPublicKey");
    }

    private static async Task<Results<Ok<HandoverAnswer>, ProblemHttpResult>> KeepCover(
        Guid jobId,
        HandoverCover cover,
        Ledger ledger,
        HandoverBook service
    )
    {
        foreach (
            var (name, text) in new[]
            {
                ("contract", cover.Contract),
                ("specification", cover.Specification),
                ("standards", cover.Standards),
                ("contractor", cover.Contractor),
                ("client", cover.Client),
                ("site", cover.Site),
                ("remarks", cover.Remarks),
            }
        )
            if (text is null || text.Length > 1000)
                return Problems.Of(422, new Message("handover.cover-too-long"), name);
        var found = await ledger.Change(
            jobId,
            "cover",
            async (db, _) =>
            {
                if (await db.Jobs.AsTracking().FirstOrDefaultAsync(j => j.Id == jobId) is not { } job)
                    return (false, false);
                job.CoverJson = JsonSerializer.Serialize(cover, CoreJson.Options);
                return (true, true);
            }
        );
        return found && await service.Get(jobId) is { } answer ? TypedResults.Ok(answer) : Problems.Of(404, "problem.unknown-job");
    }

    private static async Task<Results<Ok<WorkAnswer>, ProblemHttpResult>> Seal(
        Guid jobId,
        SealRequest request,
        Ledger ledger,
        PackSealer service,
        WorkQueue work,
        TimeProvider time
    )
    {
        if (request.Id == Guid.Empty)
            return Problems.Of(422, "problem.no-id");
        await using (var db = ledger.OpenDb())
        {
            if (!await db.Jobs.AnyAsync(j => j.Id == jobId))
                return Problems.Of(404, "problem.unknown-job");
            if (await Writers.Refuse(db, jobId, request.By, time.GetUtcNow()) is { } stranger)
                return Problems.Of(422, stranger, "by");
            if (request.DeviceId is { } device && !await db.Devices.AnyAsync(d => d.Id == device && d.JobId == jobId))
                return Problems.Of(404, "problem.unknown-card");
        }
        if (
            request.Languages.IsDefaultOrEmpty
            || request.Languages.Any(l => !Texts.Languages.Contains(l))
            || request.Languages.Distinct().Count() != request.Languages.Length
        )
            return Problems.Of(422, new Message("handover.language"), "languages");
        if (request.Signatures.IsDefault || request.Reservations is null || request.Reservations.Length > 4000)
            return Problems.Of(422, new Message("problem.text-too-long"), "reservations");
        if (request.Shown is not { Length: 64 })
            return Problems.Of(422, new Message("handover.not-shown"), "shown");
        if (Refuse(request.Signatures, time.GetUtcNow()) is { } bad)
            return Problems.Of(422, bad.Why, $"signatures[{bad.At}]");
        return TypedResults.Ok(work.Start("seal", async (progress, cancel) => await service.Seal(jobId, request, progress, cancel)));
    }

    private static async Task<Results<Ok<WorkAnswer>, ProblemHttpResult>> Draft(
        Guid jobId,
        DraftRequest request,
        Ledger ledger,
        PackDrafts drafts,
        WorkQueue work
    )
    {
        if (!Texts.Languages.Contains(request.Language))
            return Problems.Of(422, new Message("handover.language"), "language");
        await using (var db = ledger.OpenDb())
        {
            if (!await db.Jobs.AnyAsync(j => j.Id == jobId))
                return Problems.Of(404, "problem.unknown-job");
            if (request.DeviceId is { } device && !await db.Devices.AnyAsync(d => d.Id == device && d.JobId == jobId))
                return Problems.Of(404, "problem.unknown-card");
        }
        return TypedResults.Ok(work.Start("draft", async (progress, cancel) => await drafts.Make(jobId, request, progress, cancel)));
    }

    private static IResult FetchDraft(Guid jobId, Guid draftId, string file, PackDrafts drafts, HttpResponse response)
    {
        if (drafts.PathOf(jobId, draftId, file) is not { } path)
            return Problems.Of(404, "handover.draft-gone");
        response.Headers.CacheControl = "no-store";
        response.Headers.XContentTypeOptions = "nosniff";
        response.Headers.ContentDisposition = $"inline; filename=\"draft-{Path.GetFileName(file)}\"";
        return TypedResults.File(File.OpenRead(path), "application/pdf");
    }

    /// <summary>A signature needs a name, a hand, and a time that can be; one in each role, but witnesses.</summary>
    private static (Message Why, int At)? Refuse(ImmutableArray<HandoverSignature> signatures, DateTimeOffset now)
    {
        if (signatures.Length > 8)
            return (new("handover.too-many-signatures"), 8);
        for (var i = 0; i < signatures.Length; i++)
        {
            var s = signatures[i];
            if (s.Role is not ("technician" or "client" or "witness"))
                return (new("handover.role"), i);
            if (string.IsNullOrWhiteSpace(s.Name) || s.Name.Length > 120)
                return (new("handover.name", "@pack.sign." + s.Role), i);
            if (s.Position.Length > 120 || s.Place.Length > 120)
                return (new("problem.text-too-long"), i);
            if (s.Typed)
            {
                // Nothing drawn, nothing forged: one or the other.
                if (!s.Strokes.IsDefaultOrEmpty)
                    return (new("handover.drawn-and-typed", s.Name), i);
            }
            else if (
                s.Strokes.IsDefault
                || s.Strokes.Sum(x => x.IsDefault ? 0 : x.Length / 2) is < 8 or > 20_000
                || s.Strokes.Any(x => x.IsDefault || x.Length % 2 != 0 || x.Any(v => v is not (>= -0.01 and <= 2.01)))
            )
                return (new("handover.empty-signature", s.Name), i);
            // A pen that never left one spot is no signature.
            else if (Span(s, 0) + Span(s, 1) < 0.1)
                return (new("handover.empty-signature", s.Name), i);
            if (s.At > now.AddMinutes(2))
                return (new("handover.clock-ahead"), i);
            if (s.At < now.AddHours(-12))
                return (new("handover.clock-behind"), i);
            if (s.Role != "witness" && signatures.Take(i).Any(x => x.Role == s.Role))
                return (new("handover.role-twice", "@pack.sign." + s.Role), i);
        }
        return null;

        static double Span(HandoverSignature s, int axis)
        {
            var values = s.Strokes.SelectMany(x => x.Where((_, n) => n % 2 == axis)).ToList();
            return values.Max() - values.Min();
        }
    }

    private static async Task<IResult> Fetch(
        Guid jobId,
        Guid revisionId,
        string file,
        Ledger ledger,
        HandoverBook service,
        HttpResponse response
    )
    {
        await using var db = ledger.OpenDb();
        if (await db.Revisions.FirstOrDefaultAsync(r => r.Id == revisionId && r.JobId == jobId) is not { } revision)
            return Problems.Of(404, "handover.no-revision");
        var path = service.PathOf(revision);
        if (!File.Exists(path))
            return Problems.Of(404, "handover.pack-gone");
        response.Headers.CacheControl = "no-store";
        response.Headers.XContentTypeOptions = "nosniff";
        if (file == "pack.zip")
            return TypedResults.File(File.OpenRead(path), "application/zip", $"handover-{revision.Number}.zip");
        var zip = ZipFile.OpenRead(path);
        if (zip.GetEntry(file) is not { } entry || !(file == PackArchive.RecordName || file.EndsWith(".pdf", StringComparison.Ordinal)))
        {
            zip.Dispose();
            return Problems.Of(404, "handover.no-file");
        }
        // A reader may ask for the end first: the file is taken out whole.
        byte[] bytes;
        try
        {
            bytes = PackArchive.Bytes(entry, 256 * 1024 * 1024);
        }
        catch (InvalidDataException)
        {
            return Problems.Of(422, "handover.pack-broken");
        }
        finally
        {
            zip.Dispose();
        }
        if (file.EndsWith(".pdf", StringComparison.Ordinal))
        {
            response.Headers.ContentDisposition = $"inline; filename=\"{file}\"";
            return TypedResults.Bytes(bytes, "application/pdf");
        }
        return TypedResults.File(bytes, "application/json", file);
    }

    private static async Task<Results<Ok<WorkAnswer>, ProblemHttpResult>> Export(
        Guid jobId,
        Ledger ledger,
        DataFolder folder,
        KeptFiles keptFiles,
        KeyFile key,
        WorkQueue work,
        TimeProvider time
    )
    {
        if (!await ImportEndpoints.Exists(ledger, jobId))
            return Problems.Of(404, "problem.unknown-job");
        foreach (
            var old in Directory
                .EnumerateFiles(folder.PacksPath, "bundle-*.zip")
                .Where(f => File.GetLastWriteTimeUtc(f) < DateTime.UtcNow.AddDays(-1))
        )
            File.Delete(old);
        var file = Path.Combine(folder.PacksPath, $"bundle-{jobId:N}.zip");
        return TypedResults.Ok(
            work.Start(
                "bundle",
                async (progress, cancel) =>
                {
                    var draft = $"{file}.{Guid.NewGuid():N}";
                    try
                    {
                        await using (var db = ledger.OpenDb())
                        {
                            await db.Database.OpenConnectionAsync(cancel);
                            await using var snapshot = (
                                (Microsoft.Data.Sqlite.SqliteConnection)db.Database.GetDbConnection()
                            ).BeginTransaction(deferred: true);
                            db.Database.UseTransaction(snapshot);
                            await BundleWriter.Write(folder, keptFiles, db, jobId, draft, key.Key, time.GetUtcNow(), progress, cancel);
                        }
                        File.Move(draft, file, overwrite: true);
                        return new BundleOutcome(jobId, "", false, ImmutableDictionary<string, int>.Empty, 0, []);
                    }
                    finally
                    {
                        File.Delete(draft);
                    }
                }
            )
        );
    }

    private static async Task<IResult> Bundled(Guid jobId, Guid workId, WorkQueue work, DataFolder folder, Ledger ledger)
    {
        var file = Path.Combine(folder.PacksPath, $"bundle-{jobId:N}.zip");
        if (work.Get(workId) is not { Kind: "bundle", State: WorkState.Done } || !File.Exists(file))
            return Problems.Of(404, "handover.bundle-gone");
        await using var db = ledger.OpenDb();
        var name = await db.Jobs.Where(j => j.Id == jobId).Select(j => j.Name).FirstOrDefaultAsync() ?? "job";
        return TypedResults.File(File.OpenRead(file), "application/zip", $"{PackArchive.SafeName(name)}.walkdown.zip");
    }

    /// <summary>Receives a bundle and looks at it: whose seal it bears is shown before anything of it is taken.</summary>
    private static async Task<Results<Ok<WorkAnswer>, ProblemHttpResult>> Receive(
        HttpRequest request,
        DataFolder folder,
        KeyFile key,
        Ledger ledger,
        WorkQueue work,
        UploadDesk desk,
        CancellationToken cancel
    )
    {
        if (await desk.Receive(request, folder, cancel) is not { } file)
            return Problems.Of(503, "problem.busy");
        return TypedResults.Ok(
            work.Start(
                "bundle-look",
                async (progress, stop) =>
                {
                    try
                    {
                        var look = await BundleLooker.Look(folder, file, progress, stop);
                        await using var db = ledger.OpenDb();
                        var known =
                            look.Key == key.Key.Fingerprint ? KeyStanding.Own
                            : await db.Memory.AnyAsync(m => m.Key == "bundle-key:" + look.Key, stop) ? KeyStanding.Known
                            : KeyStanding.Unknown;
                        return new BundleAsk(desk.Keep(file), look, known);
                    }
                    catch (BundleException problem)
                    {
                        File.Delete(file);
                        throw new Refusal(problem.What);
                    }
                    catch
                    {
                        File.Delete(file);
                        throw;
                    }
                }
            )
        );
    }

    /// <summary>Takes a bundle that was looked at, with the key that somebody saw and named.</summary>
    private static Results<Ok<WorkAnswer>, ProblemHttpResult> Take(
        Guid workId,
        TakeBundleRequest request,
        DataFolder folder,
        KeptFiles keptFiles,
        Ledger ledger,
        PackErasure handover,
        Walk.WalkBoards boards,
        CatalogueStore catalogue,
        WorkQueue work,
        UploadDesk desk,
        TimeProvider time
    )
    {
        if (RecordCheck.WholeKey(request.Key) is not { } key)
            return Problems.Of(422, new Message("verify.key-whole"), "key");
        if (string.IsNullOrWhiteSpace(request.By) || request.By.Length > 120)
            return Problems.Of(422, new Message("bundle.who"), "by");
        if (desk.Taken(workId) is not { } file)
            return Problems.Of(404, "bundle.gone");
        return TypedResults.Ok(
            work.Start(
                "bundle-in",
                async (progress, stop) =>
                {
                    try
                    {
                        var outcome = await ledger.Quiet(async () =>
                        {
                            try
                            {
                                return await BundleReader.Read(
                                    folder,
                                    keptFiles,
                                    file,
                                    key,
                                    catalogue.Catalogue,
                                    time.GetUtcNow(),
                                    progress,
                                    stop
                                );
                            }
                            finally
                            {
                                ledger.Forget();
                            }
                        });
                        boards.ForgetAll();
                        // Whose bundles were taken is known from then on; and everybody who looks at the job is told.
                        await ledger.Change(
                            outcome.JobId,
                            "bundle-in",
                            async (db, _) =>
                            {
                                var (name, by) = ("bundle-key:" + key, $"{request.By.Trim()}, {time.GetUtcNow():yyyy-MM-dd}");
                                await db.Database.ExecuteSqlAsync(
                                    $"INSERT INTO Memory (Key, Value) VALUES ({name}, {by}) ON CONFLICT(Key) DO NOTHING"
                                );
                                return (true, true);
                            }
                        );
                        // What was erased there is erased here, out of the packs too.
                        await handover.FinishErasures(outcome.JobId);
                        return outcome;
                    }
                    catch (BundleException problem)
                    {
                        throw new Refusal(problem.What);
                    }
                    finally
                    {
                        File.Delete(file);
                    }
                }
            )
        );
    }

    private static async Task<Results<Ok<WorkAnswer>, ProblemHttpResult>> Verify(
        string? key,
        HttpRequest request,
        DataFolder folder,
        KeyFile own,
        WorkQueue work,
        UploadDesk desk,
        CancellationToken cancel
    )
    {
        string? wanted = null;
        if (!string.IsNullOrWhiteSpace(key) && (wanted = RecordCheck.WholeKey(key)) is null)
            return Problems.Of(422, new Message("verify.key-whole"), "key");
        if (await desk.Receive(request, folder, cancel) is not { } file)
            return Problems.Of(503, "problem.busy");
        return TypedResults.Ok(
            work.Start(
                "verify",
                async (progress, stop) =>
                {
                    try
                    {
                        var verdict = await RecordCheckApart.Of(file, wanted, progress, stop);
                        // This installation's own key needs nobody to name it.
                        return wanted is null && verdict.Key == own.Key.Fingerprint && verdict.Outcome == SealOutcome.Untouched
                            ? await RecordCheckApart.Of(file, verdict.Key, progress, stop)
                            : verdict;
                    }
                    finally
                    {
                        File.Delete(file);
                    }
                }
            )
        );
    }
}

public enum KeyStanding
{
    Own,
    Known,
    Unknown,
}

/// <summary>A bundle that was looked at and waits to be taken.</summary>
/// <param name="Id">By which it is taken.</param>
/// <param name="Standing">Whether its key is this installation's, was taken from before, or is not known here.</param>
public sealed record BundleAsk(Guid Id, BundleLook Look, KeyStanding Standing);

/// <summary>What is sent to be looked at: on disk, since it may be larger than memory; few at once, and each for an hour.</summary>
public sealed class UploadDesk
{
    private const int MostAtOnce = 2,
        MostKept = 4;
    private readonly System.Collections.Concurrent.ConcurrentDictionary<Guid, (string File, DateTime At)> _kept = new();
    private int _receiving;

    /// <summary>The file that was sent; null where as many as may be are being received already.</summary>
    public async Task<string?> Receive(HttpRequest request, DataFolder folder, CancellationToken cancel)
    {
        if (Interlocked.Increment(ref _receiving) > MostAtOnce)
        {
            Interlocked.Decrement(ref _receiving);
            return null;
        }
        var file = Path.Combine(folder.PacksPath, $".in-{Guid.NewGuid():N}");
        try
        {
            await using var stream = new FileStream(file, FileMode.CreateNew, FileAccess.Write);
            await request.Body.CopyToAsync(stream, cancel);
            return file;
        }
        catch
        {
            File.Delete(file);
            throw;
        }
        finally
        {
            Interlocked.Decrement(ref _receiving);
        }
    }

    public Guid Keep(string file)
    {
        foreach (var (old, at) in _kept.OrderByDescending(k => k.Value.At).Select((k, i) => (k, i)))
            if ((at >= MostKept - 1 || old.Value.At < DateTime.UtcNow.AddHours(-1)) && _kept.TryRemove(old.Key, out var gone))
                File.Delete(gone.File);
        var id = Guid.CreateVersion7();
        _kept[id] = (file, DateTime.UtcNow);
        return id;
    }

    public string? Taken(Guid id) => _kept.TryRemove(id, out var kept) ? kept.File : null;
}
