using System.Collections.Immutable;
using System.Globalization;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core.Cabling;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Measures;
using Walkdown.Core.Register;
using Walkdown.Storage.Entities;

namespace Walkdown.Storage;

/// <summary>
/// The register of a job while it is changed: rows by column in and out, on the entities that Cards are made of. Nothing is written until
/// the
/// context is saved, so a preview runs the very same code.
/// </summary>
internal sealed class RegisterBook
{
    private readonly WalkdownDb _db;
    private readonly Guid _jobId;
    private readonly DateTimeOffset _now;
    private Dictionary<string, Area> _areas = new(Labels.Comparer);
    private Dictionary<string, Cabinet> _cabinets = new(Labels.Comparer);
    private Dictionary<(Guid, string, int), Port> _ports = [];
    private Dictionary<string, Device> _byLabel = new(Labels.Comparer);
    private Dictionary<Guid, Device> _byId = [];
    private Dictionary<string, InstalledUnit> _units = new(Labels.Comparer);
    private Dictionary<Guid, Installation> _installed = [];
    private Dictionary<Guid, List<Head>> _heads = [];
    private Dictionary<Guid, Channel> _channelOfHead = [];
    private Dictionary<string, Run> _runs = new(Labels.Comparer);
    private Dictionary<Guid, Run> _runOf = [];
    private HashSet<(SourceKind, Guid?, string)> _sources = [];
    private bool _whole;

    private readonly Catalogue _catalogue;

    private RegisterBook(WalkdownDb db, Guid jobId, DateTimeOffset now, Catalogue catalogue)
    {
        _catalogue = catalogue;
        _db = db;
        _jobId = jobId;
        _now = now;
    }

    public IEnumerable<Device> Devices => _byId.Values;

    public IEnumerable<Cabinet> Cabinets => _cabinets.Values;

