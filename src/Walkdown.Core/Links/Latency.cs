using Walkdown.Core.Measures;

namespace Walkdown.Core.Links;

/// <summary>Round trips of probes, milliseconds; jitter as RFC 3550 section 6.4.1, applied to round trips (docs/calculations.md,
/// G).</summary>
public static class Latency
{
    /// <summary>Figures are null without a reply, both jitters under two.</summary>
    /// <param name="P95Ms">Nearest rank.</param>
    /// <param name="Received">Probes that came back.</param>
    /// <param name="MinMs">Least, milliseconds.</param>
    /// <param name="MedianMs">Median, milliseconds.</param>
    /// <param name="MaxMs">Greatest, milliseconds.</param>
    /// <param name="MeanMs">Mean, milliseconds.</param>
    /// <param name="JitterMs">Jitter (RFC 3550), milliseconds.</param>
    /// <param name="MeanAbsDifferenceMs">Mean difference of neighbours, milliseconds.</param>
    /// <param name="LongestLossBurst">Most probes lost in a row.</param>
    public sealed record Result(
        int Received,
        double? MinMs,
        double? MedianMs,
        double? P95Ms,
        double? MaxMs,
        double? MeanMs,
        double? JitterMs,
        double? MeanAbsDifferenceMs,
        int LongestLossBurst
    );

    /// <param name="roundTripsMs">In the order sent; null for a lost probe.</param>
    public static Result Of(IReadOnlyList<double?> roundTripsMs)
    {
        var received = new List<double>(roundTripsMs.Count);
        int burst = 0,
            longest = 0;
        foreach (var trip in roundTripsMs)
        {
            if (trip is { } ms)
            {
                received.Add(Require.Number(ms, "round_trips_ms", 0));
                burst = 0;
            }
            else
                longest = Math.Max(longest, ++burst);
        }
        if (received.Count == 0)
            return new Result(0, null, null, null, null, null, null, null, longest);
        var sorted = received.Order().ToList();
        var n = sorted.Count;
        var median = n % 2 == 1 ? sorted[n / 2] : (sorted[n / 2 - 1] + sorted[n / 2]) / 2;
        double jitter = 0,
            sum = 0;
        for (var i = 1; i < n; i++)
        {
            var difference = Math.Abs(received[i] - received[i - 1]);
            jitter += (difference - jitter) / 16;
            sum += difference;
        }
        return new Result(
            n,
            sorted[0],
            median,
            sorted[(int)Math.Ceiling(0.95 * n - 1e-9) - 1],
            sorted[^1],
            received.Average(),
            n > 1 ? jitter : null,
            n > 1 ? sum / (n - 1) : null,
            longest
        );
    }
}
