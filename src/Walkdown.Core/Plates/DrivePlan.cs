using Walkdown.Core.Links;

namespace Walkdown.Core.Plates;

/// <summary>One pass to be driven.</summary>
/// <param name="Number">From 1.</param>
/// <param name="Vehicle">Its name.</param>
/// <param name="Kmh">How fast.</param>
/// <param name="Lane">Where; null: there is one lane.</param>
/// <param name="Way">Which way.</param>
/// <param name="GapSeconds">After the pass before it; 0 for the first.</param>
/// <param name="FindsRule">It comes early on purpose: whether it is written down tells the same-plate rule.</param>
/// <param name="AfterOwnSeconds">No sooner after the same vehicle's last pass.</param>
public sealed record PlannedPass(
    int Number,
    string Vehicle,
    double Kmh,
    string? Lane,
    TravelWay Way,
    double GapSeconds,
    bool FindsRule,
    double AfterOwnSeconds
);

/// <summary>A test drive planned: so many passes that a count can show what is asked, each sort of pass as often as the others, no vehicle
/// back sooner than the same-plate rule lets it be written down.</summary>
/// <param name="Passes">In order; by day and by night each the same.</param>
/// <param name="Counted">Of them are counted.</param>
/// <param name="Minutes">It takes.</param>
/// <param name="ByTable">The fewest passes without a miss that show the rate at 95 % by the exact test, for who judges by that.</param>
public sealed record DrivePlan(ImmutableArray<PlannedPass> Passes, int Counted, double Minutes, int ByTable)
{
    /// <summary>Nobody drives more.</summary>
    public const int Most = 400;

    /// <summary>A vehicle comes back later than the rule's time by a tenth and a few seconds, as nobody drives by the second.</summary>
    private static double Spaced(double interval) => interval > 0 ? 1.1 * interval + 5 : 0;

    /// <param name="design">One that is not refused.</param>
    /// <param name="requiredPercent">Above 0, under 100.</param>
    public static DrivePlan Of(DriveDesign design, double requiredPercent)
    {
        var counted = Counting(requiredPercent, design.AllowedMisses);
        ImmutableArray<string?> lanes = design.Lanes.IsEmpty ? [null] : [.. design.Lanes];
        ImmutableArray<TravelWay> ways = design.BothWays ? [TravelWay.Towards, TravelWay.Away] : [TravelWay.Towards];
        // The longest gap of one vehicle, shared among all that follow each other.
        var spaced = Spaced(design.IntervalSeconds);
        var gap = Math.Max(design.TurnSeconds, spaced) / design.Vehicles.Length;
        var passes = new List<PlannedPass>();
        // First early, then early again: the first pass hides both, or by the other rule only the first.
        foreach (var early in Probes(design))
            passes.Add(
                new(
                    passes.Count + 1,
                    design.Vehicles[0].Name,
                    design.SpeedsKmh[0],
                    lanes[0],
                    ways[0],
                    early,
                    FindsRule: passes.Count > 0,
                    passes.Count > 0 ? early : spaced
                )
            );
        for (var i = passes.Count == 0 ? 0 : 1; i < counted; i++)
        {
            var after =
                passes.Count == 0 ? 0
                : passes[^1].FindsRule ? Math.Max(design.TurnSeconds, spaced)
                : gap;
            passes.Add(
                new(
                    passes.Count + 1,
                    design.Vehicles[i % design.Vehicles.Length].Name,
                    design.SpeedsKmh[i / design.Vehicles.Length % design.SpeedsKmh.Length],
                    lanes[i / (design.Vehicles.Length * design.SpeedsKmh.Length) % lanes.Length],
                    ways[i / (design.Vehicles.Length * design.SpeedsKmh.Length * lanes.Length) % ways.Length],
                    after,
                    FindsRule: false,
                    spaced
                )
            );
        }
        return new(
            [.. passes],
            counted,
            passes.Sum(p => p.GapSeconds) / 60,
            ReadRate.Needed(requiredPercent, 95, design.AllowedMisses).Passes
        );
    }

    /// <summary>The pass that comes after so many: where all of the plan were driven and more are wanted, those that count once
    /// more.</summary>
    internal PlannedPass After(int driven) =>
        driven < Passes.Length ? Passes[driven] : Passes[Passes.Length - Counted + (driven - Passes.Length) % Counted];

    /// <summary>So many passes show the rate, if no more than these go wrong; at most <see cref="Most"/>.</summary>
    private static int Counting(double requiredPercent, int misses)
    {
        for (var n = misses + 1; n < Most; n++)
            if (Wilson.Reaches(n - misses, n, requiredPercent) == true)
                return n;
        return Most;
    }

    private static ImmutableArray<double> Probes(DriveDesign design) =>
        design.IntervalSeconds <= 0 || design.TurnSeconds > 0.55 * design.IntervalSeconds
            ? []
            : [0, 0.55 * design.IntervalSeconds, 0.6 * design.IntervalSeconds];
}
