using System.Collections.Immutable;
using Walkdown.Core.Aiming;
using Walkdown.Core.Measures;
using Walkdown.Core.Nights;
using Walkdown.Core.Pictures;

namespace Walkdown.Core.Tests;

/// <summary>What is told of pictures in the dark: only what lies over the view by day, nothing that merely goes by, and nothing where
/// nothing tells.</summary>
public sealed class NightTests
{
    private const int Wide = 480,
        High = 270;

    private static readonly PictureShare Target = new(0.5, 0.5);

    /// <summary>How much light each place throws back, 0.02 to 1: patches, bars and grain.</summary>
    private static double Surface(int x, int y, int seed)
    {
        var patch = new Random((x / 23 * 7919 + y / 17 * 104729) ^ seed).NextDouble();
        return 0.03 + 0.5 * patch + (x % 11 < 3 ? 0.25 : 0) + (y % 13 < 2 ? 0.2 : 0);
    }

    /// <summary>The view in some light, with more light over it.</summary>
    /// <param name="lit">Light on the view, by place in shares of the picture.</param>
    /// <param name="veil">Light over it, linear.</param>
    private static GreyRaster Shot(
        Func<double, double, double> lit,
        Func<double, double, double>? veil = null,
        int noise = 1,
        double noiseBy = 1.5,
        int seed = 5,
        (int X, int Y, int Size)? stands = null,
        int turned = 0
    )
    {
        var random = new Random(noise);
        var levels = new byte[Wide * High];
        for (var y = 0; y < High; y++)
        for (var x = 0; x < Wide; x++)
        {
            var (u, v) = ((double)x / Wide, (double)y / High);
            var light = lit(u, v) * Surface(x + turned, y + turned / 3, seed) + (veil?.Invoke(u, v) ?? 0);
            if (stands is var (sx, sy, size) && Math.Abs(x - sx) < size && Math.Abs(y - sy) < size)
                light = 0.6;
            var level = 255 * Math.Pow(Math.Clamp(light, 0, 1), 1 / 2.2);
            level += noiseBy * (random.NextDouble() + random.NextDouble() + random.NextDouble() - 1.5) * 2;
            levels[y * Wide + x] = (byte)Math.Clamp(Math.Round(level), 0, 255);
        }
        return new(Wide, High, levels);
    }

    private static readonly GreyRaster Day = Shot((_, _) => 0.7);

    private static double Lamps(double u, double v) => 0.35 * Math.Exp(-3 * ((u - 0.5) * (u - 0.5) + (v - 0.5) * (v - 0.5)));

    private static NightLook Look(GreyRaster night, double? colour = 0, VeilKnown? known = null, GreyRaster? day = null) =>
        new NightRun(Target, day ?? Day, known ?? new()).Next(new(night, colour));

    [Fact]
    public void WhatIsOnlyDarkerThanByDayIsClear()
    {
        var look = Look(Shot(Lamps, noise: 2));
        Assert.Equal(NightState.Clear, look.State);
        Assert.True(look.SameView);
        Assert.InRange(look.Share!.Value, 0, 0.1);
        Assert.InRange(look.Sharpness!.Ratio, 0.8, 1.2);
        Assert.True(look.Reach!.IsSeen);
        Assert.Empty(look.Reasons);
        Assert.Equal("clear", NightRows.Says(look));
    }

    /// <summary>So much light was put over it: so much is told, within a tenth.</summary>
    [Theory]
    [InlineData(0.08)]
    [InlineData(0.12)]
    [InlineData(0.2)]
    public void AnEvenVeilIsMeasured(double over)
    {
        var look = Look(Shot(Lamps, (_, _) => over, 3));
        var light = look.Veil!.Light;
        Assert.Equal(over / light, look.Share!.Value, 0.1);
        Assert.Equal(NightState.Veiled, look.State);
        Assert.Equal(VeilReason.Film, look.Reasons[0].Reason);
        Assert.Equal(1, look.Reasons.Sum(r => r.Chance), 1e-9);
    }

