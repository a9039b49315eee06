using System.Runtime.InteropServices;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>Which of several attempts counts (docs/calculations.md, P): the last valid one, by time, then by sequence.</summary>
public static class AttemptHistory
{
    /// <summary>One attempt: its place in the order, when, and what came of it.</summary>
    public readonly record struct Attempt(int Sequence, DateTimeOffset At, DeviceVerdict.CheckOutcome Outcome, bool Void = false);

    /// <summary>What a row's attempts come to.</summary>
    /// <param name="EffectiveSequence">The attempt that counts; null: none does.</param>
    /// <param name="EffectiveOutcome">What came of it.</param>
    /// <param name="ValidAttempts">Attempts that are not void.</param>
    /// <param name="KeptAttempts">Attempts of any kind.</param>
    /// <param name="FirstOutcome">What came of the first.</param>
    /// <param name="FailuresBefore">Attempts before the effective one that were out.</param>
    public sealed record Result(
        int? EffectiveSequence,
        DeviceVerdict.CheckOutcome EffectiveOutcome,
        int ValidAttempts,
        int KeptAttempts,
        DeviceVerdict.CheckOutcome? FirstOutcome,
        int FailuresBefore
    );

    /// <summary>The order of attempts: by the time taken, then as the record got them. The Card and the worked cases both go by
    /// it.</summary>
    public static int Order(DateTimeOffset at, long sequence, DateTimeOffset otherAt, long otherSequence) =>
        at.CompareTo(otherAt) is var byTime and not 0 ? byTime : sequence.CompareTo(otherSequence);

    /// <summary>Index of the attempt that counts among attempts in order: the last valid one; -1 where none is.</summary>
    public static int Counting<T>(ReadOnlySpan<T> inOrder, Predicate<T> isValid)
    {
        for (var i = inOrder.Length - 1; i >= 0; i--)
            if (isValid(inOrder[i]))
                return i;
        return -1;
    }

    /// <exception cref="BadInputException">A sequence twice.</exception>
    public static Result Of(IReadOnlyCollection<Attempt> attempts)
    {
        Require.Consistent(attempts.Select(a => a.Sequence).Distinct().Count() == attempts.Count, "attempts.sequence");
        var inOrder = attempts.ToList();
        inOrder.Sort((a, b) => Order(a.At, a.Sequence, b.At, b.Sequence));
        var counts = Counting<Attempt>(CollectionsMarshal.AsSpan(inOrder), IsValid);
        var valid = inOrder.Where(a => IsValid(a)).ToList();
        if (counts < 0)
            return new Result(null, DeviceVerdict.CheckOutcome.NotDone, 0, attempts.Count, null, 0);
        var last = inOrder[counts];
        return new Result(
            last.Sequence,
            last.Outcome,
            valid.Count,
            attempts.Count,
            valid[0].Outcome,
            valid.SkipLast(1).Count(a => a.Outcome == DeviceVerdict.CheckOutcome.Out)
        );

        static bool IsValid(Attempt a) =>
            !a.Void && a.Outcome is DeviceVerdict.CheckOutcome.In or DeviceVerdict.CheckOutcome.Out or DeviceVerdict.CheckOutcome.TooClose;
    }
}
