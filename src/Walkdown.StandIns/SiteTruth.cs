using System.Globalization;
using System.Text.Json;
using Walkdown.Core;
using Walkdown.Core.Cabling;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Coax;
using Walkdown.Core.Power;
using Walkdown.Core.Radio;

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
    public int PowerClass { get; init; } = 3;
    public bool Powered { get; init; }
    public string Cabinet { get; init; } = "";
    public int Port { get; init; }

    /// <summary>Two devices hang on it by sharing adapters.</summary>
    public bool Shared { get; init; }

    /// <summary>Pulled hard: one conductor opens now and then, and under load.</summary>
    public bool HardPull { get; init; }
    public double LossPercent { get; init; }
    public double ErrorPpm { get; init; }
    public string? Note { get; init; }

    public double TotalMetres => (Metres ?? PlannedMetres) + CordMetres + ExtraCordMetres;

    /// <summary>True loop of one pair, ohm.</summary>
    public double LoopOhms =>
        Conductor.PairLoopOhms(GaugeAwg, Metres ?? PlannedMetres, TemperatureC, Material)
        + Conductor.PairLoopOhms(CordGaugeAwg, CordMetres, TemperatureC, ConductorMaterial.StrandedCopper)
        + Conductor.PairLoopOhms(ExtraCordGaugeAwg, ExtraCordMetres, TemperatureC, ConductorMaterial.StrandedCopper);

    public bool IsHealthy =>
        Map.SequenceEqual([1, 2, 3, 4, 5, 6, 7, 8])
        && Material == ConductorMaterial.SolidCopper
        && ExtraCordMetres == 0
        && !HardPull
        && LossPercent == 0
        && Note is null;

    /// <summary>The pins as they are at this moment.</summary>
    public int[] MapAt(double seconds) =>
        Shared ? [1, 2, 3, 0, 0, 6, 0, 0]
        : HardPull && (int)(seconds / 90) % 2 == 1 ? [.. Map.Select((far, i) => i == 6 ? 0 : far)]
        : Map;
}

/// <summary>The true state of one device.</summary>
public sealed record DeviceTruth
{
    public string Label { get; init; } = "";
    public string Run { get; init; } = "";
    public string? Supply { get; init; }
    public double SupplyMetres { get; init; }
    public double WattsInfraredOff { get; init; }
    public double WattsInfraredOn { get; init; }
    public bool ReversedSupply { get; init; }
    public string ModeSwitch { get; init; } = "standard";

    /// <summary>The part that its pack lacks, by item id.</summary>
    public string? MissingPart { get; init; }
    public string? Firmware { get; init; }

    /// <summary>Its video line, where it hangs on coax.</summary>
    public CoaxTruth? Coax { get; init; }

    /// <summary>Its link, where it is on the air.</summary>
    public RadioTruth? Radio { get; init; }

    /// <summary>Its microphone; sound where nothing is planted.</summary>
    public SoundTruth Sound { get; init; } = new();

    /// <summary>Its input and output; sound where nothing is planted.</summary>
    public ContactTruth Contacts { get; init; } = new();

    /// <summary>How far each preset comes back from where it was set, degrees; null: it never arrives. Of those that are not planted a
    /// sound gear's play is heard.</summary>
    public double?[] Presets { get; init; } = [];

    /// <summary>How many presets it has.</summary>
    public int PresetCount { get; init; }

    /// <summary>Its white light; sound where nothing is planted.</summary>
    public LightTruth Light { get; init; } = new();

    /// <summary>What somebody who looks here sees wrong, each until it is mended.</summary>
    public SeenTruth[] Seen { get; init; } = [];

    /// <summary>Simulated second at which its last start or update began, and whether that is an update.</summary>
    public double StartedAt { get; init; } = -10_000;
    public bool Updating { get; init; }
    public string? Note { get; init; }
}

