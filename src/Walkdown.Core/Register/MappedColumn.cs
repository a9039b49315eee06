namespace Walkdown.Core.Register;

/// <summary>What becomes of one column of a sheet.</summary>
/// <param name="Column">Counted from 0.</param>
/// <param name="Heading">As it stands in the sheet.</param>
/// <param name="Field">Id of a register column; null: kept as a note under its heading.</param>
/// <param name="Ignored">True: left out altogether.</param>
public sealed record MappedColumn(int Column, string Heading, string? Field, bool Ignored = false);
