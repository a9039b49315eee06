using System.Collections.Concurrent;
using System.Collections.Immutable;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Handover;
using Walkdown.Core.Measures;
using Walkdown.Core.Power;
using Walkdown.Core.Register;
using Walkdown.Server.Shared;
using Walkdown.Storage;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Power;

/// <summary>Budgets of a job: what every switch, injector and supply has left, and what falls out when it is gone.</summary>
public sealed class PowerService : IDisposable
{
    /// <summary>Measured watts by device and the catalogue that said which reading counts; gone as soon as anything that a Card is judged
    /// from is another.</summary>
    private readonly ConcurrentDictionary<Guid, (string Catalogue, double? Watts)> _measured = new();
    private readonly Ledger ledger;
    private readonly CatalogueStore catalogue;
    private readonly TimeProvider time;
    private long _touches;

    public PowerService(Ledger ledger, CatalogueStore catalogue, TimeProvider time)
    {
        (this.ledger, this.catalogue, this.time) = (ledger, catalogue, time);
        ledger.Touched += Forget;
    }

    public void Dispose() => ledger.Touched -= Forget;

    private void Forget(Guid? device)
    {
        Interlocked.Increment(ref _touches);
        if (device is { } one)
            _measured.TryRemove(one, out _);
        else
            _measured.Clear();
    }

    private sealed record Site(
        List<PowerSource> Sources,
        Dictionary<Guid, Cabinet> Cabinets,
        List<Port> Ports,
        ILookup<Guid, Device> OnPort,
        List<Device> Devices,
        HashSet<Guid> Shared,
        Dictionary<Guid, double> Measured,
        ILookup<string, Edition> Changes
    );

    public async Task<PowerAnswer> All(Guid jobId)
    {
        await using var db = ledger.OpenDb();
        var site = await LoadSite(db, jobId);
        return new PowerAnswer(
            [
                .. site
                    .Sources.Where(s => s.Kind != SourceKind.Supply)
                    .OrderBy(s => site.Cabinets.GetValueOrDefault(s.CabinetId ?? Guid.Empty)?.Label ?? "", NaturalOrder.Instance)
                    .ThenBy(s => s.Label, NaturalOrder.Instance)
                    .Select(s => SwitchOf(site, s.Id, Figures(s), null)),
            ],
            [
                .. site
                    .Sources.Where(s => s.Kind == SourceKind.Supply)
                    .OrderBy(s => s.Label, NaturalOrder.Instance)
                    .Select(s => SupplyOf(site, s.Id, Figures(s))),
            ]
        );
    }

    public async Task<PowerTrial> Try(Guid jobId, Guid sourceId, SourceRequest request)
    {
        await using var db = ledger.OpenDb();
        var site = await LoadSite(db, jobId, request.Figures);
        return request.Figures.Kind == SourceKind.Supply
            ? new PowerTrial(null, SupplyOf(site, sourceId, request.Figures))
            : new PowerTrial(SwitchOf(site, sourceId, request.Figures, request.Ports?.ToDictionary(p => p.PortId), request.More), null);
    }

    /// <summary>What the source of each port means for this device; empty where no port feeds it.</summary>
    public async Task<ImmutableArray<CardSource>?> SourcesOf(Guid deviceId)
    {
        await using var db = ledger.OpenDb();
        if (await db.Devices.AsNoTracking().FirstOrDefaultAsync(d => d.Id == deviceId) is not { } device)
            return null;
        var ports = await db
            .Ports.AsNoTracking()
            .Where(p => db.AtPorts().Any(a => a.PortId == p.Id && a.DeviceId == deviceId))
            .ToListAsync();
        var found = ImmutableArray.CreateBuilder<CardSource>();
        foreach (var port in ports)
        {
            var source = (
                await db.Sources.AsNoTracking().Where(s => s.CabinetId == port.CabinetId && s.Kind != SourceKind.Supply).ToListAsync()
            ).FirstOrDefault(s => Labels.Same(s.Label, port.Switch));
            if (source is null)
                continue;
            var figures = Figures(source);
            var sw = SwitchOf(await LoadSite(db, device.JobId, figures), source.Id, figures, null);
            if (sw.Ports.FirstOrDefault(p => p.PortId == port.Id) is not { Powered: true })
                continue;
            var (state, why) = SiteBudget.StandingOf(sw.Budget, port.Number);
            found.Add(new CardSource($"{sw.Cabinet} {figures.Label}".Trim(), port.Number, state, catalogue.Texts.Say(why)));
        }
        return found.ToImmutable();
    }