/// <summary>A video line as it truly is.</summary>
/// <param name="Loads">Terminations on it; one is right.</param>
/// <param name="WetDb">What water or a crush takes of the burst beside its length.</param>
/// <param name="CameraPercent">Of what a sound camera gives.</param>
/// <param name="Cut">Open or short: nothing arrives.</param>
/// <param name="GroundVolts">Between both shields.</param>
public sealed record CoaxTruth(
    CoaxKind Kind = CoaxKind.Rg59,
    double Metres = 80,
    int Loads = 1,
    double WetDb = 0,
    double CameraPercent = 100,
    bool Cut = false,
    double GroundVolts = 0.02
)
{
    /// <summary>What a level of this many millivolts at the camera becomes at the recorder, at a frequency.</summary>
    public double Arrives(double millivolts, double megahertz, bool isBurst)
    {
        if (Cut)
            return 0;
        // Loads of 75 ohm side by side, fed through 75 ohm with twice the level.
        var share = Loads == 0 ? 2 : 2.0 / (1 + Loads);
        return millivolts
            * CameraPercent
            / 100
            * share
            * CoaxCable.LossOf(Kind, megahertz, Metres).LevelFraction
            * Math.Pow(10, -(isBurst ? WetDb : 0) / 20);
    }

    public CoaxTruth Mended => this with { Loads = 1, WetDb = 0, CameraPercent = 100, Cut = false, GroundVolts = 0.02 };
}

/// <summary>A radio link as it truly is.</summary>
/// <param name="TurnedDeg">One antenna against the other.</param>
/// <param name="BlockedDb">What stands in its way.</param>
/// <param name="Crowded">Others share its channel: half of the rate is theirs.</param>
/// <param name="Supplied">Its own supply is plugged in.</param>
public sealed record RadioTruth(
    double Metres = 1200,
    double Megahertz = 5800,
    double PowerDbm = 20,
    double GainDbi = 23,
    double LeadDb = 1,
    double SensitivityDbm = -75,
    double RateMbps = 300,
    double StreamMbps = 12,
    double TurnedDeg = 0,
    double BlockedDb = 0,
    bool Crowded = false,
    bool Supplied = true
)
{
    /// <summary>What the receiver hears, dBm.</summary>
    public double LevelDbm =>
        !Supplied
            ? -120
            : RadioLink
                .BudgetOf(
                    new(
                        Metres,
                        Megahertz,
                        PowerDbm,
                        GainDbi,
                        GainDbi,
                        LeadDb,
                        LeadDb,
                        SensitivityDbm,
                        BlockedDb + RadioLink.PolarisationLossDb(TurnedDeg)
                    )
                )
                .ReceiveDbm;

    /// <summary>What is negotiated: nothing without a level, less near the edge.</summary>
    public double NegotiatedMbps => Math.Clamp((LevelDbm - SensitivityDbm) / 20, 0, 1) * RateMbps * (Crowded ? 0.5 : 1);

    public RadioTruth Mended => this with { TurnedDeg = 0, BlockedDb = 0, Crowded = false, Supplied = true };
}

/// <summary>A microphone as it truly is.</summary>
/// <param name="VoiceDb">A voice at two metres above the noise of the place.</param>
/// <param name="DelayMs">From mouth to loudspeaker.</param>
public sealed record SoundTruth(double VoiceDb = 21, double DelayMs = 280);

/// <summary>Contacts as they truly are.</summary>
/// <param name="InputDead">No wire on it, or on the wrong screw: nothing that happens there is told.</param>
/// <param name="OutputHeld">Welded: it never lets go.</param>
/// <param name="CutTold">A cut wire is told from an opened contact.</param>
public sealed record ContactTruth(bool InputDead = false, bool OutputHeld = false, bool CutTold = true)
{
    public Dictionary<string, object> Input =>
        new()
        {
            ["closed"] = InputDead ? "not-seen" : "seen",
            ["opened"] = InputDead ? "not-seen" : "seen",
            ["cut"] = InputDead || !CutTold ? "not-seen" : "seen",
        };

    public Dictionary<string, object> Output => new() { ["on"] = "seen", ["off"] = OutputHeld ? "not-seen" : "seen" };
}

/// <summary>A white light as it truly is.</summary>
/// <param name="Dead">It never comes on.</param>
/// <param name="Held">It never goes off.</param>
/// <param name="Grey">The picture stays grey under it.</param>
/// <param name="Fixed">Its setting cannot be switched off.</param>
/// <param name="LightsNeighbours">It shines where others live.</param>
public sealed record LightTruth(bool Dead = false, bool Held = false, bool Grey = false, bool Fixed = false, bool LightsNeighbours = false)
{
    public Dictionary<string, object> Seen =>
        new()
        {
            ["movement"] = Dead ? "stays-dark" : "comes-on",
            ["colour"] = Dead || Grey ? "grey" : "colour",
            ["still"] = Held && !Dead ? "stays-on" : "goes-off",
            ["off"] = Fixed ? "cannot" : "can-be-off",
            ["neighbours"] = LightsNeighbours && !Dead ? "lit" : "not-lit",
        };
}

