using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Addressing;

/// <summary>A port of a switch.</summary>
/// <param name="Cabinet">Where the switch is, with its name behind it where there are several.</param>
/// <param name="Number">From 1.</param>
public sealed record PortSeat(string Cabinet, int Number)
{
    /// <summary>As a person says it.</summary>
    public override string ToString() => string.Create(CultureInfo.InvariantCulture, $"{Cabinet} {Number}");
}

/// <summary>A hardware address that a switch has learned at one of its ports (IEEE 802.1D, filtering database).</summary>
/// <param name="Cabinet">Where the switch is, with its name behind it where there are several.</param>
/// <param name="Port">From 1.</param>
/// <param name="HardwareAddress">As the switch writes it.</param>
/// <param name="Of">So many it has learned at that port in all; 0: those that are given.</param>
public sealed record LearnedAddress(string Cabinet, int Port, string HardwareAddress, int Of = 0);

/// <summary>A device and the port that it should hang on.</summary>
/// <param name="Id">Of the place.</param>
/// <param name="Label">Of the place.</param>
/// <param name="HardwareAddress">Empty where the register has none.</param>
/// <param name="Seat">Null where its run ends at no port.</param>
/// <param name="IsCamera">A device of one address, on a port of its own.</param>
public sealed record PlannedPort(Guid Id, string Label, string HardwareAddress, PortSeat? Seat, bool IsCamera);

/// <summary>Somebody on the network who is in no plan, but was found there.</summary>
/// <param name="HardwareAddress">As it writes it.</param>
/// <param name="Address">That it answers at.</param>
public sealed record KnownStranger(string HardwareAddress, string Address);

/// <summary>One thing that the switches' tables say.</summary>
/// <param name="Device">The place that it is about; null: of none.</param>
/// <param name="Note">With what to do.</param>
public sealed record PlugFinding(Guid? Device, LedgerNote Note);

