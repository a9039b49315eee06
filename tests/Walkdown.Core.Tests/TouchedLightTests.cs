using System.Collections.Immutable;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Aiming;
using Walkdown.Core.Entries;
using Walkdown.Core.Optics;
using Walkdown.Core.Pictures;

namespace Walkdown.Core.Tests;

/// <summary>A lamp or a mirror that is touched: what it does to the picture, which turn gets rid of it, and when the sun stands in
/// it.</summary>
public sealed class TouchedLightTests
{
    private const int Wide = 640,
        High = 360;

    /// <summary>Grey, with a white disc.</summary>
    private static GreyRaster Lit(double x = 0.8, double y = 0.2, int radius = 14, byte level = 255)
    {
        var levels = new byte[Wide * High];
        for (var py = 0; py < High; py++)
        for (var px = 0; px < Wide; px++)
            levels[py * Wide + px] = double.Hypot(px - x * Wide, py - y * High) <= radius ? level : (byte)(80 + (px + py) % 9);
        return new(Wide, High, levels);
    }

    private static AimTouch Around(double x, double y, TouchedThing thing = TouchedThing.Lamp, double half = 0.03, double? faces = null) =>
        new(thing, new(x - half, y - half * Wide / High), new(x + half, y + half * Wide / High), FacesDeg: faces);

    /// <summary>Looks north from four metres, with its target at ten.</summary>
    private static ViewDesign View(double aside = 0, double? azimuth = 0, double tilt = 15) =>
        new(4, tilt, 80, 2560, 1440, azimuth, [new("Gate", 10, aside, 1.6, DetailLevel.Recognise)]);

    [Fact]
    public void ALampThatIsWhiteBurnsAndItsSpreadIsCounted()
    {
        var light = TouchedLight.Of(Around(0.8, 0.2), Lit(), View(), null, null);
        Assert.Equal(TouchedLightState.Burns, light.State);
        Assert.Equal(100 * Math.PI * 14 * 14 / (Wide * High), light.BurntPercent, 0.02);
        // Touched on a part of it: all that hangs together with it counts.
        var part = TouchedLight.Of(Around(0.8, 0.2, half: 0.01), Lit(), View(), null, null);
        Assert.Equal(light.BurntPercent, part.BurntPercent, 1e-9);
        Assert.Equal(100, part.WhitePercent);
        // Another white thing far from it does not.
        Assert.Equal(0, TouchedLight.Of(Around(0.2, 0.8), Lit(), View(), null, null).BurntPercent);
    }

    [Fact]
    public void ALampThatDoesNotShineTellsNothing()
    {
        var light = TouchedLight.Of(Around(0.8, 0.2), Lit(level: 240), View(), null, null);
        Assert.Equal((TouchedLightState.Dark, "touched-light.dark"), (light.State, light.Said.Code));
        Assert.Empty(light.Ways);
        Assert.Null(light.Value(null));
        Assert.Equal("touched-light.dark", TouchedLight.Of(Around(0.8, 0.2), Lit(level: 240), null, null, null).Said.Code);
        // A few white pixels are the number on a plate.
        Assert.Equal(TouchedLightState.Dark, TouchedLight.Of(Around(0.8, 0.2, half: 0.006), Lit(radius: 3), View(), null, null).State);
    }

    [Fact]
    public void WhereItStandsIsToldFromTheAxisAndFromNorth()
    {
        var light = TouchedLight.Of(Around(0.5, 0.5), Lit(), View(azimuth: 350), null, null);
        Assert.Equal((0.0, 0.0, 350.0), (light.RightDeg!.Value, light.AboveDeg!.Value, light.BearingDeg!.Value), Near);
        // The right edge of a level camera lies half its field aside; past north it goes on from zero.
        var edge = TouchedLight.Of(Around(0.999, 0.5, half: 0.001), Lit(), View(azimuth: 350, tilt: 0), null, null);
        Assert.Equal(30, edge.BearingDeg!.Value, 0.2);
        // A camera that looks five degrees left of what was agreed sees it five degrees further left.
        var off = TouchedLight.Of(Around(0.5, 0.5), Lit(), View(azimuth: 350), Laid(panDeg: 5), null);
        Assert.Equal(345, off.BearingDeg!.Value, 1e-6);
        Assert.Null(TouchedLight.Of(Around(0.5, 0.5), Lit(), View(azimuth: null), null, null).BearingDeg);
        var alone = TouchedLight.Of(Around(0.8, 0.2), Lit(), null, null, null);
        Assert.Equal((null, "touched-light.burns-alone"), (alone.RightDeg, alone.Said.Code));
    }

