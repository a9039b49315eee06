using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Topics;

/// <summary>A limit that must be computed for the row at hand, by its name in the catalogue.</summary>
/// <param name="Name">As checks name it after <c>fn:</c>; never renamed.</param>
/// <param name="Unit">A check in another would hold metres against volts.</param>
/// <param name="Make">Adds the limits that it makes for a row; none where what it needs is not known.</param>
internal sealed record LimitFunction(string Name, Unit Unit, Action<RowContext, List<Limit>> Make)
{
    /// <summary>Code of what somebody would have to give where it makes none; null where it always does.</summary>
    public string? Missing { get; init; }

    /// <summary>Features of a practice that it asks for.</summary>
    public ImmutableArray<string> AsksFor { get; init; } = [];

    /// <summary>Other checks whose readings it looks at.</summary>
    public ImmutableArray<CheckId> LeansOn { get; init; } = [];
}
