using System.Globalization;
using System.Text.Json;
using Walkdown.Core;
using Walkdown.Core.Cabling;

namespace Walkdown.StandIns;

/// <summary>The true state of one run, hidden from Walkdown.</summary>
public sealed record RunTruth
{
    public int[] Map { get; init; } = [1, 2, 3, 4, 5, 6, 7, 8];
    public bool OpenAtFarEnd { get; init; }
    public double? Metres { get; init; }
    public double GaugeAwg { get; init; } = 24;
    public ConductorMaterial Material { get; init; } = ConductorMaterial.SolidCopper;
    public double TemperatureC { get; init; } = 18;
    public double CordMetres { get; init; }
    public double CordGaugeAwg { get; init; } = 24;
    public double ExtraCordMetres { get; init; }
    public double ExtraCordGaugeAwg { get; init; } = 26;
    public double PlannedMetres { get; init; }
    public double SourceVolts { get; init; } = 54;
    public double? WattsInfraredOff { get; init; }
    public double? WattsInfraredOn { get; init; }
    public int SpeedMbps { get; init; } = 1000;
    public string? Note { get; init; }

    public double TotalMetres => (Metres ?? PlannedMetres) + CordMetres + ExtraCordMetres;

    /// <summary>True loop of one pair, ohm.</summary>
    public double LoopOhms =>
        Conductor.PairLoopOhms(GaugeAwg, Metres ?? PlannedMetres, TemperatureC, Material)
        + Conductor.PairLoopOhms(CordGaugeAwg, CordMetres, TemperatureC, ConductorMaterial.StrandedCopper)
        + Conductor.PairLoopOhms(ExtraCordGaugeAwg, ExtraCordMetres, TemperatureC, ConductorMaterial.StrandedCopper);

    public bool IsHealthy => Map.SequenceEqual([1, 2, 3, 4, 5, 6, 7, 8]) && Material == ConductorMaterial.SolidCopper && ExtraCordMetres == 0 && Note is null;
}

/// <summary>The whole made-up site: healthy runs by the schedule, faults by truth.json, all repairable.</summary>
public sealed class SiteTruth
{
    private readonly Dictionary<string, RunTruth> _runs = new(StringComparer.OrdinalIgnoreCase);
    private readonly Lock _lock = new();

    public int Seed { get; }

    private sealed record File(int Seed, Dictionary<string, RunTruth> Runs);

    public SiteTruth(string scheduleCsv, string truthJson)
    {
        var file = JsonSerializer.Deserialize<File>(truthJson, CoreJson.Options)!;
        Seed = file.Seed;
        var lines = scheduleCsv.Split('\n', StringSplitOptions.RemoveEmptyEntries);
        var header = lines[0].Trim().Split(',');
        foreach (var line in lines.Skip(1))
        {
            var cells = Split(line.Trim());
            string Cell(string name) => Array.IndexOf(header, name) is >= 0 and var i && i < cells.Count ? cells[i] : "";
            double Number(string name, double absent) => double.TryParse(Cell(name), CultureInfo.InvariantCulture, out var n) ? n : absent;
            var label = Cell("run");
            if (label.Length == 0) continue;
            var noise = new Noise(Seed, label, "truth", 0);
            var kind = Kinds.Value.GetValueOrDefault(Cell("kind"));
            var planned = Number("length_m", 30);
            var cords = Number("cords_m", 0);
            var healthy = new RunTruth
            {
                PlannedMetres = planned, Metres = Math.Round(planned * (1 + noise.Between(-0.03, 0.02)), 1), CordMetres = cords, CordGaugeAwg = Number("cord_gauge_awg", 24),
                GaugeAwg = Number("gauge_awg", 24), TemperatureC = Number("temperature_c", 16) + noise.Between(-2, 2), SourceVolts = 54 + noise.Between(-0.3, 0.3),
                WattsInfraredOff = kind?.WattsInfraredOff * (1 + noise.Between(-0.04, 0.04)), WattsInfraredOn = kind?.WattsInfraredOn * (1 + noise.Between(-0.04, 0.04)),
                SpeedMbps = (int)Math.Min(Number("port_speed_mbps", 1000), kind?.SpeedMbps ?? 1000),
            };
            if (file.Runs.GetValueOrDefault(label) is { } fault)
                healthy = healthy with
                {
                    Map = fault.Map,
                    OpenAtFarEnd = fault.OpenAtFarEnd,
                    Metres = fault.Metres ?? healthy.Metres,
                    Material = fault.Material,
                    TemperatureC = fault.TemperatureC != 18 ? fault.TemperatureC : healthy.TemperatureC,
                    ExtraCordMetres = fault.ExtraCordMetres,
                    ExtraCordGaugeAwg = fault.ExtraCordGaugeAwg,
                    Note = fault.Note,
                };
            _runs[label] = healthy;
        }
    }