    /// <param name="catalogue">That says which kinds record.</param>
    /// <param name="only">The devices to be changed; null: the whole register. What they may touch beyond themselves is looked up when it
    /// is asked for.</param>
    /// <param name="readOnly">True where nothing will be set: nothing is tracked, which is several times as quick.</param>
    public static async Task<RegisterBook> Load(
        WalkdownDb db,
        Guid jobId,
        DateTimeOffset now,
        Catalogue catalogue,
        IReadOnlyCollection<Guid>? only = null,
        bool readOnly = false
    )
    {
        var recording = catalogue.Kinds.Where(k => catalogue.Records(k.Id)).Select(k => k.Id).ToList();
        db.ChangeTracker.QueryTrackingBehavior = readOnly ? QueryTrackingBehavior.NoTracking : QueryTrackingBehavior.TrackAll;
        db.ChangeTracker.AutoDetectChangesEnabled = false;
        var book = new RegisterBook(db, jobId, now, catalogue)
        {
            _areas = await db.Areas.Where(a => a.JobId == jobId).ToDictionaryAsync(a => a.Name, Labels.Comparer),
            _cabinets = await db.Cabinets.Where(c => c.JobId == jobId).ToDictionaryAsync(c => c.Label, Labels.Comparer),
            _byId = await db
                .Devices.Where(d => d.JobId == jobId && (only == null || only.Contains(d.Id) || recording.Contains(d.Kind)))
                .ToDictionaryAsync(d => d.Id),
            _sources = readOnly
                ? []
                :
                [
                    .. (
                        await db
                            .Sources.Where(s => s.JobId == jobId)
                            .Select(s => new
                            {
                                s.Kind,
                                s.CabinetId,
                                s.Label,
                            })
                            .ToListAsync()
                    ).Select(s => (s.Kind, s.CabinetId, Labels.Fold(s.Label))),
                ],
            _whole = only is null,
        };
        var ids = only ?? (IReadOnlyCollection<Guid>)book._byId.Keys;
        var areas = book._areas.Values.ToDictionary(a => a.Id);
        // A link that leads nowhere is damage, and told as that (RegisterDamage): the rest of the register is there all the same.
        foreach (var device in book._byId.Values)
            device.Area =
                areas.GetValueOrDefault(device.AreaId)
                ?? new Area
                {
                    Id = device.AreaId,
                    JobId = jobId,
                    Name = "?",
                };
        // Two that cannot be read may read alike: the first stands, and each is named.
        book._byLabel = book._byId.Values.DistinctBy(d => d.Label, Labels.Comparer).ToDictionary(d => d.Label, Labels.Comparer);
        if (book._whole)
        {
            // One plain query a table, put together here: joins of five thousand rows cost more than the dictionaries.
            var units = await db.Units.Where(u => u.JobId == jobId).ToDictionaryAsync(u => u.Id);
            var cabinets = book._cabinets.Values.ToDictionary(c => c.Id);
            var ports = await db
                .Ports.Where(p => db.Cabinets.Any(c => c.Id == p.CabinetId && c.JobId == jobId))
                .ToDictionaryAsync(p => p.Id);
            var runs = await db.Runs.Where(r => r.JobId == jobId).ToDictionaryAsync(r => r.Id);
            var ends = await db.RunEnds.Where(e => db.Runs.Any(r => r.Id == e.RunId && r.JobId == jobId)).ToListAsync();
            foreach (var port in ports.Values.ToList())
                if (cabinets.TryGetValue(port.CabinetId, out var cabinet))
                    port.Cabinet = cabinet;
                else
                    ports.Remove(port.Id);
            foreach (var end in ends)
            {
                if (end.PortId is { } portId)
                    end.Port = ports.GetValueOrDefault(portId);
                // A tracking context has put the end into its run already.
                if (readOnly)
                    runs.GetValueOrDefault(end.RunId)?.Ends.Add(end);
            }
            book._units = units
                .Values.Where(u => u.Serial.Length > 0)
                .DistinctBy(u => u.Serial, Labels.Comparer)
                .ToDictionary(u => u.Serial, Labels.Comparer);
            book._ports = ports
                .Values.DistinctBy(p => (p.CabinetId, Labels.Fold(p.Switch), p.Number))
                .ToDictionary(p => (p.CabinetId, Labels.Fold(p.Switch), p.Number));
            book._installed = (
                await db.Installations.Where(i => i.Until == null && db.Units.Any(u => u.Id == i.UnitId && u.JobId == jobId)).ToListAsync()
            )
                .DistinctBy(i => i.DeviceId)
                .ToDictionary(i => i.DeviceId);
            foreach (var installation in book._installed.Values.ToList())
                if (units.TryGetValue(installation.UnitId, out var unit))
                    installation.Unit = unit;
                else
                    book._installed.Remove(installation.DeviceId);
            book._heads = Grouped(await db.Heads.Where(h => db.Devices.Any(d => d.Id == h.DeviceId && d.JobId == jobId)).ToListAsync());
            var heads = book._heads.Values.SelectMany(h => h).ToDictionary(h => h.Id);
            book._channelOfHead = (
                await db.Channels.Where(c => db.Devices.Any(d => d.Id == c.RecorderId && d.JobId == jobId)).ToListAsync()
            )
                .DistinctBy(c => c.HeadId)
                .ToDictionary(c => c.HeadId);
            foreach (var channel in book._channelOfHead.Values.ToList())
                if (book._byId.TryGetValue(channel.RecorderId, out var recorder) && heads.TryGetValue(channel.HeadId, out var head))
                    (channel.Recorder, channel.Head) = (recorder, head);
                else
                    book._channelOfHead.Remove(channel.HeadId);
            book._runs = runs.Values.DistinctBy(r => r.Label, Labels.Comparer).ToDictionary(r => r.Label, Labels.Comparer);
        }
        else
        {
            book._installed = (
                await db.Installations.Include(i => i.Unit).Where(i => i.Until == null && ids.Contains(i.DeviceId)).ToListAsync()
            )
                .DistinctBy(i => i.DeviceId)
                .ToDictionary(i => i.DeviceId);
            book._heads = Grouped(await db.Heads.Where(h => ids.Contains(h.DeviceId)).ToListAsync());
            book._channelOfHead = (await db.Channels.Where(c => ids.Contains(c.Head.DeviceId)).ToListAsync())
                .DistinctBy(c => c.HeadId)
                .ToDictionary(c => c.HeadId);
            book._runs = await db
                .Runs.Include(r => r.Ends)
                    .ThenInclude(e => e.Port)
                .Where(r => r.JobId == jobId && r.Ends.Any(e => e.DeviceId != null && ids.Contains(e.DeviceId.Value)))
                .ToDictionaryAsync(r => r.Label, Labels.Comparer);
        }
        foreach (var run in book._runs.Values)
        foreach (var end in run.Ends.Where(e => e.DeviceId is not null))
            book._runOf.TryAdd(end.DeviceId!.Value, run);
        return book;

        static Dictionary<Guid, List<Head>> Grouped(List<Head> heads) =>
            heads.GroupBy(h => h.DeviceId).ToDictionary(g => g.Key, g => g.OrderBy(h => h.Number).ToList());
    }

