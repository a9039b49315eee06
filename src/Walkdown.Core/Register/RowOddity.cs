namespace Walkdown.Core.Register;

/// <summary>What a workbook says of a whole row that its cells do not show.</summary>
public enum RowOddity
{
    /// <summary>A hidden row.</summary>
    Hidden,

    /// <summary>A row struck out.</summary>
    StruckOut,
}
