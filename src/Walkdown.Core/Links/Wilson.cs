namespace Walkdown.Core.Links;

/// <summary>Wilson score interval of a share (docs/calculations.md, G): honest where nothing, or everything, went wrong.</summary>
public static class Wilson
{
    /// <summary>95 % two-sided.</summary>
    public const double Z95 = 1.959963984540054;

    /// <summary>Both ends of the interval, as shares; exactly 0 for none, exactly 1 for all.</summary>
    public static (double Low, double High) Interval(double bad, double of, double z = Z95)
    {
        double p = bad / of,
            square = z * z,
            below = 1 + square / of;
        double centre = (p + square / (2 * of)) / below,
            half = z * Math.Sqrt(p * (1 - p) / of + square / (4 * of * of)) / below;
        return (bad == 0 ? 0 : Math.Max(0, centre - half), bad == of ? 1 : Math.Min(1, centre + half));
    }
}
