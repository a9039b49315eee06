using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Cabling;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Entries;
using Walkdown.Core.Measures;
using Walkdown.Core.People;
using Walkdown.Core.Power;
using Walkdown.Server.Cards;
using Walkdown.Server.Door;
using Walkdown.Server.Shared;
using Walkdown.Storage;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Power;

/// <summary>What a path may be tried with; null: as it is on record.</summary>
public sealed record PathSettings(
    double TemperatureC,
    double SourceVolts,
    int? PowerClass,
    double? WattsInfraredOff,
    double? WattsInfraredOn,
    bool Screened = false
);

/// <summary>A run piece by piece, with what it gives.</summary>
/// <param name="Drawn">True where somebody drew the pieces; false where they follow from length and cords.</param>
/// <param name="MeasuredPairLoopOhms">Mean of the four pairs' loops that count.</param>
/// <param name="Fresh">Each kind of piece as it is put in.</param>
/// <param name="Problems">Pieces that cannot be; then there is no result.</param>
public sealed record PathAnswer(
    Guid RunId,
    string Label,
    string Device,
    string? Port,
    bool Drawn,
    Origin TemperatureOrigin,
    ImmutableArray<PathPiece> Pieces,
    PathSettings Settings,
    double? MeasuredMetres,
    double? MeasuredPairLoopOhms,
    RunTrial? Result,
    ImmutableArray<PieceProblem> Problems,
    ImmutableArray<PathPiece> Fresh
);

public sealed record PieceProblem(int Piece, string What);

/// <param name="AsMeasured">Scales the path to the loop that was measured.</param>
public sealed record TryPathRequest(Guid RunId, ImmutableArray<PathPiece> Pieces, PathSettings Settings, bool AsMeasured = false);

public sealed record KeepPathRequest(
    Guid Id,
    Guid By,
    DateTimeOffset TakenAt,
    double ClockOffsetMs,
    Guid RunId,
    ImmutableArray<PathPiece> Pieces,
    double? TemperatureC,
    string? Why = null,
    bool? Screened = null
) : IEntry;

/// <summary>The run of a Card as a path: looked at, tried out, and kept as built.</summary>
public static class PathEndpoints
{
    public static void MapPaths(this RouteGroupBuilder api)
    {
        var paths = api.MapGroup("/cards/{deviceId:guid}/path").WithTags("Power");
        paths
            .MapGet(
                "",
                async Task<Results<Ok<ImmutableArray<PathAnswer>>, ProblemHttpResult>> (Guid deviceId, CardService service) =>
                    await service.Facts(deviceId) is { } facts
                        ? TypedResults.Ok<ImmutableArray<PathAnswer>>([.. facts.Runs.Select(run => Of(facts, service.Catalogue, run))])
                        : Problems.Of(404, "problem.unknown-card")
            )
            .WithName("getPaths");
        paths.MapPost("/try", Try).WithName("tryPath").Needs(Right.Look);
        paths.MapPost("", Keep).WithName("keepPath").Needs(Right.Register);
    }

    private static PathAnswer Of(CardFacts facts, Catalogue catalogue, RunFacts run)
    {
        var (known, metres, loop) = RunTrial.Known(facts, catalogue, run);
        return new PathAnswer(
            run.Id,
            run.Label,
            facts.Place.Label,
            run.Port is { } port ? $"{port.Cabinet} port {port.Number}" : null,
            !run.Pieces.IsEmpty,
            run.TemperatureC.Origin,
            run.Path.Pieces,
            new PathSettings(
                known.TemperatureC,
                known.SourceVolts,
                known.PowerClass,
                known.WattsInfraredOff,
                known.WattsInfraredOn,
                known.Screened
            ),
            metres,
            loop,
            RunTrial.Of(known, catalogue),
            [],
            [.. Enum.GetValues<PieceKind>().Select(kind => PathPiece.Fresh(kind, catalogue))]
        );
    }

    private static async Task<Results<Ok<PathAnswer>, ProblemHttpResult>> Try(
        Guid deviceId,
        TryPathRequest request,
        CardService service,
        CatalogueStore catalogue
    )
    {
        if (await service.Facts(deviceId) is not { } facts)
            return Problems.Of(404, "problem.unknown-card");
        if (facts.Runs.FirstOrDefault(r => r.Id == request.RunId) is not { } run)
            return Problems.Of(422, "problem.which-run");
        var known = Of(facts, service.Catalogue, run);
        var s = request.Settings;
        if (Wrong(s) is { } wrong)
            return Problems.Of(422, new Message(wrong), "settings");
        var path = new RunPath(request.Pieces.IsDefault ? [] : request.Pieces);
        var problems = path.Problems().Select(p => new PieceProblem(p.Piece, catalogue.Texts.Say(p.What))).ToImmutableArray();
        return TypedResults.Ok(
            known with
            {
                Pieces = path.Pieces,
                Settings = request.Settings,
                Problems = problems,
                Result = problems.IsEmpty
                    ? RunTrial.Of(
                        new(
                            path,
                            s.TemperatureC,
                            s.Screened,
                            run.Configuration,
                            s.SourceVolts,
                            s.PowerClass,
                            s.WattsInfraredOff,
                            s.WattsInfraredOn,
                            request.AsMeasured ? known.MeasuredPairLoopOhms : null
                        ),
                        service.Catalogue
                    )
                    : null,
            }
        );
    }

