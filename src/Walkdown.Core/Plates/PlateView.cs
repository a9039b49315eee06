using Walkdown.Core.Aiming;
using Walkdown.Core.Measures;
using Walkdown.Core.Optics;
using static Walkdown.Core.Measures.Angle;

namespace Walkdown.Core.Plates;

/// <summary>A place on the ground before a camera.</summary>
/// <param name="AlongMetres">Along its axis.</param>
/// <param name="AsideMetres">Beside it, right positive.</param>
public readonly record struct GroundPlace(double AlongMetres, double AsideMetres);

/// <summary>The zone that plates are read in, in a planned view: the camera turned to its middle, the lane three metres wide.</summary>
/// <param name="Seen">What a plate is in the middle of it.</param>
/// <param name="OnGround">Its corners: far left, far right, near right, near left.</param>
/// <param name="InPicture">The same at the height of a plate, in shares of the picture; empty: a part lies behind the camera.</param>
/// <param name="NearPixels">Width of a plate where it leaves the zone.</param>
/// <param name="FarPixels">Width of a plate where it comes into it.</param>
/// <param name="Zone">Whether it is in the picture, and what is to be known of it.</param>
/// <param name="Unlike">Where the reader's own figures are of another view: its field, what they say and what the view says.</param>
public sealed record PlateView(
    PlateSeen Seen,
    ImmutableArray<GroundPlace> OnGround,
    ImmutableArray<PictureShare> InPicture,
    double NearPixels,
    double FarPixels,
    Message Zone,
    ImmutableArray<Message> Unlike
)
{
    private const double HalfLane = 1.5;

    /// <summary>Nobody measures height, distance (metres) and field (degrees) closer than this beside a lane (practice).</summary>
    private const double Height = 0.1,
        Distance = 0.3,
        Field = 0.5;

    /// <summary>All of the zone is in the picture.</summary>
    public bool IsIn => InPicture.Length == 4 && InPicture.All(p => p is { X: >= 0 and <= 1, Y: >= 0 and <= 1 });

    private static IEnumerable<Message> Differences(PlateSetting said, PlateSetting view)
    {
        (string Field, double Said, double View, double Within, int Places, Unit Unit)[] figures =
        [
            ("camera", said.CameraMetres, view.CameraMetres, Height, 2, Unit.Metre),
            ("ahead", said.AheadMetres, view.AheadMetres, Distance, 1, Unit.Metre),
            ("field", said.FieldDeg, view.FieldDeg, Field, 1, Unit.Degree),
            ("pixels", said.PixelsWide, view.PixelsWide, 0, 0, Unit.Pixel),
        ];
        return from f in figures
            where Math.Abs(f.Said - f.View) > f.Within
            select new Message(
                "plates.unlike",
                $"@field.plates.geometry.{f.Field}",
                Message.Number(f.Said, f.Places),
                Message.Number(f.View, f.Places),
                "@unit." + Codes.Of(f.Unit)
            );
    }

    /// <param name="setting">How lane and reader are; the view says height, field and pixels, its first target how far away plates are
    /// read.</param>
    /// <param name="view">As it is planned.</param>
    /// <param name="figure">Of the limit set.</param>
    public static PlateView Of(PlateSetting setting, ViewDesign view, Func<string, double> figure)
    {
        // The lane stays as far aside as it is.
        var ahead = view.Targets.FirstOrDefault() is { } target ? PlateSetting.AheadOf(target, setting.AsideMetres) : setting.AheadMetres;
        var own = setting with
        {
            CameraMetres = view.HeightMetres,
            PixelsWide = view.PixelsWide,
            FieldDeg = view.HorizontalDeg,
            AheadMetres = ahead,
        };
        var (near, far) = (Math.Max(0.1, ahead - own.ZoneMetres / 2), ahead + own.ZoneMetres / 2);
        var turned = Deg(Math.Atan2(own.AsideMetres, ahead));
        (double Along, double Across)[] corners =
        [
            (far, own.AsideMetres - HalfLane),
            (far, own.AsideMetres + HalfLane),
            (near, own.AsideMetres + HalfLane),
            (near, own.AsideMetres - HalfLane),
        ];
        ImmutableArray<GroundPlace> ground =
        [
            .. corners.Select(c => new GroundPlace(
                c.Along * Cos(turned) + c.Across * Sin(turned),
                c.Across * Cos(turned) - c.Along * Sin(turned)
            )),
        ];
        ImmutableArray<PictureShare> seen =
        [
            .. ground.Select(g => view.Seen(g.AlongMetres, g.AsideMetres, own.MountedMetres)).OfType<PictureShare>(),
        ];
        double Pixels(double at) =>
            PlateGeometry
                .Of(own.PixelsWide, own.FieldDeg, own.PlateMetres, own.CameraMetres, own.MountedMetres, at, own.AsideMetres)
                .PlatePixels;
        var (atNear, atFar) = (Pixels(near), Pixels(far));
        var zone = new PlateView(
            own.Seen(figure),
            ground,
            seen.Length == 4 ? seen : [],
            atNear,
            atFar,
            new("plates.zone-in"),
            [.. Differences(setting, own)]
        );
        return zone with
        {
            Zone = new(
                zone.IsIn ? "plates.zone-in" : "plates.zone-outside",
                Message.Number(own.ZoneMetres, 1),
                Message.Number(atFar, 0),
                Message.Number(atNear, 0)
            ),
        };
    }
}
