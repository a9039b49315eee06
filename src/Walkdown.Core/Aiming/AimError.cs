using Walkdown.Core.Measures;
using Walkdown.Core.Optics;
using static Walkdown.Core.Measures.Angle;

namespace Walkdown.Core.Aiming;

/// <summary>How a camera must turn so that a point of its picture comes to the middle (docs/calculations.md, L). Right and down are
/// positive.</summary>
/// <param name="SimplePanDeg">As the picture suggests.</param>
/// <param name="SimpleTiltDeg">As the picture suggests.</param>
/// <param name="PanDeg">As the bracket must turn: of a camera that looks down, further than the picture suggests.</param>
/// <param name="TiltDeg">As the bracket must turn.</param>
/// <param name="OffAxisDeg">From the axis to the point.</param>
/// <param name="PanPercent">Of the field of view, never negative.</param>
/// <param name="TiltPercent">Of the field of view, never negative.</param>
/// <param name="IsWithin">Both are within the tolerance.</param>
public sealed record AimError(
    double SimplePanDeg,
    double SimpleTiltDeg,
    double PanDeg,
    double TiltDeg,
    double OffAxisDeg,
    double PanPercent,
    double TiltPercent,
    bool IsWithin
)
{
    /// <param name="pixelsWide">Of the picture, at least 1.</param>
    /// <param name="pixelsHigh">Of the picture, at least 1.</param>
    /// <param name="horizontalDeg">Its field, above 0 and under 180.</param>
    /// <param name="wantedX">The point, pixels from the left; it may lie outside.</param>
    /// <param name="wantedY">The point, pixels from the top.</param>
    /// <param name="tiltDeg">The camera looks down by so much, -90 to 90.</param>
    /// <param name="verticalDeg">Height of the field, above 0 and under 180; null: square pixels.</param>
    /// <param name="tolerancePercent">Of the field each way, above 0 (practice: 5).</param>
    public static AimError Of(
        int pixelsWide,
        int pixelsHigh,
        double horizontalDeg,
        double wantedX,
        double wantedY,
        double tiltDeg = 0,
        double? verticalDeg = null,
        double tolerancePercent = 5
    )
    {
        var focalX = Pinhole.FocalPixels(pixelsWide, horizontalDeg);
        Require.Number(pixelsHigh, "pixels_high", 1);
        Require.Number(tiltDeg, "camera_tilt_deg", -90, 90);
        Require.Positive(tolerancePercent, "tolerance_percent");
        var focalY = verticalDeg is { } tall
            ? pixelsHigh / 2.0 / Tan(Require.Positive(tall, "vertical_fov_deg", Math.BitDecrement(180)) / 2)
            : focalX;
        var x = (Require.Number(wantedX, "wanted_x_px") - pixelsWide / 2.0) / focalX;
        var y = (Require.Number(wantedY, "wanted_y_px") - pixelsHigh / 2.0) / focalY;
        var (level, down) = (Cos(tiltDeg) - y * Sin(tiltDeg), Sin(tiltDeg) + y * Cos(tiltDeg));
        var (pan, tilt) = (Deg(Math.Atan(x)), Deg(Math.Atan(y)));
        var (byPan, byTilt) = (100 * Math.Abs(pan) / horizontalDeg, 100 * Math.Abs(tilt) / Deg(2 * Math.Atan(pixelsHigh / 2.0 / focalY)));
        return new(
            pan,
            tilt,
            Deg(Math.Atan2(x, level)),
            Deg(Math.Atan2(down, double.Hypot(x, level))) - tiltDeg,
            Deg(Math.Atan(double.Hypot(x, y))),
            byPan,
            byTilt,
            byPan <= tolerancePercent + 1e-9 && byTilt <= tolerancePercent + 1e-9
        );
    }
}
