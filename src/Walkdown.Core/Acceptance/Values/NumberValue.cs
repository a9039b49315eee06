using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <param name="Value">In the check's own unit.</param>
/// <param name="Unit">The unit.</param>
public sealed record NumberValue(double Value, Unit Unit) : ReadingValue;
