using Walkdown.Core.Measures;

namespace Walkdown.Core.Register;

/// <summary>A cell that cannot be taken, and the mend. Rows are counted as in the file, from 1.</summary>
/// <param name="MayTake">True where the row can be taken all the same, if somebody says so.</param>
/// <param name="Column">The column.</param>
/// <param name="Mend">Code of how to mend it.</param>
/// <param name="Row">The row, from 1.</param>
/// <param name="What">What it is about, as a code.</param>
public sealed record CellProblem(int Row, string Column, Message What, Message Mend, bool MayTake = false);
