using System.Collections.Concurrent;
using Walkdown.Core.Cabling;
using Walkdown.Core.Power;

namespace Walkdown.StandIns;

public sealed record MeasureRequest(string Function, string Run, string? Condition = null);

/// <summary>One answer of the tester (docs/formats.md, "Tester").</summary>
public sealed record MeasureAnswer(
    string Function,
    string Run,
    string Serial,
    int[][]? Map = null,
    string? ReadAt = null,
    Dictionary<string, double>? OpenDistanceM = null,
    string? RemoteLabel = null,
    double? Value = null,
    string? Unit = null,
    Dictionary<string, double?>? Pairs = null,
    string? Choice = null,
    bool? ShieldArrives = null,
    int[][]? TwistedPairs = null,
    int? Sent = null,
    int? Received = null,
    double?[]? RoundTripsMs = null,
    Dictionary<string, object>? Fields = null
);

/// <summary>How the tester behaves; all but normal are bad days.</summary>
public enum TesterMood
{
    Normal,
    Silent,
    Nonsense,
    OtherRun,
}

/// <summary>A simulated camera and cable tester: it measures the hidden truth with its own noise.</summary>
public sealed class Tester(SiteTruth truth, Switch switches, SimClock clock)
{
    private const int Probes = 4000;
    private const int TripsTold = 200;

    private const string Serial = "CT-1140";
    private readonly ConcurrentDictionary<string, int> _attempts = new();

    public TesterMood Mood { get; set; }

