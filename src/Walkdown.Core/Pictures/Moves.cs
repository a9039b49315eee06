namespace Walkdown.Core.Pictures;

/// <summary>How the points of one picture come to lie in another, by four numbers. Points are counted from the middle of the
/// picture.</summary>
internal interface IMove<TSelf>
    where TSelf : struct, IMove<TSelf>
{
    /// <summary>Where a point comes to lie.</summary>
    void Map(float x, float y, out float u, out float v);

    /// <summary>How the value there changes with each of the four, of its slopes.</summary>
    void Slopes(float x, float y, float u, float v, float gx, float gy, Span<float> into);

    /// <summary>After a small step of the four.</summary>
    TSelf After(ReadOnlySpan<double> step);

    /// <summary>The same on a picture so many times the size.</summary>
    TSelf Sized(double times);

    /// <summary>The second shows things so many times as large.</summary>
    double Scale { get; }
}

/// <summary>Turned, zoomed and shifted.</summary>
/// <param name="A">Scale times the cosine of the turn.</param>
/// <param name="B">Scale times its sine; clockwise positive.</param>
/// <param name="X">Shift of the middle, right.</param>
/// <param name="Y">Shift of the middle, down.</param>
internal readonly record struct SimilarMove(double A, double B, double X, double Y) : IMove<SimilarMove>
{
    public static SimilarMove Of(double turnRad, double scale, double x, double y) =>
        new(scale * Math.Cos(turnRad), scale * Math.Sin(turnRad), x, y);

    public double Scale => double.Hypot(A, B);

    public double TurnRad => Math.Atan2(B, A);

    public void Map(float x, float y, out float u, out float v)
    {
        u = (float)(A * x - B * y + X);
        v = (float)(B * x + A * y + Y);
    }

    public void Slopes(float x, float y, float u, float v, float gx, float gy, Span<float> into)
    {
        into[0] = gx * x + gy * y;
        into[1] = -gx * y + gy * x;
        into[2] = gx;
        into[3] = gy;
    }

    public SimilarMove After(ReadOnlySpan<double> step) => new(A + step[0], B + step[1], X + step[2], Y + step[3]);

    public SimilarMove Sized(double times) => this with { X = X * times, Y = Y * times };
}

