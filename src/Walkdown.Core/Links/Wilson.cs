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

    /// <summary>Whether a share is reached: yes where even the least of the interval is enough, no where even the most is not; null
    /// between.</summary>
    /// <param name="right">Of all.</param>
    /// <param name="of">All; none says neither.</param>
    /// <param name="percent">The share wanted.</param>
    public static bool? Reaches(int right, int of, double percent)
    {
        if (of == 0)
            return null;
        var (low, high) = Interval(right, of);
        return low * 100 >= percent ? true
            : high * 100 < percent ? false
            : null;
    }

    /// <summary>How many more, all right, would show the share wanted; at most 2,000.</summary>
    /// <inheritdoc cref="Reaches"/>
    public static int MoreToReach(int right, int of, double percent)
    {
        for (var more = 0; more < 2000; more++)
            if (Reaches(right + more, of + more, percent) == true)
                return more;
        return 2000;
    }
}
