namespace Walkdown.Core.Acceptance;

/// <summary>A unit at the place, from, until.</summary>
/// <param name="Until">Null: it hangs there now.</param>
/// <param name="From">Since when it hangs there.</param>
/// <param name="HardwareAddress">Hardware address; null: not known.</param>
/// <param name="Id">Its id.</param>
/// <param name="Serial">Serial number.</param>
public sealed record UnitFacts(Guid Id, string Serial, string? HardwareAddress, DateTimeOffset From, DateTimeOffset? Until = null);
