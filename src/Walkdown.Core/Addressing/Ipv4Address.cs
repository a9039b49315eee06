using Walkdown.Core.Measures;

namespace Walkdown.Core.Addressing;

/// <summary>An address of version 4 of the Internet Protocol (RFC 791), ordered as a number.</summary>
/// <param name="Number">All 32 bits, the first part highest.</param>
public readonly record struct Ipv4Address(uint Number) : IComparable<Ipv4Address>
{
    /// <summary>Reads four decimal parts from 0 to 255, blanks around them left out. A leading zero is refused: some devices take it for
    /// octal.</summary>
    /// <returns>Null where it is no such address.</returns>
    public static Ipv4Address? Read(string? text)
    {
        var rest = text.AsSpan().Trim();
        uint number = 0;
        for (var part = 0; part < 4; part++)
        {
            var dot = rest.IndexOf('.');
            if (dot < 0 != (part == 3))
                return null;
            var digits = part == 3 ? rest : rest[..dot];
            if (digits.Length is 0 or > 3 || digits.ContainsAnyExceptInRange('0', '9') || (digits.Length > 1 && digits[0] == '0'))
                return null;
            var octet = uint.Parse(digits, NumberStyles.None, CultureInfo.InvariantCulture);
            if (octet > 255)
                return null;
            number = (number << 8) | octet;
            rest = rest[(dot + 1)..];
        }
        return new(number);
    }

    /// <summary>Reads it where nothing else will do.</summary>
    /// <exception cref="BadInputException">It is missing, or no address.</exception>
    public static Ipv4Address Parse(string? text, string field) =>
        text is null
            ? throw new BadInputException(BadInputReason.Missing, field)
            : Read(text) ?? throw new BadInputException(BadInputReason.UnknownValue, field);

    /// <summary>What kind of address it is, by its range.</summary>
    public AddressKind Kind =>
        Number switch
        {
            < 0x0100_0000 => AddressKind.ThisNetwork,
            >= 0x0A00_0000 and < 0x0B00_0000 => AddressKind.Private,
            >= 0x6440_0000 and < 0x6480_0000 => AddressKind.SharedCarrier,
            >= 0x7F00_0000 and < 0x8000_0000 => AddressKind.Loopback,
            >= 0xA9FE_0000 and < 0xA9FF_0000 => AddressKind.LinkLocal,
            >= 0xAC10_0000 and < 0xAC20_0000 => AddressKind.Private,
            >= 0xC0A8_0000 and < 0xC0A9_0000 => AddressKind.Private,
            uint.MaxValue => AddressKind.LimitedBroadcast,
            >= 0xF000_0000 => AddressKind.ReservedClassE,
            >= 0xE000_0000 => AddressKind.Multicast,
            _ => AddressKind.Public,
        };

    /// <summary>The kind of what was written, which may be no address.</summary>
    public static AddressKind KindOf(string? text) => Read(text)?.Kind ?? AddressKind.Invalid;

    /// <inheritdoc/>
    public int CompareTo(Ipv4Address other) => Number.CompareTo(other.Number);

    /// <summary>As it is written: four decimal parts.</summary>
    public override string ToString() =>
        string.Create(CultureInfo.InvariantCulture, $"{Number >> 24}.{(Number >> 16) & 255}.{(Number >> 8) & 255}.{Number & 255}");
}

/// <summary>Ranges that mean something (RFC 1122, 1918, 3927, 5771, 6598).</summary>
public enum AddressKind
{
    /// <summary>No address.</summary>
    Invalid,

    /// <summary>0.0.0.0/8.</summary>
    ThisNetwork,

    /// <summary>For use inside.</summary>
    Private,

    /// <summary>Shared behind a carrier's translation.</summary>
    SharedCarrier,

    /// <summary>The device itself.</summary>
    Loopback,

    /// <summary>Made up by the device, because nobody gave it one.</summary>
    LinkLocal,

    /// <summary>A group.</summary>
    Multicast,

    /// <summary>All on this network.</summary>
    LimitedBroadcast,

    /// <summary>240.0.0.0/4.</summary>
    ReservedClassE,

    /// <summary>Of the Internet.</summary>
    Public,
}

/// <summary>Addresses from one to another, both taken along.</summary>
/// <param name="First">The lowest.</param>
/// <param name="Last">The highest.</param>
public readonly record struct AddressRange(Ipv4Address First, Ipv4Address Last)
{
    /// <summary>Reads both ends.</summary>
    /// <exception cref="BadInputException">One is missing or no address, or they stand the wrong way round.</exception>
    public static AddressRange Parse(string? first, string? last, string field)
    {
        var range = new AddressRange(Ipv4Address.Parse(first, field), Ipv4Address.Parse(last, field));
        return range.First.Number <= range.Last.Number ? range : throw new BadInputException(BadInputReason.Inconsistent, field);
    }

    /// <summary>Whether an address is one of them.</summary>
    public bool Contains(Ipv4Address address) => First.Number <= address.Number && address.Number <= Last.Number;

    /// <summary>How many they are.</summary>
    public long Count => (long)Last.Number - First.Number + 1;
}
