using System.Numerics;

namespace Walkdown.StandIns.Scenes;

/// <summary>Something that stands in one camera's view alone.</summary>
/// <param name="Kind">lamp: shines by night; mirror: flat, shows what lies before it; opening: bright by day, as a glazed door is from
/// within; figure: dark, before it.</param>
/// <param name="Right">Right of the agreed axis, degrees.</param>
/// <param name="Far">Along the ground, metres.</param>
/// <param name="Low">Its lower edge above the ground, metres.</param>
/// <param name="Wide">Metres.</param>
/// <param name="High">Metres.</param>
/// <param name="Faces">Turned clockwise by so much from facing the camera, degrees.</param>
public sealed record SceneThing(
    string Kind,
    double Right,
    double Far,
    double Low = 0,
    double Wide = 0.6,
    double High = 0.4,
    double Faces = 0
);

/// <summary>A made-up place in three dimensions: ground with lanes and kerbs, walls with windows, doors and signs, poles, parked vehicles.
/// Drawn by following each pixel's ray, so that a camera which is turned moves its picture as glass would. Repeatable by its
/// seed.</summary>
public sealed class Scene
{
    private readonly record struct Box(
        float X,
        float Y,
        float Z,
        float Wide,
        float Deep,
        float High,
        float Cos,
        float Sin,
        int Kind,
        int Seed
    );

    private readonly List<Box> _boxes = [];
    private readonly int _seed;

    /// <summary>Another seed is another place.</summary>
    public int Seed => _seed;

    private const int Lamp = 6,
        Mirror = 7,
        Opening = 8,
        Figure = 9;

    /// <param name="seed">Another seed is another place.</param>
    /// <param name="things">What stands in it besides.</param>
    /// <param name="axisDeg">From which they are counted, from north clockwise.</param>
    public Scene(int seed, IEnumerable<SceneThing>? things = null, double axisDeg = 0)
    {
        _seed = seed;
        foreach (var thing in things ?? [])
        {
            var (sin, cos) = Math.SinCos((axisDeg + thing.Right) * Math.PI / 180);
            var (turned, along) = Math.SinCos((axisDeg + thing.Right + thing.Faces) * Math.PI / 180);
            _boxes.Add(
                new(
                    (float)(thing.Far * sin),
                    (float)(thing.Far * cos),
                    (float)thing.Low,
                    (float)(thing.Wide / 2),
                    0.05f,
                    (float)thing.High,
                    (float)along,
                    (float)-turned,
                    thing.Kind switch
                    {
                        "lamp" => Lamp,
                        "mirror" => Mirror,
                        "opening" => Opening,
                        "figure" => Figure,
                        _ => throw new ArgumentException($"No such thing: {thing.Kind}", nameof(things)),
                    },
                    seed
                )
            );
        }
        var random = new Random(seed);
        // Buildings around the yard, poles and vehicles in it.
        for (var i = 0; i < 14; i++)
        {
            var (angle, far) = (random.NextDouble() * 2 * Math.PI, 22 + random.NextDouble() * 50);
            Add(angle, far, 7 + random.NextDouble() * 18, 6 + random.NextDouble() * 10, 3 + random.NextDouble() * 9, 0, random);
        }
        for (var i = 0; i < 16; i++)
        {
            var (angle, far) = (random.NextDouble() * 2 * Math.PI, 7 + random.NextDouble() * 34);
            Add(angle, far, 4.2, 1.8, 1.35 + random.NextDouble() * 0.5, 1, random);
        }
        for (var i = 0; i < 14; i++)
        {
            var (angle, far) = (random.NextDouble() * 2 * Math.PI, 6 + random.NextDouble() * 40);
            Add(angle, far, 0.22, 0.22, 3 + random.NextDouble() * 4, 2, random);
        }
        for (var i = 0; i < 10; i++)
        {
            var (angle, far) = (random.NextDouble() * 2 * Math.PI, 8 + random.NextDouble() * 30);
            Add(angle, far, 0.9 + random.NextDouble() * 2, 0.1, 0.8 + random.NextDouble(), 3, random, 1 + random.NextDouble());
        }
    }

