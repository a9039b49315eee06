using Walkdown.Core.Measures;

namespace Walkdown.Core.Plates;

/// <summary>What became of a pass in the list.</summary>
public enum PassOutcome
{
    /// <summary>Written down as it is.</summary>
    Read,

    /// <summary>Written down, but as another text.</summary>
    Misread,

    /// <summary>It should be in the list and is not.</summary>
    Missed,

    /// <summary>It is not in the list, as the same plate came too soon for the rule: it says nothing of the reader.</summary>
    Hidden,

    /// <summary>It is not in the list, and came so near to the end of the rule's time that it cannot be told why.</summary>
    Unclear,

    /// <summary>No list covers it, or the list's clock cannot be brought together with the roadside's.</summary>
    NoList,
}

/// <summary>What became of a line of the list.</summary>
public enum LineFate
{
    /// <summary>It is a pass's record.</summary>
    Pass,

    /// <summary>It writes the same pass down again.</summary>
    Double,

    /// <summary>An own vehicle at a time at which nobody ticked it off.</summary>
    Unticked,

    /// <summary>Somebody else's plate, or no plate at all.</summary>
    Other,
}

/// <summary>A pass beside the list.</summary>
/// <param name="Outcome">What became of it.</param>
/// <param name="Line">Its record, by its place in the list; null: it has none.</param>
/// <param name="OffSeconds">That its record came late, once the clocks are brought together.</param>
public readonly record struct MatchedPass(PassOutcome Outcome, int? Line = null, double? OffSeconds = null);

/// <summary>What outcomes mean.</summary>
internal static class PassOutcomes
{
    /// <summary>It says whether the reader reads.</summary>
    public static bool Counts(this PassOutcome outcome) => outcome is PassOutcome.Read or PassOutcome.Misread or PassOutcome.Missed;
}

