using System.Runtime.InteropServices;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;
using Walkdown.Core.Pictures;

namespace Walkdown.Core.Aiming;

/// <summary>What whoever stands at a camera has to do while it is measured how still it stands.</summary>
public enum SwayPhase
{
    /// <summary>Hands off: it is watched as it stands.</summary>
    HandsOff,

    /// <summary>Push it once by hand.</summary>
    Push,

    /// <summary>Let go, and leave it alone until it is at rest.</summary>
    LetGo,

    /// <summary>Nothing more: it was measured, or cannot be.</summary>
    Done,
}

/// <summary>Where the picture lay at a moment, against the first one.</summary>
/// <param name="Seconds">Since the first picture.</param>
/// <param name="Across">Its content moved right, percent of the picture's width.</param>
/// <param name="Down">And down, percent of its width.</param>
/// <param name="Turned">What its turn moves at its left and right border, percent of its width; positive: clockwise.</param>
public readonly record struct SwayPoint(double Seconds, double Across, double Down, double Turned)
{
    /// <summary>So far apart is the content of two pictures where they differ most, percent of the width.</summary>
    internal double From(SwayPoint other) => double.Hypot(Across - other.Across, Down - other.Down) + Math.Abs(Turned - other.Turned);

    internal static SwayPoint Mean(ReadOnlySpan<SwayPoint> points)
    {
        double across = 0,
            down = 0,
            turned = 0;
        foreach (var p in points)
            (across, down, turned) = (across + p.Across, down + p.Down, turned + p.Turned);
        return new(points[^1].Seconds, across / points.Length, down / points.Length, turned / points.Length);
    }

    /// <summary>The greatest distance between any two.</summary>
    internal static double Spread(ReadOnlySpan<SwayPoint> points)
    {
        var most = 0.0;
        for (var i = 0; i < points.Length; i++)
        for (var j = i + 1; j < points.Length; j++)
            most = Math.Max(most, points[i].From(points[j]));
        return most;
    }
}

/// <summary>How far a picture may move.</summary>
/// <param name="SwayPercent">To and fro as it stands, percent of its width, above 0.</param>
/// <param name="StaysPercent">For good, after a push, percent of its width, above 0.</param>
public sealed record SwayTolerance(double SwayPercent, double StaysPercent)
{
    /// <summary>As the limits of a head's rows have it.</summary>
    public static SwayTolerance Of(JudgedCard card, Guid headId) =>
        new(
            AimRows.RowOf(card, AimRows.Sway, headId) is { } row && card.LimitOf(row.Key) is { Max: { } most }
                ? most
                : card.Catalogue.Figure("sway.most"),
            card.Catalogue.Figure("sway.stays")
        );
}

/// <summary>How still a camera stands, of pictures one after another.</summary>
/// <param name="SwayPercent">Of its picture to and fro with hands off, greatest to greatest, percent of the picture's width.</param>
/// <param name="UncertaintyPercent">Of that: less is not seen.</param>
/// <param name="PixelsWide">Of the pictures that it was told of.</param>
/// <param name="Pictures">With hands off.</param>
/// <param name="Seconds">They lie so long apart.</param>
/// <param name="Sway">Against what is allowed.</param>
/// <param name="PushedPercent">So far a push moved it; null: nobody pushed it.</param>
/// <param name="StaysPercent">So far off it came to rest after the push; null: it was not pushed, or did not come to rest.</param>
/// <param name="RestSeconds">From the push until it was at rest; null likewise.</param>
/// <param name="Stays">Against what is allowed; null likewise.</param>
public sealed record SwayMeasure(
    double SwayPercent,
    double UncertaintyPercent,
    int PixelsWide,
    int Pictures,
    double Seconds,
    Outcome Sway,
    double? PushedPercent = null,
    double? StaysPercent = null,
    double? RestSeconds = null,
    Outcome? Stays = null
)
{
    /// <summary>What measures.</summary>
    public const string Algorithm = "sway";

    /// <summary>Its edition.</summary>
    public const int AlgorithmVersion = 1;

    /// <summary>The same in pixels of those pictures; null: it is less than can be seen.</summary>
    public double? SwayPixels => SwayPercent > UncertaintyPercent ? SwayPercent * PixelsWide / 100 : null;

    /// <summary>The word that a row would be told. "Still" is said of what was pushed and came back alone; null: nothing tells.</summary>
    public string? Says =>
        Stays == Outcome.Out ? "loose"
        : Sway == Outcome.Out || PushedPercent is not null && Stays is null ? "sways"
        : Sway == Outcome.In && Stays == Outcome.In ? "still"
        : null;

    /// <summary>Figures that a reading of it keeps.</summary>
    public ImmutableSortedDictionary<string, double> Inputs()
    {
        var inputs = new Dictionary<string, double>
        {
            ["sway_percent"] = Math.Round(SwayPercent, 4),
            ["uncertainty_percent"] = Math.Round(UncertaintyPercent, 4),
            ["pictures"] = Pictures,
            ["seconds"] = Math.Round(Seconds, 2),
        };
        if (PushedPercent is { } pushed)
            inputs["pushed_percent"] = Math.Round(pushed, 4);
        if (StaysPercent is { } stays)
            inputs["stays_percent"] = Math.Round(stays, 4);
        if (RestSeconds is { } rest)
            inputs["rest_s"] = Math.Round(rest, 2);
        return inputs.ToImmutableSortedDictionary();
    }
}