    /// <summary>The start-up order of a job, with the times that were taken.</summary>
    public async Task<StartAnswer> Start(Guid jobId)
    {
        await using var db = ledger.OpenDb();
        var job = await db.Jobs.AsNoTracking().FirstAsync(j => j.Id == jobId);
        var cabinets = await db
            .Cabinets.AsNoTracking()
            .Where(c => c.JobId == jobId)
            .Select(c => new StartCabinet(c.Id, c.Label, c.FedFromId))
            .ToListAsync();
        var devices = await db
            .Devices.AsNoTracking()
            .Where(d => d.JobId == jobId && !d.Cancelled)
            .Select(d => new
            {
                d.Id,
                d.Label,
                d.Kind,
                d.Model,
            })
            .ToListAsync();
        // A link that leads nowhere is none.
        var at = (
            await db.AtPorts()
                .Where(a => db.Runs.Any(r => r.Id == a.RunId && r.JobId == jobId))
                .Join(db.Ports, a => a.PortId, p => p.Id, (a, p) => new { a.DeviceId, p.CabinetId })
                .ToListAsync()
        )
            .DistinctBy(x => x.DeviceId)
            .ToDictionary(x => x.DeviceId, x => x.CabinetId);
        var timed = await db
            .Readings.Where(r => r.CheckId == KnownChecks.Boot.Value && db.Devices.Any(d => d.Id == r.DeviceId && d.JobId == jobId))
            .Select(r => r.DeviceId)
            .Distinct()
            .ToListAsync();
        var seconds = new Dictionary<Guid, double>();
        foreach (var some in timed.Chunk(250))
        foreach (var card in await CardFactsLoader.Load(db, some, time.GetUtcNow()))
        foreach (var (_, value) in Card.NumbersOf(card.Facts, catalogue.Catalogue, KnownChecks.Boot))
            seconds[card.Facts.Place.Id] = value;
        var switchFirst = catalogue.Catalogue.FeaturesOf(KeptPractice.Of(job), "").Contains(PracticeFeatures.SwitchFirst);
        return new StartAnswer(
            switchFirst,
            StartOrder.Of(
                cabinets,
                [
                    .. devices.Select(d => new StartDevice(
                        d.Id,
                        d.Label,
                        d.Kind,
                        d.Model,
                        at.TryGetValue(d.Id, out var c) ? c : null,
                        seconds.TryGetValue(d.Id, out var s) ? s : null
                    )),
                ],
                switchFirst,
                catalogue.Catalogue
            )
        );
    }

    /// <param name="only">One source: nothing beyond what hangs on it is asked for.</param>
    private async Task<Site> LoadSite(WalkdownDb db, Guid jobId, SourceFigures? only = null)
    {
        var ports = await db
            .Ports.AsNoTracking()
            .Where(p =>
                only != null
                    ? p.CabinetId == only.CabinetId && p.Switch == only.Label
                    : db.Cabinets.Any(c => c.Id == p.CabinetId && c.JobId == jobId)
            )
            .ToListAsync();
        var portIds = ports.Select(p => p.Id).ToList();
        var runIds = only is null
            ? []
            : await db.RunEnds.Where(e => e.PortId != null && portIds.Contains(e.PortId.Value)).Select(e => e.RunId).ToListAsync();
        var ends = await db
            .RunEnds.AsNoTracking()
            .Where(e => only == null ? db.Runs.Any(r => r.Id == e.RunId && r.JobId == jobId) : runIds.Contains(e.RunId))
            .ToListAsync();
        var hanging = ends.Select(e => e.DeviceId).OfType<Guid>().ToList();
        var devices = await db
            .Devices.AsNoTracking()
            .Where(d =>
                d.JobId == jobId
                && !d.Cancelled
                && (only == null || (only.Kind == SourceKind.Supply ? d.Supply == only.Label : hanging.Contains(d.Id)))
            )
            .ToListAsync();
        var byId = devices.ToDictionary(d => d.Id);
        var shared = ends.Where(e => e.DeviceId is not null && byId.ContainsKey(e.DeviceId.Value))
            .GroupBy(e => e.RunId)
            .Where(g => g.Select(e => e.DeviceId).Distinct().Count() > 1)
            .Select(g => g.Key)
            .ToHashSet();
        foreach (
            var run in await db
                .Runs.AsNoTracking()
                .Where(r =>
                    r.JobId == jobId
                    && (only == null || runIds.Contains(r.Id))
                    && r.PiecesJson != null
                    && r.PiecesJson.Contains("sharingAdapter")
                )
                .Select(r => r.Id)
                .ToListAsync()
        )
            shared.Add(run);
        var portEnds = ends.Where(e => e.PortId is not null).ToLookup(e => e.RunId);
        var pairs = ends.Where(e => e.DeviceId is not null && byId.ContainsKey(e.DeviceId.Value))
            .Select(e => (Port: portEnds[e.RunId].PortEndOf(e.DeviceId!.Value)?.PortId, Device: byId[e.DeviceId!.Value], e.RunId))
            .Where(p => p.Port is not null)
            .Select(p => (Port: p.Port!.Value, p.Device, p.RunId))
            .ToList();
        return new Site(
            await RegisterDamage.Blank(
                db,
                await db.Sources.AsNoTracking().Where(s => s.JobId == jobId && (only == null || s.Label == only.Label)).ToListAsync()
            ),
            await db.Cabinets.AsNoTracking().Where(c => c.JobId == jobId).ToDictionaryAsync(c => c.Id),
            ports,
            pairs.ToLookup(p => p.Port, p => p.Device),
            devices,
            [.. pairs.Where(p => shared.Contains(p.RunId)).Select(p => p.Device.Id)],
            await Measured(db, jobId, only is null ? null : [.. byId.Keys]),
            (await db.Editions.AsNoTracking().Where(e => e.Of.StartsWith("source:")).ToListAsync()).ToLookup(e => e.Of)
        );
    }

