using Walkdown.Core.Measures;

namespace Walkdown.Core.Recording;

/// <summary>Unit of a capacity (IEC 80000-13).</summary>
public enum CapacityUnit
{
    /// <summary>10^9 bytes.</summary>
    Gb,

    /// <summary>10^12 bytes.</summary>
    Tb,

    /// <summary>2^30 bytes.</summary>
    Gib,

    /// <summary>2^40 bytes.</summary>
    Tib,
}

/// <summary>How a promise of days stands.</summary>
public enum RetentionVerdict
{
    /// <summary>No days were promised.</summary>
    NotChecked,

    /// <summary>They are kept.</summary>
    Ok,

    /// <summary>They are not.</summary>
    TooShort,
}

/// <summary>How many days a store holds.</summary>
/// <param name="MeanMbps">Of all streams, over all the time.</param>
/// <param name="PeakMbps">Of all streams at their worst.</param>
/// <param name="BytesPerDay">Written in a day.</param>
/// <param name="UsableBytes">Without what the recorder keeps for itself.</param>
/// <param name="Days">Null: it is never full, for nothing is recorded.</param>
/// <param name="NeededTb">For the days that were promised, 10^12 bytes, with the recorder's share; null: none were.</param>
/// <param name="Verdict">Of the promise.</param>
public sealed record Retention(
    double MeanMbps,
    double PeakMbps,
    double BytesPerDay,
    double UsableBytes,
    double? Days,
    double? NeededTb,
    RetentionVerdict Verdict
)
{
    private const double SecondsPerDay = 86_400;

    /// <summary>Whole bytes of a capacity.</summary>
    public static double BytesOf(double value, CapacityUnit unit) =>
        value
        * unit switch
        {
            CapacityUnit.Gb => 1e9,
            CapacityUnit.Tb => 1e12,
            CapacityUnit.Gib => 1073741824.0,
            _ => 1099511627776.0,
        };

    /// <summary>Bytes in a day at a mean rate.</summary>
    public static double BytesPerDayOf(double meanMbps) => meanMbps * 1e6 / 8 * SecondsPerDay;

    /// <summary>The mean rate of what is written in a day.</summary>
    /// <param name="gigabytesPerDay">10^9 bytes.</param>
    public static double MeanMbpsOf(double gigabytesPerDay) => gigabytesPerDay * 8000 / SecondsPerDay;

    /// <summary>Of streams in a store.</summary>
    /// <param name="streams">May be none: then nothing is recorded, and it is never full.</param>
    /// <param name="capacity">Of the store.</param>
    /// <param name="unit">Its unit.</param>
    /// <param name="reservePercent">That the recorder and its file system keep.</param>
    /// <param name="requiredDays">That were promised; null: none were.</param>
    public static Retention Of(
        IReadOnlyCollection<RecordedStream> streams,
        double capacity,
        CapacityUnit unit,
        double reservePercent = 5,
        double? requiredDays = null
    )
    {
        Require.Number(capacity, "capacity_value", 0);
        Require.Number(reservePercent, "reserve_percent", 0);
        if (reservePercent >= 100)
            throw new BadInputException(BadInputReason.AboveMaximum, "reserve_percent");
        if (requiredDays is { } wanted)
            Require.Positive(wanted, "required_days");
        double mean = 0,
            peak = 0;
        foreach (var stream in streams)
        {
            mean += stream.MeanMbps;
            peak += stream.PeakMbps;
        }
        var usable = BytesOf(capacity, unit) * (1 - reservePercent / 100);
        var daily = BytesPerDayOf(mean);
        double? days = daily > 0 ? usable / daily : null;
        return new(
            mean,
            peak,
            daily,
            usable,
            days,
            requiredDays is { } promised ? promised * daily / (1 - reservePercent / 100) / 1e12 : null,
            requiredDays is not { } required ? RetentionVerdict.NotChecked
                : days is not { } kept || kept >= required - 1e-9 * Math.Max(1, required) ? RetentionVerdict.Ok
                : RetentionVerdict.TooShort
        );
    }

    /// <summary>Days until a store is full for the first time; null: never, or it overwrites already.</summary>
    public static double? DaysUntilFull(double free, CapacityUnit unit, double meanMbps, bool overwrites = false)
    {
        Require.Number(free, "free_value", 0);
        Require.Number(meanMbps, "mean_mbps", 0);
        return overwrites || meanMbps == 0 ? null : BytesOf(free, unit) / BytesPerDayOf(meanMbps);
    }
}

/// <summary>How what lies on the disks stands to the promise.</summary>
public enum MeasuredRetentionVerdict
{
    /// <summary>It is long enough.</summary>
    Ok,

    /// <summary>It overwrites already, and is too short.</summary>
    TooShort,

    /// <summary>It has not been full yet: a prediction says more.</summary>
    NotYetFullPredictInstead,
}

/// <summary>Days that are on the disks now.</summary>
public static class MeasuredRetention
{
    /// <param name="oldest">The oldest recording.</param>
    /// <param name="newest">The newest.</param>
    /// <param name="requiredDays">That were promised.</param>
    /// <param name="overwrites">The store was full at least once.</param>
    /// <exception cref="BadInputException">The newest is older than the oldest.</exception>
    public static (double Days, MeasuredRetentionVerdict Verdict) Of(
        DateTimeOffset oldest,
        DateTimeOffset newest,
        double requiredDays,
        bool overwrites
    )
    {
        Require.Consistent(newest >= oldest, "newest_utc");
        Require.Positive(requiredDays, "required_days");
        var days = (newest - oldest).TotalDays;
        return (
            days,
            days >= requiredDays - 1e-9 * requiredDays ? MeasuredRetentionVerdict.Ok
            : overwrites ? MeasuredRetentionVerdict.TooShort
            : MeasuredRetentionVerdict.NotYetFullPredictInstead
        );
    }
}
