namespace Walkdown.Core.Measures;

/// <summary>One limit on a quantity, with the source and purpose of its number.</summary>
/// <param name="Id">Id in the limit set, such as <c>loop.permanent-link</c>.</param>
/// <param name="Source">Standard and clause, data sheet, or "practice", as it is printed.</param>
/// <param name="Purpose">What the limit protects, as it is printed.</param>
/// <param name="Edition">The edition of the limit set it was taken from.</param>
public sealed record Limit(string Id, double? Min, double? Max, Unit Unit, string Source, string Purpose, string Edition);

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

/// <summary>Distance from a reading to the nearest limit: negative when beyond it.</summary>
/// <param name="Value">In the reading's unit.</param>
/// <param name="ShareOfSpan">As a share of the span between both limits, where there are two.</param>
/// <param name="ShareOfLimit">As a share of the nearest limit, where there is one nearest and it is not 0.</param>
/// <param name="Nearest">Which limit is nearest.</param>
public sealed record Spare(double Value, double? ShareOfSpan, double? ShareOfLimit, NearestLimit Nearest)
{
    /// <summary>The share used to compare rows: of the span where there is one, else of the limit.</summary>
    public double Share => ShareOfSpan ?? ShareOfLimit ?? 0;
}

public enum NearestLimit
{
    Min,
    Max,
    Both,
}
