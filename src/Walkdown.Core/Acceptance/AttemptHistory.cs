using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>Which of several attempts counts (docs/calculations.md, P): the last valid one, by time, then by sequence.</summary>
public static class AttemptHistory
{
    public readonly record struct Attempt(int Sequence, DateTimeOffset At, DeviceVerdict.CheckOutcome Outcome, bool Void = false);

    public sealed record Result(
        int? EffectiveSequence,
        DeviceVerdict.CheckOutcome EffectiveOutcome,
        int ValidAttempts,
        int KeptAttempts,
        DeviceVerdict.CheckOutcome? FirstOutcome,
        int FailuresBefore
    );

    /// <exception cref="BadInputException">A sequence twice.</exception>
    public static Result Of(IReadOnlyCollection<Attempt> attempts)
    {
        Require.Consistent(attempts.Select(a => a.Sequence).Distinct().Count() == attempts.Count, "attempts.sequence");
        var valid = attempts
            .Where(a =>
                !a.Void
                && a.Outcome is DeviceVerdict.CheckOutcome.In or DeviceVerdict.CheckOutcome.Out or DeviceVerdict.CheckOutcome.TooClose
            )
            .OrderBy(a => a.At)
            .ThenBy(a => a.Sequence)
            .ToList();
        if (valid.Count == 0)
            return new Result(null, DeviceVerdict.CheckOutcome.NotDone, 0, attempts.Count, null, 0);
        var last = valid[^1];
        return new Result(
            last.Sequence,
            last.Outcome,
            valid.Count,
            attempts.Count,
            valid[0].Outcome,
            valid.SkipLast(1).Count(a => a.Outcome == DeviceVerdict.CheckOutcome.Out)
        );
    }
}
