using System.Collections.Immutable;
using CsCheck;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Optics;

namespace Walkdown.Core.Tests;

/// <summary>What all views of a site see of its ground: worked by hand on simple plans, and held against each view by itself.</summary>
public sealed class SiteCoverageTests
{
    private static PlanPoint At(double x, double y) => new(x, y);

    private static ImmutableArray<PlanPoint> Box(double left, double top, double right, double bottom) =>
        [At(left, top), At(right, top), At(right, bottom), At(left, bottom)];

    /// <summary>Hangs at a place, looks to a bearing; 4 m high, 90 degrees across, 2560 x 1440.</summary>
    private static PlacedView Camera(
        double x,
        double y,
        double azimuth,
        double tilt = 25,
        string label = "VL-01",
        double high = 4,
        params ViewTarget[] targets
    ) => new(Guid.CreateVersion7(), label, 1, At(x, y), new(high, tilt, 90, 2560, 1440, azimuth, [.. targets]), true);

    private static SiteGround Ground(PlanGround ground, params PlanWall[] walls) => new([ground], [.. walls], 0);

    private static PlanGround Yard(ImmutableArray<PlanPoint> corners, DetailLevel level = DetailLevel.Detect) =>
        new("Yard", corners, level);

    private static SiteCoverage Of(SiteGround ground, params PlacedView[] views) =>
        SiteCoverage.Of(ground, views, DetailEdition.Edition2014, TestContext.Current.CancellationToken);

    private static GroundCoverage Seen(SiteGround ground, params PlacedView[] views) => Assert.Single(Of(ground, views).Grounds);

    /// <summary>North is up the sheet: a camera that looks east sees what lies to its right, and nothing behind it.</summary>
    [Theory]
    [InlineData(0, 0, -10)]
    [InlineData(90, 10, 0)]
    [InlineData(180, 0, 10)]
    [InlineData(270, -10, 0)]
    public void ACameraSeesWhereItLooks(double azimuth, double x, double y)
    {
        foreach (var turned in new[] { 0.0, 90 })
        {
            // Where the sheet has north to the right, all of it is turned with it.
            var (tx, ty) = turned == 0 ? (x, y) : (-y, x);
            PlanGround There(double sign) => Yard(Box(sign * tx - 1, sign * ty - 1, sign * tx + 1, sign * ty + 1));
            Assert.Equal(100, Seen(Ground(There(1)) with { NorthDeg = turned }, Camera(0, 0, azimuth)).SeenPercent);
            Assert.Equal(0, Seen(Ground(There(-1)) with { NorthDeg = turned }, Camera(0, 0, azimuth)).SeenPercent);
        }
    }

    /// <summary>A cell is seen where its own camera's picture has it, with the detail of that place.</summary>
    [Fact]
    public void ACellIsWhatItsOwnPictureHas() =>
        Gen.Select(Gen.Double[0, 359], Gen.Double[5, 80], Gen.Double[-30, 30], Gen.Double[-30, 30])
            .Sample(
                (azimuth, tilt, x, y) =>
                {
                    var camera = Camera(0, 0, azimuth, tilt);
                    var line = new SightLine(camera, SiteGround.Undrawn, 12.5);
                    var (sin, cos) = (Math.Sin(azimuth * Math.PI / 180), Math.Cos(azimuth * Math.PI / 180));
                    var (along, aside) = (x * sin - y * cos, x * cos + y * sin);
                    var share = camera.Design.Seen(along, aside, 0);
                    var isIn = share is { X: > 1e-6 and < 1 - 1e-6, Y: > 1e-6 and < 1 - 1e-6 };
                    var isOut = share is not { X: > -1e-6 and < 1 + 1e-6, Y: > -1e-6 and < 1 + 1e-6 };
                    var told = line.PerMetre(x, y, 0);
                    if (isIn && camera.Design.DepthMetres(along, 0) < 1280 / 12.5)
                        Assert.Equal(1280 / camera.Design.DepthMetres(along, 0), told!.Value, 1e-6);
                    else if (isOut)
                        Assert.Null(told);
                }
            );