/// <summary>What pictures say so far of how still a camera stands.</summary>
/// <param name="Phase">What to do.</param>
/// <param name="Seconds">It goes on for so long at least; 0: until it is done.</param>
/// <param name="Points">Where the last pictures lay, oldest first.</param>
/// <param name="Measured">The figures; null: none yet.</param>
/// <param name="Why">Why it began anew, or why nothing more can be told; null: all is told.</param>
/// <param name="Tolerance">What is allowed.</param>
public sealed record SwayLook(
    SwayPhase Phase,
    double Seconds,
    ImmutableArray<SwayPoint> Points,
    SwayMeasure? Measured,
    Message? Why,
    SwayTolerance Tolerance
);

/// <summary>
/// Watches pictures of one camera: with hands off it is told how far its picture sways; after one push by hand, whether it comes back. Each
/// picture is laid on the first one, so that no view need be agreed. A sway is seen by its greatest ends, whatever its rate and the
/// camera's: pictures that come slower than it swings still meet both ends when there are enough of them. Of wind it says what blew
/// meanwhile.
/// </summary>
/// <param name="tolerance">What is allowed.</param>
public sealed class SwayRun(SwayTolerance tolerance)
{
    /// <summary>Pictures are compared in this width, pixels; narrower ones as they are.</summary>
    private const int Wide = 640;

    /// <summary>A picture of a still camera lies on the first one to a sixth of such a pixel, by night with much grain too (bench and
    /// tests), percent of the width.</summary>
    public const double Uncertainty = 0.025;

    /// <summary>With hands off it is watched so long, seconds, in so many pictures; of a slow camera for longer, in fewer.</summary>
    public const double HandsOffSeconds = 8,
        HandsOffMost = 30;
    private const int Enough = 16,
        Fewest = 8;

    /// <summary>A push is waited for so long, seconds; what was pushed is at rest when it did not move for so long; it is waited for that
    /// so long.</summary>
    public const double PushMost = 30,
        RestSeconds = 3,
        RestMost = 30;
    private const int RestFewest = 5;

    /// <summary>A push moves it by so much at least, percent of the width.</summary>
    private const double PushLeast = 0.15;

    /// <summary>So many in turn that show something else: it is not as it was.</summary>
    private const int MostLost = 3;

    /// <summary>So many of the last pictures are told one by one.</summary>
    private const int MostShown = 240;

    private readonly List<SwayPoint> _points = [];
    private PicturePyramid? _first;
    private DateTimeOffset _began;
    private SwayPhase _phase = SwayPhase.HandsOff;
    private SwayMeasure? _measured;
    private SwayPoint _rest;
    private Message? _why;
    private int _lost,
        _pushedAt;
    private double _phaseBegan,
        _pushed;

    /// <summary>Nothing more is looked for.</summary>
    public bool IsDone => _phase == SwayPhase.Done;

    /// <summary>What is told so far.</summary>
    public SwayLook Look => new(_phase, Least, [.. _points.TakeLast(MostShown)], _measured, _why, tolerance);

    private double Least =>
        _phase switch
        {
            SwayPhase.HandsOff => HandsOffSeconds,
            SwayPhase.LetGo => RestSeconds,
            _ => 0,
        };

    /// <summary>Nobody will push it: what was seen with hands off is all.</summary>
    public void Unpushed()
    {
        if (_phase == SwayPhase.Push)
            End(new("sway.not-pushed"));
    }

    /// <summary>The next picture.</summary>
    /// <param name="picture">In the camera's own size.</param>
    /// <param name="at">When it was seen.</param>
    public void Next(GreyRaster picture, DateTimeOffset at)
    {
        if (IsDone)
            return;
        var wide = Math.Min(Wide, picture.Width);
        var sized = picture.Sized(wide, Math.Max(3, (int)Math.Round((double)wide * picture.Height / picture.Width)));
        if (EmptyPicture.Of(sized) is { } nothing)
        {
            Lost(at, new($"aim.{nothing.ToString().ToLowerInvariant()}"));
            return;
        }
        var laid = new PicturePyramid(sized);
        // Another stream or another camera has another shape: it begins anew with it.
        if (_first is null || (_first.Width, _first.Height) != (laid.Width, laid.Height))
        {
            Begin(laid, at);
            return;
        }
        var seconds = (at - _began).TotalSeconds;
        var found = PictureRegistration.Of(_first, laid);
        if (!found.IsMatch)
        {
            Lost(at, new("sway.lost"));
            return;
        }
        _lost = 0;
        _points.Add(
            new(
                seconds,
                100 * found.ShiftX / wide,
                100 * found.ShiftY / wide,
                // At the border, half a width from the middle.
                50 * Angle.Rad(found.TurnDeg)
            )
        );
        switch (_phase)
        {
            case SwayPhase.HandsOff:
                Watch(laid, at, picture.Width);
                break;
            case SwayPhase.Push:
                AwaitPush(seconds);
                break;
            case SwayPhase.LetGo:
                AwaitRest(seconds);
                break;
        }
    }

