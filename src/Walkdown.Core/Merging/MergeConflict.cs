using Walkdown.Core.Measures;

namespace Walkdown.Core.Merging;

/// <summary>Where two installations say different things of one job: what, and what holds from now on.</summary>
/// <param name="About">The label of the place; empty where it is of the whole job.</param>
/// <param name="What">In a technician's words.</param>
public sealed record MergeConflict(string About, Message What);
