namespace Walkdown.Core.Plates;

/// <summary>A same-plate rule.</summary>
/// <param name="Rule">What its time is counted from.</param>
/// <param name="FromSeconds">Its time, at least as far as can be told.</param>
/// <param name="ToSeconds">At most.</param>
/// <param name="IsOpen">Nothing that was driven says how much longer it may be.</param>
public sealed record RepeatFit(RepeatRule Rule, double FromSeconds, double ToSeconds, bool IsOpen = false)
{
    /// <summary>The time that it is judged by.</summary>
    public double Seconds => (FromSeconds + ToSeconds) / 2;
}

/// <summary>How a pass stands in a list, before any rule.</summary>
internal enum PassState
{
    /// <summary>Its plate is there.</summary>
    Right,

    /// <summary>Something else is there: to the rule it is another plate.</summary>
    Other,

    /// <summary>Nothing is there.</summary>
    Absent,
}

/// <summary>Which same-plate rule a list was made by.</summary>
internal static class RepeatFits
{
    /// <summary>So many passes more must be explained before another rule than the one that was said is believed (practice).</summary>
    private const int Clearly = 3;

    private const int MostTried = 200;

    /// <summary>The rule to judge by, the one that was found where it is not the one that was said, and what is against the
    /// first.</summary>
    public static (RepeatFit By, RepeatFit? Found, int Against) Of(
        ImmutableArray<PlateMoment> passes,
        ImmutableArray<PassState> states,
        RepeatFit said,
        bool isUnknown,
        double slack
    )
    {
        var plates = Together(passes);
        int Against(RepeatRule rule, double seconds) => plates.Sum(p => Walk(passes, states, p, rule, seconds, slack, null));
        var against = Against(said.Rule, said.Seconds);
        if (isUnknown && Against(RepeatRule.SinceLastSeen, said.Seconds) is var other && other < against)
            (said, against) = (said with { Rule = RepeatRule.SinceLastSeen }, other);
        double[] edges = [.. Edges(passes, states, plates)];
        double[] tried = [.. Enumerable.Range(0, Math.Max(0, edges.Length - 1)).Select(i => (edges[i] + edges[i + 1]) / 2)];
        var all = Enum.GetValues<RepeatRule>()
            .SelectMany(rule => tried.Select((seconds, i) => (rule, i, Count: Against(rule, seconds))))
            .ToList();
        if (all.Count == 0 || all.Min(t => t.Count) is var least && against - least < Clearly)
            return (said, null, against);
        // Of those that fit as well, the one nearest to what was said; from there as far as it fits.
        var (best, at, _) = all.Where(t => t.Count == least)
            .OrderBy(t => Math.Abs(tried[t.i] - said.Seconds))
            .ThenBy(t => t.rule != said.Rule)
            .First();
        var fits = all.Where(t => t.rule == best && t.Count == least).Select(t => t.i).ToHashSet();
        var (from, to) = (at, at);
        while (fits.Contains(from - 1))
            from--;
        while (fits.Contains(to + 1))
            to++;
        // It lies between the longest gap that it hid and the shortest that it did not.
        var isOpen = to == tried.Length - 1;
        var found = new RepeatFit(best, edges[from], edges[isOpen ? from + 1 : to + 1], isOpen);
        // A reader that fails where no rule hides anything needs no rule to explain what it missed.
        PassOutcome[] counted = [.. Outcomes(passes, states, found, slack).Where(o => o.Counts())];
        return 2 * counted.Count(o => o == PassOutcome.Read) < counted.Length ? (said, null, against) : (found, found, least);
    }

    /// <summary>What each pass is by a rule: near the end of a time that was said a thumb may be wrong; of one that was found no pass lies
    /// between what it hid and what it did not.</summary>
    public static PassOutcome[] Outcomes(ImmutableArray<PlateMoment> passes, ImmutableArray<PassState> states, RepeatFit rule, double slack)
    {
        var outcomes = new PassOutcome[passes.Length];
        var wide = rule.ToSeconds - rule.FromSeconds;
        foreach (var plate in Together(passes))
            Walk(passes, states, plate, rule.Rule, rule.Seconds, wide > 0 ? 0.49 * wide : slack, outcomes);
        return outcomes;
    }

    /// <summary>Passes of each plate, in order of time.</summary>
    private static List<int[]> Together(ImmutableArray<PlateMoment> passes) =>
        [.. Enumerable.Range(0, passes.Length).GroupBy(i => passes[i].Plate, (_, of) => of.OrderBy(i => passes[i].AtSeconds).ToArray())];

    /// <summary>Goes through the passes of one plate: how many does the rule not explain?</summary>
    private static int Walk(
        ImmutableArray<PlateMoment> passes,
        ImmutableArray<PassState> states,
        int[] plate,
        RepeatRule rule,
        double seconds,
        double slack,
        PassOutcome[]? into
    )
    {
        var against = 0;
        double? last = null;
        foreach (var i in plate)
        {
            var gap = passes[i].AtSeconds - last;
            // Nothing is hidden by a rule of no time.
            var (isHidden, isNear) = seconds > 0 ? (gap < seconds, Math.Abs((gap ?? double.MaxValue) - seconds) <= slack) : (false, false);
            switch (states[i])
            {
                case PassState.Right:
                    if (isHidden && !isNear)
                        against++;
                    last = passes[i].AtSeconds;
                    into?[i] = PassOutcome.Read;
                    break;
                case PassState.Other:
                    into?[i] = PassOutcome.Misread;
                    break;
                case PassState.Absent:
                    // Near the end of the time it is not explained either: else a time just there would excuse every miss.
                    if (!isHidden || isNear)
                        against++;
                    into?[i] =
                        isNear ? PassOutcome.Unclear
                        : isHidden ? PassOutcome.Hidden
                        : PassOutcome.Missed;
                    if (rule == RepeatRule.SinceLastSeen && (isHidden || isNear))
                        last = passes[i].AtSeconds;
                    break;
            }
        }
        return against;
    }

    /// <summary>Between any two gaps a rule says the same: gaps of one plate since it was seen, and since it was written down, from 0 on.
    /// </summary>
    private static IEnumerable<double> Edges(ImmutableArray<PlateMoment> passes, ImmutableArray<PassState> states, List<int[]> plates)
    {
        var gaps = new SortedSet<double>();
        foreach (var plate in plates)
        {
            double? seen = null,
                recorded = null;
            foreach (var i in plate)
            {
                var at = passes[i].AtSeconds;
                if (at - seen is > 0 and { } sinceSeen)
                    gaps.Add(Math.Round(sinceSeen));
                if (at - recorded is > 0 and { } sinceRecorded)
                    gaps.Add(Math.Round(sinceRecorded));
                seen = at;
                if (states[i] == PassState.Right)
                    recorded = at;
            }
        }
        // No rule at all is one of them: its time is under the shortest gap.
        yield return 0;
        double[] edges = [.. gaps];
        for (var i = 0; i < edges.Length; i += Math.Max(1, edges.Length / MostTried))
            yield return edges[i];
    }
}
