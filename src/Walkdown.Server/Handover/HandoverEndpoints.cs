using System.Collections.Immutable;
using System.IO.Compression;
using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core;
using Walkdown.Core.Measures;
using Walkdown.Reports;
using Walkdown.Server.Jobs;
using Walkdown.Server.Shared;
using Walkdown.Storage;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Handover;

/// <param name="Passphrase">At least twelve characters: the backup is worth as much as this.</param>
public sealed record KeyBackupRequest(string Passphrase);

/// <summary>The handover of a job: its cover, its sealed revisions, its bundle; and the check of any record in hand.</summary>
public static class HandoverEndpoints
{
    private const long MostUpload = 4L << 30;

    public static void MapHandover(this RouteGroupBuilder api)
    {
        var job = api.MapGroup("/jobs/{jobId:guid}").WithTags("Handover");
        job.MapGet(
                "/handover",
                async Task<Results<Ok<HandoverAnswer>, ProblemHttpResult>> (Guid jobId, HandoverService service) =>
                    await service.Get(jobId) is { } answer ? TypedResults.Ok(answer) : Problems.Of(404, "problem.unknown-job")
            )
            .WithName("getHandover");
        job.MapGet(
                "/handover/sums/{of}",
                async Task<Results<Ok<SumAnswer>, ProblemHttpResult>> (Guid jobId, string of, Ledger ledger, HandoverService service) =>
                    !await ImportEndpoints.Exists(ledger, jobId) ? Problems.Of(404, "problem.unknown-job")
                    : await service.Sum(jobId, of) is { } sum ? TypedResults.Ok(sum)
                    : Problems.Of(404, "handover.no-sum")
            )
            .WithName("getSum");
        job.MapPut("/handover/cover", KeepCover).WithName("keepCover");
        job.MapPost("/handover/revisions", Seal).WithName("sealRevision");
        job.MapGet("/handover/revisions/{revisionId:guid}/{file}", Fetch)
            .WithName("getRevisionFile")
            .Produces(200, contentType: "application/octet-stream");
        job.MapPost("/bundle", Export).WithName("makeBundle");
        job.MapGet("/bundle/{workId:guid}.zip", Bundled).WithName("getBundle").Produces(200, contentType: "application/zip");
        api.MapPost("/bundles", Import)
            .WithMetadata(new RequestSizeLimitAttribute(MostUpload))
            .Accepts<IFormFile>("application/octet-stream")
            .WithTags("Handover")
            .WithName("takeBundle");
        api.MapPost("/verify", Verify)
            .WithMetadata(new RequestSizeLimitAttribute(MostUpload))
            .Accepts<IFormFile>("application/octet-stream")
            .WithTags("Handover")
            .WithName("verifyRecord");
        api.MapGet("/seal-key", (KeyFile key) => TypedResults.Text(key.Key.PublicPem(), "application/x-pem-file"))
            .WithTags("Handover")
            .WithName("getPublicKey");
        api.MapPost(
                "/seal-key/backup",
                IResult (KeyBackupRequest request, KeyFile key) =>
                    request.Passphrase is { Length: >= 12 and <= 200 }
                        ? TypedResults.File(
                            System.Text.Encoding.ASCII.GetBytes(key.Key.ToPem(request.Passphrase)),
                            "application/x-pem-file",
                            $"walkdown-key-{key.Key.Fingerprint[..8]}.pem"
                        )
                        : Problems.Of(422, new Message("handover.passphrase"), "passphrase")
            )
            .WithTags("Handover")
            .WithName("backUpKey")
            .Produces(200, contentType: "application/x-pem-file");
    }

    private static async Task<Results<Ok<HandoverAnswer>, ProblemHttpResult>> KeepCover(
        Guid jobId,
        HandoverCover cover,
        Ledger ledger,
        HandoverService service
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
            if (text.Length > 1000)
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
        HandoverService service,
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
            if (!await db.People.AnyAsync(p => p.Id == request.By && p.JobId == jobId))
                return Problems.Of(422, new Message("problem.unknown-person"), "by");
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
        if (Refuse(request.Signatures, time.GetUtcNow()) is { } bad)
            return Problems.Of(422, bad.Why, $"signatures[{bad.At}]");
        return TypedResults.Ok(work.Start("seal", async (progress, cancel) => await service.Seal(jobId, request, progress, cancel)));
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
            if (
                s.Strokes.IsDefault
                || s.Strokes.Sum(x => x.IsDefault ? 0 : x.Length / 2) is < 8 or > 20_000
                || s.Strokes.Any(x => x.IsDefault || x.Length % 2 != 0 || x.Any(v => v is not (>= -0.01 and <= 2.01)))
            )
                return (new("handover.empty-signature", s.Name), i);
            // A pen that never left one spot is no signature.
            if (Span(s, 0) + Span(s, 1) < 0.1)
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
        HandoverService service,
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
        var bytes = new byte[entry.Length];
        await using (var content = entry.Open())
            await content.ReadExactlyAsync(bytes);
        zip.Dispose();
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
        EvidenceFolder evidence,
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
                            await Bundle.Write(folder, evidence, db, jobId, draft, key.Key, time.GetUtcNow(), progress, cancel);
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

    private static async Task<Results<Ok<WorkAnswer>, ProblemHttpResult>> Import(
        HttpRequest request,
        DataFolder folder,
        EvidenceFolder evidence,
        Ledger ledger,
        HandoverService handover,
        Walk.WalkBoards boards,
        CatalogueStore catalogue,
        WorkQueue work,
        CancellationToken cancel
    )
    {
        var file = await Received(request, folder, cancel);
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
                                return await Bundle.Read(folder, evidence, file, progress, stop);
                            }
                            finally
                            {
                                ledger.Forget();
                            }
                        });
                        catalogue.LookAgain();
                        boards.ForgetAll();
                        await ledger.Rebuild(outcome.JobId, catalogue.Catalogue);
                        // What was erased there is erased here, out of the packs too.
                        if (outcome.Added.ContainsKey(nameof(Erasure)))
                            await handover.EraseAgain(outcome.JobId, CancellationToken.None);
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
        WorkQueue work,
        CancellationToken cancel
    )
    {
        var file = await Received(request, folder, cancel);
        return TypedResults.Ok(
            work.Start(
                "verify",
                async (progress, stop) =>
                {
                    try
                    {
                        await using var stream = File.OpenRead(file);
                        return RecordCheck.Of(stream, string.IsNullOrWhiteSpace(key) ? null : key, progress, stop);
                    }
                    finally
                    {
                        File.Delete(file);
                    }
                }
            )
        );
    }

    /// <summary>What is sent, on disk: it may be larger than memory.</summary>
    private static async Task<string> Received(HttpRequest request, DataFolder folder, CancellationToken cancel)
    {
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
    }
}
