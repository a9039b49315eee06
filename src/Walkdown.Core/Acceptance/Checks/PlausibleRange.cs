namespace Walkdown.Core.Acceptance;

/// <summary>What a number may be at all; beyond it the reading is refused as a slip.</summary>
public sealed record PlausibleRange(double Min, double Max);