/// <summary>
/// Which device hangs on which port, by what the switches have learned, held against the plan (C38): camera side and uplinks, who is
/// plugged elsewhere, what stands between, who does not belong here.
/// </summary>
/// <param name="Findings">The gravest first, then by port.</param>
/// <param name="AsPlanned">Devices that hang where they should, with where that is.</param>
/// <param name="Unseen">Devices whose switch was asked and has not learned them.</param>
/// <param name="Unasked">Devices whose switch gave no table, or whose hardware address nobody knows.</param>
public sealed record PortTables(
    ImmutableArray<PlugFinding> Findings,
    ImmutableDictionary<Guid, PortSeat> AsPlanned,
    int Unseen,
    int Unasked
)
{
    /// <summary>Up to here a port is kept whole: a camera, or a small switch that nobody planned.</summary>
    private const int SmallPort = 8;

    /// <summary>Of the row of a Card that asks which side of the network a port is of; null where the tables do not say so.</summary>
    public static (CheckId Check, ReadingValue Value) CameraPort => (new("link.port-role"), new ChoiceValue("camera-port"));

    /// <summary>
    /// What of all tables says where somebody hangs. Every switch has everybody at its uplink, which of a large site is a million lines: of
    /// a port with many, only those are kept who were learned nowhere at fewer, with how many there are.
    /// </summary>
    public static ImmutableArray<LearnedAddress> Nearest(IReadOnlyCollection<LearnedAddress> learned)
    {
        var counts = learned.GroupBy(Seat).ToDictionary(g => g.Key, g => g.Select(l => l.HardwareAddress).Distinct().Count());
        var least = learned.GroupBy(l => l.HardwareAddress).ToDictionary(g => g.Key, g => g.Min(l => counts[Seat(l)]));
        return
        [
            .. learned
                .Where(l => counts[Seat(l)] is var of && (of <= SmallPort || of == least[l.HardwareAddress]))
                .Select(l => l with { Of = counts[Seat(l)] }),
        ];
    }

    private static PortSeat Seat(LearnedAddress learned) => new(learned.Cabinet, learned.Port);

    /// <summary>Holds the tables against the plan.</summary>
    /// <param name="planned">Every device of the job.</param>
    /// <param name="learned">Of every switch that gave a table, whole or the <see cref="Nearest"/> of it.</param>
    /// <param name="strangers">Found by searches, and in no plan.</param>
    /// <param name="unplannedServer">Address of one who gives addresses and should not; null: none does, or nobody asked.</param>
    public static PortTables Of(
        IReadOnlyList<PlannedPort> planned,
        IReadOnlyList<LearnedAddress> learned,
        IReadOnlyList<KnownStranger> strangers,
        string? unplannedServer = null
    ) => new Comparison(planned, learned).Compare(strangers, unplannedServer);

    /// <summary>One comparison: what was learned, by port and by hardware address.</summary>
    private sealed class Comparison
    {
        private readonly IReadOnlyList<PlannedPort> _planned;
        private readonly HashSet<string> _asked;
        private readonly Dictionary<PortSeat, HashSet<HardwareAddress>> _ports;
        private readonly Dictionary<PortSeat, int> _counts;
        private readonly ILookup<PortSeat?, PlannedPort> _seats;
        private readonly Dictionary<HardwareAddress, PlannedPort> _known = [];
        private readonly Dictionary<HardwareAddress, List<PortSeat>> _where;
        private readonly List<(PortSeat? At, PlugFinding Finding)> _findings = [];
        private readonly HashSet<HardwareAddress> _replaced = [];

        public Comparison(IReadOnlyList<PlannedPort> planned, IReadOnlyList<LearnedAddress> learned)
        {
            _planned = planned;
            _asked = [.. learned.Select(l => l.Cabinet)];
            var read = learned
                .Select(l => (At: Seat(l), Mac: HardwareAddress.Read(l.HardwareAddress), l.Of))
                .Where(l => l.Mac is not null)
                .ToLookup(l => l.At);
            _ports = read.ToDictionary(g => g.Key, g => g.Select(l => l.Mac!.Value).ToHashSet());
            _counts = read.ToDictionary(g => g.Key, g => Math.Max(_ports[g.Key].Count, g.Max(l => l.Of)));
            _seats = planned.ToLookup(p => p.Seat);
            foreach (var device in planned)
                if (HardwareAddress.Read(device.HardwareAddress) is { } mac)
                    _known.TryAdd(mac, device);
            _where = _ports
                .SelectMany(p => p.Value.Select(mac => (Mac: mac, p.Key)))
                .GroupBy(p => p.Mac, p => p.Key)
                .ToDictionary(
                    g => g.Key,
                    g => g.OrderBy(p => _counts[p]).ThenBy(p => p.Cabinet, Register.NaturalOrder.Instance).ThenBy(p => p.Number).ToList()
                );
        }

        public PortTables Compare(IReadOnlyList<KnownStranger> strangers, string? unplannedServer)
        {
            var right = ImmutableDictionary.CreateBuilder<Guid, PortSeat>();
            var (unseen, unasked) = (0, 0);
            foreach (var device in _planned)
                if (device.Seat is not { } seat)
                    continue;
                else if (HardwareAddress.Read(device.HardwareAddress) is not { } mac || !_asked.Contains(seat.Cabinet))
                    unasked++;
                else if (_where.TryGetValue(mac, out var where))
                {
                    if (Hangs(device, seat, mac, where))
                        right[device.Id] = seat;
                }
                else if (!IsOfAnother(device, seat))
                {
                    unseen++;
                    Say(seat, device.Id, LedgerWeight.Told, "unseen", device.Label, seat.ToString());
                }
            var others = Strangers(strangers, unplannedServer);
            if (_asked.Count > 0)
                if (others == 0)
                    Say(null, null, LedgerWeight.Told, "isolated");
                else
                    Say(null, null, LedgerWeight.Look, "flat", Number(others));
            return new(
                [
                    .. _findings
                        .OrderBy(f => f.Finding.Note.Weight)
                        .ThenBy(f => f.At?.Cabinet ?? "", Register.NaturalOrder.Instance)
                        .ThenBy(f => f.At?.Number)
                        .Select(f => f.Finding),
                ],
                right.ToImmutable(),
                unseen,
                unasked
            );
        }

        /// <summary>More addresses than devices that belong there: an uplink, or something stands between.</summary>
        private bool IsEdge(PortSeat port) => _counts[port] <= Math.Max(1, _seats[port].Count());

        private void Say(PortSeat? port, Guid? device, LedgerWeight weight, string code, params ImmutableArray<string> args) =>
            _findings.Add((port, new(device, new LedgerNote("ports." + code, args, weight))));

        /// <summary>Whether a device hangs where it should; where it does not, that is said.</summary>
        private bool Hangs(PlannedPort device, PortSeat seat, HardwareAddress mac, List<PortSeat> where)
        {
            // Behind another switch a single device is alone at that switch's uplink too: its own cabinet says more.
            var edges = where.Where(IsEdge).ToList();
            var own = edges.Where(e => e.Cabinet == seat.Cabinet).ToList();
            if (own.Count > 1)
                Say(seat, device.Id, LedgerWeight.Look, "twice", device.Label, string.Join(", ", own));
            else if (_ports.TryGetValue(seat, out var here) && here.Contains(mac))
            {
                // On its own port: alone, with whom it shares it by plan, or as a device that has others behind it.
                if (IsEdge(seat) || !device.IsCamera)
                    return true;
                Say(seat, device.Id, LedgerWeight.Look, "shares", device.Label, seat.ToString(), Number(_counts[seat] - 1));
            }
            else if ((own.Count > 0 ? own : edges) is not [var other])
                Say(seat, device.Id, LedgerWeight.Look, "behind", device.Label, where[0].ToString());
            else if (_seats[other].FirstOrDefault() is { } owner)
                Say(seat, device.Id, LedgerWeight.Wrong, "on-anothers", device.Label, other.ToString(), owner.Label, seat.ToString());
            else
                Say(seat, device.Id, LedgerWeight.Wrong, "elsewhere", device.Label, seat.ToString(), other.ToString());
            return false;
        }

        /// <summary>Somebody else sends from the port of one who was not heard, and belongs nowhere: another unit was hung there.</summary>
        private bool IsOfAnother(PlannedPort device, PortSeat seat)
        {
            if (!_ports.TryGetValue(seat, out var there) || !IsEdge(seat) || there.All(_known.ContainsKey))
                return false;
            var unit = there.Where(m => !_known.ContainsKey(m)).MinBy(m => m.Number);
            _replaced.Add(unit);
            Say(seat, device.Id, LedgerWeight.Wrong, "other-unit", device.Label, seat.ToString(), unit.ToString());
            return true;
        }

        /// <summary>Who belongs nowhere, told once a port where he is nearest.</summary>
        /// <returns>How many there are.</returns>
        private int Strangers(IReadOnlyList<KnownStranger> strangers, string? unplannedServer)
        {
            var addresses = new Dictionary<HardwareAddress, string>();
            foreach (var stranger in strangers)
                if (HardwareAddress.Read(stranger.HardwareAddress) is { } mac)
                    addresses.TryAdd(mac, stranger.Address);
            var others = _where.Where(p => !_known.ContainsKey(p.Key) && !_replaced.Contains(p.Key)).ToList();
            foreach (var group in others.GroupBy(o => o.Value[0], o => o.Key))
            {
                var who = string.Join(
                    ", ",
                    group.OrderBy(m => m.Number).Select(m => addresses.TryGetValue(m, out var at) ? $"{m} ({at})" : m.ToString())
                );
                if (_counts[group.Key] > group.Count())
                    Say(group.Key, null, LedgerWeight.Look, "stranger-behind", group.Key.ToString(), Message.Said(who));
                // One that answers at another address is not that server.
                else if (unplannedServer is { } server && group.Any(m => !addresses.TryGetValue(m, out var at) || at == server))
                    Say(group.Key, null, LedgerWeight.Wrong, "stranger-leases", group.Key.ToString(), Message.Said(who), server);
                else
                    Say(group.Key, null, LedgerWeight.Wrong, "stranger", group.Key.ToString(), Message.Said(who));
            }
            return others.Count;
        }

        private static string Number(int count) => count.ToString(CultureInfo.InvariantCulture);
    }
}
