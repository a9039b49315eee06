using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Power;

/// <summary>A low-voltage supply with everything that hangs on its run, worked out (docs/calculations.md, D).</summary>
/// <param name="Watts">Of each device in the order of the taps; null where nobody knows.</param>
/// <param name="Volts">At each device; empty where the run cannot carry the loads, or a load is not known.</param>
/// <param name="OutOfRange">Positions of the devices outside the supply's limits.</param>
/// <param name="SupplyAmperes">Amperes out of the supply.</param>
/// <param name="Loading">The supply's load against what it may give.</param>
/// <param name="LongestMetres">Longest run that works, metres.</param>
/// <param name="Limit">The limit.</param>
public sealed record SupplyRun(
    ImmutableArray<double?> Watts,
    ImmutableArray<double> Volts,
    ImmutableArray<int> OutOfRange,
    double? SupplyAmperes,
    LowVoltage.Loading? Loading,
    double? LongestMetres,
    Limit? Limit
)
{
    /// <summary>There is a state in which all taps work.</summary>
    public bool Solved => !Volts.IsEmpty;

    /// <summary>Every device at what its state asks for.</summary>
    /// <param name="infrared">True: each with infrared on. False: off. Null: each at its heaviest.</param>
    /// <param name="drawFactor">Every draw times this.</param>
    /// <param name="catalogue">What it is judged by.</param>
    /// <param name="supply">The supply with its taps.</param>
    public static SupplyRun Of(SupplyFacts supply, Catalogue catalogue, bool? infrared, double drawFactor = 1)
    {
        var watts = WattsOf(supply, catalogue, infrared, drawFactor);
        var limit = PowerLimits.SupplyOf(catalogue, supply.Range);
        if (supply.Volts is not { Value: > 0 and var volts })
            return new SupplyRun(watts, [], [], null, null, null, limit);
        double? longest =
            limit?.Min is { } least && watts.Max() is > 0 and var heaviest
                ? LowVoltage.LongestMetres(volts, least, supply.Wire, supply.TemperatureC, new(LoadKind.ConstantPower, heaviest))
                : null;
        var none = new SupplyRun(watts, [], [], null, null, longest, limit);
        if (watts.IsEmpty || watts.Any(w => w is null))
            return none;
        LowVoltage.Tap[] taps =
        [
            .. supply.Taps.Select((tap, i) => new LowVoltage.Tap(tap.Metres, new(LoadKind.ConstantPower, watts[i]!.Value))),
        ];
        var solved = LowVoltage.Along(volts, supply.Wire, supply.TemperatureC, taps, supply.Range);
        if (solved.Solved && supply is { RegulationPercent: > 0, RatedAmperes: { } full })
        {
            // An unregulated supply rises as its load falls: one more round with what it then gives.
            solved = LowVoltage.Along(
                LowVoltage.SupplyVolts(volts, supply.RegulationPercent, full, solved.SupplyAmperes).Volts,
                supply.Wire,
                supply.TemperatureC,
                taps,
                supply.Range
            );
        }
        if (!solved.Solved)
            return none;
        LowVoltage.Loading? loading = supply.RatedAmperes is { } rated
            ? LowVoltage.SupplyAndFuse(
                solved.Amperes,
                rated,
                catalogue.Figure("supply.derating"),
                supply.FuseAmperes,
                catalogue.Figure("supply.fuse-load"),
                supply.CableAmperes
            )
            : null;
        return none with
        {
            Volts = solved.Volts,
            SupplyAmperes = solved.SupplyAmperes,
            Loading = loading,
            OutOfRange =
            [
                .. Enumerable
                    .Range(0, solved.Volts.Length)
                    .Where(i =>
                        limit?.Min is { } min && !Decision.AtMost(min, solved.Volts[i])
                        || limit?.Max is { } max && !Decision.AtMost(solved.Volts[i], max)
                    ),
            ],
        };
    }

    /// <summary>What each tap draws, whatever its run can carry; null where nobody knows.</summary>
    public static ImmutableArray<double?> WattsOf(SupplyFacts supply, Catalogue catalogue, bool? infrared, double drawFactor = 1) =>
        [
            .. supply.Taps.Select(tap =>
            {
                var plate = catalogue.NameplateOf(tap.Kind, tap.Model, null, tap.WattsInfraredOff, tap.WattsInfraredOn);
                return drawFactor
                    * infrared switch
                    {
                        true => plate.WattsInfraredOn ?? plate.WattsInfraredOff,
                        false => plate.WattsInfraredOff ?? plate.WattsInfraredOn,
                        null => plate.MostWatts,
                    };
            }),
        ];
}
