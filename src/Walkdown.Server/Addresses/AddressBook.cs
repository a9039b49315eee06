using System.Collections.Immutable;
using System.Net.NetworkInformation;
using System.Net.Sockets;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Addressing;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Measures;
using Walkdown.Core.Recording;
using Walkdown.Core.Register;
using Walkdown.Devices.Field;
using Walkdown.Server.Shared;
using Walkdown.Server.Walk;
using Walkdown.Storage;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Addresses;

/// <summary>The addresses of a job, as they are planned, found and registered.</summary>
public sealed class AddressBook(Ledger ledger, CatalogueStore catalogue, WalkBoards boards, FieldNetwork field, TimeProvider time)
{
    /// <summary>A look that is older than that before the newest is no part of the same work.</summary>
    private static readonly TimeSpan Together = TimeSpan.FromDays(3);
    private const int MostLooks = 200;

    /// <summary>A look that says: what was found before counts no more.</summary>
    public const string Anew = "anew";

    /// <summary>All that is known of a job's network.</summary>
    internal sealed record Known(
        NetworkPlan? Plan,
        NetworkPlan.Read? Made,
        AddressPolicy Policy,
        bool TwoWays,
        ImmutableArray<PlannedDevice> Planned,
        ImmutableArray<FoundDevice> Found,
        ImmutableArray<RegisteredDevice> Registered,
        ImmutableArray<LookLine> Looks,
        ImmutableArray<string> Recorders,
        AddressLedger Ledger,
        ImmutableArray<LedgerLine> Lines,
        NetworkStrip? Strip,
        bool IsSimulated,
        ImmutableHashSet<FoundBy> Tried,
        LeaseServers? Leases,
        PortTables? Ports
    );

    /// <summary>Everything; null where there is no such job.</summary>
    public async Task<NetworkLedger?> Answer(Guid jobId, bool canReadLists)
    {
        if (await Load(jobId) is not { } known)
            return null;
        var ladder = DiscoveryLadder.Of(known.Ledger, known.Tried, known.TwoWays, known.Plan?.Factory.Length ?? 0);
        var taken = known
            .Planned.Select(p => p.Address)
            .Concat(known.Found.Select(f => f.Address))
            .Concat(known.Registered.Select(r => r.Address))
            .Select(Ipv4Address.Read)
            .OfType<Ipv4Address>()
            .ToHashSet();
        return new NetworkLedger(
            known.Plan,
            [.. (known.Plan?.Check() ?? []).Select(w => new PlanTrouble(w.Field, w.Why))],
            known.Policy,
            known.TwoWays,
            known.Lines,
            known.Strip,
            known.Ledger.Network,
            known.Ledger.Ambiguous,
            known.Made is null ? null : ladder.Next,
            known.Made is null ? [] : ladder.Because,
            known.Made is { } made ? TesterAddress.Of(made, Cards(), taken, Ipv4Address.Read(known.Plan!.Tester)) : null,
            [.. known.Looks.Where(l => l.Of != Anew).Reverse().Take(20)],
            known.Recorders,
            known.Made is { } range ? (int)Math.Min(range.Subnet.UsableHosts, int.MaxValue) : 0,
            canReadLists,
            !known.Tried.IsEmpty,
            known.Ledger.Uncompared,
            known.Ledger.Rows.Any(r => r.IsAsMade),
            known.Leases,
            known.Ports
        );
    }

    /// <summary>A part of the rows with all that is known of them, or the one of a key; null where there is no such job.</summary>
    public async Task<LedgerRows?> Rows(Guid jobId, string? key, int skip, int take) =>
        await Load(jobId) is { } known
            ? new(known.Ledger.Rows.Length, [.. known.Ledger.Rows.Where(r => key is null || r.Key == key).Skip(skip).Take(take)])
            : null;

    /// <summary>Keeps the plan.</summary>
    /// <exception cref="Refusal">Something is wrong with it.</exception>
    public async Task<bool> Keep(Guid jobId, NetworkPlan plan)
    {
        if (plan.Check() is [var (_, why), ..])
            throw new Refusal(why);
        return await ledger.Change(
            jobId,
            "network",
            async (db, _) =>
            {
                if (await db.Jobs.AsTracking().FirstOrDefaultAsync(j => j.Id == jobId) is not { } job)
                    return (false, false);
                var json = JsonSerializer.Serialize(plan, CoreJson.Options);
                var differs = job.NetworkJson != json;
                job.NetworkJson = json;
                return (true, differs);
            }
        );
    }

