using Microsoft.AspNetCore.Http.HttpResults;
using Walkdown.Core.People;
using Walkdown.Server.Door;
using Walkdown.Server.Shared;
using Walkdown.Server.Work;

namespace Walkdown.Server.Identity;

/// <summary>Which channel shows which camera, by pictures.</summary>
public static class IdentityEndpoints
{
    public static void MapIdentity(this RouteGroupBuilder api)
    {
        var views = api.MapGroup("/jobs/{jobId:guid}/recorders/{recorderId:guid}/views").WithTags("Identity");
        views
            .MapGet("", async (Guid jobId, Guid recorderId, IdentityRoom room) => TypedResults.Ok(await room.Get(jobId, recorderId)))
            .WithName("getIdentityBoard");
        views
            .MapPost(
                "/look",
                (Guid jobId, Guid recorderId, LookAtViewsRequest r, IdentityRoom room, WorkQueue queue) =>
                    TypedResults.Ok(queue.Start("views", async (p, c) => await room.Look(jobId, recorderId, p, c)))
            )
            .WithName("lookAtViews")
            .Needs(Right.Work);
        views
            .MapPost(
                "/tell",
                (Guid jobId, Guid recorderId, TellViewsRequest r, IdentityRoom room, WorkQueue queue) =>
                    TypedResults.Ok(queue.Start("tell", async (p, c) => await room.Tell(jobId, recorderId, r, p, c)))
            )
            .WithName("tellViews")
            .Needs(Right.Work);
        views.MapGet("/picture.jpg", Picture).WithName("getChannelPicture").Needs(Right.Work).Produces(200, contentType: "image/jpeg");
    }

    private static IResult Picture(Guid jobId, Guid recorderId, int look, int channel, HttpResponse response, IdentityRoom room)
    {
        if (room.Picture(jobId, recorderId, look, channel) is not { } file)
            return Problems.Of(404, "identity.gone");
        response.Headers.XContentTypeOptions = "nosniff";
        response.Headers.CacheControl = "no-store";
        return TypedResults.Bytes(file, "image/jpeg");
    }
}
