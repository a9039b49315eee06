using Walkdown.Core.Measures;
using Walkdown.Core.Power;

namespace Walkdown.Core.Acceptance;

/// <summary>The switch port or injector that a run ends at.</summary>
/// <param name="Mode">What kind of power it gives.</param>
/// <param name="LimitWatts">Most that this port gives, where its switch or injector has such a limit.</param>
/// <param name="IsUplink">Planned as an uplink: no camera belongs there.</param>
/// <param name="Id">Its id.</param>
/// <param name="Cabinet">Label of the cabinet.</param>
/// <param name="Number">From 1.</param>
/// <param name="SourceVolts">Volts at the source, with where that comes from.</param>
/// <param name="SpeedMbps">Planned speed, Mb/s; null: not planned.</param>
/// <param name="AutoCrossover">It crosses pairs over by itself.</param>
public sealed record PortFacts(
    Guid Id,
    string Cabinet,
    int Number,
    Sourced<double> SourceVolts,
    int SpeedMbps,
    bool AutoCrossover = true,
    SourceMode Mode = SourceMode.Standard,
    double? LimitWatts = null,
    bool IsUplink = false
)
{
    /// <summary>The switch or injector with all that hangs on it; null where nobody asks for its budget.</summary>
    public SourceFacts? Source { get; init; }
}