    /// <summary>Keeps what a look brought.</summary>
    public Task<bool> Keep(Guid jobId, LookKind kind, string of, string by, object found) =>
        ledger.KeepLooks(jobId, of, by, time.GetUtcNow(), (kind, found));

    /// <summary>Addresses for those that have none, or for all, in the order of the walk.</summary>
    /// <exception cref="Refusal">No network is planned.</exception>
    public async Task<ImmutableArray<ProposedAddress>?> Propose(Guid jobId, ProposeRequest request)
    {
        if (await Load(jobId) is not { } known)
            return null;
        var made = known.Made ?? throw new Refusal(new("lan.none"));
        var order = await Order(jobId);
        HashSet<Guid>? within = null;
        if (request.Areas is { IsDefaultOrEmpty: false } areas)
            await using (var db = ledger.OpenDb())
                within = [.. await db.Devices.Where(d => d.JobId == jobId && areas.Contains(d.Area.Name)).Select(d => d.Id).ToListAsync()];
        var devices = known
            .Planned.OrderBy(p => order.GetValueOrDefault(p.Id, int.MaxValue))
            .ThenBy(p => p.Label, NaturalOrder.Instance)
            .ToList();
        bool Asks(PlannedDevice p) => (within is null || within.Contains(p.Id)) && (request.Anew || p.Address.Length == 0);
        // An address that cannot be read, or lies elsewhere, is no address to keep.
        bool Keeps(PlannedDevice p) => !Asks(p) && Ipv4Address.Read(p.Address) is { } own && made.Subnet.Contains(own);
        // What answers at an address that the plan does not know has it too.
        var strangers = known
            .Ledger.Rows.Where(r => r is { Planned: null, Found: not null })
            .Select(r => Ipv4Address.Read(r.Found!.Address))
            .OfType<Ipv4Address>();
        var tester = Ipv4Address.Read(known.Plan!.Tester);
        var result = AddressAllocation.Of(
            new(
                made.Subnet,
                made.Gateway,
                known.Plan.FirstHostOffset,
                made.Reserved,
                known.Plan.GapEvery,
                known.Plan.GapSize,
                made.Pool,
                [.. strangers, .. tester is { } own ? [own] : Array.Empty<Ipv4Address>()]
            ),
            [
                .. devices
                    .Where(p => Asks(p) || Keeps(p))
                    .Select(p => new AddressAllocation.Device(p.Id.ToString(), Keeps(p) ? p.Address : null)),
            ]
        );
        var given = result.Assigned.Where(a => !a.Kept).ToDictionary(a => Guid.Parse(a.Id), a => a.Address);
        return [.. devices.Where(Asks).Select(p => new ProposedAddress(p.Id, p.Label, p.Address, given.GetValueOrDefault(p.Id, "")))];
    }

    private async Task<Dictionary<Guid, int>> Order(Guid jobId) =>
        await boards.Of(jobId) is { } board
            ? board.Order.Select((s, i) => (s.Id, i)).GroupBy(s => s.Id).ToDictionary(g => g.Key, g => g.First().i)
            : [];

    /// <summary>What was put together last, as long as nothing was recorded since: of thousands of devices it takes longer than the
    /// answer.</summary>
    private sealed record Kept(Guid JobId, long Sequence, Catalogue InForce, Known Known);

    private volatile Kept? _kept;

    internal async Task<Known?> Load(Guid jobId)
    {
        await using var db = ledger.OpenDb();
        // The number before the rows: what is recorded between them is looked at again the next time.
        var sequence = await db.Journal.MaxAsync(j => (long?)j.Sequence) ?? 0;
        var inForce = catalogue.Catalogue;
        if (_kept is { } kept && kept.JobId == jobId && kept.Sequence == sequence && kept.InForce == inForce)
            return kept.Known;
        var known = await Load(db, jobId);
        _kept = known is null ? null : new(jobId, sequence, inForce, known);
        return known;
    }

