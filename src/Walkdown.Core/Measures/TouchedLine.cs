namespace Walkdown.Core.Measures;

/// <summary>Two points that somebody touched in a picture, pixels from its upper left corner.</summary>
/// <param name="Dx">From the first to the second, right.</param>
/// <param name="Dy">From the first to the second, down.</param>
internal readonly record struct TouchedLine(double Dx, double Dy)
{
    /// <summary>Between them, above 0.</summary>
    public double Length => double.Hypot(Dx, Dy);

    /// <exception cref="BadInputException">A point that is none, or one point twice.</exception>
    public static TouchedLine Of(double x1, double y1, double x2, double y2)
    {
        var line = new TouchedLine(
            Require.Number(x2, "x2_px") - Require.Number(x1, "x1_px"),
            Require.Number(y2, "y2_px") - Require.Number(y1, "y1_px")
        );
        Require.Consistent(line.Length > 0, "x2_px");
        return line;
    }
}
