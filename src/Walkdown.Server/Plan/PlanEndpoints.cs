using System.Globalization;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core.Measures;
using Walkdown.Core.People;
using Walkdown.Core.Register;
using Walkdown.Reports;
using Walkdown.Server.Door;
using Walkdown.Server.Jobs;
using Walkdown.Server.Shared;
using Walkdown.Storage;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Plan;

/// <summary>Two points of the drawing, in its pixels, and how far they lie apart.</summary>
/// <param name="AnchorX">Site coordinates of the first point, where known.</param>
public sealed record ScaleRequest(
    double Ax,
    double Ay,
    double Bx,
    double By,
    double Metres,
    double? AnchorX = null,
    double? AnchorY = null
);

public sealed record CabinetPlace(double X, double Y);

/// <summary>The drawing behind the plan: SVG or PNG, its scale by two points.</summary>
public static class PlanEndpoints
{
    private const int MostBytes = 25 * 1024 * 1024;

    public static void MapPlan(this RouteGroupBuilder api)
    {
        var plan = api.MapGroup("/jobs/{jobId:guid}").WithTags("Plan");
        plan.MapPost("/plan", Keep)
            .WithMetadata(new RequestSizeLimitAttribute(MostBytes + 1024))
            .Accepts<IFormFile>("application/octet-stream")
            .WithName("keepDrawing")
            .Needs(Right.Plan);
        plan.MapPut("/plan/scale", Scale).WithName("scaleDrawing").Needs(Right.Plan);
        plan.MapDelete("/plan", Remove).WithName("removeDrawing").Needs(Right.Plan);
        plan.MapGet("/plan/{hash}", Get).WithName("getDrawing").Produces(200, contentType: "image/png");
        plan.MapPut("/cabinets/{cabinetId:guid}", PlaceCabinet).WithName("placeCabinet").Needs(Right.Register);
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Keep(
        Guid jobId,
        string? name,
        HttpRequest request,
        Ledger ledger,
        KeptFiles keptFiles,
        CancellationToken cancel
    )
    {
        if (!await ImportEndpoints.Exists(ledger, jobId))
            return Problems.Of(404, "problem.unknown-job");
        var file = await ImportEndpoints.Body(request, cancel);
        if (file.Length > MostBytes)
            return Problems.Of(422, "plan.too-large", (MostBytes / 1048576).ToString(CultureInfo.InvariantCulture));
        if (PlanPicture.SizeOf(file) is not { } size)
            return Problems.Of(422, "plan.not-a-drawing");
        if (size.MediaType == "image/png" ? size.Width * size.Height > 60e6 : PlanPicture.Folds(file))
            return Problems.Of(422, "plan.folds");
        var hash = await keptFiles.Put(file, cancel);
        await ledger.Change(
            jobId,
            "plan",
            async (db, _) =>
            {
                var drawing = await db.Drawings.AsTracking().FirstOrDefaultAsync(d => d.JobId == jobId, cancel);
                if (drawing is null)
                    db.Add(
                        drawing = new PlanDrawing
                        {
                            JobId = jobId,
                            Hash = "",
                            MediaType = "",
                            Name = "",
                        }
                    );
                // A new edition of the same sheet keeps its scale; another size does not.
                if (drawing.WidthPixels != size.Width || drawing.HeightPixels != size.Height)
                    (drawing.MetresPerPixel, drawing.LeftMetres, drawing.TopMetres) = (null, 0, 0);
                (drawing.Hash, drawing.MediaType, drawing.Name) = (
                    hash,
                    size.MediaType,
                    name is { Length: > 0 and <= 200 } ? name : "plan"
                );
                (drawing.WidthPixels, drawing.HeightPixels) = (size.Width, size.Height);
                return (true, true);
            }
        );
        return TypedResults.NoContent();
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Scale(Guid jobId, ScaleRequest request, Ledger ledger)
    {
        PlanPosition position;
        try
        {
            position = PlanScale.FromTwoPoints(
                request.Ax,
                request.Ay,
                request.Bx,
                request.By,
                request.Metres,
                request.AnchorX,
                request.AnchorY
            );
        }
        catch (BadInputException bad)
        {
            return Problems.Of(422, bad.Field == "plan.apart" ? "plan.points-together" : "plan.distance", bad.Field);
        }
        var found = await ledger.Change(
            jobId,
            "plan",
            async (db, _) =>
            {
                if (await db.Drawings.AsTracking().FirstOrDefaultAsync(d => d.JobId == jobId) is not { } drawing)
                    return (false, false);
                (drawing.MetresPerPixel, drawing.LeftMetres, drawing.TopMetres) = (
                    position.MetresPerPixel,
                    position.LeftMetres,
                    position.TopMetres
                );
                return (true, true);
            }
        );
        return found ? TypedResults.NoContent() : Problems.Of(404, "plan.none");
    }

    private static async Task<NoContent> Remove(Guid jobId, Ledger ledger)
    {
        await ledger.Change(
            jobId,
            "plan",
            async (db, _) => (true, await db.Drawings.Where(d => d.JobId == jobId).ExecuteDeleteAsync() > 0)
        );
        return TypedResults.NoContent();
    }

    private static async Task<IResult> Get(Guid jobId, string hash, HttpResponse response, Ledger ledger, KeptFiles keptFiles)
    {
        await using var db = ledger.OpenDb();
        if (
            await db.Drawings.FirstOrDefaultAsync(d => d.JobId == jobId && d.Hash == hash) is not { } drawing
            || keptFiles.Open(drawing.Hash) is not { } file
        )
            return Problems.Of(404, "plan.none");
        // A drawing is shown as a picture; opened by itself, nothing in it may run or call out.
        response.Headers.ContentSecurityPolicy = "default-src 'none'; style-src 'unsafe-inline'; img-src data:; sandbox";
        response.Headers.XContentTypeOptions = "nosniff";
        response.Headers.CacheControl = "private, max-age=31536000, immutable";
        return TypedResults.Stream(file, drawing.MediaType);
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> PlaceCabinet(
        Guid jobId,
        Guid cabinetId,
        CabinetPlace place,
        Ledger ledger
    )
    {
        if (!double.IsFinite(place.X) || !double.IsFinite(place.Y) || Math.Abs(place.X) > 100_000 || Math.Abs(place.Y) > 100_000)
            return Problems.Of(422, "plan.distance");
        var found = await ledger.Change(
            jobId,
            "plan",
            async (db, _) =>
            {
                if (await db.Cabinets.AsTracking().FirstOrDefaultAsync(c => c.Id == cabinetId && c.JobId == jobId) is not { } cabinet)
                    return (false, false);
                (cabinet.X, cabinet.Y) = (Math.Round(place.X, 2), Math.Round(place.Y, 2));
                return (true, true);
            }
        );
        return found ? TypedResults.NoContent() : Problems.Of(404, "problem.nothing-here");
    }
}
