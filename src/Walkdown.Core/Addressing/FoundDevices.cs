namespace Walkdown.Core.Addressing;

/// <summary>What several looks at a network found, put together device by device.</summary>
public static class FoundDevices
{
    /// <summary>
    /// Puts looks together, the earliest first. Two looks are at one device where they agree in a serial number, else in a hardware
    /// address, else in its own name for itself; where one of them told none of these, at one address. Devices whose serial numbers differ
    /// are never one.
    /// </summary>
    public static ImmutableArray<FoundDevice> Merge(IEnumerable<IEnumerable<FoundDevice>> looks)
    {
        var known = new List<FoundDevice>();
        var bySerial = new Dictionary<string, int>(StringComparer.OrdinalIgnoreCase);
        var byMac = new Dictionary<HardwareAddress, int>();
        var byEndpoint = new Dictionary<string, int>(StringComparer.Ordinal);
        var byAddress = new Dictionary<string, int>(StringComparer.Ordinal);
        foreach (var look in looks)
        foreach (var device in look)
        {
            var at = Find(device);
            if (at < 0)
            {
                at = known.Count;
                known.Add(device);
            }
            else
                known[at] = known[at].With(device);
            var now = known[at];
            if (SerialOf(now) is { } serial)
                bySerial[serial] = at;
            if (MacOf(now) is { } mac)
                byMac[mac] = at;
            if (now.Endpoint.Length > 0)
                byEndpoint[now.Endpoint] = at;
            byAddress[now.Address] = at;
        }
        return [.. known];

        int Find(FoundDevice device)
        {
            var candidates = new[]
            {
                SerialOf(device) is { } serial ? bySerial.GetValueOrDefault(serial, -1) : -1,
                MacOf(device) is { } mac ? byMac.GetValueOrDefault(mac, -1) : -1,
                device.Endpoint.Length > 0 ? byEndpoint.GetValueOrDefault(device.Endpoint, -1) : -1,
                byAddress.GetValueOrDefault(device.Address, -1) is var there
                && there >= 0
                && (IsNameless(device) || IsNameless(known[there]))
                    ? there
                    : -1,
            };
            return candidates.FirstOrDefault(c => c >= 0 && !Contradict(known[c], device), -1);
        }
    }

    /// <summary>Where a device belongs: the place whose unit has its serial number, else its hardware address; null where none has, or
    /// several have.</summary>
    public static PlannedDevice? PlaceOf(FoundDevice device, IReadOnlyCollection<PlannedDevice> planned)
    {
        PlannedDevice? Only(Func<PlannedDevice, bool> fits) => planned.Where(fits).Take(2).ToList() is [var one] ? one : null;
        return (SerialOf(device) is { } serial ? Only(p => p.Serial.Trim().Equals(serial, StringComparison.OrdinalIgnoreCase)) : null)
            ?? (MacOf(device) is { } mac ? Only(p => HardwareAddress.Read(p.Mac) == mac) : null);
    }

    private static string? SerialOf(FoundDevice device) => string.IsNullOrWhiteSpace(device.Serial) ? null : device.Serial.Trim();

    private static HardwareAddress? MacOf(FoundDevice device) => HardwareAddress.Read(device.HardwareAddress);

    private static bool IsNameless(FoundDevice device) => SerialOf(device) is null && MacOf(device) is null && device.Endpoint.Length == 0;

    private static bool Contradict(FoundDevice one, FoundDevice other) =>
        SerialOf(one) is { } a && SerialOf(other) is { } b && !a.Equals(b, StringComparison.OrdinalIgnoreCase);
}
