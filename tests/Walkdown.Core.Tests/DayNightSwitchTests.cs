using Walkdown.Core.Nights;

namespace Walkdown.Core.Tests;

/// <summary>A camera that changes between day and night, as somebody sees it who covers its light sensor.</summary>
public sealed class DayNightSwitchTests
{
    private static readonly DateTimeOffset Dusk = new(2026, 11, 30, 16, 40, 0, TimeSpan.Zero);

    /// <summary>C: in colour, G: grey, ?: not known; one picture every so many seconds, and light that fades with the first ones.</summary>
    private static SwitchTold? Seen(string pictures, double every = 5)
    {
        var over = new DayNightSwitch();
        for (var i = 0; i < pictures.Length; i++)
            over.Next(
                pictures[i] switch
                {
                    'C' => true,
                    'G' => false,
                    _ => null,
                },
                Math.Max(0.02, 0.3 - 0.04 * i),
                Dusk.AddSeconds(every * i)
            );
        return over.Told;
    }

    [Theory]
    [InlineData("CCCC", null, null)]
    [InlineData("GGGG", null, null)]
    [InlineData("????", null, null)]
    [InlineData("CCGG", "night.switch-over", null)]
    [InlineData("GGCC", "night.switch-back", null)]
    // Over and back, and not at rest yet.
    [InlineData("CCGGC", "night.switch-rest", null)]
    [InlineData("CCGGCCC", "night.switch-both", "both")]
    [InlineData("GGCCCGGG", "night.switch-both", "both")]
    // What is not known in between changes nothing.
    [InlineData("CC??GG?CCC", "night.switch-both", "both")]
    // Covered twice by somebody in a hurry, or hunting: who covers knows.
    [InlineData("CGCGC", "night.switch-many", null)]
    [InlineData("CGGCCGGCCGG", "night.switch-many", null)]
    [InlineData("CGCGCGC", "night.switch-hunts", "hunts")]
    [InlineData("CGCGCGCCCCCCCCC", "night.switch-hunts", "hunts")]
    public void WhatWasSeenIsSaid(string pictures, string? code, string? says)
    {
        var told = Seen(pictures);
        Assert.Equal(code, told?.Told.Code);
        Assert.Equal(says, told?.Says);
    }

    /// <summary>Twice over and back with minutes between is somebody who looks twice, and no hunting.</summary>
    [Fact]
    public void SlowChangesAreNoHunting()
    {
        Assert.Equal("both", Seen("CGCGCC", every: 40)!.Says);
        Assert.Null(Seen("CGCGCC", every: 15)!.Says);
        Assert.Equal("hunts", Seen("CGCGCGC", every: 12)!.Says);
    }

    [Fact]
    public void WhenAndInWhichLightIsTold()
    {
        var change = Assert.Single(Seen("CCCGG")!.Changes);
        Assert.Equal((true, Dusk.AddSeconds(15)), (change.ToNight, change.At));
        // Of the last picture before it: what came after was lit by infrared.
        Assert.Equal(0.22, change.Light, 6);
    }

    /// <summary>However long somebody looks, what is kept stays small.</summary>
    [Fact]
    public void OfAThousandChangesTheLastAreKept() =>
        Assert.InRange(Seen(string.Concat(Enumerable.Repeat("CG", 1000)))!.Changes.Length, 4, 20);
}
