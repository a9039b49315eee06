namespace Walkdown.Core.Measures;

/// <summary>One input of an expectation: its middle, and how far it may be off by where it comes from (docs/calculations.md, W).</summary>
/// <param name="Name">Code of its name, such as <c>term.length</c>.</param>
/// <param name="Low">Least that it may be, in its unit.</param>
/// <param name="High">Most that it may be, in its unit.</param>
/// <param name="From">Where the half width comes from.</param>
/// <param name="Middle">Middle of its interval, in its unit.</param>
/// <param name="Origin">Where the figure comes from.</param>
/// <param name="Unit">The unit.</param>
public sealed record EstimateInput(string Name, double Middle, double Low, double High, Unit Unit, Origin Origin, Message From)
{
    /// <summary>Half of its interval, in its unit.</summary>
    public double HalfWidth => (High - Low) / 2;

    /// <summary>A middle with the same half width to both sides, never below nothing where the middle is not.</summary>
    public static EstimateInput Around(string name, double middle, double half, Unit unit, Origin origin, Message from) =>
        new(
            name,
            middle,
            middle >= 0 && unit != Unit.DegreeCelsius ? Math.Max(0, middle - half) : middle - half,
            middle + half,
            unit,
            origin,
            from
        );
}
