using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Handover;

/// <summary>One step from what was read to what was decided.</summary>
/// <param name="What">The step with its numbers put in.</param>
/// <param name="From">What it rests on, each with its origin.</param>
/// <param name="Source">Standard, data sheet or practice that the number comes from, as it is printed.</param>
/// <param name="Edition">Edition of the limit set.</param>
/// <param name="Kind">Its kind.</param>
public sealed record TraceStep(TraceKind Kind, Message What, ImmutableArray<Term> From, string? Source = null, string? Edition = null);
