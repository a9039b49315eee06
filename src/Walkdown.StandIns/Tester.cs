using System.Collections.Concurrent;
using Walkdown.Core.Cabling;
using Walkdown.Core.Power;

namespace Walkdown.StandIns;

public sealed record MeasureRequest(string Function, string Run, string? Condition = null);

/// <summary>One answer of the tester (docs/formats.md, "Tester").</summary>
public sealed record MeasureAnswer(
    string Function, string Run, string Serial, int[][]? Map = null, string? ReadAt = null, Dictionary<string, double>? OpenDistanceM = null, string? RemoteLabel = null,
    double? Value = null, string? Unit = null, Dictionary<string, double>? Pairs = null, string? Choice = null);

/// <summary>How the tester behaves; all but normal are bad days.</summary>
public enum TesterMood { Normal, Silent, Nonsense, OtherRun }

/// <summary>A simulated camera and cable tester: it measures the hidden truth with its own noise.</summary>
public sealed class Tester(SiteTruth truth)
{
    private const string Serial = "CT-1140";
    private readonly ConcurrentDictionary<string, int> _attempts = new();

    public TesterMood Mood { get; set; }

    public MeasureAnswer? Measure(MeasureRequest request)
    {
        if (truth.Run(request.Run) is not { } run) return null;
        var attempt = _attempts.AddOrUpdate($"{request.Run}|{request.Function}|{request.Condition}", 0, (_, n) => n + 1);
        var noise = new Noise(truth.Seed, request.Run, request.Function + request.Condition, attempt);
        var label = Mood == TesterMood.OtherRun ? truth.OtherThan(request.Run) : request.Run;
        var answer = new MeasureAnswer(request.Function, label, Serial);
        var analysis = WireMap.Analyse(WireMapReading.FromFarPins(run.Map));
        switch (request.Function)
        {
            case "wire-map":
                var open = run.Map.Select((far, i) => (far, near: i + 1)).Where(p => p.far == 0)
                    .ToDictionary(p => p.near.ToString(), _ => Math.Round((run.OpenAtFarEnd ? run.TotalMetres - 0.4 : 0.4) * (1 + noise.Between(-0.004, 0.004)), 1));
                return answer with { Map = [.. run.Map.Select(far => far == 0 ? [] : new[] { far })], ReadAt = "far-unit", RemoteLabel = label, OpenDistanceM = open.Count > 0 ? open : null };
            case "length":
                return answer with { Value = Math.Round(run.TotalMetres * (1 + noise.Between(-0.012, 0.012)), 1), Unit = "m" };
            case "loop-resistance":
                return answer with
                {
                    Unit = "ohm",
                    Pairs = PinPair.All.ToDictionary(p => p.ToString(), _ => Math.Round(run.LoopOhms * (1 + noise.Between(-0.008, 0.008)) + noise.Between(0.01, 0.06), 2)),
                };
            case "poe-volts":
                var watts = (request.Condition == "infraredOn" ? run.WattsInfraredOn : run.WattsInfraredOff) ?? run.WattsInfraredOff ?? 5;
                var dead = analysis.Power is { A: Ability.No, B: Ability.No };
                var volts = dead ? 0 : DeviceVoltage.Solve(run.SourceVolts, watts, DeviceVoltage.PowerLoopOhms(run.LoopOhms, 2)) ?? 0;
                return answer with { Value = Math.Round(volts * (1 + noise.Between(-0.003, 0.003)), 1), Unit = "V" };
            case "link-speed":
                return answer with
                {
                    Choice = run.SpeedMbps >= 1000 && analysis.Links.Base1000 != Ability.No ? "1000" : analysis.Links.Base100 != Ability.No ? Math.Min(100, run.SpeedMbps).ToString() : "none",
                };
            default:
                return null;
        }
    }
}
