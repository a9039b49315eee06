using Walkdown.Core.Cabling;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>One reading against its row.</summary>
internal sealed record Judged(State State, Spare? Spare, double? HalfWidth, ImmutableArray<Message> Because, WireMapAnalysis? Map = null);
