using Walkdown.Core.Measures;

namespace Walkdown.Core.Clocks;

/// <summary>Why a clock is so far off.</summary>
public enum ClockMistake
{
    /// <summary>It is within the limit.</summary>
    InLimit,

    /// <summary>An hour: the daylight rule, or the zone beside.</summary>
    DaylightSavingOrOneHourZone,

    /// <summary>Twelve hours: forenoon and afternoon changed over, or a zone.</summary>
    TwelveHourClockOrZone,

    /// <summary>Whole hours.</summary>
    WrongTimeZone,

    /// <summary>A half hour with it.</summary>
    WrongTimeZoneHalfHour,

    /// <summary>A quarter of an hour with it.</summary>
    WrongTimeZoneQuarterHour,

    /// <summary>Whole days: the date alone is wrong.</summary>
    WrongDateWholeDays,

    /// <summary>Further off the grid of days than any zone.</summary>
    WrongDateAndZone,

    /// <summary>A year or more: it lost its date.</summary>
    ClockLostDate,

    /// <summary>On no step of a zone: it drifted, or was never set.</summary>
    DriftOrNeverSet,
}

/// <summary>What an offset looks like, in steps of a quarter of an hour (practice).</summary>
/// <param name="QuarterHours">The nearest step; positive: ahead.</param>
/// <param name="ResidualSeconds">What is left beside it.</param>
/// <param name="Mistake">What it looks like.</param>
public sealed record ZoneMistake(long QuarterHours, double ResidualSeconds, ClockMistake Mistake)
{
    private const int Quarter = 900;
    private const int Day = 96;
    private const int FarthestZone = 26 * 4;
    private const double Year = 365 * 86400.0;

    /// <summary>Sorts an offset. A residue near a step means that the zone is wrong and the time is right: the zone is to be mended, and
    /// the clock not to be set.</summary>
    /// <param name="offsetSeconds">Positive: ahead.</param>
    /// <param name="limitSeconds">Up to here nothing is wrong.</param>
    /// <param name="toleranceSeconds">So far beside a step it still is that step; under half of one.</param>
    public static ZoneMistake Of(double offsetSeconds, double limitSeconds = 2, double toleranceSeconds = 120)
    {
        Require.Number(offsetSeconds, "offset_s");
        Require.Number(limitSeconds, "limit_s", 0);
        Require.Number(toleranceSeconds, "residual_tolerance_s", 0, 449);
        if (Math.Abs(offsetSeconds) <= limitSeconds + 1e-9)
            return new(0, offsetSeconds, ClockMistake.InLimit);
        var steps = Math.Round(offsetSeconds / Quarter, MidpointRounding.AwayFromZero);
        var residual = offsetSeconds - steps * Quarter;
        var away = Math.Abs(steps);
        var mistake =
            away == 0 || Math.Abs(residual) > toleranceSeconds + 1e-9
                ? Math.Abs(offsetSeconds) >= Year
                    ? ClockMistake.ClockLostDate
                    : ClockMistake.DriftOrNeverSet
                : away % Day == 0
                    ? ClockMistake.WrongDateWholeDays
                    : Math.Abs(offsetSeconds) >= Year
                        ? ClockMistake.ClockLostDate
                        : away > FarthestZone
                            ? ClockMistake.WrongDateAndZone
                            : away == 4
                                ? ClockMistake.DaylightSavingOrOneHourZone
                                : away == 48
                                    ? ClockMistake.TwelveHourClockOrZone
                                    : away % 4 == 0
                                        ? ClockMistake.WrongTimeZone
                                        : away % 2 == 0
                                            ? ClockMistake.WrongTimeZoneHalfHour
                                            : ClockMistake.WrongTimeZoneQuarterHour;
        return new((long)steps, residual, mistake);
    }
}