/// <summary>A camera turned about itself, and zoomed, behind a lens that bends lines by one number: what a lens without distortion, or with
/// that of most wide ones, really does.</summary>
internal readonly struct TurnMove : IMove<TurnMove>
{
    private readonly double _xx,
        _xy,
        _xz,
        _yx,
        _yy,
        _yz,
        _zx,
        _zy,
        _zz,
        _focal,
        _zoom,
        _bend;

    /// <param name="rotation">Of the rays, row by row: a ray of the first camera as the second one meets it.</param>
    /// <param name="focal">Pixels, of the first picture, in its middle.</param>
    /// <param name="zoom">The second one's against it.</param>
    /// <param name="bend">Of the lens (<see cref="Lens"/>), to pixels squared; 0: none.</param>
    private TurnMove(ReadOnlySpan<double> rotation, double focal, double zoom, double bend)
    {
        (_xx, _xy, _xz) = (rotation[0], rotation[1], rotation[2]);
        (_yx, _yy, _yz) = (rotation[3], rotation[4], rotation[5]);
        (_zx, _zy, _zz) = (rotation[6], rotation[7], rotation[8]);
        (_focal, _zoom, _bend) = (focal, zoom, bend);
    }

    /// <summary>A camera whose picture moved so: the ray of its middle comes to lie at the shift, and it turned about its axis as the
    /// picture did.</summary>
    /// <param name="rough">In pixels of a size.</param>
    /// <param name="lens">Of the camera, in pixels of that size.</param>
    public static TurnMove Of(SimilarMove rough, Lens lens)
    {
        var (sin, cos) = Math.SinCos(rough.TurnRad);
        double[] about = [cos, -sin, 0, sin, cos, 0, 0, 0, 1];
        var (x, y) = lens.Straight(rough.X, rough.Y);
        (x, y) = (x / lens.Focal / rough.Scale, y / lens.Focal / rough.Scale);
        var size = double.Hypot(x, y);
        var angle = Math.Atan(size);
        var aside = size < 1e-12 ? Turned(0, 0, 0) : Turned(-y / size * angle, x / size * angle, 0);
        return new(Times(aside, about), lens.Focal, rough.Scale, lens.Bend);
    }

    /// <summary>Rows of the rotation.</summary>
    public double[] Rotation => [_xx, _xy, _xz, _yx, _yy, _yz, _zx, _zy, _zz];

    public double Scale => _zoom;

    /// <summary>The same turn behind another lens.</summary>
    /// <param name="lens">In pixels of the same size.</param>
    public TurnMove Behind(Lens lens) => new(Rotation, lens.Focal, _zoom, lens.Bend);

    public void Map(float x, float y, out float u, out float v)
    {
        var straight = _focal * (1 - _bend * (x * x + y * y));
        var (rx, ry) = (x / straight, y / straight);
        var z = _zx * rx + _zy * ry + _zz;
        if (z < 1e-3)
        {
            (u, v) = (float.NegativeInfinity, float.NegativeInfinity);
            return;
        }
        var f = _focal * _zoom / z;
        var (p, q) = ((_xx * rx + _xy * ry + _xz) * f, (_yx * rx + _yy * ry + _yz) * f);
        if (_bend != 0)
        {
            // Written out: this is done for each pixel (Lens.Bent).
            var inside = 1 + 4 * _bend * (p * p + q * q);
            var bent = inside > 0 ? 2 / (1 + Math.Sqrt(inside)) : double.NegativeInfinity;
            (p, q) = (p * bent, q * bent);
        }
        (u, v) = ((float)p, (float)q);
    }

    public void Slopes(float x, float y, float u, float v, float gx, float gy, Span<float> into)
    {
        var f = (float)(_focal * _zoom);
        if (_bend != 0)
        {
            // Where the point lies without the bend, and the picture's slopes there: along its radius the lens squeezes otherwise than
            // across it.
            var r = u * u + v * v;
            var bend = (float)_bend;
            var across = 1 - bend * r;
            var along = across * across / (1 + bend * r);
            var outward = r > 0 ? (along - across) * (gx * u + gy * v) / r : 0;
            (gx, gy) = (across * gx + outward * u, across * gy + outward * v);
            (u, v) = (u / across, v / across);
        }
        // A small turn about right, down and forward moves the ray by their cross product; then the zoom.
        into[0] = -gx * u * v / f - gy * (f + v * v / f);
        into[1] = gx * (f + u * u / f) + gy * u * v / f;
        into[2] = -gx * v + gy * u;
        into[3] = gx * u + gy * v;
    }

    public TurnMove After(ReadOnlySpan<double> step)
    {
        var small = Turned(step[0], step[1], step[2]);
        return new(Times(small, Rotation), _focal, _zoom * Math.Exp(step[3]), _bend);
    }

    public TurnMove Sized(double times) => new(Rotation, _focal * times, _zoom, _bend / (times * times));

    /// <summary>The turn by a vector, radians (Rodrigues).</summary>
    internal static double[] Turned(double x, double y, double z)
    {
        var angle = Math.Sqrt(x * x + y * y + z * z);
        if (angle < 1e-15)
            return [1, 0, 0, 0, 1, 0, 0, 0, 1];
        (x, y, z) = (x / angle, y / angle, z / angle);
        var (s, c) = Math.SinCos(angle);
        var k = 1 - c;
        return
        [
            c + x * x * k,
            x * y * k - z * s,
            x * z * k + y * s,
            y * x * k + z * s,
            c + y * y * k,
            y * z * k - x * s,
            z * x * k - y * s,
            z * y * k + x * s,
            c + z * z * k,
        ];
    }

    /// <summary>One after the other: the second one's rows times the first.</summary>
    internal static double[] Times(ReadOnlySpan<double> a, ReadOnlySpan<double> b)
    {
        var all = new double[9];
        for (var r = 0; r < 3; r++)
        for (var c = 0; c < 3; c++)
            all[3 * r + c] = a[3 * r] * b[c] + a[3 * r + 1] * b[3 + c] + a[3 * r + 2] * b[6 + c];
        return all;
    }
}
