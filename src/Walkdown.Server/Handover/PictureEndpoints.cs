using System.Collections.Immutable;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core.Entries;
using Walkdown.Core.Handover;
using Walkdown.Core.Measures;
using Walkdown.Core.People;
using Walkdown.Reports;
using Walkdown.Server.Door;
using Walkdown.Server.Jobs;
using Walkdown.Server.Shared;
using Walkdown.Server.Walk;
using Walkdown.Storage;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Handover;

/// <summary>A picture of a Card; of an erased one, who had it erased and why.</summary>
/// <param name="InReport">It is one of the two that the Card's page in the pack shows.</param>
public sealed record PictureLine(
    Guid Id,
    Guid DeviceId,
    string Hash,
    int Width,
    int Height,
    string Caption,
    PictureMoment Moment,
    bool InReport,
    bool Personal,
    string By,
    DateTimeOffset TakenAt,
    HandoverErasure? Erased
);

/// <summary>Pictures of one place.</summary>
public sealed record PlacePictures(Guid DeviceId, ImmutableArray<PictureLine> Pictures);

/// <summary>Pictures of a job, or of one area of it, for a device that takes them along.</summary>
/// <param name="Places">Places that have any; empty where only the size was asked for.</param>
/// <param name="Count">Pictures that can be fetched: erased ones are none.</param>
/// <param name="Bytes">Of the copies that pages show.</param>
public sealed record JobPictures(ImmutableArray<PlacePictures> Places, int Count, long Bytes);

/// <param name="By">The name of who answers for it.</param>
public sealed record ErasureRequest(Guid Id, string By, string Reason);

/// <summary>Pictures of a Card: kept by hash, shown small and upright, erased lawfully.</summary>
public static class PictureEndpoints
{
    private const int MostBytes = 40 * 1024 * 1024;

    public static void MapPictures(this RouteGroupBuilder api)
    {
        api.MapGet("/jobs/{jobId:guid}/pictures", OfJob).WithTags("Pictures").WithName("getJobPictures");
        var pictures = api.MapGroup("/cards/{deviceId:guid}/pictures").WithTags("Pictures");
        pictures.MapGet("", List).WithName("getPictures");
        pictures
            .MapPost("", Add)
            .WithMetadata(new RequestSizeLimitAttribute(MostBytes + 1024))
            .Accepts<IFormFile>("application/octet-stream")
            .WithName("addPicture")
            .Needs(Right.Work);
        pictures.MapGet("/{pictureId:guid}.jpg", Show).WithName("showPicture").Produces(200, contentType: "image/jpeg");
        pictures.MapPost("/{pictureId:guid}/erase", Erase).WithName("erasePicture").Needs(Right.Erase);
    }

    private static async Task<Ok<ImmutableArray<PictureLine>>> List(Guid deviceId, Ledger ledger)
    {
        await using var db = ledger.OpenDb();
        return TypedResults.Ok(await Lines(db, deviceId));
    }

    private static async Task<Results<Ok<JobPictures>, ProblemHttpResult>> OfJob(
        Guid jobId,
        Ledger ledger,
        WalkBoards boards,
        KeptFiles keptFiles,
        string? area = null,
        bool lines = true
    )
    {
        if (await boards.Of(jobId) is not { } board)
            return Problems.Of(404, "problem.unknown-job");
        var these = board.StopsOf(area).ToHashSet();
        await using var db = ledger.OpenDb();
        var all = (await db.Pictures.Where(p => p.JobId == jobId).ToListAsync()).Where(p => these.Contains(p.DeviceId)).ToList();
        var places = await Lines(db, all);
        var there = places.SelectMany(p => p.Pictures).Where(p => p.Erased is null).Select(p => p.Id).ToHashSet();
        var bytes = all.Where(p => there.Contains(p.Id)).Sum(p => keptFiles.LengthOf(p.ShownHash) ?? 0);
        return TypedResults.Ok(new JobPictures(lines ? places : [], there.Count, bytes));
    }

    private static async Task<ImmutableArray<PictureLine>> Lines(WalkdownDb db, Guid deviceId) =>
        (await Lines(db, await db.Pictures.Where(p => p.DeviceId == deviceId).ToListAsync())) is [var place] ? place.Pictures : [];

    /// <summary>By place, oldest first within each.</summary>
    private static async Task<ImmutableArray<PlacePictures>> Lines(WalkdownDb db, List<Picture> all)
    {
        var ids = all.Select(p => p.Id).ToList();
        var erased = await db.Erasures.Where(e => ids.Contains(e.PictureId)).ToDictionaryAsync(e => e.PictureId);
        var people = await db.People.ToDictionaryAsync(p => p.Id, p => p.Name);
        return
        [
            .. all.GroupBy(p => p.DeviceId)
                .Select(place =>
                {
                    var of = place.OrderBy(p => p.TakenAt).ThenBy(p => p.Sequence).ToList();
                    var shown = ReportPictures.Choose(of, p => p.Moment);
                    return new PlacePictures(
                        place.Key,
                        [
                            .. of.Select(p => new PictureLine(
                                p.Id,
                                p.DeviceId,
                                p.Hash,
                                p.Width,
                                p.Height,
                                p.Caption,
                                p.Moment,
                                shown.Contains(p),
                                p.Personal,
                                people.GetValueOrDefault(p.By, ""),
                                p.TakenAt,
                                erased.GetValueOrDefault(p.Id) is { } e ? new HandoverErasure(e.By, e.Reason, e.At) : null
                            )),
                        ]
                    );
                }),
        ];
    }

