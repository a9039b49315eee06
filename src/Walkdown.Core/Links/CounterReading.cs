namespace Walkdown.Core.Links;

/// <summary>One look at the counters of an interface; whole numbers that wrap.</summary>
public readonly record struct CounterReading(decimal Packets, decimal Errors);