    public Device? Find(string label) =>
        _byLabel.TryGetValue(label, out var d) ? d
        : _whole ? null
        : _db.Devices.FirstOrDefault(x => x.JobId == _jobId && x.Label == label);

    private Run? FindRun(string label)
    {
        if (_runs.TryGetValue(label, out var run) || _whole)
            return run;
        run = _db.Runs.Include(r => r.Ends).ThenInclude(e => e.Port).FirstOrDefault(r => r.JobId == _jobId && r.Label == label);
        return run is null ? null : _runs[label] = run;
    }

    private InstalledUnit? FindUnit(string serial) =>
        _units.TryGetValue(serial, out var unit) ? unit
        : _whole ? null
        : _db.Units.FirstOrDefault(u => u.JobId == _jobId && u.Serial == serial);

    private bool HangsSomewhere(Guid unitId) =>
        _installed.Values.Any(i => i.UnitId == unitId) || !_whole && _db.Installations.Any(i => i.UnitId == unitId && i.Until == null);

    private bool WasRead(Guid unitId) => _db.Readings.Any(r => r.UnitId == unitId);

    public Device? Find(Guid id) => _byId.GetValueOrDefault(id);

    public Cabinet? FindCabinet(string label) => _cabinets.GetValueOrDefault(label);

    public Run? RunOf(Device device) => _runOf.GetValueOrDefault(device.Id);

    public Dictionary<string, string> Values(Device d)
    {
        var heads = _heads.GetValueOrDefault(d.Id) ?? [];
        return RegisterValues.Of(
            d,
            _installed.GetValueOrDefault(d.Id)?.Unit,
            _runOf.GetValueOrDefault(d.Id),
            heads.Count,
            [.. heads.Select(h => _channelOfHead.GetValueOrDefault(h.Id)).OfType<Channel>()]
        );
    }

    /// <summary>A cabinet's row. Its uplink is set once all cabinets are there.</summary>
    /// <returns>True where something is new or changed.</returns>
    public bool SetCabinet(ScheduleRow row)
    {
        var isNew = !_cabinets.ContainsKey(row.Label);
        var cabinet = Cabinet(row.Label);
        var before = (cabinet.Name, cabinet.X, cabinet.Y, cabinet.FedFromId);
        cabinet.Name = row["name"] ?? cabinet.Name;
        if (row["x_m"] is not null)
            (cabinet.X, cabinet.Y) = (row.Number("x_m"), row.Number("y_m"));
        if (row["cabinet"] is { } from)
            cabinet.FedFromId = Cabinet(from).Id;
        return isNew || before != (cabinet.Name, cabinet.X, cabinet.Y, cabinet.FedFromId);
    }

    public Device Add(string label, string kind)
    {
        var device = new Device
        {
            Id = Guid.CreateVersion7(),
            JobId = _jobId,
            Label = label,
            Name = label,
            Kind = kind,
            Model = "",
            Area = null!,
        };
        _db.Add(device);
        _byId[device.Id] = device;
        _byLabel[label] = device;
        _heads[device.Id] = [];
        return device;
    }

