using System.Collections.Immutable;
using Microsoft.AspNetCore.Http.HttpResults;
using Walkdown.Core.Addressing;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Clocks;
using Walkdown.Core.Measures;
using Walkdown.Core.People;
using Walkdown.Core.Recording;
using Walkdown.Server.Addresses;
using Walkdown.Server.Door;
using Walkdown.Server.Shared;
using Walkdown.Server.Work;

namespace Walkdown.Server.Recording;

/// <summary>Recorders: who is on which channel, what is recorded, and the proof of it before and after a restart.</summary>
public static class RecorderEndpoints
{
    public static void AddRecorders(this IServiceCollection services)
    {
        services.AddSingleton<RecorderBook>();
        services.AddSingleton<RecorderWork>();
    }

    public static void MapRecorders(this RouteGroupBuilder api)
    {
        var recorders = api.MapGroup("/jobs/{jobId:guid}/recorders").WithTags("Recording");
        recorders.MapGet("", All).WithName("getRecorders");
        recorders.MapGet("/links", Links).WithName("getEventLinks");
        recorders
            .MapPost(
                "/rows",
                (Guid jobId, RecorderWork work, WorkQueue queue) =>
                    TypedResults.Ok(queue.Start("sweep", async (progress, cancel) => await work.Rows(jobId, progress, cancel)))
            )
            .WithName("recorderRows")
            .Needs(Right.Work);
        recorders
            .MapPost(
                "/clock",
                (Guid jobId, ReadRecorderRequest r, RecorderWork work, WorkQueue queue) =>
                    TypedResults.Ok(queue.Start("clock", async (_, c) => await work.AskTime(jobId, r, c)))
            )
            .WithName("askTimeServer")
            .Needs(Right.Work);
        api.MapGet("/cards/{deviceId:guid}/events", Pressed).WithTags("Recording").WithName("getPressed");
        var one = recorders.MapGroup("/{recorderId:guid}");
        one.MapGet("", Get).WithName("getRecorder");
        one.MapPost(
                "/read",
                (Guid jobId, Guid recorderId, ReadRecorderRequest r, RecorderWork work, WorkQueue queue) =>
                    TypedResults.Ok(queue.Start("recorder", async (_, c) => await work.Read(jobId, recorderId, r, c)))
            )
            .WithName("readRecorder")
            .Needs(Right.Work);
        one.MapPost("/events", Happened).WithName("makeEvent").Needs(Right.Work);
        one.MapPost(
                "/proofs",
                (Guid jobId, Guid recorderId, ProofRequest r, RecorderWork work, WorkQueue queue) =>
                    TypedResults.Ok(queue.Start("proof", async (p, c) => await work.Prove(jobId, recorderId, r, p, c)))
            )
            .WithName("proveChannels")
            .Needs(Right.Work);
        one.MapPost(
                "/channels",
                (Guid jobId, Guid recorderId, SetChannelsRequest r, RecorderWork work, WorkQueue queue) =>
                    TypedResults.Ok(queue.Start("channels", async (_, c) => await work.Set(jobId, recorderId, r, c)))
            )
            .WithName("setChannels")
            .Needs(Right.Work);
    }

    private static async Task<Results<Ok<EventLinksAnswer>, ProblemHttpResult>> Links(Guid jobId, RecorderBook book) =>
        await book.Links(jobId) is { } links ? TypedResults.Ok(links) : Problems.Of(404, "problem.unknown-job");

    private static async Task<Results<Ok<PressedAnswer>, ProblemHttpResult>> Pressed(Guid deviceId, RecorderBook book) =>
        await book.Pressed(deviceId) is { } pressed ? TypedResults.Ok(pressed) : Problems.Of(404, "problem.unknown-card");

    private static async Task<Results<Ok<RecordersAnswer>, ProblemHttpResult>> All(Guid jobId, RecorderBook book, RecorderWork work) =>
        await book.Load(jobId) is { } known
            ? TypedResults.Ok(
                new RecordersAnswer(
                    [.. known.Select(k => new RecorderLine(k.Id, k.Label, [.. k.Planned.Select(p => p.Device).Distinct()]))],
                    work.CanRead
                )
            )
            : Problems.Of(404, "problem.unknown-job");

