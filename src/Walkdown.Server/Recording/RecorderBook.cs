using System.Collections.Immutable;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Addressing;
using Walkdown.Core.Clocks;
using Walkdown.Core.Measures;
using Walkdown.Core.Recording;
using Walkdown.Core.Register;
using Walkdown.Server.Shared;
using Walkdown.Storage;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Recording;

/// <summary>The recorders of a job: what is planned, what each said, which events were made before cameras, and what their clips prove.</summary>
public sealed class RecorderBook(Ledger ledger, CatalogueStore catalogue, TimeProvider time)
{
    private const int MostLooks = 400;

    /// <summary>An event that nobody looked for so long is another day's.</summary>
    private static readonly TimeSpan Lasts = TimeSpan.FromDays(2);

    /// <summary>All that is known of one recorder.</summary>
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
        ImmutableArray<ProvenEvent> Proven,
        ImmutableArray<EventMade> Pending,
        ImmutableArray<DateTimeOffset> Restarts,
        ImmutableDictionary<int, ChannelProof> Proofs,
        RecorderStore? Store
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
        var units = (
            await db
                .Installations.Where(i => i.Until == null && i.Unit.JobId == jobId)
                .Select(i => new
                {
                    i.DeviceId,
                    i.Unit.Serial,
                    i.Unit.HardwareAddress,
                })
                .ToListAsync()
        ).GroupBy(u => u.DeviceId).ToDictionary(g => g.Key, g => g.First());
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
        var looks = (
            await db
                .Looks.Where(l => l.JobId == jobId && labels.Contains(l.Of))
                .Where(l =>
                    l.Kind == LookKind.Recorder || l.Kind == LookKind.Events || l.Kind == LookKind.Proofs || l.Kind == LookKind.List
                )
                .OrderByDescending(l => l.At)
                .ThenByDescending(l => l.Id)
                .Take(MostLooks)
                .ToListAsync()
        )
            .AsEnumerable()
            .Reverse()
            .ToLookup(l => l.Of);
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
                                units.GetValueOrDefault(c.Device)?.Serial ?? "",
                                units.GetValueOrDefault(c.Device)?.HardwareAddress ?? "",
                                c.Address ?? "",
                                catalogue.Catalogue.FeaturesOf(c.Kind, []).Contains("plates")
                            )),
                    ];
                    var own = looks[r.Label].ToList();
                    var readings = own.Where(l => l.Kind == LookKind.Recorder)
                        .Select(l => (Look: l, Reading: KeptNetwork.Recorder(l)))
                        .Where(l => l.Reading is not null)
                        .ToList();
                    var proven = own.SelectMany(l => KeptNetwork.Proven(l))
                        // Of several looks for one event the last one counts.
                        .GroupBy(p => (p.Channel, p.EventAt))
                        .Select(g => g.LastOrDefault(p => p.Proof?.Proves is not null) ?? g.Last())
                        .Select(p => p.Still is { } still && !kept.Contains(still) ? p with { Still = null } : p)
                        .ToImmutableArray();
                    var done = proven.Where(p => p.Proof?.Proves is not null).Select(p => (p.Channel, p.EventAt)).ToHashSet();
                    var events = own.SelectMany(l => KeptNetwork.Events(l))
                        .Where(e => !done.Contains((e.Channel, e.At)) && e.At > time.GetUtcNow() - Lasts)
                        // Who pressed twice means the second.
                        .GroupBy(e => e.Channel)
                        .Select(g => g.MaxBy(e => e.At)!)
                        .Where(e => !done.Any(d => d.Channel == e.Channel && d.EventAt > e.At))
                        .OrderBy(e => e.Channel)
                        .ToImmutableArray();
                    var restarts = RestartsOf(readings.Select(l => l.Reading!.StartedAt));
                    // One that nobody has asked may have a list that somebody exported: it says who is registered, and nothing of what runs.
                    var list = readings.Count > 0 ? null : own.LastOrDefault(l => l.Kind == LookKind.List);
                    var reading =
                        readings.Count > 0 ? readings[^1].Reading
                        : list is null ? null
                        : Exported(list);
                    return new Known(
                        jobId,
                        r.Id,
                        r.Label,
                        r.Name,
                        units.GetValueOrDefault(r.Id)?.Serial ?? "",
                        planned,
                        reading,
                        readings.Count > 0 ? readings[^1].Look.At : list?.At,
                        ChannelMap.Of(planned, reading?.Channels ?? []),
                        proven,
                        events,
                        restarts,
                        ChannelProof.Of(proven, restarts).ToImmutableDictionary(p => p.Channel),
                        stores.GetValueOrDefault(r.Id)
                    );
                }),
        ];
    }

    private static RecorderReading Exported(NetworkLook list) =>
        new(
            "",
            "",
            null,
            null,
            null,
            [],
            [
                .. KeptNetwork
                    .Registered(list)
                    .GroupBy(r => r.Channel)
                    .Select(g => g.First())
                    .Select(r => new RecorderChannel(r.Channel, r.Name, r.Serial, r.Mac, r.Address)),
            ],
            IsTyped: true
        );

    /// <summary>Starts that readings of one recorder tell of; each reads its clock anew, so that two may differ by a little.</summary>
    internal static ImmutableArray<DateTimeOffset> RestartsOf(IEnumerable<DateTimeOffset?> told)
    {
        var result = ImmutableArray.CreateBuilder<DateTimeOffset>();
        foreach (var at in told.OfType<DateTimeOffset>().Order())
            if (result.Count == 0 || (at - result[^1]).TotalSeconds > RecorderNotes.SameStart)
                result.Add(at);
        return result.ToImmutable();
    }

    /// <summary>What each recorder has and what was promised, as the last line of its Card says; what the Card judges of it is the Card's.</summary>
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

    /// <summary>Keeps what a look brought; a recorder's word of who is registered is its list, too.</summary>
    internal Task<bool> Keep(Guid jobId, string recorder, string by, LookKind kind, object what) =>
        ledger.Change(
            jobId,
            "network",
            (db, _) =>
            {
                var at = time.GetUtcNow();
                void Add(LookKind of, object found) =>
                    db.Add(
                        new NetworkLook
                        {
                            Id = Guid.CreateVersion7(),
                            JobId = jobId,
                            Kind = of,
                            Of = recorder,
                            By = by.Length > 120 ? by[..120] : by,
                            At = at,
                            FoundJson = JsonSerializer.Serialize(found, found.GetType(), CoreJson.Options),
                        }
                    );
                Add(kind, what);
                if (what is RecorderReading reading)
                    Add(
                        LookKind.List,
                        reading
                            .Channels.Where(c => c.State != ChannelState.Empty)
                            .Select(c => new RegisteredDevice(recorder, c.Number, c.Name, c.HardwareAddress, c.Serial, c.Address))
                            .ToImmutableArray()
                    );
                return Task.FromResult((true, true));
            }
        );

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

    /// <summary>The limit of a recorder's clock, seconds.</summary>
    internal double ClockLimit => catalogue.Catalogue.Limit("time.offset")?.Max ?? 2;
}
