using System.Collections.Immutable;
using System.Security.Cryptography;
using System.Text;
using Walkdown.Core.Addressing;
using Walkdown.Devices.Field;

namespace Walkdown.Server.Addresses;

/// <summary>
/// Logins for one work at the network. They live in memory as long as the work does; whether two are the same is told by a hash whose key
/// dies with it.
/// </summary>
internal sealed class Logins
{
    private readonly byte[] _key = RandomNumberGenerator.GetBytes(32);
    private readonly FieldLogin? _forAll;
    private readonly Dictionary<string, FieldLogin> _for = new(StringComparer.OrdinalIgnoreCase);

    public Logins(ImmutableArray<GivenLogin> given)
    {
        foreach (var login in given.IsDefault ? [] : given)
            if (string.IsNullOrWhiteSpace(login.At))
                _forAll ??= new(login.User, login.Password);
            else
                _for[login.At.Trim()] = new(login.User, login.Password);
    }

    /// <summary>The one login of a device: its own, else the one for all.</summary>
    public FieldLogin? Of(string address, params ReadOnlySpan<string?> names)
    {
        foreach (var name in names)
            if (name is { Length: > 0 } && _for.TryGetValue(name.Trim(), out var own))
                return own;
        return _for.GetValueOrDefault(address) ?? _forAll;
    }

    /// <summary>Alike for the same password, and for nobody who has not this key.</summary>
    public string MarkOf(FieldLogin login) => Convert.ToHexString(HMACSHA256.HashData(_key, Encoding.UTF8.GetBytes(login.Password)));
}
