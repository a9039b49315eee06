namespace Walkdown.Core.Measures;

/// <summary>The one place that turns an out-of-range input into a <see cref="BadInputException"/>.</summary>
public static class Require
{
    /// <summary>A finite number within both bounds (inclusive); a bound left out is open.</summary>
    public static double Number(double value, string field, double min = double.NegativeInfinity, double max = double.PositiveInfinity)
    {
        if (!double.IsFinite(value))
            throw new BadInputException(BadInputReason.NotANumber, field);
        if (value < min)
            throw new BadInputException(BadInputReason.BelowMinimum, field);
        if (value > max)
            throw new BadInputException(BadInputReason.AboveMaximum, field);
        return value;
    }

    /// <summary>A finite number strictly above zero and at most <paramref name="max"/>.</summary>
    public static double Positive(double value, string field, double max = double.PositiveInfinity)
    {
        Number(value, field, max: max);
        return value > 0 ? value : throw new BadInputException(BadInputReason.BelowMinimum, field);
    }

    /// <summary>Throws <see cref="BadInputReason.Inconsistent"/> where two inputs contradict each other.</summary>
    public static void Consistent(bool holds, string field)
    {
        if (!holds)
            throw new BadInputException(BadInputReason.Inconsistent, field);
    }
}
