using System.Collections.Immutable;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Cabling;
using Walkdown.Core.Clocks;
using Walkdown.Core.Entries;
using Walkdown.Core.Measures;
using Walkdown.Core.Power;
using Walkdown.Core.Register;
using Walkdown.Storage.Entities;

namespace Walkdown.Storage;

/// <summary>A value that was built otherwise than planned; null: not there.</summary>
/// <param name="Field">Column of the register.</param>
public sealed record PlanDifference(string Field, string? Planned, string? AsBuilt, string? Why, Guid? By, DateTimeOffset? At);

/// <summary>The facts of one Card with what is written beside them.</summary>
/// <param name="People">Who may write, by id.</param>
/// <param name="SharesRunWith">Other places that hang on one of its runs.</param>
/// <param name="Reaches">Every other place whose Card leans on this one: on its runs, on its supply, and at a recorder those on its
/// channels.</param>
/// <param name="Serves">Those on its channels: none but a recorder has any.</param>
/// <param name="FaultWords">Words added to its Faults, in order.</param>
/// <param name="Values">The register's row of this device, by column.</param>
/// <param name="Differences">Where it is built otherwise than planned.</param>
/// <param name="Changes">Every change of the row, oldest first.</param>
/// <param name="Notes">From columns that the register does not know.</param>
public sealed record LoadedCard(
    CardFacts Facts,
    Job Job,
    ImmutableDictionary<Guid, DateTimeOffset?> People,
    ImmutableArray<Guid> SharesRunWith,
    ImmutableArray<Guid> Reaches,
    ImmutableArray<Guid> Serves,
    ImmutableArray<FaultWord> FaultWords,
    IReadOnlyDictionary<string, string> Values,
    ImmutableArray<PlanDifference> Differences,
    ImmutableArray<RegisterChange> Changes,
    ImmutableDictionary<string, string> Notes,
    bool Cancelled,
    bool AddedOnSite
);

/// <summary>What all Cards of a job share.</summary>
/// <param name="People">With when they left; null: they are here.</param>
public sealed record JobFacts(Job Job, ImmutableArray<Instrument> Instruments, ImmutableDictionary<Guid, DateTimeOffset?> People);

/// <summary>Loads everything that Cards need, and nothing else.</summary>
public static class CardFactsLoader
{
    private static readonly ImmutableDictionary<string, string> None = ImmutableDictionary<string, string>.Empty;

    /// <summary>The facts, or null where no such place is on record.</summary>
    public static async Task<LoadedCard?> Load(WalkdownDb db, Guid deviceId, DateTimeOffset now, Func<Guid, JobFacts?>? known = null) =>
        (await Load(db, [deviceId], now, known)).FirstOrDefault();

