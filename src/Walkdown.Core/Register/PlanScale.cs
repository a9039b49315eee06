using Walkdown.Core.Measures;

namespace Walkdown.Core.Register;

/// <summary>Where a drawing lies on the site: level, not turned.</summary>
/// <param name="LeftMetres">Site coordinates of its upper left corner; y grows downwards, as on the drawing.</param>
public readonly record struct PlanPosition(double MetresPerPixel, double LeftMetres, double TopMetres);

/// <summary>Scale of a drawing by two points.</summary>
public static class PlanScale
{
    /// <summary>Scale and position from two points whose distance is known.</summary>
    /// <param name="ax">First point, pixels of the drawing from its upper left corner.</param>
    /// <param name="metres">Distance between both points, metres, above 0.</param>
    /// <param name="anchorX">Site coordinates of the first point, where they are known, metres; else the corner is the origin.</param>
    /// <exception cref="BadInputException">Points that fall together, or a distance that cannot be.</exception>
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
