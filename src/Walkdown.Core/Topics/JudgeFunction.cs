using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Topics;

/// <summary>Judges one reading against its row.</summary>
/// <param name="context">The row and its Card.</param>
/// <param name="value">Of the way of entering that the judge names.</param>
/// <param name="window">Limits, intersected; null: there are none, and nothing is "in" by default.</param>
/// <param name="accuracy">Of the instrument in the check's unit; null: not known.</param>
/// <param name="takenAt">When it was taken.</param>
internal delegate Judged Judge(RowContext context, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt);

/// <summary>A judge by its name in the catalogue.</summary>
/// <param name="Name">As checks name it; never renamed.</param>
/// <param name="Judge">The function.</param>
/// <param name="Entry">The way of entering that it understands.</param>
internal sealed record JudgeFunction(string Name, Judge Judge, EntryKind Entry)
{
    /// <summary>Other checks whose readings it looks at.</summary>
    public ImmutableArray<CheckId> LeansOn { get; init; } = [];

    /// <summary>It holds a row against the others of its own check, such as a pair against the other pairs.</summary>
    public bool LeansOnItself { get; init; }
}