    /// <summary>The facts of several places of one job, in no order; unknown ids are left out.</summary>
    /// <param name="known">What is known of a job already; it is loaded where this gives none.</param>
    public static async Task<List<LoadedCard>> Load(
        WalkdownDb db,
        IReadOnlyCollection<Guid> deviceIds,
        DateTimeOffset now,
        Func<Guid, JobFacts?>? known = null
    )
    {
        var devices = await db.Devices.Include(d => d.Area).Where(d => deviceIds.Contains(d.Id)).ToListAsync();
        if (devices.Count == 0)
            return [];
        if ((known?.Invoke(devices[0].JobId) ?? await LoadJob(db, devices[0].JobId)) is not var (job, instruments, people))
            return [];
        var installed = (await db.Installations.Include(i => i.Unit).Where(i => deviceIds.Contains(i.DeviceId)).ToListAsync()).ToLookup(i =>
            i.DeviceId
        );
        // By way of the indices: a run is found by its ends, a channel by its head.
        var runsHere = await db
            .RunEnds.Where(e => e.DeviceId != null && deviceIds.Contains(e.DeviceId.Value))
            .Select(e => e.RunId)
            .Distinct()
            .ToListAsync();
        var runs = await db.Runs.Where(r => runsHere.Contains(r.Id)).OrderBy(r => r.Label).ToListAsync();
        var runById = runs.ToDictionary(r => r.Id);
        var ends = await db.RunEnds.Where(e => runsHere.Contains(e.RunId)).ToListAsync();
        var portIds = ends.Select(e => e.PortId).OfType<Guid>().Distinct().ToList();
        var ports = await db.Ports.Include(p => p.Cabinet).Where(p => portIds.Contains(p.Id)).ToDictionaryAsync(p => p.Id);
        foreach (var end in ends)
        {
            if (end.PortId is { } portId)
                end.Port = ports.GetValueOrDefault(portId);
            runById.GetValueOrDefault(end.RunId)?.Ends.Add(end);
        }
        var runsOf = runs.SelectMany(r => r.Ends.Where(e => e.DeviceId is not null).Select(e => (Device: e.DeviceId!.Value, Run: r)))
            .ToLookup(p => p.Device, p => p.Run);
        var runIds = runs.Select(r => r.Id).ToList();
        var heads = (await db.Heads.Where(h => deviceIds.Contains(h.DeviceId)).OrderBy(h => h.Number).ToListAsync()).ToLookup(h =>
            h.DeviceId
        );
        var headIds = heads.SelectMany(h => h).Select(h => h.Id).ToList();
        var channelsHere = await db.Channels.Where(c => headIds.Contains(c.HeadId)).OrderBy(c => c.Number).ToListAsync();
        var recorderIds = channelsHere.Select(c => c.RecorderId).Distinct().ToList();
        var recorders = await db.Devices.Where(d => recorderIds.Contains(d.Id)).ToDictionaryAsync(d => d.Id);
        var headById = heads.SelectMany(h => h).ToDictionary(h => h.Id);
        // Whose recorder is not on record any more is told as damaged.
        channelsHere.RemoveAll(c => !recorders.ContainsKey(c.RecorderId));
        foreach (var channel in channelsHere)
            (channel.Recorder, channel.Head) = (recorders[channel.RecorderId], headById[channel.HeadId]);
        var channels = channelsHere.ToLookup(c => c.Head.DeviceId);
        // Readings and acts of a run that two devices share belong to both Cards.
        var readings = await db.Readings.Where(r => deviceIds.Contains(r.DeviceId)).ToListAsync();
        var events = await db.CardEvents.Where(e => deviceIds.Contains(e.DeviceId)).ToListAsync();
        var elsewhere = runs.SelectMany(r => r.Ends).Select(e => e.DeviceId).OfType<Guid>().Any(id => !deviceIds.Contains(id));
        if (elsewhere)
        {
            readings.AddRange(await db.Readings.Where(r => runIds.Contains(r.SubjectId) && !deviceIds.Contains(r.DeviceId)).ToListAsync());
            events.AddRange(
                await db
                    .CardEvents.Where(e => e.SubjectId != null && runIds.Contains(e.SubjectId.Value) && !deviceIds.Contains(e.DeviceId))
                    .ToListAsync()
            );
        }
        // What was taken back of them at the other device is taken back here.
        List<CardEventRecord> withdrawn = [];
        if (elsewhere)
        {
            var neighbours = runs.SelectMany(r => r.Ends).Select(e => e.DeviceId).OfType<Guid>().Distinct().ToList();
            withdrawn =
            [
                .. (await db.CardEvents.Where(e => neighbours.Contains(e.DeviceId) && e.SubjectId == null).ToListAsync()).Where(e =>
                    e.ToCore() is Withdrawal
                ),
            ];
        }
        var supplies = await Supplies(db, devices);
        var sources = await SourcesOf(db, ports.Values);
        var feeds = KeptPractice.Of(job).Scope.IsFormer ? [] : await Feeds(db, ports.Values, sources, job, instruments, now);
        var firmware = await Recorders(db, recorders.Values, job, instruments, now);
        // Whoever has channels is a recorder, whatever its kind.
        var fed = (
            await db
                .Channels.Where(c => deviceIds.Contains(c.RecorderId))
                .Select(c => new Served(c.RecorderId, c.Head.DeviceId))
                .ToListAsync()
        ).ToLookup(c => c.RecorderId, c => c.DeviceId);
        var readingsByDevice = readings.ToLookup(r => r.DeviceId);
        var eventsByDevice = events.ToLookup(e => e.DeviceId);
        var damage = await RegisterDamage.Of(db);
        var readingsBySubject = readings.ToLookup(r => r.SubjectId);
        var eventsBySubject = events.Where(e => e.SubjectId is not null).ToLookup(e => e.SubjectId!.Value);
        var faults = (await db.Faults.Where(f => deviceIds.Contains(f.DeviceId)).ToListAsync()).ToLookup(f => f.DeviceId);
        var faultIds = faults.SelectMany(f => f).Select(f => f.Id).ToList();
        var words =
            faultIds.Count == 0
                ? []
                : await db
                    .FaultSteps.Where(s => faultIds.Contains(s.FaultId))
                    .OrderBy(s => s.Sequence)
                    .Select(s => new FaultWord(s.Id, s.FaultId, s.Text, s.By, s.At, s.Sequence))
                    .ToListAsync();
        var changes = (await db.RegisterChanges.Where(c => deviceIds.Contains(c.DeviceId)).OrderBy(c => c.Sequence).ToListAsync()).ToLookup(
            c => c.DeviceId
        );
        return
        [
            .. devices.Select(device =>
            {
                var unit = installed[device.Id].Where(i => i.Until is null).MaxBy(i => i.From);
                var own = runsOf[device.Id].ToList();
                var built = changes[device.Id].Where(c => c.AsBuilt).Select(c => c.Field).ToHashSet();
                var shared = own.SelectMany(r => r.Ends)
                    .Select(e => e.DeviceId)
                    .OfType<Guid>()
                    .Where(id => id != device.Id)
                    .Distinct()
                    .ToImmutableArray();
                // Readings of a run that others hang on are theirs too.
                List<ReadingRecord> taken =
                [
                    .. shared.IsEmpty
                        ? readingsByDevice[device.Id]
                        : readingsByDevice[device.Id].Concat(own.SelectMany(r => readingsBySubject[r.Id])).DistinctBy(r => r.Id),
                ];
                var facts = new CardFacts
                {
                    Place = PlaceOf(device, device.Area.Name),
                    Unit = unit is null ? null : UnitOf(unit),
                    Units = [.. installed[device.Id].OrderBy(i => i.From).Select(UnitOf)],
                    TimeZone = job.TimeZone,
                    Heads = [.. heads[device.Id].Select(h => new HeadFacts(h.Id, h.Number))],
                    Runs = [.. own.Select(run => RunOf(run, device.Id, job, built, sources, feeds, shared.Length > 0))],
                    Channels =
                    [
                        .. channels[device.Id]
                            .Select(c => new ChannelFacts(c.Id, c.Recorder.Label, c.Number, null)
                            {
                                RecorderFacts = firmware.GetValueOrDefault(c.RecorderId),
                            }),
                    ],
                    Supply = supplies.GetValueOrDefault(device.Id),
                    Practice = KeptPractice.Of(job),
                    Site = KeptSite.Of(job),
                    Instruments = instruments,
                    Readings = [.. taken.Where(r => !RecordShapes.IsLost(r)).Select(r => r.ToCore())],
                    Events = EventsOf(device.Id, own, shared, taken),
                    Faults = [.. faults[device.Id].Select(f => f.ToCore())],
                    Damaged = damage.Count == 0 ? [] : DamageOf(device),
                    Now = SiteTime.In(job.TimeZone, now),
                };
                var values = RegisterValues.Of(
                    device,
                    unit?.Unit,
                    own.FirstOrDefault(),
                    heads[device.Id].Count(),
                    [.. channels[device.Id]]
                );
                ImmutableArray<Guid> serves = [.. fed[device.Id].Distinct()];
                ImmutableArray<Guid> reaches =
                [
                    .. shared
                        .Concat(facts.Supply?.Taps.Select(t => t.DeviceId) ?? [])
                        .Concat(OnTheSameSource(facts))
                        .Concat(serves)
                        .Where(id => id != device.Id)
                        .Distinct(),
                ];
                return new LoadedCard(
                    facts,
                    job,
                    people,
                    shared,
                    reaches,
                    serves,
                    [.. words.Where(w => facts.Faults.Any(f => f.Id == w.FaultId))],
                    values,
                    RegisterValues.Differences(device, values, changes[device.Id]),
                    [.. changes[device.Id]],
                    RegisterValues.Read(device.NotesJson),
                    device.Cancelled,
                    changes[device.Id].Any(c => c is { Field: RegisterService.Standing, To: "added" })
                );
            }),
        ];

        ImmutableArray<CardEvent> EventsOf(Guid device, List<Run> own, ImmutableArray<Guid> shared, List<ReadingRecord> taken)
        {
            if (shared.IsEmpty)
                return [.. eventsByDevice[device].Select(e => e.ToCore()), .. RecordShapes.Lost(taken)];
            var mine = eventsByDevice[device]
                .Concat(own.SelectMany(r => eventsBySubject[r.Id]))
                .DistinctBy(e => e.Id)
                .Select(e => e.ToCore())
                .ToList();
            var known = taken.Select(r => r.Id).Concat(mine.Select(e => e.Id)).ToHashSet();
            return
            [
                .. mine,
                .. withdrawn
                    .Where(e => shared.Contains(e.DeviceId))
                    .Select(e => e.ToCore())
                    .OfType<Withdrawal>()
                    .Where(w => known.Contains(w.Of)),
                .. RecordShapes.Lost(taken),
            ];
        }

        ImmutableArray<DamagedRow> DamageOf(Device device)
        {
            var damaged = ImmutableArray.CreateBuilder<DamagedRow>();
            Add(SubjectKind.Place, device.Id, [device.Id]);
            foreach (var at in installed[device.Id])
                Add(SubjectKind.Place, at.UnitId, [at.Id, at.UnitId]);
            if (supplies.GetValueOrDefault(device.Id) is { } supply)
                Add(SubjectKind.Place, supply.Id, [supply.Id]);
            foreach (var run in runsOf[device.Id])
            {
                var port = run.Ends.PortEndOf(device.Id)?.Port;
                var fed = port is null ? null : sources.GetValueOrDefault((port.CabinetId, Labels.Fold(port.Switch)));
                Add(SubjectKind.Run, run.Id, [run.Id, .. run.Ends.Select(e => e.Id), port?.Id ?? run.Id, fed?.Id ?? run.Id]);
                if (run.Scheme is null && Cells([job.Id]).Contains($"Jobs.{nameof(Job.Scheme)}"))
                    damaged.Add(new(SubjectKind.Run, run.Id, $"Jobs.{nameof(Job.Scheme)}"));
            }
            foreach (var head in heads[device.Id])
                Add(SubjectKind.Head, head.Id, [head.Id]);
            foreach (var channel in channels[device.Id])
                Add(SubjectKind.Channel, channel.Id, [channel.Id, channel.RecorderId]);
            // A link that leads nowhere may have been of any that has none.
            if (!runsOf[device.Id].Any())
                Lost($"RunEnds.{nameof(RunEnd.DeviceId)}", $"RunEnds.{nameof(RunEnd.RunId)}", $"Runs.{nameof(Run.Id)}");
            if (!heads[device.Id].Any())
                Lost($"Heads.{nameof(Head.DeviceId)}", $"Heads.{nameof(Head.Id)}");
            if (!channels[device.Id].Any())
                Lost($"Channels.{nameof(Channel.HeadId)}", $"Channels.{nameof(Channel.RecorderId)}");
            if (!installed[device.Id].Any())
                Lost($"Installations.{nameof(Installation.DeviceId)}", $"Installations.{nameof(Installation.UnitId)}", "Units.Id");
            // The stricter rule stands in for one that is none; what was asked for is not known, and the Card says so.
            if (Cells([job.Id]).Where(c => c != $"Jobs.{nameof(Job.Scheme)}").ToList() is { Count: > 0 } practice)
                damaged.Add(new(SubjectKind.Unit, job.Id, string.Join(", ", practice)));
            return damaged.ToImmutable();

            IEnumerable<string> Cells(IEnumerable<Guid> rows) => rows.Distinct().SelectMany(row => damage.GetValueOrDefault(row, []));

            void Add(SubjectKind on, Guid id, IEnumerable<Guid> rows)
            {
                if (Cells(rows).ToList() is { Count: > 0 } cells)
                    damaged.Add(new(on, id, string.Join(", ", cells)));
            }

            void Lost(params string[] links)
            {
                if (damage.Values.SelectMany(c => c).Where(links.Contains).Distinct().ToList() is { Count: > 0 } cells)
                    damaged.Add(new(SubjectKind.Place, device.Id, string.Join(", ", cells)));
            }
        }
    }

