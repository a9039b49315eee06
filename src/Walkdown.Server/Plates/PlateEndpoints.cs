using System.Collections.Immutable;
using System.Security.Cryptography;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Entries;
using Walkdown.Core.Measures;
using Walkdown.Core.People;
using Walkdown.Core.Plates;
using Walkdown.Formats;
using Walkdown.Server.Cards;
using Walkdown.Server.Door;
using Walkdown.Server.Recording;
using Walkdown.Server.Shared;

namespace Walkdown.Server.Plates;

/// <summary>Test drives before plate readers: what was driven, the list that came of it, and what both say together.</summary>
public static class PlateEndpoints
{
    /// <summary>A list of one drive is short: 5,000 lines are a fraction of this.</summary>
    private const int MostBytes = 4 * 1024 * 1024;

    public static void MapPlates(this RouteGroupBuilder api)
    {
        var plates = api.MapGroup("/cards/{deviceId:guid}/plates").WithTags("Plates");
        plates.MapGet("", Get).WithName("getPlates");
        plates.MapPost("/geometry", Try).WithName("tryGeometry").Needs(Right.Work);
        plates.MapPost("/ask", Ask).WithName("askPlates").Needs(Right.Work);
        plates
            .MapPost("/file", FromFile)
            .WithMetadata(new RequestSizeLimitAttribute(MostBytes * 4 / 3 + 4096))
            .WithName("takePlateFile")
            .Needs(Right.Work);
    }

    private static async Task<Results<Ok<PlatesAnswer>, ProblemHttpResult>> Get(
        Guid deviceId,
        CardService service,
        CatalogueStore catalogue,
        RecorderWork recorders
    )
    {
        if (await service.Judged(deviceId) is not var (loaded, judged))
            return Problems.Of(404, "problem.unknown-card");
        var (facts, all) = (loaded.Facts, catalogue.Catalogue);
        var record = new DriveRecord(facts, all);
        var trial = PlateTrial.Of(record, facts.Now, all);
        var row = judged.Card.Rows.FirstOrDefault(r => r.Check.Id == PlateSetting.Row);
        var view = facts.Heads.Select(h => facts.AgreedView(h.Id)).OfType<PlannedView>().FirstOrDefault();
        var said = row is not null && Counted(row) is FormValue form ? PlateSetting.Of(form.Lines[0]) : null;
        return TypedResults.Ok(
            new PlatesAnswer(
                facts.Place.Label,
                facts.Place.Name,
                record.IsReader,
                facts.Channels.FirstOrDefault()?.Recorder ?? "",
                recorders.CanRead,
                trial,
                trial.Design ?? DriveDesign.Begin(all),
                said ?? PlateSetting.Begin(facts, all),
                said is null ? [] : [said.Seen(all.Figure)],
                row?.Id,
                [
                    .. trial.Values.SelectMany(v =>
                        judged
                            .Card.Rows.Where(r => r.Check.Id == v.Check)
                            .Select(r => new DriveRow(
                                r.Id,
                                v.Check,
                                v.Value.Lines,
                                Card.Preview(facts, all, r.Key, v.Value, r.Key.Under, null).Attempt.State,
                                v.Value.Equals(Counted(r))
                            ))
                    ),
                ],
                record.IsReader && view is not null ? PlateView.Of(said ?? PlateSetting.Begin(facts, all), view.Design, all.Figure) : null,
                view?.Picture?.PictureId,
                facts.Now
            )
        );
    }

    private static async Task<Results<Ok<GeometryTried>, ProblemHttpResult>> Try(
        Guid deviceId,
        TryGeometryRequest request,
        CardService service,
        CatalogueStore catalogue
    )
    {
        if (await service.Judged(deviceId) is null)
            return Problems.Of(404, "problem.unknown-card");
        var all = catalogue.Catalogue;
        return request.Setting.Refuse(all.CheckById[PlateSetting.Row]) is var (why, field)
            ? Problems.Of(422, why, field)
            : TypedResults.Ok(new GeometryTried(request.Setting.Seen(all.Figure), [request.Setting.Line()]));
    }

    private static ReadingValue? Counted(CardRow row) => row.Counting?.Value;

    private static async Task<Results<Ok<SavedAnswer>, ProblemHttpResult>> Ask(
        Guid deviceId,
        AskPlatesRequest request,
        CardService service,
        CatalogueStore catalogue,
        RecorderWork recorders,
        CancellationToken cancel
    )
    {
        var (facts, record, problem) = await Driven(deviceId, service, catalogue);
        if (problem is not null)
            return problem;
        if (facts!.Channels.FirstOrDefault() is not { } channel)
            return Problems.Of(422, "plates.no-channel");
        var since = record!.ListSince;
        var (lines, ahead, trouble) = await recorders.Plates(channel.Recorder, channel.Number, since, PlateList.Most, cancel);
        return lines is null
            ? Problems.Of(502, trouble!)
            : await Take(deviceId, request, PlateListFrom.Recorder, channel.Recorder, lines, ahead, record, service, cancel);
    }

    private static async Task<Results<Ok<SavedAnswer>, ProblemHttpResult>> FromFile(
        Guid deviceId,
        PlateFileRequest request,
        CardService service,
        CatalogueStore catalogue,
        CancellationToken cancel
    )
    {
        if (request.File is not { Length: <= MostBytes })
            return Problems.Of(413, "problem.too-large");
        // What came from the recorder was asked there, and nobody else can say so.
        if (request.From == PlateListFrom.Recorder)
            return Problems.Of(422, new Message("problem.list-from"), "from");
        var (facts, record, problem) = await Driven(deviceId, service, catalogue);
        if (problem is not null)
            return problem;
        var lines = PlateListFile.Read(request.File, facts!.TimeZone, record!.ListSince, cancel);
        return await Take(
            deviceId,
            new AskPlatesRequest(request.By, request.TakenAt, request.ClockOffsetMs),
            request.From,
            request.Name ?? "",
            lines,
            null,
            record,
            service,
            cancel
        );
    }

    private static async Task<(CardFacts? Facts, DriveRecord? Record, ProblemHttpResult? Problem)> Driven(
        Guid deviceId,
        CardService service,
        CatalogueStore catalogue
    ) =>
        await service.Judged(deviceId) is not var (loaded, _) ? (null, null, Problems.Of(404, "problem.unknown-card"))
        : new DriveRecord(loaded.Facts, catalogue.Catalogue) is { Design: not null } record ? (loaded.Facts, record, null)
        : (null, null, Problems.Of(422, "problem.no-drive"));

    private static async Task<Results<Ok<SavedAnswer>, ProblemHttpResult>> Take(
        Guid deviceId,
        AskPlatesRequest asked,
        PlateListFrom from,
        string name,
        IReadOnlyList<(DateTimeOffset At, string Text)> lines,
        double? aheadSeconds,
        DriveRecord record,
        CardService service,
        CancellationToken cancel
    )
    {
        // The secret lives as long as this call: nobody can find out later whose plate a mark was.
        var kept = record.Kept(lines, RandomNumberGenerator.GetBytes(32), aheadSeconds);
        var (answer, result) = await service.Append(
            deviceId,
            new PlateListRequest(
                Guid.CreateVersion7(),
                from,
                name.Length > EntryRequest.MostName ? name[..EntryRequest.MostName] : name,
                kept,
                asked.By,
                asked.TakenAt,
                asked.ClockOffsetMs,
                aheadSeconds,
                // A list of this visit says nothing of an earlier one.
                record.ListSince
            ),
            cancel
        );
        return answer is not null ? TypedResults.Ok(answer) : Problems.Of(result);
    }
}
