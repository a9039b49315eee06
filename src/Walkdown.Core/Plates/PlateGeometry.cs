using Walkdown.Core.Measures;
using Walkdown.Core.Optics;
using static Walkdown.Core.Measures.Angle;

namespace Walkdown.Core.Plates;

/// <summary>How a camera meets the plate of a vehicle that comes towards it, square to its travel (docs/calculations.md, O). The reader's
/// own data sheet overrules the limits.</summary>
/// <param name="SlantMetres">From lens to plate.</param>
/// <param name="HorizontalDeg">Off to the side, never negative.</param>
/// <param name="VerticalDeg">From above; negative: from below.</param>
/// <param name="CombinedDeg">Of both.</param>
/// <param name="PixelsPerMetre">At the plate.</param>
/// <param name="PlatePixels">Its width in the picture.</param>
/// <param name="IsAngleHigh">More than allowed.</param>
/// <param name="IsPlateSmall">Fewer pixels than needed.</param>
public sealed record PlateGeometry(
    double SlantMetres,
    double HorizontalDeg,
    double VerticalDeg,
    double CombinedDeg,
    double PixelsPerMetre,
    double PlatePixels,
    bool IsAngleHigh,
    bool IsPlateSmall
)
{
    /// <param name="pixelsWide">Of the picture, at least 1.</param>
    /// <param name="horizontalDeg">Its field, above 0 and under 180.</param>
    /// <param name="plateMetres">Width of a plate, above 0.</param>
    /// <param name="cameraMetres">Above the ground, at least 0.</param>
    /// <param name="heightMetres">Of the plate, at least 0.</param>
    /// <param name="groundMetres">Along the travel, above 0.</param>
    /// <param name="lateralMetres">Beside it, either way.</param>
    /// <param name="mostDeg">Allowed.</param>
    /// <param name="leastPixels">Needed.</param>
    public static PlateGeometry Of(
        int pixelsWide,
        double horizontalDeg,
        double plateMetres,
        double cameraMetres,
        double heightMetres,
        double groundMetres,
        double lateralMetres,
        double mostDeg = 30,
        double leastPixels = 130
    )
    {
        var focal = Pinhole.FocalPixels(pixelsWide, horizontalDeg);
        Require.Positive(plateMetres, "plate_width_m");
        Require.Number(cameraMetres, "camera_height_m", 0);
        Require.Number(heightMetres, "plate_height_m", 0);
        Require.Positive(groundMetres, "ground_distance_m");
        Require.Number(lateralMetres, "lateral_offset_m");
        Require.Number(mostDeg, "max_combined_deg");
        Require.Number(leastPixels, "min_plate_px");
        var aside = double.Hypot(groundMetres, lateralMetres);
        var slant = double.Hypot(aside, cameraMetres - heightMetres);
        var horizontal = Deg(Math.Atan(Math.Abs(lateralMetres) / groundMetres));
        var combined = Deg(Math.Acos(Math.Min(1, groundMetres / slant)));
        var pixels = focal * plateMetres * Cos(horizontal) / slant;
        return new(
            slant,
            horizontal,
            Deg(Math.Atan((cameraMetres - heightMetres) / aside)),
            combined,
            focal / slant,
            pixels,
            combined > mostDeg + 1e-9 * Math.Max(1, Math.Abs(mostDeg)),
            pixels < leastPixels - 1e-9 * Math.Max(1, Math.Abs(leastPixels))
        );
    }
}

/// <summary>How far a moving plate smears while the shutter is open.</summary>
/// <param name="Pixels">So far.</param>
/// <param name="LongestSeconds">Exposure that just holds the limit; null: none from this side.</param>
/// <param name="IsWithin">The limit holds.</param>
public sealed record MotionBlur(double Pixels, double? LongestSeconds, bool IsWithin)
{
    /// <param name="pixelsPerMetre">At the plate, above 0.</param>
    /// <param name="kmPerHour">The fastest expected, not what is posted; at least 0.</param>
    /// <param name="exposureSeconds">Above 0.</param>
    /// <param name="angleDeg">Between travel and line of sight, 0 to 180.</param>
    /// <param name="mostPixels">Allowed, above 0.</param>
    public static MotionBlur Of(double pixelsPerMetre, double kmPerHour, double exposureSeconds, double angleDeg, double mostPixels)
    {
        Require.Positive(pixelsPerMetre, "pixels_per_m");
        Require.Number(kmPerHour, "speed_kmh", 0);
        Require.Positive(exposureSeconds, "exposure_s");
        Require.Number(angleDeg, "angle_deg", 0, 180);
        Require.Positive(mostPixels, "max_blur_px");
        var perSecond = pixelsPerMetre * kmPerHour / 3.6 * Sin(angleDeg);
        var blur = perSecond * exposureSeconds;
        return new(blur, perSecond < 1e-9 ? null : mostPixels / perSecond, blur <= mostPixels + 1e-9 * Math.Max(1, mostPixels));
    }
}

/// <summary>Frames that show a vehicle while it crosses a zone.</summary>
/// <param name="Seconds">It is in it.</param>
/// <param name="AtLeast">Frames.</param>
/// <param name="AtMost">Frames.</param>
/// <param name="HighestKmPerHour">At which there still are as many as wanted.</param>
/// <param name="IsEnough">There are, in any case.</param>
public sealed record FramesInZone(double Seconds, int AtLeast, int AtMost, double HighestKmPerHour, bool IsEnough)
{
    /// <param name="zoneMetres">Above 0.</param>
    /// <param name="kmPerHour">Above 0.</param>
    /// <param name="framesPerSecond">Above 0.</param>
    /// <param name="wanted">At least 1.</param>
    public static FramesInZone Of(double zoneMetres, double kmPerHour, double framesPerSecond, int wanted = 3)
    {
        Require.Positive(zoneMetres, "zone_length_m");
        Require.Positive(kmPerHour, "speed_kmh");
        Require.Positive(framesPerSecond, "frames_per_s");
        Require.Number(wanted, "wanted_frames", 1);
        var seconds = zoneMetres / (kmPerHour / 3.6);
        var n = seconds * framesPerSecond;
        Require.Number(n, "frames_per_s", 0, int.MaxValue - 1);
        var least = (int)(Math.Abs(n - Math.Round(n)) <= 1e-9 * Math.Max(1, n) ? Math.Round(n) : Math.Floor(n));
        return new(seconds, least, least + 1, 3.6 * zoneMetres * framesPerSecond / wanted, least >= wanted);
    }
}
