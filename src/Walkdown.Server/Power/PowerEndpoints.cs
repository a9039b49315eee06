using System.Collections.Concurrent;
using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Handover;
using Walkdown.Core.Measures;
using Walkdown.Core.People;
using Walkdown.Core.Power;
using Walkdown.Core.Register;
using Walkdown.Server.Door;
using Walkdown.Server.Jobs;
using Walkdown.Server.Shared;
using Walkdown.Storage;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Power;

public static class PowerEndpoints
{
    public static void MapPower(this RouteGroupBuilder api)
    {
        var power = api.MapGroup("/jobs/{jobId:guid}/power").WithTags("Power");
        power
            .MapGet(
                "",
                async Task<Results<Ok<PowerAnswer>, ProblemHttpResult>> (Guid jobId, Ledger ledger, PowerService service) =>
                    await ImportEndpoints.Exists(ledger, jobId)
                        ? TypedResults.Ok(await service.All(jobId))
                        : Problems.Of(404, "problem.unknown-job")
            )
            .WithName("getPower");
        power
            .MapGet(
                "/start",
                async Task<Results<Ok<StartAnswer>, ProblemHttpResult>> (Guid jobId, Ledger ledger, PowerService service) =>
                    await ImportEndpoints.Exists(ledger, jobId)
                        ? TypedResults.Ok(await service.Start(jobId))
                        : Problems.Of(404, "problem.unknown-job")
            )
            .WithName("getStartOrder");
        api.MapGet(
                "/cards/{deviceId:guid}/source",
                async Task<Results<Ok<ImmutableArray<CardSource>>, ProblemHttpResult>> (Guid deviceId, PowerService service) =>
                    await service.SourcesOf(deviceId) is { } sources ? TypedResults.Ok(sources) : Problems.Of(404, "problem.unknown-card")
            )
            .WithTags("Power")
            .WithName("getCardSource");
        power
            .MapPost(
                "/{sourceId:guid}/try",
                async Task<Results<Ok<PowerTrial>, ProblemHttpResult>> (
                    Guid jobId,
                    Guid sourceId,
                    SourceRequest request,
                    Ledger ledger,
                    PowerService service
                ) =>
                    Refuse(request.Figures) is { } bad ? Problems.Of(422, new Message(bad.Code), bad.Field)
                    : request.More is { } more && !MoreCamera.AreSound(more)
                        ? Problems.Of(422, "source.more", MoreCamera.Most.ToString(CultureInfo.InvariantCulture))
                    : await ImportEndpoints.Exists(ledger, jobId) ? TypedResults.Ok(await service.Try(jobId, sourceId, request))
                    : Problems.Of(404, "problem.unknown-job")
            )
            .WithName("trySource")
            .Needs(Right.Look);
        power.MapPut("/{sourceId:guid}", Keep).WithName("keepSource").Needs(Right.Register);
    }

    private static (string Code, string Field)? Refuse(SourceFigures f) =>
        string.IsNullOrWhiteSpace(f.Label) && f.Kind == SourceKind.Supply || f.Label.Length > 60 ? ("source.label", "label")
        : f.Model.Length > 80 ? ("problem.text-too-long", "model")
        : f.BudgetWatts is { } b && b is not (>= 0 and <= 20000) ? ("source.budget", "budgetWatts")
        : f.ReservePercent is not (>= 0 and < 100) ? ("source.reserve", "reservePercent")
        : f.PortLimitWatts is { } p && p is not (> 0 and <= 120) ? ("source.port-limit", "portLimitWatts")
        : f.Volts is { } v && v is not (> 0 and <= 60) ? ("source.volts", "volts")
        : f.RegulationPercent is not (>= 0 and <= 100) ? ("source.regulation", "regulationPercent")
        : new[] { f.RatedAmperes, f.FuseAmperes, f.CableAmperes }.Any(a => a is { } x && x is not (> 0 and <= 500))
            ? ("source.amperes", "ratedAmperes")
        : f is { WireGaugeAwg: not null, WireAreaMm2: not null } ? ("source.wire-twice", "wireAreaMm2")
        : f.WireGaugeAwg is { } g && g is not (>= 10 and <= 40) ? ("path.gauge", "wireGaugeAwg")
        : f.WireAreaMm2 is { } mm && mm is not (> 0 and <= 100) ? ("source.area", "wireAreaMm2")
        : f.TemperatureC is { } t && t is not (>= -40 and <= 75) ? ("path.temperature", "temperatureC")
        : null;

