using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Addressing;

/// <summary>A hardware address that a switch has learned at one of its ports (IEEE 802.1D, filtering database).</summary>
/// <param name="Cabinet">Where the switch is, with its name behind it where there are several.</param>
/// <param name="Port">From 1.</param>
/// <param name="HardwareAddress">As the switch writes it.</param>
public sealed record LearnedAddress(string Cabinet, int Port, string HardwareAddress);

/// <summary>A device and the port that it should hang on.</summary>
/// <param name="Id">Of the place.</param>
/// <param name="Label">Of the place.</param>
/// <param name="HardwareAddress">Empty where the register has none.</param>
/// <param name="Cabinet">As the switch is asked by; empty where it ends at no port.</param>
/// <param name="Port">From 1; 0 where it ends at none.</param>
/// <param name="IsCamera">A device of one address, on a port of its own.</param>
public sealed record PlannedPort(Guid Id, string Label, string HardwareAddress, string Cabinet, int Port, bool IsCamera);

/// <summary>Somebody on the network who is in no plan, but was found there.</summary>
/// <param name="HardwareAddress">As it writes it.</param>
/// <param name="Name">What is known of it, such as its address.</param>
public sealed record KnownStranger(string HardwareAddress, string Name);

/// <summary>One thing that the switches' tables say.</summary>
/// <param name="Device">The place that it is about; null: of none.</param>
/// <param name="Note">With what to do.</param>
public sealed record PlugFinding(Guid? Device, LedgerNote Note);

/// <summary>
/// Which device hangs on which port, by what the switches have learned, held against the plan (C38): camera side and uplinks, who is
/// plugged elsewhere, what stands between, who does not belong here.
/// </summary>
/// <param name="Findings">The gravest first, then by port.</param>
/// <param name="AsPlanned">Devices that hang where they should.</param>
/// <param name="Unseen">Devices whose switch was asked and has not learned them.</param>
/// <param name="Unasked">Devices whose switch gave no table, or whose hardware address nobody knows.</param>
public sealed record PortTables(ImmutableArray<PlugFinding> Findings, ImmutableArray<Guid> AsPlanned, int Unseen, int Unasked)
{
    /// <summary>Of the row of a Card that asks which side of the network a port is of; null where the tables do not say so.</summary>
    public static (CheckId Check, ReadingValue Value) CameraPort => (new("link.port-role"), new ChoiceValue("camera-port"));

