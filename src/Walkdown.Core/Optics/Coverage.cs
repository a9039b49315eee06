using Walkdown.Core.Measures;

namespace Walkdown.Core.Optics;

/// <summary>What a tilted camera sees of a level plane beneath it (docs/calculations.md, K).</summary>
public static class Coverage
{
    /// <summary>Where the picture's edges meet the plane.</summary>
    /// <param name="LowerEdgeDeg">Lower edge under the horizon, degrees.</param>
    /// <param name="UpperEdgeDeg">Upper edge under the horizon, degrees; negative: above it.</param>
    /// <param name="NearMetres">Along the ground from beneath the camera; negative: behind it; null: the plane is never in view.</param>
    /// <param name="FarMetres">Null: up to the horizon, or never in view.</param>
    /// <param name="BlindMetres">Nothing nearer is seen; null: never in view.</param>
    /// <param name="SeesStraightDown">It sees what is beneath it.</param>
    /// <param name="HorizonInView">The upper edge is at the horizon or above.</param>
    public sealed record Seen(
        double LowerEdgeDeg,
        double UpperEdgeDeg,
        double? NearMetres,
        double? FarMetres,
        double? BlindMetres,
        bool SeesStraightDown,
        bool HorizonInView
    )
    {
        /// <summary>Something of the plane is in the picture.</summary>
        public bool IsInView => LowerEdgeDeg > 0;
    }

    /// <summary>Of a camera at a height, tilted down, with a picture of a height in degrees.</summary>
    /// <param name="cameraMetres">Above the ground, above 0.</param>
    /// <param name="tiltDeg">Under the horizon, -90 to 90.</param>
    /// <param name="verticalDeg">Height of the picture, above 0 and under 180.</param>
    /// <param name="targetMetres">The plane above the ground, at least 0 and under the camera.</param>
    /// <exception cref="BadInputException">Out of these ranges, or the plane at the camera or above.</exception>
    public static Seen Of(double cameraMetres, double tiltDeg, double verticalDeg, double targetMetres = 0)
    {
        Require.Positive(cameraMetres, "camera_height_m");
        Require.Number(tiltDeg, "tilt_deg", -90, 90);
        Require.Positive(verticalDeg, "vertical_fov_deg", Math.BitDecrement(180));
        Require.Number(targetMetres, "target_height_m", 0);
        Require.Consistent(cameraMetres > targetMetres, "target_height_m");
        var (lower, upper, over) = (tiltDeg + verticalDeg / 2, tiltDeg - verticalDeg / 2, cameraMetres - targetMetres);
        if (lower <= 0)
            return new(lower, upper, null, null, null, false, true);
        var down = lower >= 90;
        var near = over / Angle.Tan(lower);
        return new(lower, upper, near, upper <= 0 ? null : over / Angle.Tan(upper), down ? 0 : near, down, upper <= 0);
    }
}