    /// <summary>What lies within the edge is in the picture, what lies beyond it is not.</summary>
    [Fact]
    public void TheEdgeIsWhereThePictureEnds() =>
        Gen.Select(Gen.Double[0, 359], Gen.Double[5, 85])
            .Sample(
                (azimuth, tilt) =>
                {
                    var line = new SightLine(Camera(3, -7, azimuth, tilt), SiteGround.Undrawn, 12.5);
                    var edge = line.Outline();
                    Assert.True(edge.Length >= 4);
                    foreach (var (near, far) in edge.Reverse().Take(edge.Length / 2).Zip(edge))
                    {
                        PlanPoint Between(double share) => At(near.X + (far.X - near.X) * share, near.Y + (far.Y - near.Y) * share);
                        Assert.NotNull(line.PerMetre(Between(0.02).X, Between(0.02).Y, 0));
                        Assert.NotNull(line.PerMetre(Between(0.98).X, Between(0.98).Y, 0));
                        Assert.Null(line.PerMetre(Between(1.02).X, Between(1.02).Y, 0));
                    }
                }
            );

    /// <summary>A wall hides the ground behind it; over a low one the camera looks, and its shadow ends where the line over its top meets
    /// the ground: 4 m high, a wall of 2 m at 6 m, from 6 m to 12 m.</summary>
    [Fact]
    public void AWallHidesWhatIsBehindIt()
    {
        var camera = Camera(0, 0, 0, 20);
        PlanWall Wall(double? high) => new([At(-20, -6), At(20, -6)], high);
        PlanGround Strip(double from, double to) => Yard(Box(-1, -to, 1, -from));
        Assert.Equal(100, Seen(Ground(Strip(7, 11)), camera).SeenPercent);
        Assert.Equal(0, Seen(Ground(Strip(7, 11), Wall(null)), camera).SeenPercent);
        Assert.Equal(0, Seen(Ground(Strip(13, 15), Wall(4.5)), camera).SeenPercent);
        Assert.Equal(0, Seen(Ground(Strip(6.2, 11.8), Wall(2)), camera).SeenPercent);
        Assert.Equal(100, Seen(Ground(Strip(12.2, 15), Wall(2)), camera).SeenPercent);
        Assert.Equal(100, Seen(Ground(Strip(4, 5.8), Wall(null)), camera).SeenPercent);
        // The one that it hangs on is behind it, however the sheet was drawn.
        Assert.Equal(100, Seen(Ground(Strip(7, 11), new PlanWall([At(-20, -0.3), At(20, -0.3)], null)), camera).SeenPercent);
        // Its edge ends at the wall that nobody looks over.
        var walled = Of(Ground(Strip(7, 11), Wall(null)), camera).Outlines[0].Edge;
        Assert.All(walled, p => Assert.True(p.Y >= -6.01));
        Assert.Contains(Of(Ground(Strip(7, 11), Wall(2)), camera).Outlines[0].Edge, p => p.Y < -12);
    }

    /// <summary>Nobody sees it: how much, and where; ground in two pieces is two.</summary>
    [Fact]
    public void GroundThatNobodySeesIsNamed()
    {
        // 40 m long, one camera at each end that looks outward: all between them is dark.
        var yard = Yard(Box(-20, -2, 20, 2));
        var both = Seen(Ground(yard), Camera(-2, 0, 270), Camera(2, 0, 90));
        var hole = Assert.Single(both.Holes);
        Assert.InRange(hole.At.X, -3, 3);
        Assert.Equal(both.SquareMetres * (100 - both.SeenPercent!.Value) / 100, hole.SquareMetres, 1.0);
        Assert.Equal(160, both.SquareMetres, 1);
        // Seen by nobody at all.
        var none = Seen(Ground(yard));
        Assert.Equal((0, 0), (none.SeenPercent, none.AskedPercent));
        Assert.Equal(160, Assert.Single(none.Holes).SquareMetres, 1);
        // A wall across cuts what was one.
        var cut = Seen(Ground(yard, new PlanWall([At(10, -5), At(10, 5)], null)), Camera(2, 0, 90));
        Assert.Equal(2, cut.Holes.Length);
        Assert.True(cut.Holes[0].SquareMetres > cut.Holes[1].SquareMetres);
    }

