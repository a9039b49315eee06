using Walkdown.Core.Measures;

namespace Walkdown.Core.Register;

/// <summary>Scale of a drawing by two points.</summary>
public static class PlanScale
{
    /// <summary>Scale and position from two points whose distance is known.</summary>
    /// <param name="ax">First point, pixels of the drawing from its upper left corner.</param>
    /// <param name="metres">Distance between both points, metres, above 0.</param>
    /// <param name="anchorX">Site coordinates of the first point, where they are known, metres; else the corner is the origin.</param>
    /// <exception cref="BadInputException">Points that fall together, or a distance that cannot be.</exception>
    /// <param name="ay">Of the first point, pixels.</param>
    /// <param name="bx">Of the second point, pixels.</param>
    /// <param name="by">Of the second point, pixels.</param>
    /// <param name="anchorY">Of the point that stays, pixels.</param>
    public static PlanPosition FromTwoPoints(
        double ax,
        double ay,
        double bx,
        double by,
        double metres,
        double? anchorX = null,
        double? anchorY = null
    )
    {
        foreach (var pixels in new[] { ax, ay, bx, by })
            Require.Number(pixels, "plan.pixels", -1e6, 1e6);
        Require.Positive(metres, "plan.metres", 100_000);
        var apart = Math.Sqrt((bx - ax) * (bx - ax) + (by - ay) * (by - ay));
        // Less than five pixels apart, the finger decides and not the drawing.
        if (apart < 5)
            throw new BadInputException(BadInputReason.BelowMinimum, "plan.apart");
        var scale = metres / apart;
        return new PlanPosition(scale, (anchorX ?? ax * scale) - ax * scale, (anchorY ?? ay * scale) - ay * scale);
    }
}
