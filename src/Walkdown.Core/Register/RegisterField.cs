using Walkdown.Core.Measures;

namespace Walkdown.Core.Register;

/// <summary>
/// One column of the register: the same in a schedule that comes in, in the table, as built on the Card, and in what goes out.
/// </summary>
/// <param name="Id">Name of the column in Walkdown's own schedule, such as <c>length_m</c>; never renamed.</param>
/// <param name="Unit">Unit of a number; a cell may carry it, or one that can be turned into it.</param>
/// <param name="Words">The words allowed, for <see cref="FieldKind.Word"/>; the canonical ones.</param>
/// <param name="Most">Most characters of a text.</param>
/// <param name="Headings">Headings that people write over such a column, in any case and punctuation.</param>
/// <param name="Of">What it is of.</param>
/// <param name="Kind">Its kind.</param>
/// <param name="Min">Least allowed; null: no lower limit.</param>
/// <param name="Max">Greatest allowed; null: no upper limit.</param>
public sealed record RegisterField(
    string Id,
    FieldOf Of,
    FieldKind Kind,
    double Min,
    double Max,
    Unit Unit,
    ImmutableArray<string> Words,
    int Most,
    ImmutableArray<string> Headings
)
{
    /// <summary>Code of its words.</summary>
    public string TextKey => "field." + Id;
}
