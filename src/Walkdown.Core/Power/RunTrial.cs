using Walkdown.Core.Acceptance;
using Walkdown.Core.Cabling;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Power;

/// <summary>What a run would read, and how far it could go.</summary>
/// <param name="LengthLimitMetres">For its configuration, less what temperature takes off.</param>
/// <param name="CordsAllowedMetres">Cords that this fixed length leaves room for; null above 102 m or where a gauge has no factor.</param>
/// <param name="LongestMetres">Of the same cable by power and data, at the heaviest state; null without power.</param>
/// <param name="Metres">Metres.</param>
/// <param name="CableMetres">Fixed cable, metres.</param>
/// <param name="CordMetres">Cords, metres.</param>
/// <param name="PairLoopOhms">Loop of a pair, ohms.</param>
/// <param name="LengthInLimit">The length is inside its limit.</param>
/// <param name="LoopLimitOhms">Limit of the loop, ohms.</param>
/// <param name="LoopInLimit">The loop is inside it.</param>
/// <param name="CordsInLimit">The cords are inside their limit.</param>
/// <param name="Shared">Two devices share it.</param>
/// <param name="Pairs">Pairs that carry power: 2 or 4.</param>
/// <param name="DeviceMinVolts">Least volts at the device.</param>
/// <param name="LimitedBy">What limits it.</param>
/// <param name="States">By state: infrared off and on.</param>
public sealed record RunTrial(
    double Metres,
    double CableMetres,
    double CordMetres,
    double PairLoopOhms,
    double LengthLimitMetres,
    bool LengthInLimit,
    double LoopLimitOhms,
    bool LoopInLimit,
    double? CordsAllowedMetres,
    bool? CordsInLimit,
    bool Shared,
    int? Pairs,
    double? DeviceMinVolts,
    double? LongestMetres,
    DeviceVoltage.LimitedBy? LimitedBy,
    ImmutableArray<RunTrialState> States
)
{
    /// <summary>A run of a Card as it stands, and what of it was measured.</summary>
    public static (RunTrialInput Input, double? MeasuredMetres, double? MeasuredPairLoopOhms) Known(
        CardFacts facts,
        Catalogue catalogue,
        RunFacts run
    )
    {
        IEnumerable<double> Read(CheckId check) =>
            Card.NumbersOf(facts, catalogue, check).Where(n => n.Key.On.Id == run.Id).Select(n => n.Value);
        var loops = Read(KnownChecks.LoopResistance).ToList();
        var place = facts.Place;
        var plate = catalogue.NameplateOf(place.Kind, place.Model, place.PowerClass, place.WattsInfraredOff, place.WattsInfraredOn);
        // A device on its own supply, or on a run that it shares, takes nothing from the port.
        int? powerClass =
            facts.Supply is null && !run.Shared && CheckPlan.FeaturesOf(facts, catalogue).Contains("poe") ? plate.PowerClass : null;
        return (
            new RunTrialInput(
                run.Path,
                run.TemperatureC.Value,
                run.Screened,
                run.Configuration,
                run.Port?.SourceVolts.Value ?? 54,
                powerClass,
                plate.WattsInfraredOff,
                plate.WattsInfraredOn
            ),
            Read(KnownChecks.Length).Select(n => (double?)n).FirstOrDefault(),
            loops.Count == (run.Shared ? PinPair.Shared : PinPair.All).Length ? loops.Average() : null
        );
    }

    /// <summary>Works a run out against the limits in force (docs/calculations.md, A and C).</summary>
    public static RunTrial Of(RunTrialInput run, Catalogue catalogue)
    {
        var path = run.Path;
        var loop = run.MeasuredPairLoopOhms ?? path.PairLoopOhms(run.TemperatureC);
        CableLength.CordAllowance? cords = null;
        var gauge = path.Pieces.Where(p => p.Kind == PieceKind.Cord).Select(p => p.GaugeAwg ?? 24).DefaultIfEmpty(24).Max();
        var limit =
            CableLimits.LengthOf(catalogue, run.Configuration, run.TemperatureC, run.Screened, path.CordMetres, gauge)?.Max
            ?? double.MaxValue;
        var ohms = CableLimits.LoopOf(catalogue, run.Configuration)?.Max ?? double.MaxValue;
        if (path.CableMetres <= 102 && gauge is 22 or 23 or 24 or 26)
            cords = CableLength.CordsAllowed(path.CableMetres, (int)gauge, path.CordMetres);
        var powered = run.PowerClass is not null && !path.IsShared;
        var table = powered ? PoeClass.Of(run.PowerClass!.Value) : null;
        var states = ImmutableArray.CreateBuilder<RunTrialState>(2);
        double? longest = null;
        DeviceVoltage.LimitedBy? by = null;
        if (table is not null)
        {
            foreach (var (state, watts) in new[] { ("infraredOff", run.WattsInfraredOff), ("infraredOn", run.WattsInfraredOn) })
            {
                if (watts is not { } load)
                    continue;
                var ladder = PowerPath.Along(
                    path,
                    run.SourceVolts,
                    load,
                    run.TemperatureC,
                    table.Pairs,
                    run.PowerClass,
                    run.MeasuredPairLoopOhms
                );
                states.Add(
                    new(
                        state,
                        load,
                        ladder.Run.Verdict,
                        ladder.Run.Volts,
                        ladder.Run.Amperes,
                        ladder.Run.LossWatts,
                        ladder.Run.SourceWatts,
                        ladder.Run.MaxWatts,
                        ladder.Rungs,
                        Overloaded(path, ladder, load)
                    )
                );
            }
            if (
                path.Pieces.FirstOrDefault(p => p.Kind == PieceKind.Cable) is { } cable
                && Math.Max(run.WattsInfraredOff ?? 0, run.WattsInfraredOn ?? 0) is > 0 and var heaviest
            )
            {
                // What is not the fixed cable stays as it is and counts as contacts.
                var rest =
                    Math.Max(
                        0,
                        path.PairLoopOhms(run.TemperatureC)
                            - path.Pieces.Where(p => p.Kind == PieceKind.Cable).Sum(p => p.PairLoopOhms(run.TemperatureC))
                    ) / 2;
                var r = DeviceVoltage.LongestRun(
                    run.SourceVolts,
                    heaviest,
                    table.DeviceMinVolts,
                    cable.GaugeAwg ?? 24,
                    cable.TemperatureC ?? run.TemperatureC,
                    cable.Material ?? ConductorMaterial.SolidCopper,
                    table.Pairs,
                    rest,
                    Math.Max(0, limit - path.CordMetres)
                );
                (longest, by) = (r.UsableMetres, r.By);
            }
        }
        return new RunTrial(
            path.Metres,
            path.CableMetres,
            path.CordMetres,
            loop,
            limit,
            Decision.AtMost(path.Metres, limit),
            ohms,
            Decision.AtMost(loop, ohms),
            cords?.AllowedMetres,
            cords?.InLimit,
            path.IsShared,
            table?.Pairs,
            table?.DeviceMinVolts,
            longest,
            by,
            states.ToImmutable()
        );
    }

    /// <summary>Injectors and splitters by their own ratings: an injector gives what passes it, a splitter what the device takes.</summary>
    private static ImmutableArray<Message> Overloaded(RunPath path, PowerPath.Ladder ladder, double deviceWatts)
    {
        var findings = ImmutableArray.CreateBuilder<Message>();
        for (var i = 0; i < path.Pieces.Length; i++)
        {
            if (path.Pieces[i] is not { RatedWatts: { } rated } piece)
                continue;
            var asked = piece.Kind == PieceKind.Splitter ? deviceWatts : ladder.Rungs[i].Volts * ladder.Run.Amperes;
            if (asked is { } watts && !Decision.AtMost(watts, rated))
                findings.Add(
                    new Message(
                        "path.overloaded",
                        piece.Label.Length > 0 ? piece.Label : "@piece." + Codes.Of(piece.Kind),
                        Message.Number(watts, 1),
                        Message.Number(rated, 1)
                    )
                );
        }
        return findings.ToImmutable();
    }
}