    [Theory]
    [InlineData("foam", VeilReason.Foam)]
    [InlineData("finger", VeilReason.Finger)]
    [InlineData("tilt", VeilReason.Tilt)]
    [InlineData("smudge", VeilReason.Smudge)]
    public void WhereItLiesSaysWhy(string kind, VeilReason reason)
    {
        var look = Look(
            Shot(
                Lamps,
                (u, v) =>
                {
                    var (x, y) = (u - 0.5, (v - 0.5) * High / Wide);
                    return kind switch
                    {
                        "foam" => 0.02 + 0.9 * (x * x + y * y),
                        "finger" => 0.25 * Math.Exp(-((x - 0.15) * (x - 0.15) + (y + 0.05) * (y + 0.05)) / (2 * 0.08 * 0.08)),
                        "tilt" => 0.2 / (1 + Math.Exp((y + 0.02) / 0.04)),
                        _ => 0.2 * Math.Exp(-Math.Pow((0.6 * x + 0.8 * y - 0.02) / 0.1, 2) / 2),
                    };
                },
                4
            )
        );
        Assert.Equal(NightState.Veiled, look.State);
        Assert.Equal(reason, look.Reasons[0].Reason);
        Assert.NotEmpty(look.Reasons[0].Because);
    }

    /// <summary>Too little to call it a veil is still named, as what it would be; a veil and a clean picture name none beside. And what lies
    /// as one reason has it lie is one sooner than what lies anyhow.</summary>
    [Fact]
    public void WhatIsTooLittleIsNamedAsWhatItWouldBe()
    {
        NightLook Printed(double strength) => Look(Shot(Lamps, (u, v) => strength * Print(u, v)));
        Assert.Empty(Printed(0).Suspects);
        var all = Enumerable.Range(0, 100).Select(i => Printed(i / 200.0)).ToArray();
        var faint = all.First(l => l.Worst >= NightLook.MayBeWorst);
        Assert.NotEqual(NightState.Veiled, faint.State);
        Assert.Empty(faint.Reasons);
        Assert.Contains(VeilReason.Finger, faint.Suspects);
        var more = all.First(l => l.Worst >= NightLook.MostInPattern);
        Assert.InRange(more.Worst!.Value, NightLook.MostInPattern, NightLook.MostWorst);
        Assert.Equal((NightState.Veiled, VeilReason.Finger), (more.State, more.Reasons[0].Reason));
        var full = Printed(1);
        Assert.Equal((NightState.Veiled, 0), (full.State, full.Suspects.Length));
    }

    /// <summary>Ground with little to be seen in it, and what else is there.</summary>
    /// <param name="light">On it.</param>
    /// <param name="noise">Seed of its noise.</param>
    /// <param name="over">Light over it.</param>
    private static GreyRaster Ground(Func<int, int, double> light, int noise, Func<int, int, double>? over = null)
    {
        var random = new Random(noise);
        var levels = new byte[Wide * High];
        for (var y = 0; y < High; y++)
        for (var x = 0; x < Wide; x++)
        {
            var ground = 0.2 + 0.04 * Math.Sin(x / 5.0 + Math.Sin(y / 7.0)) + 0.03 * Math.Sin(y / 4.0 - x / 13.0);
            var level =
                255 * Math.Pow(Math.Clamp(ground * light(x, y) + (over?.Invoke(x, y) ?? 0), 0, 1), 1 / 2.2)
                + 6 * (random.NextDouble() - 0.5);
            levels[y * Wide + x] = (byte)Math.Clamp(Math.Round(level), 0, 255);
        }
        return new(Wide, High, levels);
    }

    /// <summary>A fence throws its shadow by day: in the dark the ground there shows nothing of it, and is no brighter than between its
    /// posts.</summary>
    [Fact]
    public void AShadowByDayIsNoVeilInTheDark()
    {
        static bool IsShade(int x) => x is > 120 and < 360 && Math.Abs(x % 60 - 15) < 9;
        var day = Ground((x, _) => IsShade(x) ? 0.25 : 1, 1);
        var night = Look(Ground((_, _) => 0.6, 2), day: day);
        Assert.NotEqual(NightState.Veiled, night.State);
        Assert.True(night.Worst < NightLook.MayBeWorst, $"{night.Worst}");
        // The same place with light over it is told, shadow or none.
        double Over(int x, int y) => 0.5 * Math.Exp(-((x - 240) * (x - 240) + (y - 135) * (y - 135)) / 3200.0);
        Assert.Equal(NightState.Veiled, Look(Ground((_, _) => 0.6, 2, Over), day: day).State);
    }