/// <summary>Something wrong that is seen, not measured.</summary>
/// <param name="Check">The check that asks for it.</param>
/// <param name="Says">What an honest answer says: a word, an item with its state, a field with its word, or a number.</param>
/// <param name="Note">What was planted.</param>
/// <param name="Mend">What mends it.</param>
public sealed record SeenTruth(string Check, string Says, string Note, string Mend);

/// <summary>A supply or a switch as it truly is.</summary>
public sealed record SourceTruth(
    string Label,
    string Kind,
    string? Cabinet = null,
    string? Mode = null,
    double? BudgetWatts = null,
    double? PortLimitWatts = null,
    SupplyRange Range = SupplyRange.V12Dc,
    double? Volts = null,
    double? WireGaugeAwg = null,
    double? WireAreaMm2 = null,
    double? TemperatureC = null,
    double? ReservePercent = null,
    string? Model = null,
    double? RatedAmperes = null,
    double? FuseAmperes = null,
    double? CableAmperes = null,
    double? RegulationPercent = null
);

/// <summary>The whole made-up site: healthy runs by the schedule, faults by truth.json, all repairable.</summary>
public sealed class SiteTruth
{
    private readonly Dictionary<string, RunTruth> _runs = new(StringComparer.OrdinalIgnoreCase);
    private readonly Dictionary<string, DeviceTruth> _devices = new(StringComparer.OrdinalIgnoreCase);
    private readonly Lock _lock = new();

    public int Seed { get; }

    public IReadOnlyList<SourceTruth> Sources { get; }

    private sealed record File(int Seed, Dictionary<string, RunTruth> Runs, Dictionary<string, DeviceTruth>? Devices = null);

    private sealed record Job(List<SourceTruth>? Sources);

