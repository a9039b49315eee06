namespace Walkdown.Core.Power;

/// <summary>A cabinet as power and network reach it.</summary>
/// <param name="FedFrom">The cabinet that its uplink comes from; null at the head end.</param>
/// <param name="Id">Its id.</param>
/// <param name="Label">Its label.</param>
public readonly record struct StartCabinet(Guid Id, string Label, Guid? FedFrom);
