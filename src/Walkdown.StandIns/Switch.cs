using Walkdown.Core.Cabling;
using Walkdown.Core.Power;

namespace Walkdown.StandIns;

public sealed record SwitchRequest(string Function, string Cabinet, int Port, string? Condition = null);

public sealed record Counters(long Packets, long Errors);

/// <summary>One answer of a switch (docs/formats.md, "Switch").</summary>
public sealed record SwitchAnswer(
    string Function,
    string Cabinet,
    int Port,
    string Serial,
    double? Value = null,
    string? Unit = null,
    string? Choice = null,
    Counters? First = null,
    Counters? Second = null,
    double? IntervalS = null,
    int? Bits = null
);

/// <summary>One port as the switch's own table shows it.</summary>
public sealed record SwitchPort(int Port, string Run, bool Powered, double Watts, int PowerClass, string Speed, string Duplex);

public sealed record SwitchTable(string Cabinet, double? BudgetW, double UsedW, IReadOnlyList<SwitchPort> Ports);

/// <summary>Simulated switches and injectors: they grant power in order of their ports and really drop the last device when the budget is
/// gone.</summary>
public sealed class Switch(SiteTruth truth, SimClock clock)
{
    /// <summary>Ports that get power now. One device may have its infrared on though it is day.</summary>
    public IReadOnlyDictionary<int, double> Granted(string cabinet, int? lit = null)
    {
        var source = truth.Source(cabinet);
        var granted = new Dictionary<int, double>();
        double used = 0;
        foreach (var (_, run) in truth.On(cabinet))
        {
            if (!run.Powered || granted.ContainsKey(run.Port))
                continue;
            var watts = Watts(run, clock.Dark || lit == run.Port);
            if (source?.PortLimitWatts is { } most && watts > most || source?.BudgetWatts is { } budget && used + watts > budget)
                continue;
            used += watts;
            granted[run.Port] = watts;
        }
        return granted;
    }

    /// <summary>Watts that the port gives: the draw and what the run loses.</summary>
    public static double Watts(RunTruth run, bool infrared)
    {
        var load = (infrared ? run.WattsInfraredOn : run.WattsInfraredOff) ?? run.WattsInfraredOff ?? 5;
        var loop = DeviceVoltage.PowerLoopOhms(run.LoopOhms, run.PowerClass >= 5 ? 4 : 2);
        return DeviceVoltage.Solve(run.SourceVolts, load, loop) is { } volts ? load * run.SourceVolts / volts : 0;
    }

    public SwitchTable Table(string cabinet)
    {
        var granted = Granted(cabinet);
        return new SwitchTable(
            cabinet,
            truth.Source(cabinet)?.BudgetWatts,
            Math.Round(granted.Values.Sum(), 1),
            [
                .. truth
                    .On(cabinet)
                    .Select(r => new SwitchPort(
                        r.Run.Port,
                        r.Label,
                        granted.ContainsKey(r.Run.Port),
                        Math.Round(granted.GetValueOrDefault(r.Run.Port), 1),
                        r.Run.PowerClass,
                        Speed(r.Run, granted.ContainsKey(r.Run.Port) || !r.Run.Powered),
                        "full"
                    )),
            ]
        );
    }

    /// <summary>What a link comes up at.</summary>
    public string Speed(RunTruth run, bool powered)
    {
        if (!powered)
            return "none";
        if (run.Shared)
            return "100";
        var links = WireMap.Analyse(WireMapReading.FromFarPins(run.MapAt(clock.Seconds))).Links;
        return run.SpeedMbps >= 1000 && links.Base1000 != Ability.No ? "1000"
            : links.Base100 != Ability.No ? Math.Min(100, run.SpeedMbps).ToString()
            : "none";
    }

    public SwitchAnswer? Measure(SwitchRequest request, int attempt)
    {
        if (truth.On(request.Cabinet).FirstOrDefault(r => r.Run.Port == request.Port) is not { Run: { } run, Label: { } label })
            return null;
        var noise = new Noise(truth.Seed, label, request.Function + request.Condition, attempt);
        var answer = new SwitchAnswer(request.Function, request.Cabinet, request.Port, "SW-" + request.Cabinet);
        switch (request.Function)
        {
            case "port-watts":
                var lit = request.Condition == "infraredOn";
                return answer with
                {
                    Value = Math.Round(
                        Granted(request.Cabinet, lit ? request.Port : null).GetValueOrDefault(request.Port)
                            * (1 + noise.Between(-0.01, 0.01)),
                        1
                    ),
                    Unit = "W",
                };
            case "duplex":
                return answer with { Choice = "full" };
            case "flaps":
                return answer with { Value = run.HardPull ? 2 : 0, Unit = "x" };
            case "uplink-load":
                return answer with { Value = Math.Round(22 + noise.Between(0, 6)), Unit = "%" };
            case "counters":
                // The switch remembers an hour; a stream of some 2,000 packets a second.
                var packets = (long)(7_200_000 * (1 + noise.Between(-0.1, 0.1)));
                var from = (long)noise.Between(1e6, 4e9);
                var errors = (long)Math.Round(packets * (run.ErrorPpm + (run.HardPull ? 8 : 0)) / 1e6);
                return answer with
                {
                    First = new(from, 3),
                    Second = new((from + packets) % 4294967296, 3 + errors),
                    IntervalS = 3600,
                    Bits = 32,
                };
            default:
                return null;
        }
    }
}