    private void Add(double angle, double far, double wide, double deep, double high, int kind, Random random, double z = 0)
    {
        var yaw = random.NextDouble() * Math.PI;
        _boxes.Add(
            new(
                (float)(far * Math.Sin(angle)),
                (float)(far * Math.Cos(angle)),
                (float)z,
                (float)(wide / 2),
                (float)(deep / 2),
                (float)high,
                (float)Math.Cos(yaw),
                (float)Math.Sin(yaw),
                kind,
                random.Next()
            )
        );
    }

    /// <summary>Grey levels of what a head sees, row by row.</summary>
    /// <param name="pose">Of the head.</param>
    /// <param name="mood">Light, weather, what moves.</param>
    /// <param name="width">Pixels across.</param>
    /// <param name="height">Pixels down.</param>
    public byte[] Draw(ScenePose pose, SceneMood mood, int width, int height)
    {
        var levels = new byte[width * height];
        Render(pose, mood, width, height, (at, level, _) => levels[at] = (byte)Math.Clamp(Math.Round(level), 0, 255));
        return levels;
    }

    /// <summary>The same in colour: red, green, blue and 255 for each pixel. By night a camera sees grey.</summary>
    public byte[] DrawColours(ScenePose pose, SceneMood mood, int width, int height)
    {
        var colours = new byte[4 * width * height];
        var day = (float)mood.Daylight;
        Render(
            pose,
            mood,
            width,
            height,
            (at, level, tint) =>
            {
                colours[4 * at] = Of(level * (1 + day * (tint.X - 1)));
                colours[4 * at + 1] = Of(level * (1 + day * (tint.Y - 1)));
                colours[4 * at + 2] = Of(level * (1 + day * (tint.Z - 1)));
                colours[4 * at + 3] = 255;
            }
        );
        return colours;

        static byte Of(double level) => (byte)Math.Clamp(Math.Round(level), 0, 255);
    }

