namespace Walkdown.Core.Measures;

/// <summary>One limit on a quantity, with the source and purpose of its number.</summary>
/// <param name="Id">Id in the limit set, such as <c>loop.permanent-link</c>.</param>
/// <param name="Source">Standard and clause, data sheet, or "practice", as it is printed.</param>
/// <param name="Purpose">What the limit protects, as it is printed.</param>
/// <param name="Edition">The edition of the limit set it was taken from.</param>
/// <param name="Max">Greatest allowed; null: no upper limit.</param>
/// <param name="Min">Least allowed; null: no lower limit.</param>
/// <param name="Unit">The unit.</param>
public sealed record Limit(string Id, double? Min, double? Max, Unit Unit, string Source, string Purpose, string Edition);
