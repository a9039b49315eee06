using Walkdown.Core.Measures;

namespace Walkdown.Core.Optics;

/// <summary>A point of a site's plan, metres, as the register has places: x to the right, y down the sheet.</summary>
/// <param name="X">To the right.</param>
/// <param name="Y">Down.</param>
public readonly record struct PlanPoint(double X, double Y);

/// <summary>What hides the ground behind it.</summary>
/// <param name="Corners">One after another, two at least.</param>
/// <param name="HeightMetres">Its top above the ground; null: nobody looks over it.</param>
public sealed record PlanWall(ImmutableArray<PlanPoint> Corners, double? HeightMetres);

/// <summary>Ground that must be seen.</summary>
/// <param name="Name">What it is called.</param>
/// <param name="Corners">Around it, three at least.</param>
/// <param name="Level">What must be possible everywhere on it.</param>
public sealed record PlanGround(string Name, ImmutableArray<PlanPoint> Corners, DetailLevel Level)
{
    /// <summary>Its area, square metres.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public double SquareMetres
    {
        get
        {
            var twice = 0.0;
            for (var (i, j) = (0, Corners.Length - 1); i < Corners.Length; j = i++)
                twice += Corners[j].X * Corners[i].Y - Corners[i].X * Corners[j].Y;
            return Math.Abs(twice) / 2;
        }
    }

    /// <summary>Whether a point lies on it.</summary>
    internal bool Has(double x, double y)
    {
        var isIn = false;
        for (var (i, j) = (0, Corners.Length - 1); i < Corners.Length; j = i++)
        {
            var (a, b) = (Corners[i], Corners[j]);
            if (a.Y > y != b.Y > y && x < (b.X - a.X) * (y - a.Y) / (b.Y - a.Y) + a.X)
                isIn = !isIn;
        }
        return isIn;
    }
}

/// <summary>What of a site's plan matters to its views.</summary>
/// <param name="Grounds">That must be seen.</param>
/// <param name="Walls">That hide.</param>
/// <param name="NorthDeg">Where north is on the sheet, clockwise from its upper edge.</param>
public sealed record SiteGround(ImmutableArray<PlanGround> Grounds, ImmutableArray<PlanWall> Walls, double NorthDeg)
{
    /// <summary>Nobody has drawn anything.</summary>
    public static readonly SiteGround Undrawn = new([], [], 0);

    /// <summary>More than anybody draws.</summary>
    public const int MostGrounds = 40,
        MostWalls = 400,
        MostCorners = 60;

    /// <summary>Most characters of a ground's name.</summary>
    public const int MostName = 60;

    private const double Farthest = 20_000;

    /// <summary>Why it cannot be, and which field; null where it can.</summary>
    public (Message Why, string Field)? Refuse()
    {
        if (Grounds.IsDefault || Grounds.Length > MostGrounds)
            return (new("ground.too-many", Message.Number(MostGrounds)), "grounds");
        if (Walls.IsDefault || Walls.Length > MostWalls)
            return (new("ground.too-many-walls", Message.Number(MostWalls)), "walls");
        if (!(NorthDeg is >= 0 and <= 360))
            return (new("ground.north"), "northDeg");
        foreach (var ground in Grounds)
        {
            if (string.IsNullOrWhiteSpace(ground?.Name) || ground.Name.Length > MostName)
                return (new("ground.name", Message.Number(MostName)), "grounds");
            if (Corners(ground.Corners, 3) is { } why)
                return (why, "grounds");
            if (!Enum.IsDefined(ground.Level))
                return (new("ground.level", Message.Said(ground.Name)), "grounds");
            if (ground.SquareMetres < 1)
                return (new("ground.nothing", Message.Said(ground.Name)), "grounds");
        }
        foreach (var wall in Walls)
        {
            if (wall is null || Corners(wall.Corners, 2) is not null)
                return (new("ground.wall-corners", Message.Number(2), Message.Number(MostCorners)), "walls");
            if (wall.HeightMetres is { } high && !(high is >= 0.1 and <= 200))
                return (new("ground.wall-height", Message.Number(0.1), Message.Number(200)), "walls");
        }
        return null;
    }

    private static Message? Corners(ImmutableArray<PlanPoint> corners, int least) =>
        corners.IsDefault || corners.Length < least || corners.Length > MostCorners
            ? new("ground.corners", Message.Number(least), Message.Number(MostCorners))
        : corners.All(c => Math.Abs(c.X) <= Farthest && Math.Abs(c.Y) <= Farthest) ? null
        : new("ground.far", Message.Number(Farthest));
}