    private void Render(ScenePose pose, SceneMood mood, int width, int height, Action<int, double, Vector3> put)
    {
        var all = With(pose, mood);
        // The field is what the picture shows from edge to edge, bend and all.
        var focal = width / 2.0 * (1 + pose.Barrel) / Math.Tan(pose.Field * Math.PI / 360);
        var (sa, ca) = Math.SinCos(pose.Azimuth * Math.PI / 180);
        var (st, ct) = Math.SinCos(pose.Tilt * Math.PI / 180);
        var (sr, cr) = Math.SinCos(pose.Roll * Math.PI / 180);
        // Forward, right and down of the camera in the world: east, north, up.
        var forward = new Vector3((float)(sa * ct), (float)(ca * ct), (float)-st);
        var right0 = new Vector3((float)ca, (float)-sa, 0);
        var down0 = new Vector3((float)(-sa * st), (float)(-ca * st), (float)-ct);
        var (right, down) = ((float)cr * right0 + (float)sr * down0, (float)cr * down0 - (float)sr * right0);
        var (ss, cs) = Math.SinCos(mood.SunAzimuth * Math.PI / 180);
        var (se, ce) = Math.SinCos(mood.SunElevation * Math.PI / 180);
        var sun = ((float)(ss * ce), (float)(cs * ce), (float)se);
        var from = new Vector3((float)pose.X, (float)pose.Y, (float)pose.Height);
        var half = width / 2.0;
        Box[] lamps = mood.Daylight < 1 ? [.. _boxes.Where(b => b.Kind == Lamp)] : [];
        // Four rays a pixel: edges come out as a lens would give them. Of a large picture, which is blurred by its lens, one.
        var rays = width > 1000 ? 1 : 4;
        var (across, deep) = ((width + Tile - 1) / Tile, (height + Tile - 1) / Tile);
        Parallel.For(
            0,
            across * deep,
            tile =>
            {
                var (x0, y0) = (tile % across * Tile, tile / across * Tile);
                var (x1, y1) = (Math.Min(width, x0 + Tile), Math.Min(height, y0 + Tile));
                var near = Near(
                    all,
                    from,
                    Looks((x0 + x1) / 2.0, (y0 + y1) / 2.0),
                    Looks(x0, y0),
                    Looks(x1, y1),
                    Looks(x0, y1),
                    Looks(x1, y0)
                );
                for (var y = y0; y < y1; y++)
                for (var x = x0; x < x1; x++)
                {
                    float light = 0;
                    var tint = Vector3.Zero;
                    bool? shaded = null;
                    for (var part = 0; part < rays; part++)
                    {
                        var look = rays == 1 ? Looks(x + 0.5, y + 0.5) : Looks(x + 0.25 + 0.5 * (part & 1), y + 0.25 + 0.5 * (part >> 1));
                        var met = Ray(
                            all,
                            near,
                            from.X,
                            from.Y,
                            from.Z,
                            look.X,
                            look.Y,
                            look.Z,
                            (float)(1 / focal),
                            sun,
                            (float)mood.Daylight,
                            (float)mood.Infrared,
                            ref shaded
                        );
                        var level0 = met.Level + (lamps.Length > 0 ? Glow(lamps, from, look) : 0);
                        light += level0;
                        tint += level0 * met.Tint;
                    }
                    tint = light > 0 ? tint / light : Vector3.One;
                    var level = light / rays * mood.Exposure;
                    if (mood.Rain > 0)
                    {
                        var streak = Value(x * 0.9f + y * 0.08f, y * 0.03f, mood.Seed + 77);
                        if (streak > 1 - 0.12 * mood.Rain)
                            level += 60 * mood.Rain;
                    }
                    if (mood.Noise > 0)
                        level += mood.Noise * Bell(x, y, mood.Seed);
                    put(y * width + x, level, tint);
                }
            }
        );

        Vector3 Looks(double x, double y)
        {
            var (u, v) = ((x - half) / focal, (y - height / 2.0) / focal);
            if (pose.Barrel != 0)
            {
                var bend = 1 + pose.Barrel * (u * u + v * v) / (half * half / (focal * focal));
                (u, v) = (u * bend, v * bend);
            }
            return Vector3.Normalize(forward + (float)u * right + (float)v * down);
        }
    }

    private const int Tile = 32;

    /// <summary>The place with what moves in it.</summary>
    private Box[] With(ScenePose pose, SceneMood mood)
    {
        var boxes = _boxes.ToList();
        var moving = new Random(mood.Seed * 7919 + 13);
        for (var i = 0; i < mood.Moving; i++)
        {
            // Somewhere before the camera, a lorry or a person.
            var (aside, far) = ((moving.NextDouble() - 0.5) * 0.8, 11 + moving.NextDouble() * 18);
            var angle = pose.Azimuth * Math.PI / 180 + aside;
            var isLorry = i % 2 == 0;
            var yaw = moving.NextDouble() * Math.PI;
            boxes.Add(
                new(
                    (float)(pose.X + far * Math.Sin(angle)),
                    (float)(pose.Y + far * Math.Cos(angle)),
                    0,
                    isLorry ? 3.5f : 0.28f,
                    isLorry ? 1.2f : 0.2f,
                    isLorry ? 3.2f : 1.75f,
                    (float)Math.Cos(yaw),
                    (float)Math.Sin(yaw),
                    isLorry ? 4 : 5,
                    moving.Next()
                )
            );
        }
        return [.. boxes];
    }

    /// <summary>A lamp that shines into a lens spreads around itself.</summary>
    private static float Glow(Box[] lamps, Vector3 from, Vector3 look)
    {
        const float Width = 0.02f,
            Strength = 170;
        var glow = 0f;
        foreach (var lamp in lamps)
        {
            var to = Vector3.Normalize(new Vector3(lamp.X, lamp.Y, lamp.Z + lamp.High / 2) - from);
            glow += Strength * MathF.Exp(-MathF.Acos(Math.Clamp(Vector3.Dot(to, look), -1, 1)) / Width);
        }
        return glow;
    }

