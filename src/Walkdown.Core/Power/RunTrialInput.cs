using Walkdown.Core.Cabling;

namespace Walkdown.Core.Power;

/// <summary>A run as it is, or as it might be.</summary>
/// <param name="PowerClass">Null where the run carries no power over Ethernet.</param>
/// <param name="WattsInfraredOff">At the device; null where nobody knows.</param>
/// <param name="MeasuredPairLoopOhms">Loop of one pair as measured: the path's pieces are scaled to it.</param>
/// <param name="Path">The run, piece by piece.</param>
/// <param name="TemperatureC">Degrees Celsius along it.</param>
/// <param name="Screened">It has a screen.</param>
/// <param name="Configuration">With or without cords.</param>
/// <param name="SourceVolts">Volts at the source, with where that comes from.</param>
/// <param name="WattsInfraredOn">Watts with infrared on; null: not known.</param>
public sealed record RunTrialInput(
    RunPath Path,
    double TemperatureC,
    bool Screened,
    LinkConfiguration Configuration,
    double SourceVolts,
    int? PowerClass,
    double? WattsInfraredOff,
    double? WattsInfraredOn,
    double? MeasuredPairLoopOhms = null
);
