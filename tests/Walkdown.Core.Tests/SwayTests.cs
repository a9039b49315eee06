using Walkdown.Core.Aiming;
using Walkdown.Core.Measures;
using Walkdown.Core.Pictures;

namespace Walkdown.Core.Tests;

/// <summary>How still a camera stands, told of made-up pictures whose movement is known: a pole in the wind, a bracket that gives way,
/// hands that are not off, and who walks through.</summary>
public sealed class SwayTests
{
    private const int Wide = 320,
        High = 180;

    private static readonly DateTimeOffset Morning = new(2031, 4, 8, 9, 0, 0, TimeSpan.Zero);

    private static readonly SwayTolerance Allowed = new(0.3, 0.2);

    /// <summary>A yard, its content moved right by percent of the width.</summary>
    private static GreyRaster Yard(double across, double down, int grain, int seed = 5)
    {
        var noise = new Random(grain);
        var (dx, dy) = (across / 100 * Wide, down / 100 * Wide);
        var levels = new byte[Wide * High];
        for (var y = 0; y < High; y++)
        for (var x = 0; x < Wide; x++)
        {
            var (u, v) = (x - dx, y - dy);
            var level =
                120
                + 40 * Math.Sin(u / 7 + seed) * Math.Cos(v / 5)
                + 35 * Math.Sin((u + 2 * v) / 23 + seed)
                + 25 * Math.Cos(u * v / 900 + seed);
            levels[y * Wide + x] = (byte)Math.Clamp(level + 3 * (noise.NextDouble() - 0.5), 0, 255);
        }
        return new(Wide, High, levels);
    }

    /// <summary>Runs it with pictures a few times a second until it is done.</summary>
    /// <param name="at">Where the content lies after so many seconds, and since when it is to be pushed (null: not yet); null: no picture
    /// comes.</param>
    private static SwayLook Run(Func<double, double?, GreyRaster?> at, SwayRun? run = null, double perSecond = 2.5, double most = 90)
    {
        run ??= new(Allowed);
        double? push = null;
        for (var n = 0; n <= most * perSecond && !run.IsDone; n++)
        {
            var seconds = n / perSecond;
            if (run.Look.Phase == SwayPhase.Push)
                push ??= seconds;
            if (at(seconds, push) is { } picture)
                run.Next(picture, Morning.AddSeconds(seconds));
        }
        return run.Look;
    }

    /// <summary>A push that dies away and leaves so much.</summary>
    private static double Pushed(double seconds, double? push, double leaves = 0) =>
        push is not { } at ? 0 : leaves + 2 * Math.Exp((at - seconds) / 0.5) * Math.Cos(9 * (seconds - at));

    [Fact]
    public void WhatStandsStillAndComesBackIsStill()
    {
        var look = Run((s, push) => Yard(Pushed(s, push), 0, (int)(8 * s)));
        Assert.Equal((SwayPhase.Done, null, "still"), (look.Phase, look.Why, look.Measured!.Says));
        Assert.InRange(look.Measured.SwayPercent, 0, 0.06);
        Assert.InRange(look.Measured.PushedPercent!.Value, 1.2, 2.3);
        Assert.InRange(look.Measured.StaysPercent!.Value, 0, 0.04);
        Assert.InRange(look.Measured.RestSeconds!.Value, 0.5, 4);
        Assert.True(look.Measured is { Pictures: >= 16, Seconds: >= 8 });
    }

    /// <summary>End to end, to what it sees, at any rate of the swing: faster than the pictures come, too.</summary>
    [Theory]
    [InlineData(1.2, 0.7)]
    [InlineData(0.5, 0.23)]
    [InlineData(0.8, 5.3)]
    public void SwayIsToldFromEndToEnd(double percent, double hz)
    {
        var look = Run(
            (s, push) =>
                Yard(
                    percent / 2 * Math.Sin(2 * Math.PI * hz * s) + (push is null ? 0 : 3 * Pushed(s, push)),
                    percent / 8 * Math.Sin(1.7 * Math.PI * hz * s),
                    (int)(8 * s)
                )
        );
        Assert.Equal(("sways", Outcome.Out), (look.Measured!.Says, look.Measured.Sway));
        Assert.InRange(look.Measured.SwayPercent, 0.9 * percent, 1.06 * percent);
    }

    [Fact]
    public void WhatAPushTurnsIsLoose()
    {
        var look = Run((s, push) => Yard(Pushed(s, push, leaves: 0.6), 0.1, (int)(8 * s)));
        Assert.Equal(("loose", Outcome.In, Outcome.Out), (look.Measured!.Says, look.Measured.Sway, look.Measured.Stays));
        Assert.InRange(look.Measured.StaysPercent!.Value, 0.55, 0.65);
    }