    /// <summary>What rays of one part of the picture can meet: all that the cone around them touches.</summary>
    private static int[] Near(Box[] boxes, Vector3 from, Vector3 middle, params ReadOnlySpan<Vector3> corners)
    {
        var widest = 1f;
        foreach (var corner in corners)
            widest = Math.Min(widest, Vector3.Dot(middle, corner));
        var cone = MathF.Acos(Math.Clamp(widest, -1, 1));
        var near = new List<int>();
        for (var i = 0; i < boxes.Length; i++)
        {
            var b = boxes[i];
            var to = new Vector3(b.X, b.Y, b.Z + b.High / 2) - from;
            var radius = MathF.Sqrt(b.Wide * b.Wide + b.Deep * b.Deep + b.High * b.High / 4);
            var far = to.Length();
            if (far <= radius || MathF.Acos(Math.Clamp(Vector3.Dot(middle, to) / far, -1, 1)) <= cone + MathF.Asin(radius / far) + 1e-3f)
                near.Add(i);
        }
        return [.. near];
    }

    /// <summary>Grey of what a ray meets, and its colour against grey.</summary>
    private (float Level, Vector3 Tint) Ray(
        Box[] boxes,
        int[] near,
        float ox,
        float oy,
        float oz,
        float dx,
        float dy,
        float dz,
        float spread,
        (float X, float Y, float Z) sun,
        float day,
        float infrared,
        ref bool? shaded
    )
    {
        var best = dz < -1e-6f ? -oz / dz : float.PositiveInfinity;
        var hit = -1;
        int side = 0;
        float a = 0,
            b = 0,
            facing = 0;
        foreach (var i in near)
            if (Meets(boxes[i], ox, oy, oz, dx, dy, dz, best, out var at, out var face, out var s, out var t, out var lit, sun))
                (best, hit, side, a, b, facing) = (at, i, face, s, t, lit);
        if (float.IsPositiveInfinity(best) || best > 600)
        {
            // Sky: brighter at the horizon, with slow clouds.
            var cloud = Value(dx * 6 / (dz + 0.3f), dy * 6 / (dz + 0.3f), _seed + 5);
            var sky = (150 + 70 * (1 - Math.Clamp(dz * 2, 0, 1)) + 22 * cloud) * (0.06f + 0.94f * day);
            return (sky, Tint(0.90f - 0.10f * Math.Clamp(dz * 2, 0, 1), 1.01f, 1.16f));
        }
        if (hit >= 0 && boxes[hit].Kind == Lamp && day < 1)
            return (1000, Vector3.One);
        if (hit >= 0 && boxes[hit].Kind == Mirror && side is 2 or 3 && !IsFrame(boxes[hit], a, b, 0.07f))
        {
            // Turned back about its face, from where it was met; another mirror is not followed.
            var (nx, ny) = (-boxes[hit].Sin, boxes[hit].Cos);
            var into = 2 * (dx * nx + dy * ny);
            bool? unasked = null;
            var shown = Ray(
                boxes,
                [.. Enumerable.Range(0, boxes.Length).Where(i => boxes[i].Kind != Mirror)],
                ox + best * dx,
                oy + best * dy,
                oz + best * dz,
                dx - into * nx,
                dy - into * ny,
                dz,
                spread,
                sun,
                day,
                infrared,
                ref unasked
            );
            return (0.9f * shown.Level, shown.Tint);
        }
        if (hit >= 0 && boxes[hit].Kind == Opening && day >= 1 && !IsFrame(boxes[hit], a % 1.5f, b, 0.06f))
            return (252 - 6 * Hash((int)MathF.Floor(a * 3), (int)MathF.Floor(b * 3), _seed), Vector3.One);
        var grain = best * spread;
        float shade,
            lamps;
        if (hit < 0)
        {
            var (gx, gy) = (ox + best * dx, oy + best * dy);
            shade = Ground(gx, gy, grain);
            lamps = day < 1 ? Lamps(gx, gy) : 0;
            if (day > 0.2f && (shaded ??= IsShaded(boxes, gx, gy, sun)))
                shade *= 0.55f;
        }
        else
        {
            shade = Wall(boxes[hit], side, a, b, grain) * (0.55f + 0.45f * Math.Max(0, facing));
            lamps = day < 1 ? Lamps(ox + best * dx, oy + best * dy) * 0.8f : 0;
        }
        if (day >= 1)
            return (shade, hit < 0 ? Tint(1.03f, 1, 0.93f) : Paint(boxes[hit], side));
        // By night: what lamps give, and the camera's own light, which fades with distance.
        var night = 0.12f + 0.5f * lamps + infrared * MathF.Exp(-best / 14);
        return (shade * (day + (1 - day) * night), hit < 0 ? Tint(1.03f, 1, 0.93f) : Paint(boxes[hit], side));
    }

