using Walkdown.Core.Measures;

namespace Walkdown.Core.Recording;

/// <summary>What is wrong with the identifier by which a camera and its recorder know each other's events.</summary>
public enum IdentifierFinding
{
    /// <summary>There is none.</summary>
    Missing,

    /// <summary>Something else than 0 to 9 stands in it.</summary>
    NotDigits,

    /// <summary>It is longer or shorter than all are here.</summary>
    WrongLength,

    /// <summary>Nobody has said what its role code means.</summary>
    UnknownRoleCode,

    /// <summary>Its role code is another kind's.</summary>
    RoleCodeOfAnotherKind,

    /// <summary>Another has the same.</summary>
    NotUnique,

    /// <summary>The other side does not know the device.</summary>
    NotInOtherSystem,

    /// <summary>The other side knows it by another.</summary>
    DiffersFromOtherSystem,
}

/// <summary>One device's identifier.</summary>
/// <param name="Device">By name.</param>
/// <param name="Identifier">Null or blank: none.</param>
/// <param name="Role">Null: nobody has said; then its code is not compared.</param>
public sealed record EventIdentifier(string Device, string? Identifier, string? Role = null);

/// <summary>How identifiers are made here: digits only, of one length, with a code for the role at one place (docs/calculations.md,
/// O).</summary>
/// <param name="Length">Digits.</param>
/// <param name="RoleStart">Where the code begins, from 1.</param>
/// <param name="RoleCodes">Role by code; the codes are of one length.</param>
public sealed record IdentifierRule(int Length, int RoleStart, IReadOnlyDictionary<string, string> RoleCodes)
{
    private const int Longest = 64;

    /// <summary>Finds what is wrong with each.</summary>
    /// <param name="rows">Of one side.</param>
    /// <param name="other">By device, of the other side; null: not compared.</param>
    /// <returns>For each row its findings; and devices that only the other side has.</returns>
    /// <exception cref="BadInputException">A rule that cannot be.</exception>
    public (ImmutableArray<ImmutableArray<IdentifierFinding>> Rows, ImmutableArray<string> OnlyInOther) Check(
        IReadOnlyList<EventIdentifier> rows,
        IReadOnlyDictionary<string, string?>? other = null
    )
    {
        var code = CodeLength();
        static string? Text(string? said) => said?.Trim() is { Length: > 0 } own ? own : null;
        var shared = rows.Select(r => Text(r.Identifier))
            .OfType<string>()
            .GroupBy(t => t)
            .Where(g => g.Count() > 1)
            .Select(g => g.Key)
            .ToHashSet();
        var result = ImmutableArray.CreateBuilder<ImmutableArray<IdentifierFinding>>(rows.Count);
        foreach (var row in rows)
        {
            if (Text(row.Identifier) is not { } own)
            {
                result.Add([IdentifierFinding.Missing]);
                continue;
            }
            var found = ImmutableArray.CreateBuilder<IdentifierFinding>();
            if (!own.All(char.IsAsciiDigit))
                found.Add(IdentifierFinding.NotDigits);
            if (own.Length != Length)
                found.Add(IdentifierFinding.WrongLength);
            if (found.Count == 0)
            {
                if (!RoleCodes.TryGetValue(own.Substring(RoleStart - 1, code), out var role))
                    found.Add(IdentifierFinding.UnknownRoleCode);
                else if (row.Role is { } said && said != role)
                    found.Add(IdentifierFinding.RoleCodeOfAnotherKind);
            }
            if (shared.Contains(own))
                found.Add(IdentifierFinding.NotUnique);
            if (other is not null)
            {
                if (!other.TryGetValue(row.Device, out var there) || there is null)
                    found.Add(IdentifierFinding.NotInOtherSystem);
                else if (there.Trim() != own)
                    found.Add(IdentifierFinding.DiffersFromOtherSystem);
            }
            result.Add(found.ToImmutable());
        }
        var names = rows.Select(r => r.Device).ToHashSet();
        return (
            result.MoveToImmutable(),
            other is null ? [] : [.. other.Keys.Where(k => !names.Contains(k)).Order(StringComparer.Ordinal)]
        );
    }

    /// <summary>New ones for devices that have none: the role's code at its place, a number at the end that nobody has.</summary>
    /// <param name="prefix">Digits before the code.</param>
    /// <param name="role">Whose.</param>
    /// <param name="count">So many.</param>
    /// <param name="taken">Those that are there.</param>
    /// <exception cref="BadInputException">The rule or prefix cannot be, or no more are left.</exception>
    public ImmutableArray<string> Make(string prefix, string role, int count, IReadOnlySet<string> taken)
    {
        ImmutableArray<string> made = [.. Free(prefix, role, taken).Take(count)];
        Require.Consistent(made.Length == count, "length");
        return made;
    }

    /// <summary>All that nobody has, the lowest first.</summary>
    /// <inheritdoc cref="Make"/>
    internal IEnumerable<string> Free(string prefix, string role, IReadOnlySet<string> taken)
    {
        var code = CodeLength();
        Require.Consistent(prefix.Length == RoleStart - 1 && prefix.All(char.IsAsciiDigit), "prefix");
        var own = RoleCodes.Where(c => c.Value == role).Select(c => c.Key).Order(StringComparer.Ordinal).FirstOrDefault();
        Require.Consistent(own is not null && own.All(char.IsAsciiDigit), "role_codes");
        var digits = Length - (RoleStart - 1) - code;
        for (long n = 1; ; n++)
        {
            var number = n.ToString(CultureInfo.InvariantCulture);
            if (number.Length > digits)
                yield break;
            var made = prefix + own + number.PadLeft(digits, '0');
            if (!taken.Contains(made))
                yield return made;
        }
    }

    /// <summary>Whether an identifier can be made by it.</summary>
    internal bool IsSound
    {
        get
        {
            try
            {
                CodeLength();
                return true;
            }
            catch (BadInputException)
            {
                return false;
            }
        }
    }

    private int CodeLength()
    {
        Require.Number(Length, "length", 1, Longest);
        Require.Number(RoleStart, "role_start", 1);
        Require.Consistent(RoleStart <= Length, "role_start");
        if (RoleCodes.Count == 0)
            throw new BadInputException(BadInputReason.Empty, "role_codes");
        var lengths = RoleCodes.Keys.Select(k => k.Length).Distinct().ToList();
        Require.Consistent(lengths is [> 0] && RoleStart - 1 + lengths[0] <= Length, "role_codes");
        return lengths[0];
    }
}