    /// <summary>Sets columns of one row; a null value empties the cell.</summary>
    /// <returns>Null, or why it cannot be, with the column; then nothing of the row should be saved.</returns>
    public (Message What, string Field)? Set(Device d, IReadOnlyDictionary<string, string?> to)
    {
        string? Text(string field) => to.GetValueOrDefault(field);
        double? Number(string field) => Text(field) is { } t ? double.Parse(t, CultureInfo.InvariantCulture) : null;
        bool Has(string field) => to.ContainsKey(field);
        if (Text("label") is { } label && !label.Equals(d.Label, StringComparison.Ordinal))
        {
            if (Find(label) is { } other && other.Id != d.Id)
                return (new("register.label-taken", label), "label");
            _byLabel.Remove(d.Label);
            d.Label = label;
            _byLabel[label] = d;
        }
        if (Has("name"))
            d.Name = Text("name") ?? d.Label;
        if (Text("area") is { } area || d.Area is null)
        {
            d.Area = AreaOf(Text("area") ?? "Site");
            d.AreaId = d.Area.Id;
        }
        if (Text("kind") is { } kind)
            d.Kind = kind;
        if (Has("model"))
            d.Model = Text("model") ?? "";
        if (Has("features"))
            d.Features = Text("features") ?? "";
        if (Has("address"))
            d.Address = Text("address");
        if (Has("reach"))
            d.Reach = Text("reach") ?? "ground";
        if (Has("supply"))
        {
            d.Supply = Text("supply");
            if (d.Supply is { } supply)
                Source(SourceKind.Supply, null, supply);
        }
        if (Has("supply_m"))
            d.SupplyMetres = Number("supply_m");
        if (Has("mount"))
            d.Mount = Text("mount");
        if (Has("cable_entry"))
            d.CableEntry = Text("cable_entry");
        if (Has("power_class"))
            d.PowerClass = (int?)Number("power_class");
        if (Has("watts_infrared_off"))
            d.WattsInfraredOff = Number("watts_infrared_off");
        if (Has("watts_infrared_on"))
            d.WattsInfraredOn = Number("watts_infrared_on");
        if (Has("speed_mbps"))
            d.SpeedMbps = (int?)Number("speed_mbps");
        if (Has("x_m"))
            d.X = Number("x_m");
        if (Has("y_m"))
            d.Y = Number("y_m");
        if (Has("height_m"))
            d.HeightMetres = Number("height_m");
        return SetUnit(d, to) ?? SetHeads(d, to) ?? SetRun(d, to);
    }

    private (Message, string)? SetUnit(Device d, IReadOnlyDictionary<string, string?> to)
    {
        if (!to.ContainsKey("serial") && !to.ContainsKey("hardware_address"))
            return null;
        var serial = to.GetValueOrDefault("serial");
        var hangs = _installed.GetValueOrDefault(d.Id);
        if (hangs is null && serial is null && to.GetValueOrDefault("hardware_address") is null)
            return null;
        var known = serial is null ? null : FindUnit(serial);
        var (change, refused) = UnitOfPlace.Of(
            serial,
            hangs?.Unit.Serial,
            hangs is not null && serial is not null && !Labels.Same(serial, hangs.Unit.Serial) && WasRead(hangs.UnitId),
            known is not null,
            known is not null && HangsSomewhere(known.Id)
        );
        if (refused is not null)
            return (refused, "serial");
        switch (change)
        {
            case UnitChange.Fit:
                hangs = Fit(d, known ?? NewUnit(serial));
                break;
            case UnitChange.Exchange:
                (hangs!.Unit, hangs.UnitId) = (known!, known!.Id);
                break;
            case UnitChange.Correct:
                _units.Remove(hangs!.Unit.Serial);
                hangs.Unit.Serial = serial!;
                _units[serial!] = hangs.Unit;
                break;
        }
        if (to.ContainsKey("hardware_address"))
            hangs!.Unit.HardwareAddress = to["hardware_address"];
        return null;
    }

    private InstalledUnit NewUnit(string? serial)
    {
        var unit = new InstalledUnit
        {
            Id = Guid.CreateVersion7(),
            JobId = _jobId,
            Serial = serial ?? "",
        };
        _db.Add(unit);
        if (serial is not null)
            _units[serial] = unit;
        return unit;
    }

    private Installation Fit(Device d, InstalledUnit unit)
    {
        var hangs = new Installation
        {
            Id = Guid.CreateVersion7(),
            DeviceId = d.Id,
            UnitId = unit.Id,
            Unit = unit,
            From = _now,
        };
        _db.Add(hangs);
        return _installed[d.Id] = hangs;
    }

