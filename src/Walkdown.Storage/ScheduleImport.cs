using System.Globalization;
using System.Text;
using CsvHelper;
using CsvHelper.Configuration;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core.Cabling;
using Walkdown.Core.Catalogue;
using Walkdown.Storage.Entities;

namespace Walkdown.Storage;

/// <summary>A cell of the schedule that cannot be taken, and the mend. Rows are counted as in the file, the header is row 1.</summary>
public sealed record ScheduleProblem(int Row, string Column, string What, string Mend);

public sealed record ScheduleResult(int Added, int Changed, int Same, IReadOnlyList<ScheduleProblem> Problems)
{
    public bool Taken => Problems.Count == 0;
}

/// <summary>
/// The device schedule, strict CSV: comma, UTF-8, a header row (docs/formats.md). Taken whole or refused whole with every bad cell at once;
/// taking it twice changes nothing.
/// </summary>
public sealed class ScheduleImport(Ledger ledger, TimeProvider time)
{
    public const int MostBytes = 8 * 1024 * 1024;

    public static readonly string[] Required = ["label", "name", "area", "kind"];

    public static readonly string[] Columns =
    [
        .. Required, "model", "serial", "hardware_address", "address", "cabinet", "port", "source_volts", "port_speed_mbps", "recorder", "channels", "heads", "run", "configuration",
        "length_m", "gauge_awg", "material", "screened", "temperature_c", "cords_m", "cord_gauge_awg", "scheme", "power_class", "watts_infrared_off", "watts_infrared_on",
        "speed_mbps", "x_m", "y_m", "height_m", "reach", "features",
    ];

    public async Task<ScheduleResult> Take(Guid jobId, byte[] file, Catalogue catalogue)
    {
        var problems = new List<ScheduleProblem>();
        var rows = Read(file, problems);
        var plan = rows.Select(row => ScheduleRow.Of(row, catalogue, problems)).ToList();
        Cross(plan, problems);
        if (problems.Count > 0) return new ScheduleResult(0, 0, 0, [.. problems.OrderBy(p => p.Row)]);
        var result = await ledger.Change(jobId, "schedule-taken", async db =>
        {
            var taken = await Save(db, jobId, plan);
            return (taken, taken.Added + taken.Changed > 0);
        });
        if (result.Added + result.Changed > 0) await ledger.Rebuild(jobId, catalogue);
        return result;
    }

    private static List<(int Row, Dictionary<string, string> Cells)> Read(byte[] file, List<ScheduleProblem> problems)
    {
        var rows = new List<(int, Dictionary<string, string>)>();
        if (file.Length > MostBytes)
        {
            problems.Add(new(0, "", $"The file has {file.Length / 1048576} MB.", "A schedule has at most 8 MB: check that it is the right file."));
            return rows;
        }
        string text;
        try
        {
            text = new UTF8Encoding(false, true).GetString(file).TrimStart('\ufeff');
        }
        catch (DecoderFallbackException)
        {
            problems.Add(new(0, "", "The file is not UTF-8.", "Save it as CSV, UTF-8, with commas."));
            return rows;
        }
        using var csv = new CsvReader(new StringReader(text), new CsvConfiguration(CultureInfo.InvariantCulture) { BadDataFound = null, MissingFieldFound = null, DetectColumnCountChanges = false });
        try
        {
            if (!csv.Read() || !csv.ReadHeader())
            {
                problems.Add(new(1, "", "The file is empty.", "Put the column names in row 1."));
                return rows;
            }
            var header = csv.HeaderRecord!.Select(h => h.Trim()).ToArray();
            if (header.Length == 1 && header[0].Contains(';')) problems.Add(new(1, "", "Columns are parted by semicolons.", "Save it with commas."));
            foreach (var missing in Required.Except(header)) problems.Add(new(1, missing, $"The column '{missing}' is missing.", $"Add a column '{missing}'; names are in docs/formats.md."));
            foreach (var unknown in header.Except(Columns)) problems.Add(new(1, unknown, $"The column '{unknown}' is not known.", "Leave it out, or name it as in docs/formats.md."));
            foreach (var twice in header.GroupBy(h => h).Where(g => g.Count() > 1)) problems.Add(new(1, twice.Key, $"The column '{twice.Key}' stands twice.", "Keep one of them."));
            if (problems.Count > 0) return rows;
            while (csv.Read())
            {
                if (csv.Parser.Count != header.Length)
                {
                    problems.Add(new(csv.Parser.Row, "", $"{csv.Parser.Count} cells where the header has {header.Length}.", "A comma inside a cell needs quotes around the cell."));
                    continue;
                }
                rows.Add((csv.Parser.Row, header.Select((name, i) => (name, value: csv.GetField(i)!.Trim())).ToDictionary(c => c.name, c => c.value)));
            }
        }
        catch (CsvHelperException problem)
        {
            problems.Add(new(csv.Parser?.Row ?? 1, "", "The row cannot be read as CSV.", "Check its quotation marks. " + problem.Message.Split('\n')[0]));
        }
        return rows;
    }

