namespace Walkdown.Core.Zones;

/// <summary>Areas of polygons in a picture, and of what they have in common: exact but for rounding, no raster
/// (docs/calculations.md).</summary>
public static class Polygons
{
    private const double Same = 1e-12;

    /// <summary>Area by the shoelace formula, share of the picture.</summary>
    /// <param name="points">Of a polygon that does not cross itself, in either turn.</param>
    public static double Area(IReadOnlyList<PicturePoint> points)
    {
        var twice = 0.0;
        for (var i = 0; i < points.Count; i++)
        {
            var (a, b) = (points[i], points[(i + 1) % points.Count]);
            twice += a.X * b.Y - b.X * a.Y;
        }
        return Math.Abs(twice) / 2;
    }

    /// <summary>Whether no two of its sides meet but neighbours at their corner.</summary>
    public static bool IsSimple(IReadOnlyList<PicturePoint> points)
    {
        var n = points.Count;
        for (var i = 0; i < n; i++)
        {
            if (Distance(points[i], points[(i + 1) % n]) < 1e-9)
                return false;
            for (var j = i + 1; j < n; j++)
            {
                var (a, b, c, d) = (points[i], points[(i + 1) % n], points[j], points[(j + 1) % n]);
                if (j == i + 1 || i == 0 && j == n - 1)
                {
                    // Neighbours share a corner; they must not run back over each other.
                    var (corner, from, to) = j == i + 1 ? (b, a, d) : (a, b, c);
                    if (n == 3 ? Area(points) < Same : IsBack(corner, from, to))
                        return false;
                }
                else if (Meet(a, b, c, d))
                    return false;
            }
        }
        return true;
    }

    /// <summary>Area of all that a rule says yes to, share of the picture.</summary>
    /// <param name="polygons">None crosses itself.</param>
    /// <param name="counts">By polygon, in their order, whether a point lies in it.</param>
    public static double Area(IReadOnlyList<IReadOnlyList<PicturePoint>> polygons, Func<IReadOnlyList<bool>, bool> counts) =>
        Areas(polygons, [counts])[0];

    /// <summary>
    /// Area of all that each rule says yes to, share of the picture. The picture is cut at every corner and crossing into level strips in
    /// which no two sides cross; there what lies between two sides is a trapezoid, and is wholly in or out.
    /// </summary>
    /// <param name="polygons">None crosses itself.</param>
    /// <param name="rules">Each by polygon, in their order, whether a point lies in it.</param>
    /// <returns>By rule, in their order.</returns>
    public static ImmutableArray<double> Areas(
        IReadOnlyList<IReadOnlyList<PicturePoint>> polygons,
        IReadOnlyList<Func<IReadOnlyList<bool>, bool>> rules
    )
    {
        var sides = polygons
            .SelectMany((points, of) => points.Select((a, i) => (A: a, B: points[(i + 1) % points.Count], Of: of)))
            .Where(s => Math.Abs(s.A.Y - s.B.Y) > Same)
            .Select(s => s.A.Y < s.B.Y ? s : (A: s.B, B: s.A, s.Of))
            .OrderBy(s => s.A.Y)
            .ToArray();
        var levels = polygons.SelectMany(p => p).Select(p => p.Y).ToList();
        for (var i = 0; i < sides.Length; i++)
        for (var j = i + 1; j < sides.Length && sides[j].A.Y < sides[i].B.Y; j++)
            if (LevelOfCrossing(sides[i].A, sides[i].B, sides[j].A, sides[j].B) is { } y)
                levels.Add(y);
        levels.Sort();
        var inside = new bool[polygons.Count];
        var sums = new double[rules.Count];
        var cuts = new List<(double X, int Of)>(sides.Length);
        for (var l = 1; l < levels.Count; l++)
        {
            var (top, bottom) = (levels[l - 1], levels[l]);
            if (bottom - top <= Same)
                continue;
            // In the middle of a strip a trapezoid is as wide as it is on the mean.
            var middle = (top + bottom) / 2;
            cuts.Clear();
            foreach (var (a, b, of) in sides)
            {
                if (a.Y >= middle)
                    break;
                if (b.Y > middle)
                    cuts.Add((a.X + (b.X - a.X) * (middle - a.Y) / (b.Y - a.Y), of));
            }
            cuts.Sort((one, other) => one.X.CompareTo(other.X));
            Array.Clear(inside);
            for (var c = 0; c < cuts.Count - 1; c++)
            {
                inside[cuts[c].Of] = !inside[cuts[c].Of];
                if (cuts[c + 1].X - cuts[c].X is > 0 and var wide)
                    for (var r = 0; r < sums.Length; r++)
                        if (rules[r](inside))
                            sums[r] += wide * (bottom - top);
            }
        }
        return [.. sums];
    }

    private static double Distance(PicturePoint a, PicturePoint b) => Math.Max(Math.Abs(a.X - b.X), Math.Abs(a.Y - b.Y));

    private static double Turn(PicturePoint a, PicturePoint b, PicturePoint c) => (b.X - a.X) * (c.Y - a.Y) - (b.Y - a.Y) * (c.X - a.X);

    private static bool IsBack(PicturePoint corner, PicturePoint from, PicturePoint to) =>
        Math.Abs(Turn(corner, from, to)) < Same && (from.X - corner.X) * (to.X - corner.X) + (from.Y - corner.Y) * (to.Y - corner.Y) > 0;

    private static bool Meet(PicturePoint a, PicturePoint b, PicturePoint c, PicturePoint d)
    {
        var (abc, abd, cda, cdb) = (Turn(a, b, c), Turn(a, b, d), Turn(c, d, a), Turn(c, d, b));
        if ((abc > Same && abd < -Same || abc < -Same && abd > Same) && (cda > Same && cdb < -Same || cda < -Same && cdb > Same))
            return true;
        return Math.Abs(abc) <= Same && Within(a, b, c)
            || Math.Abs(abd) <= Same && Within(a, b, d)
            || Math.Abs(cda) <= Same && Within(c, d, a)
            || Math.Abs(cdb) <= Same && Within(c, d, b);
    }

    private static bool Within(PicturePoint a, PicturePoint b, PicturePoint p) =>
        p.X >= Math.Min(a.X, b.X) - Same
        && p.X <= Math.Max(a.X, b.X) + Same
        && p.Y >= Math.Min(a.Y, b.Y) - Same
        && p.Y <= Math.Max(a.Y, b.Y) + Same;

    private static double? LevelOfCrossing(PicturePoint a, PicturePoint b, PicturePoint c, PicturePoint d)
    {
        var (abx, aby, cdx, cdy) = (b.X - a.X, b.Y - a.Y, d.X - c.X, d.Y - c.Y);
        var across = abx * cdy - aby * cdx;
        if (Math.Abs(across) < Same)
            return null;
        var t = ((c.X - a.X) * cdy - (c.Y - a.Y) * cdx) / across;
        var u = ((c.X - a.X) * aby - (c.Y - a.Y) * abx) / across;
        return t is > 0 and < 1 && u is > 0 and < 1 ? a.Y + t * aby : null;
    }
}