    private async Task<Known?> Load(WalkdownDb db, Guid jobId)
    {
        if (await db.Jobs.FirstOrDefaultAsync(j => j.Id == jobId) is not { } job)
            return null;
        var inForce = catalogue.Catalogue;
        var plan = KeptNetwork.PlanOf(job);
        var made = plan?.Made;
        var practice = KeptPractice.Of(job);
        var school = inForce.FeaturesOf(practice, "").ToHashSet();
        var planned = await Planned(db, jobId);
        // Each is read once: of a large site it is megabytes.
        var looks = (await Looks(db, jobId))
            .Select(l =>
                (
                    Look: l,
                    Found: KeptNetwork.Found(l),
                    Listed: KeptNetwork.Registered(l),
                    Offers: KeptNetwork.Offers(l),
                    Learned: KeptNetwork.Learned(l)
                )
            )
            .ToList();
        var found = FoundDevices.Merge(looks.Where(l => l.Look.Kind == LookKind.Network).Select(l => l.Found.AsEnumerable()));
        // Of each recorder the list that was read last.
        var registered = looks
            .Where(l => l.Look.Kind == LookKind.List)
            .GroupBy(l => l.Look.Of, StringComparer.OrdinalIgnoreCase)
            .SelectMany(g => g.Last().Listed)
            .ToImmutableArray();
        var recorders = await db
            .Devices.Where(d => d.JobId == jobId && !d.Cancelled && db.Channels.Any(c => c.RecorderId == d.Id))
            .Select(d => d.Label)
            .ToListAsync();
        var policy = AddressSchools.PolicyOf(school);
        var tried = looks
            .Where(l => l.Look.Kind == LookKind.Network)
            .Select(l => Enum.TryParse<FoundBy>(l.Look.Of, true, out var way) ? way : (FoundBy?)null)
            .OfType<FoundBy>()
            .ToImmutableHashSet();
        var read = looks.Where(l => l.Look.Kind == LookKind.List).Select(l => l.Look.Of);
        var lists = recorders
            .ToImmutableDictionary(r => r, _ => false, StringComparer.OrdinalIgnoreCase)
            .SetItems(read.Select(r => KeyValuePair.Create(r, true)));
        var terms = new AddressLedger.Terms(made, policy, plan?.Factory ?? [], tried, lists);
        var rows = AddressLedger.Of(terms, planned, found, registered);
        var offers = looks.Where(l => l.Look.Kind == LookKind.Leases).Select(l => l.Offers).ToList();
        var leases =
            made is not null && offers is [.., var last] ? LeaseServers.Of(made, Ipv4Address.Read(plan!.LeaseServer), planned, last) : null;
        return new Known(
            plan,
            made,
            policy,
            AddressSchools.AsksTwoWays(school),
            planned,
            found,
            registered,
            [
                .. looks.Select(l => new LookLine(
                    l.Look.Id,
                    l.Look.Of,
                    l.Look.By,
                    l.Look.At,
                    l.Found.Length + l.Listed.Length + l.Offers.Length + l.Learned.Length,
                    l.Look.Kind
                )),
            ],
            [.. recorders.Order(NaturalOrder.Instance)],
            rows,
            [.. rows.Rows.Select(LedgerLine.Of)],
            made is null ? null : NetworkStrip.Of(plan!, made, rows),
            job.Simulated,
            tried,
            leases,
            looks.LastOrDefault(l => l.Look.Kind == LookKind.Ports).Learned is { IsDefaultOrEmpty: false } learned
                ? PortTables.Of(await SwitchLooks.Planned(db, jobId, planned), learned, rows.Strangers, leases?.Unplanned)
                : null
        );
    }

    /// <summary>The looks that belong together: those of the last days, from the last fresh beginning on; and of each recorder its last
    /// list, which outlives a fresh beginning at the network.</summary>
    private static async Task<ImmutableArray<NetworkLook>> Looks(WalkdownDb db, Guid jobId)
    {
        IQueryable<NetworkLook> Of(params LookKind[] kinds) =>
            db.Looks.Where(l => l.JobId == jobId && kinds.Contains(l.Kind)).OrderByDescending(l => l.At).ThenByDescending(l => l.Id);
        var all = await Of(LookKind.Network, LookKind.Leases, LookKind.Ports).Take(MostLooks).ToListAsync();
        var together = all.Count == 0 ? [] : all.TakeWhile(l => l.Of != Anew && l.At >= all[0].At - Together).ToList();
        // Of a recorder that is asked often many are kept, and one counts.
        var last = await Of(LookKind.List).Select(l => new { l.Id, l.Of }).ToListAsync();
        var lists = last.GroupBy(l => l.Of, StringComparer.OrdinalIgnoreCase).Select(g => g.First().Id).ToList();
        return
        [
            .. (await Of(LookKind.List).Where(l => lists.Contains(l.Id)).ToListAsync())
                .Concat(together)
                .OrderBy(l => l.At)
                .ThenBy(l => l.Id),
        ];
    }

