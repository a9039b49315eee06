using System.Collections.Immutable;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using Walkdown.Core.Measures;
using Walkdown.Core.People;
using Walkdown.Formats;
using Walkdown.Server.Cards;
using Walkdown.Server.Door;
using Walkdown.Server.Jobs;
using Walkdown.Server.Shared;
using Walkdown.Server.Work;
using Walkdown.Storage;

namespace Walkdown.Server.Readings;

/// <summary>Readings by the hundred: from a sweep, or from an instrument's file.</summary>
public static class ResultEndpoints
{
    public static void MapResults(this RouteGroupBuilder api)
    {
        api.MapGet(
                "/jobs/{jobId:guid}/found",
                async Task<Results<Ok<ImmutableArray<FoundLine>>, ProblemHttpResult>> (
                    Guid jobId,
                    Ledger ledger,
                    Observations observations
                ) =>
                    await ImportEndpoints.Exists(ledger, jobId)
                        ? TypedResults.Ok(await observations.List(jobId))
                        : Problems.Of(404, "problem.unknown-job")
            )
            .WithTags("Results")
            .WithName("getFound");
        var results = api.MapGroup("/jobs/{jobId:guid}/results").WithTags("Results");
        results
            .MapPost(
                "/sweep",
                async Task<Results<Ok<WorkAnswer>, ProblemHttpResult>> (
                    Guid jobId,
                    SweepRequest request,
                    Ledger ledger,
                    ResultIntake intake,
                    WorkQueue work
                ) =>
                    await ImportEndpoints.Exists(ledger, jobId)
                        ? TypedResults.Ok(
                            work.Start("sweep", async (progress, cancel) => await intake.Sweep(jobId, request, progress, cancel))
                        )
                        : Problems.Of(404, "problem.unknown-job")
            )
            .WithName("startSweep")
            .Needs(Right.Work);
        results
            .MapPost("/file", Upload)
            .WithName("uploadResults")
            .Needs(Right.Work)
            .Accepts<byte[]>("application/octet-stream")
            .WithMetadata(new RequestSizeLimitAttribute(SheetReader.MostBytes + 1024));
        results
            .MapGet(
                "/{draftId:guid}",
                async Task<Results<Ok<IntakeAnswer>, ProblemHttpResult>> (Guid jobId, Guid draftId, ResultIntake intake) =>
                    await intake.Get(jobId, draftId) is { } answer ? TypedResults.Ok(answer) : Problems.Of(404, "result.gone")
            )
            .WithName("getResults")
            .Needs(Right.Work);
        results
            .MapPost(
                "/{draftId:guid}/assign",
                async Task<Results<Ok<IntakeAnswer>, ProblemHttpResult>> (
                    Guid jobId,
                    Guid draftId,
                    AssignRequest request,
                    ResultIntake intake,
                    CancellationToken cancel
                ) =>
                    await intake.Assign(jobId, draftId, request, cancel) is { } answer
                        ? TypedResults.Ok(answer)
                        : Problems.Of(404, "result.gone")
            )
            .WithName("assignResults")
            .Needs(Right.Work);
        results
            .MapPost(
                "/{draftId:guid}/take",
                async Task<Results<Ok<IntakeAnswer>, ProblemHttpResult>> (
                    Guid jobId,
                    Guid draftId,
                    TakeResultsRequest request,
                    ResultIntake intake,
                    CardService cards
                ) =>
                {
                    if (cards.Malformed(request) is { } bad)
                        return bad;
                    if (await intake.Take(jobId, draftId, request) is not { } result)
                        return Problems.Of(404, "result.gone");
                    return result.Kept is Kept.New or Kept.Already
                        ? TypedResults.Ok((await intake.Get(jobId, draftId))!)
                        : Problems.Of(result);
                }
            )
            .WithName("takeResults")
            .Needs(Right.Work);
    }

    private static async Task<Results<Ok<WorkAnswer>, ProblemHttpResult>> Upload(
        Guid jobId,
        string name,
        Guid? instrumentId,
        HttpRequest request,
        Ledger ledger,
        ResultIntake intake,
        WorkQueue work,
        CancellationToken cancel
    )
    {
        if (!await ImportEndpoints.Exists(ledger, jobId))
            return Problems.Of(404, "problem.unknown-job");
        var file = await ImportEndpoints.Body(request, cancel, SheetReader.MostBytes);
        return TypedResults.Ok(
            work.Start(
                "results",
                async (progress, stop) =>
                    await intake.FromFile(jobId, name.Length > 120 ? name[..120] : name, file, instrumentId, progress, stop)
            )
        );
    }
}
