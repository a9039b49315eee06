using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Handover;

/// <summary>A cable run with what was read on it, as the cable schedule lists it.</summary>
/// <param name="Map">State of its wire map; null where it has no such row.</param>
/// <param name="PlannedMetres">With its cords; null where nobody knows.</param>
/// <param name="MostLoopOhms">The largest loop of its pairs.</param>
/// <param name="Worst">Of its rows that are due; what is not required and was not taken is no debt.</param>
/// <param name="Run">The run's label.</param>
/// <param name="Port">The port; null: it ends at none.</param>
/// <param name="Metres">Metres.</param>
public sealed record CableSummary(
    string Run,
    string Port,
    State? Map,
    double? PlannedMetres,
    double? Metres,
    double? MostLoopOhms,
    State Worst
)
{
    /// <summary>What a Card's run says in one line.</summary>
    public static CableSummary Of(RunFacts run, Card card)
    {
        var rows = card.Rows.Where(r => r.Key.On.Kind == SubjectKind.Run && r.Key.On.Id == run.Id && r.IsDue).ToList();
        double? Read(CheckId check) =>
            rows.Where(r => r.Check.Id == check).Select(r => r.Counting?.Value is NumberValue n ? (double?)n.Value : null).Max();
        var worst =
            rows.Count == 0 ? State.NotApplicable
            : rows.Any(r => r.State == State.Out) ? State.Out
            : rows.Any(r => r.State == State.TooClose) ? State.TooClose
            : rows.Any(r => r.State == State.NotJudged) ? State.NotJudged
            : rows.Any(r => r.Required && r.State is State.NotTaken or State.Stale) ? State.NotTaken
            : State.In;
        return new CableSummary(
            run.Label,
            run.Port is { } port ? $"{port.Cabinet} {port.Number}" : "",
            rows.FirstOrDefault(r => r.Check.Id == KnownChecks.WireMap)?.State,
            run.LengthMetres.Origin == Origin.Assumed ? null : run.TotalPlannedMetres,
            Read(KnownChecks.Length),
            Read(KnownChecks.LoopResistance),
            worst
        );
    }
}