    private sealed record Served(Guid RecorderId, Guid DeviceId);

    /// <summary>Null where there is no such job.</summary>
    public static async Task<JobFacts?> LoadJob(WalkdownDb db, Guid jobId) =>
        await db.Jobs.FirstOrDefaultAsync(j => j.Id == jobId) is not { } job
            ? null
            : new(
                job,
                await Instruments(db, jobId),
                (await db.People.Where(p => p.JobId == jobId).ToListAsync()).ToImmutableDictionary(
                    p => p.Id,
                    p => p.Left ? p.LeftAt ?? DateTimeOffset.MinValue : (DateTimeOffset?)null
                )
            );

    /// <summary>The instruments of a job with their reference checks.</summary>
    public static async Task<ImmutableArray<Instrument>> Instruments(WalkdownDb db, Guid jobId)
    {
        var checks = (await db.InstrumentChecks.Where(c => c.JobId == jobId).OrderBy(c => c.At).ToListAsync()).ToLookup(c =>
            c.InstrumentId
        );
        return
        [
            .. (await db.Instruments.Where(i => i.JobId == jobId).OrderBy(i => i.Name).ToListAsync()).Select(i => ToCore(i, checks[i.Id])),
        ];
    }

    public static Instrument ToCore(InstrumentRecord i, IEnumerable<InstrumentCheck> checks) =>
        new(
            i.Id,
            i.Name,
            i.Serial,
            FunctionsOf(i.AccuracyJson) ?? [],
            i.CalibratedOn,
            i.CalibrationDue,
            [.. checks.Where(c => !Damaged.Is(c.Unit)).Select(c => new FieldCheck(c.Unit, c.Reference, c.Reading, c.At))],
            Earlier(i.EarlierJson) ?? []
        )
        {
            Kind = i.Kind,
            Unreadable = FunctionsOf(i.AccuracyJson) is null || Earlier(i.EarlierJson) is null || checks.Any(c => Damaged.Is(c.Unit)),
            RetiredAt = i.Retired ? i.RetiredAt ?? DateTimeOffset.MinValue : null,
        };

