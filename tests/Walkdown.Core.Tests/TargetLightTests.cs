using Walkdown.Core.Aiming;
using Walkdown.Core.Optics;
using Walkdown.Core.Pictures;

namespace Walkdown.Core.Tests;

/// <summary>A target that stands dark before bright light, or is burnt out, by its picture.</summary>
public sealed class TargetLightTests
{
    private const int Wide = 640,
        High = 360;

    private static ViewDesign View(params ViewTarget[] targets) =>
        new(3.2, 15, 80, Wide, High, null, [.. targets.DefaultIfEmpty(Gate)], null, null, null, null);

    private static readonly ViewTarget Gate = new("Gate", 9, 0, 1.8, DetailLevel.Observe);

    /// <summary>One level everywhere, another one in a box of shares of the picture.</summary>
    private static GreyRaster Picture(byte around, byte on, double left = 0.47, double top = 0.2, double right = 0.53, double bottom = 0.9)
    {
        var levels = new byte[Wide * High];
        for (var y = 0; y < High; y++)
        for (var x = 0; x < Wide; x++)
            levels[y * Wide + x] = x >= left * Wide && x < right * Wide && y >= top * High && y < bottom * High ? on : around;
        return new(Wide, High, levels);
    }

    [Theory]
    [InlineData(240, 20, TargetLightState.Backlit)]
    [InlineData(240, 60, TargetLightState.Backlit)]
    // A dark coat in daylight, a person in a bright room, a lamp's beam on a face.
    [InlineData(240, 110, TargetLightState.Shown)]
    [InlineData(150, 20, TargetLightState.Shown)]
    [InlineData(150, 150, TargetLightState.Shown)]
    [InlineData(140, 252, TargetLightState.White)]
    [InlineData(255, 0, TargetLightState.Backlit)]
    public void ItIsToldByLightOnItAndBehindIt(byte around, byte on, TargetLightState state)
    {
        var light = Assert.Single(TargetLight.Of(View(), Picture(around, on)));
        Assert.Equal(state, light.State);
        Assert.Equal(state == TargetLightState.Shown, light.Said is null);
        Assert.True(double.IsFinite(light.ContrastDb));
        if (state == TargetLightState.Backlit)
            Assert.True(light.ContrastDb >= 19.9);
    }

    /// <summary>20 log10 of the light, not of the levels: 240 to 60 is four to one in grey, and 26 dB in light.</summary>
    [Fact]
    public void ContrastIsOfLight() =>
        Assert.Equal(2.2 * 20 * Math.Log10(4), Assert.Single(TargetLight.Of(View(), Picture(240, 60))).ContrastDb, 1);

    [Fact]
    public void ItStandsWhereTheViewSaysFromTheGroundToItsTop()
    {
        var at = Assert.Single(TargetLight.Of(View(), Picture(200, 100))).Region;
        // A pinhole by hand: half the width at 40 degrees; down by 8.84 degrees to its top, by 19.57 to its foot, tilted by 15.
        var focal = 320 / Math.Tan(40 * Math.PI / 180);
        double Row(double down) => 180 + focal * Math.Tan((down - 15) * Math.PI / 180);
        var (top, foot) = (Math.Atan2(1.4, 9) * 180 / Math.PI, Math.Atan2(3.2, 9) * 180 / Math.PI);
        Assert.InRange(at.Y, Row(top) - 1.5, Row(top) + 1.5);
        Assert.InRange(at.Y + at.Height, Row(foot) - 1.5, Row(foot) + 1.5);
        Assert.InRange(at.X + at.Width / 2.0, 318, 322);
    }

    [Fact]
    public void WhatIsNotInThePictureOrInTheDarkSaysNothing()
    {
        Assert.Empty(TargetLight.Of(View(Gate with { AsideMetres = 40 }), Picture(240, 20)));
        Assert.Empty(TargetLight.Of(View(Gate with { GroundMetres = -5 }), Picture(240, 20)));
        Assert.Empty(TargetLight.Of(View(Gate with { GroundMetres = 900 }), Picture(240, 20)));
        // By night all is dark.
        Assert.Empty(TargetLight.Of(View(), Picture(90, 10)));
        // Of several each by itself.
        var both = TargetLight.Of(View(Gate, Gate with { Name = "Kerb", AsideMetres = 4 }), Picture(240, 20));
        Assert.Equal([TargetLightState.Backlit, TargetLightState.Shown], both.Select(l => l.State));
    }

    /// <summary>Whatever stands where, it is told or left out.</summary>
    [Fact]
    public void NothingBreaksIt()
    {
        var random = new Random(7);
        for (var i = 0; i < 400; i++)
        {
            var (wide, high) = (random.Next(16, 90), random.Next(16, 60));
            var levels = new byte[wide * high];
            random.NextBytes(levels);
            var target = new ViewTarget(
                "x",
                60 * random.NextDouble() - 10,
                20 * random.NextDouble() - 10,
                8 * random.NextDouble(),
                DetailLevel.Detect
            );
            var view = View(target) with { TiltDeg = 180 * random.NextDouble() - 90, HorizontalDeg = 1 + 170 * random.NextDouble() };
            foreach (var light in TargetLight.Of(view, new(wide, high, levels)))
            {
                Assert.True(double.IsFinite(light.ContrastDb + light.Light + light.Behind));
                Assert.InRange(light.Region.X + light.Region.Width, 1, wide);
                Assert.InRange(light.Region.Y + light.Region.Height, 1, high);
            }
        }
    }
}
