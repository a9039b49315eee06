using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>A likely cause with its evidence on this Card, and what to try.</summary>
public sealed record LikelyCause(string Id, Message Evidence, Severity Severity, int Minutes);
