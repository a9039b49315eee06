using System.Collections.Immutable;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Register;
using Walkdown.Core.Walking;
using Walkdown.Server.Cards;
using Walkdown.Server.Shared;
using Walkdown.Storage;

namespace Walkdown.Server.Walk;

/// <summary>Why a Stop is passed over.</summary>
/// <param name="By">Who holds it up; null: set aside by choice.</param>
public sealed record WalkBlock(string? By, string Reason, DateOnly? Until);

/// <summary>One Stop of the StopLine.</summary>
/// <param name="Legs">States of the eight legs, in order.</param>
/// <param name="Signs">What it waits for: ladder, lift, dark.</param>
public sealed record WalkStop(
    Guid Id,
    string Label,
    string Name,
    string Area,
    string Kind,
    Verdict Verdict,
    ImmutableArray<State> Legs,
    int Taken,
    int Total,
    int OpenFaults,
    double? X,
    double? Y,
    ImmutableArray<string> Signs,
    WalkBlock? Blocked,
    DateTimeOffset? WaitsUntil = null,
    string? WaitsFor = null
);

public sealed record WalkArea(string Name, ImmutableArray<WalkStop> Stops);

public sealed record WalkCabinet(Guid Id, string Label, string Name, double? X, double? Y);

/// <summary>The drawing behind the plan.</summary>
/// <param name="MetresPerPixel">Null until two points have set its scale.</param>
public sealed record WalkDrawing(
    string Hash,
    string Name,
    double WidthPixels,
    double HeightPixels,
    double? MetresPerPixel,
    double LeftMetres,
    double TopMetres
);

public sealed record WalkAnswer(
    Guid JobId,
    string JobName,
    string TimeZone,
    bool Simulated,
    ImmutableArray<WalkArea> Areas,
    ImmutableArray<WalkCabinet> Cabinets,
    WalkDrawing? Drawing,
    NextStop? Next,
    ImmutableDictionary<string, int> Verdicts,
    long Sequence
);

/// <summary>Stops that changed since a moment of the journal.</summary>
/// <param name="AskWhole">The register has changed since, or the moment is too old: nothing else is given, and the Walk is asked
/// for.</param>
public sealed record WalkChanges(
    ImmutableArray<WalkStop> Stops,
    NextStop? Next,
    ImmutableDictionary<string, int> Verdicts,
    long Sequence,
    bool AskWhole = false
);

/// <summary>A device that was found, and by what.</summary>
/// <param name="Field">Column of the register, or <c>fault</c>.</param>
public sealed record Found(Guid DeviceId, string Label, string Field, string Text);

/// <summary>What was found; <paramref name="More"/> where there would be more.</summary>
public sealed record FindAnswer(ImmutableArray<Found> Found, bool More);

public static class WalkEndpoints
{
    private const int MostFound = 200;

    public static void MapWalk(this RouteGroupBuilder api)
    {
        var walk = api.MapGroup("/jobs/{jobId:guid}").WithTags("Walk");
        walk.MapGet(
                "/walk",
                async (Guid jobId, WalkBoards boards) =>
                {
                    if (await boards.Of(jobId) is not { } board)
                        return (IResult)Problems.Of(404, "problem.unknown-job");
                    return TypedResults.Bytes(board.Whole(), "application/json");
                }
            )
            .Produces<WalkAnswer>()
            .ProducesProblem(404)
            .WithName("getWalk");
        walk.MapGet(
                "/walk/changes",
                async Task<Results<Ok<WalkChanges>, ProblemHttpResult>> (Guid jobId, long after, WalkBoards boards) =>
                    await boards.Of(jobId) is { } board
                        ? TypedResults.Ok(
                            board.Since(after)
                                ?? new WalkChanges([], null, ImmutableDictionary<string, int>.Empty, board.Sequence, AskWhole: true)
                        )
                        : Problems.Of(404, "problem.unknown-job")
            )
            .WithName("getWalkChanges");
        walk.MapGet(
                "/walk/load",
                async Task<Results<Ok<LoadList>, ProblemHttpResult>> (
                    Guid jobId,
                    string? area,
                    WalkBoards boards,
                    CardService cards,
                    CancellationToken cancel
                ) =>
                    await boards.Of(jobId) is { } board
                        ? TypedResults.Ok(
                            LoadList.Of(
                                (await cards.Judged([.. board.StopsOf(area)], cancel: cancel)).Select(c =>
                                    (c.Loaded.Facts.Place.Label, c.Card)
                                )
                            )
                        )
                        : Problems.Of(404, "problem.unknown-job")
            )
            .WithName("getLoad");
        walk.MapGet("/find", Find).WithName("find");
    }