    private static async Task<Results<Ok<RecorderPage>, ProblemHttpResult>> Get(
        Guid jobId,
        Guid recorderId,
        RecorderBook book,
        RecorderWork work,
        AddressBook addresses
    ) =>
        await book.Load(jobId, recorderId) is { Length: 1 } known
            ? TypedResults.Ok(
                Page(
                    known[0],
                    work.CanRead,
                    book.ClockLimit,
                    await book.Reference(jobId),
                    await book.TimeServer(jobId) is not null,
                    (await addresses.Load(jobId))?.Ledger.Found ?? ImmutableDictionary<Guid, FoundDevice>.Empty,
                    book.Catalogue
                )
            )
            : Problems.Of(404, "recorder.none");

    private static async Task<Results<Ok<RecorderPage>, ProblemHttpResult>> Happened(
        Guid jobId,
        Guid recorderId,
        EventRequest request,
        RecorderBook book,
        RecorderWork work,
        AddressBook addresses
    )
    {
        await work.Happened(jobId, recorderId, request);
        return await Get(jobId, recorderId, book, work, addresses);
    }

    private static RecorderPage Page(
        RecorderBook.Known known,
        bool canRead,
        double limit,
        (ClockReference Reference, DateTimeOffset At)? reference,
        bool hasTimeServer,
        IReadOnlyDictionary<Guid, FoundDevice> found,
        Catalogue catalogue
    )
    {
        var reading = known.Reading;
        var proofs = known.Proofs;
        var pending = proofs.Waiting.ToDictionary(p => p.Channel, p => p.At);
        var restart = proofs.ByChannel.Values.Max(p => p.RestartAt);
        FoundDevice? FoundOf(ChannelStanding c) => c.Planned is null ? null : found.GetValueOrDefault(c.Planned.Device);
        return new(
            known.Id,
            known.Label,
            known.Name,
            known.ReadAt,
            known.Seen,
            canRead,
            reading is null ? [] : RecorderNotes.Of(reading, known.Serial, limit, known.Store),
            reading?.Clock is { } clock
                ?
                [
                    new(
                        clock.OffsetSeconds,
                        clock.UncertaintySeconds,
                        clock.Source,
                        clock.Zone,
                        ClockDifference.Of(clock.OffsetSeconds, clock.UncertaintySeconds, 0, 0, limit).Outcome,
                        limit,
                        reference is var (server, _)
                            ?
                            [
                                Against(
                                    clock.OffsetSeconds,
                                    clock.UncertaintySeconds,
                                    server.OffsetSeconds,
                                    server.UncertaintySeconds,
                                    limit
                                ),
                            ]
                            : [],
                        known is { Earlier: { } earlier, ReadAt: { } at1 }
                            ? ClockDrift.Of(earlier, new(clock.OffsetSeconds, clock.UncertaintySeconds, at1), limit)
                            : null
                    ),
                ]
                : [],
            reading?.Disks ?? [],
            reading?.IntakeMbps,
            restart,
            proofs.Starts.IsEmpty ? null : proofs.Starts[^1],
            reading is null ? null : RecorderNotes.DaysKept(reading),
            known.Store?.DaysPromised,
            reading?.Users,
            reading?.Notifies,
            [
                .. known.Map.Channels.Select(c =>
                    Line(
                        c,
                        reading is not null,
                        proofs.ByChannel.GetValueOrDefault(c.Number),
                        FoundOf(c),
                        pending,
                        restart,
                        RangOf(known, c),
                        catalogue
                    ) with
                    {
                        Clock = c.Planned is { } place ? CameraClock(place, FoundOf(c), reading?.Clock, limit) : [],
                    }
                ),
            ],
            reading is null ? [] : ProposedSetting.Of(known.Map),
            reading is null ? [] : known.Map.Exchanges,
            proofs.Tally(known.Map),
            proofs.Waiting.Length,
            proofs.Waiting.IsEmpty ? null : proofs.Waiting.Max(p => new ClipAsk(p.At, reading?.Clock ?? new RecorderClock(0, 0)).ReadyAt),
            reference is var (ours, at)
                ? [new(ours.Server, -ours.OffsetSeconds, ours.UncertaintySeconds, ours.Stratum, ours.Ours(limit), at)]
                : [],
            hasTimeServer,
            reading is { IsTyped: true }
        );
    }