    /// <summary>A line on the ground throws the lamps' light straight back: white, with dark ground close beside it.</summary>
    [Fact]
    public void ALineThatShinesIsNoVeil()
    {
        static bool IsLine(int x) => Math.Abs(x - 255) < 6;
        var day = Ground((x, _) => IsLine(x) ? 2.5 : 1, 1);
        var night = Look(Ground((x, _) => IsLine(x) ? 9 : 0.6, 2), day: day);
        Assert.NotEqual(NightState.Veiled, night.State);
        Assert.Empty(night.Suspects);
    }

    [Fact]
    public void WhatGoesByIsNoVeilOnceASecondPictureIsThere()
    {
        var run = new NightRun(Target, Day, new());
        var first = run.Next(new(Shot(Lamps, stands: (240, 90, 50), noise: 5), 0));
        var second = run.Next(new(Shot(Lamps, stands: (100, 200, 40), noise: 6), 0));
        Assert.True(first.Worst > second.Worst);
        Assert.Equal(NightState.Clear, second.State);
    }

    [Fact]
    public void WithoutADayWithoutLightOrInColourNothingIsToldOfAVeil()
    {
        var fog = Shot(Lamps, (_, _) => 0.1, 7);
        var alone = new NightRun(Target, null, new()).Next(new(fog, 0));
        Assert.Equal((NightState.Look, "night.no-day"), (alone.State, alone.Why!.Code));
        Assert.Null(alone.Share);
        Assert.NotNull(alone.Black);
        Assert.Null(NightRows.Says(alone));

        var colour = Look(fog, 12);
        Assert.Equal((NightState.Colour, "night.coloured"), (colour.State, colour.Why!.Code));
        Assert.Null(NightRows.Says(colour));

        var black = Look(Shot((_, _) => 0, noise: 8, noiseBy: 0.5));
        Assert.Equal((NightState.Black, "black"), (black.State, NightRows.Says(black)));

        var shape = Look(fog, day: Day.Cut(0, 0, 270, 270));
        Assert.Equal("night.other-shape", shape.Why!.Code);
        var small = Look(new(150, 84, new byte[150 * 84]));
        Assert.Equal("focus.too-small", small.Why!.Code);
        // Grey where nobody knows: then it is not held to be in colour.
        Assert.Equal(NightState.Veiled, Look(fog, null).State);
    }

    [Fact]
    public void AnotherViewIsHeldAgainstNothing()
    {
        var look = Look(Shot(Lamps, noise: 9, seed: 77));
        // Either it is seen to be another, or nothing of it is told as clear.
        Assert.NotEqual(NightState.Clear, look.State);
    }

    [Fact]
    public void BlurIsToldThroughAVeilAndNoiseAloneIsNot()
    {
        static GreyRaster Soft(GreyRaster of) => of.Sized(of.Width / 3, of.Height / 3).Sized(of.Width, of.Height);
        var soft = Look(Soft(Shot(Lamps, noise: 10, noiseBy: 0)));
        Assert.Equal((NightState.Soft, "soft"), (soft.State, NightRows.Says(soft)));
        var veiled = Look(Shot(Lamps, (_, _) => 0.01, 11));
        Assert.False(veiled.Sharpness!.IsSoft);
        var noisy = Look(Shot((u, v) => 0.06 * Lamps(u, v), noise: 12, noiseBy: 9));
        Assert.NotEqual(NightState.Soft, noisy.State);
        Assert.NotEqual(NightState.Clear, noisy.State);
    }

    private static readonly ImmutableArray<VeilGuess> Open =
    [
        new(VeilReason.Finger, 0.4, 0.8, []),
        new(VeilReason.Foam, 0.35, 0.8, []),
        new(VeilReason.Wall, 0.25, 0.8, []),
    ];

