namespace Walkdown.Core.Optics;

/// <summary>Cells of one row of a ground, side by side, that are seen alike.</summary>
/// <param name="Row">From the ground's upper edge.</param>
/// <param name="From">Its first cell, from the left edge.</param>
/// <param name="Count">How many.</param>
/// <param name="Level">The highest level that is reached there; null: nobody sees it.</param>
public sealed record CellRun(int Row, int From, int Count, DetailLevel? Level);

/// <summary>Ground that hangs together and that nobody sees.</summary>
/// <param name="SquareMetres">Of it.</param>
/// <param name="At">A point of it, near its middle.</param>
public sealed record CoverageHole(double SquareMetres, PlanPoint At);

/// <summary>How a ground is seen.</summary>
/// <param name="Name">Of the ground.</param>
/// <param name="Level">Asked for.</param>
/// <param name="SquareMetres">Of it all.</param>
/// <param name="SeenPercent">Somebody sees it; null: it is too narrow for cells of that side, and nobody can say it.</param>
/// <param name="AskedPercent">With what was asked for; null likewise.</param>
/// <param name="CellMetres">Side of its cells.</param>
/// <param name="Left">Left edge of its cells.</param>
/// <param name="Top">Upper edge of its cells.</param>
/// <param name="Runs">Its cells.</param>
/// <param name="Holes">The greatest first; what is smaller than a square metre is not named.</param>
public sealed record GroundCoverage(
    string Name,
    DetailLevel Level,
    double SquareMetres,
    double? SeenPercent,
    double? AskedPercent,
    double CellMetres,
    double Left,
    double Top,
    ImmutableArray<CellRun> Runs,
    ImmutableArray<CoverageHole> Holes
);

/// <summary>How a planned target is seen over the plan.</summary>
public enum TargetSight
{
    /// <summary>With the detail that was asked for.</summary>
    Holds,

    /// <summary>It is in the picture, and too small in it.</summary>
    TooCoarse,

    /// <summary>It is not in the picture, or not all of it.</summary>
    OutOfPicture,

    /// <summary>A wall stands before it.</summary>
    Hidden,
}

/// <summary>A target of a view.</summary>
/// <param name="DeviceId">Whose view.</param>
/// <param name="Label">Of that.</param>
/// <param name="Head">From 1.</param>
/// <param name="Name">Of the target.</param>
/// <param name="At">Where it stands.</param>
/// <param name="Level">Asked for.</param>
/// <param name="PerMetre">Pixels to a metre there; null: it is behind the camera.</param>
/// <param name="Sight">How its own view sees it.</param>
/// <param name="By">Labels of others that show it with what was asked for, where its own does not.</param>
public sealed record TargetSeen(
    Guid DeviceId,
    string Label,
    int Head,
    string Name,
    PlanPoint At,
    DetailLevel Level,
    double? PerMetre,
    TargetSight Sight,
    ImmutableArray<string> By
);

/// <summary>What a view sees of the ground.</summary>
/// <param name="DeviceId">Whose.</param>
/// <param name="Label">Of that.</param>
/// <param name="Head">From 1.</param>
/// <param name="IsAgreed">Somebody agreed to it.</param>
/// <param name="Edge">Around what it sees.</param>
public sealed record ViewOutline(Guid DeviceId, string Label, int Head, bool IsAgreed, ImmutableArray<PlanPoint> Edge);

/// <summary>What all views of a site see of its ground together: level ground, straight lines, walls as they were drawn. What stands on the
/// ground and moves is not in it (docs/calculations.md, K).</summary>
/// <param name="Edition">Whose levels.</param>
/// <param name="Levels">Of that edition, lowest first; what reaches none of them is not seen.</param>
/// <param name="Grounds">In their order.</param>
/// <param name="Targets">Of all views; those that do not hold first.</param>
/// <param name="Outlines">Of each view.</param>
public sealed record SiteCoverage(
    DetailEdition Edition,
    ImmutableArray<DetailLevel> Levels,
    ImmutableArray<GroundCoverage> Grounds,
    ImmutableArray<TargetSeen> Targets,
    ImmutableArray<ViewOutline> Outlines
)
{
    /// <param name="ground">One that is not refused.</param>
    /// <param name="views">With an azimuth each.</param>
    /// <param name="edition">Whose levels.</param>
    /// <param name="cancel">Ends it.</param>
    public static SiteCoverage Of(
        SiteGround ground,
        IReadOnlyList<PlacedView> views,
        DetailEdition edition,
        CancellationToken cancel = default
    )
    {
        var levels = DetailLevels.Of(edition);
        SightLine[] lines = [.. views.Select(v => new SightLine(v, ground, levels[0].PerMetre))];
        var all = ground.Grounds.Sum(g => g.SquareMetres);
        return new(
            edition,
            [.. levels.Select(l => l.Level)],
            [.. ground.Grounds.Select(g => GroundCells.Of(g, lines, all, cancel).Told(g, levels))],
            [
                .. lines
                    .SelectMany(own => own.View.Design.Targets.Select(t => Seen(own, t, lines)))
                    .OrderBy(t => t.Sight == TargetSight.Holds)
                    .ThenBy(t => t.Label, StringComparer.Ordinal),
            ],
            [.. lines.Select(l => new ViewOutline(l.View.DeviceId, l.View.Label, l.View.Head, l.View.IsAgreed, l.Outline()))]
        );
    }

    private static TargetSeen Seen(SightLine own, ViewTarget target, SightLine[] lines)
    {
        var view = own.View;
        var at = own.On(target.GroundMetres, target.AsideMetres);
        var figures = ViewFigures.At(view.Design, target);
        var sight =
            !(figures.IsTopIn && figures.IsFootIn && figures.IsAcrossIn) ? TargetSight.OutOfPicture
            : own.IsHidden(at.X, at.Y, target.HeightMetres) ? TargetSight.Hidden
            : figures.Holds ? TargetSight.Holds
            : TargetSight.TooCoarse;
        ImmutableArray<string> by =
            sight == TargetSight.Holds
                ? []
                :
                [
                    .. lines
                        .Where(l =>
                            l != own
                            && l.PerMetre(at.X, at.Y, target.HeightMetres) >= figures.NeedPerMetre - 1e-9
                            && l.PerMetre(at.X, at.Y, 0) is not null
                            && !l.IsHidden(at.X, at.Y, target.HeightMetres)
                        )
                        .Select(l => l.View.Label)
                        .Distinct(),
                ];
        return new(view.DeviceId, view.Label, view.Head, target.Name, at, target.Level, figures.PixelsPerMetre, sight, by);
    }
}
