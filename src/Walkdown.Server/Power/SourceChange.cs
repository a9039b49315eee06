using Walkdown.Core.Acceptance;
using Walkdown.Core.Power;

namespace Walkdown.Server.Power;

/// <summary>An edition of a source's figures: who changed them, and why.</summary>
public sealed record SourceChange(int Version, string By, string Why, DateTimeOffset At);
