using System.Collections.Immutable;
using Microsoft.AspNetCore.Http.HttpResults;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Aiming;
using Walkdown.Core.Clocks;
using Walkdown.Core.Optics;
using Walkdown.Core.People;
using Walkdown.Core.Plates;
using Walkdown.Server.Cards;
using Walkdown.Server.Door;
using Walkdown.Server.Shared;
using Walkdown.Storage;

namespace Walkdown.Server.Views;

/// <summary>What each head should see: planned, tried and agreed.</summary>
public static class ViewEndpoints
{
    public static void MapViews(this RouteGroupBuilder api)
    {
        var views = api.MapGroup("/cards/{deviceId:guid}/views").WithTags("Views");
        views.MapGet("", Get).WithName("getViews");
        views.MapPost("/try", Try).WithName("tryView").Needs(Right.Work);
        views.MapPost("/glare", Glare).WithName("tryGlare").Needs(Right.Work);
        views.MapPost("/plates", Plates).WithName("tryPlateView").Needs(Right.Work);
    }

    private static async Task<Results<Ok<ViewsAnswer>, ProblemHttpResult>> Get(Guid deviceId, CardService service, CatalogueStore catalogue)
    {
        // The other edition's levels are tried; what was kept names its own.
        const DetailEdition edition = DetailEdition.Edition2014;
        if (await service.Judged(deviceId) is not var (loaded, judged))
            return Problems.Of(404, "problem.unknown-card");
        var (facts, all) = (loaded.Facts, catalogue.Catalogue);
        var rules = ViewRules.Of(facts, all);
        var model = rules.Model;
        return TypedResults.Ok(
            new ViewsAnswer(
                facts.Place.Label,
                facts.Place.Name,
                [
                    .. facts
                        .Heads.Where(_ => rules.IsCamera)
                        .Select(h =>
                        {
                            PlannedView[] kept = [.. facts.Events.OfType<PlannedView>().Where(v => v.HeadId == h.Id)];
                            var last = kept.LastOrDefault();
                            var begin = last?.Design ?? ViewProposal.Of(facts.Place, rules);
                            return new HeadView(
                                h.Id,
                                h.Number,
                                Kept(last),
                                Kept(facts.AgreedView(h.Id)),
                                begin,
                                ViewFigures.Of(begin, edition, rules),
                                kept.Length
                            );
                        }),
                ],
                new(
                    facts.Place.Model,
                    model?.Pixels?.Wide,
                    model?.Pixels?.High,
                    model?.Lens?.WidestDeg,
                    model?.Lens?.NarrowestDeg ?? model?.Lens?.WidestDeg,
                    model?.TiltLeast,
                    model?.TiltGreatest,
                    rules.InfraredLeastDeg is not null
                ),
                edition,
                MountingRule.Purposes,
                HeadJoins.Of(facts, judged)
            )
        );

        static ImmutableArray<KeptView> Kept(PlannedView? view) =>
            view is null ? [] : [new(view.Design, view.AgreedBy, view.At, view.By, view.Picture?.PictureId)];
    }

    private static async Task<Results<Ok<ViewFigures>, ProblemHttpResult>> Try(
        Guid deviceId,
        TryViewRequest request,
        CardService service,
        CatalogueStore catalogue
    ) =>
        await Asked(deviceId, request, service) switch
        {
            ({ } facts, _) => TypedResults.Ok(ViewFigures.Of(request.Design, request.Edition, ViewRules.Of(facts, catalogue.Catalogue))),
            (_, var problem) => problem!,
        };

    /// <summary>What a plate is in the view, where the camera reads plates; nothing where it does not.</summary>
    private static async Task<Results<Ok<ImmutableArray<PlateView>>, ProblemHttpResult>> Plates(
        Guid deviceId,
        TryViewRequest request,
        CardService service,
        CatalogueStore catalogue
    )
    {
        var (facts, problem) = await Asked(deviceId, request, service);
        if (facts is null)
            return problem!;
        var all = catalogue.Catalogue;
        return TypedResults.Ok<ImmutableArray<PlateView>>(
            new DriveRecord(facts, all).IsReader ? [PlateView.Of(PlateSetting.Now(facts, all), request.Design, all.Figure)] : []
        );
    }

    private static async Task<Results<Ok<GlareAnswer>, ProblemHttpResult>> Glare(
        Guid deviceId,
        TryViewRequest request,
        CardService service,
        TimeProvider time
    )
    {
        var (facts, problem) = await Asked(deviceId, request, service);
        if (facts is null)
            return problem!;
        if (request.Design.AzimuthDeg is not { } azimuth)
            return Problems.Of(422, "view.no-azimuth", "azimuthDeg");
        if (facts.Site.Where(facts.TimeZone) is not var (latitude, longitude, place))
            return Problems.Of(422, "view.no-place", "azimuthDeg");
        var today = facts.DayOf(time.GetUtcNow());
        var calendar = GlareCalendar.Of(
            latitude,
            longitude,
            SiteTime.StandardOffsetMinutes(facts.TimeZone, time.GetUtcNow()),
            today.Year,
            new(azimuth, request.Design.TiltDeg, request.Design.HorizontalDeg, request.Design.VerticalDeg)
        );
        return TypedResults.Ok(
            new GlareAnswer(
                calendar.Year,
                place,
                calendar.InView,
                calendar.InGuard,
                [.. calendar.Days.Where(d => d.InGuard > 0)],
                calendar.DaysInView,
                calendar.Next(today) is { } next ? [next] : []
            )
        );
    }

    /// <summary>The Card that a view is tried for, or why it cannot be tried.</summary>
    private static async Task<(CardFacts? Facts, ProblemHttpResult? Problem)> Asked(
        Guid deviceId,
        TryViewRequest request,
        CardService service
    )
    {
        if (await service.Judged(deviceId) is not var (loaded, _))
            return (null, Problems.Of(404, "problem.unknown-card"));
        return request.Design.Refuse() is var (why, field) ? (null, Problems.Of(422, why, field)) : (loaded.Facts, null);
    }
}