    private (Message, string)? SetHeads(Device d, IReadOnlyDictionary<string, string?> to)
    {
        var heads = _heads.TryGetValue(d.Id, out var list) ? list : _heads[d.Id] = [];
        if (!to.ContainsKey("heads") && !to.ContainsKey("channels") && !to.ContainsKey("recorder") && heads.Count > 0)
            return null;
        var now = heads.Select(h => _channelOfHead.GetValueOrDefault(h.Id)).OfType<Channel>().ToList();
        var numbers = to.ContainsKey("channels")
            ? (to["channels"] ?? "")
                .Split(' ', StringSplitOptions.RemoveEmptyEntries)
                .Select(c => int.Parse(c, CultureInfo.InvariantCulture))
                .ToList()
            : [.. now.Select(c => c.Number)];
        var recorderLabel = to.TryGetValue("recorder", out var named) ? named : now.FirstOrDefault()?.Recorder.Label;
        Device? recorder = null;
        if (numbers.Count > 0)
        {
            if (recorderLabel is null)
                return (new("register.which-recorder"), "recorder");
            if (!_byLabel.TryGetValue(recorderLabel, out recorder) || !_catalogue.Records(recorder.Kind))
                return (new("cell.no-recorder", recorderLabel), "recorder");
        }
        var count = to.GetValueOrDefault("heads") is { } h
            ? int.Parse(h, CultureInfo.InvariantCulture)
            : Math.Max(Math.Max(1, heads.Count), numbers.Count);
        if (numbers.Count > count)
            return (
                new(
                    "cell.more-channels",
                    numbers.Count.ToString(CultureInfo.InvariantCulture),
                    count.ToString(CultureInfo.InvariantCulture)
                ),
                "channels"
            );
        while (heads.Count < count)
        {
            var head = new Head
            {
                Id = Guid.CreateVersion7(),
                DeviceId = d.Id,
                Number = heads.Count + 1,
            };
            _db.Add(head);
            heads.Add(head);
        }
        while (heads.Count > count)
        {
            var head = heads[^1];
            if (_db.Readings.Any(r => r.SubjectId == head.Id))
                return (new("register.head-was-read", head.Number.ToString(CultureInfo.InvariantCulture)), "heads");
            if (_channelOfHead.Remove(head.Id, out var gone))
                _db.Remove(gone);
            _db.Remove(head);
            heads.RemoveAt(heads.Count - 1);
        }
        for (var i = 0; i < heads.Count; i++)
        {
            var channel = _channelOfHead.GetValueOrDefault(heads[i].Id);
            if (i >= numbers.Count)
            {
                if (channel is null)
                    continue;
                _channelOfHead.Remove(heads[i].Id);
                _db.Remove(channel);
            }
            else if (channel is null)
            {
                channel = new Channel
                {
                    Id = Guid.CreateVersion7(),
                    RecorderId = recorder!.Id,
                    Recorder = recorder,
                    Number = numbers[i],
                    HeadId = heads[i].Id,
                    Head = heads[i],
                };
                _db.Add(channel);
                _channelOfHead[heads[i].Id] = channel;
            }
            else
            {
                (channel.Recorder, channel.RecorderId, channel.Number) = (recorder!, recorder!.Id, numbers[i]);
            }
        }
        return null;
    }

