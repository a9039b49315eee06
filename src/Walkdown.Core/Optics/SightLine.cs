using Walkdown.Core.Measures;

namespace Walkdown.Core.Optics;

/// <summary>How a placed view looks over the plan, and what stands in its way (docs/calculations.md, K). The ground is level, lines are
/// straight.</summary>
internal sealed class SightLine
{
    /// <summary>A wall so near is the one that it hangs on, metres.</summary>
    private const double OwnWall = 0.5;

    private readonly record struct Piece(double Ax, double Ay, double Bx, double By, double? Top);

    private readonly PlacedView _view;
    private readonly Piece[] _walls;
    private readonly double _forwardX,
        _forwardY,
        _cos,
        _sin,
        _focal,
        _acrossMost,
        _downMost;

    /// <param name="view">With an azimuth.</param>
    /// <param name="ground">Walls, and where north is.</param>
    /// <param name="least">Pixels to a metre under which nothing is seen.</param>
    public SightLine(PlacedView view, SiteGround ground, double least)
    {
        var design = view.Design;
        _view = view;
        var turn = (design.AzimuthDeg ?? 0) + ground.NorthDeg;
        (_forwardX, _forwardY) = (Angle.Sin(turn), -Angle.Cos(turn));
        (_cos, _sin, _focal) = (Angle.Cos(design.TiltDeg), Angle.Sin(design.TiltDeg), design.FocalPixels);
        (_acrossMost, _downMost) = (design.PixelsWide / 2.0 / _focal, design.PixelsHigh / 2.0 / _focal);
        // Beyond that nothing is seen, wherever it lies in the picture.
        DeepestMetres = _focal / least;
        FarthestMetres = DeepestMetres * Math.Sqrt(1 + _acrossMost * _acrossMost + _downMost * _downMost);
        _walls =
        [
            .. from wall in ground.Walls
            from i in Enumerable.Range(0, wall.Corners.Length - 1)
            let piece = new Piece(wall.Corners[i].X, wall.Corners[i].Y, wall.Corners[i + 1].X, wall.Corners[i + 1].Y, wall.HeightMetres)
            where Apart(piece) <= FarthestMetres
            select piece,
        ];
    }

    /// <summary>The view.</summary>
    public PlacedView View => _view;

    /// <summary>Nothing deeper before the lens is seen.</summary>
    public double DeepestMetres { get; }

    /// <summary>Nor anything farther from it.</summary>
    public double FarthestMetres { get; }

    /// <summary>Whether anything between these edges could be near enough, and not behind it.</summary>
    public bool Reaches(double left, double top, double right, double bottom)
    {
        var (x, y) = (Math.Clamp(_view.At.X, left, right) - _view.At.X, Math.Clamp(_view.At.Y, top, bottom) - _view.At.Y);
        if (x * x + y * y > FarthestMetres * FarthestMetres)
            return false;
        // Deepest before the lens at one of the corners: what is behind it there is behind it everywhere.
        var along = Math.Max(_forwardX * (left - _view.At.X), _forwardX * (right - _view.At.X));
        along += Math.Max(_forwardY * (top - _view.At.Y), _forwardY * (bottom - _view.At.Y));
        return along * _cos + _view.Design.HeightMetres * _sin >= 0.05;
    }

    /// <summary>A point of its own along and beside its axis, on the plan.</summary>
    public PlanPoint On(double alongMetres, double asideMetres) =>
        new(_view.At.X + alongMetres * _forwardX - asideMetres * _forwardY, _view.At.Y + alongMetres * _forwardY + asideMetres * _forwardX);

