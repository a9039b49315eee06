using System.Collections.Immutable;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core.Acceptance;
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
public sealed record RecordingAnswer(
    ImmutableArray<RecorderStore> Store,
    ChannelLoads Loads,
    ImmutableArray<RecordingForecast> Read,
    ImmutableArray<RecordingForecast> Tried
);

public static class RecordingEndpoints
{
    public static void MapRecording(this RouteGroupBuilder api) =>
        api.MapGet("/cards/{deviceId:guid}/recording", Get).WithTags("Recording").WithName("getRecording");

    /// <param name="frames">Frames a second of every channel.</param>
    /// <param name="rate">Mbit/s of a channel on the mean.</param>
    /// <param name="motion">Percent, of channels on motion.</param>
    /// <param name="days">Days that are promised.</param>
    private static async Task<Results<Ok<RecordingAnswer>, ProblemHttpResult>> Get(
        Guid deviceId,
        Ledger ledger,
        AddressBook book,
        CatalogueStore catalogue,
        TimeProvider time,
        double? frames = null,
        double? rate = null,
        double? motion = null,
        double? days = null
    )
    {
        await using var db = ledger.OpenDb();
        if ((await CardFactsLoader.Load(db, [deviceId], time.GetUtcNow())) is not [var recorder])
            return Problems.Of(404, "problem.unknown-card");
        var said = Card.Judge(recorder.Facts, catalogue.Catalogue).Rows.FirstOrDefault(r => r.Check.Id == RecorderStore.Row) is { } row
            ? Counted(row) as FormValue
            : null;
        var channels = await db
            .Channels.Where(c => c.RecorderId == deviceId)
            .Select(c => new
            {
                c.Id,
                c.Number,
                c.Head.DeviceId,
            })
            .ToListAsync();
        var known = await book.Load(recorder.Job.Id);
        var found = known
            ?.Ledger.Rows.Where(r => r is { Planned: not null, Found: not null })
            .ToDictionary(r => r.Planned!.Id, r => r.Found!);
        var read = new List<ChannelRead>();
        foreach (var some in channels.Select(c => c.DeviceId).Distinct().Chunk(250))
        foreach (var card in await CardFactsLoader.Load(db, some, time.GetUtcNow()))
        {
            var modes = Card.Judge(card.Facts, catalogue.Catalogue)
                .Rows.Where(r => r.Check.Id == RecorderStore.Mode)
                .ToDictionary(r => r.Key.On.Id, r => (Counted(r) as ChoiceValue)?.Choice);
            var pixels = catalogue.Catalogue.Model(card.Facts.Place.Model)?.Pixels;
            foreach (var channel in channels.Where(c => c.DeviceId == card.Facts.Place.Id))
                read.Add(
                    new(
                        channel.Number,
                        card.Facts.Place.Label,
                        card.Facts.Place.Area,
                        found?.GetValueOrDefault(card.Facts.Place.Id)?.Streams ?? [],
                        pixels?.Wide,
                        pixels?.High,
                        modes.GetValueOrDefault(channel.Id)
                    )
                );
        }
        var store = said is { Lines: [var line, ..] } ? RecorderStore.Of(line) : null;
        var loads = ChannelLoads.Of(read, said is { Lines: [var first, ..] } ? RecorderStore.WrittenGbPerDay(first) : null);
        if (store is null || !store.Check().IsEmpty || loads.Channels.IsEmpty)
            return TypedResults.Ok(new RecordingAnswer(store is null ? [] : [store], loads, [], []));
        try
        {
            return TypedResults.Ok(
                new RecordingAnswer(
                    [store],
                    loads,
                    [RecordingForecast.Of(store, loads.Channels)],
                    [RecordingForecast.Of(store, loads.Channels, new(frames, rate, motion, days))]
                )
            );
        }
        catch (BadInputException bad)
        {
            return Problems.Of(422, new Message("store.cannot-try"), bad.Field);
        }
    }

    private static ReadingValue? Counted(CardRow row) => row.Attempts.FirstOrDefault(a => a.ReadingId == row.Counts)?.Value;
}
