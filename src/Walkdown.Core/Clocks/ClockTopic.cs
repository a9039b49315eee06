using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;
using Walkdown.Core.Topics;

namespace Walkdown.Core.Clocks;

/// <summary>Clocks of devices: what an offset looks like.</summary>
internal static class ClockTopic
{
    /// <inheritdoc cref="Topic"/>
    public static readonly Topic Topic = new()
    {
        Evidence =
        [
            new("clock-hour", Of(ClockMistake.DaylightSavingOrOneHourZone)),
            new("clock-twelve", Of(ClockMistake.TwelveHourClockOrZone)),
            new("clock-zone", Of(ClockMistake.WrongTimeZone, ClockMistake.WrongTimeZoneHalfHour, ClockMistake.WrongTimeZoneQuarterHour)),
            new("clock-date", Of(ClockMistake.WrongDateWholeDays, ClockMistake.WrongDateAndZone)),
            new("clock-lost", Of(ClockMistake.ClockLostDate)),
            new("clock-drift", Of(ClockMistake.DriftOrNeverSet)),
        ],
    };

    /// <summary>How an offset looks, in words; null where it is within the limit.</summary>
    internal static Message? Told(double offsetSeconds, double limitSeconds)
    {
        var found = ZoneMistake.Of(offsetSeconds, limitSeconds);
        return found.Mistake switch
        {
            ClockMistake.InLimit => null,
            ClockMistake.DriftOrNeverSet or ClockMistake.ClockLostDate => new(
                "clock." + Codes.Of(found.Mistake),
                Message.Number(Math.Abs(offsetSeconds), 1)
            ),
            _ => new(
                "clock.step",
                Message.Number(Math.Abs(found.QuarterHours) / 4.0),
                found.QuarterHours > 0 ? "@clock.ahead" : "@clock.behind",
                Message.Number(Math.Abs(found.ResidualSeconds), 1)
            ),
        };
    }

    private static Func<RowContext, Attempt, Message?> Of(params ClockMistake[] mistakes) =>
        (context, attempt) =>
            attempt.Value is NumberValue number
            && Limit(context) is var limit
            && mistakes.Contains(ZoneMistake.Of(number.Value, limit).Mistake)
                ? Told(number.Value, limit)
                : null;

    private static double Limit(RowContext context) => context.Catalogue.Limit("time.offset")?.Max ?? 2;
}
