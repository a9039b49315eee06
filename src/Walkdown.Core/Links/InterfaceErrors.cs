using Walkdown.Core.Measures;

namespace Walkdown.Core.Links;

/// <summary>Errors between two looks at the counters of an interface (docs/calculations.md, G).</summary>
public static class InterfaceErrors
{
    /// <summary>Fastest that a wrapped counter is believed to run, counts per second.</summary>
    public const double MostPerSecond = 1.5e6;

    /// <summary>After a reset there is only the verdict; without traffic there is no rate.</summary>
    public sealed record Result(
        CounterVerdict Verdict,
        decimal? Packets = null,
        decimal? Errors = null,
        double? RatePpm = null,
        double? LowPpm = null,
        double? HighPpm = null,
        double? ErrorsPerHour = null
    );

    /// <param name="counterBits">32 or 64.</param>
    /// <param name="first">The first look.</param>
    /// <param name="second">The second look.</param>
    /// <param name="intervalSeconds">Seconds between.</param>
    /// <param name="limitPpm">Errors allowed in a million packets.</param>
    public static Result Between(
        CounterReading first,
        CounterReading second,
        double intervalSeconds,
        int counterBits = 32,
        double limitPpm = 1
    )
    {
        Require.Positive(intervalSeconds, "interval_s");
        Require.Positive(limitPpm, "error_limit_ppm");
        var size = counterBits switch
        {
            32 => 4294967296m,
            64 => 18446744073709551616m,
            _ => throw new BadInputException(BadInputReason.UnknownValue, "counter_bits"),
        };
        foreach (
            var (count, field) in new[]
            {
                (first.Packets, "first.packets"),
                (first.Errors, "first.errors"),
                (second.Packets, "second.packets"),
                (second.Errors, "second.errors"),
            }
        )
        {
            if (count < 0)
                throw new BadInputException(BadInputReason.BelowMinimum, field);
            if (count != decimal.Truncate(count))
                throw new BadInputException(BadInputReason.NotAnInteger, field);
            if (count >= size)
                throw new BadInputException(BadInputReason.AboveMaximum, field);
        }
        if (Difference(first.Packets, second.Packets) is not { } packets || Difference(first.Errors, second.Errors) is not { } errors)
            return new Result(CounterVerdict.CounterResetReadAgain);
        if (packets + errors == 0)
            return new Result(CounterVerdict.NoTraffic, 0, 0);
        var (low, high) = Wilson.Interval((double)errors, (double)(packets + errors));
        var limit = limitPpm / 1e6;
        var verdict =
            Decision.AtMost(high, limit) ? CounterVerdict.Pass
            : !Decision.AtMost(low, limit) ? CounterVerdict.Fail
            : CounterVerdict.NeedMoreTraffic;
        return new Result(
            verdict,
            packets,
            errors,
            1e6 * (double)errors / (double)(packets + errors),
            1e6 * low,
            1e6 * high,
            (double)errors / intervalSeconds * 3600
        );

        decimal? Difference(decimal from, decimal to) =>
            to >= from ? to - from
            : (double)(to + size - from) <= MostPerSecond * intervalSeconds ? to + size - from
            : null;
    }
}
