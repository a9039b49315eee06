using System.Collections.Immutable;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Addressing;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Clocks;
using Walkdown.Core.Measures;
using Walkdown.Core.Recording;
using Walkdown.Core.Register;
using Walkdown.Server.Shared;
using Walkdown.Storage;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Recording;

/// <summary>The recorders of a job: what is planned, what each said, which events were made before cameras, and what their clips
/// prove.</summary>
public sealed class RecorderBook(Ledger ledger, CatalogueStore catalogue, TimeProvider time)
{
    /// <summary>All that is known of one recorder.</summary>
    /// <param name="Earlier">The earliest reading of its clock, as far back as one says how it runs, of the same unit; null: there is none
    /// but the last.</param>
    internal sealed record Known(
        Guid JobId,
        Guid Id,
        string Label,
        string Name,
        string Serial,
        ImmutableArray<PlannedChannel> Planned,
        RecorderReading? Reading,
        DateTimeOffset? ReadAt,
        ChannelMap Map,
        RecorderProofs Proofs,
        RecorderStore? Store,
        ClockRead? Earlier = null
    )
    {
        /// <summary>What the recorder said when somebody decided to change it.</summary>
        public string Seen =>
            Convert.ToHexStringLower(
                SHA256.HashData(
                    Encoding.UTF8.GetBytes(
                        string.Join('\n', (Reading?.Channels ?? []).Select(c => $"{c.Number}|{c.Name}|{c.Serial}|{c.Address}|{c.Input}"))
                    )
                )
            )[..16];
    }

