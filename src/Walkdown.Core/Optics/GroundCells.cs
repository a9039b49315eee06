namespace Walkdown.Core.Optics;

/// <summary>A ground cut into squares, and how well the middle of each is seen.</summary>
internal sealed class GroundCells
{
    /// <summary>Cells of all grounds together, about.</summary>
    private const int MostTogether = 40_000;

    /// <summary>Cells around one ground, its corners left out too: what is long and leans has much beside it.</summary>
    private const int MostAround = 250_000;

    private const double SmallestCell = 0.25;
    private const int MostHoles = 12;

    /// <summary>Share of its area by which its cells may be more or less than it.</summary>
    private const double MostAmiss = 0.2;

    /// <summary>What a density loses where it is kept.</summary>
    private const double Rounding = 1e-6;

    /// <summary>Cells that are looked at together, each way.</summary>
    private const int Block = 16;

    private readonly double _cell,
        _left,
        _top;
    private readonly int _wide,
        _high;

    /// <summary>Pixels to a metre at the middle of each, row by row; 0: nobody sees it; not a number: it is not of this ground.</summary>
    private readonly float[] _best;

    private GroundCells(PlanGround ground, double allSquareMetres)
    {
        (_left, _top) = (ground.Corners.Min(c => c.X), ground.Corners.Min(c => c.Y));
        var (wide, high) = (ground.Corners.Max(c => c.X) - _left, ground.Corners.Max(c => c.Y) - _top);
        var cell = Math.Max(Math.Sqrt(allSquareMetres / MostTogether), Math.Sqrt(wide * high / MostAround));
        _cell = Math.Max(SmallestCell, Math.Ceiling(cell * 20) / 20);
        (_wide, _high) = ((int)Math.Ceiling(wide / _cell), (int)Math.Ceiling(high / _cell));
        _best = new float[_wide * _high];
    }

    /// <param name="ground">One that is not refused.</param>
    /// <param name="lines">Of all views.</param>
    /// <param name="allSquareMetres">Of all grounds together.</param>
    /// <param name="cancel">Ends it.</param>
    public static GroundCells Of(PlanGround ground, SightLine[] lines, double allSquareMetres, CancellationToken cancel)
    {
        var cells = new GroundCells(ground, allSquareMetres);
        var (across, down) = ((cells._wide + Block - 1) / Block, (cells._high + Block - 1) / Block);
        Parallel.For(
            0,
            across * down,
            new ParallelOptions { CancellationToken = cancel },
            block => cells.Look(ground, lines, block % across * Block, block / across * Block)
        );
        return cells;
    }

    /// <summary>Looks at one block of cells.</summary>
    private void Look(PlanGround ground, SightLine[] lines, int left, int top)
    {
        var (right, bottom) = (Math.Min(_wide, left + Block), Math.Min(_high, top + Block));
        // Who is too far away for any of it is not asked for each cell.
        SightLine[] near =
        [
            .. lines.Where(l => l.Reaches(_left + left * _cell, _top + top * _cell, _left + right * _cell, _top + bottom * _cell)),
        ];
        for (var row = top; row < bottom; row++)
        for (var column = left; column < right; column++)
        {
            var (x, y) = Middle(row * _wide + column);
            var best = 0.0;
            if (!ground.Has(x, y))
                best = double.NaN;
            else
                foreach (var line in near)
                    if (line.PerMetre(x, y, 0) is { } here && here > best && !line.IsHidden(x, y, 0))
                        best = here;
            _best[row * _wide + column] = (float)best;
        }
    }

    /// <summary>What is seen of it.</summary>
    /// <param name="ground">Whose cells these are.</param>
    /// <param name="levels">Lowest first.</param>
    public GroundCoverage Told(PlanGround ground, ImmutableArray<DetailLine> levels)
    {
        var all = _best.Count(here => !float.IsNaN(here));
        double Percent(double least) => 100.0 * _best.Count(here => here >= least * (1 - Rounding)) / all;
        // Cells that do not make up its area say nothing of it.
        var isTold = all > 0 && Math.Abs(all * _cell * _cell - ground.SquareMetres) <= MostAmiss * ground.SquareMetres;
        return new(
            ground.Name,
            ground.Level,
            ground.SquareMetres,
            isTold ? Percent(levels[0].PerMetre) : null,
            isTold ? Percent(DetailLevels.PerMetre(ground.Level)) : null,
            _cell,
            _left,
            _top,
            isTold ? Runs(levels) : [],
            isTold ? Holes() : []
        );
    }

    private (double X, double Y) Middle(int at) => (_left + (at % _wide + 0.5) * _cell, _top + (at / _wide + 0.5) * _cell);

    private ImmutableArray<CellRun> Runs(ImmutableArray<DetailLine> levels)
    {
        const int Outside = -2;
        int Reached(int at) => float.IsNaN(_best[at]) ? Outside : levels.Count(l => _best[at] >= l.PerMetre * (1 - Rounding)) - 1;
        var runs = ImmutableArray.CreateBuilder<CellRun>();
        for (var at = 0; at < _best.Length; )
        {
            var (row, from, level) = (at / _wide, at, Reached(at));
            while (at < _best.Length && at / _wide == row && Reached(at) == level)
                at++;
            if (level != Outside)
                runs.Add(new(row, from % _wide, at - from, level < 0 ? null : levels[level].Level));
        }
        return runs.ToImmutable();
    }

    private ImmutableArray<CoverageHole> Holes()
    {
        var holes = new List<CoverageHole>();
        var done = new bool[_best.Length];
        var open = new Stack<int>();
        void Open(int at, bool isThere)
        {
            if (!isThere || done[at] || _best[at] != 0)
                return;
            done[at] = true;
            open.Push(at);
        }
        for (var start = 0; start < _best.Length; start++)
        {
            Open(start, true);
            var mine = new List<int>();
            while (open.TryPop(out var at))
            {
                mine.Add(at);
                Open(at - 1, at % _wide > 0);
                Open(at + 1, at % _wide < _wide - 1);
                Open(at - _wide, at >= _wide);
                Open(at + _wide, at < _best.Length - _wide);
            }
            if (mine.Count * _cell * _cell is var area && area < 1)
                continue;
            var (x, y) = (mine.Average(i => i % _wide), mine.Average(i => i / _wide));
            // Its middle may lie beside it: the cell of it that is nearest there.
            var (atX, atY) = Middle(mine.MinBy(i => Math.Pow(i % _wide - x, 2) + Math.Pow(i / _wide - y, 2)));
            holes.Add(new(area, new(atX, atY)));
        }
        return [.. holes.OrderByDescending(h => h.SquareMetres).Take(MostHoles)];
    }
}
