using System.Collections.Immutable;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Power;
using Walkdown.Storage;

namespace Walkdown.Server.Power;

/// <summary>A port of a switch or an injector, with what hangs on it.</summary>
/// <param name="MeasuredWatts">The largest reading of its draw that counts, infrared or heater on.</param>
/// <param name="Findings">In words.</param>
public sealed record PowerPort(
    Guid PortId,
    int Number,
    Guid? DeviceId,
    string Label,
    string Name,
    int? PowerClass,
    double? PlannedWatts,
    double? MeasuredWatts,
    PortPriority Priority,
    bool Uplink,
    bool Powered,
    bool RefusedByClass,
    bool RefusedByDraw,
    ImmutableArray<string> Findings
);
