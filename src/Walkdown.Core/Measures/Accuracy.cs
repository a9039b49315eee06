namespace Walkdown.Core.Measures;

/// <summary>
/// Accuracy of one function of an instrument, as data sheets state it: percent of the reading, counts of the last digit, and an absolute
/// part.
/// </summary>
/// <param name="PercentOfReading">Percent of the reading, at least 0.</param>
/// <param name="Counts">Counts of the last digit, at least 0; needs <paramref name="Resolution"/>.</param>
/// <param name="Resolution">Size of one count, in the reading's unit.</param>
/// <param name="Absolute">A fixed part, in the reading's unit.</param>
public sealed record Accuracy(double PercentOfReading = 0, double Counts = 0, double? Resolution = null, double Absolute = 0)
{
    /// <summary>No part below nothing, none without bound, and counts only with the size of one. Percent at most 100, counts at most
    /// 10,000.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public bool IsSound =>
        PercentOfReading is >= 0 and <= 100
        && Counts is >= 0 and <= 10_000
        && Absolute is >= 0 and <= 1e9
        && Resolution is null or (> 0 and <= 1e9)
        && (Counts == 0 || Resolution is not null);

    /// <summary>Half width of the band around a reading, in its unit: linear sum, worst case (docs/calculations.md, P).</summary>
    /// <exception cref="BadInputException">Counts without a resolution, or a negative part.</exception>
    public double HalfWidthAt(double reading)
    {
        Require.Number(PercentOfReading, "accuracy.percent_of_reading", 0);
        Require.Number(Counts, "accuracy.counts", 0);
        Require.Number(Absolute, "accuracy.absolute", 0);
        if (Resolution is { } size)
            Require.Number(size, "accuracy.resolution", 0);
        if (Counts > 0 && Resolution is null)
            throw new BadInputException(BadInputReason.Missing, "accuracy.resolution");
        return Math.Abs(reading) * PercentOfReading / 100 + Counts * (Resolution ?? 0) + Absolute;
    }
}
