namespace Walkdown.Core.Measures;

/// <summary>An interval in the unit of what it is of; both ends belong to it.</summary>
public sealed record Band(double Low, double High)
{
    /// <summary>Whether a reading, with its half width, meets the interval.</summary>
    public bool Meets(double reading, double halfWidth) =>
        Decision.AtMost(Low, reading + halfWidth) && Decision.AtMost(reading - halfWidth, High);
}
