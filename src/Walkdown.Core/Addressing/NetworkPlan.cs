using Walkdown.Core.Measures;

namespace Walkdown.Core.Addressing;

/// <summary>Addresses that the plan keeps free, or for something else.</summary>
/// <param name="First">The lowest.</param>
/// <param name="Last">The highest.</param>
/// <param name="For">What for.</param>
public sealed record ReservedRange(string First, string Last, string For = "");

/// <summary>The network of a job's cameras as it is planned. Texts as they were typed: <see cref="Check"/> says what is wrong with
/// them.</summary>
public sealed record NetworkPlan
{
    /// <summary>"10.46.8.0/24"; empty: nothing is planned yet.</summary>
    public string Subnet { get; init; } = "";

    /// <summary>The way out; empty where there is none.</summary>
    public string Gateway { get; init; } = "";

    /// <summary>The lowest address that is leased; empty where none is.</summary>
    public string PoolFirst { get; init; } = "";

    /// <summary>The highest.</summary>
    public string PoolLast { get; init; } = "";

    /// <summary>Who leases them; empty where none does, or nobody has named it.</summary>
    public string LeaseServer { get; init; } = "";

    /// <summary>Who gives the time (SNTP); empty where none does, or nobody has named it.</summary>
    public string TimeServer { get; init; } = "";

    /// <summary>Kept free, or for something else.</summary>
    public ImmutableArray<ReservedRange> Reserved { get; init; } = [];

    /// <summary>Addresses that devices leave their factory with.</summary>
    public ImmutableArray<string> Factory { get; init; } = [];

    /// <summary>From the network's address to the first that a camera gets.</summary>
    public int FirstHostOffset { get; init; } = 20;

    /// <summary>After so many, some stay free; 0: none do.</summary>
    public int GapEvery { get; init; }

    /// <summary>So many.</summary>
    public int GapSize { get; init; }

    /// <summary>The address that the tester takes on this network; empty: none is set aside.</summary>
    public string Tester { get; init; } = "";

    /// <summary>Its readable parts; null where <see cref="Check"/> has something to say.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public Read? Made => Check().IsEmpty ? Parts() : null;

    /// <param name="Subnet">The network.</param>
    /// <param name="Gateway">Null where there is none.</param>
    /// <param name="Pool">Likewise.</param>
    /// <param name="Reserved">Ranges.</param>
    public sealed record Read(Subnet Subnet, Ipv4Address? Gateway, AddressRange? Pool, ImmutableArray<AddressRange> Reserved);

    /// <summary>What is wrong with it, field by field; empty: nothing is.</summary>
    public ImmutableArray<(string Field, Message Why)> Check()
    {
        var wrong = ImmutableArray.CreateBuilder<(string, Message)>();
        void Say(string field, string code, params ImmutableArray<string> args) => wrong.Add((field, new Message(code, args)));
        Subnet subnet;
        try
        {
            subnet = Addressing.Subnet.Parse(Subnet.Trim());
        }
        catch (BadInputException problem)
        {
            if (problem.Reason == BadInputReason.Inconsistent && Ipv4Address.Read(Subnet.Split('/')[0]) is { } inside)
                Say(
                    "subnet",
                    "lan.host-bits",
                    Message.Said(Subnet.Trim()),
                    Addressing.Subnet.Around(inside, int.Parse(Subnet.Trim().Split('/')[1], CultureInfo.InvariantCulture)).ToString()
                );
            else
                Say("subnet", "lan.no-subnet", Message.Said(Subnet.Trim()));
            return wrong.DrainToImmutable();
        }
        if (subnet.Prefix is < 16 or > 30)
            Say("subnet", "lan.prefix", Message.Number(subnet.Prefix, 0));
        Ipv4Address? One(string field, string text)
        {
            if (string.IsNullOrWhiteSpace(text))
                return null;
            if (Ipv4Address.Read(text) is { } address)
                return address;
            Say(field, "lan.no-address", Message.Said(text.Trim()));
            return null;
        }
        if (One("gateway", Gateway) is { } gateway && !subnet.IsHost(gateway))
            Say("gateway", "lan.outside", gateway.ToString(), subnet.ToString());
        if (One("tester", Tester) is { } tester && !subnet.IsHost(tester))
            Say("tester", "lan.outside", tester.ToString(), subnet.ToString());
        // It may be in another network, where somebody carries for it.
        One("leaseServer", LeaseServer);
        One("timeServer", TimeServer);
        if (string.IsNullOrWhiteSpace(PoolFirst) != string.IsNullOrWhiteSpace(PoolLast))
            Say(string.IsNullOrWhiteSpace(PoolFirst) ? "poolFirst" : "poolLast", "lan.half-range");
        void Range(string field, string first, string last)
        {
            if (One(field, first) is not { } from || One(field, last) is not { } to)
                return;
            if (from.Number > to.Number)
                Say(field, "lan.range-reversed", from.ToString(), to.ToString());
            else if (!subnet.Contains(from) || !subnet.Contains(to))
                Say(field, "lan.outside", subnet.Contains(from) ? to.ToString() : from.ToString(), subnet.ToString());
        }
        Range("poolFirst", PoolFirst, PoolLast);
        for (var i = 0; i < Reserved.Length; i++)
            if (string.IsNullOrWhiteSpace(Reserved[i].First) || string.IsNullOrWhiteSpace(Reserved[i].Last))
                Say($"reserved.{i}", "lan.half-range");
            else
                Range($"reserved.{i}", Reserved[i].First, Reserved[i].Last);
        for (var i = 0; i < Factory.Length; i++)
            One($"factory.{i}", Factory[i].Length == 0 ? "-" : Factory[i]);
        if (FirstHostOffset < 1 || FirstHostOffset >= 1L << (32 - subnet.Prefix))
            Say("firstHostOffset", "lan.offset", Message.Number((1L << (32 - subnet.Prefix)) - 2, 0));
        if (GapEvery is < 0 or > 4096)
            Say("gapEvery", "lan.gap");
        if (GapSize is < 0 or > 4096)
            Say("gapSize", "lan.gap");
        return wrong.DrainToImmutable();
    }

    private Read Parts()
    {
        static Ipv4Address? One(string text) => string.IsNullOrWhiteSpace(text) ? null : Ipv4Address.Read(text);
        return new(
            Addressing.Subnet.Parse(Subnet.Trim()),
            One(Gateway),
            One(PoolFirst) is { } first && One(PoolLast) is { } last ? new(first, last) : null,
            [.. Reserved.Select(r => AddressRange.Parse(r.First, r.Last, "reserved"))]
        );
    }
}
