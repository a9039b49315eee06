using Walkdown.Core.Acceptance;
using Walkdown.Core.Entries;
using Walkdown.Core.Measures;
using Walkdown.Core.Optics;
using Walkdown.Core.Pictures;
using static Walkdown.Core.Measures.Angle;

namespace Walkdown.Core.Aiming;

/// <summary>What a lamp or a mirror that was touched does to the picture.</summary>
public enum TouchedLightState
{
    /// <summary>Burnt out: white, and so large that it spreads.</summary>
    Burns,

    /// <summary>A mirror, glass or water: it need not shine now to do so at another hour.</summary>
    Reflects,

    /// <summary>A lamp that does not shine in this picture: nothing is told of the hour at which it does.</summary>
    Dark,
}

/// <summary>A turn that takes it out of the picture.</summary>
/// <param name="Way">Which way.</param>
/// <param name="Degrees">How far at least.</param>
/// <param name="Loses">Names of planned targets that are out of the picture then.</param>
public sealed record LightWay(AimWay Way, double Degrees, ImmutableArray<string> Loses);

/// <summary>When the sun stands in a flat mirror that hangs upright.</summary>
/// <param name="Days">Of the year on which it does.</param>
/// <param name="Next">The next of them, from today on; null: there is none.</param>
/// <param name="OwnLight">The camera sees itself in it: its own infrared comes back.</param>
public sealed record Mirrored(int Days, GlareDay? Next, bool OwnLight);

/// <summary>Where and when the sun is looked for.</summary>
/// <param name="LatitudeDeg">-90 to 90.</param>
/// <param name="LongitudeDeg">East positive.</param>
/// <param name="UtcOffsetMinutes">Of local standard time.</param>
/// <param name="Today">At the site.</param>
public sealed record SunPlace(double LatitudeDeg, double LongitudeDeg, int UtcOffsetMinutes, DateOnly Today);