    private (Message, string)? SetRun(Device d, IReadOnlyDictionary<string, string?> to)
    {
        if (!RegisterFields.All.Any(f => f.Of is FieldOf.Run or FieldOf.Port && f.Id != "supply" && to.ContainsKey(f.Id)))
            return null;
        var run = _runOf.GetValueOrDefault(d.Id);
        if (to.TryGetValue("run", out var label))
        {
            if (label is null)
            {
                if (run is not null)
                    Leave(run, d);
                run = null;
            }
            else if (FindRun(label) is { } there)
            {
                if (there != run)
                {
                    if (run is not null)
                        Leave(run, d);
                    Join(there, d);
                }
                run = there;
            }
            else if (run is not null && run.Ends.All(e => e.DeviceId is null || e.DeviceId == d.Id))
            {
                // The same cable under its right name: its readings stay with it.
                _runs.Remove(run.Label);
                run.Label = label;
                _runs[label] = run;
            }
            else
            {
                if (run is not null)
                    Leave(run, d);
                run = NewRun(label);
                Join(run, d);
            }
        }
        var touchesRun = RegisterFields.All.Any(f =>
            f.Of is FieldOf.Run or FieldOf.Port && f.Id is not ("supply" or "run") && to.GetValueOrDefault(f.Id) is not null
        );
        if (run is null)
        {
            if (!touchesRun)
                return null;
            run = FindRun(d.Label) ?? NewRun(d.Label);
            Join(run, d);
        }
        string? Text(string field) => to.GetValueOrDefault(field);
        double? Number(string field) => Text(field) is { } t ? double.Parse(t, CultureInfo.InvariantCulture) : null;
        if (to.ContainsKey("configuration"))
            run.Configuration = Text("configuration") == "channel" ? LinkConfiguration.Channel : LinkConfiguration.PermanentLink;
        if (to.ContainsKey("length_m"))
            (run.LengthMetres, run.LengthAssumed) = (Number("length_m") ?? run.LengthMetres, Number("length_m") is null);
        if (to.ContainsKey("gauge_awg"))
            run.GaugeAwg = Number("gauge_awg") ?? 24;
        if (to.ContainsKey("material"))
            run.Material = Text("material") switch
            {
                "stranded-copper" => ConductorMaterial.StrandedCopper,
                "copper-clad-aluminium" => ConductorMaterial.CopperCladAluminium,
                _ => ConductorMaterial.SolidCopper,
            };
        if (to.ContainsKey("screened"))
            run.Screened = Text("screened") == "yes";
        if (to.ContainsKey("temperature_c"))
            run.TemperatureC = Number("temperature_c");
        if (to.ContainsKey("cords_m"))
            run.CordsMetres = Number("cords_m") ?? 0;
        if (to.ContainsKey("cord_gauge_awg"))
            run.CordGaugeAwg = Number("cord_gauge_awg") ?? 24;
        if (to.ContainsKey("scheme"))
            run.Scheme = Text("scheme") switch
            {
                "A" => WiringScheme.T568A,
                "B" => WiringScheme.T568B,
                _ => null,
            };
        if (to.ContainsKey("path"))
            run.Path = Text("path");
        // A path that was drawn piece by piece no longer holds when its figures are given otherwise.
        if (
            to.ContainsKey("length_m")
            || to.ContainsKey("gauge_awg")
            || to.ContainsKey("material")
            || to.ContainsKey("cords_m")
            || to.ContainsKey("cord_gauge_awg")
        )
            run.PiecesJson = null;
        return SetPort(run, d, to);
    }

    private (Message, string)? SetPort(Run run, Device d, IReadOnlyDictionary<string, string?> to)
    {
        var end = run.Ends.PortEndOf(d.Id);
        if (to.ContainsKey("cabinet") || to.ContainsKey("switch") || to.ContainsKey("port"))
        {
            var at = end?.Port;
            var cabinetLabel = to.TryGetValue("cabinet", out var c) ? c : at?.Cabinet.Label;
            var onSwitch = (to.TryGetValue("switch", out var s) ? s : at?.Switch) ?? "";
            var number = to.TryGetValue("port", out var p)
                ? p is null
                    ? null
                    : int.Parse(p, CultureInfo.InvariantCulture)
                : at?.Number;
            if (number is { } n)
            {
                if (cabinetLabel is null)
                    return (new("cell.port-alone"), "cabinet");
                if (!_cabinets.TryGetValue(cabinetLabel, out var cabinet))
                    return (new("cell.no-cabinet", cabinetLabel), "cabinet");
                var key = (cabinet.Id, Labels.Fold(onSwitch), n);
                if (
                    !_ports.TryGetValue(key, out var port)
                    && !_whole
                    && _db.Ports.FirstOrDefault(x => x.CabinetId == cabinet.Id && x.Switch == onSwitch && x.Number == n) is { } known
                )
                    _ports[key] = port = known;
                if (port is null)
                {
                    port = new Port
                    {
                        Id = Guid.CreateVersion7(),
                        CabinetId = cabinet.Id,
                        Cabinet = cabinet,
                        Switch = onSwitch,
                        Number = n,
                        SourceVolts = 54,
                        SpeedMbps = 1000,
                    };
                    _db.Add(port);
                    _ports[key] = port;
                }
                Source(SourceKind.Switch, cabinet.Id, onSwitch);
                // Of a cable that two share each has its pairs, and so a port of its own: the other keeps his.
                var isOwn = end is { OfDeviceId: null } && end.PortId != port.Id && run.Ends.Any(e => e.DeviceId is { } o && o != d.Id);
                if (end is null || isOwn)
                    end = AtPort(run, port, isOwn ? d.Id : null);
                else
                    (end.Port, end.PortId) = (port, port.Id);
                TidyPorts(run);
            }
            else if (end is not null)
            {
                Unplug(run, d, end);
                end = null;
            }
        }
        if (end?.Port is not { } onPort)
            return null;
        if (to.ContainsKey("source_volts"))
            onPort.SourceVolts = to["source_volts"] is { } v ? double.Parse(v, CultureInfo.InvariantCulture) : 54;
        if (to.ContainsKey("port_speed_mbps"))
            onPort.SpeedMbps = to["port_speed_mbps"] is { } v ? int.Parse(v, CultureInfo.InvariantCulture) : 1000;
        return null;
    }