    /// <summary>What only shows between rows: doubles, and recorders or cabinets that are not there.</summary>
    private static void Cross(List<ScheduleRow> plan, List<ScheduleProblem> problems)
    {
        Twice(plan.Where(r => r.Label.Length > 0), "label", r => r.Label, "Every label stands once.");
        Twice(plan.Where(r => r.Serial is not null), "serial", r => r.Serial!, "A unit hangs at one place.");
        Twice(plan.Where(r => r.HardwareAddress is not null), "hardware_address", r => r.HardwareAddress!, "A hardware address belongs to one unit.");
        Twice(plan.Where(r => r.Address is not null), "address", r => r.Address!, "Give one of them another address.");
        Twice(plan.Where(r => r.Port is not null), "port", r => $"{r.CabinetLabel} port {r.Port}", "A port takes one run.");
        var cabinets = plan.Where(r => r.IsCabinet).Select(r => r.Label).ToHashSet();
        var recorders = plan.Where(r => r.Kind == "recorder").Select(r => r.Label).ToHashSet();
        foreach (var row in plan.Where(r => r.CabinetLabel is not null && !cabinets.Contains(r.CabinetLabel)))
            problems.Add(new(row.Row, "cabinet", $"No cabinet is labelled '{row.CabinetLabel}'.", "Add a row of kind cabinet with that label, or mend this one."));
        foreach (var row in plan.Where(r => r.RecorderLabel is not null && !recorders.Contains(r.RecorderLabel)))
            problems.Add(new(row.Row, "recorder", $"No recorder is labelled '{row.RecorderLabel}'.", "Add a row of kind recorder with that label, or mend this one."));
        foreach (var twice in plan.SelectMany(r => r.Channels.Select(c => (Row: r, Key: $"{r.RecorderLabel} channel {c}"))).GroupBy(c => c.Key).Where(g => g.Count() > 1))
            foreach (var one in twice.Skip(1)) problems.Add(new(one.Row.Row, "channels", $"{twice.Key} is taken by {twice.First().Row.Label}.", "A channel shows one picture."));

        void Twice(IEnumerable<ScheduleRow> rows, string column, Func<ScheduleRow, string> of, string mend)
        {
            foreach (var group in rows.GroupBy(of, StringComparer.OrdinalIgnoreCase).Where(g => g.Count() > 1))
                foreach (var row in group.Skip(1)) problems.Add(new(row.Row, column, $"'{group.Key}' stands already in row {group.First().Row}.", mend));
        }
    }

