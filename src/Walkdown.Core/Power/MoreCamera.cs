namespace Walkdown.Core.Power;

/// <summary>A camera that hangs nowhere yet, to see what its port would take.</summary>
/// <param name="PowerClass">0 to 8.</param>
/// <param name="Watts">At the port, at its heaviest; null: what its class may take.</param>
public sealed record MoreCamera(int PowerClass, double? Watts = null);
