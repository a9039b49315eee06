namespace Walkdown.Core.Register;

/// <summary>One cell of a sheet as it came.</summary>
/// <param name="Text">Its text, trimmed; a number of a workbook in invariant notation.</param>
/// <param name="IsNumber">True where the workbook itself says that it is a number: its point is a decimal point.</param>
/// <param name="Odd">What the workbook says of it that its text does not show.</param>
public readonly record struct Cell(string Text, bool IsNumber = false, CellOddity Odd = CellOddity.None)
{
    /// <summary>Nothing stands in it.</summary>
    public bool IsEmpty => string.IsNullOrEmpty(Text) && Odd != CellOddity.NoResult;
}
