using Walkdown.Core.Clocks;
using Walkdown.Core.Measures;
using static Walkdown.Core.Measures.Angle;

namespace Walkdown.Core.Aiming;

/// <summary>A camera as the sun meets it.</summary>
/// <param name="AzimuthDeg">Where it looks, from north clockwise, 0 to 360.</param>
/// <param name="TiltDeg">Under the horizon, -90 to 90.</param>
/// <param name="HorizontalDeg">Its field, above 0 and under 180.</param>
/// <param name="VerticalDeg">Its field, above 0 and under 180.</param>
/// <param name="GuardDeg">So far beside the picture the sun still dazzles, 0 to 90 (practice: 10).</param>
/// <param name="LeastElevationDeg">Lower than this it stands behind roofs or hills.</param>
public sealed record SunlitView(
    double AzimuthDeg,
    double TiltDeg,
    double HorizontalDeg,
    double VerticalDeg,
    double GuardDeg = 10,
    double LeastElevationDeg = 0
)
{
    /// <summary>The same, when every figure is one that a camera can have.</summary>
    /// <exception cref="BadInputException">One is not.</exception>
    internal SunlitView Checked()
    {
        Require.Number(AzimuthDeg, "camera_azimuth_deg", 0, 360);
        Require.Number(TiltDeg, "tilt_deg", -90, 90);
        Require.Positive(HorizontalDeg, "horizontal_fov_deg", Math.BitDecrement(180));
        Require.Positive(VerticalDeg, "vertical_fov_deg", Math.BitDecrement(180));
        Require.Number(GuardDeg, "guard_deg", 0, 90);
        Require.Number(LeastElevationDeg, "minimum_sun_elevation_deg");
        return this;
    }
}

/// <summary>Where the sun stands to a camera's axis (docs/calculations.md, M).</summary>
/// <param name="AzimuthDeg">Of the sun, from north clockwise.</param>
/// <param name="ElevationDeg">Of the sun, with refraction.</param>
/// <param name="RightDeg">Right of the axis; null: it is not before the camera.</param>
/// <param name="AboveDeg">Above the axis; null: it is not before the camera.</param>
/// <param name="OffAxisDeg">Between axis and sun, 0 to 180.</param>
/// <param name="IsInView">In the picture.</param>
/// <param name="IsInGuard">In the picture or so near that it dazzles.</param>
public sealed record SunInView(
    double AzimuthDeg,
    double ElevationDeg,
    double? RightDeg,
    double? AboveDeg,
    double OffAxisDeg,
    bool IsInView,
    bool IsInGuard
)
{
    /// <param name="latitudeDeg">-90 to 90.</param>
    /// <param name="longitudeDeg">East positive, -180 to 180.</param>
    /// <param name="moment">1901 to 2099.</param>
    /// <param name="view">Of the camera.</param>
    public static SunInView At(double latitudeDeg, double longitudeDeg, DateTimeOffset moment, SunlitView view) =>
        Of(Sun.At(latitudeDeg, longitudeDeg, moment), view.Checked());

    /// <summary>Of a sun that is known, to a camera that was looked at.</summary>
    internal static SunInView Of(Sun.Place sun, SunlitView view)
    {
        var elevation = sun.ApparentElevationDeg;
        var along = Cos(elevation) * Cos(sun.AzimuthDeg - view.AzimuthDeg);
        var right = Cos(elevation) * Sin(sun.AzimuthDeg - view.AzimuthDeg);
        var up = Sin(elevation);
        var forward = along * Cos(view.TiltDeg) - up * Sin(view.TiltDeg);
        var above = along * Sin(view.TiltDeg) + up * Cos(view.TiltDeg);
        var off = Deg(Math.Acos(Math.Clamp(forward, -1, 1)));
        if (forward <= 0)
            return new(sun.AzimuthDeg, elevation, null, null, off, false, false);
        var (x, y) = (Deg(Math.Atan2(right, forward)), Deg(Math.Atan2(above, forward)));
        var isUp = elevation >= view.LeastElevationDeg - 1e-9;
        bool Within(double guard) =>
            isUp && Math.Abs(x) <= view.HorizontalDeg / 2 + guard + 1e-9 && Math.Abs(y) <= view.VerticalDeg / 2 + guard + 1e-9;
        return new(sun.AzimuthDeg, elevation, x, y, off, Within(0), Within(view.GuardDeg));
    }
}
