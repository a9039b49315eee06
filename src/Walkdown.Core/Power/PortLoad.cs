namespace Walkdown.Core.Power;

/// <summary>One port with what hangs on it.</summary>
/// <param name="PlannedWatts">At the device, at its heaviest, by plan or template.</param>
/// <param name="MeasuredWatts">At the port, see <see cref="SiteBudget.Heaviest"/>; null where none was taken.</param>
/// <param name="Powered">False for what does not draw from the port: a recorder, a device on its own supply, a shared run.</param>
/// <param name="PortId">The port.</param>
/// <param name="Number">From 1.</param>
/// <param name="DeviceId">The place.</param>
/// <param name="Label">Its label.</param>
/// <param name="PowerClass">Power over Ethernet class, 0 to 8; null: not fed so.</param>
/// <param name="Priority">Who loses power last.</param>
/// <param name="Uplink">It leads to another switch.</param>
/// <param name="IsCamera">A camera hangs on it.</param>
public sealed record PortLoad(
    Guid PortId,
    int Number,
    Guid? DeviceId,
    string Label,
    int? PowerClass,
    double? PlannedWatts,
    double? MeasuredWatts,
    PortPriority Priority,
    bool Uplink,
    bool IsCamera,
    bool Powered
);
