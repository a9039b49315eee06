namespace Walkdown.Core.Measures;

/// <summary>A number with its unit.</summary>
public readonly record struct Quantity(double Value, Unit Unit);