    [Fact]
    public void WhatHelpedNamesTheReasonAndWhatDidNotRulesOut()
    {
        var wiped = NightTries.After(Open, [new(NightAct.Wiped, 0.8, 0.75)]);
        Assert.Equal(VeilReason.Foam, wiped[0].Reason);
        Assert.True(wiped.First(g => g.Reason == VeilReason.Finger).Chance < 0.05);
        var pressed = NightTries.After(Open, [new(NightAct.Wiped, 0.8, 0.8), new(NightAct.FoamPressed, 0.8, 0.1)]);
        Assert.True(pressed[0] is { Reason: VeilReason.Foam, Chance: > 0.95 });
        // Neither here nor there tells nothing, and what no picture has told yet nothing either.
        Assert.Equal(Open, NightTries.After(Open, [new(NightAct.Wiped, 0.8, 0.6), new(NightAct.Shaded, 0.8, null)]));
        Assert.Empty(NightTries.After([], [new(NightAct.Wiped, 0.8, 0.1)]));
    }

    [Fact]
    public void WhatIsTriedFirstTellsTheMostForItsMinutes()
    {
        var next = NightTries.Next(Open, true, []);
        Assert.Equal(NightAct.Wiped, next[0]);
        Assert.DoesNotContain(NightAct.Wiped, NightTries.Next(Open, true, [new(NightAct.Wiped, 0.8, null)]));
        Assert.DoesNotContain(NightAct.CoverOff, NightTries.Next(Open, false, []));
        Assert.Empty(NightTries.Next([], true, []));
        // Once it is gone, each of them can have done it.
        var gone = NightTries.Next(Open, true, [new(NightAct.Wiped, 0.8, 0.75)], isGone: true);
        Assert.Equal(Enum.GetValues<NightAct>().Except([NightAct.Wiped]).Order(), gone.Order());
        Assert.Empty(NightTries.Next([], true, [], isGone: true));
        Assert.Equal(NightAct.FilmOff, NightTries.Next([new(VeilReason.Film, 1, 0, [])], true, [])[0]);
    }

    private static double Print(double u, double v) =>
        0.6 * Math.Exp(-((u - 0.6) * (u - 0.6) + 0.32 * (v - 0.4) * (v - 0.4)) / (2 * 0.1 * 0.1));

    private static NightLook Veiled(NightRun run, int seed) => run.Next(new(Shot(Lamps, Print, seed), 0));

    private static NightLook Clean(NightRun run, int seed) => run.Next(new(Shot(Lamps, noise: seed), 0));

    /// <summary>Pictures come twice a second and a hand takes a minute: whoever tells what he did once the light is gone gets its credit, and
    /// what was tried in vain before keeps its own figures.</summary>
    [Fact]
    public void WhatCleanedItCanBeToldAfterwards()
    {
        var run = new NightRun(Target, Day, new());
        for (var i = 0; i < 3; i++)
            Veiled(run, 120 + i);
        // Nothing was said, and it is gone: why it was there is still asked.
        Assert.NotEmpty(Clean(run, 124).Reasons);
        Assert.True(run.Tried(NightAct.FoamPressed));
        var first = Assert.Single(run.Tries);
        Assert.True(first is { Helped: true, Before: > 0.5, After: < 0.3 });
        // It was something else: the one named first changed nothing.
        Assert.True(run.Tried(NightAct.Wiped));
        Assert.Equal((false, true), (run.Tries[0].Helped, run.Tries[1].Helped));
        Assert.Equal(first.Before, run.Tries[1].Before);
        Assert.True(Clean(run, 125).Reasons[0] is { Reason: VeilReason.Finger, Chance: > 0.9 });
        Assert.Equal((false, true), (run.Tries[0].Helped, run.Tries[1].Helped));
    }

    /// <summary>On a picture that is still veiled an act begins now: what came before belongs to what was named before.</summary>
    [Fact]
    public void WhatIsNamedWhileItIsVeiledBeginsThen()
    {
        var run = new NightRun(Target, Day, new());
        for (var i = 0; i < 3; i++)
            Veiled(run, 130 + i);
        run.Tried(NightAct.FoamPressed);
        Veiled(run, 134);
        run.Tried(NightAct.Wiped);
        Assert.Equal((false, null), (run.Tries[0].Helped, run.Tries[1].Helped));
        Clean(run, 135);
        Assert.Equal((false, true), (run.Tries[0].Helped, run.Tries[1].Helped));
    }

