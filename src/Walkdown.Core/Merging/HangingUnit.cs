namespace Walkdown.Core.Merging;

/// <summary>A unit that hangs at a place, as one installation has it.</summary>
/// <param name="Id">Of the installation row; decides between two of the same moment.</param>
/// <param name="Serial">Serial number.</param>
/// <param name="From">Since when.</param>
public readonly record struct HangingUnit(Guid Id, string Serial, DateTimeOffset From);
