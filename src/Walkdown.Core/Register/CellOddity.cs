namespace Walkdown.Core.Register;

/// <summary>
/// None: it is what it shows. NoResult: a formula whose result the workbook does not hold. Date: a number that the workbook shows as a day;
/// what was typed may have been another thing.
/// Error: a formula that failed.
/// </summary>
public enum CellOddity
{
    /// <summary>Nothing odd.</summary>
    None,

    /// <summary>A formula that nobody computed.</summary>
    NoResult,

    /// <summary>A date.</summary>
    Date,

    /// <summary>An error.</summary>
    Error,
}