    /// <summary>Keeps the figures of a source, and priority and role of its ports. Every Card that leans on it is judged anew.</summary>
    private static async Task<Results<Ok<PowerAnswer>, ProblemHttpResult>> Keep(
        Guid jobId,
        Guid sourceId,
        SourceRequest request,
        Ledger ledger,
        PowerService service,
        CatalogueStore catalogue,
        TimeProvider time
    )
    {
        if (request.Why?.Length > 400)
            return Problems.Of(422, "problem.text-too-long");
        if (Refuse(request.Figures) is { } bad)
            return Problems.Of(422, new Message(bad.Code), bad.Field);
        if (!await ImportEndpoints.Exists(ledger, jobId))
            return Problems.Of(404, "problem.unknown-job");
        var f = request.Figures;
        var touched = await ledger.Change(
            jobId,
            "source",
            async (db, _) =>
            {
                var source = await db.Sources.AsTracking().FirstOrDefaultAsync(s => s.Id == sourceId && s.JobId == jobId);
                if (
                    source is null
                    && f.Kind == SourceKind.Supply
                    && !await db.Sources.AnyAsync(s => s.JobId == jobId && s.Kind == SourceKind.Supply && s.Label == f.Label)
                )
                    db.Add(
                        source = new PowerSource
                        {
                            Id = sourceId,
                            JobId = jobId,
                            Kind = f.Kind,
                            Label = f.Label,
                        }
                    );
                if (source is null || source.Kind != f.Kind && (source.Kind == SourceKind.Supply || f.Kind == SourceKind.Supply))
                    return ((List<Guid>?)null, false);
                var writer = request.By ?? Guid.Empty;
                if (await Writers.Refuse(db, jobId, writer, time.GetUtcNow()) is { } stranger)
                    throw new Refusal(stranger);
                var by = await db.People.Where(p => p.Id == writer).Select(p => p.Name).FirstAsync();
                // A switch may turn out to be an injector. What stood there before stays as an edition.
                var of = PowerService.EditionOf(source.Id);
                var version = (await db.Editions.Where(e => e.Of == of).MaxAsync(e => (int?)e.Version) ?? 0) + 1;
                db.Add(
                    new Edition
                    {
                        Id = Guid.CreateVersion7(),
                        Of = of,
                        Version = version,
                        Json = JsonSerializer.Serialize(
                            new
                            {
                                before = PowerService.Figures(source),
                                after = f,
                                ports = request.Ports,
                            },
                            CoreJson.Options
                        ),
                        Why = request.Why?.Trim() ?? "",
                        By = by,
                        At = time.GetUtcNow(),
                    }
                );
                PowerService.Apply(f, source);
                foreach (var change in request.Ports ?? [])
                    if (
                        await db.Ports.AsTracking().FirstOrDefaultAsync(p => p.Id == change.PortId && p.CabinetId == source.CabinetId) is
                        { } port
                    )
                        (port.Priority, port.Uplink) = (change.Priority, change.Uplink);
                var cards =
                    source.Kind == SourceKind.Supply
                        ? await db.Devices.Where(d => d.JobId == jobId && d.Supply == source.Label).Select(d => d.Id).ToListAsync()
                        : await db
                            .RunEnds.Where(e =>
                                e.DeviceId != null
                                && db.RunEnds.Any(n =>
                                    n.RunId == e.RunId
                                    && n.Port != null
                                    && n.Port.CabinetId == source.CabinetId
                                    && n.Port.Switch == source.Label
                                )
                            )
                            .Select(e => e.DeviceId!.Value)
                            .ToListAsync();
                await Ledger.Unjudge(db, jobId, cards);
                return (cards, true);
            }
        );
        if (touched is null)
            return Problems.Of(404, "source.unknown");
        await ledger.AfterChange(jobId, touched, catalogue.Catalogue);
        return TypedResults.Ok(await service.All(jobId));
    }
}
