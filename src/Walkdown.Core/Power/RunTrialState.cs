using Walkdown.Core.Measures;

namespace Walkdown.Core.Power;

/// <summary>One state of the device at the end of the run.</summary>
/// <param name="State"><c>infraredOff</c> or <c>infraredOn</c>.</param>
/// <param name="Findings">Parts of the path that give less than is asked of them.</param>
/// <param name="Watts">Watts drawn.</param>
/// <param name="Verdict">What it comes to.</param>
/// <param name="Volts">Volts.</param>
/// <param name="Amperes">Amperes.</param>
/// <param name="LossWatts">Watts lost on the way.</param>
/// <param name="SourceWatts">Most watts of the source.</param>
/// <param name="MaxWatts">Most watts that it could draw.</param>
/// <param name="Rungs">Voltage along the run, piece by piece.</param>
public sealed record RunTrialState(
    string State,
    double Watts,
    DeviceVoltageVerdict Verdict,
    double? Volts,
    double? Amperes,
    double? LossWatts,
    double? SourceWatts,
    double? MaxWatts,
    ImmutableArray<PowerPath.Rung> Rungs,
    ImmutableArray<Message> Findings
);
