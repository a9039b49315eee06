using System.Collections.Immutable;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Entries;
using Walkdown.Core.Recording;

namespace Walkdown.Core.Tests;

/// <summary>Zones that ring by themselves, counted from what a recorder tells.</summary>
public sealed class NuisanceTests
{
    private static readonly DateTimeOffset Now = new(2026, 11, 28, 20, 0, 0, TimeSpan.Zero);

    private static ImmutableArray<DateTimeOffset> Every(double minutes, DateTimeOffset from, DateTimeOffset until) =>
        [.. Enumerable.Range(0, 100_000).Select(i => from.AddMinutes(i * minutes)).TakeWhile(at => at < until)];

    /// <summary>Ten an hour until the road was taken out three hours ago, one in each hour since: the three hours before are as
    /// long.</summary>
    [Fact]
    public void TheSameTimeIsCountedBeforeAndAfterAChange()
    {
        var changed = Now.AddHours(-3);
        var rang = Every(6, Now.AddHours(-40).AddMinutes(1), changed).AddRange(Every(60, changed.AddMinutes(30), Now));
        var count = NuisanceCount.Of(rang, Now, changed, [])!;
        Assert.Equal(new NuisanceCount(3, 180, 30, 180), count);
        Assert.Equal(
            [("before-events", 30), ("before-minutes", 180), ("after-events", 3), ("after-minutes", 180)],
            count.Value().Lines[0].Said.Select(s => (s.Field, (int)s.Number!.Value))
        );
        Assert.Null(count.Wrong(Facts.Shipped));
        // Nobody changed anything: the last day.
        var day = NuisanceCount.Of(rang, Now, null, [])!;
        Assert.Equal((213, 1440, (int?)null), (day.AfterEvents, day.AfterMinutes, day.BeforeEvents));
        Assert.Equal("map.rings", day.Wrong(Facts.Shipped)!.Said.Code);
        // Of a change that is long ago the last day, and no day before it.
        Assert.Equal(day, NuisanceCount.Of(rang, Now, Now.AddDays(-9), []));
        // What was told before the change says nothing, and a few minutes neither.
        Assert.Null(NuisanceCount.Of(rang, Now, Now.AddMinutes(1), []));
        Assert.Null(NuisanceCount.Of(rang, Now, Now.AddMinutes(-9), []));
    }

    /// <summary>What somebody made ring is taken out, once each and no more than that; order is nothing.</summary>
    [Fact]
    public void WhatSomebodyMadeIsNoNuisance()
    {
        var dice = new Random(17);
        for (var n = 0; n < 200; n++)
        {
            var changed = Now.AddMinutes(-dice.Next(10, 1440));
            var own = Enumerable.Range(0, dice.Next(60)).Select(_ => Now.AddMinutes(-dice.NextDouble() * 2880)).ToList();
            var made = Enumerable.Range(0, dice.Next(6)).Select(_ => Now.AddMinutes(-dice.NextDouble() * 2880)).ToList();
            var all = own.Concat(made.Select(m => m.AddSeconds(dice.NextDouble() * 20))).OrderBy(_ => dice.Next()).ToList();
            var count = NuisanceCount.Of(all, Now, changed, made)!;
            var left = own.Where(o => !made.Any(m => (o - m).Duration() <= TimeSpan.FromSeconds(45))).ToList();
            Assert.Equal(left.Count(o => o > changed), count.AfterEvents);
            Assert.Equal(left.Count(o => o > changed - (Now - changed) && o <= changed), count.BeforeEvents);
        }
    }
}