    private static ClockAgainst Against(double offset, double uncertainty, double other, double otherUncertainty, double limit)
    {
        var d = ClockDifference.Of(offset, uncertainty, other, otherUncertainty, limit);
        return new(d.DifferenceSeconds, d.UncertaintySeconds, limit, d.Outcome);
    }

    /// <summary>Both were read against our clock: what we are off by falls out.</summary>
    private static ImmutableArray<ClockAgainst> CameraClock(
        PlannedChannel place,
        FoundDevice? camera,
        RecorderClock? recorder,
        double limit
    ) =>
        camera is { ClockAheadSeconds: { } ahead, ClockUncertaintySeconds: { } u } && recorder is not null
            ? [Against(ahead, u, recorder.OffsetSeconds, recorder.UncertaintySeconds, place.ClockLimit(limit))]
            : [];

    private static ChannelLine Line(
        ChannelStanding c,
        bool isRead,
        ChannelProof? proof,
        FoundDevice? camera,
        Dictionary<int, DateTimeOffset> pending,
        DateTimeOffset? restart,
        NuisanceCount? rang,
        Catalogue catalogue
    )
    {
        var stream = StreamStanding.Of(c, proof, camera, catalogue);
        var often = rang?.Wrong(catalogue);
        var (planned, read) = (c.Planned, c.Read);
        DateTimeOffset? waits = pending.TryGetValue(c.Number, out var at) ? at : null;
        return new(
            c.Number,
            c.Finding,
            c.By,
            planned?.Device,
            planned?.Label ?? "",
            planned?.Name ?? "",
            planned?.Area ?? "",
            planned is null ? "" : ChannelMap.NameOf(planned),
            read?.Name ?? "",
            c.Carries is null ? "" : ChannelMap.NameOf(c.Carries),
            read is not null,
            isRead && (c.NeedsHandWith(proof) || stream?.Notes.Any(n => n.IsWrong) == true || often is not null),
            c.NameDiffers,
            read?.State ?? ChannelState.Untold,
            read?.When ?? RecordedWhen.Untold,
            read?.Codec ?? "",
            read?.Wide,
            read?.High,
            read?.FramesPerSecond,
            read?.PeakMbps,
            read?.MeanMbps,
            read?.RecordedPercent,
            proof?.Before is { } before ? [Proof(before)] : [],
            proof?.After is { } after ? [Proof(after)] : [],
            proof?.IsProvenAfter,
            read?.IsKept,
            waits,
            waits > restart,
            isRead ? [.. RecorderNotes.Of(c, proof), .. stream?.Notes ?? [], .. often is null ? [] : new[] { often }] : [],
            read?.When == RecordedWhen.Schedule ? read.Week ?? [] : [],
            stream is null ? [] : [stream],
            [],
            rang is null ? null : new(rang.AfterEvents, often is not null)
        );
    }

    /// <summary>How often the zones of a channel rang in the last day; its Card counts from their last change.</summary>
    private static NuisanceCount? RangOf(RecorderBook.Known known, ChannelStanding line) =>
        line.Read?.Rang is { } rang && known.ReadAt is { } at
            ? NuisanceCount.Of(rang, at, null, [.. known.Proofs.Made.Where(e => e.Channel == line.Number).Select(e => e.At)])
            : null;

    private static ProofLine Proof(ProvenEvent p) =>
        new(
            p.EventAt,
            p.Way,
            p.Proof?.Verdict,
            p.Proof?.Proves,
            p.Proof?.Seconds ?? 0,
            p.Proof?.BeginsLate ?? 0,
            p.Proof is { } proof ? [proof.Because] : [],
            p.Still,
            p.Earlier
        );
}