    public MeasureAnswer? Measure(MeasureRequest request)
    {
        if (truth.Device(request.Run) is { Coax: not null } or { Radio: not null } && Apart(request) is { } apart)
            return apart;
        if (Functions(request) is { } function)
            return function;
        if (truth.Run(request.Run) is not { } run)
            return null;
        var attempt = _attempts.AddOrUpdate($"{request.Run}|{request.Function}|{request.Condition}", 0, (_, n) => n + 1);
        var noise = new Noise(truth.Seed, request.Run, request.Function + request.Condition, attempt);
        var label = Mood == TesterMood.OtherRun ? truth.OtherThan(request.Run) : request.Run;
        var answer = new MeasureAnswer(request.Function, label, Serial);
        var map = run.MapAt(clock.Seconds);
        var device = truth.Device(request.Run);
        var lit = request.Condition == "infraredOn" || clock.Dark;
        switch (request.Function)
        {
            case "wire-map":
                var open = run.Shared
                    ? []
                    : map.Select((far, i) => (far, near: i + 1))
                        .Where(p => p.far == 0)
                        .ToDictionary(
                            p => p.near.ToString(),
                            _ =>
                                Math.Round(
                                    (
                                        run.HardPull ? run.TotalMetres * 0.6
                                        : run.OpenAtFarEnd ? run.TotalMetres - 0.4
                                        : 0.4
                                    ) * (1 + noise.Between(-0.004, 0.004)),
                                    1
                                )
                        );
                return answer with
                {
                    Map = [.. map.Select(far => far == 0 ? [] : new[] { far })],
                    ReadAt = "far-unit",
                    RemoteLabel = label,
                    OpenDistanceM = open.Count > 0 ? open : null,
                    TwistedPairs = map.SequenceEqual(new RunTruth().Map)
                        ?
                        [
                            [1, 2],
                            [3, 6],
                            [4, 5],
                            [7, 8],
                        ]
                        : null,
                };
            case "length":
                return answer with { Value = Math.Round(run.TotalMetres * (1 + noise.Between(-0.012, 0.012)), 1), Unit = "m" };
            case "loop-resistance":
                return answer with
                {
                    Unit = "ohm",
                    Pairs = (run.Shared ? PinPair.Shared : PinPair.All).ToDictionary(
                        p => p.ToString(),
                        _ => (double?)Math.Round(run.LoopOhms * (1 + noise.Between(-0.008, 0.008)) + noise.Between(0.01, 0.06), 2)
                    ),
                };
            case "unbalance":
                return answer with
                {
                    Unit = "ohm",
                    Pairs = PinPair.All.ToDictionary(p => p.ToString(), _ => (double?)Math.Round(0.02 + noise.Between(0, 0.06), 3)),
                };
            case "delay":
                return answer with
                {
                    Unit = "ns",
                    Pairs = PinPair.All.ToDictionary(
                        p => p.ToString(),
                        _ => (double?)Math.Round(run.TotalMetres / 100 * 545.4 * (1 + noise.Between(-0.015, 0.015)))
                    ),
                };
            case "poe-class":
                if (!run.Powered || Power(map, run.PowerClass) is null)
                    return answer with { Choice = "none" };
                var source = truth.Source(run.Cabinet);
                return answer with
                {
                    Choice =
                        source?.Mode == "legacyHighPower" ? "legacy"
                        : !switches.Granted(run.Cabinet, lit ? run.Port : null).ContainsKey(run.Port) ? "none"
                        : run.PowerClass.ToString(),
                };
            case "poe-volts":
            case "poe-watts":
                var limited = truth.Source(run.Cabinet)?.Mode == "legacyHighPower" && device?.ModeSwitch == "standard";
                var watts = (lit ? run.WattsInfraredOn : run.WattsInfraredOff) ?? run.WattsInfraredOff ?? 5;
                if (limited)
                    watts = Math.Min(watts, 25.5);
                if (
                    !run.Powered
                    || Power(map, run.PowerClass) is not { } pairs
                    || !switches.Granted(run.Cabinet, lit ? run.Port : null).ContainsKey(run.Port)
                )
                    return answer with { Value = 0, Unit = request.Function == "poe-volts" ? "V" : "W" };
                var volts = DeviceVoltage.Solve(run.SourceVolts, watts, DeviceVoltage.PowerLoopOhms(run.LoopOhms, pairs)) ?? 0;
                return request.Function == "poe-volts"
                    ? answer with
                    {
                        Value = Math.Round(volts * (1 + noise.Between(-0.003, 0.003)), 1),
                        Unit = "V",
                    }
                    : answer with
                    {
                        Value = Math.Round((volts > 0 ? watts : 0) * (1 + noise.Between(-0.01, 0.01)), 1),
                        Unit = "W",
                    };
            case "supply-volts":
            case "supply-stray":
                if (device?.Supply is not { } name || truth.Supply(name) is not { Volts: { } supplied } supply)
                    return null;
                if (request.Function == "supply-stray")
                    return answer with { Value = Math.Round(noise.Between(0, 0.04), 2), Unit = "V" };
                var taps = truth.OnSupply(name);
                var solved = LowVoltage.Along(
                    supplied,
                    supply.WireAreaMm2 is { } area ? new(AreaMm2: area) : new(supply.WireGaugeAwg ?? 18),
                    (supply.TemperatureC ?? 20) + noise.Between(-3, 3),
                    [
                        .. taps.Select(t => new LowVoltage.Tap(
                            t.SupplyMetres,
                            new(LoadKind.ConstantPower, lit ? t.WattsInfraredOn : t.WattsInfraredOff)
                        )),
                    ],
                    supply.Range
                );
                var mine = taps.ToList().FindIndex(t => t.Label == device.Label);
                var there = solved.Solved ? solved.Volts[mine] * (1 + noise.Between(-0.002, 0.002)) : 0;
                return answer with { Value = Math.Round(device.ReversedSupply ? -there : there, 2), Unit = "V" };
            case "link-speed":
                return answer with { Choice = switches.Speed(run, !run.Powered || switches.Granted(run.Cabinet).ContainsKey(run.Port)) };
            case "probes":
                if (switches.Speed(run, !run.Powered || switches.Granted(run.Cabinet).ContainsKey(run.Port)) == "none")
                    return answer with { Sent = 20, Received = 0 };
                var lost = 0;
                var share = run.LossPercent / 100 + (run.HardPull ? 0.004 : 0);
                for (var i = 0; i < Probes && share > 0; i++)
                    if (noise.Between(0, 1) < share)
                        lost++;
                var trips = Enumerable
                    .Range(0, TripsTold)
                    .Select(_ => (double?)Math.Round(0.6 + noise.Between(0, 1) * noise.Between(0, 2.4), 2))
                    .ToArray();
                return answer with { Sent = Probes, Received = Probes - lost, RoundTripsMs = trips };
            default:
                return null;
        }
    }

