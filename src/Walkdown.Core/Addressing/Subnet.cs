using System.Numerics;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Addressing;

/// <summary>A network by its first address and the length of its prefix (RFC 950, 4632).</summary>
public readonly record struct Subnet
{
    private Subnet(Ipv4Address network, int prefix) => (Network, Prefix) = (network, prefix);

    /// <summary>The first address, no bit of a host set.</summary>
    public Ipv4Address Network { get; }

    /// <summary>Bits of the network, 0 to 32.</summary>
    public int Prefix { get; }

    /// <summary>The network that an address lies in.</summary>
    /// <exception cref="BadInputException">The prefix is under 0 or over 32.</exception>
    public static Subnet Around(Ipv4Address address, int prefix) =>
        prefix < 0 ? throw new BadInputException(BadInputReason.BelowMinimum, "prefix")
        : prefix > 32 ? throw new BadInputException(BadInputReason.AboveMaximum, "prefix")
        : new(new(address.Number & Bits(prefix)), prefix);

    /// <summary>Reads "10.46.8.0/24". Bits of a host that are set are refused: nobody knows which of both was meant.</summary>
    /// <exception cref="BadInputException">It is missing, no network, or its address is not the first.</exception>
    public static Subnet Parse(string? text, string field = "subnet")
    {
        if (text is null)
            throw new BadInputException(BadInputReason.Missing, field);
        var parts = text.Split('/');
        if (
            parts.Length != 2
            || parts[0] != parts[0].Trim()
            || Ipv4Address.Read(parts[0]) is not { } address
            || parts[1].Length is 0 or > 2
            || !parts[1].All(char.IsAsciiDigit)
            || (parts[1].Length == 2 && parts[1][0] == '0')
        )
            throw new BadInputException(BadInputReason.UnknownValue, field);
        var prefix = int.Parse(parts[1], CultureInfo.InvariantCulture);
        if (prefix > 32)
            throw new BadInputException(BadInputReason.AboveMaximum, field);
        var subnet = Around(address, prefix);
        return subnet.Network == address ? subnet : throw new BadInputException(BadInputReason.Inconsistent, field);
    }

    /// <summary>The prefix of a mask such as 255.255.255.0; null where its ones do not stand together.</summary>
    public static int? PrefixOf(string? mask)
    {
        if (Ipv4Address.Read(mask) is not { } bits)
            return null;
        var prefix = BitOperations.LeadingZeroCount(~bits.Number);
        return Bits(prefix) == bits.Number ? prefix : null;
    }

    /// <summary>All ones of the network.</summary>
    public Ipv4Address Mask => new(Bits(Prefix));

    /// <summary>To all hosts; null where there is none, at /31 (RFC 3021) and /32.</summary>
    public Ipv4Address? Broadcast => Prefix > 30 ? null : LastOfBlock;

    /// <summary>The first that a host may have.</summary>
    public Ipv4Address FirstHost => Prefix > 30 ? Network : new(Network.Number + 1);

    /// <summary>The last that a host may have.</summary>
    public Ipv4Address LastHost => Prefix > 30 ? LastOfBlock : new(LastOfBlock.Number - 1);

    /// <summary>How many hosts it takes.</summary>
    public long UsableHosts => (long)LastHost.Number - FirstHost.Number + 1;

    /// <summary>Whether an address lies in it, the first and the last included.</summary>
    public bool Contains(Ipv4Address address) => (address.Number & Bits(Prefix)) == Network.Number;

    /// <summary>Whether it is the network's own address and no host's.</summary>
    public bool IsNetworkAddress(Ipv4Address address) => Prefix <= 30 && address == Network;

    /// <summary>Whether it is the address of all hosts and no host's.</summary>
    public bool IsBroadcastAddress(Ipv4Address address) => address == Broadcast;

    /// <summary>Whether a host may have it.</summary>
    public bool IsHost(Ipv4Address address) => FirstHost.Number <= address.Number && address.Number <= LastHost.Number;

    private Ipv4Address LastOfBlock => new(Network.Number | ~Bits(Prefix));

    private static uint Bits(int prefix) => prefix == 0 ? 0 : uint.MaxValue << (32 - prefix);

    /// <summary>"10.46.8.0/24".</summary>
    public override string ToString() => string.Create(CultureInfo.InvariantCulture, $"{Network}/{Prefix}");
}
