namespace Walkdown.Devices.Field;

/// <summary>A login that is tried at a device. It lives as long as the sweep that uses it, and is never written or printed.</summary>
/// <param name="User">Who.</param>
/// <param name="Password">The secret.</param>
public sealed record FieldLogin(string User, string Password)
{
    /// <summary>Never the secret.</summary>
    public override string ToString() => "login";
}
