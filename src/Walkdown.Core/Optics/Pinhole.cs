using Walkdown.Core.Measures;
using static Walkdown.Core.Measures.Angle;

namespace Walkdown.Core.Optics;

/// <summary>A lens as a pinhole before its sensor (docs/calculations.md, K). Wide lenses that bend lines are none: above about 90
/// degrees measure with a target.</summary>
public static class Pinhole
{
    /// <summary>A field of view, degrees.</summary>
    /// <param name="HorizontalDeg">Across.</param>
    /// <param name="VerticalDeg">Up and down.</param>
    /// <param name="DiagonalDeg">Corner to corner.</param>
    public sealed record Field(double HorizontalDeg, double VerticalDeg, double DiagonalDeg);

    /// <summary>What is sharp around a distance of focus, metres.</summary>
    /// <param name="HyperfocalMetres">Focus here and all behind it is sharp.</param>
    /// <param name="NearMetres">From here.</param>
    /// <param name="FarMetres">To here; null: to the horizon.</param>
    public sealed record Sharp(double HyperfocalMetres, double NearMetres, double? FarMetres)
    {
        /// <summary>How deep; null: without end.</summary>
        public double? DepthMetres => FarMetres - NearMetres;
    }

    /// <summary>The field of view of a focal length.</summary>
    /// <param name="focalMm">Above 0.</param>
    /// <param name="sensorWideMm">Above 0.</param>
    /// <param name="sensorHighMm">Above 0.</param>
    public static Field FieldOf(double focalMm, double sensorWideMm, double sensorHighMm)
    {
        Require.Positive(focalMm, "focal_length_mm");
        Require.Positive(sensorWideMm, "sensor_width_mm");
        Require.Positive(sensorHighMm, "sensor_height_mm");
        double Across(double mm) => Deg(2 * Math.Atan(mm / (2 * focalMm)));
        return new(
            Across(sensorWideMm),
            Across(sensorHighMm),
            Across(Math.Sqrt(sensorWideMm * sensorWideMm + sensorHighMm * sensorHighMm))
        );
    }

    /// <summary>Metres that the picture shows across at a distance.</summary>
    /// <param name="focalMm">Above 0.</param>
    /// <param name="sensorWideMm">Above 0.</param>
    /// <param name="distanceMetres">At least 0.</param>
    public static double SceneWideMetres(double focalMm, double sensorWideMm, double distanceMetres) =>
        Require.Positive(sensorWideMm, "sensor_width_mm")
        * Require.Number(distanceMetres, "distance_m", 0)
        / Require.Positive(focalMm, "focal_length_mm");

    /// <summary>The focal length that shows a width at a distance, millimetres.</summary>
    /// <param name="sceneWideMetres">Above 0.</param>
    /// <param name="sensorWideMm">Above 0.</param>
    /// <param name="distanceMetres">Above 0.</param>
    public static double FocalMmFor(double sceneWideMetres, double sensorWideMm, double distanceMetres) =>
        Require.Positive(sensorWideMm, "sensor_width_mm")
        * Require.Positive(distanceMetres, "distance_m")
        / Require.Positive(sceneWideMetres, "scene_width_m");

    /// <summary>What is sharp when focus is at a distance.</summary>
    /// <param name="focalMm">Above 0.</param>
    /// <param name="fNumber">Above 0.</param>
    /// <param name="focusMetres">Further than the focal length.</param>
    /// <param name="confusionMicrons">A point may be so wide: one pixel's pitch, which is sharper than photographers' tables.</param>
    public static Sharp SharpAround(double focalMm, double fNumber, double focusMetres, double confusionMicrons)
    {
        Require.Positive(focalMm, "focal_length_mm");
        Require.Positive(fNumber, "f_number");
        Require.Positive(focusMetres, "focus_distance_m");
        Require.Positive(confusionMicrons, "circle_of_confusion_um");
        var (f, s) = (focalMm / 1000, focusMetres);
        Require.Consistent(s > f, "focus_distance_m");
        var hyperfocal = f * f / (fNumber * confusionMicrons * 1e-6) + f;
        return new(
            hyperfocal,
            s * (hyperfocal - f) / (hyperfocal + s - 2 * f),
            s >= hyperfocal ? null : s * (hyperfocal - f) / (hyperfocal - s)
        );
    }

    /// <summary>Focal length in pixels of a picture: of its width and its field.</summary>
    /// <param name="pixelsWide">At least 1.</param>
    /// <param name="horizontalDeg">Above 0, under 180.</param>
    public static double FocalPixels(int pixelsWide, double horizontalDeg)
    {
        Require.Number(pixelsWide, "pixels_wide", 1);
        Require.Positive(horizontalDeg, "horizontal_fov_deg", Math.BitDecrement(180));
        return pixelsWide / 2.0 / Tan(horizontalDeg / 2);
    }

    /// <summary>How deep a point lies before a tilted camera, along its axis, metres; negative: behind it. What counts for detail across
    /// is this, not how far the point is.</summary>
    /// <param name="groundMetres">Along the ground.</param>
    /// <param name="overMetres">The camera is above the point by so much.</param>
    /// <param name="tiltDeg">Under the horizon.</param>
    internal static double DepthMetres(double groundMetres, double overMetres, double tiltDeg) =>
        groundMetres * Cos(tiltDeg) + overMetres * Sin(tiltDeg);
}
