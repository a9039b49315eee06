using Walkdown.Storage.Entities;

namespace Walkdown.Storage;

/// <summary>A device at the port of one of its runs.</summary>
public sealed class DeviceAtPort
{
    public required Guid DeviceId { get; init; }
    public required Guid RunId { get; init; }
    public required Guid PortId { get; init; }
}

/// <summary>Which port a device is at: its own where it has one on the run, else the one that the run has for all.</summary>
public static class PortsOfDevices
{
    /// <summary>The end at the port of a device among the ends of one run.</summary>
    public static RunEnd? PortEndOf(this IEnumerable<RunEnd> ends, Guid deviceId)
    {
        RunEnd? common = null;
        foreach (var end in ends)
            if (end.PortId is not null && end.OfDeviceId == deviceId)
                return end;
            else if (end.PortId is not null && end.OfDeviceId is null)
                common ??= end;
        return common;
    }

    /// <summary>The same for all that are on record, as a query.</summary>
    public static IQueryable<DeviceAtPort> AtPorts(this WalkdownDb db) =>
        db
            .RunEnds.Where(e => e.DeviceId != null)
            .Join(
                db.RunEnds.Where(p => p.PortId != null),
                e => e.RunId,
                p => p.RunId,
                (e, p) => new { Device = e.DeviceId!.Value, End = p }
            )
            .Where(x =>
                x.End.OfDeviceId == x.Device
                || x.End.OfDeviceId == null && !db.RunEnds.Any(o => o.RunId == x.End.RunId && o.PortId != null && o.OfDeviceId == x.Device)
            )
            .Select(x => new DeviceAtPort
            {
                DeviceId = x.Device,
                RunId = x.End.RunId,
                PortId = x.End.PortId!.Value,
            });
}
