using System.Collections.Immutable;
using Walkdown.Core.Aiming;
using Walkdown.Core.Entries;
using Walkdown.Core.Focusing;
using Walkdown.Core.Nights;
using Walkdown.Core.Pictures;

namespace Walkdown.Core.Tests;

/// <summary>What was measured in a kept picture can be measured once more, and drawn in; where it cannot, it says why.</summary>
public sealed class MeasuredAgainTests
{
    private static ReadingEvidence Evidence(string algorithm, int version, params (string Name, double Value)[] inputs) =>
        new(Guid.NewGuid(), new string('a', 64))
        {
            Algorithm = algorithm,
            AlgorithmVersion = version,
            Inputs = inputs.ToImmutableSortedDictionary(i => i.Name, i => i.Value),
        };

    private static ReadingEvidence Sized(ReadingEvidence e, int wide, int high) =>
        e with
        {
            Inputs = EvidenceMark.With(e.Inputs, wide, high),
        };

    /// <summary>Bars and a slanted edge, with something in every corner.</summary>
    private static GreyRaster Scene(int wide = 640, int high = 360)
    {
        var levels = new byte[wide * high];
        for (var y = 0; y < high; y++)
        for (var x = 0; x < wide; x++)
            levels[y * wide + x] = (byte)(x + y / 9 > wide / 2 ? 190 + (x * 7 + y * 3) % 23 : 60 + (x * 5 + y * 11) % 19);
        return new(wide, high, levels);
    }

    public static TheoryData<AimTouch> Touches() =>
        new()
        {
            new AimTouch(TouchedThing.Horizon, new(0.1, 0.41), new(0.93, 0.44)),
            new AimTouch(TouchedThing.Upright, new(0.48, 0.1), new(0.5, 0.9)),
            new AimTouch(TouchedThing.Length, new(0.2, 0.5), new(0.61, 0.53), 1.2, 0.01),
        };

    /// <summary>Whatever was touched says the same from what was kept of it, and is drawn where it was touched.</summary>
    [Theory]
    [MemberData(nameof(Touches), DisableDiscoveryEnumeration = true)]
    public void WhatWasTouchedSaysTheSame(AimTouch touch)
    {
        var e = Sized(Evidence(AimTouch.Algorithm, 1, [.. touch.Inputs(1280, 720, 2560).Select(i => (i.Key, i.Value))]), 1280, 720);
        var again = MeasuredAgain.Of(e, null, null);
        var figure = Assert.Single(again.Figures);
        Assert.True(figure.IsSame);
        Assert.Equal(touch.Measure(1280, 720, 2560)!.Value.Value, figure.Was);
        var line = Assert.Single(EvidenceMark.Of(e));
        Assert.Equal(EvidenceMarkKind.Line, line.Kind);
        Assert.Equal(touch.From.X, line.From.X, 0.0001);
        Assert.Equal(touch.To.Y, line.To.Y, 0.0001);
        // Another figure than the points give is told so.
        var changed = e with
        {
            Inputs = e.Inputs.SetItem("measured", figure.Was + (touch.Thing == TouchedThing.Length ? 2 : 0.05)),
        };
        Assert.False(Assert.Single(MeasuredAgain.Of(changed, null, null).Figures).IsSame);
    }

    [Fact]
    public void HowSharpAPartIsSaysTheSameInTheSamePictureAndNotInAnother()
    {
        var picture = Scene();
        var look = new FocusRun(new(0.5, 0.5)).Next(picture);
        var region = look.Spots[0].Now.Region;
        var e = Evidence(FocusLook.Algorithm, FocusLook.AlgorithmVersion, [.. look.Inputs().Select(i => (i.Key, i.Value))]) with
        {
            Region = region,
        };
        var again = MeasuredAgain.Of(e, picture, null);
        Assert.Null(again.Why);
        Assert.Contains(again.Figures, f => f.Name == "detail_Target");
        Assert.All(again.Figures, f => Assert.True(f.IsSame, f.Name));
        Assert.Contains(MeasuredAgain.Of(e, picture.Mirrored(), null).Figures, f => !f.IsSame);
        // A figure that is not read any more is not the same.
        var flat = MeasuredAgain.Of(e, new(640, 360, new byte[640 * 360]), null);
        Assert.All(flat.Figures, f => Assert.True(f is { Now: null, IsSame: false }));
        // Of another size the part is not there.
        Assert.Equal("again.too-old", MeasuredAgain.Of(e, Scene(320, 180), null).Why?.Code);
        var frame = Assert.Single(EvidenceMark.Of(Sized(e, 640, 360)));
        Assert.Equal((EvidenceMarkKind.Target, region.X / 640.0), (frame.Kind, frame.From.X));
    }

