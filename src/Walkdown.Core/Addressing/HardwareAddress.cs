using Walkdown.Core.Measures;

namespace Walkdown.Core.Addressing;

/// <summary>What is odd about a hardware address.</summary>
public enum HardwareAddressFinding
{
    /// <summary>It cannot be read.</summary>
    BadFormat,

    /// <summary>All ones: it belongs to everybody.</summary>
    Broadcast,

    /// <summary>All zero: nobody has set it.</summary>
    AllZero,

    /// <summary>Of a group, and no device's own.</summary>
    MulticastBitSet,

    /// <summary>Not given by the maker: it was set, or is made up anew at each start.</summary>
    LocallyAdministered,
}

/// <summary>A hardware address of 48 bits (IEEE 802).</summary>
/// <param name="Number">All 48 bits, the first octet highest.</param>
public readonly record struct HardwareAddress(ulong Number)
{
    private const ulong Everybody = 0xFFFF_FFFF_FFFF;

    /// <summary>Reads 02:46:08:1D:31:4F, 02-46-08-1d-31-4f, 0246.081d.314f or 0246081D314F, blanks around it left out. Mixed separators and
    /// short octets are refused.</summary>
    /// <returns>Null where it is no such address.</returns>
    public static HardwareAddress? Read(string? text)
    {
        var given = text.AsSpan().Trim();
        // How many digits stand together, and what stands between.
        var (group, sign) = given.Length switch
        {
            12 => (12, '\0'),
            14 => (4, '.'),
            17 when given[2] is ':' or '-' => (2, given[2]),
            _ => (0, '\0'),
        };
        if (group == 0)
            return null;
        ulong number = 0;
        for (int i = 0, digit = 0; i < given.Length; i++)
            if (digit == group)
            {
                if (given[i] != sign)
                    return null;
                digit = 0;
            }
            else if (char.IsAsciiHexDigit(given[i]))
                (number, digit) = ((number << 4) | Digit(given[i]), digit + 1);
            else
                return null;
        return new(number);
    }

    /// <summary>What is odd about one; the kind of a broadcast or an unset one stands alone.</summary>
    /// <exception cref="BadInputException">There is none.</exception>
    public static ImmutableArray<HardwareAddressFinding> Check(string? text)
    {
        if (text is null)
            throw new BadInputException(BadInputReason.Missing, "mac");
        if (Read(text) is not { } address)
            return [HardwareAddressFinding.BadFormat];
        if (address.Number == Everybody)
            return [HardwareAddressFinding.Broadcast];
        if (address.Number == 0)
            return [HardwareAddressFinding.AllZero];
        var odd = ImmutableArray.CreateBuilder<HardwareAddressFinding>(2);
        if ((address.Number >> 40 & 1) != 0)
            odd.Add(HardwareAddressFinding.MulticastBitSet);
        if ((address.Number >> 40 & 2) != 0)
            odd.Add(HardwareAddressFinding.LocallyAdministered);
        return odd.DrainToImmutable();
    }

    private static uint Digit(char hex) => (uint)(hex <= '9' ? hex - '0' : (hex | 0x20) - 'a' + 10);

    /// <summary>Upper case with colons.</summary>
    public override string ToString()
    {
        var number = Number;
        return string.Join(
            ':',
            Enumerable.Range(0, 6).Select(i => (number >> (40 - 8 * i) & 255).ToString("X2", CultureInfo.InvariantCulture))
        );
    }
}
