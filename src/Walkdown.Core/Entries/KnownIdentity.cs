namespace Walkdown.Core.Entries;

/// <summary>A device as it can be told by what is found.</summary>
/// <param name="Id">The place.</param>
/// <param name="Labels">Its own and those of its runs.</param>
/// <param name="Serial">Of the unit that hangs there; empty: not known.</param>
/// <param name="HardwareAddress">Of that unit; empty: not known.</param>
/// <param name="Address">Planned or as built; empty: not known.</param>
public sealed record KnownIdentity(Guid Id, ImmutableArray<string> Labels, string Serial, string HardwareAddress, string Address);