    /// <summary>Holds the tables against the plan.</summary>
    /// <param name="planned">Every device of the job.</param>
    /// <param name="learned">Of every switch that was asked.</param>
    /// <param name="asked">The switches that gave a table.</param>
    /// <param name="strangers">Found by searches, and in no plan.</param>
    /// <param name="unplannedServer">Address of one who gives addresses and should not; null: none does, or nobody asked.</param>
    public static PortTables Of(
        IReadOnlyList<PlannedPort> planned,
        IReadOnlyList<LearnedAddress> learned,
        IReadOnlySet<string> asked,
        IReadOnlyList<KnownStranger> strangers,
        string? unplannedServer = null
    )
    {
        var ports = learned
            .Select(l => (At: new Port(l.Cabinet, l.Port), Mac: HardwareAddress.Read(l.HardwareAddress)))
            .Where(l => l.Mac is not null)
            .GroupBy(l => l.At, l => l.Mac!.Value)
            .ToDictionary(g => g.Key, g => g.ToHashSet());
        var seats = planned.Where(p => p.Port > 0).ToLookup(p => new Port(p.Cabinet, p.Port));
        // More addresses than devices that belong there: an uplink, or something stands between.
        bool IsEdge(Port port) => ports[port].Count <= Math.Max(1, seats[port].Count());
        var at = ports
            .SelectMany(p => p.Value.Select(mac => (Mac: mac, p.Key)))
            .GroupBy(p => p.Mac, p => p.Key)
            .ToDictionary(
                g => g.Key,
                g => g.OrderBy(p => ports[p].Count).ThenBy(p => p.Cabinet, Register.NaturalOrder.Instance).ThenBy(p => p.Number).ToList()
            );
        var findings = new List<(Port At, PlugFinding Finding)>();
        var right = ImmutableArray.CreateBuilder<Guid>();
        var (unseen, unasked) = (0, 0);
        var replaced = new HashSet<HardwareAddress>();
        void Say(Port port, Guid? device, LedgerWeight weight, string code, params ImmutableArray<string> args) =>
            findings.Add((port, new(device, new LedgerNote("ports." + code, args, weight))));
        var known = new Dictionary<HardwareAddress, PlannedPort>();
        foreach (var device in planned)
            if (HardwareAddress.Read(device.HardwareAddress) is { } mac)
                known.TryAdd(mac, device);
        foreach (var device in planned.Where(p => p.Port > 0))
        {
            var seat = new Port(device.Cabinet, device.Port);
            if (HardwareAddress.Read(device.HardwareAddress) is not { } mac || !asked.Contains(device.Cabinet))
            {
                unasked++;
                continue;
            }
            if (!at.TryGetValue(mac, out var where))
            {
                // Somebody else sends from its port, who belongs nowhere: another unit was hung there.
                if (
                    ports.TryGetValue(seat, out var there)
                    && IsEdge(seat)
                    && there.FirstOrDefault(m => !known.ContainsKey(m)) is { Number: > 0 } unit
                )
                {
                    replaced.Add(unit);
                    Say(seat, device.Id, LedgerWeight.Wrong, "other-unit", device.Label, seat.ToString(), unit.ToString());
                    continue;
                }
                unseen++;
                Say(seat, device.Id, LedgerWeight.Told, "unseen", device.Label, seat.ToString());
                continue;
            }
            // Behind another switch a single device is alone at that switch's uplink too: its own cabinet says more.
            var edges = where.Where(IsEdge).ToList();
            var own = edges.Where(e => e.Cabinet == seat.Cabinet).ToList();
            if (own.Count > 1)
                Say(seat, device.Id, LedgerWeight.Look, "twice", device.Label, string.Join(", ", own));
            else if (ports.TryGetValue(seat, out var here) && here.Contains(mac))
            {
                // On its own port, alone or with whom it shares it by plan.
                if (IsEdge(seat))
                    right.Add(device.Id);
                else if (device.IsCamera)
                    Say(seat, device.Id, LedgerWeight.Look, "shares", device.Label, seat.ToString(), Number(here.Count - 1));
                else
                    right.Add(device.Id);
            }
            else if ((own.Count > 0 ? own : edges) is [var other])
            {
                var owner = seats[other].FirstOrDefault();
                if (owner is null)
                    Say(seat, device.Id, LedgerWeight.Wrong, "elsewhere", device.Label, seat.ToString(), other.ToString());
                else
                    Say(seat, device.Id, LedgerWeight.Wrong, "on-anothers", device.Label, other.ToString(), owner.Label, seat.ToString());
            }
            else
                Say(seat, device.Id, LedgerWeight.Look, "behind", device.Label, where[0].ToString());
        }
        var names = strangers
            .Select(s => (Mac: HardwareAddress.Read(s.HardwareAddress), s.Name))
            .Where(s => s.Mac is not null)
            .GroupBy(s => s.Mac!.Value)
            .ToDictionary(g => g.Key, g => g.First().Name);
        var others = at.Where(p => !known.ContainsKey(p.Key) && !replaced.Contains(p.Key)).ToList();
        // Told once a port, where it is nearest: what hangs there may be several.
        foreach (var group in others.GroupBy(o => o.Value[0], o => o.Key).OrderBy(g => g.Key.Number))
        {
            var port = group.Key;
            var who = string.Join(
                ", ",
                group.OrderBy(m => m.Number).Select(m => names.TryGetValue(m, out var name) ? $"{m} ({name})" : m.ToString())
            );
            var alone = ports[port].All(m => !known.ContainsKey(m));
            if (!alone)
                Say(port, null, LedgerWeight.Look, "stranger-behind", port.ToString(), Message.Said(who));
            // One that answers at another address is not that server.
            else if (unplannedServer is { } server && !group.All(m => names.TryGetValue(m, out var name) && name != server))
                Say(port, null, LedgerWeight.Wrong, "stranger-leases", port.ToString(), Message.Said(who), server);
            else
                Say(port, null, LedgerWeight.Wrong, "stranger", port.ToString(), Message.Said(who));
        }
        if (asked.Count > 0)
            findings.Add(
                (
                    default,
                    new(
                        null,
                        others.Count == 0
                            ? new LedgerNote("ports.isolated", [], LedgerWeight.Told)
                            : new LedgerNote("ports.flat", [Number(others.Count)], LedgerWeight.Look)
                    )
                )
            );
        return new(
            [
                .. findings
                    .OrderBy(f => f.Finding.Note.Weight)
                    .ThenBy(f => f.At.Cabinet, Register.NaturalOrder.Instance)
                    .ThenBy(f => f.At.Number)
                    .Select(f => f.Finding),
            ],
            right.DrainToImmutable(),
            unseen,
            unasked
        );
    }

    private static string Number(int count) => count.ToString(CultureInfo.InvariantCulture);

    private readonly record struct Port(string Cabinet, int Number)
    {
        public override string ToString() => string.Create(CultureInfo.InvariantCulture, $"{Cabinet} {Number}");
    }
}
