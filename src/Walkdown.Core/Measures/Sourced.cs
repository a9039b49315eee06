namespace Walkdown.Core.Measures;

/// <summary>A value and its origin.</summary>
public readonly record struct Sourced<T>(T Value, Origin Origin);