    private static ImmutableArray<CalibrationPeriod>? Earlier(string json) =>
        Stored.Read<ImmutableArray<CalibrationPeriod>>(json) is { IsDefault: false } periods ? periods : null;

    /// <summary>Functions by range; the first edition kept one accuracy a unit. Null where they cannot be read, or cannot be.</summary>
    private static ImmutableArray<InstrumentFunction>? FunctionsOf(string json)
    {
        ImmutableArray<InstrumentFunction>? functions = json.StartsWith('{')
            ? Stored.Read<Dictionary<Unit, Accuracy>>(json)?.Select(a => new InstrumentFunction(a.Key, a.Value)).ToImmutableArray()
            : Stored.Read<ImmutableArray<InstrumentFunction>>(json);
        return functions is { IsDefault: false } some && Instrument.BadFunction(some) is null ? some : null;
    }

    /// <summary>The supply of each device that has one, with every device that hangs on its run.</summary>
    private static async Task<Dictionary<Guid, SupplyFacts>> Supplies(WalkdownDb db, List<Device> devices)
    {
        var named = devices.Select(d => d.Supply).OfType<string>().Distinct().ToList();
        if (named.Count == 0)
            return [];
        var jobId = devices[0].JobId;
        var supplies = (
            await db.Sources.Where(s => s.JobId == jobId && s.Kind == SourceKind.Supply && named.Contains(s.Label)).ToListAsync()
        )
            .DistinctBy(s => s.Label, Labels.Comparer)
            .ToDictionary(s => s.Label, Labels.Comparer);
        var taps = (
            await db.Devices.Where(d => d.JobId == jobId && d.Supply != null && named.Contains(d.Supply) && !d.Cancelled).ToListAsync()
        ).ToLookup(d => d.Supply!, Labels.Comparer);
        // A device that says it hangs on a supply does, also where nobody has said what that supply is.
        var facts = named
            .Distinct(Labels.Comparer)
            .ToDictionary(
                label => label,
                label =>
                    FactsOf(
                        supplies.GetValueOrDefault(label)
                            ?? new PowerSource
                            {
                                JobId = jobId,
                                Kind = SourceKind.Supply,
                                Label = label,
                            },
                        taps[label]
                    ),
                Labels.Comparer
            );
        return devices.Where(d => d.Supply is not null).ToDictionary(d => d.Id, d => facts[d.Supply!]);
    }

