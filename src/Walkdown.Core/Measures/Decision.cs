namespace Walkdown.Core.Measures;

/// <summary>A value against its limits with its accuracy: guarded or simple (JCGM 106:2012).</summary>
public static class Decision
{
    /// <summary>Limits count as met within this (relative for large numbers): 0.1 + 0.2 against 0.3 is in.</summary>
    public static double Slack(double a, double b) => 1e-9 * Math.Max(1, Math.Max(Math.Abs(a), Math.Abs(b)));

    /// <summary>At or beneath a limit, but for rounding of the arithmetic.</summary>
    public static bool AtMost(double value, double limit) => value <= limit + Slack(value, limit);

    /// <summary>A measured value against a limit above it: in or out only when its whole uncertainty is on one side.</summary>
    public static Outcome Within(double value, double uncertainty, double most) =>
        AtMost(value + uncertainty, most) ? Outcome.In
        : !AtMost(value - uncertainty, most) ? Outcome.Out
        : Outcome.TooClose;

    /// <summary>Decides a reading (docs/calculations.md, P). A band that only touches a limit from inside is in; from outside it is too
    /// close.</summary>
    /// <exception cref="BadInputException">No limits, a window whose least is above its greatest, or a reading that is not
    /// finite.</exception>
    public static Decided Decide(double reading, double? min, double? max, Accuracy? accuracy, DecisionRule rule)
    {
        Require.Number(reading, "reading");
        if (min is null && max is null)
            throw new BadInputException(BadInputReason.Missing, "limits");
        if (min is { } m)
            Require.Number(m, "limits.min");
        if (max is { } x)
            Require.Number(x, "limits.max");
        Require.Consistent(!(min > max), "limits");
        var half = accuracy?.HalfWidthAt(reading) ?? 0;
        double low = reading - half,
            high = reading + half;
        Outcome outcome;
        if (rule == DecisionRule.Simple)
            outcome = Inside(reading, reading) ? Outcome.In : Outcome.Out;
        else if (Inside(low, high))
            outcome = Outcome.In;
        else if ((min is { } least && high < least - Slack(high, least)) || (max is { } most && low > most + Slack(low, most)))
            outcome = Outcome.Out;
        else
            outcome = Outcome.TooClose;
        var wide = rule == DecisionRule.Guarded && min is { } a && max is { } b && 2 * half > b - a + Slack(a, b);
        return new Decided(outcome, half, SpareOf(reading, min, max), wide);

        bool Inside(double from, double to) => (min is not { } least || AtMost(least, from)) && (max is not { } most || AtMost(to, most));
    }

    private static Spare SpareOf(double reading, double? min, double? max)
    {
        double toMin = reading - min ?? double.PositiveInfinity,
            toMax = max - reading ?? double.PositiveInfinity;
        var both = double.IsFinite(toMin) && double.IsFinite(toMax) && Math.Abs(toMin - toMax) <= Slack(toMin, toMax);
        var nearest =
            both ? NearestLimit.Both
            : toMin < toMax ? NearestLimit.Min
            : NearestLimit.Max;
        var spare = Math.Min(toMin, toMax);
        double? limit = nearest switch
        {
            NearestLimit.Min => min,
            NearestLimit.Max => max,
            _ => null,
        };
        var span = max - min;
        return new Spare(spare, span > 0 ? spare / span : null, limit is { } l && l != 0 ? spare / Math.Abs(l) : null, nearest);
    }
}