    private static readonly Lazy<Dictionary<string, Core.Catalogue.DeviceKind>> Kinds = new(() =>
        Core.Catalogue.Catalogue.Shipped.SelectMany(f => JsonSerializer.Deserialize<Core.Catalogue.CatalogueFile>(f.Json, Core.Catalogue.Catalogue.Json)!.Kinds).ToDictionary(k => k.Id));

    public RunTruth? Run(string label)
    {
        lock (_lock) return _runs.GetValueOrDefault(label);
    }

    public IReadOnlyCollection<string> Faulty()
    {
        lock (_lock) return [.. _runs.Where(r => !r.Value.IsHealthy).Select(r => r.Key).Order()];
    }

    public string OtherThan(string label)
    {
        lock (_lock) return _runs.Keys.First(k => !k.Equals(label, StringComparison.OrdinalIgnoreCase));
    }

    /// <summary>Does work on a run; it mends what such work can mend, and nothing else.</summary>
    public RunTruth? Repair(string label, string act, string? end)
    {
        lock (_lock)
        {
            if (!_runs.TryGetValue(label, out var run)) return null;
            var straight = new RunTruth().Map;
            return _runs[label] = act switch
            {
                "re-crimp" or "re-punch" when run.Map.Contains(0) && run.OpenAtFarEnd == (end != "near") => run with { Map = straight, Note = null },
                "re-crimp" or "re-punch" when !run.Map.Contains(0) && !run.Map.SequenceEqual(straight) => run with { Map = straight, Note = null },
                "cord-replaced" when run.ExtraCordMetres > 0 => run with { ExtraCordMetres = 0, Note = null },
                "cable-replaced" => run with { Map = straight, Material = ConductorMaterial.SolidCopper, Metres = Math.Round(Math.Min(run.PlannedMetres, (run.Metres ?? run.PlannedMetres) * 0.95) * 0.93, 1), Note = null },
                _ => run,
            };
        }
    }

    private static List<string> Split(string line)
    {
        var cells = new List<string>();
        var cell = new System.Text.StringBuilder();
        var quoted = false;
        foreach (var c in line)
        {
            if (c == '"') quoted = !quoted;
            else if (c == ',' && !quoted)
            {
                cells.Add(cell.ToString());
                cell.Clear();
            }
            else cell.Append(c);
        }
        cells.Add(cell.ToString());
        return cells;
    }
}

/// <summary>Seeded noise: the same seed, run, function and attempt give the same numbers on every machine.</summary>
public sealed class Noise
{
    private ulong _state;

    public Noise(int seed, string run, string function, int attempt)
    {
        _state = 14695981039346656037;
        foreach (var c in $"{seed}|{run.ToUpperInvariant()}|{function}|{attempt}") _state = (_state ^ c) * 1099511628211;
    }

    /// <summary>Evenly spread between both ends.</summary>
    public double Between(double low, double high)
    {
        _state += 0x9E3779B97F4A7C15;
        var z = _state;
        z = (z ^ (z >> 30)) * 0xBF58476D1CE4E5B9;
        z = (z ^ (z >> 27)) * 0x94D049BB133111EB;
        return low + (high - low) * ((z ^ (z >> 31)) >> 11) * (1.0 / (1UL << 53));
    }
}