    /// <summary>A supply with the devices on its run. What nobody measured of it is assumed: 18 AWG, 20 degrees, ten metres; its volts are
    /// not.</summary>
    public static SupplyFacts FactsOf(PowerSource s, IEnumerable<Device> devices) =>
        new(
            s.Id,
            s.Label,
            s.Range.Or(SupplyRange.V12Dc),
            s.Volts is { } volts ? new Sourced<double>(volts, Origin.Planned) : null,
            s.RegulationPercent,
            s.RatedAmperes,
            s.FuseAmperes,
            s.CableAmperes,
            s.WireAreaMm2 is { } area ? new(AreaMm2: area) : new(s.WireGaugeAwg ?? 18),
            s.TemperatureC ?? 20,
            [
                .. devices
                    .OrderBy(d => d.SupplyMetres ?? 10)
                    .Select(d => new SupplyTap(
                        d.Id,
                        d.Label,
                        d.Kind,
                        d.Model,
                        d.SupplyMetres ?? 10,
                        d.WattsInfraredOff,
                        d.WattsInfraredOn
                    )),
            ]
        );

    /// <summary>The switch or injector of each port, by cabinet and name.</summary>
    private static async Task<Dictionary<(Guid, string), PowerSource>> SourcesOf(WalkdownDb db, IEnumerable<Port> ports)
    {
        var cabinets = ports.Select(p => p.CabinetId).Distinct().ToList();
        if (cabinets.Count == 0)
            return [];
        return (
            await db
                .Sources.Where(s => s.CabinetId != null && cabinets.Contains(s.CabinetId.Value) && s.Kind != SourceKind.Supply)
                .ToListAsync()
        )
            .DistinctBy(s => (s.CabinetId, s.Label))
            .DistinctBy(s => (s.CabinetId!.Value, Labels.Fold(s.Label)))
            .ToDictionary(s => (s.CabinetId!.Value, Labels.Fold(s.Label)));
    }

