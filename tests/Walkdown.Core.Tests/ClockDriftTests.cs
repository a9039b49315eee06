using Walkdown.Core.Clocks;

namespace Walkdown.Core.Tests;

/// <summary>How a clock runs between two readings.</summary>
public sealed class ClockDriftTests
{
    private static readonly DateTimeOffset Monday = new(2026, 11, 23, 8, 0, 0, TimeSpan.Zero);

    private static ClockRead Read(double offset, double hours, double uncertainty = 0.01) =>
        new(offset, uncertainty, Monday.AddHours(hours));

    [Fact]
    public void AClockThatWasSetOnceRunsAwayAndNamesItsDay()
    {
        // 0.6 s in three days: 0.2 s a day, and 1.0 s are left of two.
        var runs = ClockDrift.Of(Read(0.4, 0), Read(1.0, 72), 2)!;
        Assert.Equal((0.2, 72, false), (Math.Round(runs.SecondsPerDay, 9), runs.Hours, runs.WasSet));
        Assert.Equal(5, runs.DaysToLimit!.Value, 6);
        Assert.Equal(0.02 / 3, runs.UncertaintyPerDay, 9);
        // Losing, on the other side.
        Assert.Equal(5, ClockDrift.Of(Read(-0.4, 0), Read(-1.0, 72), 2)!.DaysToLimit!.Value, 6);
        // Beyond already.
        Assert.Equal(0, ClockDrift.Of(Read(1.8, 0), Read(2.4, 72), 2)!.DaysToLimit!.Value);
    }

    [Fact]
    public void WhatCannotBeToldNamesNoDay()
    {
        Assert.Null(ClockDrift.Of(Read(0.4, 0), Read(1.0, 5.9), 2));
        Assert.Null(ClockDrift.Of(Read(0.4, 9), Read(1.0, 0), 2));
        // Level within what the paths may hide.
        Assert.Null(ClockDrift.Of(Read(0.4, 0), Read(0.41, 48), 2)!.DaysToLimit);
        // An hour in a day is no drift: it was set, or its zone was.
        var set = ClockDrift.Of(Read(3600.4, 0), Read(0.2, 24), 2)!;
        Assert.Equal((true, null), (set.WasSet, set.DaysToLimit));
    }

    /// <summary>At the day that it names, and not a little before, a clock is beyond its limit: whatever it is, and whichever way it
    /// runs.</summary>
    [Fact]
    public void TheDayThatIsNamedIsTheDay()
    {
        var dice = new Random(5);
        for (var n = 0; n < 500; n++)
        {
            var (first, rate, hours) = ((dice.NextDouble() - 0.5) * 3, (dice.NextDouble() - 0.5) * 6, 6 + dice.NextDouble() * 200);
            var later = first + rate * hours / 24;
            var drift = ClockDrift.Of(Read(first, 0, 0), Read(later, hours, 0), 2)!;
            Assert.Equal(rate, drift.SecondsPerDay, 6);
            if (drift.DaysToLimit is not > 0)
                continue;
            double Then(double days) => Math.Abs(later + rate * days);
            Assert.Equal(2, Then(drift.DaysToLimit.Value), 6);
            Assert.True(Then(drift.DaysToLimit.Value + 0.01) > 2);
        }
    }
}