    private static string? Wrong(PathSettings s) =>
        s.TemperatureC is not (>= -40 and <= 75) ? "path.temperature"
        : s.SourceVolts is not (> 0 and <= 120) ? "path.volts"
        : s.PowerClass is < 0 or > 8 ? "path.class"
        : s.WattsInfraredOff is { } a && a is not (>= 0 and <= 120) || s.WattsInfraredOn is { } b && b is not (>= 0 and <= 120)
            ? "path.watts"
        : null;

    /// <summary>Keeps the pieces as built. Length and cords of the register follow them, each with its change.</summary>
    private static async Task<Results<Ok<CardAnswer>, ProblemHttpResult>> Keep(
        Guid deviceId,
        KeepPathRequest request,
        CardService service,
        Ledger ledger,
        CatalogueStore catalogue
    )
    {
        if (service.Malformed(request) is { } bad)
            return bad;
        var at = service.TakenAt(request)!.Value;
        if (request.Why?.Length > 400)
            return Problems.Of(422, "problem.text-too-long");
        if (await service.Loaded(deviceId) is not { } loaded)
            return Problems.Of(404, "problem.unknown-card");
        if (loaded.Facts.Runs.All(r => r.Id != request.RunId))
            return Problems.Of(422, "problem.which-run");
        var path = new RunPath(request.Pieces.IsDefault ? [] : request.Pieces);
        if (path.Problems() is { IsEmpty: false } problems)
            return Problems.Of(422, problems[0].What, $"pieces[{problems[0].Piece}]");
        if (path.CableMetres <= 0)
            return Problems.Of(422, "path.no-cable");
        if (request.TemperatureC is { } t && t is not (>= -40 and <= 75))
            return Problems.Of(422, "path.temperature");
        var result = await ledger.Edit(
            loaded.Job.Id,
            request.Id,
            "path",
            request,
            request.By,
            catalogue.Catalogue,
            async (db, sequence) =>
            {
                var touched = new Dictionary<Guid, List<object>>();
                if (await Writers.Refuse(db, loaded.Job.Id, request.By, at) is { } stranger)
                    return (stranger, "by", touched);
                var run = await db.Runs.AsTracking().FirstAsync(r => r.Id == request.RunId);
                var cable = path.Pieces.First(p => p.Kind == PieceKind.Cable);
                var cord = path.Pieces.FirstOrDefault(p => p.Kind == PieceKind.Cord);
                var rows = new List<object>();
                void Change(string field, string? from, string? to)
                {
                    if (from != to)
                        rows.Add(
                            new RegisterChange
                            {
                                Id = Guid.CreateVersion7(),
                                JobId = loaded.Job.Id,
                                DeviceId = deviceId,
                                Field = field,
                                From = from,
                                To = to,
                                AsBuilt = true,
                                Why = request.Why,
                                By = request.By,
                                At = at,
                                Sequence = sequence,
                            }
                        );
                }

                Change("length_m", run.LengthAssumed ? null : Text(run.LengthMetres), Text(path.CableMetres));
                Change("gauge_awg", Text(run.GaugeAwg), Text(cable.GaugeAwg ?? 24));
                Change(
                    "material",
                    Damaged.Is(run.Material) ? null : RegisterValues.Material(run.Material),
                    RegisterValues.Material(cable.Material ?? ConductorMaterial.SolidCopper)
                );
                Change("cords_m", run.CordsMetres > 0 ? Text(run.CordsMetres) : null, path.CordMetres > 0 ? Text(path.CordMetres) : null);
                if (request.TemperatureC is { } warm)
                    Change("temperature_c", run.TemperatureC is { } was ? Text(was) : null, Text(warm));
                if (request.Screened is { } screened)
                {
                    Change("screened", run.Screened ? "yes" : "no", screened ? "yes" : "no");
                    run.Screened = screened;
                }

                var words = string.Join(
                    ", ",
                    path.Pieces.Where(p => !p.IsConductor)
                        .Select(p => p.Label.Length > 0 ? p.Label : catalogue.Texts["piece." + Codes.Of(p.Kind)])
                );
                Change("path", run.Path, words.Length > 0 ? words : null);
                (run.LengthMetres, run.LengthAssumed, run.GaugeAwg, run.Material) = (
                    path.CableMetres,
                    false,
                    cable.GaugeAwg ?? 24,
                    cable.Material ?? ConductorMaterial.SolidCopper
                );
                (run.CordsMetres, run.CordGaugeAwg, run.Path) = (
                    path.CordMetres,
                    cord?.GaugeAwg ?? run.CordGaugeAwg,
                    words.Length > 0 ? words[..Math.Min(200, words.Length)] : null
                );
                run.TemperatureC = request.TemperatureC ?? run.TemperatureC;
                run.PiecesJson = JsonSerializer.Serialize(path.Pieces, CoreJson.Options);
                touched[deviceId] = rows;
                return ((Message?)null, (string?)null, touched);
            }
        );
        return result.Kept is Kept.New or Kept.Already && await service.Get(deviceId) is { } answer
            ? TypedResults.Ok(answer)
            : Problems.Of(result);

        static string Text(double number) => number.ToString("R", CultureInfo.InvariantCulture);
    }
}
