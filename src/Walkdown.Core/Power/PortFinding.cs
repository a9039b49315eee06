using Walkdown.Core.Measures;

namespace Walkdown.Core.Power;

/// <summary>Something about one port that should be mended or known.</summary>
public sealed record PortFinding(int Port, Message What);
