using Walkdown.Core.Measures;

namespace Walkdown.Core.Fixing;

/// <summary>The smallest hole for what has to pass it (CAPABILITIES C17).</summary>
public static class Passage
{
    /// <summary>Diameter of the smallest circle around so many equal circles, in diameters of one; best known packings up to seven, and
    /// behind these what a loose bundle needs.</summary>
    private static readonly ImmutableArray<double> Around = [1, 2, 2.1547, 2.4142, 2.7013, 3, 3];

    /// <summary>The smallest hole, mm.</summary>
    /// <param name="widestMm">Diameter of the widest single part that passes: a plug counts by its diagonal.</param>
    /// <param name="cableMm">Diameter of one cable.</param>
    /// <param name="cables">Cables that lie in it at last, one or more.</param>
    /// <param name="clearanceMm">Left free all round, both sides together.</param>
    /// <remarks>Plugs pass one after another, each beside the cables that lie there already.</remarks>
    /// <exception cref="BadInputException">A width that is none, or no cable.</exception>
    public static double SmallestMm(double widestMm, double cableMm, int cables, double clearanceMm)
    {
        if (!double.IsFinite(widestMm) || widestMm <= 0)
            throw new BadInputException(BadInputReason.BelowMinimum, "widest_mm");
        if (!double.IsFinite(cableMm) || cableMm <= 0)
            throw new BadInputException(BadInputReason.BelowMinimum, "cable_mm");
        if (cables < 1)
            throw new BadInputException(BadInputReason.BelowMinimum, "cables");
        if (!double.IsFinite(clearanceMm) || clearanceMm < 0)
            throw new BadInputException(BadInputReason.BelowMinimum, "clearance_mm");
        var beside = cables == 1 || widestMm <= cableMm ? 0 : BundleMm(cableMm, cables - 1);
        return Math.Max(BundleMm(cableMm, cables), widestMm + beside) + clearanceMm;
    }

    /// <summary>Diameter of a bundle of so many cables, mm.</summary>
    internal static double BundleMm(double cableMm, int cables) =>
        cableMm * (cables <= Around.Length ? Around[cables - 1] : 1.2 * Math.Sqrt(cables));
}