    /// <summary>Something stands between the sun and a spot of the ground; asked once a pixel.</summary>
    private static bool IsShaded(Box[] boxes, float x, float y, (float X, float Y, float Z) sun)
    {
        foreach (ref readonly var box in boxes.AsSpan())
            if (Meets(box, x, y, 0.01f, sun.X, sun.Y, sun.Z, 60, out _, out _, out _, out _, out _, sun))
                return true;
        return false;
    }

    /// <summary>A colour whose grey is 1.</summary>
    private static Vector3 Tint(float red, float green, float blue) =>
        new Vector3(red, green, blue) / (0.299f * red + 0.587f * green + 0.114f * blue);

    /// <summary>Of vehicles: white, grey, blue, red, green, sand.</summary>
    private static readonly Vector3[] Coats =
    [
        Vector3.One,
        Tint(0.95f, 1, 1.06f),
        Tint(0.62f, 0.9f, 1.5f),
        Tint(1.7f, 0.75f, 0.65f),
        Tint(0.75f, 1.1f, 0.8f),
        Tint(1.2f, 1, 0.72f),
    ];

    /// <summary>What a thing is painted with.</summary>
    private static Vector3 Paint(in Box box, int side) =>
        box.Kind switch
        {
            0 => Tint(0.95f + 0.22f * Hash(box.Seed, 11, 1), 1, 0.78f + 0.3f * Hash(box.Seed, 12, 1)),
            1 or 4 => Coats[(int)(Hash(box.Seed, 13, 1) * Coats.Length)],
            3 => side is 2 or 3 ? Tint(0.8f + 0.4f * Hash(box.Seed, 15, 1), 1, 0.7f + 0.7f * Hash(box.Seed, 16, 1)) : Vector3.One,
            5 => Tint(1.2f, 0.9f, 0.7f + 0.6f * Hash(box.Seed, 17, 1)),
            _ => Tint(0.97f, 1, 1.03f),
        };

    private float Ground(float x, float y, float grain)
    {
        var shade = 92f + 34 * (Value(x * 0.12f, y * 0.12f, _seed + 1) - 0.5f);
        if (Fade(0.7f, grain) is > 0 and var rough)
            shade += 26 * rough * (Value(x * 1.4f, y * 1.4f, _seed) - 0.5f);
        if (Fade(0.15f, grain) is > 0 and var fine)
            shade += 22 * fine * (Value(x * 7, y * 7, _seed + 2) - 0.5f);
        // Lanes, bays and a kerb.
        if (Math.Abs(Wrap(x, 6.5f)) < 0.09f && Wrap(y, 5) > -1.2f)
            shade += 95 * Fade(0.18f, grain);
        if (Math.Abs(Wrap(y + 3, 17)) < 0.08f)
            shade += 80 * Fade(0.16f, grain);
        if (Math.Abs(y - 14) < 0.18f || Math.Abs(x + 11) < 0.18f)
            shade += 55 * Fade(0.36f, grain);
        if (y > 14)
            shade += ((int)MathF.Floor(x * 0.8f) + (int)MathF.Floor(y * 0.8f)) % 2 == 0 ? 12 * Fade(1.2f, grain) : 0;
        // Patches of newer asphalt.
        if (Hash((int)MathF.Floor(x / 3.4f), (int)MathF.Floor(y / 2.7f), _seed + 9) > 0.86f)
            shade -= 24;
        return shade;
    }