    /// <summary>All recorders of a job, in the order of their labels; null: no such job.</summary>
    internal async Task<ImmutableArray<Known>?> Load(Guid jobId, Guid? only = null)
    {
        await using var db = ledger.OpenDb();
        if (!await db.Jobs.AnyAsync(j => j.Id == jobId))
            return null;
        var recorders = await db
            .Devices.Where(d => d.JobId == jobId && !d.Cancelled && (only == null || d.Id == only))
            .Where(d => db.Channels.Any(c => c.RecorderId == d.Id))
            .Select(d => new
            {
                d.Id,
                d.Label,
                d.Name,
            })
            .ToListAsync();
        var ids = recorders.ConvertAll(r => r.Id);
        var units = await UnitAtPlace.Of(db, jobId);
        var heads = (await db.Heads.Where(h => db.Devices.Any(d => d.Id == h.DeviceId && d.JobId == jobId)).ToListAsync())
            .GroupBy(h => h.DeviceId)
            .ToDictionary(g => g.Key, g => g.Count());
        var channels = (
            await db
                .Channels.Where(c => ids.Contains(c.RecorderId))
                .Join(
                    db.Devices.Where(d => !d.Cancelled),
                    c => c.Head.DeviceId,
                    d => d.Id,
                    (c, d) =>
                        new
                        {
                            c.Id,
                            c.RecorderId,
                            c.Number,
                            Head = c.Head.Number,
                            Device = d.Id,
                            d.Label,
                            d.Name,
                            d.Address,
                            d.Kind,
                            Area = d.Area.Name,
                        }
                )
                .ToListAsync()
        ).ToLookup(c => c.RecorderId);
        var labels = recorders.ConvertAll(r => r.Label);
        var own = db.Looks.Where(l => l.JobId == jobId && labels.Contains(l.Of));
        // All that was proven, however often; of what a recorder said, and of lists, the last.
        var since = time.GetUtcNow() - RecorderProofs.Lasts;
        var pressed = await Pressed(db, [.. channels.SelectMany(g => g).Select(c => c.Device).Distinct()], since);
        var made = (
            await own.Where(l => l.Kind == LookKind.Proofs || (l.Kind == LookKind.Events && l.At > since))
                .OrderBy(l => l.At)
                .ThenBy(l => l.Id)
                .ToListAsync()
        ).ToLookup(l => l.Of);
        var said = (
            await own.Where(l => l.Kind == LookKind.Recorder || l.Kind == LookKind.List)
                .OrderByDescending(l => l.At)
                .ThenByDescending(l => l.Id)
                .Select(l => new
                {
                    l.Id,
                    l.Of,
                    l.Kind,
                    l.At,
                })
                .ToListAsync()
        ).GroupBy(l => (l.Of, l.Kind)).Select(g => (g.Key, Last: g.First(), First: g.Last(l => l.At >= g.First().At - ClockDrift.Most))).ToList();
        var needed = said.SelectMany(s => s.Key.Kind == LookKind.Recorder ? new[] { s.Last.Id, s.First.Id } : [s.Last.Id]).ToHashSet();
        var looks = (await db.Looks.Where(l => needed.Contains(l.Id)).ToListAsync()).ToDictionary(l => l.Id);
        var last = said.ToDictionary(s => s.Key, s => looks[s.Last.Id]);
        var first = said.Where(s => s.Key.Kind == LookKind.Recorder && s.First.Id != s.Last.Id)
            .ToDictionary(s => s.Key.Of, s => looks[s.First.Id]);
        // The still of an event is a picture of its place; one that was erased is shown no more.
        var kept = (
            await db.Pictures.Where(p => p.JobId == jobId && !db.Erasures.Any(e => e.PictureId == p.Id)).Select(p => p.Id).ToListAsync()
        ).ToHashSet();
        var stores = await Stores(db, ids);
        return
        [
            .. recorders
                .OrderBy(r => r.Label, NaturalOrder.Instance)
                .Select(r =>
                {
                    ImmutableArray<PlannedChannel> planned =
                    [
                        .. channels[r.Id]
                            .OrderBy(c => c.Number)
                            .Select(c => new PlannedChannel(
                                c.Id,
                                c.Number,
                                c.Device,
                                c.Label,
                                c.Name,
                                c.Area,
                                c.Head,
                                heads.GetValueOrDefault(c.Device, 1),
                                units.GetValueOrDefault(c.Device).Serial ?? "",
                                units.GetValueOrDefault(c.Device).HardwareAddress ?? "",
                                c.Address ?? "",
                                catalogue.Catalogue.FeaturesOf(c.Kind, []).Contains("plates")
                            )),
                    ];
                    // One that nobody has asked may have a list that somebody exported.
                    var look = last.GetValueOrDefault((r.Label, LookKind.Recorder)) ?? last.GetValueOrDefault((r.Label, LookKind.List));
                    var reading =
                        look is null ? null
                        : look.Kind == LookKind.Recorder ? KeptNetwork.Recorder(look)
                        : RecorderReading.OfList(KeptNetwork.Registered(look));
                    var proofs = RecorderProofs.Of(
                        [
                            .. made[r.Label]
                                .SelectMany(l => KeptNetwork.Proven(l))
                                .Select(p => p.Still is { } still && !kept.Contains(still) ? p with { Still = null } : p),
                        ],
                        [
                            .. made[r.Label].SelectMany(l => KeptNetwork.Events(l)),
                            .. planned.SelectMany(p =>
                                pressed[p.Device].Select(e => new EventMade(p.Number, p.Device, p.Head, e.Way, e.At))
                            ),
                        ],
                        reading,
                        time.GetUtcNow()
                    );
                    return new Known(
                        jobId,
                        r.Id,
                        r.Label,
                        r.Name,
                        units.GetValueOrDefault(r.Id).Serial ?? "",
                        planned,
                        reading,
                        reading is null ? null : look!.At,
                        ChannelMap.Of(planned, reading?.Channels ?? []),
                        proofs,
                        stores.GetValueOrDefault(r.Id),
                        first.GetValueOrDefault(r.Label) is { } before
                        && KeptNetwork.Recorder(before) is { Clock: { } clock } then
                        && reading is { IsTyped: false }
                        && then.Serial == reading.Serial
                            ? new ClockRead(clock.OffsetSeconds, clock.UncertaintySeconds, before.At)
                            : null
                    );
                }),
        ];
    }

    /// <summary>Events that were pressed at the cameras and not taken back, by place.</summary>
    private static async Task<ILookup<Guid, EventPressed>> Pressed(WalkdownDb db, List<Guid> places, DateTimeOffset since)
    {
        // The sort of an entry is the first that is written of it.
        const string isEvent = "{\"kind\":\"event\"";
        const string isWithdrawal = "{\"kind\":\"withdrawal\"";
        var kept = (
            await db
                .CardEvents.Where(e => places.Contains(e.DeviceId))
                .Where(e => e.BodyJson.StartsWith(isEvent) || e.BodyJson.StartsWith(isWithdrawal))
                .ToListAsync()
        ).ConvertAll(e => (e.DeviceId, Entry: e.ToCore()));
        var withdrawn = kept.Select(e => e.Entry).OfType<Withdrawal>().Select(w => w.Of).ToHashSet();
        return kept.Where(e => e.Entry is EventPressed && e.Entry.At > since && !withdrawn.Contains(e.Entry.Id))
            .ToLookup(e => e.DeviceId, e => (EventPressed)e.Entry);
    }

