using Walkdown.Core.Measures;

namespace Walkdown.Core.Optics;

/// <summary>Something that a view must show: a person at a gate, a board, a kerb.</summary>
/// <param name="Name">What it is.</param>
/// <param name="GroundMetres">Along the ground from beneath the camera.</param>
/// <param name="AsideMetres">Beside the camera's axis, right positive.</param>
/// <param name="HeightMetres">Its top above the ground; detail is asked for there.</param>
/// <param name="Level">What must be possible with it.</param>
public sealed record ViewTarget(string Name, double GroundMetres, double AsideMetres, double HeightMetres, DetailLevel Level);

/// <summary>A view as it is planned: where the camera is, how it looks, and at what.</summary>
/// <param name="HeightMetres">Of the lens above the ground that it looks at.</param>
/// <param name="TiltDeg">Under the horizon.</param>
/// <param name="HorizontalDeg">Its field across.</param>
/// <param name="PixelsWide">Of its picture.</param>
/// <param name="PixelsHigh">Of its picture.</param>
/// <param name="AzimuthDeg">Where it looks, from north clockwise; null: not said.</param>
/// <param name="Targets">What it must show; the first is the one that the Card measures.</param>
/// <param name="NearMetres">The ground must be in view from here on; null: not asked for.</param>
/// <param name="Use">One of <see cref="Aiming.MountingRule.Purposes"/>; null: none of them.</param>
/// <param name="Focus">What must be sharp by the lens; null: not said.</param>
/// <param name="InfraredMetres">As far as its built-in light reaches; null: none, or not known.</param>
public sealed record ViewDesign(
    double HeightMetres,
    double TiltDeg,
    double HorizontalDeg,
    int PixelsWide,
    int PixelsHigh,
    double? AzimuthDeg,
    ImmutableArray<ViewTarget> Targets,
    double? NearMetres = null,
    string? Use = null,
    ViewFocus? Focus = null,
    double? InfraredMetres = null
)
{
    /// <summary>More targets than anybody looks at.</summary>
    public const int MostTargets = 12;

    /// <summary>Most characters of a target's name.</summary>
    public const int MostName = 60;

    /// <summary>Height of its field: square pixels.</summary>
    public double VerticalDeg => 2 * Angle.Deg(Math.Atan(Angle.Tan(HorizontalDeg / 2) * PixelsHigh / PixelsWide));

    /// <summary>Focal length in pixels of its picture.</summary>
    internal double FocalPixels => Pinhole.FocalPixels(PixelsWide, HorizontalDeg);

    /// <summary>How deep a point lies before it, metres.</summary>
    internal double DepthMetres(double groundMetres, double heightMetres) =>
        Pinhole.DepthMetres(groundMetres, HeightMetres - heightMetres, TiltDeg);

    /// <summary>Where a point lies in its picture; null: beside or behind the lens.</summary>
    /// <param name="alongMetres">Along its axis, on the ground.</param>
    /// <param name="asideMetres">Beside it, right positive.</param>
    /// <param name="heightMetres">Above the ground.</param>
    /// <param name="bend">How far its lens bends lines at the left and right edge, as a share of the half width; 0: none.</param>
    internal Aiming.PictureShare? Seen(double alongMetres, double asideMetres, double heightMetres, double bend = 0)
    {
        var depth = DepthMetres(alongMetres, heightMetres);
        if (depth < 0.05)
            return null;
        var down = (HeightMetres - heightMetres) * Angle.Cos(TiltDeg) - alongMetres * Angle.Sin(TiltDeg);
        var lens = Pictures.Lens.Of(PixelsWide, HorizontalDeg, bend);
        return lens.Bent(asideMetres / depth * lens.Focal, down / depth * lens.Focal) is var (x, y)
            ? new(0.5 + x / PixelsWide, 0.5 + y / PixelsHigh)
            : null;
    }

    /// <summary>Why it cannot be, and which figure; null where it can.</summary>
    public (Message Why, string Field)? Refuse()
    {
        (Message, string)? Outside(string field, double least, double most) =>
            (new("view.outside", "@view.field." + field, Message.Number(least), Message.Number(most)), field);
        if (!(HeightMetres is > 0 and <= 200))
            return Outside("heightMetres", 0.1, 200);
        if (!(TiltDeg is >= -90 and <= 90))
            return Outside("tiltDeg", -90, 90);
        if (!(HorizontalDeg is >= 0.5 and <= 170))
            return Outside("horizontalDeg", 0.5, 170);
        if (PixelsWide is < 16 or > 20_000)
            return Outside("pixelsWide", 16, 20_000);
        if (PixelsHigh is < 16 or > 20_000)
            return Outside("pixelsHigh", 16, 20_000);
        if (AzimuthDeg is { } azimuth && !(azimuth is >= 0 and <= 360))
            return Outside("azimuthDeg", 0, 360);
        if (NearMetres is { } near && !(near is >= 0 and <= 2000))
            return Outside("nearMetres", 0, 2000);
        if (InfraredMetres is { } reach && !(reach is > 0 and <= 2000))
            return Outside("infraredMetres", 0.1, 2000);
        if (Use is not null && !Aiming.MountingRule.Purposes.Contains(Use))
            return (new("view.unknown-use", Message.Said(Use)), "use");
        if (Focus is { } focus)
        {
            if (!(focus.FocalMm is >= 0.5 and <= 2000))
                return Outside("focalMm", 0.5, 2000);
            if (!(focus.FNumber is >= 0.5 and <= 64))
                return Outside("fNumber", 0.5, 64);
            if (!(focus.FocusMetres is >= 0.1 and <= 2000) || focus.FocusMetres <= focus.FocalMm / 1000)
                return Outside("focusMetres", 0.1, 2000);
            if (!(focus.PixelMicrons is >= 0.3 and <= 100))
                return Outside("pixelMicrons", 0.3, 100);
        }
        if (Targets.IsDefault || Targets.Length > MostTargets)
            return (new("view.too-many-targets", Message.Number(MostTargets)), "targets");
        foreach (var target in Targets)
        {
            if (string.IsNullOrWhiteSpace(target?.Name) || target.Name.Length > MostName)
                return (new("view.target-name", Message.Number(MostName)), "targets");
            if (!(target.GroundMetres is >= 0 and <= 2000))
                return Outside("groundMetres", 0, 2000);
            if (!(Math.Abs(target.AsideMetres) <= 2000))
                return Outside("asideMetres", -2000, 2000);
            if (!(target.HeightMetres is >= 0 and <= 100))
                return Outside("targetHeight", 0, 100);
            if (target.GroundMetres <= 0 && target.HeightMetres == HeightMetres)
                return (new("view.target-in-camera", Message.Said(target.Name)), "targets");
        }
        return null;
    }
}

/// <summary>A lens and where it is focused.</summary>
/// <param name="FocalMm">Focal length.</param>
/// <param name="FNumber">Its stop, by night the widest.</param>
/// <param name="FocusMetres">Focused here.</param>
/// <param name="PixelMicrons">One pixel's pitch: a point may be so wide.</param>
public sealed record ViewFocus(double FocalMm, double FNumber, double FocusMetres, double PixelMicrons);