/// <summary>A lamp or a mirror that somebody pointed out in a picture (docs/calculations.md, L).</summary>
/// <param name="State">What it does.</param>
/// <param name="Region">What was touched.</param>
/// <param name="WhitePercent">Of what was touched, white.</param>
/// <param name="BurntPercent">Of the whole picture, white and connected with it: how far it spreads.</param>
/// <param name="RightDeg">Its middle, right of the axis; negative: left. Null: no view says what a degree is.</param>
/// <param name="AboveDeg">Above the axis; negative: below.</param>
/// <param name="BearingDeg">From north clockwise; null: nobody said where the camera looks.</param>
/// <param name="Ways">Turns that take it out of the picture, those first that keep the targets, then the shortest.</param>
/// <param name="Mirrored">When the sun stands in it; null: no mirror, or it is not said which way that faces.</param>
/// <param name="Said">In words.</param>
public sealed record TouchedLight(
    TouchedLightState State,
    PictureRegion Region,
    double WhitePercent,
    double BurntPercent,
    double? RightDeg,
    double? AboveDeg,
    double? BearingDeg,
    ImmutableArray<LightWay> Ways,
    Mirrored? Mirrored,
    Message Said
)
{
    /// <summary>In the row of what harms a view.</summary>
    private const string NoLamp = "no-lamp";

    /// <summary>White from here.</summary>
    private const int WhiteFrom = 250;

    /// <summary>A lamp burns from so much of the whole picture, percent: less is the number on a plate, or a reflex.</summary>
    private const double LeastBurnt = 0.05;

    /// <summary>Spread is looked at in this width, pixels.</summary>
    private const int Wide = 640;

    /// <summary>Turns that are tried, degrees, up to a share of the field: what is turned further is another view. Out of the picture is by
    /// a share of it, lest its rim stays.</summary>
    private const double Step = 0.25,
        MostTurn = 1 / 3.0,
        Beside = 0.01;

    /// <param name="touch">Of a lamp or a mirror.</param>
    /// <param name="picture">That was touched.</param>
    /// <param name="view">Of the head; null: none is planned.</param>
    /// <param name="laid">How the picture lies on that view; null: as planned, as far as is known.</param>
    /// <param name="sun">Where and when the sun is looked for in a mirror; null: it is not.</param>
    public static TouchedLight Of(AimTouch touch, GreyRaster picture, ViewDesign? view, AimMeasure? laid, SunPlace? sun)
    {
        var region = touch.Region(picture.Width, picture.Height);
        var (white, burnt) = White(picture, touch);
        var state =
            touch.Thing == TouchedThing.Mirror ? TouchedLightState.Reflects
            : burnt >= LeastBurnt ? TouchedLightState.Burns
            : TouchedLightState.Dark;
        if (view is null)
            return new(state, region, white, burnt, null, null, null, [], null, Words(state, burnt, null));
        var hangs = new Hangs(picture, view, laid);
        var middle = hangs.Direction(Middle(touch));
        double? bearing = view.AzimuthDeg is { } azimuth ? Turned(azimuth - (laid?.PanDeg ?? 0) + middle.AsideDeg) : null;
        var ways = state == TouchedLightState.Dark ? [] : Out(touch, hangs, view);
        return new(
            state,
            region,
            white,
            burnt,
            hangs.RightDeg(Middle(touch)),
            hangs.AboveDeg(Middle(touch)),
            bearing,
            ways,
            touch is { Thing: TouchedThing.Mirror, FacesDeg: { } faces } && bearing is { } at
                ? Reflected(touch, hangs, at, middle.DownDeg, faces, sun)
                : null,
            Words(state, burnt, ways)
        );
    }

    /// <summary>What it says of lamps and mirrors in the row, beside what was said of the rest; null: nothing that harms.</summary>
    /// <param name="before">What counts so far.</param>
    public ItemsValue? Value(ItemsValue? before) =>
        State != TouchedLightState.Dark
            ? new([.. (before?.Items ?? []).Where(i => i.Item != NoLamp), new ItemSaid(NoLamp, ItemState.Missing)])
            : null;

    /// <summary>Names of figures that are read again in the picture.</summary>
    internal const string WhiteInput = "white_percent",
        BurntInput = "burnt_percent";

    /// <summary>Figures that a reading of it keeps.</summary>
    public IEnumerable<KeyValuePair<string, double>> Inputs()
    {
        yield return new(WhiteInput, Math.Round(WhitePercent, 4));
        yield return new(BurntInput, Math.Round(BurntPercent, 4));
        if (RightDeg is { } right && AboveDeg is { } above)
        {
            yield return new("right_deg", Math.Round(right, 2));
            yield return new("above_deg", Math.Round(above, 2));
        }
        if (BearingDeg is { } bearing)
            yield return new("bearing_deg", Math.Round(bearing, 1));
        if (Mirrored is { } mirrored)
            yield return new("sun_in_mirror_days", mirrored.Days);
    }

    private static PictureShare Middle(AimTouch touch) => new((touch.From.X + touch.To.X) / 2, (touch.From.Y + touch.To.Y) / 2);

    private static double Turned(double deg) => deg - 360 * Math.Floor(deg / 360);

    private static Message Words(TouchedLightState state, double burnt, ImmutableArray<LightWay>? ways)
    {
        var word = Codes.Of(state);
        return ways is [var first, ..]
            ? new($"touched-light.{word}-turn-{Codes.Of(first.Way)}", Message.Number(burnt, 1), Message.Number(first.Degrees, 1))
            // Where no view says what a degree is, no turn is told of.
            : new(
                ways is null && state != TouchedLightState.Dark ? $"touched-light.{word}-alone" : $"touched-light.{word}",
                Message.Number(burnt, 1)
            );
    }

    /// <summary>White of what was touched, and of the picture what is white and hangs together with that; percent.</summary>
    private static (double OfTouched, double OfPicture) White(GreyRaster picture, AimTouch touch)
    {
        var small =
            picture.Width > Wide
                ? picture.Sized(Wide, Math.Max(3, (int)Math.Round((double)Wide * picture.Height / picture.Width)))
                : picture;
        var at = touch.Region(small.Width, small.Height);
        var (left, top) = (Math.Clamp(at.X, 0, small.Width - 1), Math.Clamp(at.Y, 0, small.Height - 1));
        var (right, bottom) = (Math.Min(small.Width, left + at.Width), Math.Min(small.Height, top + at.Height));
        var (seen, open) = (new bool[small.Width * small.Height], new Stack<int>());
        for (var y = top; y < bottom; y++)
        for (var x = left; x < right; x++)
            Reach(x, y);
        var touched = open.Count;
        var all = 0;
        while (open.TryPop(out var next))
        {
            all++;
            var (x, y) = (next % small.Width, next / small.Width);
            Reach(x - 1, y);
            Reach(x + 1, y);
            Reach(x, y - 1);
            Reach(x, y + 1);
        }
        return (100.0 * touched / ((right - left) * (bottom - top)), 100.0 * all / seen.Length);

        void Reach(int x, int y)
        {
            if (x < 0 || y < 0 || x >= small.Width || y >= small.Height)
                return;
            var i = y * small.Width + x;
            if (seen[i] || small.Levels[i] < WhiteFrom)
                return;
            seen[i] = true;
            open.Push(i);
        }
    }

    private static ImmutableArray<LightWay> Out(AimTouch touch, Hangs hangs, ViewDesign view)
    {
        PictureShare[] corners = [touch.From, touch.To, new(touch.From.X, touch.To.Y), new(touch.To.X, touch.From.Y)];
        var directions = corners.Select(hangs.Direction).ToArray();
        var ways = new List<LightWay>();
        foreach (var way in new[] { AimWay.Left, AimWay.Right, AimWay.Up, AimWay.Down })
            for (var by = Step; by <= MostTurn * (way is AimWay.Left or AimWay.Right ? view.HorizontalDeg : view.VerticalDeg); by += Step)
            {
                var turned = hangs.Turned(way, by);
                if (directions.Any(d => turned.Seen(d.AsideDeg, d.DownDeg) is { } p && IsIn(p, -Beside)))
                    continue;
                ways.Add(new(way, by, [.. view.Targets.Where(t => IsShown(hangs, t) && !IsShown(turned, t)).Select(t => t.Name)]));
                break;
            }
        return [.. ways.OrderBy(w => w.Loses.Length).ThenBy(w => w.Degrees)];

        bool IsShown(Hangs from, ViewTarget target)
        {
            var aside = Deg(Math.Atan2(target.AsideMetres, target.GroundMetres)) + hangs.LaidPanDeg;
            var down = Deg(Math.Atan2(view.HeightMetres - target.HeightMetres, double.Hypot(target.GroundMetres, target.AsideMetres)));
            return from.Seen(aside, down) is { } p && IsIn(p, 0);
        }

        static bool IsIn(PictureShare p, double inside) => p.X >= inside && p.X <= 1 - inside && p.Y >= inside && p.Y <= 1 - inside;
    }

    private static Mirrored Reflected(AimTouch touch, Hangs hangs, double bearing, double downDeg, double faces, SunPlace? sun)
    {
        var (a, b) = (hangs.Direction(touch.From), hangs.Direction(touch.To));
        var wide = Math.Max(0.1, Math.Abs(a.AsideDeg - b.AsideDeg));
        var high = Math.Max(0.1, Math.Abs(a.DownDeg - b.DownDeg));
        // A mirror is a window onto what lies before it: the way it is looked through is turned about its face.
        var through = Turned(2 * faces - bearing + 180);
        var own = Math.Abs(Turned(faces - bearing) - 180) <= wide / 2 && Math.Abs(downDeg) <= high / 2;
        var calendar = sun is null
            ? null
            : GlareCalendar.Of(
                sun.LatitudeDeg,
                sun.LongitudeDeg,
                sun.UtcOffsetMinutes,
                sun.Today.Year,
                new(through, Math.Clamp(downDeg, -90, 90), Math.Min(wide, 179), Math.Min(high, 179), GuardDeg: 0),
                stepMinutes: 5
            );
        return new(calendar?.DaysInView ?? 0, calendar?.Next(sun!.Today), own);
    }

    /// <summary>How a head hangs, and what its picture shows where.</summary>
    private sealed record Hangs(
        int PixelsWide,
        int PixelsHigh,
        Lens Lens,
        double TiltDeg,
        double RollDeg,
        double HeadingDeg,
        double LaidPanDeg
    )
    {
        public Hangs(GreyRaster picture, ViewDesign view, AimMeasure? laid)
            : this(
                picture.Width,
                picture.Height,
                Lens.Of(picture.Width, view.HorizontalDeg, laid?.Bend ?? 0),
                view.TiltDeg - (laid?.TiltDeg ?? 0),
                -(laid?.RollDeg ?? 0),
                0,
                laid?.PanDeg ?? 0
            ) { }

        /// <summary>Turned on, against where it looks now.</summary>
        public Hangs Turned(AimWay way, double by) =>
            way switch
            {
                AimWay.Left => this with { HeadingDeg = HeadingDeg - by },
                AimWay.Right => this with { HeadingDeg = HeadingDeg + by },
                AimWay.Up => this with { TiltDeg = TiltDeg - by },
                _ => this with { TiltDeg = TiltDeg + by },
            };

        /// <summary>Where a direction lies in its picture: aside of where it looks now, and under the horizon.</summary>
        public PictureShare? Seen(double asideDeg, double downDeg) =>
            AimLook.Seen(PixelsWide, PixelsHigh, Lens, TiltDeg, RollDeg, asideDeg - HeadingDeg, downDeg);

        /// <summary>The direction of a point of its picture, aside of where it looks and under the horizon.</summary>
        public (double AsideDeg, double DownDeg) Direction(PictureShare at)
        {
            var (u, v) = Level(at);
            var (y, z) = (v * Cos(TiltDeg) + Sin(TiltDeg), Cos(TiltDeg) - v * Sin(TiltDeg));
            return (Deg(Math.Atan2(u, z)), Deg(Math.Atan2(y, double.Hypot(u, z))));
        }

        public double RightDeg(PictureShare at) => Deg(Math.Atan(Level(at).U));

        public double AboveDeg(PictureShare at) => -Deg(Math.Atan(Level(at).V));

        /// <summary>In focal lengths from the middle, without bend and roll.</summary>
        private (double U, double V) Level(PictureShare at)
        {
            var (x, y) = Lens.Straight((at.X - 0.5) * PixelsWide, (at.Y - 0.5) * PixelsHigh);
            var (u, v) = (x / Lens.Focal, y / Lens.Focal);
            return (u * Cos(RollDeg) - v * Sin(RollDeg), v * Cos(RollDeg) + u * Sin(RollDeg));
        }
    }
}
