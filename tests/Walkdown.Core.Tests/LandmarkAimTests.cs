using CsCheck;
using Walkdown.Core.Aiming;
using Walkdown.Core.Entries;
using Walkdown.Core.Measures;
using Walkdown.Core.Optics;

namespace Walkdown.Core.Tests;

/// <summary>A camera aimed by planned targets in its picture: whatever it hangs like, what was hidden is found again.</summary>
public sealed class LandmarkAimTests
{
    private const int Wide = 1280,
        High = 720;

    private static readonly ViewTarget Gate = new("Gate", 14, -2, 2, DetailLevel.Recognise),
        Kerb = new("Kerb", 22, 6, 0, DetailLevel.Observe);

    private static ViewDesign View(double tilt, params ViewTarget[] targets) => new(4.2, tilt, 80, 2560, 1440, null, [.. targets]);

    /// <summary>Where a target lies in the picture of a camera that looks right of its plan, lower and turned clockwise by so
    /// much.</summary>
    private static PictureShare Lies(ViewTarget target, double height, double right, double tilt, double clockwise, double field = 80)
    {
        static double Rad(double degrees) => degrees * Math.PI / 180;
        var (x, y, z) = (target.AsideMetres, height - target.HeightMetres, target.GroundMetres);
        (x, z) = (x * Math.Cos(Rad(right)) - z * Math.Sin(Rad(right)), z * Math.Cos(Rad(right)) + x * Math.Sin(Rad(right)));
        (y, z) = (y * Math.Cos(Rad(tilt)) - z * Math.Sin(Rad(tilt)), z * Math.Cos(Rad(tilt)) + y * Math.Sin(Rad(tilt)));
        var (u, v) = (x / z, y / z);
        var r = Rad(clockwise);
        (u, v) = (u * Math.Cos(r) + v * Math.Sin(r), v * Math.Cos(r) - u * Math.Sin(r));
        var focal = Wide / 2.0 / Math.Tan(Rad(field / 2));
        return new(0.5 + u * focal / Wide, 0.5 + v * focal / High);
    }

    [Fact]
    public void TwoTargetsSayPanTiltAndRoll() =>
        Gen.Select(Gen.Double[-12, 12], Gen.Double[8, 30], Gen.Double[-6, 6])
            .Sample(
                (right, tilt, clockwise) =>
                {
                    var view = View(15, Gate, Kerb);
                    var hangs = LandmarkAim.Of(
                        view,
                        (Gate, Lies(Gate, 4.2, right, tilt, clockwise)),
                        (Kerb, Lies(Kerb, 4.2, right, tilt, clockwise)),
                        Wide,
                        High,
                        0,
                        1
                    )!;
                    Assert.False(hangs.IsOther);
                    Assert.Equal(hangs.PlannedApartDeg!.Value, hangs.ApartDeg!.Value, 0.01);
                    Assert.Equal(-right, hangs.PanDeg, 0.01);
                    Assert.Equal(15 - tilt, hangs.TiltDeg, 0.01);
                    Assert.Equal(-clockwise, hangs.RollDeg!.Value, 0.01);
                    Assert.Equal(AimLook.Between(15, tilt, right), hangs.OffDeg, 0.01);
                },
                iter: 300
            );

    [Fact]
    public void OneTargetSaysPanAndTiltOfALevelCamera()
    {
        var hangs = LandmarkAim.Of(View(15, Gate), (Gate, Lies(Gate, 4.2, 3, 13, 0)), null, Wide, High, 0.5, 1)!;
        Assert.Equal((-3, 2, null), (Math.Round(hangs.PanDeg, 6), Math.Round(hangs.TiltDeg, 6), hangs.RollDeg));
        // Half a metre at 14.3 m is 2.0 degrees, a pixel 0.08.
        Assert.Equal(2.0, hangs.UncertaintyDeg, 0.02);
        // Beneath its own feet no camera of 4.2 m sees the horizon.
        var high = new ViewTarget("Mast", 3, 0, 40, DetailLevel.Observe);
        Assert.Null(LandmarkAim.Of(View(15, high), (high, new(0.02, 0.9)), null, Wide, High, 0, 1) is { OffDeg: < 60 } odd ? odd : null);
    }

    /// <summary>How far apart both lie does not hang on how the camera hangs: what does not fit is something else.</summary>
    [Fact]
    public void AnotherThingThatWasTouchedIsTold()
    {
        var view = View(15, Gate, Kerb);
        LandmarkAim Of(double metresOff) =>
            LandmarkAim.Of(view, (Gate, Lies(Gate, 4.2, 3, 15, 0)), (Kerb, Lies(Gate, 4.2, -4, 15, 0)), Wide, High, metresOff, 1)!;
        Assert.True(Of(0.1).IsOther);
        Assert.False(Of(5).IsOther);
        var touch = new AimTouch(TouchedThing.Target, Lies(Gate, 4.2, 3, 15, 0), Lies(Gate, 4.2, -4, 15, 0));
        Assert.Equal("touch.other-target", touch.Measure(Wide, High, 2560, view)!.Doubt!.Code);
        Assert.Null(touch.Measure(Wide, High, 2560, View(15, Gate))!.Doubt);
    }

    /// <summary>As a touch: steps to turn, and figures that are kept; without a target it says nothing.</summary>
    [Fact]
    public void ATouchedTargetTellsWhatToTurn()
    {
        var touch = new AimTouch(TouchedThing.Target, Lies(Gate, 4.2, 3, 16, 0), new(0.75, 0.5), null, 0);
        var measured = touch.Measure(Wide, High, 2560, View(15, Gate))!;
        Assert.Equal(("aim.off", Unit.Degree), (measured.Check.Value, measured.Value.Unit));
        Assert.Equal([AimWay.Left, AimWay.Up], measured.Steps.Select(s => s.Way));
        Assert.Equal(3, measured.Steps[0].Degrees, 0.01);
        Assert.Null(touch.Measure(Wide, High, 2560, View(15)));
        Assert.Null(touch.Measure(Wide, High, 2560));
        var inputs = touch.Inputs(Wide, High, 2560, View(15, Gate));
        Assert.Equal(measured.Value.Value, inputs["measured"]);
        // Drawn where it was touched, and the grip that said nothing is not.
        var seen = new ReadingEvidence(Guid.NewGuid(), "")
        {
            Algorithm = AimTouch.Algorithm,
            Inputs = EvidenceMark.With(inputs, Wide, High),
        };
        var mark = Assert.Single(EvidenceMark.Of(seen));
        Assert.Equal(EvidenceMarkKind.Point, mark.Kind);
        Assert.Equal(touch.From.X, mark.From.X, 1e-4);
        Assert.Equal(
            2,
            EvidenceMark
                .Of(seen with { Inputs = EvidenceMark.With(touch.Inputs(Wide, High, 2560, View(15, Gate, Kerb)), Wide, High) })
                .Length
        );
        Assert.Equal(TouchedThing.Target, AimTouch.Of(inputs, Wide, High)!.Thing);
        Assert.Equal("metresOff", (touch with { MetresOff = -1 }).Refuse()!.Value.Field);
        Assert.Equal("to", (touch with { From = new(1.2, 0) }).Refuse()!.Value.Field);
    }
}