    /// <summary>What it hears over the device's stream and tries at its contacts; null where that is another function.</summary>
    private MeasureAnswer? Functions(MeasureRequest request)
    {
        if (
            !request.Function.StartsWith("sound-", StringComparison.Ordinal)
            && !request.Function.StartsWith("contact-", StringComparison.Ordinal)
            && request.Function is not ("preset-return" or "white-light")
        )
            return null;
        if (truth.Device(request.Run) is not { } device)
            return null;
        var (answer, noise) = Begin(request);
        return request.Function switch
        {
            "sound-voice" => answer with { Value = Math.Round(device.Sound.VoiceDb + noise.Between(-1.5, 1.5)), Unit = "dB" },
            "sound-delay" => answer with { Value = Math.Round(device.Sound.DelayMs * (1 + noise.Between(-0.05, 0.05))), Unit = "ms" },
            "contact-input" => answer with { Fields = device.Contacts.Input },
            "contact-output" => answer with { Fields = device.Contacts.Output },
            // It sends the camera from each preset to the next and back, and compares where it stops with where it was set.
            "preset-return" when device.PresetCount > 0 => answer with
            {
                Unit = "deg",
                Pairs = Enumerable
                    .Range(0, device.PresetCount)
                    .ToDictionary(
                        i => $"preset-{i + 1}",
                        i =>
                            (i < device.Presets.Length ? device.Presets[i] : 0.1) is { } off
                                ? Math.Round(off + noise.Between(-0.05, 0.05), 1)
                                : (double?)null
                    ),
            },
            "white-light" => answer with { Fields = device.Light.Seen },
            _ => null,
        };
    }

    /// <summary>An answer of who was asked, or of who the tester takes it for, and the noise of this try.</summary>
    private (MeasureAnswer Answer, Noise Noise) Begin(MeasureRequest request)
    {
        var attempt = _attempts.AddOrUpdate($"{request.Run}|{request.Function}", 0, (_, n) => n + 1);
        var label = Mood == TesterMood.OtherRun ? truth.OtherThan(request.Run) : request.Run;
        return (new(request.Function, label, Serial), new(truth.Seed, request.Run, request.Function, attempt));
    }

    /// <summary>What it reads of a device on coax or on the air; null where that has no such function.</summary>
    private MeasureAnswer? Apart(MeasureRequest request)
    {
        var device = truth.Device(request.Run)!;
        var (answer, noise) = Begin(request);
        double Near(double value, double share) => Math.Round(value * (1 + noise.Between(-share, share)), 1);
        return (request.Function, device.Coax, device.Radio) switch
        {
            ("coax-level", { } coax, _) => answer with
            {
                Fields = new()
                {
                    ["system"] = "625",
                    ["sync"] = Near(coax.Arrives(300, 0.1, false), 0.01),
                    ["burst"] = Near(coax.Arrives(300, 4.43, true), 0.01),
                },
            },
            // At its test output it has a load of its own, and no cable.
            ("coax-camera-end", { } coax, _) => answer with
            {
                Fields = new() { ["system"] = "625", ["sync"] = Near(300 * coax.CameraPercent / 100, 0.01) },
            },
            ("coax-ground", { } coax, _) => answer with
            {
                Value = Math.Round(Math.Abs(coax.GroundVolts + noise.Between(-0.005, 0.005)), 2),
                Unit = "V",
            },
            ("radio-level", _, { } radio) => answer with { Value = Math.Round(radio.LevelDbm + noise.Between(-1, 1)), Unit = "dBm" },
            ("radio-rate", _, { } radio) => answer with
            {
                Fields = new() { ["negotiated"] = Math.Round(radio.NegotiatedMbps), ["streams"] = radio.StreamMbps },
            },
            _ => null,
        };
    }

    /// <summary>Pairs that the power goes over; null where none does.</summary>
    private static int? Power(int[] map, int powerClass)
    {
        var power = WireMap.Analyse(WireMapReading.FromFarPins(map)).Power;
        return power is { A: Ability.No, B: Ability.No } ? null
            : powerClass >= 5 && power is { A: Ability.Yes, B: Ability.Yes } ? 4
            : 2;
    }
}