    [Theory]
    [InlineData("", 0, "again.person")]
    [InlineData("aim", 99, "again.other-edition")]
    [InlineData("somebody's", 1, "again.other-edition")]
    [InlineData("night", 2, "again.several")]
    [InlineData("night", 1, "again.other-edition")]
    [InlineData("focus", 1, "again.no-picture")]
    [InlineData("aim", 2, "again.no-picture")]
    [InlineData("aim", 1, "again.other-edition")]
    [InlineData("touch", 1, "again.too-old")]
    public void WhatCannotBeMadeAgainSaysWhy(string algorithm, int version, string code)
    {
        var again = MeasuredAgain.Of(Evidence(algorithm, version), null, null);
        Assert.Equal(code, again.Why?.Code);
        Assert.Empty(again.Figures);
    }

    /// <summary>A night is told of several pictures; what the last one alone gave is read in it again, against the same picture by day.</summary>
    [Fact]
    public void WhatTheLastPictureOfANightGaveIsReadAgain()
    {
        var (day, night) = (Scene(), new GreyRaster(640, 360, [.. Scene().Levels.ToArray().Select((g, i) => (byte)(g / 2 + i * 31 % 7))]));
        var run = new NightRun(new(0.5, 0.5), day, new());
        var look = run.Next(new(night, 0));
        var alone = NightLook.Alone(night, day, look.Target!.Middle(640, 360));
        Assert.Contains("last_picture_signal_db", alone.Keys);
        Assert.Contains("last_picture_veil_share", alone.Keys);
        var e = Sized(
            Evidence(NightLook.Algorithm, NightLook.AlgorithmVersion, [.. look.Inputs().AddRange(alone).Select(i => (i.Key, i.Value))]) with
            {
                Region = look.Target,
            },
            640,
            360
        );
        var again = MeasuredAgain.Of(e, night, null, day);
        Assert.Null(again.Why);
        Assert.Equal(alone.Keys, again.Figures.Select(f => f.Name));
        Assert.All(again.Figures, f => Assert.True(f.IsSame, $"{f}"));
        // Another picture by day, or another night, is not the same; without the picture nothing is read.
        Assert.Contains(MeasuredAgain.Of(e, night, null, Scene().Mirrored()).Figures, f => !f.IsSame);
        Assert.Contains(MeasuredAgain.Of(e, day, null, day).Figures, f => !f.IsSame);
        Assert.Equal("again.no-picture", MeasuredAgain.Of(e, null, null, day).Why?.Code);
        Assert.Equal("again.too-old", MeasuredAgain.Of(e, Scene(320, 180), null, day).Why?.Code);
    }

    [Fact]
    public void WithoutTheAgreedPictureThereIsNothingToLayItOn()
    {
        var e = Evidence(AimLook.Algorithm, AimLook.AlgorithmVersion);
        Assert.Equal("again.no-agreed", MeasuredAgain.Of(e, Scene(), null).Why?.Code);
        Assert.Equal("again.too-old", MeasuredAgain.Of(e, Scene(), Scene()).Why?.Code);
    }

    /// <summary>A veil is drawn where it lies, by its share; a part of which little is known, or that is clear, has none.</summary>
    [Fact]
    public void AVeilIsDrawnWhereItLies()
    {
        var e = Evidence(NightLook.Algorithm, 1, ("veil_0_0", 0.62), ("veil_2_7", 0.4), ("veil_1_1", 0.02));
        var marks = EvidenceMark.Of(e);
        Assert.Equal([0.62, 0.4], marks.Select(m => m.Share!.Value));
        Assert.Equal((0, 0), (marks[0].From.X, marks[0].From.Y));
        Assert.Equal((1, 1), (marks[1].To.X, marks[1].To.Y));
    }

    /// <summary>What was kept without a size, or by hand, draws nothing rather than something somewhere.</summary>
    [Fact]
    public void WhatIsNotKnownIsNotDrawn()
    {
        Assert.Empty(EvidenceMark.Of(Evidence("", 0)));
        Assert.Empty(EvidenceMark.Of(Evidence("touch", 1, ("x1_px", 1), ("y1_px", 1), ("x2_px", 9), ("y2_px", 9))));
        Assert.Empty(EvidenceMark.Of(Sized(Evidence("touch", 1, ("x1_px", 1)), 0, 0)));
        Assert.Empty(EvidenceMark.Of(Evidence("aim", 1, ("pan_deg", 2))));
    }
}
