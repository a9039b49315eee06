namespace Walkdown.Core.Measures;

/// <summary>What would bring an expectation to a reading by itself.</summary>
/// <param name="HalfWidths">How far that is from its middle, counted in its half widths.</param>
/// <param name="Middle">Middle of its interval, in its unit.</param>
/// <param name="Name">Its name.</param>
/// <param name="Value">The value.</param>
public sealed record Explanation(string Name, double Value, double Middle, double HalfWidths);