    private float Wall(Box box, int side, float a, float b, float grain)
    {
        switch (box.Kind)
        {
            case 0:
                var wall = 120f + 70 * Hash(box.Seed, side, 3);
                wall += 16 * Fade(0.24f, grain) * (Value(a * 4, b * 8, box.Seed + side) - 0.5f);
                var (column, row) = ((int)MathF.Floor(a / 2.3f), (int)MathF.Floor(b / 2.9f));
                var (wx, wy) = (a - column * 2.3f, b - row * 2.9f);
                if (wx is > 0.5f and < 1.8f && wy is > 0.9f and < 2.2f && Hash(column * 31 + side, row, box.Seed) > 0.25f)
                    wall = 30 + 60 * Hash(column, row + side * 17, box.Seed + 1) + (Math.Abs(wx - 1.15f) < 0.05f ? 80 : 0);
                else if (row == 0 && wy < 2.1f && Hash(column, side, box.Seed + 2) > 0.7f && wx is > 0.6f and < 1.6f)
                    wall = 50 + 30 * Hash(column, 5, box.Seed);
                return wall;
            case 1:
                return b > 0.75f && b < 1.25f ? 35 : 70 + 130 * Hash(box.Seed, 1, 2);
            case 3:
                var sign = 200f;
                if (Hash((int)MathF.Floor(a * 7), (int)MathF.Floor(b * 7), box.Seed) > 0.55f)
                    sign -= 150 * Fade(0.3f, grain);
                return sign;
            case 4:
                return b < 0.9f
                    ? 40
                    : 150
                        + 60 * Hash(box.Seed, (int)MathF.Floor(b), side)
                        - (Hash((int)MathF.Floor(a * 2), (int)MathF.Floor(b * 2), box.Seed) > 0.8f ? 70 : 0);
            case 5:
                return b > 1.45f ? 150
                    : b > 0.8f ? 60 + 110 * Hash(box.Seed, 7, 1)
                    : 45;
            case Mirror:
                return 225;
            case Opening:
                return 60;
            case Figure:
                return 26 + 10 * Hash((int)MathF.Floor(a * 5), (int)MathF.Floor(b * 5), box.Seed);
            default:
                return 105 + 50 * Hash(box.Seed, 2, 2);
        }
    }

    /// <summary>On the border of a side, or on a bar across it.</summary>
    private static bool IsFrame(in Box box, float a, float b, float wide) =>
        a < wide || b < wide || 2 * box.Wide - a < wide || box.High - b < wide;

    private float Lamps(float x, float y)
    {
        var sum = 0f;
        for (var i = 0; i < 4; i++)
        {
            var (lx, ly) = (26 * (Hash(i, 1, _seed + 40) - 0.5f) * 2, 26 * (Hash(i, 2, _seed + 40) - 0.5f) * 2);
            sum += MathF.Exp(-((x - lx) * (x - lx) + (y - ly) * (y - ly)) / 90);
        }
        return Math.Min(1.4f, sum);
    }

    /// <summary>Detail finer than a pixel is not drawn: it would flicker.</summary>
    private static float Fade(float detail, float grain) => Math.Clamp(1.4f - grain / detail, 0, 1);

    private static float Wrap(float v, float by) => v - by * MathF.Round(v / by);

