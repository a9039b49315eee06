using Microsoft.AspNetCore.Http.HttpResults;
using Walkdown.Core.People;
using Walkdown.Server.Door;
using Walkdown.Server.Shared;

namespace Walkdown.Server.Work;

/// <summary>How long work is asked for, and cancelled.</summary>
public static class WorkEndpoints
{
    public static void MapWork(this RouteGroupBuilder api)
    {
        api.MapGet(
                "/progress/{id:guid}",
                Results<Ok<WorkAnswer>, ProblemHttpResult> (Guid id, WorkQueue work) =>
                    work.Get(id) is { } answer ? TypedResults.Ok(answer) : Problems.Of(404, "problem.unknown-work")
            )
            .WithTags("Work")
            .WithName("getWork");
        api.MapPost(
                "/progress/{id:guid}/cancel",
                Results<Ok<WorkAnswer>, ProblemHttpResult> (Guid id, WorkQueue work) =>
                    work.Cancel(id) is { } answer ? TypedResults.Ok(answer) : Problems.Of(404, "problem.unknown-work")
            )
            .WithTags("Work")
            .WithName("cancelWork")
            .Needs(Right.Look);
    }
}
