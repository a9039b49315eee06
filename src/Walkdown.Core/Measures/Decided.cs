namespace Walkdown.Core.Measures;

/// <summary>A reading decided against a window.</summary>
/// <param name="HalfWidth">The accuracy's half width at the reading, in its unit.</param>
/// <param name="InstrumentCannotDecide">Under the guarded rule the band is wider than the span: a better instrument is needed.</param>
/// <param name="Outcome">What came of it.</param>
/// <param name="Spare">How much is left to the nearest limit; null: no limit.</param>
public sealed record Decided(Outcome Outcome, double HalfWidth, Spare Spare, bool InstrumentCannotDecide);
