using Walkdown.Core.Measures;
using static Walkdown.Core.Measures.Angle;

namespace Walkdown.Core.Optics;

/// <summary>Pixels to a metre as a target of known length shows them between two touched points (docs/calculations.md, K).</summary>
/// <param name="LengthPixels">Between the points.</param>
/// <param name="PerMetre">What they say.</param>
/// <param name="WorstCase">So far it may be off either way: each coordinate half a pixel, and the target's length.</param>
/// <param name="Expanded">The same, k = 2.</param>
/// <param name="IsTooShort">Under <see cref="Least"/> pixels: not to be trusted.</param>
public sealed record MeasuredDensity(double LengthPixels, double PerMetre, double WorstCase, double Expanded, bool IsTooShort)
{
    /// <summary>Shorter targets are too short, pixels.</summary>
    public const double Least = 20;

    /// <param name="x1">First point, pixels.</param>
    /// <param name="y1">First point, pixels.</param>
    /// <param name="x2">Second point, pixels.</param>
    /// <param name="y2">Second point, pixels.</param>
    /// <param name="lengthMetres">Between them on the target, above 0.</param>
    /// <param name="offMetres">That length may be off by so much, at least 0.</param>
    /// <param name="turnDeg">The target is turned away from square by so much, -89 to 89.</param>
    /// <exception cref="BadInputException">Out of these ranges, or one point twice.</exception>
    public static MeasuredDensity Of(
        double x1,
        double y1,
        double x2,
        double y2,
        double lengthMetres,
        double offMetres = 0,
        double turnDeg = 0
    )
    {
        var touched = TouchedLine.Of(x1, y1, x2, y2);
        Require.Positive(lengthMetres, "target_length_m");
        Require.Number(offMetres, "target_length_uncertainty_m", 0);
        Require.Number(turnDeg, "target_turn_deg", -89, 89);
        var pixels = touched.Length;
        var metres = lengthMetres * Cos(turnDeg);
        var density = pixels / metres;
        var byLength = density * offMetres / lengthMetres;
        return new(
            pixels,
            density,
            (Math.Abs(touched.Dx) + Math.Abs(touched.Dy)) / pixels / metres + byLength,
            double.Hypot(2 * Math.Sqrt(1 / 6.0) / metres, byLength),
            pixels < Least
        );
    }
}
