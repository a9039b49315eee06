using Walkdown.Core.Measures;
using static Walkdown.Core.Measures.Angle;

namespace Walkdown.Core.Optics;

/// <summary>Pixels to a metre on a target at a distance along the ground (docs/calculations.md, K).</summary>
/// <param name="SlantMetres">From lens to target.</param>
/// <param name="PerMetre">Square to the line of sight, the camera aimed at the target.</param>
/// <param name="PerMetreByGround">If the height is forgotten; null: the target is beneath the camera.</param>
/// <param name="LookDownDeg">Down to the target; negative: it is above the camera.</param>
/// <param name="PerMetreTilted">Across, of a camera at its own tilt; null: none was given, or the target is behind.</param>
/// <param name="PerMetreUpright">Up and down, on a target that stands.</param>
public sealed record PixelDensity(
    double SlantMetres,
    double PerMetre,
    double? PerMetreByGround,
    double LookDownDeg,
    double? PerMetreTilted,
    double PerMetreUpright
)
{
    /// <param name="pixelsWide">Of the picture, at least 1.</param>
    /// <param name="horizontalDeg">Its field, above 0 and under 180.</param>
    /// <param name="cameraMetres">Above the ground, at least 0.</param>
    /// <param name="targetMetres">What is looked at, above the ground, at least 0.</param>
    /// <param name="groundMetres">Along the ground, at least 0.</param>
    /// <param name="tiltDeg">Under the horizon, -90 to 90; null: aimed at the target.</param>
    /// <exception cref="BadInputException">Out of these ranges, or the target in the camera.</exception>
    public static PixelDensity At(
        int pixelsWide,
        double horizontalDeg,
        double cameraMetres,
        double targetMetres,
        double groundMetres,
        double? tiltDeg = null
    )
    {
        var focal = Pinhole.FocalPixels(pixelsWide, horizontalDeg);
        Require.Number(cameraMetres, "camera_height_m", 0);
        Require.Number(targetMetres, "target_height_m", 0);
        Require.Number(groundMetres, "ground_distance_m", 0);
        if (tiltDeg is { } given)
            Require.Number(given, "tilt_deg", -90, 90);
        var over = cameraMetres - targetMetres;
        var slant = Math.Sqrt(groundMetres * groundMetres + over * over);
        Require.Consistent(slant > 0, "ground_distance_m");
        var depth = tiltDeg is { } tilt ? Pinhole.DepthMetres(groundMetres, over, tilt) : 0;
        return new(
            slant,
            focal / slant,
            groundMetres > 0 ? focal / groundMetres : null,
            Deg(Math.Atan2(over, groundMetres)),
            depth > 0 ? focal / depth : null,
            focal / slant * groundMetres / slant
        );
    }

    /// <summary>As far as a density holds: along the line of sight, and along the ground (null: under the difference in height it
    /// holds nowhere).</summary>
    /// <param name="pixelsWide">Of the picture, at least 1.</param>
    /// <param name="horizontalDeg">Its field, above 0 and under 180.</param>
    /// <param name="cameraMetres">Above the ground, at least 0.</param>
    /// <param name="targetMetres">What is looked at, at least 0.</param>
    /// <param name="perMetre">Asked for, above 0.</param>
    public static (double SlantMetres, double? GroundMetres) HoldsTo(
        int pixelsWide,
        double horizontalDeg,
        double cameraMetres,
        double targetMetres,
        double perMetre
    )
    {
        Require.Number(cameraMetres, "camera_height_m", 0);
        Require.Number(targetMetres, "target_height_m", 0);
        var slant = Pinhole.FocalPixels(pixelsWide, horizontalDeg) / Require.Positive(perMetre, "pixels_per_m");
        var over = Math.Abs(cameraMetres - targetMetres);
        return (slant, slant < over ? null : Math.Sqrt(slant * slant - over * over));
    }

    /// <summary>How much of the picture a target fills: its pixels, and percent of the picture's height. The old percent figures assume
    /// about 400 lines and 1.64 m.</summary>
    /// <param name="perMetre">At least 0.</param>
    /// <param name="targetMetres">How high it is, above 0.</param>
    /// <param name="pixelsHigh">Of the picture, at least 1.</param>
    public static (double Pixels, double Percent) OnScreen(double perMetre, double targetMetres, int pixelsHigh)
    {
        Require.Number(perMetre, "pixels_per_m", 0);
        Require.Positive(targetMetres, "target_height_m");
        Require.Number(pixelsHigh, "picture_height_px", 1);
        var pixels = perMetre * targetMetres;
        return (pixels, 100 * pixels / pixelsHigh);
    }
}