    private async Task<ScheduleResult> Save(WalkdownDb db, Guid jobId, List<ScheduleRow> plan)
    {
        db.ChangeTracker.QueryTrackingBehavior = QueryTrackingBehavior.TrackAll;
        var areas = await db.Areas.Where(a => a.JobId == jobId).ToDictionaryAsync(a => a.Name);
        var cabinets = await db.Cabinets.Where(c => c.JobId == jobId).ToDictionaryAsync(c => c.Label);
        var cabinetIds = cabinets.Values.Select(c => c.Id).ToList();
        var ports = await db.Ports.Where(p => cabinetIds.Contains(p.CabinetId)).ToDictionaryAsync(p => (p.CabinetId, p.Number));
        var devices = await db.Devices.Where(d => d.JobId == jobId).ToDictionaryAsync(d => d.Label);
        var deviceIds = devices.Values.Select(d => d.Id).ToList();
        var units = await db.Units.Where(u => u.JobId == jobId).ToDictionaryAsync(u => u.Serial);
        var installed = (await db.Installations.Where(i => deviceIds.Contains(i.DeviceId)).ToListAsync()).ToLookup(i => i.DeviceId);
        var heads = await db.Heads.Where(h => deviceIds.Contains(h.DeviceId)).ToDictionaryAsync(h => (h.DeviceId, h.Number));
        var channels = await db.Channels.Where(c => deviceIds.Contains(c.RecorderId)).ToDictionaryAsync(c => (c.RecorderId, c.Number));
        var runs = await db.Runs.Include(r => r.Ends).Where(r => r.JobId == jobId).ToDictionaryAsync(r => r.Label);
        var now = time.GetUtcNow();
        int added = 0, changed = 0;
        foreach (var row in plan.Where(r => r.IsCabinet))
        {
            var cabinet = Of(cabinets, row.Label, () => new Cabinet { Id = Guid.CreateVersion7(), JobId = jobId, Label = row.Label, Name = row.Name });
            (cabinet.Name, cabinet.X, cabinet.Y) = (row.Name, row.X, row.Y);
        }
        var byLabel = new Dictionary<string, Device>();
        foreach (var row in plan.Where(r => !r.IsCabinet).OrderBy(r => r.Kind == "recorder" ? 0 : 1))
        {
            var isNew = !devices.ContainsKey(row.Label);
            var area = Of(areas, row.Area, () => new Area { Id = Guid.CreateVersion7(), JobId = jobId, Name = row.Area, Order = areas.Count });
            var device = Of(devices, row.Label, () => new Device { Id = Guid.CreateVersion7(), JobId = jobId, Label = row.Label, Name = row.Name, Kind = row.Kind, Model = row.Model });
            byLabel[row.Label] = device;
            device.AreaId = area.Id;
            (device.Name, device.Kind, device.Model, device.Features, device.Address) = (row.Name, row.Kind, row.Model, row.Features, row.Address);
            (device.PowerClass, device.WattsInfraredOff, device.WattsInfraredOn, device.SpeedMbps) = (row.PowerClass, row.WattsInfraredOff, row.WattsInfraredOn, row.SpeedMbps);
            (device.X, device.Y, device.HeightMetres, device.Reach) = (row.X, row.Y, row.HeightMetres, row.Reach);
            if (row.Serial is { } serial && !installed[device.Id].Any())
            {
                var unit = Of(units, serial, () => new Unit { Id = Guid.CreateVersion7(), JobId = jobId, Serial = serial, HardwareAddress = row.HardwareAddress });
                db.Add(new Installation { Id = Guid.CreateVersion7(), DeviceId = device.Id, UnitId = unit.Id, From = now });
            }
            for (var n = 1; n <= row.Heads; n++)
            {
                var number = n;
                var head = Of(heads, (device.Id, number), () => new Head { Id = Guid.CreateVersion7(), DeviceId = device.Id, Number = number });
                if (row.RecorderLabel is { } recorder && number <= row.Channels.Count)
                    Of(channels, (byLabel[recorder].Id, row.Channels[number - 1]), () => new Channel { Id = Guid.CreateVersion7(), RecorderId = byLabel[recorder].Id, Number = row.Channels[number - 1], HeadId = head.Id }).HeadId = head.Id;
            }
            Port? port = null;
            if (row.Port is { } portNumber)
            {
                var cabinet = cabinets[row.CabinetLabel!];
                port = Of(ports, (cabinet.Id, portNumber), () => new Port { Id = Guid.CreateVersion7(), CabinetId = cabinet.Id, Number = portNumber });
                (port.SourceVolts, port.SpeedMbps) = (row.SourceVolts, row.PortSpeedMbps);
            }
            if (row.Run is { } label)
            {
                var run = Of(runs, label, () => new Run { Id = Guid.CreateVersion7(), JobId = jobId, Label = label });
                (run.Configuration, run.LengthMetres, run.GaugeAwg, run.Material, run.Screened) = (row.Configuration, row.LengthMetres, row.GaugeAwg, row.Material, row.Screened);
                (run.TemperatureC, run.CordsMetres, run.CordGaugeAwg, run.Scheme) = (row.TemperatureC, row.CordsMetres, row.CordGaugeAwg, row.Scheme);
                if (run.Ends.All(e => e.DeviceId != device.Id)) End(run, CableEnd.Far, device.Id, null);
                if (port is not null && run.Ends.All(e => e.PortId != port.Id)) End(run, CableEnd.Near, null, port.Id);
            }
            db.ChangeTracker.DetectChanges();
            if (isNew) added++;
            else if (db.ChangeTracker.Entries().Any(e => e.State is EntityState.Modified or EntityState.Added)) changed++;
            await db.SaveChangesAsync();
        }
        await db.SaveChangesAsync();
        return new ScheduleResult(added, changed, byLabel.Count - added - changed, []);

        void End(Run run, CableEnd side, Guid? deviceId, Guid? portId)
        {
            var end = new RunEnd { Id = Guid.CreateVersion7(), RunId = run.Id, Side = side, DeviceId = deviceId, PortId = portId };
            run.Ends.Add(end);
            db.Entry(end).State = EntityState.Added;
        }

        T Of<TKey, T>(Dictionary<TKey, T> known, TKey key, Func<T> make) where TKey : notnull where T : class
        {
            if (known.TryGetValue(key, out var found)) return found;
            known[key] = found = make();
            db.Add(found);
            return found;
        }
    }
}
