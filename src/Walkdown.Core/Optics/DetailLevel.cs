using Walkdown.Core.Measures;

namespace Walkdown.Core.Optics;

/// <summary>Which edition's words and figures. They do not map one to one, so the edition stays with every result.</summary>
public enum DetailEdition
{
    /// <summary>IEC 62676-4:2014.</summary>
    Edition2014,

    /// <summary>The edition of 2025, which renames and sets anew (check against your own copy).</summary>
    Edition2025,
}

/// <summary>What can be done with a picture of so many pixels to a metre.</summary>
public enum DetailLevel
{
    /// <summary>2014.</summary>
    Monitor,

    /// <summary>2014.</summary>
    Detect,

    /// <summary>2014.</summary>
    Observe,

    /// <summary>2014.</summary>
    Recognise,

    /// <summary>2014.</summary>
    Identify,

    /// <summary>2014.</summary>
    Inspect,

    /// <summary>2025.</summary>
    Overview,

    /// <summary>2025.</summary>
    Outline,

    /// <summary>2025.</summary>
    Discern,

    /// <summary>2025.</summary>
    Perceive,

    /// <summary>2025.</summary>
    Characterise,

    /// <summary>2025.</summary>
    Validate,

    /// <summary>2025.</summary>
    Scrutinise,
}

/// <summary>One line of an edition.</summary>
/// <param name="Level">The word.</param>
/// <param name="PerMetre">Pixels to a metre it asks for.</param>
public sealed record DetailLine(DetailLevel Level, double PerMetre);

/// <summary>Where a density stands among an edition's levels.</summary>
/// <param name="Level">The highest that it reaches; null: none.</param>
/// <param name="Next">The one above; null: there is none.</param>
/// <param name="MissingPerMetre">To the one above.</param>
public sealed record DetailReached(DetailLevel? Level, DetailLevel? Next, double? MissingPerMetre);

/// <summary>As far as a level holds.</summary>
/// <param name="Level">Which.</param>
/// <param name="PerMetre">Pixels to a metre it asks for.</param>
/// <param name="SlantMetres">From the lens.</param>
/// <param name="GroundMetres">Along the ground; null: nowhere.</param>
public sealed record LevelReach(DetailLevel Level, double PerMetre, double SlantMetres, double? GroundMetres);

/// <summary>The levels of detail of the standard, lowest first (docs/calculations.md, K).</summary>
public static class DetailLevels
{
    private static readonly ImmutableArray<DetailLine> Of2014 =
    [
        new(DetailLevel.Monitor, 12.5),
        new(DetailLevel.Detect, 25),
        new(DetailLevel.Observe, 62.5),
        new(DetailLevel.Recognise, 125),
        new(DetailLevel.Identify, 250),
        new(DetailLevel.Inspect, 1000),
    ];

    private static readonly ImmutableArray<DetailLine> Of2025 =
    [
        new(DetailLevel.Overview, 20),
        new(DetailLevel.Outline, 40),
        new(DetailLevel.Discern, 80),
        new(DetailLevel.Perceive, 125),
        new(DetailLevel.Characterise, 250),
        new(DetailLevel.Validate, 500),
        new(DetailLevel.Scrutinise, 1500),
    ];

    /// <summary>The lines of an edition, lowest first.</summary>
    public static ImmutableArray<DetailLine> Of(DetailEdition edition) => edition == DetailEdition.Edition2014 ? Of2014 : Of2025;

    /// <summary>Pixels to a metre that a level asks for.</summary>
    public static double PerMetre(DetailLevel level) => Of(EditionOf(level)).First(l => l.Level == level).PerMetre;

    /// <summary>Whose word a level is.</summary>
    public static DetailEdition EditionOf(DetailLevel level) =>
        level <= DetailLevel.Inspect ? DetailEdition.Edition2014 : DetailEdition.Edition2025;

    /// <summary>Where a density stands.</summary>
    /// <param name="edition">Whose words.</param>
    /// <param name="perMetre">Pixels to a metre, at least 0.</param>
    public static DetailReached Reached(DetailEdition edition, double perMetre)
    {
        Require.Number(perMetre, "pixels_per_m", 0);
        DetailLine? level = null;
        foreach (var line in Of(edition))
        {
            if (perMetre < line.PerMetre - 1e-9 * Math.Max(1, line.PerMetre))
                return new(level?.Level, line.Level, line.PerMetre - perMetre);
            level = line;
        }
        return new(level?.Level, null, null);
    }

    /// <summary>As far as each level of an edition holds, lowest first.</summary>
    /// <param name="edition">Whose words.</param>
    /// <param name="pixelsWide">Of the picture, at least 1.</param>
    /// <param name="horizontalDeg">Its field, above 0 and under 180.</param>
    /// <param name="cameraMetres">Above the ground, at least 0.</param>
    /// <param name="targetMetres">What is looked at, at least 0.</param>
    public static ImmutableArray<LevelReach> Reaches(
        DetailEdition edition,
        int pixelsWide,
        double horizontalDeg,
        double cameraMetres,
        double targetMetres
    ) =>
        [
            .. Of(edition)
                .Select(line =>
                {
                    var (slant, ground) = PixelDensity.HoldsTo(pixelsWide, horizontalDeg, cameraMetres, targetMetres, line.PerMetre);
                    return new LevelReach(line.Level, line.PerMetre, slant, ground);
                }),
        ];
}
