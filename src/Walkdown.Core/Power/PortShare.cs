using Walkdown.Core.Measures;

namespace Walkdown.Core.Power;

/// <summary>What one port takes of a budget; in the order in which ports are granted.</summary>
/// <param name="Origin">Of the draw: measured, planned, or assumed where only the class is known.</param>
/// <param name="ClassWatts">Watts by its class.</param>
/// <param name="DrawWatts">Watts by its draw.</param>
/// <param name="Label">Its label.</param>
/// <param name="Port">The port; null: it ends at none.</param>
public sealed record PortShare(int Port, string Label, double ClassWatts, double DrawWatts, Origin Origin);
