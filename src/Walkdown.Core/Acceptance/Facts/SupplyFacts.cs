using Walkdown.Core.Measures;
using Walkdown.Core.Power;

namespace Walkdown.Core.Acceptance;

/// <summary>A low-voltage supply with everything that hangs on its run.</summary>
/// <param name="RegulationPercent">Rise from full load to none; 0 for a regulated supply.</param>
/// <param name="Volts">Null where nobody knows them: the device hangs on a supply all the same.</param>
/// <param name="CableAmperes">What its conductors may carry.</param>
/// <param name="Id">Its id.</param>
/// <param name="Label">Its label.</param>
/// <param name="Range">Its range.</param>
/// <param name="RatedAmperes">Rated amperes; null: not known.</param>
/// <param name="FuseAmperes">The fuse's amperes; null: none known.</param>
/// <param name="Wire">Its wire.</param>
/// <param name="TemperatureC">Degrees Celsius along it.</param>
/// <param name="Taps">Devices on it, in order from the supply.</param>
public sealed record SupplyFacts(
    Guid Id,
    string Label,
    SupplyRange Range,
    Sourced<double>? Volts,
    double RegulationPercent,
    double? RatedAmperes,
    double? FuseAmperes,
    double? CableAmperes,
    LowVoltage.Wire Wire,
    double TemperatureC,
    ImmutableArray<SupplyTap> Taps
);
