using System.Collections.Immutable;
using Walkdown.Core.Aiming;
using Walkdown.Core.Pictures;

namespace Walkdown.Core.Tests;

/// <summary>What stands before a view, and what glares in it, against the one that was agreed.</summary>
public sealed class ViewHarmTests
{
    private const int Wide = 640,
        High = 360;

    private static GreyRaster View(Func<int, int, byte?>? over = null)
    {
        var levels = new byte[Wide * High];
        for (var y = 0; y < High; y++)
        for (var x = 0; x < Wide; x++)
            levels[y * Wide + x] =
                over?.Invoke(x, y) ?? (byte)(110 + 50 * Math.Sin(x * 0.31 + y * 0.07) + 40 * Math.Cos(y * 0.27 - x * x * 0.00021));
        return new(Wide, High, levels);
    }

    private static ImmutableArray<ViewHarm>? Harms(GreyRaster agreed, GreyRaster now) =>
        ViewHarm.Of(ViewTiles.Of(agreed), ViewTiles.Of(now));

    [Theory]
    [InlineData(0, 0, 640, 80, 20, HarmKind.Covered, HarmSide.Top, 0.22)]
    [InlineData(0, 280, 640, 80, 90, HarmKind.Covered, HarmSide.Bottom, 0.22)]
    [InlineData(0, 0, 120, 360, 30, HarmKind.Covered, HarmSide.Left, 0.19)]
    [InlineData(560, 0, 80, 360, 30, HarmKind.Covered, HarmSide.Right, 0.125)]
    [InlineData(240, 120, 160, 120, 60, HarmKind.Covered, HarmSide.Inside, 0.083)]
    [InlineData(480, 0, 160, 120, 255, HarmKind.Glare, HarmSide.Top, 0.083)]
    [InlineData(240, 120, 160, 120, 255, HarmKind.Glare, HarmSide.Inside, 0.083)]
    public void WhatStandsBeforeItIsToldWithItsSide(int x, int y, int wide, int high, byte grey, HarmKind kind, HarmSide side, double share)
    {
        var now = View((px, py) => px >= x && px < x + wide && py >= y && py < y + high ? grey : null);
        var harm = Assert.Single(Harms(View(), now)!.Value);
        Assert.Equal(kind, harm.Kind);
        if (side != HarmSide.Top || kind != HarmKind.Glare)
            Assert.Equal(side, harm.Side);
        Assert.InRange(harm.Share, share - 0.03, share + 0.03);
        Assert.Equal($"harm.{kind.ToString().ToLowerInvariant()}-{harm.Side.ToString().ToLowerInvariant()}", harm.Said.Code);
        Assert.All(harm.Tiles, t => Assert.True(t.X + 1 / 16.0 > (double)x / Wide - 1e-9 && t.X < (double)(x + wide) / Wide));
    }

    /// <summary>What was so when it was agreed harms nothing: a white sky, a wall.</summary>
    [Fact]
    public void WhatWasThereWhenItWasAgreedIsNone()
    {
        byte? Sky(int x, int y) => y < 120 ? (byte)255 : null;
        byte? Wall(int x, int y) => x < 200 ? (byte)70 : null;
        Assert.Empty(Harms(View(), View())!.Value);
        Assert.Empty(Harms(View(Sky), View(Sky))!.Value);
        Assert.Empty(Harms(View(Wall), View(Wall))!.Value);
        // A bird in one tile is none either.
        Assert.Empty(Harms(View(), View((x, y) => x is > 330 and < 350 && y is > 170 and < 190 ? (byte)10 : null))!.Value);
    }

    /// <summary>At dusk all is flat, and nothing stands before it: that is not told rather than told wrongly.</summary>
    [Fact]
    public void InAnotherLightNothingIsTold()
    {
        var day = View();
        var dusk = new byte[Wide * High];
        for (var i = 0; i < dusk.Length; i++)
            dusk[i] = (byte)(20 + day.Levels[i] / 40);
        Assert.Null(Harms(day, new(Wide, High, dusk)));
        Assert.Null(Harms(View((_, _) => 128), View()));
    }

    /// <summary>By the picture alone, as somebody aims: told where it hangs as agreed, and not where it hangs elsewhere.</summary>
    [Fact]
    public void ItIsToldWhileSomebodyAims()
    {
        var target = new AimTarget(View(), 60, 10);
        ImmutableArray<ViewHarm>? Told(GreyRaster now) => ViewHarm.Of(target, AimLook.Of(target, now, new(1, 2)), now);
        Assert.Equal("harm.covered-top", Assert.Single(Told(View((_, y) => y < 70 ? (byte)15 : null))!.Value).Said.Code);
        Assert.Empty(Told(View())!.Value);
        Assert.Null(Told(View((_, _) => 0)));
        Assert.Null(Told(View().Mirrored()));
    }
}