    private async Task<ImmutableArray<PlannedDevice>> Planned(WalkdownDb db, Guid jobId)
    {
        var inForce = catalogue.Catalogue;
        var units = await UnitAtPlace.Of(db, jobId);
        async Task<Dictionary<Guid, ReadingValue?>> Last(string check) =>
            (
                await db
                    .Readings.Where(r => r.CheckId == check && db.Devices.Any(d => d.Id == r.DeviceId && d.JobId == jobId))
                    .OrderBy(r => r.Sequence)
                    .Select(r => new { r.DeviceId, r.ValueJson })
                    .ToListAsync()
            )
                .GroupBy(r => r.DeviceId)
                .ToDictionary(g => g.Key, g => Stored.Read<ReadingValue>(g.Last().ValueJson));
        var speeds = await Last("link.speed");
        var ends = await Last(EventLink.Row.Value);
        var devices = await db
            .Devices.Where(d => d.JobId == jobId && !d.Cancelled)
            .Select(d => new
            {
                d.Id,
                d.Label,
                d.Name,
                d.Kind,
                d.Model,
                d.Address,
            })
            .ToListAsync();
        ImmutableArray<LinkEnd> links =
        [
            .. from d in devices
            where ends.GetValueOrDefault(d.Id) is FormValue { Lines: [_, ..] }
            let server = Ipv4Address.Read(((FormValue)ends[d.Id]!).Lines[0].Of("server")?.Word?.Trim())
            where server is not null
            select new LinkEnd(d.Label, server.Value),
        ];
        var recorders = (
            await db
                .Channels.Where(c => c.Recorder.JobId == jobId && !c.Recorder.Cancelled)
                .Select(c => new { c.Head.DeviceId, c.Recorder.Label })
                .ToListAsync()
        ).ToLookup(c => c.DeviceId, c => c.Label);
        var features = devices.Select(d => d.Kind).Distinct().ToDictionary(k => k, k => inForce.FeaturesOf(k, []));
        return
        [
            .. from d in devices.OrderBy(d => d.Label, NaturalOrder.Instance)
            let own = features[d.Kind]
            where !string.IsNullOrEmpty(d.Address) || (own.Contains("camera") && !own.Contains("coax"))
            let unit = units.GetValueOrDefault(d.Id)
            select new PlannedDevice(
                d.Id,
                d.Label,
                d.Name,
                d.Address ?? "",
                unit.HardwareAddress ?? "",
                unit.Serial ?? "",
                inForce.Model(d.Model)?.Firmware ?? "",
                speeds.GetValueOrDefault(d.Id) is ChoiceValue speed ? speed.Choice != "none" : null,
                IsCamera: own.Contains("camera")
            )
            {
                Places = inForce.Model(d.Model)?.Surfaces ?? [],
                Links = links,
                Recorders = [.. recorders[d.Id]],
            },
        ];
    }

    /// <summary>The network cards of this machine; in the demo one that is as it should be.</summary>
    private ImmutableArray<NetworkCard> Cards()
    {
        if (field.OnLoopback)
            return [new("simulated", "10.46.8.254", 24, true)];
        try
        {
            return
            [
                .. NetworkInterface
                    .GetAllNetworkInterfaces()
                    .Where(c => c.NetworkInterfaceType is not NetworkInterfaceType.Loopback)
                    .SelectMany(c =>
                    {
                        var own = c.GetIPProperties()
                            .UnicastAddresses.Where(a => a.Address.AddressFamily == AddressFamily.InterNetwork)
                            .ToList();
                        var up = c.OperationalStatus == OperationalStatus.Up;
                        return own.Count == 0
                            ? [new NetworkCard(c.Name, "", 0, up)]
                            : own.Select(a => new NetworkCard(c.Name, a.Address.ToString(), a.PrefixLength, up));
                    }),
            ];
        }
        catch (NetworkInformationException)
        {
            return [];
        }
    }
}
