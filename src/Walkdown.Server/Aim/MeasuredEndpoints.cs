using System.Collections.Immutable;
using Microsoft.AspNetCore.Http.HttpResults;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Entries;
using Walkdown.Core.Nights;
using Walkdown.Formats;
using Walkdown.Server.Cards;
using Walkdown.Server.Shared;
using Walkdown.Storage;

namespace Walkdown.Server.Aim;

/// <summary>What a reading was measured in: the picture with the measurement drawn in, and the same measured anew.</summary>
/// <param name="PictureId">The picture.</param>
/// <param name="Algorithm">What measured.</param>
/// <param name="AlgorithmVersion">Its edition.</param>
/// <param name="Marks">What to draw into it.</param>
/// <param name="Again">The same measured now in the kept file.</param>
public sealed record MeasuredAnswer(
    Guid PictureId,
    string Algorithm,
    int AlgorithmVersion,
    ImmutableArray<EvidenceMark> Marks,
    MeasuredAgain Again
);

/// <summary>Measurements in kept pictures, looked at afterwards.</summary>
public static class MeasuredEndpoints
{
    public static void MapMeasured(this RouteGroupBuilder api) =>
        api.MapGet("/cards/{deviceId:guid}/readings/{readingId:guid}/measured", Get).WithTags("Aim").WithName("getMeasured");

    private static async Task<Results<Ok<ImmutableArray<MeasuredAnswer>>, ProblemHttpResult>> Get(
        Guid deviceId,
        Guid readingId,
        CardService service,
        KeptFiles files,
        CancellationToken cancel
    )
    {
        if (await service.Judged(deviceId) is not var (loaded, _))
            return Problems.Of(404, "problem.unknown-card");
        var facts = loaded.Facts;
        if (facts.Readings.FirstOrDefault(r => r.Id == readingId) is not { } reading)
            return Problems.Of(404, "measured.unknown");
        return TypedResults.Ok<ImmutableArray<MeasuredAnswer>>([
            .. await Task.WhenAll(
                reading
                    .Evidence.Where(e => e.Algorithm.Length > 0)
                    .Select(e =>
                        Task.Run(
                            () =>
                                new MeasuredAnswer(
                                    e.PictureId,
                                    e.Algorithm,
                                    e.AlgorithmVersion,
                                    EvidenceMark.Of(e),
                                    MeasuredAgain.Of(
                                        e,
                                        Read(e.PictureHash),
                                        PictureByDay.Agreed(facts, reading.Key.On.Id, reading.TakenAt)?.Picture is { } agreed
                                            ? Read(agreed.PictureHash)
                                            : null,
                                        e.Algorithm == NightLook.Algorithm
                                        && PictureByDay.Of(facts, reading.Key.On.Id, reading.TakenAt) is { } byDay
                                            ? Read(byDay.Hash)
                                            : null
                                    )
                                ),
                            cancel
                        )
                    )
            ),
        ]);
        Core.Pictures.GreyRaster? Read(string hash) => PictureFile.TryRead(files.Read(hash));
    }
}