    /// <summary>Events that were pressed at one camera, the last first, with what came of their clips; null: no such Card.</summary>
    internal async Task<PressedAnswer?> Pressed(Guid deviceId)
    {
        await using var db = ledger.OpenDb();
        if (await db.Devices.FirstOrDefaultAsync(d => d.Id == deviceId) is not { } device)
            return null;
        var recorders = await db.Channels.Where(c => c.Head.DeviceId == deviceId).Select(c => c.RecorderId).Distinct().ToListAsync();
        var known = new List<Known>();
        foreach (var recorder in recorders)
            known.AddRange(await Load(device.JobId, recorder) ?? []);
        var channels = known.SelectMany(k => k.Planned.Where(p => p.Device == deviceId).Select(p => (k.Proofs, p.Number))).ToList();
        var pressed = await Pressed(db, [deviceId], time.GetUtcNow() - RecorderProofs.Lasts);
        return new(
            known.Select(k => k.Label).FirstOrDefault() ?? "",
            [.. channels.Select(c => c.Number)],
            [
                .. pressed[deviceId]
                    .OrderByDescending(e => e.At)
                    .Take(MostPressed)
                    .Select(e => (Entry: e, Stands: EventStanding.Of(e.At, channels)))
                    .Select(e => new PressedLine(e.Entry.Id, e.Entry.At, e.Entry.Way, e.Stands.Waits, e.Stands.Proves)),
            ]
        );
    }

    /// <summary>So many of a camera's events are told, the last ones.</summary>
    private const int MostPressed = 6;

    /// <summary>What each recorder has and what was promised, as the last line of its Card says; what the Card judges of it is the
    /// Card's.</summary>
    private static async Task<Dictionary<Guid, RecorderStore?>> Stores(WalkdownDb db, List<Guid> recorders) =>
        (
            await db
                .Readings.Where(r => r.CheckId == RecorderStore.Row.Value && recorders.Contains(r.DeviceId))
                .OrderBy(r => r.Sequence)
                .Select(r => new { r.DeviceId, r.ValueJson })
                .ToListAsync()
        )
            .GroupBy(r => r.DeviceId)
            .ToDictionary(
                g => g.Key,
                g => Stored.Read<ReadingValue>(g.Last().ValueJson) is FormValue { Lines: [var line, ..] } ? RecorderStore.Of(line) : null
            );

    /// <summary>Keeps what a look brought.</summary>
    internal Task<bool> Keep(Guid jobId, string of, string by, params (LookKind Kind, object Found)[] looks) =>
        ledger.KeepLooks(jobId, of, by, time.GetUtcNow(), looks);

    /// <summary>Our clock against the server of time, as it was asked last, and when; null: never.</summary>
    internal async Task<(ClockReference Reference, DateTimeOffset At)?> Reference(Guid jobId)
    {
        await using var db = ledger.OpenDb();
        var look = await db
            .Looks.Where(l => l.JobId == jobId && l.Kind == LookKind.Clock)
            .OrderByDescending(l => l.At)
            .ThenByDescending(l => l.Id)
            .FirstOrDefaultAsync();
        return look is not null && KeptNetwork.Reference(look) is { } reference ? (reference, look.At) : null;
    }

    /// <summary>The server of time that the job's plan names; null: none.</summary>
    internal async Task<Ipv4Address?> TimeServer(Guid jobId)
    {
        await using var db = ledger.OpenDb();
        return await db.Jobs.FirstOrDefaultAsync(j => j.Id == jobId) is { } job
            ? Ipv4Address.Read(KeptNetwork.PlanOf(job)?.TimeServer)
            : null;
    }

    /// <summary>Event links of all plate cameras, as their Cards have them and among all; null: no such job.</summary>
    internal async Task<EventLinksAnswer?> Links(Guid jobId)
    {
        await using var db = ledger.OpenDb();
        if (!await db.Jobs.AnyAsync(j => j.Id == jobId))
            return null;
        var inForce = catalogue.Catalogue;
        var kinds = inForce.Kinds.Where(k => inForce.FeaturesOf(k.Id, []).Contains("plates")).Select(k => k.Id).ToList();
        var ids = await db.Devices.Where(d => d.JobId == jobId && !d.Cancelled && kinds.Contains(d.Kind)).Select(d => d.Id).ToListAsync();
        var cards = await CardFactsLoader.Load(db, ids, time.GetUtcNow());
        return new(
            EventLinks.OfSite(cards.Select(c => c.Facts).OrderBy(f => f.Place.Label, NaturalOrder.Instance), inForce),
            EventLink.RuleOf(inForce)?.Length
        );
    }

    /// <summary>What channels are held against.</summary>
    internal Catalogue Catalogue => catalogue.Catalogue;

    /// <summary>The limit of a recorder's clock, seconds.</summary>
    internal double ClockLimit => catalogue.Catalogue.Limit("time.offset")?.Max ?? 2;
}
