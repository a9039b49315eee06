using Walkdown.Core.Optics;
using Walkdown.Core.Plates;

namespace Walkdown.Core.Tests;

/// <summary>The zone that plates are read in, in a planned view: on the ground, in the picture, and what a plate is at both its
/// ends.</summary>
public sealed class PlateViewTests
{
    private static readonly PlateSetting Setting = new(0.52, 1.4, 0.5, 7, 2, 1920, 32, 1, 25, 3, 30);

    private static PlateView View(double height = 1.4, double tilt = 5, double field = 60, ViewTarget[]? targets = null, double zone = 3) =>
        PlateView.Of(
            Setting with
            {
                ZoneMetres = zone,
            },
            new(height, tilt, field, 1920, 1080, null, [.. targets ?? []]),
            Facts.Shipped.Figure
        );

    [Fact]
    public void TheZoneLiesAheadOfACameraThatIsTurnedToIt()
    {
        var view = View();
        Assert.True(view.IsIn);
        Assert.Equal("plates.zone-in", view.Zone.Code);
        // Its middle lies on the axis, as far away as the ground says.
        Assert.Equal(double.Hypot(7, 2), view.OnGround.Average(p => p.AlongMetres), 6);
        Assert.Equal(0, view.OnGround.Average(p => p.AsideMetres), 6);
        // Three metres along by three across, however the camera is turned.
        double Side(int a, int b) =>
            double.Hypot(
                view.OnGround[a].AlongMetres - view.OnGround[b].AlongMetres,
                view.OnGround[a].AsideMetres - view.OnGround[b].AsideMetres
            );
        Assert.All(new[] { Side(0, 1), Side(1, 2), Side(2, 3), Side(3, 0) }, s => Assert.Equal(3, s, 6));
        // A plate grows as it comes.
        Assert.True(view.NearPixels > view.Seen.Geometry.PlatePixels && view.Seen.Geometry.PlatePixels > view.FarPixels);
        // In the picture the far side lies higher and is shorter.
        Assert.True(view.InPicture[0].Y < view.InPicture[3].Y);
        Assert.True(view.InPicture[1].X - view.InPicture[0].X < view.InPicture[2].X - view.InPicture[3].X);
    }

    [Theory]
    [InlineData(1.4, 5, 20)]
    [InlineData(1.4, 40, 60)]
    [InlineData(1.4, -60, 60)]
    public void AZoneThatIsNotInThePictureIsToldSo(double height, double tilt, double field)
    {
        var view = View(height, tilt, field);
        Assert.False(view.IsIn);
        Assert.Equal("plates.zone-outside", view.Zone.Code);
    }

    /// <summary>Upwards, or from straight above, a part of it lies behind the camera: there is nothing to draw.</summary>
    [Fact]
    public void WhatLiesBehindIsNotDrawn()
    {
        var view = View(tilt: -89, zone: 13);
        Assert.Empty(view.InPicture);
        Assert.False(view.IsIn);
        Assert.All(view.OnGround, p => Assert.True(double.IsFinite(p.AlongMetres) && double.IsFinite(p.AsideMetres)));
    }

    /// <summary>The view's first target says how far away plates are read; the lane stays as far aside, and a nearer one is read
    /// beside.</summary>
    [Fact]
    public void TheFirstTargetSaysHowFarAway()
    {
        ViewTarget At(double ground) => new("Barrier", ground, 0, 0.5, DetailLevel.Identify);
        var far = View(targets: [At(12)]);
        Assert.Equal(12, far.OnGround.Average(p => p.AlongMetres), 6);
        Assert.True(far.Seen.Geometry.PlatePixels < View().Seen.Geometry.PlatePixels);
        var beside = View(targets: [At(1)]);
        Assert.True(beside.Seen.Geometry.IsAngleHigh);
        Assert.True(double.IsFinite(beside.NearPixels));
    }

    /// <summary>Height, field and pixels are the view's: what is typed there is what a plate is by.</summary>
    [Fact]
    public void TheViewsFiguresCount()
    {
        var (low, high) = (View(height: 1.4), View(height: 6));
        Assert.True(high.Seen.Geometry.VerticalDeg > low.Seen.Geometry.VerticalDeg);
        Assert.Equal(2, View(field: 30).Seen.Geometry.PlatePixels / View(field: 60).Seen.Geometry.PlatePixels, 0.2);
    }

    /// <summary>What was said of the reader and what is planned may be of two times: each figure that differs is told, and no more than
    /// that.</summary>
    [Theory]
    [InlineData(1.4, 32, null, "")]
    [InlineData(1.48, 32.4, 7.4, "")]
    [InlineData(1.4, 34, null, "field 32 34 @unit.degree")]
    [InlineData(2.1, 30, 12.0, "camera 1.4 2.1 @unit.metre,ahead 7 11.8 @unit.metre,field 32 30 @unit.degree")]
    public void FiguresOfAnotherViewAreTold(double height, double field, double? target, string told)
    {
        var view = View(height, field: field, targets: target is { } away ? [new("Barrier", away, 0, 0.5, DetailLevel.Identify)] : []);
        Assert.All(view.Unlike, m => Assert.Equal("plates.unlike", m.Code));
        Assert.Equal(told, string.Join(',', view.Unlike.Select(m => string.Join(' ', m.Args).Replace("@field.plates.geometry.", ""))));
    }
}
