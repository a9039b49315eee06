namespace Walkdown.Core.Addressing;

/// <summary>What is wrong with the addresses of one device, in the order in which they are told.</summary>
public enum AddressFinding
{
    /// <summary>Cannot be read.</summary>
    AddressInvalid,

    /// <summary>255.255.255.255.</summary>
    AddressLimitedBroadcast,

    /// <summary>Made up by the device: nobody leased it one.</summary>
    AddressLinkLocalNoLease,

    /// <summary>The device itself.</summary>
    AddressLoopback,

    /// <summary>There is none.</summary>
    AddressMissing,

    /// <summary>Of a group.</summary>
    AddressMulticast,

    /// <summary>240.0.0.0/4.</summary>
    AddressReservedClassE,

    /// <summary>0.0.0.0/8.</summary>
    AddressThisNetwork,

    /// <summary>Another has it too.</summary>
    DuplicateAddress,

    /// <summary>Still as it left the factory.</summary>
    FactoryAddress,

    /// <summary>Likewise, and others too: they hide each other, and one answers.</summary>
    FactoryAddressShared,

    /// <summary>Fixed, and inside the pool that leases are given from.</summary>
    FixedInsidePool,

    /// <summary>Another gateway than the site's.</summary>
    GatewayDiffers,

    /// <summary>Cannot be read.</summary>
    GatewayInvalid,

    /// <summary>Under its own mask the gateway is not on its network.</summary>
    GatewayNotReachableWithThisMask,

    /// <summary>It is the address of all hosts.</summary>
    IsBroadcastAddress,

    /// <summary>It is the gateway's.</summary>
    IsGatewayAddress,

    /// <summary>It is the network's own.</summary>
    IsNetworkAddress,

    /// <summary>Nobody has set it.</summary>
    MacAllZero,

    /// <summary>Cannot be read.</summary>
    MacBadFormat,

    /// <summary>It is everybody's.</summary>
    MacBroadcast,

    /// <summary>Another has it too.</summary>
    MacDuplicate,

    /// <summary>Not given by the maker.</summary>
    MacLocallyAdministered,

    /// <summary>Of a group.</summary>
    MacMulticastBitSet,

    /// <summary>Cannot be read, or its ones do not stand together.</summary>
    MaskInvalid,

    /// <summary>It takes neighbours for far away.</summary>
    MaskTooNarrow,

    /// <summary>It takes what is far away for neighbours.</summary>
    MaskTooWide,

    /// <summary>Not on the site's network.</summary>
    OutsideSubnet,
}

/// <summary>What is wrong with the network's own plan, in the order in which it is told.</summary>
public enum NetworkFinding
{
    /// <summary>The gateway lies elsewhere.</summary>
    GatewayOutsideSubnet,

    /// <summary>The gateway has an address that no host may have.</summary>
    GatewayIsNetworkOrBroadcast,

    /// <summary>Leases are given from elsewhere.</summary>
    PoolOutsideSubnet,

    /// <summary>The gateway's address may be leased to somebody.</summary>
    GatewayInsidePool,
}

/// <summary>A device as it is set, or as it is planned.</summary>
/// <param name="Id">Whose.</param>
/// <param name="Address">As written; null where none is known.</param>
/// <param name="Mask">Likewise.</param>
/// <param name="Gateway">Likewise.</param>
/// <param name="Mac">Its hardware address, likewise.</param>
/// <param name="Fixed">It does not lease its address.</param>
public sealed record AuditedDevice(
    string Id,
    string? Address,
    string? Mask = null,
    string? Gateway = null,
    string? Mac = null,
    bool Fixed = true
);

/// <summary>Holds every device's addresses against the network and against each other (docs/calculations.md, H).</summary>
public static class AddressAudit
{
    /// <param name="Id">Whose.</param>
    /// <param name="Findings">In the order of <see cref="AddressFinding"/>; empty where nothing is wrong.</param>
    public sealed record Device(string Id, ImmutableArray<AddressFinding> Findings);

    /// <param name="Network">Of the plan itself.</param>
    /// <param name="Devices">In the order in which they came.</param>
    public sealed record Result(ImmutableArray<NetworkFinding> Network, ImmutableArray<Device> Devices);

    /// <summary>Audits. What is not given, a mask or a gateway, is no finding.</summary>
    /// <param name="subnet">The site's.</param>
    /// <param name="gateway">Null where none is known: then nothing is said of gateways.</param>
    /// <param name="devices">All of them: each is held against the others.</param>
    /// <param name="pool">That leases are given from.</param>
    /// <param name="factory">Addresses that devices leave their factory with; what cannot be read is left out.</param>
    public static Result Of(
        Subnet subnet,
        Ipv4Address? gateway,
        IReadOnlyList<AuditedDevice> devices,
        AddressRange? pool = null,
        IEnumerable<string>? factory = null
    )
    {
        var asMade = (factory ?? []).Select(Ipv4Address.Read).OfType<Ipv4Address>().ToHashSet();
        var addresses = Counted(devices.Select(d => Ipv4Address.Read(d.Address)));
        var hardware = Counted(devices.Select(d => HardwareAddress.Read(d.Mac)));
        return new(
            [.. OfNetwork(subnet, gateway, pool)],
            [
                .. devices.Select(d =>
                {
                    var found = new SortedSet<AddressFinding>();
                    Address(d, subnet, gateway, pool, asMade, addresses, found);
                    Surroundings(d, subnet, gateway, found);
                    Hardware(d, hardware, found);
                    return new Device(d.Id, [.. found]);
                }),
            ]
        );
    }