    private void Begin(PicturePyramid first, DateTimeOffset at)
    {
        _points.Clear();
        _points.Add(default);
        (_first, _began, _phase, _measured, _lost, _phaseBegan) = (first, at, SwayPhase.HandsOff, null, 0, 0);
    }

    /// <summary>Somebody stands before it, or it was turned away: with hands off it begins anew; while it is pushed that is the
    /// push.</summary>
    private void Lost(DateTimeOffset at, Message why)
    {
        _lost++;
        if (_phase == SwayPhase.HandsOff && _lost >= MostLost)
            (_first, _why, _lost) = (null, why, 0);
        else if (_phase is SwayPhase.Push && _lost >= MostLost)
            Pushed((at - _began).TotalSeconds);
        else if (_phase is SwayPhase.LetGo && (at - _began).TotalSeconds - _phaseBegan > RestMost)
            End(why);
    }

    private void Watch(PicturePyramid newest, DateTimeOffset at, int pixelsWide)
    {
        var seconds = _points[^1].Seconds;
        if (seconds < HandsOffSeconds || _points.Count < Enough && seconds < HandsOffMost)
            return;
        var all = CollectionsMarshal.AsSpan(_points);
        if (all.Length < Fewest)
        {
            End(new("sway.too-few", Message.Number(all.Length, 0), Message.Number(seconds, 0)));
            return;
        }
        // Who turns it, or lets it sink, moves it one way: its thirds follow each other, and lie apart by more than they spread.
        var third = all.Length / 3;
        var (a, b, c) = (SwayPoint.Mean(all[..third]), SwayPoint.Mean(all[third..^third]), SwayPoint.Mean(all[^third..]));
        var way = a.From(c);
        if (way > tolerance.SwayPercent && a.From(b) < way && b.From(c) < way && way > 0.6 * SwayPoint.Spread(all))
        {
            _why = new("sway.was-turned");
            Begin(newest, at);
            return;
        }
        var sway = SwayPoint.Spread(all);
        _rest = SwayPoint.Mean(all);
        _measured = new(sway, Uncertainty, pixelsWide, all.Length, seconds, Decision.Within(sway, Uncertainty, tolerance.SwayPercent));
        (_phase, _phaseBegan, _why) = (SwayPhase.Push, seconds, null);
    }

    private void AwaitPush(double seconds)
    {
        if (_points[^1].From(_rest) > Math.Max(PushLeast, 1.5 * _measured!.SwayPercent))
            Pushed(seconds);
        else if (seconds - _phaseBegan > PushMost)
            End(new("sway.no-push"));
    }

    private void Pushed(double seconds) =>
        (_phase, _phaseBegan, _pushedAt, _pushed, _lost) = (SwayPhase.LetGo, seconds, _points.Count - 1, 0, 0);

    private void AwaitRest(double seconds)
    {
        var since = CollectionsMarshal.AsSpan(_points)[_pushedAt..];
        foreach (var p in since)
            _pushed = Math.Max(_pushed, p.From(_rest));
        // The last pictures, as long as a rest lasts.
        var from = since.Length;
        while (from > 0 && seconds - since[from - 1].Seconds <= RestSeconds)
            from--;
        var last = since[from..];
        var isWhole = from > 0 && last.Length >= RestFewest;
        // It sways again as it swayed before, or as far as it is allowed to: that is its rest.
        if (isWhole && SwayPoint.Spread(last) <= Math.Max(1.5 * _measured!.SwayPercent, 0.5 * tolerance.SwayPercent) + 2 * Uncertainty)
        {
            var stays = SwayPoint.Mean(last).From(_rest);
            // Means of what sways are as sure as there are pictures in them.
            var unsure = Uncertainty + _measured.SwayPercent / Math.Sqrt(12.0 * last.Length) * 2;
            _measured = _measured with
            {
                PushedPercent = _pushed,
                StaysPercent = stays,
                RestSeconds = Math.Max(0, last[0].Seconds - since[0].Seconds),
                Stays = Decision.Within(stays, unsure, tolerance.StaysPercent),
            };
            End(null);
        }
        else if (seconds - _phaseBegan > RestMost)
        {
            _measured = _measured! with { PushedPercent = _pushed };
            End(new("sway.no-rest", Message.Number(RestMost, 0)));
        }
    }

    private void End(Message? why) => (_phase, _why) = (SwayPhase.Done, why);
}
