namespace Walkdown.Core.Clocks;

/// <summary>A reading of a clock against ours.</summary>
/// <param name="OffsetSeconds">Positive: it is ahead.</param>
/// <param name="UncertaintySeconds">No path hides more.</param>
/// <param name="At">By our clock.</param>
public sealed record ClockRead(double OffsetSeconds, double UncertaintySeconds, DateTimeOffset At);

/// <summary>How a clock runs between two readings of it: a clock that follows a server runs level, one that was set once runs
/// away.</summary>
/// <param name="SecondsPerDay">Positive: it gains.</param>
/// <param name="UncertaintyPerDay">Of both readings, over the time between them.</param>
/// <param name="Hours">Between them.</param>
/// <param name="DaysToLimit">From the later reading until it is beyond its limit at this rate; 0: it is already; null: it runs level as far
/// as can be told, or towards right.</param>
/// <param name="WasSet">Between them it jumped by more than a clock can run: somebody or something set it, and the rate says
/// nothing.</param>
public sealed record ClockDrift(double SecondsPerDay, double UncertaintyPerDay, double Hours, double? DaysToLimit, bool WasSet)
{
    /// <summary>So far back an earlier reading of the same clock says how it runs.</summary>
    public static readonly TimeSpan Most = TimeSpan.FromDays(14);

    /// <summary>Readings nearer together say nothing of a day (practice).</summary>
    public static readonly TimeSpan Least = TimeSpan.FromHours(6);

    /// <summary>No clock of this kind runs away by more in a day: a quartz is within some seconds (practice).</summary>
    private const double MostPerDay = 20;

    /// <summary>Of two readings.</summary>
    /// <param name="earlier">The first.</param>
    /// <param name="later">The second.</param>
    /// <param name="limitSeconds">Either way.</param>
    /// <returns>Null where they are too near together to tell.</returns>
    public static ClockDrift? Of(ClockRead earlier, ClockRead later, double limitSeconds)
    {
        var between = later.At - earlier.At;
        if (between < Least)
            return null;
        var (days, moved) = (between.TotalDays, later.OffsetSeconds - earlier.OffsetSeconds);
        var unsure = earlier.UncertaintySeconds + later.UncertaintySeconds;
        var (rate, half) = (moved / days, unsure / days);
        var wasSet = Math.Abs(moved) - unsure > MostPerDay * Math.Max(1, days);
        var beyond = Math.Abs(later.OffsetSeconds) > limitSeconds;
        // Level as far as can be told, or on its way back: no day is named.
        var runsAway = !wasSet && Math.Abs(rate) > half && Math.Sign(rate) * later.OffsetSeconds >= -limitSeconds;
        double? left = !runsAway ? null : Math.Max(0, (limitSeconds - Math.Sign(rate) * later.OffsetSeconds) / Math.Abs(rate));
        return new(rate, half, between.TotalHours, beyond && left is not null ? 0 : left, wasSet);
    }
}
