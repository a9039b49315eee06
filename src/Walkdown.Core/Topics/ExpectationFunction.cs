using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Topics;

/// <summary>What a row should read, by its name in the catalogue.</summary>
/// <param name="Name">As checks name it; never renamed.</param>
/// <param name="Unit">Of its number; null where it is a word.</param>
/// <param name="Make">Computes it from the design and from what was measured already; where it cannot, it says why.</param>
internal sealed record ExpectationFunction(string Name, Unit? Unit, Func<RowContext, Expectation> Make)
{
    /// <summary>Other checks whose readings it looks at.</summary>
    public ImmutableArray<CheckId> LeansOn { get; init; } = [];
}