    /// <summary>A hand comes down again and the light is back: it helped all the same. A cover that was wiped and fogs again did not.</summary>
    [Theory]
    [InlineData(NightAct.Shaded, true)]
    [InlineData(NightAct.InfraredOff, true)]
    [InlineData(NightAct.CoverOff, true)]
    [InlineData(NightAct.Wiped, false)]
    [InlineData(NightAct.FilmOff, false)]
    public void WhatIsUndoneAgainHelpedAllTheSame(NightAct act, bool helped)
    {
        var run = new NightRun(Target, Day, new());
        for (var i = 0; i < 2; i++)
            Veiled(run, 140 + i);
        run.Tried(act);
        Clean(run, 142);
        Assert.True(run.Tries[0].Helped);
        // What only goes by is no veil: it must be there in all of the last pictures.
        for (var i = 0; i < 9; i++)
            Veiled(run, 143 + i);
        Assert.Equal(helped, run.Tries[0].Helped);
    }

    [Fact]
    public void OnceItIsGoneTheReasonStaysTold()
    {
        var run = new NightRun(Target, Day, new());
        Assert.False(run.Tried(NightAct.Wiped));
        for (var i = 0; i < 3; i++)
            run.Next(new(Shot(Lamps, Print, 20 + i), 0));
        Assert.True(run.Tried(NightAct.FoamPressed));
        run.Next(new(Shot(Lamps, Print, 24), 0));
        Assert.False(run.Tries[^1].Helped);
        Assert.True(run.Tried(NightAct.Wiped));
        var gone = run.Next(new(Shot(Lamps, noise: 25), 0));
        Assert.True(run.Tries[^1].Helped);
        Assert.Equal(NightState.Clear, gone.State);
        Assert.True(gone.Reasons[0] is { Reason: VeilReason.Finger, Chance: > 0.9 });
        Assert.All(gone.Inputs(), i => Assert.True(double.IsFinite(i.Value)));
    }

    /// <summary>Turned away from what threw its light back, the part that both show is compared.</summary>
    [Fact]
    public void TurnedAwayItIsStillHeldAgainstTheDay()
    {
        var run = new NightRun(Target, Day, new());
        // Something near at its right, white.
        static double Wall(double u, double v) => u > 0.62 ? 0.4 + u : 0;
        for (var i = 0; i < 2; i++)
            run.Next(new(Shot(Lamps, Wall, 30 + i), 0));
        Assert.True(run.Tried(NightAct.Turned));
        var turned = run.Next(new(Shot(Lamps, noise: 33, turned: -24), 0));
        Assert.Null(turned.Why);
        Assert.False(turned.SameView);
        Assert.Equal(NightState.Clear, turned.State);
        Assert.True(run.Tries[0].Helped);
        Assert.Contains(turned.Veil!.Tiles, t => t.Veil is null);
        // In fog nobody sees how far it was turned: then nothing is told of it.
        run.Tried(NightAct.Turned);
        var fog = run.Next(new(Shot((_, _) => 0.0, (_, _) => 0.3, 34, turned: -60), 0));
        Assert.Equal("night.turned-unknown", fog.Why!.Code);
        Assert.Null(fog.Share);
    }

    [Fact]
    public void NobodyTriesForEver()
    {
        var run = new NightRun(Target, Day, new());
        for (var i = 0; i < 2; i++)
            run.Next(new(Shot(Lamps, (_, _) => 0.2, 40 + i), 0));
        var tries = 0;
        while (run.Tried(NightAct.Wiped))
            Assert.True(++tries < 100);
        Assert.Equal(tries, run.Tries.Count);
    }

    /// <summary>Whatever a picture holds, a look is told or said why not.</summary>
    [Theory]
    [InlineData(0)]
    [InlineData(128)]
    [InlineData(255)]
    public void OfAnEmptyPictureNothingIsClear(int level)
    {
        var levels = new byte[Wide * High];
        Array.Fill(levels, (byte)level);
        foreach (var day in new[] { Day, new GreyRaster(Wide, High, levels) })
            Assert.NotEqual(NightState.Clear, Look(new(Wide, High, levels), day: day).State);
    }
}
