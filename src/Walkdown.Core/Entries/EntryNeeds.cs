namespace Walkdown.Core.Entries;

/// <summary>What has to be looked up outside the Card before an entry can be decided.</summary>
/// <param name="ObservationId">An answer of a source that the server kept.</param>
/// <param name="UnitSerial">A unit by its serial number.</param>
/// <param name="Pictures">Pictures of the place are cited.</param>
public readonly record struct EntryNeeds(Guid? ObservationId = null, string? UnitSerial = null, bool Pictures = false);