    private static bool Meets(
        in Box box,
        float ox,
        float oy,
        float oz,
        float dx,
        float dy,
        float dz,
        float before,
        out float at,
        out int side,
        out float a,
        out float b,
        out float facing,
        (float X, float Y, float Z) sun
    )
    {
        (at, side, a, b, facing) = (0, 0, 0, 0, 0);
        var (px, py) = (ox - box.X, oy - box.Y);
        // Far to the side: most boxes are told apart by this alone.
        var along = -(px * dx + py * dy);
        var flat = dx * dx + dy * dy;
        var reach = box.Wide + box.Deep;
        if (flat > 1e-9f)
        {
            var t0 = Math.Max(0, along / flat);
            var (qx, qy) = (px + t0 * dx, py + t0 * dy);
            if (qx * qx + qy * qy > reach * reach)
                return false;
        }
        var (lx, ly) = (box.Cos * px + box.Sin * py, -box.Sin * px + box.Cos * py);
        var (mx, my) = (box.Cos * dx + box.Sin * dy, -box.Sin * dx + box.Cos * dy);
        var lz = oz - box.Z;
        float from = 1e-3f,
            to = before;
        var face = -1;
        if (!Slab(lx, mx, -box.Wide, box.Wide, 0, ref from, ref to, ref face))
            return false;
        if (!Slab(ly, my, -box.Deep, box.Deep, 2, ref from, ref to, ref face))
            return false;
        if (!Slab(lz, dz, 0, box.High, 4, ref from, ref to, ref face))
            return false;
        if (face < 0)
            return false;
        at = from;
        side = face;
        var (hx, hy, hz) = (lx + from * mx, ly + from * my, lz + from * dz);
        (a, b) =
            face < 2 ? (hy + box.Deep, hz)
            : face < 4 ? (hx + box.Wide, hz)
            : (hx + box.Wide, hy + box.Deep);
        var (sx, sy) = (box.Cos * sun.X + box.Sin * sun.Y, -box.Sin * sun.X + box.Cos * sun.Y);
        facing = face switch
        {
            0 => -sx,
            1 => sx,
            2 => -sy,
            3 => sy,
            4 => -sun.Z,
            _ => sun.Z,
        };
        return true;
    }

    private static bool Slab(float o, float d, float low, float high, int name, ref float from, ref float to, ref int face)
    {
        if (Math.Abs(d) < 1e-9f)
            return o > low && o < high;
        var (t0, t1) = ((low - o) / d, (high - o) / d);
        var first = name;
        if (t0 > t1)
            (t0, t1, first) = (t1, t0, name + 1);
        if (t0 > from)
            (from, face) = (t0, first);
        to = Math.Min(to, t1);
        return from <= to;
    }

    private static float Hash(int x, int y, int seed)
    {
        var h = (uint)(x * 374761393 + y * 668265263) ^ (uint)(seed * 362437);
        h = (h ^ (h >> 13)) * 1274126177u;
        h ^= h >> 16;
        return (h & 0xFFFFFF) / 16777216f;
    }

    private static float Value(float x, float y, int seed)
    {
        var (x0, y0) = ((int)MathF.Floor(x), (int)MathF.Floor(y));
        var (fx, fy) = (x - x0, y - y0);
        (fx, fy) = (fx * fx * (3 - 2 * fx), fy * fy * (3 - 2 * fy));
        var top = Hash(x0, y0, seed) + fx * (Hash(x0 + 1, y0, seed) - Hash(x0, y0, seed));
        var low = Hash(x0, y0 + 1, seed) + fx * (Hash(x0 + 1, y0 + 1, seed) - Hash(x0, y0 + 1, seed));
        return top + fy * (low - top);
    }

    /// <summary>Noise that changes slowly, 0 to 1.</summary>
    internal static float Slow(float x, float y, int seed) => Value(x, y, seed);

    /// <summary>Nearly a bell of width 1, by the sum of four.</summary>
    internal static float Bell(int x, int y, int seed) =>
        (Hash(x, y, seed) + Hash(x, y, seed + 1) + Hash(x + 7, y, seed + 2) + Hash(x, y + 3, seed + 3) - 2) * 1.732f;
}
