namespace Walkdown.Core.Entries;

/// <summary>One unit leaves a place, and another hangs there.</summary>
/// <param name="Serial">Of the one that comes.</param>
/// <param name="At">When.</param>
public sealed record UnitSwap(string Serial, DateTimeOffset At);