    /// <summary>Places that hang on a source of these, itself included: what one of them draws is the budget of all.</summary>
    internal static IEnumerable<Guid> OnTheSameSource(CardFacts facts) =>
        facts.Runs.SelectMany(r => r.Port?.Source?.Ports ?? []).Select(p => p.Device?.Place.Id).OfType<Guid>();

    /// <summary>Each source of these ports with all that hangs on it, and what was read of its draw.</summary>
    private static async Task<Dictionary<Guid, SourceFacts>> Feeds(
        WalkdownDb db,
        IReadOnlyCollection<Port> ports,
        Dictionary<(Guid, string), PowerSource> sources,
        Job job,
        ImmutableArray<Instrument> instruments,
        DateTimeOffset now
    )
    {
        var asked = ports
            .Select(p => sources.GetValueOrDefault((p.CabinetId, Labels.Fold(p.Switch))))
            .OfType<PowerSource>()
            .DistinctBy(s => s.Id)
            .ToList();
        if (asked.Count == 0)
            return [];
        var cabinets = asked.Select(s => s.CabinetId).ToList();
        var all = await db.Ports.Include(p => p.Cabinet).Where(p => cabinets.Contains(p.CabinetId) && p.Number > 0).ToListAsync();
        var portIds = all.Select(p => p.Id).ToList();
        var runIds = await db
            .RunEnds.Where(e => e.PortId != null && portIds.Contains(e.PortId.Value))
            .Select(e => e.RunId)
            .Distinct()
            .ToListAsync();
        var portEnds = (await db.RunEnds.Where(e => e.PortId != null && runIds.Contains(e.RunId)).ToListAsync()).ToLookup(e => e.RunId);
        var hanging = await db
            .RunEnds.Where(e => e.DeviceId != null && runIds.Contains(e.RunId))
            .Select(e => new { e.RunId, DeviceId = e.DeviceId!.Value })
            .ToListAsync();
        var adapted = (
            await db
                .Runs.Where(r => runIds.Contains(r.Id) && r.PiecesJson != null && r.PiecesJson.Contains("sharingAdapter"))
                .Select(r => r.Id)
                .ToListAsync()
        ).ToHashSet();
        var shared = hanging.GroupBy(h => h.RunId).Where(g => g.Count() > 1).Select(g => g.Key).Concat(adapted).ToHashSet();
        var ids = hanging.Select(h => h.DeviceId).Distinct().ToList();
        var devices = await db.Devices.Where(d => ids.Contains(d.Id) && !d.Cancelled).ToDictionaryAsync(d => d.Id);
        string[] draws = [KnownChecks.WattsAtPort.Value, KnownChecks.WattsAtDevice.Value];
        var readings = (
            await db.Readings.Where(r => ids.Contains(r.DeviceId) && draws.Contains(r.CheckId)).OrderBy(r => r.Sequence).ToListAsync()
        ).ToLookup(r => r.DeviceId);
        var read = readings.Select(g => g.Key).ToList();
        var events = (await db.CardEvents.Where(e => read.Contains(e.DeviceId)).ToListAsync()).ToLookup(e => e.DeviceId);
        var units = (await db.Installations.Include(i => i.Unit).Where(i => read.Contains(i.DeviceId)).ToListAsync()).ToLookup(i =>
            i.DeviceId
        );
        var onPort = hanging
            .Where(h => devices.ContainsKey(h.DeviceId))
            .ToLookup(
                h => portEnds[h.RunId].PortEndOf(h.DeviceId)?.PortId ?? Guid.Empty,
                h => (Device: devices[h.DeviceId], IsShared: shared.Contains(h.RunId))
            );
        return asked.ToDictionary(
            s => s.Id,
            s => new SourceFacts(
                $"{all.FirstOrDefault(p => p.CabinetId == s.CabinetId)?.Cabinet.Label} {s.Label}".Trim(),
                s.BudgetWatts,
                s.ReservePercent,
                s.PortLimitWatts,
                [
                    .. all.Where(p => p.CabinetId == s.CabinetId && Labels.Same(p.Switch, s.Label))
                        .OrderBy(p => p.Number)
                        .Select(p =>
                        {
                            var (device, isShared) = onPort[p.Id].OrderBy(x => x.Device.Label, NaturalOrder.Instance).FirstOrDefault();
                            return new SourcePortFacts(
                                p.Id,
                                p.Number,
                                p.Priority.Or(PortPriority.Low),
                                p.Uplink,
                                device is null
                                    ? null
                                    : Beside(device, job, instruments, readings[device.Id], events[device.Id], units[device.Id], now),
                                device?.Supply is not null,
                                isShared
                            );
                        }),
                ]
            )
        );
    }

