namespace Walkdown.Core.Acceptance;

/// <summary>One look at the counters of a port.</summary>
public readonly record struct CounterLook(long Packets, long Errors);
