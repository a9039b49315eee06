using static Walkdown.Core.Measures.Angle;

namespace Walkdown.Core.Pictures;

/// <summary>How a lens puts rays into a picture: by its focal length, and by how far it bends lines (the division model of Fitzgibbon 2001,
/// one number). A point of the picture at a radius r stands for one without the bend at r / (1 - Bend r^2).</summary>
/// <param name="Focal">In the picture's middle, pixels.</param>
/// <param name="Bend">To pixels squared; above 0: barrel, as of most wide lenses; 0: none.</param>
internal readonly record struct Lens(double Focal, double Bend)
{
    /// <summary>A lens of a known field.</summary>
    /// <param name="pixelsWide">Of the picture.</param>
    /// <param name="horizontalDeg">Its field from edge to edge, above 0 and under 180.</param>
    /// <param name="atEdge">How far it bends lines at the left and right edge, as a share of the half width; below 1.</param>
    public static Lens Of(double pixelsWide, double horizontalDeg, double atEdge = 0)
    {
        var half = pixelsWide / 2;
        return new(half / ((1 - atEdge) * Tan(horizontalDeg / 2)), atEdge / (half * half));
    }

    /// <summary>Where a point without the bend comes to lie, both counted from the middle; null: no such lens sees it.</summary>
    public (double X, double Y)? Bent(double x, double y)
    {
        var inside = 1 + 4 * Bend * (x * x + y * y);
        if (inside <= 0)
            return null;
        var bent = 2 / (1 + Math.Sqrt(inside));
        return (x * bent, y * bent);
    }

    /// <summary>Where a point of the picture would lie without the bend, both counted from the middle.</summary>
    public (double X, double Y) Straight(double x, double y)
    {
        var straight = 1 - Bend * (x * x + y * y);
        return (x / straight, y / straight);
    }

    /// <summary>The same in a picture so many times the size.</summary>
    public Lens Sized(double times) => new(Focal * times, Bend / (times * times));
}
