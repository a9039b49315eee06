namespace Walkdown.Core.Register;

/// <summary>How a sheet is read.</summary>
/// <param name="HeaderRow">Counted from 0.</param>
/// <param name="Defaults">By column id: for cells that are empty or columns that are not there.</param>
/// <param name="Kinds">Device kinds by the words of this sheet.</param>
/// <param name="AddMissing">Cabinets and recorders that are only named get a row of their own.</param>
/// <param name="LeftOut">Rows that are left out, counted in the file from 1.</param>
/// <param name="TakenAnyway">Rows that are taken though they are hidden, struck out or said to be deleted.</param>
/// <param name="Columns">Which heading is which column.</param>
/// <param name="Sign">The decimal sign.</param>
public sealed record SheetMapping(
    int HeaderRow,
    ImmutableArray<MappedColumn> Columns,
    DecimalSign Sign,
    ImmutableDictionary<string, string> Defaults,
    ImmutableDictionary<string, string> Kinds,
    bool AddMissing,
    ImmutableArray<int>? LeftOut = null,
    ImmutableArray<int>? TakenAnyway = null
);