    /// <summary>A place of the schedule.</summary>
    public static PlaceFacts PlaceOf(Device device, string area) =>
        new(
            device.Id,
            device.Label,
            device.Name,
            area,
            device.Kind,
            device.Model,
            device.OwnFeatures(),
            device.PowerClass,
            device.WattsInfraredOff,
            device.WattsInfraredOn,
            device.SpeedMbps,
            device.Address,
            device.HeightMetres,
            device.Mount,
            device.CableEntry
        );

    /// <summary>What another Card leans on: a device with some of its readings, as they count there.</summary>
    private static CardFacts Beside(
        Device device,
        Job job,
        ImmutableArray<Instrument> instruments,
        IEnumerable<ReadingRecord> readings,
        IEnumerable<CardEventRecord> events,
        IEnumerable<Installation> units,
        DateTimeOffset now
    )
    {
        var (read, hung) = (readings.ToList(), units.OrderBy(i => i.From).ToList());
        return new CardFacts
        {
            Place = PlaceOf(device, ""),
            Unit = hung.LastOrDefault(i => i.Until is null) is { } unit ? UnitOf(unit) : null,
            Units = [.. hung.Select(UnitOf)],
            Practice = KeptPractice.Of(job),
            Site = KeptSite.Of(job),
            Instruments = instruments,
            Readings = [.. read.Where(x => !RecordShapes.IsLost(x)).Select(x => x.ToCore())],
            Events = [.. events.Select(e => e.ToCore()), .. RecordShapes.Lost(read)],
            TimeZone = job.TimeZone,
            Now = SiteTime.In(job.TimeZone, now),
        };
    }