    /// <summary>Another camera never takes ground away, and a better one raises what is reached.</summary>
    [Fact]
    public void MoreViewsSeeMore() =>
        Gen.Select(Gen.Double[0, 359], Gen.Double[0, 359], Gen.Double[-15, 15])
            .Sample(
                (a, b, x) =>
                {
                    var ground = Ground(Yard(Box(-20, -20, 20, 20), DetailLevel.Observe), new PlanWall([At(5, -9), At(8, 9)], 3));
                    var (one, other) = (Camera(0, 0, a), Camera(x, 3, b, label: "VL-02"));
                    var (alone, together) = (Seen(ground, one), Seen(ground, one, other));
                    Assert.True(together.SeenPercent >= alone.SeenPercent && together.AskedPercent >= alone.AskedPercent);
                    Assert.True(together.AskedPercent <= together.SeenPercent);
                    Assert.Equal(together.SquareMetres, together.Runs.Sum(r => r.Count) * Math.Pow(together.CellMetres, 2), 6);
                },
                iter: 25
            );

    /// <summary>A target is told by its own view, and by who else shows it.</summary>
    [Fact]
    public void TargetsAreToldAcrossViews()
    {
        ViewTarget Gate(double ground, DetailLevel level) => new("Gate", ground, 0, 1.7, level);
        var ground = Ground(Yard(Box(-1, -1, 1, 1)), new PlanWall([At(-9, -5), At(9, -5)], null));
        TargetSeen Told(PlacedView own, params PlacedView[] others) =>
            Of(ground, [own, .. others]).Targets.Single(t => t.DeviceId == own.DeviceId);
        Assert.Equal(TargetSight.Holds, Told(Camera(0, 0, 180, targets: Gate(8, DetailLevel.Recognise))).Sight);
        Assert.Equal(TargetSight.TooCoarse, Told(Camera(0, 0, 180, targets: Gate(15, DetailLevel.Identify))).Sight);
        Assert.Equal(TargetSight.OutOfPicture, Told(Camera(0, 0, 180, targets: Gate(1, DetailLevel.Detect))).Sight);
        // Eight metres to the north stands behind the wall; who hangs on its other side shows it.
        var hidden = Told(Camera(0, 0, 0, targets: Gate(8, DetailLevel.Recognise)), Camera(0, -16, 180, label: "VL-02"));
        Assert.Equal(TargetSight.Hidden, hidden.Sight);
        Assert.Equal(["VL-02"], hidden.By);
        Assert.Equal(-8, hidden.At.Y, 6);
    }

    /// <summary>What cannot be is said with its field, and nothing is worked out of it.</summary>
    [Fact]
    public void WhatCannotBeDrawnIsRefused()
    {
        static string? Field(SiteGround ground) => ground.Refuse()?.Field;
        var yard = Yard(Box(0, 0, 5, 5));
        Assert.Null(Field(Ground(yard, new PlanWall([At(0, 0), At(5, 5)], 2.2))));
        Assert.Null(Field(SiteGround.Undrawn));
        Assert.Equal("grounds", Field(Ground(yard with { Name = " " })));
        Assert.Equal("grounds", Field(Ground(yard with { Corners = [At(0, 0), At(5, 0)] })));
        Assert.Equal("grounds", Field(Ground(yard with { Corners = [At(0, 0), At(5, 0), At(9, 0)] })));
        Assert.Equal("grounds", Field(Ground(yard with { Corners = [At(0, 0), At(5, 0), At(double.NaN, 5)] })));
        Assert.Equal("grounds", Field(Ground(yard with { Level = (DetailLevel)99 })));
        Assert.Equal("grounds", Field(new(default, [], 0)));
        Assert.Equal("grounds", Field(new([null!], [], 0)));
        Assert.Equal("walls", Field(Ground(yard, new PlanWall([At(0, 0)], null))));
        Assert.Equal("walls", Field(Ground(yard, new PlanWall([At(0, 0), At(1, 1)], 0))));
        Assert.Equal("walls", Field(new([], [null!], 0)));
        Assert.Equal("northDeg", Field(SiteGround.Undrawn with { NorthDeg = double.NaN }));
    }