    /// <summary>Which readings count is derived from the events, so each Card that has one is asked; a Card that did not change since is
    /// not asked again.</summary>
    private async Task<Dictionary<Guid, double>> Measured(WalkdownDb db, Guid jobId, IReadOnlyCollection<Guid>? only)
    {
        string[] checks = [KnownChecks.WattsAtPort.Value, KnownChecks.WattsAtDevice.Value];
        var read = await db
            .Readings.Where(r =>
                checks.Contains(r.CheckId)
                && (only == null ? db.Devices.Any(d => d.Id == r.DeviceId && d.JobId == jobId) : only.Contains(r.DeviceId))
            )
            .Select(r => r.DeviceId)
            .Distinct()
            .ToListAsync();
        if (read.Count == 0)
            return [];
        var inForce = catalogue.Catalogue;
        var found = new Dictionary<Guid, double?>();
        foreach (var id in read)
            if (_measured.TryGetValue(id, out var kept) && kept.Catalogue == inForce.Hash)
                found[id] = kept.Watts;
        var before = Interlocked.Read(ref _touches);
        foreach (var some in read.Where(id => !found.ContainsKey(id)).Chunk(250))
        foreach (var card in await CardFactsLoader.Load(db, some, time.GetUtcNow()))
            found[card.Facts.Place.Id] = SiteBudget.MeasuredWatts(card.Facts, inForce);
        // What changed while it was loaded is not kept.
        if (before == Interlocked.Read(ref _touches))
            foreach (var (id, watts) in found)
                _measured[id] = (inForce.Hash, watts);
        return found.Where(f => f.Value is not null).ToDictionary(f => f.Key, f => f.Value!.Value);
    }

    private PowerSwitch SwitchOf(
        Site site,
        Guid id,
        SourceFigures f,
        IReadOnlyDictionary<Guid, PortChange>? changes,
        ImmutableArray<MoreCamera>? tried = null
    )
    {
        // A port whose number cannot be read has no place in the order; the bar above the page names it.
        var ports = site
            .Ports.Where(p => p.CabinetId == f.CabinetId && Labels.Same(p.Switch, f.Label) && p.Number > 0)
            .OrderBy(p => p.Number)
            .ToList();
        var loads = ports
            .Select(p =>
            {
                var device = site.OnPort[p.Id].OrderBy(d => d.Label, NaturalOrder.Instance).FirstOrDefault();
                var change = changes?.GetValueOrDefault(p.Id);
                return (
                    Port: p,
                    Device: device,
                    Load: PortLoad.Of(
                        catalogue.Catalogue,
                        p.Id,
                        p.Number,
                        change?.Priority ?? p.Priority.Or(PortPriority.Low),
                        change?.Uplink ?? p.Uplink,
                        device is null ? null : CardFactsLoader.PlaceOf(device, ""),
                        device is not null && site.Measured.TryGetValue(device.Id, out var w) ? w : null,
                        device?.Supply is not null,
                        device is not null && site.Shared.Contains(device.Id)
                    )
                );
            })
            .ToList();
        var more = SiteBudget.More([.. loads.Select(l => l.Load)], tried ?? []);
        loads.RemoveAll(l => more.Any(m => m.Number == l.Port.Number));
        var budget = SiteBudget.Of(f.BudgetWatts, f.ReservePercent, f.PortLimitWatts, [.. loads.Select(l => l.Load), .. more]);
        var cabinet = site.Cabinets.GetValueOrDefault(f.CabinetId ?? Guid.Empty)?.Label ?? "";
        return new PowerSwitch(
            id,
            cabinet,
            f,
            budget,
            [
                .. loads
                    .Select(l => (l.Load, l.Device))
                    .Concat(more.Select(m => (Load: m, Device: (Device?)null)))
                    .Select(l => new PowerPort(
                        l.Load.PortId,
                        l.Load.Number,
                        l.Device?.Id,
                        l.Load.Label,
                        l.Device?.Name ?? "",
                        l.Load.PowerClass,
                        l.Load.PlannedWatts,
                        l.Load.MeasuredWatts,
                        l.Load.Priority,
                        l.Load.Uplink,
                        l.Load.Powered,
                        budget.ByClass.Refused.Contains(l.Load.Number),
                        budget.ByDraw.Refused.Contains(l.Load.Number),
                        [.. budget.Findings.Where(x => x.Port == l.Load.Number).Select(x => catalogue.Texts.Say(x.What))]
                    )),
            ],
            Changes(site, id),
            SumTrace.Budget(
                $"{cabinet} {f.Label}".Trim(),
                f.BudgetWatts,
                f.ReservePercent,
                budget,
                catalogue.Catalogue.Figure("expect.draw-percent")
            )
        );
    }