    public SiteTruth(string scheduleCsv, string truthJson, string? jobJson = null)
    {
        var file = JsonSerializer.Deserialize<File>(truthJson, CoreJson.Options)!;
        Sources = jobJson is null
            ? []
            : JsonSerializer
                .Deserialize<Job>(
                    jobJson,
                    new JsonSerializerOptions(CoreJson.Options)
                    {
                        UnmappedMemberHandling = System.Text.Json.Serialization.JsonUnmappedMemberHandling.Skip,
                    }
                )!
                .Sources
                ?? [];
        Seed = file.Seed;
        var lines = scheduleCsv.Split('\n', StringSplitOptions.RemoveEmptyEntries);
        var header = lines[0].Trim().Split(',');
        foreach (var line in lines.Skip(1))
        {
            var cells = Schedule.Split(line.Trim());
            string Cell(string name) => Array.IndexOf(header, name) is >= 0 and var i && i < cells.Count ? cells[i] : "";
            double Number(string name, double absent) => double.TryParse(Cell(name), CultureInfo.InvariantCulture, out var n) ? n : absent;
            var label = Cell("run");
            if (label.Length == 0)
            {
                // On coax or on the air: no run of pairs, and yet a device.
                if (file.Devices?.GetValueOrDefault(Cell("label")) is { } apart)
                    _devices[Cell("label")] = apart with { Label = Cell("label") };
                continue;
            }
            var noise = new Noise(Seed, label, "truth", 0);
            var kind = Kinds.Value.GetValueOrDefault(Cell("kind"));
            var planned = Number("length_m", 30);
            var cords = Number("cords_m", 0);
            var supply = Cell("supply");
            var healthy = new RunTruth
            {
                PlannedMetres = planned,
                Metres = Math.Round(planned * (1 + noise.Between(-0.03, 0.02)), 1),
                CordMetres = cords,
                CordGaugeAwg = Number("cord_gauge_awg", 24),
                GaugeAwg = Number("gauge_awg", 24),
                TemperatureC = Number("temperature_c", 16) + noise.Between(-2, 2),
                SourceVolts = 54 + noise.Between(-0.3, 0.3),
                WattsInfraredOff = kind?.WattsInfraredOff * (1 + noise.Between(-0.04, 0.04)),
                WattsInfraredOn = kind?.WattsInfraredOn * (1 + noise.Between(-0.04, 0.04)),
                SpeedMbps = (int)Math.Min(Number("port_speed_mbps", 1000), kind?.SpeedMbps ?? 1000),
                PowerClass = kind?.PowerClass ?? 0,
                Powered = kind?.Features.Contains("poe") == true && supply.Length == 0,
                Cabinet = Cell("switch").Length > 0 ? $"{Cell("cabinet")} {Cell("switch")}" : Cell("cabinet"),
                Port = (int)Number("port", 0),
                Shared = _runs.ContainsKey(label),
            };
            if (healthy.Shared)
                healthy = healthy with { SpeedMbps = Math.Min(100, healthy.SpeedMbps), Metres = _runs[label].Metres };
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
                    HardPull = fault.HardPull,
                    LossPercent = fault.LossPercent,
                    ErrorPpm = fault.ErrorPpm,
                    Note = fault.Note,
                };
            _runs[label] = healthy;
            var own = file.Devices?.GetValueOrDefault(Cell("label")) ?? new DeviceTruth();
            _devices[Cell("label")] = own with
            {
                Label = Cell("label"),
                Run = label,
                PresetCount = Cell("features")
                    .Split(' ')
                    .Select(f => f.StartsWith("presets-", StringComparison.Ordinal) && int.TryParse(f[8..], out var n) ? n : 0)
                    .Max(),
                Supply = supply.Length > 0 ? supply : null,
                SupplyMetres = Number("supply_m", 10),
                WattsInfraredOff = healthy.WattsInfraredOff ?? 5,
                WattsInfraredOn = healthy.WattsInfraredOn ?? healthy.WattsInfraredOff ?? 5,
            };
        }
    }

    private static readonly Lazy<Dictionary<string, DeviceKind>> Kinds = new(() =>
        Catalogue.Shipped.SelectMany(f => JsonSerializer.Deserialize<CatalogueFile>(f.Json, Catalogue.Json)!.Kinds).ToDictionary(k => k.Id)
    );

    /// <summary>A run by its own label, or the run of a device.</summary>
    public RunTruth? Run(string label)
    {
        lock (_lock)
            return _runs.GetValueOrDefault(label)
                ?? (_devices.TryGetValue(label, out var device) ? _runs.GetValueOrDefault(device.Run) : null);
    }

    /// <summary>What runs to a device: its pairs, or none where it hangs on coax or is on the air; null where there is no such
    /// device.</summary>
    public RunTruth? At(string label)
    {
        lock (_lock)
            return Run(label) ?? (_devices.ContainsKey(label) ? new RunTruth() : null);
    }

    /// <summary>A device by its label, or the first on a run.</summary>
    public DeviceTruth? Device(string label)
    {
        lock (_lock)
            return _devices.GetValueOrDefault(label)
                ?? _devices.Values.FirstOrDefault(d => d.Run.Equals(label, StringComparison.OrdinalIgnoreCase));
    }

    public IReadOnlyList<DeviceTruth> OnSupply(string supply)
    {
        lock (_lock)
            return [.. _devices.Values.Where(d => d.Supply == supply).OrderBy(d => d.SupplyMetres)];
    }

    /// <summary>Runs on a switch, by port.</summary>
    public IReadOnlyList<(string Label, RunTruth Run)> On(string cabinet)
    {
        lock (_lock)
            return
            [
                .. _runs
                    .Where(r => r.Value.Cabinet.Equals(cabinet, StringComparison.OrdinalIgnoreCase))
                    .OrderBy(r => r.Value.Port)
                    .Select(r => (r.Key, r.Value)),
            ];
    }

    public SourceTruth? Source(string cabinet) =>
        Sources.FirstOrDefault(s =>
            s.Kind != "supply"
            && (s.Label.Length > 0 ? $"{s.Cabinet} {s.Label}" : s.Cabinet ?? "").Equals(cabinet, StringComparison.OrdinalIgnoreCase)
        );

    public SourceTruth? Supply(string label) =>
        Sources.FirstOrDefault(s => s.Kind == "supply" && s.Label.Equals(label, StringComparison.OrdinalIgnoreCase));

    public IReadOnlyCollection<string> Faulty()
    {
        lock (_lock)
            return
            [
                .. _runs
                    .Where(r => !r.Value.IsHealthy)
                    .Select(r => r.Key)
                    .Concat(_devices.Values.Where(d => d.Note is not null).Select(d => d.Label))
                    .Distinct()
                    .Order(),
            ];
    }

    public string OtherThan(string label)
    {
        lock (_lock)
            return _runs.Keys.First(k => !k.Equals(label, StringComparison.OrdinalIgnoreCase));
    }

    /// <summary>Does work on a run or a device; it mends what such work can mend, and nothing else.</summary>
    public RunTruth? Repair(string label, string act, string? end, double seconds = 0)
    {
        lock (_lock)
        {
            if (_devices.TryGetValue(label, out var device))
            {
                _devices[label] = act switch
                {
                    "feed-changed" or "supply-changed" when device.ReversedSupply => device with { ReversedSupply = false, Note = null },
                    "mend" => device with
                    {
                        Seen = [.. device.Seen.Where(s => s.Check != end)],
                        Coax = end?.StartsWith("coax.", StringComparison.Ordinal) == true ? device.Coax?.Mended : device.Coax,
                        Radio = end?.StartsWith("radio.", StringComparison.Ordinal) == true ? device.Radio?.Mended : device.Radio,
                        Sound = end?.StartsWith("sound.", StringComparison.Ordinal) == true ? new() : device.Sound,
                        Contacts = end?.StartsWith("contact.", StringComparison.Ordinal) == true ? new() : device.Contacts,
                        Presets = end?.StartsWith("aim.preset", StringComparison.Ordinal) == true ? [] : device.Presets,
                        Light = end?.StartsWith("light.", StringComparison.Ordinal) == true ? new() : device.Light,
                    },
                    "restarted" => device with { StartedAt = seconds, Updating = false },
                    "update-started" => device with { StartedAt = seconds, Updating = true },
                    "mode-switch" => device with { ModeSwitch = device.ModeSwitch == "legacy" ? "standard" : "legacy", Note = null },
                    _ => device,
                };
                if (!_runs.ContainsKey(label))
                    label = device.Run;
            }
            if (!_runs.TryGetValue(label, out var run))
                return device is null ? null : new RunTruth();
            var straight = new RunTruth().Map;
            return _runs[label] = act switch
            {
                "hard-pull" => run with { HardPull = true, Note = "pulled hard: one conductor opens now and then" },
                "re-crimp" or "re-punch" when run.Map.Contains(0) && run.OpenAtFarEnd == (end != "near") => run with
                {
                    Map = straight,
                    Note = null,
                },
                "re-crimp" or "re-punch" when !run.Map.Contains(0) && !run.Map.SequenceEqual(straight) => run with
                {
                    Map = straight,
                    Note = null,
                },
                "cord-replaced" when run.ExtraCordMetres > 0 => run with { ExtraCordMetres = 0, Note = null },
                "cord-replaced" when run.LossPercent > 0 => run with { LossPercent = 0, ErrorPpm = 0, Note = null },
                "cable-replaced" => run with
                {
                    Map = straight,
                    Material = ConductorMaterial.SolidCopper,
                    HardPull = false,
                    LossPercent = 0,
                    ErrorPpm = 0,
                    Note = null,
                    Metres = Math.Round(Math.Min(run.PlannedMetres, (run.Metres ?? run.PlannedMetres) * 0.95) * 0.93, 1),
                },
                _ => run,
            };
        }
    }

    /// <summary>What somebody with the device in hand sees: a start takes a minute, an update two; then the recorder is looked for, and
    /// found.</summary>
    public InHand InHand(string label, double seconds)
    {
        var device = Device(label) ?? new DeviceTruth();
        var since = seconds - device.StartedAt;
        var version = device.Firmware ?? "as the baseline";
        var state =
            device.Updating && since < 120 ? "updating"
            : since < (device.Updating ? 150 : 45) ? "starting"
            : since < (device.Updating ? 165 : 60) ? "lookingForAddress"
            : "connected";
        return new InHand(
            device.MissingPart,
            device.Updating && since >= 120 ? "as the baseline" : version,
            state,
            device.ModeSwitch,
            device.Seen
        );
    }
}

/// <summary>What is seen without an instrument.</summary>
public sealed record InHand(string? MissingPart, string Firmware, string Light, string ModeSwitch, SeenTruth[] Seen);

/// <summary>Seeded noise: the same seed, run, function and attempt give the same numbers on every machine.</summary>
public sealed class Noise
{
    private ulong _state;

    public Noise(int seed, string run, string function, int attempt)
    {
        _state = 14695981039346656037;
        foreach (var c in $"{seed}|{run.ToUpperInvariant()}|{function}|{attempt}")
            _state = (_state ^ c) * 1099511628211;
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