    /// <summary>However great the ground is, it is told in about as many cells.</summary>
    [Fact]
    public void AGreatSiteHasGreaterCells()
    {
        var great = Seen(Ground(Yard(Box(0, 0, 2000, 1500))));
        Assert.InRange(great.CellMetres, 8, 9);
        Assert.Equal(3_000_000, great.SquareMetres, 1e-3);
        Assert.Equal(0.25, Seen(Ground(Yard(Box(0, 0, 10, 10)))).CellMetres);
    }

    /// <summary>A strip that leans over the whole sheet has no more cells than any other; what is narrower than they are, nobody can
    /// tell, and that is not "seen by nobody". Its neighbour keeps its own.</summary>
    [Fact]
    public void AStripThatIsTooNarrowIsNotTold()
    {
        var strip = new PlanGround("Strip", [At(0, 0), At(20_000, 19_999.5), At(20_000, 20_000)], DetailLevel.Detect);
        var told = Of(new([strip, Yard(Box(-1, -7, 1, -5))], [], 0), Camera(0, 0, 0)).Grounds;
        Assert.Equal((null, null), (told[0].SeenPercent, told[0].AskedPercent));
        Assert.Empty(told[0].Runs);
        Assert.Empty(told[0].Holes);
        Assert.Equal((0.4, 100), (told[1].CellMetres, told[1].SeenPercent));
    }

    /// <summary>What is asked for is told by its own figure, also where it is the other edition's word.</summary>
    [Fact]
    public void ALevelOfTheOtherEditionIsToldByItsFigure()
    {
        // 1280 pixels before a lens of 90 degrees: 20 px/m to 64 m, 25 px/m to 51.2 m.
        PlanGround Far(DetailLevel level) => Yard(Box(-1, -62, 1, -60), level);
        var camera = Camera(0, 0, 0, 5);
        Assert.Equal(100, Seen(Ground(Far(DetailLevel.Overview)), camera).AskedPercent);
        Assert.Equal(0, Seen(Ground(Far(DetailLevel.Detect)), camera).AskedPercent);
        var other = SiteCoverage.Of(
            Ground(Far(DetailLevel.Monitor)),
            [camera],
            DetailEdition.Edition2025,
            TestContext.Current.CancellationToken
        );
        Assert.Equal(DetailLevel.Overview, other.Levels[0]);
        Assert.Equal((100, 100), (other.Grounds[0].SeenPercent, other.Grounds[0].AskedPercent));
        Assert.All(other.Grounds[0].Runs, r => Assert.Equal(DetailLevel.Overview, r.Level));
    }

    /// <summary>The view that was agreed last counts, else the one kept last; what a head lacks is told, the first of it.</summary>
    [Fact]
    public void HeadsAreSortedByWhatIsKnownOfThem()
    {
        var design = Camera(0, 0, 90).Design;
        PlannedView Kept(double? azimuth, string? agreedBy = null) =>
            new()
            {
                Id = Guid.CreateVersion7(),
                By = Facts.Ina,
                At = Facts.Start,
                Sequence = 1,
                HeadId = Guid.Empty,
                Design = design with { AzimuthDeg = azimuth },
                AgreedBy = agreedBy,
            };
        HangingHead Head(string label, PlanPoint? at, params PlannedView[] kept) => new(Guid.Empty, label, 1, at, kept);
        var (views, leftOut) = HangingHead.Sorted([
            Head("A", At(1, 2), Kept(10, "Odile Farrow"), Kept(20, "Odile Farrow"), Kept(30)),
            Head("B", At(1, 2), Kept(10), Kept(30)),
            Head("C", null, Kept(10)),
            Head("D", At(1, 2)),
            Head("E", At(1, 2), Kept(10), Kept(null)),
        ]);
        Assert.Equal([("A", 20.0, true), ("B", 30.0, false)], views.Select(v => (v.Label, v.Design.AzimuthDeg!.Value, v.IsAgreed)));
        Assert.Equal([("C", ViewLacks.Place), ("D", ViewLacks.View), ("E", ViewLacks.Bearing)], leftOut.Select(v => (v.Label, v.Lacks)));
    }
}
