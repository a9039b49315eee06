namespace Walkdown.Core.Measures;

/// <summary>All limits on one quantity, intersected. An empty window is a finding about the limits, not about the reading.</summary>
public sealed record LimitWindow(ImmutableArray<Limit> Parts, double? Min, double? Max, Unit Unit, bool Empty)
{
    /// <summary>Intersects limits of one unit. Null when there are none.</summary>
    /// <exception cref="BadInputException">Limits in different units.</exception>
    public static LimitWindow? Intersect(IEnumerable<Limit> limits)
    {
        var parts = limits.ToImmutableArray();
        if (parts.IsEmpty)
            return null;
        double? min = null,
            max = null;
        foreach (var part in parts)
        {
            Require.Consistent(part.Unit == parts[0].Unit, "limits.unit");
            if (part.Min is { } low && !(min >= low))
                min = low;
            if (part.Max is { } high && !(max <= high))
                max = high;
        }
        return new LimitWindow(parts, min, max, parts[0].Unit, min > max);
    }

    /// <summary>From nominal and a percentage of its magnitude.</summary>
    public static (double Min, double Max) AroundNominal(double nominal, double plusMinusPercent)
    {
        Require.Number(nominal, "limits.nominal");
        Require.Number(plusMinusPercent, "limits.plus_minus_percent", 0);
        var half = Require.Number(Math.Abs(nominal) * plusMinusPercent / 100, "limits.nominal");
        return (nominal - half, nominal + half);
    }
}
