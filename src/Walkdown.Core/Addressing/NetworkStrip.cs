namespace Walkdown.Core.Addressing;

/// <summary>What stands at one address of a network.</summary>
public enum StripMark
{
    /// <summary>Planned, and nobody has looked yet.</summary>
    Planned,

    /// <summary>Planned and found, and nothing is wrong.</summary>
    Found,

    /// <summary>Planned and found, and something is wrong.</summary>
    Wrong,

    /// <summary>Several have it.</summary>
    Double,

    /// <summary>It answers, and nobody planned it.</summary>
    Unknown,

    /// <summary>Planned, and it does not answer.</summary>
    Missing,

    /// <summary>The way out.</summary>
    Gateway,

    /// <summary>Set aside for the tester.</summary>
    Tester,
}

/// <summary>A network address by address, as it is drawn.</summary>
/// <param name="First">The network's own address as a number.</param>
/// <param name="Size">How many addresses it has, the first and the last included.</param>
/// <param name="Marks">In the order of addresses.</param>
/// <param name="Ranges">Kept free, or leased.</param>
/// <param name="Elsewhere">Addresses outside of it that devices answer from.</param>
public sealed record NetworkStrip(
    long First,
    long Size,
    ImmutableArray<NetworkStrip.Mark> Marks,
    ImmutableArray<NetworkStrip.Range> Ranges,
    ImmutableArray<NetworkStrip.Outside> Elsewhere
)
{
    /// <summary>One address that something stands at.</summary>
    /// <param name="At">From the network's own address on.</param>
    /// <param name="Kind">What.</param>
    /// <param name="Key">Of its row; empty for the gateway and the tester.</param>
    /// <param name="Name">Of its row.</param>
    public sealed record Mark(long At, StripMark Kind, string Key = "", string Name = "");

    /// <summary>A range of the plan.</summary>
    /// <param name="From">From the network's own address on.</param>
    /// <param name="To">The last, taken along.</param>
    /// <param name="IsLeased">Leases are given from it; else it is kept free.</param>
    /// <param name="For">What it is kept for.</param>
    public sealed record Range(long From, long To, bool IsLeased, string For = "");

    /// <summary>An address outside of the network.</summary>
    /// <param name="Address">Of who answers there.</param>
    /// <param name="Keys">Of their rows.</param>
    public sealed record Outside(string Address, ImmutableArray<string> Keys);

    /// <summary>Makes it.</summary>
    public static NetworkStrip Of(NetworkPlan plan, NetworkPlan.Read made, AddressLedger ledger)
    {
        var subnet = made.Subnet;
        long? Within(Ipv4Address? address) => address is { } a && subnet.Contains(a) ? (long)a.Number - subnet.Network.Number : null;
        var marks = new List<Mark>();
        if (Within(made.Gateway) is { } way)
            marks.Add(new(way, StripMark.Gateway));
        if (Within(Ipv4Address.Read(plan.Tester)) is { } tester)
            marks.Add(new(tester, StripMark.Tester));
        var elsewhere = new List<LedgerRow>();
        foreach (var row in ledger.Rows)
        {
            var address = Ipv4Address.Read(row.Found?.Address ?? row.Planned?.Address);
            if (Within(address) is { } at && (row.Found ?? (object?)row.Planned) is not null)
                marks.Add(new(at, KindOf(row), row.Key, row.Name));
            else if (row.Found is not null)
                elsewhere.Add(row);
        }
        return new(
            subnet.Network.Number,
            1L << (32 - subnet.Prefix),
            [.. marks.OrderBy(m => m.At)],
            [
                .. made.Pool is { } pool ? [new Range(Within(pool.First) ?? 0, Within(pool.Last) ?? 0, true)] : Array.Empty<Range>(),
                .. plan.Reserved.Zip(
                    made.Reserved,
                    (r, range) => new Range(Within(range.First) ?? 0, Within(range.Last) ?? 0, false, r.For)
                ),
            ],
            [.. elsewhere.GroupBy(r => r.Found!.Address).Select(g => new Outside(g.Key, [.. g.Select(r => r.Key)]))]
        );
    }

    private static StripMark KindOf(LedgerRow row) =>
        row.Found is null ? (row.IsUnlooked ? StripMark.Planned : StripMark.Missing)
        : row.IsDouble ? StripMark.Double
        : row.Planned is null ? StripMark.Unknown
        : row.Standing == RowStanding.ToMend ? StripMark.Wrong
        : StripMark.Found;
}
