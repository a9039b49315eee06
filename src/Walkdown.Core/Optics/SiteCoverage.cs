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
/// <param name="SquareMetres">Of it all, as its cells have it.</param>
/// <param name="SeenPercent">Somebody sees it.</param>
/// <param name="AskedPercent">With what was asked for.</param>
/// <param name="Left">Left edge of its cells.</param>
/// <param name="Top">Upper edge of its cells.</param>
/// <param name="Runs">Its cells.</param>
/// <param name="Holes">The greatest first; what is smaller than a square metre is not named.</param>
public sealed record GroundCoverage(
    string Name,
    DetailLevel Level,
    double SquareMetres,
    double SeenPercent,
    double AskedPercent,
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
/// <param name="CellMetres">Side of a cell.</param>
/// <param name="Edition">Whose levels.</param>
/// <param name="Grounds">In their order.</param>
/// <param name="Targets">Of all views; those that do not hold first.</param>
/// <param name="Outlines">Of each view.</param>
public sealed record SiteCoverage(
    double CellMetres,
    DetailEdition Edition,
    ImmutableArray<GroundCoverage> Grounds,
    ImmutableArray<TargetSeen> Targets,
    ImmutableArray<ViewOutline> Outlines
)
{
    /// <summary>Cells of all grounds together, about.</summary>
    private const int MostCells = 40_000;

    private const double SmallestCell = 0.25;

    private const int MostHoles = 12;

    /// <summary>Cells that are looked at together, each way.</summary>
    private const int Block = 16;

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
        var cell = Math.Max(SmallestCell, Math.Ceiling(Math.Sqrt(ground.Grounds.Sum(g => g.SquareMetres) / MostCells) * 20) / 20);
        return new(
            cell,
            edition,
            [.. ground.Grounds.Select(g => Seen(g, lines, levels, cell, cancel))],
            [
                .. lines
                    .SelectMany(own => own.View.Design.Targets.Select(t => Seen(own, t, lines)))
                    .OrderBy(t => t.Sight == TargetSight.Holds)
                    .ThenBy(t => t.Label, StringComparer.Ordinal),
            ],
            [.. lines.Select(l => new ViewOutline(l.View.DeviceId, l.View.Label, l.View.Head, l.View.IsAgreed, l.Outline()))]
        );
    }

    private static GroundCoverage Seen(
        PlanGround ground,
        SightLine[] lines,
        ImmutableArray<DetailLine> levels,
        double cell,
        CancellationToken cancel
    )
    {
        var (left, top) = (ground.Corners.Min(c => c.X), ground.Corners.Min(c => c.Y));
        var wide = (int)Math.Ceiling((ground.Corners.Max(c => c.X) - left) / cell);
        var high = (int)Math.Ceiling((ground.Corners.Max(c => c.Y) - top) / cell);
        // Of each cell: not of this ground, seen by nobody, or the level.
        var cells = new sbyte[wide * high];
        var (acrossBlocks, downBlocks) = ((wide + Block - 1) / Block, (high + Block - 1) / Block);
        Parallel.For(
            0,
            acrossBlocks * downBlocks,
            new ParallelOptions { CancellationToken = cancel },
            block =>
            {
                var (first, topmost) = (block % acrossBlocks * Block, block / acrossBlocks * Block);
                var (last, lowest) = (Math.Min(wide, first + Block), Math.Min(high, topmost + Block));
                // Who is too far away for any of it is not asked for each cell.
                SightLine[] near =
                [
                    .. lines.Where(l => l.Reaches(left + first * cell, top + topmost * cell, left + last * cell, top + lowest * cell)),
                ];
                for (var row = topmost; row < lowest; row++)
                for (var column = first; column < last; column++)
                {
                    var (x, y) = (left + (column + 0.5) * cell, top + (row + 0.5) * cell);
                    cells[row * wide + column] = ground.Has(x, y) ? Best(near, levels, x, y) : Outside;
                }
            }
        );
        var (all, seen, asked) = (0, 0, 0);
        var need = DetailLevels.PerMetre(ground.Level);
        foreach (var at in cells)
        {
            if (at == Outside)
                continue;
            all++;
            if (at >= 0)
                seen++;
            if (at >= 0 && levels[at].PerMetre >= need - 1e-9)
                asked++;
        }
        double Percent(int of) => all == 0 ? 0 : 100.0 * of / all;
        return new(
            ground.Name,
            ground.Level,
            all * cell * cell,
            Percent(seen),
            Percent(asked),
            left,
            top,
            RunsOf(cells, wide, levels),
            HolesOf(cells, wide, cell, left, top)
        );
    }

    private const sbyte Outside = -2,
        Unseen = -1;

    /// <summary>The highest level that any of the views reaches at a point of the ground.</summary>
    private static sbyte Best(SightLine[] lines, ImmutableArray<DetailLine> levels, double x, double y)
    {
        var best = 0.0;
        foreach (var line in lines)
            if (line.PerMetre(x, y, 0) is { } here && here > best && !line.IsHidden(x, y, 0))
                best = here;
        var level = Unseen;
        while (level + 1 < levels.Length && best >= levels[level + 1].PerMetre - 1e-9)
            level++;
        return level;
    }

    private static ImmutableArray<CellRun> RunsOf(sbyte[] cells, int wide, ImmutableArray<DetailLine> levels)
    {
        var runs = ImmutableArray.CreateBuilder<CellRun>();
        for (var at = 0; at < cells.Length; )
        {
            var (row, from, what) = (at / wide, at % wide, cells[at]);
            while (at < cells.Length && at / wide == row && cells[at] == what)
                at++;
            if (what != Outside)
                runs.Add(new(row, from, at - row * wide - from, what == Unseen ? null : levels[what].Level));
        }
        return runs.ToImmutable();
    }

    private static ImmutableArray<CoverageHole> HolesOf(sbyte[] cells, int wide, double cell, double left, double top)
    {
        var holes = new List<CoverageHole>();
        var done = new bool[cells.Length];
        var open = new Stack<int>();
        var mine = new List<int>();
        for (var start = 0; start < cells.Length; start++)
        {
            if (done[start] || cells[start] != Unseen)
                continue;
            mine.Clear();
            done[start] = true;
            open.Push(start);
            while (open.TryPop(out var at))
            {
                mine.Add(at);
                var column = at % wide;
                foreach (
                    var (to, isThere) in new[] { (at - 1, column > 0), (at + 1, column < wide - 1), (at - wide, true), (at + wide, true) }
                )
                    if (isThere && to >= 0 && to < cells.Length && !done[to] && cells[to] == Unseen)
                    {
                        done[to] = true;
                        open.Push(to);
                    }
            }
            var area = mine.Count * cell * cell;
            if (area < 1)
                continue;
            var (x, y) = (mine.Average(i => i % wide), mine.Average(i => i / wide));
            // Its middle may lie beside it: the cell of it that is nearest there.
            var nearest = mine.MinBy(i => (i % wide - x) * (i % wide - x) + (i / wide - y) * (i / wide - y));
            holes.Add(new(area, new(left + (nearest % wide + 0.5) * cell, top + (nearest / wide + 0.5) * cell)));
        }
        return [.. holes.OrderByDescending(h => h.SquareMetres).Take(MostHoles)];
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
