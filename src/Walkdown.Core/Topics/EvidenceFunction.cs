using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Topics;

/// <summary>What on a Card speaks for a cause, by its name in the catalogue.</summary>
/// <param name="Name">As causes name it; never renamed.</param>
/// <param name="Find">The evidence in words; null where there is none.</param>
internal sealed record EvidenceFunction(string Name, Func<RowContext, Attempt, Message?> Find)
{
    /// <summary>It is given the cause's own words, instead of looking for its evidence itself.</summary>
    public bool BySaying { get; init; }

    /// <summary>Other checks whose readings it looks at.</summary>
    public ImmutableArray<CheckId> LeansOn { get; init; } = [];
}
