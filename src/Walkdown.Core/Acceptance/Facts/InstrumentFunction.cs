using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>Accuracy of one function of an instrument in one range.</summary>
/// <param name="UpTo">Greatest magnitude that it holds for, in the unit; null: for all above the ranges before.</param>
/// <param name="Accuracy">How well it measures.</param>
/// <param name="Unit">The unit.</param>
public sealed record InstrumentFunction(Unit Unit, Accuracy Accuracy, double? UpTo = null);
