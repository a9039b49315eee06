using System.Collections.Immutable;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Cabling;
using Walkdown.Core.Measures;
using Walkdown.Storage.Entities;

namespace Walkdown.Storage;

/// <summary>The facts of one Card with what is written beside them.</summary>
/// <param name="People">Who may write, by id.</param>
/// <param name="SharesRunWith">Other places that hang on one of its runs.</param>
/// <param name="FaultWords">Words added to its Faults, in order.</param>
public sealed record LoadedCard(CardFacts Facts, Job Job, ImmutableHashSet<Guid> People, ImmutableArray<Guid> SharesRunWith, ImmutableArray<FaultStep> FaultWords);

/// <summary>Loads everything that one Card needs, and nothing else.</summary>
public static class CardFactsLoader
{
    private static readonly Func<WalkdownDb, Guid, Task<Device?>> DeviceById = EF.CompileAsyncQuery((WalkdownDb db, Guid id) =>
        db.Devices.AsNoTracking().Include(d => d.Area).FirstOrDefault(d => d.Id == id));

    private static readonly Func<WalkdownDb, Guid, Task<Job?>> JobById = EF.CompileAsyncQuery((WalkdownDb db, Guid id) => db.Jobs.AsNoTracking().FirstOrDefault(j => j.Id == id));

    private static readonly Func<WalkdownDb, Guid, Task<Installation?>> Installed = EF.CompileAsyncQuery((WalkdownDb db, Guid device) =>
        db.Installations.AsNoTracking().Include(i => i.Unit).Where(i => i.DeviceId == device && i.Until == null).FirstOrDefault());

    private static readonly Func<WalkdownDb, Guid, IAsyncEnumerable<Run>> RunsOf = EF.CompileAsyncQuery((WalkdownDb db, Guid device) =>
        db.Runs.AsNoTracking().Include(r => r.Ends).ThenInclude(e => e.Port!.Cabinet).Where(r => r.Ends.Any(e => e.DeviceId == device)).OrderBy(r => r.Label).AsQueryable());

    private static readonly Func<WalkdownDb, Guid, IAsyncEnumerable<Head>> HeadsOf = EF.CompileAsyncQuery((WalkdownDb db, Guid device) =>
        db.Heads.AsNoTracking().Where(h => h.DeviceId == device).OrderBy(h => h.Number).AsQueryable());

    private static readonly Func<WalkdownDb, Guid, IAsyncEnumerable<Channel>> ChannelsOf = EF.CompileAsyncQuery((WalkdownDb db, Guid device) =>
        db.Channels.AsNoTracking().Include(c => c.Recorder).Where(c => c.Head.DeviceId == device).OrderBy(c => c.Number).AsQueryable());

    private static readonly Func<WalkdownDb, Guid, IAsyncEnumerable<InstrumentRecord>> InstrumentsOf = EF.CompileAsyncQuery((WalkdownDb db, Guid job) =>
        db.Instruments.AsNoTracking().Where(i => i.JobId == job));

    private static readonly Func<WalkdownDb, Guid, IAsyncEnumerable<Fault>> FaultsOf = EF.CompileAsyncQuery((WalkdownDb db, Guid device) =>
        db.Faults.AsNoTracking().Where(f => f.DeviceId == device));

    /// <summary>The facts, or null where no such place is on record.</summary>
    public static async Task<LoadedCard?> Load(WalkdownDb db, Guid deviceId, DateTimeOffset now)
    {
        if (await DeviceById(db, deviceId) is not { } device) return null;
        var job = (await JobById(db, device.JobId))!;
        var installation = await Installed(db, deviceId);
        var runs = await List(RunsOf(db, deviceId));
        var runIds = runs.Select(r => r.Id).ToList();
        // Readings and acts of a run that two devices share belong to both Cards.
        var readings = await db.Readings.Where(r => r.DeviceId == deviceId || runIds.Contains(r.SubjectId)).ToListAsync();
        var events = await db.CardEvents.Where(e => e.DeviceId == deviceId || (e.SubjectId != null && runIds.Contains(e.SubjectId.Value))).ToListAsync();
        var facts = new CardFacts
        {
            Place = new PlaceFacts(device.Id, device.Label, device.Name, device.Area.Name, device.Kind, device.Model,
                [.. device.Features.Split(' ', StringSplitOptions.RemoveEmptyEntries)], device.PowerClass, device.WattsInfraredOff, device.WattsInfraredOn, device.SpeedMbps,
                device.Address, device.HeightMetres),
            Unit = installation is null ? null : new UnitFacts(installation.UnitId, installation.Unit.Serial, installation.Unit.HardwareAddress, installation.From),
            Heads = [.. (await List(HeadsOf(db, deviceId))).Select(h => new HeadFacts(h.Id, h.Number))],
            Runs = [.. runs.Select(run => RunOf(run, job))],
            Channels = [.. (await List(ChannelsOf(db, deviceId))).Select(c => new ChannelFacts(c.Id, c.Recorder.Label, c.Number))],
            Practice = new Practice(job.Rule, job.Scheme),
            Instruments = [.. (await List(InstrumentsOf(db, job.Id))).Select(ToCore)],
            Readings = [.. readings.Select(r => r.ToCore())],
            Events = [.. events.Select(e => e.ToCore())],
            Faults = [.. (await List(FaultsOf(db, deviceId))).Select(f => f.ToCore())],
            Now = now,
        };
        var faultIds = facts.Faults.Select(f => f.Id).ToList();
        var words = faultIds.Count == 0 ? [] : await db.FaultSteps.Where(s => faultIds.Contains(s.FaultId)).OrderBy(s => s.Sequence).ToListAsync();
        var others = runs.SelectMany(r => r.Ends).Select(e => e.DeviceId).OfType<Guid>().Where(id => id != deviceId).Distinct();
        var people = await db.People.Where(p => p.JobId == job.Id).Select(p => p.Id).ToListAsync();
        return new LoadedCard(facts, job, [.. people], [.. others], [.. words]);
    }

    public static Instrument ToCore(InstrumentRecord i) => new(
        i.Id, i.Name, i.Serial, JsonSerializer.Deserialize<ImmutableDictionary<Core.Measures.Unit, Accuracy>>(i.AccuracyJson, CoreJson.Options)!, i.CalibratedOn, i.CalibrationDue);

    private static RunFacts RunOf(Run run, Job job)
    {
        var port = run.Ends.FirstOrDefault(e => e.Port is not null)?.Port;
        return new RunFacts(run.Id, run.Label, run.Configuration, new(run.LengthMetres, Origin.Planned), new(run.GaugeAwg, Origin.Planned), new(run.Material, Origin.Planned),
            run.Screened, run.TemperatureC is { } t ? new(t, Origin.Planned) : new(20, Origin.Assumed), run.CordsMetres, run.CordGaugeAwg, run.Scheme ?? job.Scheme,
            port is null ? null : new PortFacts(port.Id, port.Cabinet.Label, port.Number, new(port.SourceVolts, Origin.Planned), port.SpeedMbps));
    }

    private static async Task<List<T>> List<T>(IAsyncEnumerable<T> rows)
    {
        var list = new List<T>();
        await foreach (var row in rows) list.Add(row);
        return list;
    }
}