    /// <summary>One search over everything that names a device.</summary>
    private static async Task<Results<Ok<FindAnswer>, ProblemHttpResult>> Find(Guid jobId, string q, Ledger ledger)
    {
        var wanted = q.Trim();
        if (wanted.Length is 0 or > 100)
            return TypedResults.Ok(new FindAnswer([], false));
        var like = $"%{wanted.Replace("\\", "\\\\").Replace("%", "\\%").Replace("_", "\\_")}%";
        await using var db = ledger.OpenDb();
        if (!await db.Jobs.AnyAsync(j => j.Id == jobId))
            return Problems.Of(404, "problem.unknown-job");
        // A hardware address is found however it is written.
        var hex = string.Concat(wanted.Where(char.IsAsciiHexDigit));
        var mac =
            hex.Length >= 4 && wanted.All(c => char.IsAsciiHexDigit(c) || c is ':' or '-' or '.' or ' ')
                ? $"%{string.Join(':', hex.ToUpperInvariant().Chunk(2).Select(c => new string(c)))}%"
                : like;
        var found = new List<Found>();
        var devices = db.Devices.Where(d => d.JobId == jobId);
        foreach (
            var d in await devices.Where(d => EF.Functions.Like(d.Label, like, "\\")).OrderBy(d => d.Label).Take(MostFound).ToListAsync()
        )
            found.Add(new(d.Id, d.Label, "label", d.Label));
        foreach (var d in await devices.Where(d => EF.Functions.Like(d.Name, like, "\\")).Take(MostFound).ToListAsync())
            found.Add(new(d.Id, d.Label, "name", d.Name));
        foreach (
            var d in await devices.Where(d => EF.Functions.Like(d.Area.Name, like, "\\")).Include(d => d.Area).Take(MostFound).ToListAsync()
        )
            found.Add(new(d.Id, d.Label, "area", d.Area.Name));
        foreach (
            var d in await devices.Where(d => d.Address != null && EF.Functions.Like(d.Address, like, "\\")).Take(MostFound).ToListAsync()
        )
            found.Add(new(d.Id, d.Label, "address", d.Address!));
        foreach (var d in await devices.Where(d => EF.Functions.Like(d.Model, like, "\\")).Take(MostFound).ToListAsync())
            found.Add(new(d.Id, d.Label, "model", d.Model));
        foreach (
            var i in await db
                .Installations.Where(i =>
                    i.Unit.JobId == jobId
                    && (
                        EF.Functions.Like(i.Unit.Serial, like, "\\")
                        || i.Unit.HardwareAddress != null && EF.Functions.Like(i.Unit.HardwareAddress, mac, "\\")
                    )
                )
                .Join(
                    db.Devices,
                    i => i.DeviceId,
                    d => d.Id,
                    (i, d) =>
                        new
                        {
                            d.Id,
                            d.Label,
                            i.Unit.Serial,
                            i.Unit.HardwareAddress,
                            i.Until,
                        }
                )
                .Take(MostFound)
                .ToListAsync()
        )
            found.Add(
                i.Serial.Contains(wanted, StringComparison.OrdinalIgnoreCase)
                    ? new(i.Id, i.Label, "serial", i.Serial)
                    : new(i.Id, i.Label, "hardware_address", i.HardwareAddress!)
            );
        foreach (
            var e in await db
                .RunEnds.Where(e => e.DeviceId != null)
                .Join(
                    db.Runs.Where(r => r.JobId == jobId),
                    e => e.RunId,
                    r => r.Id,
                    (e, r) =>
                        new
                        {
                            e.DeviceId,
                            r.Label,
                            r.Id,
                        }
                )
                .GroupJoin(
                    db.AtPorts()
                        .Join(
                            db.Ports,
                            a => a.PortId,
                            p => p.Id,
                            (a, p) =>
                                new
                                {
                                    a.DeviceId,
                                    a.RunId,
                                    p.Number,
                                    Cabinet = p.Cabinet.Label,
                                }
                        ),
                    r => new { Device = r.DeviceId, Run = r.Id },
                    a => new { Device = (Guid?)a.DeviceId, Run = a.RunId },
                    (r, at) => new { r, at }
                )
                .SelectMany(
                    x => x.at.DefaultIfEmpty(),
                    (x, a) =>
                        new
                        {
                            x.r.DeviceId,
                            x.r.Label,
                            a!.Cabinet,
                            a.Number,
                        }
                )
                .Where(r =>
                    EF.Functions.Like(r.Label, like, "\\")
                    || EF.Functions.Like(r.Cabinet + " port " + r.Number, like, "\\")
                    || EF.Functions.Like(r.Cabinet + "/" + r.Number, like, "\\")
                )
                .Join(
                    devices,
                    r => r.DeviceId,
                    d => d.Id,
                    (r, d) =>
                        new
                        {
                            d.Id,
                            Device = d.Label,
                            r.Label,
                            r.Cabinet,
                            r.Number,
                        }
                )
                .Take(MostFound)
                .ToListAsync()
        )
            found.Add(
                e.Label.Contains(wanted, StringComparison.OrdinalIgnoreCase)
                    ? new(e.Id, e.Device, "run", e.Label)
                    : new(e.Id, e.Device, "port", $"{e.Cabinet} port {e.Number}")
            );
        foreach (
            var f in await db
                .Faults.Where(f =>
                    EF.Functions.Like(f.Title, like, "\\")
                    || db.FaultSteps.Any(s => s.FaultId == f.Id && EF.Functions.Like(s.Text, like, "\\"))
                )
                .Join(
                    devices,
                    f => f.DeviceId,
                    d => d.Id,
                    (f, d) =>
                        new
                        {
                            d.Id,
                            d.Label,
                            f.Title,
                        }
                )
                .Take(MostFound)
                .ToListAsync()
        )
            found.Add(new(f.Id, f.Label, "fault", f.Title));
        var first = found.DistinctBy(f => f.DeviceId).OrderBy(f => f.Label, NaturalOrder.Instance).ToList();
        return TypedResults.Ok(new FindAnswer([.. first.Take(MostFound)], first.Count > MostFound));
    }
}