    private static IEnumerable<NetworkFinding> OfNetwork(Subnet subnet, Ipv4Address? gateway, AddressRange? pool)
    {
        if (gateway is { } g)
        {
            if (!subnet.Contains(g))
                yield return NetworkFinding.GatewayOutsideSubnet;
            else if (!subnet.IsHost(g))
                yield return NetworkFinding.GatewayIsNetworkOrBroadcast;
        }
        if (pool is not { } leased)
            yield break;
        if (!subnet.Contains(leased.First) || !subnet.Contains(leased.Last))
            yield return NetworkFinding.PoolOutsideSubnet;
        if (gateway is { } own && leased.Contains(own))
            yield return NetworkFinding.GatewayInsidePool;
    }

    private static void Address(
        AuditedDevice device,
        Subnet subnet,
        Ipv4Address? gateway,
        AddressRange? pool,
        HashSet<Ipv4Address> asMade,
        Dictionary<Ipv4Address, int> counted,
        SortedSet<AddressFinding> found
    )
    {
        if (device.Address is null)
        {
            found.Add(AddressFinding.AddressMissing);
            return;
        }
        if (Ipv4Address.Read(device.Address) is not { } address)
        {
            found.Add(AddressFinding.AddressInvalid);
            return;
        }
        AddressFinding? special = address.Kind switch
        {
            AddressKind.Loopback => AddressFinding.AddressLoopback,
            AddressKind.Multicast => AddressFinding.AddressMulticast,
            AddressKind.LimitedBroadcast => AddressFinding.AddressLimitedBroadcast,
            AddressKind.ReservedClassE => AddressFinding.AddressReservedClassE,
            AddressKind.ThisNetwork => AddressFinding.AddressThisNetwork,
            AddressKind.LinkLocal => AddressFinding.AddressLinkLocalNoLease,
            _ => null,
        };
        if (special is { } kind)
            found.Add(kind);
        if (!subnet.Contains(address))
            found.Add(AddressFinding.OutsideSubnet);
        if (subnet.IsNetworkAddress(address))
            found.Add(AddressFinding.IsNetworkAddress);
        if (subnet.IsBroadcastAddress(address))
            found.Add(AddressFinding.IsBroadcastAddress);
        if (address == gateway)
            found.Add(AddressFinding.IsGatewayAddress);
        var shared = counted[address] > 1;
        if (asMade.Contains(address))
            found.Add(shared ? AddressFinding.FactoryAddressShared : AddressFinding.FactoryAddress);
        else if (shared)
            found.Add(AddressFinding.DuplicateAddress);
        if (device.Fixed && pool?.Contains(address) == true)
            found.Add(AddressFinding.FixedInsidePool);
    }

    private static void Surroundings(AuditedDevice device, Subnet subnet, Ipv4Address? gateway, SortedSet<AddressFinding> found)
    {
        var prefix = Subnet.PrefixOf(device.Mask);
        if (device.Mask is not null && prefix is null)
            found.Add(AddressFinding.MaskInvalid);
        if (prefix < subnet.Prefix)
            found.Add(AddressFinding.MaskTooWide);
        if (prefix > subnet.Prefix)
            found.Add(AddressFinding.MaskTooNarrow);
        if (device.Gateway is null || gateway is null)
            return;
        if (Ipv4Address.Read(device.Gateway) is not { } own)
        {
            found.Add(AddressFinding.GatewayInvalid);
            return;
        }
        if (own != gateway)
            found.Add(AddressFinding.GatewayDiffers);
        if (prefix is { } bits && Ipv4Address.Read(device.Address) is { } address && !Subnet.Around(address, bits).Contains(own))
            found.Add(AddressFinding.GatewayNotReachableWithThisMask);
    }

    private static void Hardware(AuditedDevice device, Dictionary<HardwareAddress, int> counted, SortedSet<AddressFinding> found)
    {
        if (device.Mac is null)
            return;
        foreach (var odd in HardwareAddress.Check(device.Mac))
            found.Add(
                odd switch
                {
                    HardwareAddressFinding.BadFormat => AddressFinding.MacBadFormat,
                    HardwareAddressFinding.Broadcast => AddressFinding.MacBroadcast,
                    HardwareAddressFinding.AllZero => AddressFinding.MacAllZero,
                    HardwareAddressFinding.MulticastBitSet => AddressFinding.MacMulticastBitSet,
                    _ => AddressFinding.MacLocallyAdministered,
                }
            );
        if (HardwareAddress.Read(device.Mac) is { } mac && counted[mac] > 1)
            found.Add(AddressFinding.MacDuplicate);
    }

    private static Dictionary<T, int> Counted<T>(IEnumerable<T?> values)
        where T : struct
    {
        var counted = new Dictionary<T, int>();
        foreach (var value in values)
            if (value is { } one)
                counted[one] = counted.GetValueOrDefault(one) + 1;
        return counted;
    }
}