/// <summary>
/// The passes of a test drive beside the list that a reader made of them, pass by pass (docs/calculations.md, O): the clocks are brought
/// together first, then each pass takes the record nearest in time and text, then the same-plate rule says which of the others could have
/// none.
/// </summary>
/// <param name="Clock">Of the list against the passes; null: nothing that passed is in the list.</param>
/// <param name="Passes">As they were given.</param>
/// <param name="Lines">As they were given.</param>
/// <param name="Rule">That the list was judged by.</param>
/// <param name="Found">The rule that fits the list best, where it is another than the one that was said; else null.</param>
/// <param name="Against">Passes that the rule it was judged by does not explain, misses and records that should not be.</param>
public sealed record PlateMatch(
    ListClock? Clock,
    ImmutableArray<MatchedPass> Passes,
    ImmutableArray<LineFate> Lines,
    RepeatFit Rule,
    RepeatFit? Found,
    int Against
)
{
    /// <summary>A vehicle that waits is written down again within this, seconds, where the rule's time is no longer (practice).</summary>
    internal const double Moments = 30;

    /// <summary>No record lies further from its pass, seconds.</summary>
    private const double MostWithin = 15;

    /// <param name="passes">With their plates; in any order.</param>
    /// <param name="lines">A plate of null is somebody else's. In any order.</param>
    /// <param name="intervalSeconds">Of the same-plate rule, as it is set; at least 0.</param>
    /// <param name="rule">That the system is said to use; null: nobody knows.</param>
    /// <param name="knownSeconds">That the list's clock is ahead, as it was measured; null: it was not.</param>
    /// <param name="isAlone">Nobody else passed: a text beside a pass is that pass, however it was read.</param>
    /// <param name="vehicles">Plates of own vehicles, whether they passed or not; default: of those that passed.</param>
    public static PlateMatch Of(
        ImmutableArray<PlateMoment> passes,
        ImmutableArray<PlateMoment> lines,
        double intervalSeconds,
        RepeatRule? rule,
        double? knownSeconds = null,
        bool isAlone = false,
        ImmutableArray<string> vehicles = default
    )
    {
        Require.Number(intervalSeconds, "interval_s", 0);
        foreach (var pass in passes)
            Require.Number(pass.AtSeconds, "passes.at_s");
        foreach (var line in lines)
            Require.Number(line.AtSeconds, "lines.at_s");
        var own = passes.Select(p => p.Plate!).Concat(vehicles.IsDefault ? [] : vehicles).ToHashSet();
        var said = new RepeatFit(rule ?? RepeatRule.SinceLastRecord, intervalSeconds, intervalSeconds);
        var clock = ListClock.Of(Sorted(passes), Sorted(lines), knownSeconds);
        if (clock is null && (knownSeconds is null || lines.Any(l => l.Plate is not null)))
            // An empty list of a clock that nobody measured may be of another camera, or another day.
            return new(
                null,
                [.. passes.Select(_ => new MatchedPass(PassOutcome.NoList))],
                [.. lines.Select(l => l.Plate is not null && own.Contains(l.Plate) ? LineFate.Unticked : LineFate.Other)],
                said,
                null,
                0
            );
        var (ahead, spread) = clock is null ? (knownSeconds!.Value, 1.0) : (clock.AheadSeconds, clock.SpreadSeconds);
        var within = Math.Clamp(4 * spread, ListClock.Within, MostWithin);
        var of = Assigned(passes, lines, own, ahead, within, isAlone);
        var (judgedBy, found, against) = RepeatFits.Of(passes, [.. of.Select(State)], said, rule is null, 2 * spread + 0.5);
        var outcomes = RepeatFits.Outcomes(passes, [.. of.Select(State)], judgedBy, 2 * spread + 0.5);
        var matched = ImmutableArray.CreateBuilder<MatchedPass>(passes.Length);
        for (var i = 0; i < passes.Length; i++)
            matched.Add(of[i] is { } line ? new(outcomes[i], line, lines[line].AtSeconds - ahead - passes[i].AtSeconds) : new(outcomes[i]));
        return new(clock, matched.MoveToImmutable(), Fates(passes, lines, own, of, ahead, within, judgedBy), judgedBy, found, against);

        PassState State(int? line, int pass) =>
            line is not { } at ? PassState.Absent
            : lines[at].Plate == passes[pass].Plate ? PassState.Right
            : PassState.Other;
    }

    /// <summary>The record of each pass: exact texts before near ones, and the nearest in time.</summary>
    private static int?[] Assigned(
        ImmutableArray<PlateMoment> passes,
        ImmutableArray<PlateMoment> lines,
        HashSet<string> own,
        double ahead,
        double within,
        bool isAlone
    )
    {
        int[] order = [.. Enumerable.Range(0, lines.Length).OrderBy(i => lines[i].AtSeconds)];
        double[] times = [.. order.Select(i => lines[i].AtSeconds - ahead)];
        var pairs = new List<(double Cost, int Pass, int Line)>();
        for (var p = 0; p < passes.Length; p++)
        {
            var at = Array.BinarySearch(times, passes[p].AtSeconds - within);
            for (at = at < 0 ? ~at : at; at > 0 && times[at - 1] >= passes[p].AtSeconds - within; )
                at--;
            for (; at < times.Length && times[at] <= passes[p].AtSeconds + within; at++)
                if (Slips(passes[p].Plate!, lines[order[at]].Plate) is { } slips)
                    pairs.Add((slips + 0.9 * Math.Abs(times[at] - passes[p].AtSeconds) / within, p, order[at]));
        }
        pairs.Sort();
        var of = new int?[passes.Length];
        var used = new bool[lines.Length];
        foreach (var (_, pass, line) in pairs)
            if (of[pass] is null && !used[line])
                (of[pass], used[line]) = (line, true);
        return of;

        // How unlike: null where it cannot be this pass.
        int? Slips(string plate, string? read) =>
            read is null
                ? isAlone
                    ? PlateText.Longest
                    : null
                : read == plate
                    ? 0
                    : own.Contains(read)
                        ? null
                        : PlateText.Distance(plate, read) is var n && n <= PlateText.MostSlips(plate)
                            ? n
                            : isAlone
                                ? PlateText.Longest
                                : null;
    }

    private static ImmutableArray<LineFate> Fates(
        ImmutableArray<PlateMoment> passes,
        ImmutableArray<PlateMoment> lines,
        HashSet<string> own,
        int?[] of,
        double ahead,
        double within,
        RepeatFit rule
    )
    {
        var used = of.OfType<int>().ToHashSet();
        var recorded = passes.Where((_, i) => of[i] is not null).ToLookup(p => p.Plate!, p => p.AtSeconds);
        var again = Math.Max(Moments, rule.ToSeconds);
        bool IsAgain(string plate, double at) => recorded[plate].Any(p => at - p >= -within && at - p <= again);
        return
        [
            .. lines.Select(
                (line, i) =>
                    used.Contains(i) ? LineFate.Pass
                    : line.Plate is not { } plate ? LineFate.Other
                    : own.Contains(plate)
                        ? IsAgain(plate, line.AtSeconds - ahead) ? LineFate.Double
                            : LineFate.Unticked
                    // What only looks like an own plate is that one right after it passed, else somebody's who is nearly called so.
                    : own.Any(o => PlateText.Distance(o, plate) <= PlateText.MostSlips(o) && IsAgain(o, line.AtSeconds - ahead))
                        ? LineFate.Double
                    : LineFate.Other
            ),
        ];
    }

    private static PlateMoment[] Sorted(ImmutableArray<PlateMoment> moments) => [.. moments.OrderBy(m => m.AtSeconds)];
}
