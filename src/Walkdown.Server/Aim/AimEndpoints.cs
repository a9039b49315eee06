using System.Globalization;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using Walkdown.Core.Aiming;
using Walkdown.Core.Measures;
using Walkdown.Core.People;
using Walkdown.Server.Door;
using Walkdown.Server.Jobs;
using Walkdown.Server.Shared;

namespace Walkdown.Server.Aim;

/// <summary>Aim by the picture: what each head sees now against what was agreed, live.</summary>
public static class AimEndpoints
{
    private const int MostBytes = 40 * 1024 * 1024;

    public static void MapAim(this RouteGroupBuilder api)
    {
        var aim = api.MapGroup("/cards/{deviceId:guid}/aim/{headId:guid}").WithTags("Aim");
        aim.MapPost("/begin", Begin).WithName("beginAim").Needs(Right.Work);
        aim.MapPost("/live", Live).WithName("getAim").Needs(Right.Work);
        aim.MapGet("/picture.jpg", Picture).WithName("getAimPicture").Needs(Right.Work).Produces(200, contentType: "image/jpeg");
        aim.MapPost("/file", FromFile)
            .WithMetadata(new RequestSizeLimitAttribute(MostBytes + 1024))
            .Accepts<IFormFile>("application/octet-stream")
            .WithName("aimByFile")
            .Needs(Right.Work);
        aim.MapPost("/lock", Lock).WithName("lockAim").Needs(Right.Work);
        aim.MapPost("/focus", Focus).WithName("focusAim").Needs(Right.Work);
        aim.MapPost("/motor", Motor).WithName("driveLens").Needs(Right.Work);
        aim.MapPost("/tried", Tried).WithName("triedByNight").Needs(Right.Work);
        aim.MapPost("/walked", Walked).WithName("walkedByNight").Needs(Right.Work);
        aim.MapPost("/still", Still).WithName("holdAimStill").Needs(Right.Work);
        aim.MapPost("/sway", Sway).WithName("swayAim").Needs(Right.Work);
        aim.MapPost("/touch", Touch).WithName("touchAim").Needs(Right.Work);
        aim.MapPost("/keep", Keep).WithName("keepAim").Needs(Right.Work);
    }

    private static async Task<Results<Ok<AimLive>, ProblemHttpResult>> Begin(
        Guid deviceId,
        Guid headId,
        AimRequest request,
        AimRoom room
    ) =>
        request.Target is { } target && !IsIn(target)
            ? Problems.Of(422, "focus.target", "target")
            : Answer(await room.Begin(deviceId, headId, request.Login, new(request.Use, request.Target ?? Middle)));

    /// <summary>Asked by a post: what is only got is kept by the browser for when there is no connection.</summary>
    private static async Task<Results<Ok<AimLive>, ProblemHttpResult>> Live(
        Guid deviceId,
        Guid headId,
        int after,
        AimRoom room,
        CancellationToken cancel
    ) => Answer(await room.Live(deviceId, headId, after, cancel));

    private static async Task<Results<Ok<AimLive>, ProblemHttpResult>> FromFile(
        Guid deviceId,
        Guid headId,
        double? x,
        double? y,
        string? use,
        string? corners,
        HttpRequest request,
        AimRoom room,
        CancellationToken cancel
    )
    {
        if (!AddressWord.TryRead(use, AimUse.Aim, out var wanted))
            return Problems.Of(400, new Message("problem.unreadable", "use"), "use");
        if (!TryCorners(corners, out var monitor))
            return Problems.Of(422, "corners.order", "corners");
        // How sharp a monitor is says nothing of a lens.
        if (monitor is not null && wanted != AimUse.Aim)
            return Problems.Of(422, "corners.only-aim", "corners");
        var target = x is { } across && y is { } down ? new PictureShare(across, down) : Middle;
        return IsIn(target)
            ? Answer(await room.FromFile(deviceId, headId, await ImportEndpoints.Body(request, cancel), new(wanted, target), monitor))
            : Problems.Of(422, "focus.target", "target");
    }

