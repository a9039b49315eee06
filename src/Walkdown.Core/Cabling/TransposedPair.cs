namespace Walkdown.Core.Cabling;

/// <summary>A pair that arrives on another pair's pins.</summary>
public readonly record struct TransposedPair(PinPair Near, PinPair Far);
