using Walkdown.Core.Measures;

namespace Walkdown.Core.Addressing;

/// <summary>Gives addresses in the order of the walk, with room left between groups (docs/calculations.md, H).</summary>
public static class AddressAllocation
{
    /// <param name="Id">Whose.</param>
    /// <param name="Address">That it has and keeps; null or blank where it has none.</param>
    public sealed record Device(string Id, string? Address = null);

    /// <param name="Subnet">To give from; /30 or larger.</param>
    /// <param name="Gateway">Never given.</param>
    /// <param name="FirstHostOffset">From the network's address to the first that is given; from 1.</param>
    /// <param name="Reserved">Never given.</param>
    /// <param name="GapEvery">After so many given ones; 0: no gaps.</param>
    /// <param name="GapSize">So many usable ones stay free.</param>
    /// <param name="Pool">Of leases: never given.</param>
    /// <param name="Used">By others: never given.</param>
    public sealed record Rules(
        Subnet Subnet,
        Ipv4Address? Gateway,
        int FirstHostOffset,
        ImmutableArray<AddressRange> Reserved,
        int GapEvery = 0,
        int GapSize = 0,
        AddressRange? Pool = null,
        ImmutableArray<Ipv4Address> Used = default
    );

    /// <param name="Id">Whose.</param>
    /// <param name="Address">As it was written where it was kept.</param>
    /// <param name="Kept">It had it before.</param>
    public sealed record Given(string Id, string Address, bool Kept);

    /// <param name="Assigned">In the order of the walk.</param>
    /// <param name="Unassigned">Whom none is left for; empty: all have one.</param>
    public sealed record Result(ImmutableArray<Given> Assigned, ImmutableArray<string> Unassigned);

    /// <summary>Allocates.</summary>
    /// <exception cref="BadInputException">The network is smaller than /30, a number is under its least, an id stands twice, or an address
    /// that a device keeps cannot be read.</exception>
    public static Result Of(Rules rules, IReadOnlyList<Device> inWalkOrder)
    {
        var subnet = rules.Subnet;
        if (subnet.Prefix > 30)
            throw new BadInputException(BadInputReason.AboveMaximum, "subnet");
        if (rules.FirstHostOffset < 1)
            throw new BadInputException(BadInputReason.BelowMinimum, "first_host_offset");
        if (rules.GapEvery < 0)
            throw new BadInputException(BadInputReason.BelowMinimum, "gap_every");
        if (rules.GapSize < 0)
            throw new BadInputException(BadInputReason.BelowMinimum, "gap_size");
        if (inWalkOrder.DistinctBy(d => d.Id).Count() != inWalkOrder.Count)
            throw new BadInputException(BadInputReason.Inconsistent, "walk_order.id");
        var taken = (rules.Used.IsDefault ? [] : rules.Used).ToHashSet();
        foreach (var device in inWalkOrder)
            if (!string.IsNullOrWhiteSpace(device.Address))
                taken.Add(Ipv4Address.Parse(device.Address, "walk_order.address"));
        if (rules.Gateway is { } gateway)
            taken.Add(gateway);
        AddressRange[] ranges = [.. rules.Reserved, .. rules.Pool is { } pool ? [pool] : Array.Empty<AddressRange>()];
        var free = new Free(subnet, rules.FirstHostOffset, taken, ranges);
        var assigned = ImmutableArray.CreateBuilder<Given>(inWalkOrder.Count);
        var unassigned = ImmutableArray.CreateBuilder<string>();
        var given = 0;
        foreach (var device in inWalkOrder)
        {
            if (!string.IsNullOrWhiteSpace(device.Address))
            {
                assigned.Add(new(device.Id, device.Address, Kept: true));
                continue;
            }
            if (rules.GapEvery > 0 && given > 0 && given % rules.GapEvery == 0 && !free.GapLeft)
                free.Leave(rules.GapSize);
            if (free.Next() is not { } address)
            {
                unassigned.Add(device.Id);
                continue;
            }
            assigned.Add(new(device.Id, address.ToString(), Kept: false));
            given++;
        }
        return new(assigned.DrainToImmutable(), unassigned.DrainToImmutable());
    }

    /// <summary>Usable addresses from one on, upwards; whole ranges are stepped over at once.</summary>
    private sealed class Free(Subnet subnet, int offset, HashSet<Ipv4Address> taken, AddressRange[] ranges)
    {
        private long _at = (long)subnet.Network.Number + offset;

        /// <summary>The gap before the next one has been left already.</summary>
        public bool GapLeft { get; private set; }

        public void Leave(int size)
        {
            GapLeft = true;
            if (size > (long)subnet.LastHost.Number - _at)
                _at = (long)subnet.LastHost.Number + 1;
            for (var i = 0; i < size && Step() is not null; i++) { }
        }

        public Ipv4Address? Next()
        {
            var next = Step();
            GapLeft = false;
            return next;
        }

        private Ipv4Address? Step()
        {
            while (_at <= subnet.LastHost.Number)
            {
                var address = new Ipv4Address((uint)_at);
                var within = Array.FindIndex(ranges, r => r.Contains(address));
                if (within >= 0)
                    _at = (long)ranges[within].Last.Number + 1;
                else if (taken.Contains(address))
                    _at++;
                else
                {
                    _at++;
                    return address;
                }
            }
            return null;
        }
    }
}