    private static async Task<Results<Ok<ImmutableArray<PictureLine>>, ProblemHttpResult>> Add(
        Guid deviceId,
        Guid id,
        Guid by,
        string? caption,
        string? moment,
        bool? personal,
        DateTimeOffset? takenAt,
        double? clockOffsetMs,
        HttpRequest request,
        Ledger ledger,
        PictureIntake intake,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        // What is said of a file stands in the address, where the filter before the endpoints does not see it.
        if (!await Principals.Is(request.HttpContext, by))
            return Problems.Of(403, new Message("problem.in-anothers-name"), "by");
        if (id == Guid.Empty)
            return Problems.Of(422, "problem.no-id");
        // Taken without a network, it comes later than it was taken.
        if ((takenAt is null ? time.GetUtcNow() : EntryDoor.TakenAt(takenAt.Value, clockOffsetMs ?? 0, time.GetUtcNow())) is not { } at)
            return Problems.Of(422, new Message("problem.time"), "takenAt");
        if (caption?.Length > 200)
            return Problems.Of(422, new Message("problem.text-too-long"), "caption");
        if (!AddressWord.TryRead(moment, PictureMoment.General, out var taken))
            return Problems.Of(422, new Message("picture.moment"), "moment");
        var file = await ImportEndpoints.Body(request, cancel);
        if (file.Length > MostBytes)
            return Problems.Of(422, "picture.too-large");
        var picture = new NewPicture(id, deviceId, by, at, file, caption ?? "", taken, personal ?? false);
        if (await intake.Take(picture, cancel) is var (status, why, field))
            return Problems.Of(status, why, field);
        await using var db = ledger.OpenDb();
        return TypedResults.Ok(await Lines(db, deviceId));
    }

    private static async Task<IResult> Show(Guid deviceId, Guid pictureId, HttpResponse response, Ledger ledger, KeptFiles keptFiles)
    {
        await using var db = ledger.OpenDb();
        if (await db.Pictures.FirstOrDefaultAsync(p => p.Id == pictureId && p.DeviceId == deviceId) is not { } picture)
            return Problems.Of(404, "picture.unknown");
        if (await db.Erasures.AnyAsync(e => e.PictureId == pictureId))
            return Problems.Of(410, "picture.erased");
        if (keptFiles.Open(picture.ShownHash) is not { } file)
            return Problems.Of(404, "picture.gone");
        response.Headers.XContentTypeOptions = "nosniff";
        // It may be erased: nobody keeps it.
        response.Headers.CacheControl = "private, no-cache";
        return TypedResults.Stream(file, "image/jpeg");
    }

    /// <summary>The file goes, here and out of every pack; the row, its hash and who had it erased stay.</summary>
    private static async Task<Results<Ok<ImmutableArray<PictureLine>>, ProblemHttpResult>> Erase(
        Guid deviceId,
        Guid pictureId,
        ErasureRequest request,
        Ledger ledger,
        PackErasure handover,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        if (string.IsNullOrWhiteSpace(request.By) || request.By.Length > 120)
            return Problems.Of(422, new Message("picture.who-erases"), "by");
        if (string.IsNullOrWhiteSpace(request.Reason) || request.Reason.Length > 400)
            return Problems.Of(422, new Message("problem.reason-missing"), "reason");
        await using var db = ledger.OpenDb();
        if (await db.Pictures.FirstOrDefaultAsync(p => p.Id == pictureId && p.DeviceId == deviceId, cancel) is not { } picture)
            return Problems.Of(404, "picture.unknown");
        var now = time.GetUtcNow();
        await ledger.Change(
            picture.JobId,
            "erasure",
            async (change, sequence) =>
            {
                if (await change.Erasures.AnyAsync(e => e.PictureId == pictureId))
                    return (true, false);
                change.Add(
                    new Erasure
                    {
                        Id = request.Id == Guid.Empty ? Guid.CreateVersion7() : request.Id,
                        JobId = picture.JobId,
                        PictureId = pictureId,
                        By = request.By.Trim(),
                        Reason = request.Reason.Trim(),
                        At = now,
                        Sequence = sequence,
                    }
                );
                return (true, true);
            }
        );
        try
        {
            var left = await handover.EraseFile(
                picture.JobId,
                picture.Hash,
                picture.ShownHash,
                new HandoverErasure(request.By.Trim(), request.Reason.Trim(), now)
            );
            if (left.Count > 0)
                return Problems.Of(409, "picture.pack-unopened", string.Join(", ", left));
        }
        catch (IOException full) when (Problems.MessageOf(full).Code == "problem.disk-full")
        {
            // The row is kept already: "nothing was kept" would not be true.
            return Problems.Of(507, "picture.erased-but-packs");
        }
        return TypedResults.Ok(await Lines(db, deviceId));
    }
}
