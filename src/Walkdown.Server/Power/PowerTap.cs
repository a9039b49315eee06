using Walkdown.Core.Power;
using Walkdown.Server.Shared;
using Walkdown.Storage;

namespace Walkdown.Server.Power;

/// <param name="Watts">At its heaviest.</param>
/// <param name="Volts">Worked out with every device on the run at its heaviest; null where there is no solution.</param>
public sealed record PowerTap(
    Guid DeviceId,
    string Label,
    string Name,
    double Metres,
    bool MetresKnown,
    double? Watts,
    double? Volts,
    bool OutOfRange
);
