using System.Collections.Immutable;
using System.Net;
using Walkdown.Core.Addressing;

namespace Walkdown.Devices.Field;

/// <summary>
/// How addresses of a site are reached. On a real site they are what they are; in the demo and in tests everything stays on the loopback
/// interface: 10.46.8.29, port 80 is 127.46.8.29, port 8080. Nowhere else is that known: screens and records show site addresses.
/// </summary>
/// <param name="OnLoopback">The site is simulated on this machine.</param>
/// <param name="PortShift">What is added to the low ports of a simulated device, which nobody but root may open.</param>
public sealed record FieldNetwork(bool OnLoopback, int PortShift = FieldNetwork.UsualShift)
{
    /// <summary>Of the demo.</summary>
    public const int UsualShift = 8000;

    /// <summary>The group and port that devices listen at for searches (WS-Discovery 1.1).</summary>
    public IPEndPoint SearchGroup => new(IPAddress.Parse("239.255.255.250"), 3702 + (OnLoopback ? PortShift - UsualShift : 0));

    /// <summary>Where offers of addresses arrive (the client's port of DHCP).</summary>
    public IPEndPoint OffersTo => OnLoopback ? new(IPAddress.Loopback, 68 + PortShift) : new(IPAddress.Any, 68);

    /// <summary>Where servers of addresses are asked: everybody, by the general broadcast and by that of the cameras' network.</summary>
    public ImmutableArray<IPEndPoint> LeaseServers(Subnet subnet) =>
        OnLoopback
            ? [new(IPAddress.Parse("127.255.255.255"), 67 + PortShift)]
            : [new(IPAddress.Broadcast, 67), .. subnet.Broadcast is { } own ? [new(ToIp(own), 67)] : Array.Empty<IPEndPoint>()];

    /// <summary>Where a site's address and port are really reached.</summary>
    public IPEndPoint EndpointOf(Ipv4Address site, int port) =>
        OnLoopback
            ? new(ToIp(new((site.Number & 0x00FF_FFFF) | 0x7F00_0000)), port < 1024 ? port + PortShift : port)
            : new(ToIp(site), port);

    /// <summary>Where a server of time is asked.</summary>
    public IPEndPoint TimeServer(Ipv4Address site) => EndpointOf(site, 123);

    /// <summary>The site's address of who answered.</summary>
    /// <param name="from">As the machine sees it.</param>
    /// <param name="networks">Addresses of networks that the site is known to have, its own first: on loopback their first part is not
    /// seen.</param>
    public Ipv4Address SiteOf(IPAddress from, IReadOnlyList<Ipv4Address> networks)
    {
        var seen = FromIp(from);
        if (!OnLoopback)
            return seen;
        uint Near(Ipv4Address network) => (network.Number ^ seen.Number) & 0x00FF_FF00;
        var network = networks.FirstOrDefault(n => Near(n) == 0, networks[0]);
        return new((seen.Number & 0x00FF_FFFF) | (network.Number & 0xFF00_0000));
    }

    /// <summary>The interface that a search leaves by; any where the site is real.</summary>
    public IPAddress SearchFrom => OnLoopback ? IPAddress.Loopback : IPAddress.Any;

    private static IPAddress ToIp(Ipv4Address address) =>
        new([(byte)(address.Number >> 24), (byte)(address.Number >> 16), (byte)(address.Number >> 8), (byte)address.Number]);

    private static Ipv4Address FromIp(IPAddress address)
    {
        var octets = address.MapToIPv4().GetAddressBytes();
        return new((uint)octets[0] << 24 | (uint)octets[1] << 16 | (uint)octets[2] << 8 | octets[3]);
    }
}
