using System.Collections.Immutable;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Addressing;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Measures;
using Walkdown.Core.Recording;
using Walkdown.Server.Addresses;
using Walkdown.Server.Shared;
using Walkdown.Storage;

namespace Walkdown.Server.Recording;

/// <summary>Whether a recorder holds what was promised.</summary>
/// <param name="Store">What it has, by the row of its Card; null: nobody has said.</param>
/// <param name="Loads">Its channels.</param>
/// <param name="Read">As it was read; null where nobody has said what it has, or no channel is known.</param>
/// <param name="Tried">With what is tried; null likewise.</param>
/// <param name="Trouble">Why disks as they are told hold nothing; null: they do, or nobody has said what they are.</param>
public sealed record RecordingAnswer(
    ImmutableArray<RecorderStore> Store,
    ChannelLoads Loads,
    ImmutableArray<RecordingForecast> Read,
    ImmutableArray<RecordingForecast> Tried,
    Message? Trouble = null
);

public static class RecordingEndpoints
{
    public static void MapRecording(this RouteGroupBuilder api) =>
        api.MapGet("/cards/{deviceId:guid}/recording", Get).WithTags("Recording").WithName("getRecording");

    /// <param name="frames">Frames a second of every channel.</param>
    /// <param name="rate">Mbit/s of a channel on the mean.</param>
    /// <param name="motion">Percent, of channels on motion.</param>
    /// <param name="days">Days that are promised.</param>
    /// <param name="viewers">That look from away at once.</param>
    private static async Task<Results<Ok<RecordingAnswer>, ProblemHttpResult>> Get(
        Guid deviceId,
        Ledger ledger,
        AddressBook book,
        CatalogueStore catalogue,
        RecorderBook recorders,
        double? frames = null,
        double? rate = null,
        double? motion = null,
        double? days = null,
        int? viewers = null
    )
    {
        if (await ledger.Judge(deviceId, catalogue.Catalogue) is not var (recorder, judged))
            return Problems.Of(404, "problem.unknown-card");
        var line = LineOf(judged, RecorderStore.Row);
        var outside = LineOf(judged, OutsideLine.Row) is { } told ? LineAllowed.Of(told, recorder.Facts, catalogue.Catalogue) : null;
        var said = await recorders.Load(recorder.Job.Id, deviceId);
        var loads = ChannelLoads.Of(
            await Channels(recorder, ledger, book, catalogue.Catalogue, said),
            line is null ? null : RecorderStore.WrittenGbPerDay(line)
        );
        if (line is null || RecorderStore.Of(line) is not { } store)
            return TypedResults.Ok(new RecordingAnswer([], loads, [], []));
        if (said is [{ Reading: { } reading }])
            store = store.With(reading);
        if (store.Trouble() is { } trouble)
            return TypedResults.Ok(new RecordingAnswer([store], loads, [], [], trouble));
        if (loads.Channels.IsEmpty)
            return TypedResults.Ok(new RecordingAnswer([store], loads, [], []));
        try
        {
            return TypedResults.Ok(
                new RecordingAnswer(
                    [store],
                    loads,
                    [RecordingForecast.Of(store, loads.Channels, line: outside)],
                    [RecordingForecast.Of(store, loads.Channels, new(frames, rate, motion, days, viewers), outside)]
                )
            );
        }
        catch (BadInputException bad)
        {
            return Problems.Of(422, new Message("store.cannot-try"), bad.Field);
        }
    }

    private static FormLine? LineOf(JudgedCard judged, CheckId row) =>
        Counted(judged, row).Select(c => c.Value).OfType<FormValue>().FirstOrDefault()?.Lines[0];

    /// <summary>Each channel of a recorder with what its Card and the network say of it.</summary>
    private static async Task<IReadOnlyList<ChannelRead>> Channels(
        LoadedCard recorder,
        Ledger ledger,
        AddressBook book,
        Catalogue catalogue,
        ImmutableArray<RecorderBook.Known>? known
    )
    {
        // Whoever is on a channel, what is written there fills the disks.
        var told = known is [{ Map: var map }] ? map.Channels : [];
        var said = told.Where(c => c.Read is not null).ToDictionary(c => c.Number, c => c.Read!);
        await using var db = ledger.OpenDb();
        var channels = (
            await db
                .Channels.Where(c => c.RecorderId == recorder.Facts.Place.Id)
                .Select(c => new
                {
                    c.Id,
                    c.Number,
                    c.Head.DeviceId,
                })
                .ToListAsync()
        ).ToLookup(c => c.DeviceId);
        var found = (await book.Load(recorder.Job.Id))?.Ledger.Found ?? ImmutableDictionary<Guid, FoundDevice>.Empty;
        var read = told.Where(c => c.Planned is null && c.Read is not null)
            .Select(c => new ChannelRead(c.Number, c.Read!.Name, "", [], null, null, null, c.Read))
            .ToList();
        foreach (var own in channels)
        {
            // A Card that is on the shelf is not judged again.
            if (await ledger.Judge(own.Key, catalogue) is not var (card, judged))
                continue;
            var modes = Counted(judged, RecorderStore.Mode).ToDictionary(c => c.Key.On.Id, c => (c.Value as ChoiceValue)?.Choice);
            var (place, pixels) = (card.Facts.Place, catalogue.Model(card.Facts.Place.Model)?.Pixels);
            foreach (var channel in own)
                read.Add(
                    new(
                        channel.Number,
                        place.Label,
                        place.Area,
                        found.GetValueOrDefault(place.Id)?.Streams ?? [],
                        pixels?.Wide,
                        pixels?.High,
                        modes.GetValueOrDefault(channel.Id),
                        said.GetValueOrDefault(channel.Number)
                    )
                );
        }
        return read;
    }

    /// <summary>Rows of a check, each with the reading that counts.</summary>
    private static IEnumerable<(CheckKey Key, ReadingValue? Value)> Counted(JudgedCard card, CheckId check) =>
        card.Card.Rows.Where(r => r.Check.Id == check).Select(r => (r.Key, r.Counting?.Value));
}
