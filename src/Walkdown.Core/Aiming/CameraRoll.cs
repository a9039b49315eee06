using Walkdown.Core.Measures;
using static Walkdown.Core.Measures.Angle;

namespace Walkdown.Core.Aiming;

/// <summary>What a touched line is in the world.</summary>
public enum LineKind
{
    /// <summary>Level: the horizon, far away.</summary>
    Horizontal,

    /// <summary>Upright: near the middle, for at the border it leans by perspective.</summary>
    Vertical,
}

/// <summary>How a camera is turned about its own axis, of a line that is level or upright in the world (docs/calculations.md, L).</summary>
/// <param name="LineDeg">The line leans by so much in the picture, clockwise positive.</param>
/// <param name="RollDeg">So the camera is turned the other way.</param>
/// <param name="UncertaintyDeg">Of the two points.</param>
/// <param name="Outcome">Against the tolerance.</param>
public sealed record CameraRoll(double LineDeg, double RollDeg, double UncertaintyDeg, Outcome Outcome)
{
    /// <param name="x1">First point, pixels.</param>
    /// <param name="y1">First point, pixels.</param>
    /// <param name="x2">Second point, pixels.</param>
    /// <param name="y2">Second point, pixels.</param>
    /// <param name="kind">What the line is.</param>
    /// <param name="toleranceDeg">Either way, at least 0 (practice: 1).</param>
    /// <param name="touchPixels">A point may be off by so much, at least 0.</param>
    /// <exception cref="BadInputException">Out of these ranges, or one point twice.</exception>
    public static CameraRoll Of(
        double x1,
        double y1,
        double x2,
        double y2,
        LineKind kind,
        double toleranceDeg = 1,
        double touchPixels = 0.5
    )
    {
        var touched = TouchedLine.Of(x1, y1, x2, y2);
        Require.Number(toleranceDeg, "tolerance_deg", 0);
        Require.Number(touchPixels, "click_error_px", 0);
        var length = touched.Length;
        var line = Deg(Math.Atan2(touched.Dy, touched.Dx)) - (kind == LineKind.Vertical ? 90 : 0);
        line -= 180 * Math.Ceiling((line - 90) / 180);
        var uncertainty = Deg(Math.Atan(2 * touchPixels / length));
        var outcome = Decision.Within(Math.Abs(line), uncertainty, toleranceDeg);
        return new(line, line == 0 ? 0 : -line, uncertainty, outcome);
    }
}