    /// <summary>Nobody pushed it: the sway is told, and no word that asks for a push.</summary>
    [Fact]
    public void WithoutAPushNothingIsCalledStill()
    {
        var look = Run((s, _) => Yard(0, 0, (int)(8 * s)));
        Assert.Equal(("sway.no-push", null, Outcome.In), (look.Why!.Code, look.Measured!.Says, look.Measured.Sway));

        var run = new SwayRun(Allowed);
        run.Unpushed();
        Assert.Equal(SwayPhase.HandsOff, run.Look.Phase);
        for (var n = 0; n < 24; n++)
        {
            run.Next(Yard(0, 0, n), Morning.AddSeconds(n / 2.0));
            run.Unpushed();
        }
        Assert.Equal((SwayPhase.Done, "sway.not-pushed", null), (run.Look.Phase, run.Look.Why!.Code, run.Look.Measured!.Says));
        // What is done stays as it is, whatever comes after.
        run.Next(Yard(5, 0, 1), Morning.AddSeconds(60));
        Assert.InRange(run.Look.Measured!.SwayPercent, 0, 0.06);
    }

    /// <summary>Somebody turns it while hands should be off: that is no sway, and it begins anew.</summary>
    [Fact]
    public void WhoTurnsItMeanwhileIsToldToLetGo()
    {
        var run = new SwayRun(Allowed);
        Message? told = null;
        Run(
            (s, push) =>
            {
                told ??= run.Look.Why;
                return Yard(s < 9 ? 0.2 * s : 1.8 + Pushed(s, push), 0, (int)(8 * s));
            },
            run
        );
        Assert.Equal("sway.was-turned", told?.Code);
        Assert.Equal((null, "still"), (run.Look.Why, run.Look.Measured!.Says));
    }

    /// <summary>Two who walk through its picture are no sway; who stays before it, or a cap, is: nothing is told until it is
    /// gone.</summary>
    [Fact]
    public void WhatStandsBeforeItIsNoSway()
    {
        var run = new SwayRun(Allowed);
        List<string?> told = [];
        var look = Run(
            (s, push) =>
            {
                told.Add(run.Look.Why?.Code);
                return s is 1.2 or 1.6 ? Yard(0, 0, 1, seed: 77)
                    : s is >= 3 and < 5 ? new GreyRaster(Wide, High, new byte[Wide * High])
                    : Yard(Pushed(s, push), 0, (int)(8 * s));
            },
            run
        );
        Assert.DoesNotContain("sway.lost", told);
        Assert.Contains("aim.black", told);
        Assert.Equal("still", look.Measured!.Says);
        Assert.InRange(look.Measured.SwayPercent, 0, 0.06);
    }

    [Fact]
    public void TooFewPicturesTellNothingAndSlowOnesTakeLonger()
    {
        var few = Run((s, _) => Yard(0, 0, (int)s), perSecond: 0.2, most: 200);
        Assert.Equal((SwayPhase.Done, "sway.too-few", null), (few.Phase, few.Why!.Code, few.Measured));
        var slow = Run((s, push) => Yard(Pushed(s, push), 0, (int)s), perSecond: 0.5, most: 200);
        Assert.True(slow.Measured is { Pictures: >= 8, Seconds: >= 30 and < 34 });
        Assert.DoesNotContain("nan", System.Text.Json.JsonSerializer.Serialize(slow, CoreJson.Options), StringComparison.OrdinalIgnoreCase);
    }

    /// <summary>It swings on and on after the push: it sways, whatever it did before.</summary>
    [Fact]
    public void WhatNeverComesToRestSways()
    {
        var look = Run((s, push) => Yard(push is null ? 0 : 1.5 * Math.Sin(2.1 * s), 0, (int)(8 * s)));
        Assert.Equal(("sway.no-rest", "sways", null), (look.Why!.Code, look.Measured!.Says, look.Measured.Stays));
        Assert.True(look.Points.Length <= 240);
    }

    [Fact]
    public void FiguresOfItAreKept()
    {
        var inputs = new SwayMeasure(0.123456, 0.025, 2560, 18, 8.25, Outcome.In, 1.5, 0.01, 1.2, Outcome.In).Inputs();
        Assert.Equal(0.1235, inputs["sway_percent"]);
        Assert.Equal(2.56, new SwayMeasure(0.1, 0.025, 2560, 18, 8, Outcome.In).SwayPixels!.Value, 9);
        Assert.Null(new SwayMeasure(0.02, 0.025, 2560, 18, 8, Outcome.In).SwayPixels);
        Assert.Equal(
            ["pictures", "pushed_percent", "rest_s", "seconds", "stays_percent", "sway_percent", "uncertainty_percent"],
            inputs.Keys
        );
        Assert.Equal(4, new SwayMeasure(0.1, 0.025, 2560, 18, 8.25, Outcome.In).Inputs().Count);
    }
}
