using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>A reading of a known reference on site, to see that an instrument still reads true.</summary>
/// <param name="Reference">What the reference is, in the unit.</param>
/// <param name="At">When.</param>
/// <param name="Reading">What was read, in the unit.</param>
/// <param name="Unit">The unit.</param>
public sealed record FieldCheck(Unit Unit, double Reference, double Reading, DateTimeOffset At);