    /// <summary>A switch or a supply that is named is on record from then on; what it can give is filled in on its page.</summary>
    private void Source(SourceKind kind, Guid? cabinetId, string label)
    {
        if (_sources.Contains((kind, cabinetId, Labels.Fold(label))))
            return;
        _sources.Add((kind, cabinetId, Labels.Fold(label)));
        _db.Add(
            new PowerSource
            {
                Id = Guid.CreateVersion7(),
                JobId = _jobId,
                Kind = kind,
                CabinetId = cabinetId,
                Label = label,
                Volts = kind == SourceKind.Supply ? 12 : null,
            }
        );
    }

    private Run NewRun(string label)
    {
        var run = new Run
        {
            Id = Guid.CreateVersion7(),
            JobId = _jobId,
            Label = label,
            LengthMetres = 50,
            LengthAssumed = true,
        };
        _db.Add(run);
        return _runs[label] = run;
    }

    private void Join(Run run, Device d)
    {
        var end = new RunEnd
        {
            Id = Guid.CreateVersion7(),
            RunId = run.Id,
            Side = CableEnd.Far,
            DeviceId = d.Id,
        };
        run.Ends.Add(end);
        _db.Add(end);
        _runOf[d.Id] = run;
    }

    private void Leave(Run run, Device d)
    {
        foreach (var end in run.Ends.Where(e => e.DeviceId == d.Id || e.OfDeviceId == d.Id).ToList())
        {
            run.Ends.Remove(end);
            _db.Remove(end);
        }
        _runOf.Remove(d.Id);
        TidyPorts(run);
    }

    /// <summary>A device is at no port any more; whoever shares its cable keeps the one that they had in common.</summary>
    private void Unplug(Run run, Device d, RunEnd end)
    {
        if (end is { OfDeviceId: null, Port: { } port })
            foreach (var other in run.Ends.Select(e => e.DeviceId).OfType<Guid>().Where(o => o != d.Id).Distinct().ToList())
                if (ReferenceEquals(run.Ends.PortEndOf(other), end))
                    AtPort(run, port, other);
        run.Ends.Remove(end);
        _db.Remove(end);
    }

    private RunEnd AtPort(Run run, Port port, Guid? of)
    {
        var end = new RunEnd
        {
            Id = Guid.CreateVersion7(),
            RunId = run.Id,
            Side = CableEnd.Near,
            OfDeviceId = of,
            Port = port,
            PortId = port.Id,
        };
        run.Ends.Add(end);
        _db.Add(end);
        return end;
    }

    /// <summary>Whoever is alone on a run has its port; one that nobody is at any more goes.</summary>
    private void TidyPorts(Run run)
    {
        var devices = run.Ends.Select(e => e.DeviceId).OfType<Guid>().ToHashSet();
        var own = run.Ends.Where(e => e.PortId is not null && e.OfDeviceId is not null).ToList();
        if (own.Count > 0 && devices.All(d => own.Any(e => e.OfDeviceId == d)))
            foreach (var end in run.Ends.Where(e => e.PortId is not null && e.OfDeviceId is null).ToList())
            {
                run.Ends.Remove(end);
                _db.Remove(end);
            }
        if (devices.Count == 1 && own is [var last])
            last.OfDeviceId = null;
    }

    private Area AreaOf(string name)
    {
        if (_areas.TryGetValue(name, out var area))
            return area;
        area = new Area
        {
            Id = Guid.CreateVersion7(),
            JobId = _jobId,
            Name = name,
            Order = _areas.Count,
        };
        _db.Add(area);
        return _areas[name] = area;
    }

    public Cabinet Cabinet(string label)
    {
        if (_cabinets.TryGetValue(label, out var cabinet))
            return cabinet;
        cabinet = new Cabinet
        {
            Id = Guid.CreateVersion7(),
            JobId = _jobId,
            Label = label,
            Name = label,
        };
        _db.Add(cabinet);
        return _cabinets[label] = cabinet;
    }
}