    /// <summary>Pixels to a metre of a point as it lies in the picture; null: it is not in it. Walls are not asked.</summary>
    public double? PerMetre(double x, double y, double height)
    {
        var (dx, dy) = (x - _view.At.X, y - _view.At.Y);
        if (dx * dx + dy * dy > FarthestMetres * FarthestMetres)
            return null;
        var (along, aside) = (dx * _forwardX + dy * _forwardY, dy * _forwardX - dx * _forwardY);
        var over = _view.Design.HeightMetres - height;
        var depth = along * _cos + over * _sin;
        return
            depth < 0.05
            || depth > DeepestMetres
            || Math.Abs(aside) > depth * _acrossMost + 1e-9
            || Math.Abs(over * _cos - along * _sin) > depth * _downMost + 1e-9
            ? null
            : _focal / depth;
    }

    /// <summary>A wall stands between the lens and a point.</summary>
    public bool IsHidden(double x, double y, double height)
    {
        foreach (var wall in _walls)
            if (
                Crosses(wall, x, y) is { } share
                && (wall.Top is not { } top || _view.Design.HeightMetres + (height - _view.Design.HeightMetres) * share < top)
            )
                return true;
        return false;
    }

    /// <summary>What is seen of the ground, around its edge: as far as it goes into the picture, and to the first wall that nobody looks
    /// over.</summary>
    public ImmutableArray<PlanPoint> Outline()
    {
        const double StepDeg = 2;
        var (near, far) = (new List<PlanPoint>(), new List<PlanPoint>());
        var high = _view.Design.HeightMetres;
        for (var turn = -180.0; turn < 180; turn += StepDeg)
        {
            var (cos, sin) = (Angle.Cos(turn), Angle.Sin(turn));
            var (from, to) = (0.0, FarthestMetres);
            // Each edge of the picture is one line: r * of <= most.
            void Bound(double of, double most)
            {
                if (of > 1e-12)
                    to = Math.Min(to, most / of);
                else if (of < -1e-12)
                    from = Math.Max(from, most / of);
                else if (most < 0)
                    to = -1;
            }
            Bound(-cos * (_sin + _downMost * _cos), -high * (_cos - _downMost * _sin));
            Bound(cos * (_sin - _downMost * _cos), high * (_cos + _downMost * _sin));
            Bound(Math.Abs(sin) - _acrossMost * cos * _cos, _acrossMost * high * _sin);
            Bound(cos * _cos, DeepestMetres - high * _sin);
            if (to - from < 0.02)
                continue;
            var end = On(to * cos, to * sin);
            foreach (var wall in _walls)
                if ((wall.Top is not { } top || top >= high) && Crosses(wall, end.X, end.Y) is { } share)
                {
                    to = Math.Min(to, to * share);
                    end = On(to * cos, to * sin);
                }
            if (to <= from)
                continue;
            near.Add(On(from * cos, from * sin));
            far.Add(end);
        }
        near.Reverse();
        return [.. far, .. near];
    }

    /// <summary>Where between lens and point a wall stands, 0 to 1; null: it does not, or it is the one that the camera hangs on.</summary>
    private double? Crosses(in Piece wall, double x, double y)
    {
        var (px, py) = (x - _view.At.X, y - _view.At.Y);
        var (wx, wy) = (wall.Bx - wall.Ax, wall.By - wall.Ay);
        var cross = px * wy - py * wx;
        if (Math.Abs(cross) < 1e-12)
            return null;
        var (ax, ay) = (wall.Ax - _view.At.X, wall.Ay - _view.At.Y);
        var (share, along) = ((ax * wy - ay * wx) / cross, (ax * py - ay * px) / cross);
        return along is >= 0 and <= 1 && share < 1 && share * Math.Sqrt(px * px + py * py) > OwnWall ? share : null;
    }

    private double Apart(in Piece wall)
    {
        var (wx, wy) = (wall.Bx - wall.Ax, wall.By - wall.Ay);
        var (px, py) = (_view.At.X - wall.Ax, _view.At.Y - wall.Ay);
        var length = wx * wx + wy * wy;
        var share = length > 0 ? Math.Clamp((px * wx + py * wy) / length, 0, 1) : 0;
        var (dx, dy) = (px - share * wx, py - share * wy);
        return Math.Sqrt(dx * dx + dy * dy);
    }
}