    private static readonly Comparer Near = new();

    private sealed class Comparer : IEqualityComparer<(double A, double B, double C)>
    {
        public bool Equals((double A, double B, double C) x, (double A, double B, double C) y) =>
            Math.Abs(x.A - y.A) < 1e-9 && Math.Abs(x.B - y.B) < 1e-9 && Math.Abs(x.C - y.C) < 1e-9;

        public int GetHashCode((double A, double B, double C) of) => 0;
    }

    private static AimMeasure Laid(double panDeg = 0, double tiltDeg = 0) =>
        new(panDeg, tiltDeg, 0, 0, 0, 0, null, 0, 0, 1, 1, Walkdown.Core.Measures.Outcome.In, Walkdown.Core.Measures.Outcome.In, null, []);

    /// <summary>The turn that is told takes it out of the picture, and a little less does not.</summary>
    [Fact]
    public void ItsTurnsKeepTheTargetWhereTheyCan()
    {
        var light = TouchedLight.Of(Around(0.9, 0.5), Lit(0.9, 0.5), View(), null, null);
        Assert.Equal(TouchedLightState.Burns, light.State);
        var best = light.Ways[0];
        // At the right border: left by its own width and what lies beside it.
        Assert.Equal((AimWay.Left, true), (best.Way, best.Loses.IsEmpty));
        Assert.InRange(best.Degrees, 4, 10);
        Assert.Equal("touched-light.burns-turn-left", light.Said.Code);
        // A target that stands beside it is lost by that turn: it is told, and comes after those that lose nothing.
        var costly = TouchedLight.Of(Around(0.9, 0.5), Lit(0.9, 0.5), View(aside: 7.6), null, null).Ways;
        Assert.Equal("Gate", Assert.Single(costly.Single(w => w.Way == AimWay.Left).Loses));
        Assert.Equal(light.Ways.OrderBy(w => w.Loses.Length).ThenBy(w => w.Degrees), light.Ways);
    }

    [Fact]
    public void ItIsSaidInTheRowBesideWhatWasSaidOfTheRest()
    {
        var light = TouchedLight.Of(Around(0.8, 0.2), Lit(), View(), null, null);
        ItemSaid sun = new("no-sun", ItemState.Fitted),
            lamp = new("no-lamp", ItemState.Fitted);
        Assert.Equal(new ItemsValue([sun, lamp with { State = ItemState.Missing }]), light.Value(new([lamp, sun])));
        Assert.Equal(new ItemsValue([lamp with { State = ItemState.Missing }]), light.Value(null));
    }

    private static readonly SunPlace North = new(54, 0, 0, new(2026, 6, 1));

