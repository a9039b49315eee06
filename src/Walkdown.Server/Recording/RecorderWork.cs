using System.Collections.Concurrent;
using System.Collections.Immutable;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Entries;
using Walkdown.Core.Handover;
using Walkdown.Core.Measures;
using Walkdown.Core.Recording;
using Walkdown.Devices;
using Walkdown.Devices.Discovery;
using Walkdown.Devices.Field;
using Walkdown.Devices.Recorders;
using Walkdown.Server.Addresses;
using Walkdown.Server.Cards;
using Walkdown.Server.Handover;
using Walkdown.Server.Readings;
using Walkdown.Server.Shared;
using Walkdown.Storage;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Recording;

/// <summary>What is done at recorders: they are asked, set, and made to show what they have recorded.</summary>
public sealed class RecorderWork(
    RecorderBook book,
    AddressBook addresses,
    Ledger ledger,
    CatalogueStore catalogue,
    CardService cards,
    PictureIntake pictures,
    ResultIntake intake,
    FieldNetwork network,
    IHttpClientFactory clients,
    RecorderLists.At at,
    TimeProvider time
)
{
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(20);
    private static readonly TimeSpan TimePatience = TimeSpan.FromSeconds(1.5);

    /// <summary>So many clips are had at once from one recorder: more would hold up what it records.</summary>
    private const int AtOnce = 4;
    private const int MostEvents = 2_000;
    private const double LongestAgo = 24 * 3600;

    public bool CanRead => at.Address is not null;

    /// <summary>A recorder of this label, to be asked itself.</summary>
    private ILiveRecorder Outside(string label) =>
        at.Address is null
            ? throw new Refusal(new("recorder.nowhere"))
            : new HttpRecorder(clients.CreateClient(Sources.Recorders), label, Patience, time);

    private async Task<RecorderBook.Known> Known(Guid jobId, Guid recorder) =>
        await book.Load(jobId, recorder) is { Length: 1 } known ? known[0] : throw new Refusal(new("recorder.none"));

    /// <summary>What a channel shows now.</summary>
    public Task<(byte[]? Picture, Message? Trouble)> Picture(string label, int channel, CancellationToken cancel) =>
        Outside(label).Picture(channel, cancel);

    /// <inheritdoc cref="ILiveRecorder.Plates"/>
    public Task<(IReadOnlyList<(DateTimeOffset At, string Text)>? Lines, double? AheadSeconds, Message? Trouble)> Plates(
        string label,
        int channel,
        DateTimeOffset since,
        int most,
        CancellationToken cancel
    ) => Outside(label).Plates(channel, since, most, cancel);

    /// <summary>Asks the recorder of a label, and keeps what it said.</summary>
    public async Task<LookAnswer> Read(Guid jobId, ListRequest request, CancellationToken cancel) =>
        await book.Load(jobId) is { } all && all.FirstOrDefault(r => r.Label == request.Recorder) is { } known
            ? await Read(jobId, known.Id, new ReadRecorderRequest(request.By), cancel)
            : throw new Refusal(new("list.unknown-recorder", Message.Said(request.Recorder)));

    /// <summary>Asks a recorder, and keeps what it said.</summary>
    public async Task<LookAnswer> Read(Guid jobId, Guid recorder, ReadRecorderRequest request, CancellationToken cancel)
    {
        var known = await Known(jobId, recorder);
        var reading = await Ask(known, request.By, cancel);
        await book.Keep(jobId, known.Label, request.By, (LookKind.List, reading.ListOf(known.Label)));
        var told = reading.Channels.Count(c => c.State != ChannelState.Empty);
        return new(told, [new("recorder.read", Message.Number(told), Message.Said(known.Label))]);
    }

    private async Task<RecorderReading> Ask(RecorderBook.Known known, string by, CancellationToken cancel)
    {
        var (reading, trouble) = await Outside(known.Label).Read(cancel);
        if (reading is null)
            throw new Refusal(trouble!);
        await book.Keep(known.JobId, known.Label, by, (LookKind.Recorder, reading));
        return reading;
    }

    /// <summary>Our own clock, which every other is read against, against the server of time.</summary>
    public async Task<LookAnswer> AskTime(Guid jobId, ReadRecorderRequest request, CancellationToken cancel)
    {
        if (await book.TimeServer(jobId) is not { } server)
            throw new Refusal(new("clock.no-server"));
        var reference = await new TimeServerClient(network, time).Ask(server, TimePatience, cancel);
        await book.Keep(jobId, reference.Server, request.By, (LookKind.Clock, reference));
        return new(1, []);
    }

    /// <summary>Keeps that somebody made an event before cameras.</summary>
    public async Task Happened(Guid jobId, Guid recorder, EventRequest request)
    {
        var known = await Known(jobId, recorder);
        if (request.Channels.IsDefaultOrEmpty || request.Channels.Length > MostEvents)
            throw new Refusal(new("event.no-channels"));
        if (!double.IsFinite(request.SecondsAgo) || request.SecondsAgo is < 0 or > LongestAgo)
            throw new Refusal(new("event.when"));
        if (!Enum.IsDefined(request.Way))
            throw new Refusal(new("event.no-channels"));
        var moment = time.GetUtcNow().AddSeconds(-request.SecondsAgo);
        var own = known.Planned.ToLookup(p => p.Number);
        foreach (var channel in request.Channels)
            if (!own.Contains(channel))
                throw new Refusal(new("event.unknown-channel", Message.Said(known.Label), Message.Number(channel)));
        ImmutableArray<EventMade> made =
        [
            .. request
                .Channels.Distinct()
                .Order()
                .Select(c => own[c].First())
                .Select(p => new EventMade(p.Number, p.Device, p.Head, request.Way, moment)),
        ];
        await book.Keep(jobId, known.Label, request.By, (LookKind.Events, made));
    }

    /// <summary>
    /// Has the clips of all events that wait: once they can be on the disk, each around its moment by the recorder's clock. After a restart
    /// the clip from before it is looked for again.
    /// </summary>
    public async Task<LookAnswer> Prove(
        Guid jobId,
        Guid recorder,
        ProofRequest request,
        IProgress<(int, int)> progress,
        CancellationToken cancel
    )
    {
        var known = await Known(jobId, recorder);
        if (known.Proofs.Waiting.IsEmpty)
            throw new Refusal(new("clip.no-events", Message.Said(known.Label)));
        var by = await cards.NameOf(jobId, request.By, cancel);
        var outside = Outside(known.Label);
        var reading = await Ask(known, by, cancel);
        if (reading.Clock is not { } clock)
            throw new Refusal(new("clip.no-clock", Message.Said(known.Label)));
        known = await Known(jobId, recorder);
        var said = reading.Channels.ToDictionary(c => c.Number);
        var asks = known.Proofs.Waiting.Select(e => (Event: e, Ask: new ClipAsk(e.At, clock))).ToList();
        // What is not yet on the disk is not missing.
        if (asks.Max(a => a.Ask.ReadyAt) - time.GetUtcNow() is { Ticks: > 0 } wait)
            await Task.Delay(wait, time, cancel);
        var proven = new ConcurrentBag<ProvenEvent>();
        var troubles = new ConcurrentBag<Message>();
        var done = 0;
        await Parallel.ForEachAsync(
            asks,
            new ParallelOptions { MaxDegreeOfParallelism = AtOnce, CancellationToken = cancel },
            async (one, stop) =>
            {
                var (made, ask) = one;
                var when = said.GetValueOrDefault(made.Channel)?.When ?? RecordedWhen.Untold;
                var (clip, still, trouble) = await outside.Clip(made.Channel, ask, stop);
                if (trouble is not null)
                    troubles.Add(trouble);
                var proof = clip is null ? null : ClipProof.Of(ask, made.Channel, when, clip);
                var picture =
                    still is null || proof is not { From: not null } ? null : await Keep(made, still, request.By, known.Label, stop);
                bool? earlier = null;
                if (known.Proofs.Before(made) is { } before)
                {
                    var again = new ClipAsk(before.EventAt, clock);
                    var (old, _, _) = await outside.Clip(made.Channel, again, stop);
                    earlier = old is null ? null : ClipProof.Of(again, made.Channel, before.When, old).Proves;
                }
                proven.Add(
                    new(
                        made.Channel,
                        made.Device,
                        made.Head,
                        made.Way,
                        made.At,
                        when,
                        proof,
                        picture,
                        earlier,
                        said.GetValueOrDefault(made.Channel)?.View ?? "",
                        reading.StartedAt
                    )
                );
                progress.Report((Interlocked.Increment(ref done), asks.Count));
            }
        );
        ImmutableArray<ProvenEvent> all = [.. proven.OrderBy(p => p.Channel)];
        await book.Keep(jobId, known.Label, by, (LookKind.Proofs, all));
        return new(
            all.Length,
            [
                new(
                    "clip.looked",
                    Message.Number(all.Count(p => p.Proof?.Proves == true)),
                    Message.Number(all.Length),
                    Message.Number(all.Count(p => p.Proof?.Proves == false)),
                    Message.Number(all.Count(p => p.Proof?.Proves is null))
                ),
                .. troubles.Distinct().Take(3),
            ]
        );
    }

    /// <summary>The picture of the event, as one of its place: people may be told apart in it.</summary>
    private async Task<Guid?> Keep(EventMade made, byte[] still, Guid by, string recorder, CancellationToken cancel)
    {
        var picture = new NewPicture(
            Guid.CreateVersion7(),
            made.Device,
            by,
            made.At,
            still,
            catalogue.Texts.Say(new Message("clip.caption", Message.Said(recorder), Message.Number(made.Channel))),
            PictureMoment.General,
            Personal: true
        );
        return await pictures.Take(picture, cancel) is null ? picture.Id : null;
    }

    /// <summary>
    /// Sets names and devices of channels, all in one, and reads them afterwards. On the Card of every camera that came to another channel
    /// that is an act: what was read before is void.
    /// </summary>
    public async Task<LookAnswer> Set(Guid jobId, Guid recorder, SetChannelsRequest request, CancellationToken cancel)
    {
        var known = await Known(jobId, recorder);
        var by = await cards.NameOf(jobId, request.By, cancel);
        await cards.NotWhileUpdating(recorder, known.Label);
        var outside = Outside(known.Label);
        // As it is now, and not as somebody looked at it some time ago.
        var reading = await Ask(known, by, cancel);
        known = await Known(jobId, recorder);
        if (known.Seen != request.Seen)
            throw new Refusal(new("recorder.changed-since", Message.Said(known.Label)));
        if (RecorderNotes.IsOther(reading, known.Serial))
            throw new Refusal(new("recorder.other-unit", Message.Said(reading.Serial), Message.Said(known.Serial)));
        var wanted = request.Channels.IsDefault ? [] : request.Channels.ToHashSet();
        var all = ProposedSetting.Of(known.Map);
        var settings = all.Where(s => wanted.Contains(s.Channel)).ToList();
        if (settings.Count == 0)
            throw new Refusal(new("recorder.nothing-to-set"));
        if (!ProposedSetting.IsWhole(settings, all))
            throw new Refusal(new("recorder.half-a-ring"));
        if (await outside.Set([.. settings.Select(s => new ChannelSetting(s.Channel, s.Name, s.From))], cancel) is { } refused)
            throw new Refusal(refused);
        // It is done: whoever calls off now is still told what became of it.
        reading = await Ask(known, by, CancellationToken.None);
        await book.Keep(jobId, known.Label, by, (LookKind.List, reading.ListOf(known.Label)));
        var after = await Known(jobId, recorder);
        var not = ProposedSetting.NotTaken(settings, after.Map);
        var moved = settings.Where(s => s.From is not null && !not.Contains(s.Channel)).ToList();
        foreach (var place in known.Planned.Where(p => moved.Exists(s => s.Channel == p.Number)).GroupBy(p => p.Device))
            await cards.Append(
                place.Key,
                new ActRequest(
                    Guid.CreateVersion7(),
                    "channel-changed",
                    request.By,
                    time.GetUtcNow(),
                    0,
                    Text: catalogue.Texts.Say(
                        new Message("recorder.moved", Message.Said(known.Label), string.Join(", ", place.Select(p => p.Number)))
                    )
                )
            );
        return new(
            settings.Count,
            [
                new("recorder.set", Message.Number(settings.Count - not.Length), Message.Said(known.Label)),
                .. not.IsEmpty ? [] : new[] { new Message("recorder.not-taken", string.Join(", ", not)) },
                .. moved.Count == 0 ? [] : new[] { new Message("recorder.voids", Message.Number(moved.Count)) },
            ]
        );
    }

    /// <summary>Readings of the rows of Cards that the recorders showed, to be looked at and taken by a person.</summary>
    public async Task<IntakeAnswer> Rows(Guid jobId, IProgress<(int, int)> progress, CancellationToken cancel)
    {
        var recorders = await book.Load(jobId) ?? throw new Refusal(new("problem.unknown-job"));
        var read = recorders.Where(r => r.Reading is not null).ToList();
        if (read.Count == 0)
            throw new Refusal(new("recorder.nothing-for-cards"));
        var now = time.GetUtcNow();
        var found = (await addresses.Load(jobId))!.Ledger.Found;
        var ofPlace = read.SelectMany(r => r.Map.Channels.Where(c => c.Planned is not null).Select(c => (Recorder: r, Line: c)))
            .ToLookup(c => c.Line.Planned!.Device);
        var own = read.ToDictionary(r => r.Id);
        var entries = new List<IntakeEntry>();
        foreach (var some in ofPlace.Select(g => g.Key).Union(own.Keys).Chunk(250))
        {
            cancel.ThrowIfCancellationRequested();
            await using var db = ledger.OpenDb();
            foreach (var card in await CardFactsLoader.Load(db, some, now))
            {
                var place = card.Facts.Place;
                var plans = CheckPlan.For(card.Facts, catalogue.Catalogue).Rows.ToLookup(r => r.Check.Id);
                void Add(CheckId check, Guid on, ReadingValue value, DateTimeOffset seen, string? serial, object raw)
                {
                    foreach (var row in plans[check].Where(r => r.Key.On.Part.Length == 0 && r.Key.On.Id == on))
                        entries.Add(IntakeEntry.OfNetwork(jobId, place, row, value, seen, serial, raw));
                }
                if (
                    own.GetValueOrDefault(place.Id) is { Reading: { } reading, ReadAt: { } readAt } it
                    && !RecorderNotes.IsOther(reading, it.Serial)
                )
                    foreach (var (check, value) in RecorderRows.OfRecorder(reading, book.ClockLimit))
                        Add(check, place.Id, value, readAt, reading.Serial, new { reading.Clock, reading.Disks });
                var lines = ofPlace[place.Id].Where(l => l.Recorder.ReadAt is not null).ToList();
                foreach (var (check, value) in RecorderRows.OfPlace(lines.ConvertAll(l => l.Line)))
                    Add(
                        check,
                        place.Id,
                        value,
                        lines.Max(l => l.Recorder.ReadAt!.Value),
                        lines[0].Line.Read?.Serial,
                        lines.ConvertAll(l => l.Line.Read)
                    );
                foreach (var (recorder, line) in lines)
                {
                    // What rings on one channel is of the head that it shows.
                    if (
                        card.Facts.Heads.FirstOrDefault(h => h.Number == line.Planned!.Head) is { } head
                        && RecorderRows.Nuisance(
                            line,
                            recorder.ReadAt!.Value,
                            card.Facts,
                            catalogue.Catalogue,
                            recorder.Proofs.Made.Where(e => e.Channel == line.Number).Select(e => e.At)
                        )
                            is { } rang
                    )
                        Add(NuisanceCount.Row, head.Id, rang, recorder.ReadAt!.Value, line.Read?.Serial, line.Read!.Rang!);
                    var proof = recorder.Proofs.ByChannel.GetValueOrDefault(line.Number);
                    foreach (
                        var (check, value, eventAt) in RecorderRows.OfChannel(
                            line,
                            proof,
                            StreamStanding.Of(line, proof, found.GetValueOrDefault(place.Id), catalogue.Catalogue)
                        )
                    )
                        Add(
                            check,
                            line.Planned!.Id,
                            value,
                            eventAt ?? recorder.ReadAt!.Value,
                            line.Read?.Serial,
                            eventAt is null ? line.Read! : proof!
                        );
                }
            }
        }
        return entries.Count == 0
            ? throw new Refusal(new("recorder.nothing-for-cards"))
            : await intake.Keep(jobId, entries, progress, cancel);
    }
}
