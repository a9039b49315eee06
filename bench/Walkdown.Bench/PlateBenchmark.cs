using System.Collections.Immutable;
using System.Diagnostics;
using Walkdown.Core.Plates;

namespace Walkdown.Bench;

/// <summary>
/// Drives of a thousand passes before made-up readers of every sort: how many passes are found in the list as they were made, how often the
/// clock or the rule is taken for another, and how long it takes.
/// </summary>
internal static class PlateBenchmark
{
    private sealed record Made(
        ImmutableArray<PlateMoment> Passes,
        ImmutableArray<PlateMoment> Lines,
        PassOutcome[] Planted,
        double Interval,
        RepeatRule Rule,
        double Ahead,
        bool IsRuleSaid
    );

    private static Made Make(int seed, int count)
    {
        var random = new Random(seed);
        double Between(double least, double most) => least + (most - least) * random.NextDouble();
        string[] plates = [.. Enumerable.Range(0, random.Next(1, 5)).Select(i => $"46TH{random.Next(100, 10_000)}{"ABCD"[i]}")];
        double[] intervals = [0, 10, 30, 60, 120, 300];
        var interval = intervals[random.Next(intervals.Length)];
        var rule = (RepeatRule)random.Next(2);
        var (ahead, late, missed, misread, others) = (
            Between(-5 * 3600, 5 * 3600),
            Between(0.2, 1.2),
            Between(0, 0.15),
            Between(0, 0.15),
            Between(0, 3)
        );
        var isRuleSaid = random.Next(3) > 0;
        var (passes, lines, planted) = (new List<PlateMoment>(), new List<PlateMoment>(), new PassOutcome[count]);
        var (seen, written) = (new double?[plates.Length], new double?[plates.Length]);
        var now = 0.0;
        // Even, as two uniform draws make it: a thumb is now and then a second or two late.
        double Thumb() => late * (Between(-1, 1) + Between(-1, 1));
        for (var i = 0; i < count; i++)
        {
            var v = random.Next(plates.Length);
            now += Between(12, 45);
            if (now - (rule == RepeatRule.SinceLastSeen ? seen[v] : written[v]) is { } gap && gap < interval * 1.15 + 8)
            {
                if (random.NextDouble() < 0.1 && gap < interval * 0.85 - 8)
                    planted[i] = PassOutcome.Hidden;
                else
                    now += interval * 1.15 + 8 - gap;
            }
            passes.Add(new(plates[v], now + Thumb()));
            if (planted[i] == PassOutcome.Hidden)
                seen[v] = now;
            else if (random.NextDouble() is var luck && luck < missed)
                planted[i] = PassOutcome.Missed;
            else if (luck < missed + misread)
            {
                planted[i] = PassOutcome.Misread;
                var at = random.Next(plates[v].Length);
                lines.Add(new(plates[v][..at] + "Q" + plates[v][(at + 1)..], now + ahead));
            }
            else
            {
                (seen[v], written[v]) = (now, now);
                lines.Add(new(plates[v], now + ahead));
            }
            for (var other = others; random.NextDouble() < other; other--)
                lines.Add(new(null, now + ahead + Between(-15, 15)));
        }
        return new([.. passes], [.. lines], planted, interval, rule, ahead, isRuleSaid);
    }

    /// <param name="drives">So many.</param>
    public static void Run(int drives)
    {
        const int count = 1_000;
        var (right, whole, clocks, unsure, rules) = (0L, 0, 0, 0, 0);
        var times = new List<double>();
        var other = new Dictionary<(PassOutcome, PassOutcome), int>();
        for (var seed = 1; seed <= drives; seed++)
        {
            var made = Make(seed, count);
            var began = Stopwatch.GetTimestamp();
            var match = PlateMatch.Of(made.Passes, made.Lines, made.Interval, made.IsRuleSaid ? made.Rule : null);
            times.Add(Stopwatch.GetElapsedTime(began).TotalMilliseconds);
            var same = Enumerable.Range(0, count).Count(i => match.Passes[i].Outcome == made.Planted[i]);
            foreach (var i in Enumerable.Range(0, count).Where(i => match.Passes[i].Outcome != made.Planted[i]))
                other[(made.Planted[i], match.Passes[i].Outcome)] = other.GetValueOrDefault((made.Planted[i], match.Passes[i].Outcome)) + 1;
            right += same;
            whole += same == count ? 1 : 0;
            clocks += match.Clock is { } clock && Math.Abs(clock.AheadSeconds - made.Ahead) < 1 ? 0 : 1;
            unsure += match.Clock is { IsSure: true } ? 0 : 1;
            rules += match.Found is null ? 0 : 1;
        }
        times.Sort();
        Console.WriteLine(
            $"{drives} drives of {count}: {100.0 * right / (drives * (long)count):0.000} % of passes as they were made, "
                + $"{whole} drives wholly; another clock {clocks}, unsure {unsure}, another rule {rules}; "
                + $"a match {times[times.Count / 2]:0.0} ms on median, {times[^1]:0.0} at most"
        );
        foreach (var ((planted, found), n) in other.OrderByDescending(o => o.Value).Take(8))
            Console.WriteLine($"  {planted} found {found}: {n}");
    }
}