    /// <summary>A mirror is a window onto what lies before it: one that faces the camera shows what lies behind the camera.</summary>
    [Fact]
    public void TheSunIsLookedForWhereTheMirrorLooks()
    {
        // The camera looks north and slightly up at a pane that faces south: at noon of winter the low sun stands in it.
        var view = View(tilt: -14);
        var pane = TouchedLight.Of(Around(0.5, 0.5, TouchedThing.Mirror, half: 0.06, faces: 180), Lit(), view, null, North);
        Assert.Equal(TouchedLightState.Reflects, pane.State);
        Assert.InRange(pane.Mirrored!.Days, 20, 200);
        Assert.InRange(pane.Mirrored.Next!.Day, new(2026, 9, 1), new(2026, 12, 31));
        Assert.InRange(pane.Mirrored.Next.FirstInView!.Value, new(11, 0), new(13, 0));
        // Facing north it is seen from behind, and what it throws there nobody sees; facing east the morning stands in it.
        Assert.Equal(0, Sun(0, tilt: 10).Days);
        var east = Sun(135, tilt: -10);
        Assert.True(east.Next!.FirstInView < new TimeOnly(9, 0), $"{east.Next}");
        // Which way it faces nobody said: nothing is told of the sun.
        Assert.Null(TouchedLight.Of(Around(0.5, 0.5, TouchedThing.Mirror), Lit(), view, null, North).Mirrored);

        static Mirrored Sun(double faces, double tilt) =>
            TouchedLight
                .Of(Around(0.5, 0.5, TouchedThing.Mirror, half: 0.06, faces: faces), Lit(), View(tilt: tilt), null, North)
                .Mirrored!;
    }

    [Theory]
    [InlineData(180, 0, true)]
    [InlineData(183, 0, true)]
    [InlineData(200, 0, false)]
    [InlineData(180, 25, false)]
    [InlineData(0, 0, false)]
    public void OwnLightComesBackFromWhatFacesTheLens(double faces, double tilt, bool comesBack) =>
        Assert.Equal(
            comesBack,
            TouchedLight
                .Of(Around(0.5, 0.5, TouchedThing.Mirror, half: 0.06, faces: faces), Lit(), View(tilt: tilt), null, North)
                .Mirrored!.OwnLight
        );

    [Fact]
    public void WhatWasKeptIsReadAgainAndDrawn()
    {
        var (touch, picture) = (Around(0.8, 0.2), Lit());
        var e = new ReadingEvidence(Guid.NewGuid(), new string('a', 64))
        {
            Algorithm = AimTouch.Algorithm,
            AlgorithmVersion = AimTouch.AlgorithmVersion,
            Inputs = EvidenceMark.With(
                touch.Inputs(Wide, High, 2560).AddRange(TouchedLight.Of(touch, picture, View(), null, null).Inputs()),
                Wide,
                High
            ),
        };
        var again = MeasuredAgain.Of(e, picture, null);
        Assert.Null(again.Why);
        Assert.Equal(["burnt_percent", "white_percent"], again.Figures.Select(f => f.Name));
        Assert.All(again.Figures, f => Assert.True(f.IsSame, $"{f}"));
        Assert.Contains(MeasuredAgain.Of(e, Lit(radius: 9), null).Figures, f => !f.IsSame);
        Assert.Equal("again.no-picture", MeasuredAgain.Of(e, null, null).Why!.Code);
        var mark = Assert.Single(EvidenceMark.Of(e));
        Assert.Equal(EvidenceMarkKind.Target, mark.Kind);
        Assert.Equal(touch.From.X, mark.From.X, 0.001);
    }

    [Theory]
    [InlineData(double.NaN)]
    [InlineData(-1)]
    [InlineData(361)]
    public void AMirrorFacesSomewhere(double faces) =>
        Assert.Equal("facesDeg", Around(0.5, 0.5, TouchedThing.Mirror, faces: faces).Refuse()!.Value.Field);

    [Fact]
    public void GripsOutsideOrAtOnePlaceAreRefused()
    {
        Assert.NotNull(new AimTouch(TouchedThing.Lamp, new(0.5, 0.5), new(0.5, 0.5)).Refuse());
        Assert.NotNull(new AimTouch(TouchedThing.Lamp, new(-0.1, 0.5), new(0.5, 0.6)).Refuse());
        // Along the border: a part of a pixel is one.
        var light = TouchedLight.Of(new(TouchedThing.Lamp, new(1, 1), new(0.9, 1)), Lit(), View(), null, null);
        Assert.Equal(TouchedLightState.Dark, light.State);
    }
}