    private static UnitFacts UnitOf(Installation i) => new(i.UnitId, i.Unit.Serial, i.Unit.HardwareAddress, i.From, i.Until);

    /// <summary>Of each recorder what says which version it runs and whether it is up: its units, its entries and what was read there.
    /// Which of them counts is Core's word.</summary>
    private static async Task<Dictionary<Guid, CardFacts>> Recorders(
        WalkdownDb db,
        IReadOnlyCollection<Device> recorders,
        Job job,
        ImmutableArray<Instrument> instruments,
        DateTimeOffset now
    )
    {
        var ids = recorders.Select(r => r.Id).ToList();
        if (ids.Count == 0)
            return [];
        var readings = (await db.Readings.Where(r => ids.Contains(r.DeviceId)).OrderBy(r => r.Sequence).ToListAsync()).ToLookup(r =>
            r.DeviceId
        );
        var events = (await db.CardEvents.Where(e => ids.Contains(e.DeviceId)).ToListAsync()).ToLookup(e => e.DeviceId);
        var units = (await db.Installations.Include(i => i.Unit).Where(i => ids.Contains(i.DeviceId)).ToListAsync()).ToLookup(i =>
            i.DeviceId
        );
        return recorders.ToDictionary(r => r.Id, r => Beside(r, job, instruments, readings[r.Id], events[r.Id], units[r.Id], now));
    }

    private static RunFacts RunOf(
        Run run,
        Guid device,
        Job job,
        HashSet<string> built,
        Dictionary<(Guid, string), PowerSource> sources,
        Dictionary<Guid, SourceFacts> feeds,
        bool shared
    )
    {
        // A path that cannot be read, or cannot be, is not there: its length and cords stand.
        ImmutableArray<PathPiece> pieces =
            run.PiecesJson is { } json
            && Stored.Read<ImmutableArray<PathPiece>>(json) is { IsDefault: false } drawn
            && drawn.All(p => p is not null)
            && new RunPath(drawn).Problems().IsEmpty
                ? drawn
                : [];
        var port = run.Ends.PortEndOf(device)?.Port;
        Origin From(string field) => built.Contains(field) ? Origin.AsBuilt : Origin.Planned;
        return new RunFacts(
            run.Id,
            run.Label,
            run.Configuration.Or(LinkConfiguration.Channel),
            new(run.LengthMetres, run.LengthAssumed ? Origin.Assumed : From("length_m")),
            new(run.GaugeAwg, From("gauge_awg")),
            new(run.Material.Or(ConductorMaterial.SolidCopper), From("material")),
            run.Screened,
            run.TemperatureC is { } t ? new(t, From("temperature_c")) : new(20, Origin.Assumed),
            run.CordsMetres,
            run.CordGaugeAwg,
            (run.Scheme ?? job.Scheme).Or(WiringScheme.T568B),
            port is null
                ? null
                : new PortFacts(
                    port.Id,
                    port.Switch.Length > 0 ? $"{port.Cabinet.Label} {port.Switch}" : port.Cabinet.Label,
                    port.Number,
                    new(port.SourceVolts, From("source_volts")),
                    port.SpeedMbps,
                    Mode: (SourceOf(port)?.Mode ?? SourceMode.Standard).Or(SourceMode.Standard),
                    LimitWatts: SourceOf(port)?.PortLimitWatts,
                    IsUplink: port.Uplink
                )
                {
                    Source = SourceOf(port) is { } fed ? feeds.GetValueOrDefault(fed.Id) : null,
                },
            run.Scheme is not null,
            shared || pieces.Any(p => p.Kind == PieceKind.SharingAdapter)
        )
        {
            Pieces = pieces,
        };

        PowerSource? SourceOf(Port at) => sources.GetValueOrDefault((at.CabinetId, Labels.Fold(at.Switch)));
    }
}