    private PowerSupply SupplyOf(Site site, Guid id, SourceFigures f)
    {
        var source = new PowerSource { Id = id, Label = site.Sources.FirstOrDefault(s => s.Id == id)?.Label ?? f.Label };
        Apply(f, source);
        var devices = site.Devices.Where(d => Labels.Same(source.Label, d.Supply)).ToDictionary(d => d.Id);
        var facts = CardFactsLoader.FactsOf(source, devices.Values);
        var run = SupplyRun.Of(facts, catalogue.Catalogue, null);
        return new PowerSupply(
            id,
            f,
            run.Limit?.Min,
            run.Limit?.Max,
            run.Solved,
            run.SupplyAmperes,
            run.Loading?.UsableAmperes,
            run.Loading?.SupplyOk,
            run.Loading?.Fuse ?? FuseVerdict.NotChecked,
            run.LongestMetres,
            [
                .. facts.Taps.Select(
                    (tap, i) =>
                        new PowerTap(
                            tap.DeviceId,
                            tap.Label,
                            devices[tap.DeviceId].Name,
                            tap.Metres,
                            devices[tap.DeviceId].SupplyMetres is not null,
                            run.Watts[i],
                            run.Solved ? run.Volts[i] : null,
                            run.OutOfRange.Contains(i)
                        )
                ),
            ],
            Changes(site, id),
            SumTrace.Budget(f.Label, facts, run, catalogue.Catalogue.Figure("supply.derating"))
        );
    }

    /// <summary>What a source can give, onto the record of it. Where it stands and what it is called is the register's word.</summary>
    public static void Apply(SourceFigures f, PowerSource source)
    {
        (source.Kind, source.Model, source.Mode, source.BudgetWatts, source.ReservePercent, source.PortLimitWatts) = (
            f.Kind,
            f.Model,
            f.Mode,
            f.BudgetWatts,
            f.ReservePercent,
            f.PortLimitWatts
        );
        (source.Range, source.Volts, source.RegulationPercent, source.RatedAmperes, source.FuseAmperes, source.CableAmperes) = (
            f.Range,
            f.Volts,
            f.RegulationPercent,
            f.RatedAmperes,
            f.FuseAmperes,
            f.CableAmperes
        );
        (source.WireGaugeAwg, source.WireAreaMm2, source.TemperatureC) = (f.WireGaugeAwg, f.WireAreaMm2, f.TemperatureC);
    }

    public static string EditionOf(Guid sourceId) => $"source:{sourceId}";

    private static ImmutableArray<SourceChange> Changes(Site site, Guid id) =>
        [.. site.Changes[EditionOf(id)].OrderBy(e => e.Version).Select(e => new SourceChange(e.Version, e.By, e.Why, e.At))];

    public static SourceFigures Figures(PowerSource s) =>
        new(
            s.Kind.Or(SourceKind.Switch),
            s.CabinetId,
            s.Label,
            s.Model,
            s.Mode.Or(SourceMode.Standard),
            s.BudgetWatts,
            s.ReservePercent,
            s.PortLimitWatts,
            s.Range.Or(SupplyRange.V12Dc),
            s.Volts,
            s.RegulationPercent,
            s.RatedAmperes,
            s.FuseAmperes,
            s.CableAmperes,
            s.WireGaugeAwg,
            s.WireAreaMm2,
            s.TemperatureC
        );
}
