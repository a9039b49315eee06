using Walkdown.Core.Addressing;
using Walkdown.Core.Register;

namespace Walkdown.Core.Entries;

/// <summary>Which device something that was found is.</summary>
/// <param name="Device">The place; null where nothing tells, or several fit.</param>
/// <param name="By">What told: <c>serial</c>, <c>hardware-address</c>, <c>label</c> or <c>address</c>; empty where nothing did.</param>
/// <param name="Candidates">Those that fit where several do.</param>
/// <param name="Against">Known figures of the matched device that the found ones contradict, by the same words.</param>
public sealed record FoundMatch(Guid? Device, string By, ImmutableArray<Guid> Candidates, ImmutableArray<string> Against)
{
    /// <summary>
    /// Matches by what is hardest to be wrong first: a serial number, a hardware address, a label; an address last, since an address
    /// planned
    /// twice or a factory one fits anybody. What fits two devices matches neither.
    /// </summary>
    public static FoundMatch Of(FoundIdentity found, IReadOnlyCollection<KnownIdentity> devices)
    {
        foreach (var (by, fits) in Ways(found))
        {
            ImmutableArray<KnownIdentity> fitting = [.. devices.Where(fits)];
            if (fitting.Length == 1)
                return new FoundMatch(
                    fitting[0].Id,
                    by,
                    [],
                    [.. Ways(found).Where(w => w.By != by && Knows(fitting[0], w.By) && !w.Fits(fitting[0])).Select(w => w.By)]
                );
            if (fitting.Length > 1)
                return new FoundMatch(null, by, [.. fitting.Select(d => d.Id)], []);
        }
        return new FoundMatch(null, "", [], []);
    }

    private static IEnumerable<(string By, Func<KnownIdentity, bool> Fits)> Ways(FoundIdentity found)
    {
        if (found.Serial.Length > 0)
            yield return ("serial", d => Labels.Same(d.Serial, found.Serial));
        if (HardwareAddress.Read(found.HardwareAddress) is { } hardware)
            yield return ("hardware-address", d => HardwareAddress.Read(d.HardwareAddress) == hardware);
        if (found.Label.Length > 0)
            yield return ("label", d => d.Labels.Any(l => Labels.Same(l, found.Label)));
        if (found.Address.Length > 0)
            yield return ("address", d => d.Address == found.Address);
    }

    private static bool Knows(KnownIdentity device, string by) =>
        by switch
        {
            "serial" => device.Serial.Length > 0,
            "hardware-address" => device.HardwareAddress.Length > 0,
            "label" => !device.Labels.IsEmpty,
            _ => device.Address.Length > 0,
        };
}
