using Walkdown.Core.Measures;

namespace Walkdown.Core.Walking;

/// <summary>The next Stop, how far it is and why.</summary>
public sealed record NextStop(Guid Id, double? Metres, Message Why);