    /// <summary>Eight shares, from the upper left corner with the clock: across and down of each; none: no corners.</summary>
    private static bool TryCorners(string? text, out MonitorCorners? corners)
    {
        corners = null;
        if (string.IsNullOrEmpty(text))
            return true;
        var said = text.Split(',');
        if (said.Length != 8)
            return false;
        var n = new double[8];
        for (var i = 0; i < 8; i++)
            if (!double.TryParse(said[i], NumberStyles.Float, CultureInfo.InvariantCulture, out n[i]) || !double.IsFinite(n[i]))
                return false;
        corners = new(new(n[0], n[1]), new(n[2], n[3]), new(n[4], n[5]), new(n[6], n[7]));
        return true;
    }

    /// <summary>Looks elsewhere how sharp it is, or begins anew.</summary>
    private static async Task<Results<Ok<AimLive>, ProblemHttpResult>> Focus(
        Guid deviceId,
        Guid headId,
        FocusTargetRequest request,
        AimRoom room
    ) => IsIn(request.Target) ? Answer(await room.Focus(deviceId, headId, request.Target)) : Problems.Of(422, "focus.target", "target");

    /// <summary>Has the motor of its lens driven.</summary>
    private static async Task<Results<Ok<AimLive>, ProblemHttpResult>> Motor(
        Guid deviceId,
        Guid headId,
        MotorRequest request,
        AimRoom room
    ) =>
        request.Share is >= -1 and <= 1
            ? Answer(await room.Drive(deviceId, headId, request))
            : Problems.Of(422, new Message("motor.by"), "share");

    /// <summary>Something was done about what lies over its picture in the dark.</summary>
    private static async Task<Results<Ok<AimLive>, ProblemHttpResult>> Tried(
        Guid deviceId,
        Guid headId,
        NightTriedRequest request,
        AimRoom room
    ) => Answer(await room.Tried(deviceId, headId, request.Act));

    /// <summary>Somebody walks through what its white light watches, now.</summary>
    private static async Task<Results<Ok<AimLive>, ProblemHttpResult>> Walked(Guid deviceId, Guid headId, AimRoom room) =>
        Answer(await room.Walked(deviceId, headId));

    private static readonly PictureShare Middle = new(0.5, 0.5);

    private static bool IsIn(PictureShare at) => at is { X: >= 0 and <= 1, Y: >= 0 and <= 1 };

    private static async Task<Results<Ok<AimLive>, ProblemHttpResult>> Lock(
        Guid deviceId,
        Guid headId,
        AimLockRequest request,
        AimRoom room
    ) => Answer(await room.Lock(deviceId, headId, request.Tight));

    private static async Task<Results<Ok<AimLive>, ProblemHttpResult>> Still(Guid deviceId, Guid headId, AimRoom room) =>
        Answer(await room.Still(deviceId, headId));

    /// <summary>Whether it stands still.</summary>
    private static async Task<Results<Ok<AimLive>, ProblemHttpResult>> Sway(
        Guid deviceId,
        Guid headId,
        SwayRequest request,
        AimRoom room
    ) => Answer(await room.Sway(deviceId, headId, request.Ask));

    private static async Task<Results<Ok<AimTouched>, ProblemHttpResult>> Touch(
        Guid deviceId,
        Guid headId,
        AimTouchRequest request,
        AimRoom room
    ) =>
        request.Touch.Refuse() is var (why, field) ? Problems.Of(422, why, field)
        : await room.Touch(deviceId, headId, request) is { } touched ? TypedResults.Ok(touched)
        : Problems.Of(404, "problem.unknown-head");

    private static async Task<Results<Ok<AimKept>, ProblemHttpResult>> Keep(
        Guid deviceId,
        Guid headId,
        AimKeepRequest request,
        AimRoom room,
        CancellationToken cancel
    ) => await room.Keep(deviceId, headId, request, cancel) is { } kept ? TypedResults.Ok(kept) : Problems.Of(404, "problem.unknown-head");

    private static IResult Picture(Guid deviceId, Guid headId, int number, HttpResponse response, AimRoom room)
    {
        if (room.Picture(deviceId, headId, number) is not { } file)
            return Problems.Of(404, "aim.gone");
        response.Headers.XContentTypeOptions = "nosniff";
        response.Headers.CacheControl = "no-store";
        return TypedResults.Bytes(file, "image/jpeg");
    }

    private static Results<Ok<AimLive>, ProblemHttpResult> Answer(AimLive? live) =>
        live is null ? Problems.Of(404, "problem.unknown-head") : TypedResults.Ok(live);
}
