using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;
using Walkdown.Core.Pictures;
using static Walkdown.Core.Measures.Angle;

namespace Walkdown.Core.Aiming;

/// <summary>What whoever turns a camera has to do now.</summary>
public enum AimState
{
    /// <summary>Nothing can be told: look again.</summary>
    Look,

    /// <summary>Turn it as the steps say.</summary>
    Turn,

    /// <summary>It hangs as agreed: turn no more.</summary>
    Stop,
}

/// <summary>A way to turn a camera, for somebody who looks the way it looks.</summary>
public enum AimWay
{
    /// <summary>Left.</summary>
    Left,

    /// <summary>Right.</summary>
    Right,

    /// <summary>Up.</summary>
    Up,

    /// <summary>Down.</summary>
    Down,

    /// <summary>About its own axis.</summary>
    Clockwise,

    /// <summary>About its own axis.</summary>
    CounterClockwise,
}

/// <summary>One turn.</summary>
/// <param name="Way">Which way.</param>
/// <param name="Degrees">How far, never negative.</param>
public sealed record AimStep(AimWay Way, double Degrees);

/// <summary>How far a camera may be off, degrees, and where it is said to stop: at a tenth of that, or where the measurement sees no
/// better. Once said it stays until it is twice as far off, so that a shaking hand does not make it flicker.</summary>
/// <param name="OffDeg">Its axis from the agreed one, above 0.</param>
/// <param name="RollDeg">About its axis, above 0.</param>
public sealed record AimTolerance(double OffDeg, double RollDeg)
{
    private const double StopShare = 0.1,
        RollStopShare = 0.25,
        Leave = 2;

    /// <summary>As the limits of a head's rows have it: a company's own, and what the camera is for.</summary>
    /// <param name="card">Of the camera.</param>
    /// <param name="headId">The head.</param>
    public static AimTolerance Of(JudgedCard card, Guid headId)
    {
        return new(Most(AimRows.Off, "aim.off"), Most(AimRows.Roll, "roll.horizon"));

        double Most(CheckId check, string figure) =>
            AimRows.RowOf(card, check, headId) is { } row && card.LimitOf(row.Key) is { Max: { } most }
                ? most
                : card.Catalogue.Figure(figure);
    }

    /// <summary>At most so far off a camera is said to stop.</summary>
    /// <param name="uncertaintyDeg">Of the measurement.</param>
    /// <param name="isStopped">It is said already.</param>
    public double StopsWithin(double uncertaintyDeg, bool isStopped) => Width(StopShare * OffDeg, uncertaintyDeg, isStopped);

    /// <summary>Likewise for its roll.</summary>
    public double RollStopsWithin(double uncertaintyDeg, bool isStopped) => Width(RollStopShare * RollDeg, uncertaintyDeg, isStopped);

    private static double Width(double share, double uncertainty, bool isStopped) =>
        Math.Max(share, 2 * uncertainty) * (isStopped ? Leave : 1);
}

/// <summary>The agreed view of a head, ready to have pictures laid on it.</summary>
public sealed class AimTarget
{
    /// <summary>Pictures are compared in this width, pixels: finer ones say no more.</summary>
    private const int Wide = 640;

    /// <summary>Shapes may differ by so much of their height: streams of one sensor are rounded.</summary>
    private const double ShapeOff = 0.02;

    /// <param name="agreed">The picture that was agreed.</param>
    /// <param name="horizontalDeg">Its field.</param>
    /// <param name="tiltDeg">Its tilt under the horizon.</param>
    public AimTarget(GreyRaster agreed, double horizontalDeg, double tiltDeg)
    {
        (HorizontalDeg, TiltDeg) = (horizontalDeg, tiltDeg);
        Height = Math.Max(3, (int)Math.Round((double)Wide * agreed.Height / agreed.Width));
        Shape = (double)agreed.Height / agreed.Width;
        var sized = agreed.Sized(Wide, Height);
        Picture = new(sized);
        _tiles = new(() => ViewTiles.Of(sized));
    }

    /// <summary>Field of the agreed view.</summary>
    public double HorizontalDeg { get; }

    /// <summary>Under the horizon.</summary>
    public double TiltDeg { get; }

    internal PicturePyramid Picture { get; }

    /// <summary>What is seen in each part of it; worked out where somebody asks.</summary>
    internal ViewTiles Tiles => _tiles.Value;

    private readonly Lazy<ViewTiles> _tiles;

    private int Height { get; }

    /// <summary>Height of the agreed picture against its width.</summary>
    public double Shape { get; }

    /// <summary>A picture in the size in which it is compared; null: it has another shape, and so another field.</summary>
    internal GreyRaster? Sized(GreyRaster picture) =>
        Math.Abs((double)picture.Height / picture.Width / Shape - 1) <= ShapeOff ? picture.Sized(Wide, Height) : null;
}

/// <summary>A point or an end of a line in a picture, in shares of its width and height from the upper left corner; it may lie
/// outside.</summary>
public readonly record struct PictureShare(double X, double Y);

/// <summary>What is measured of a picture that shows the agreed view.</summary>
/// <param name="PanDeg">Turn right by so much; negative: left.</param>
/// <param name="TiltDeg">Turn down by so much; negative: up.</param>
/// <param name="RollDeg">Turn clockwise about its axis by so much; negative: against the clock.</param>
/// <param name="OffDeg">Of its axis from the agreed one.</param>
/// <param name="UncertaintyDeg">Of that.</param>
/// <param name="RollUncertaintyDeg">Of the roll.</param>
/// <param name="SpareDeg">What is left of what is allowed; negative: it is over by so much; null: too close to tell.</param>
/// <param name="StaysWithinDeg">"Stop", once said, stays until the axis is further off.</param>
/// <param name="LeanDeg">The horizon leans in the picture, its right end low: so much; negative: its left end; 0: as the agreed one, as far
/// as can be seen.</param>
/// <param name="Overlap">Share of the agreed view that is in the picture.</param>
/// <param name="Agreement">Share of what has detail that agrees.</param>
/// <param name="Off">The axis against its tolerance.</param>
/// <param name="Roll">The roll against its tolerance.</param>
/// <param name="Agreed">Where the middle of the agreed view lies in this picture; null: behind the camera.</param>
/// <param name="Horizon">Left and right end of the horizon in it, by the agreed tilt; empty where it is far outside.</param>
public sealed record AimMeasure(
    double PanDeg,
    double TiltDeg,
    double RollDeg,
    double OffDeg,
    double UncertaintyDeg,
    double RollUncertaintyDeg,
    double? SpareDeg,
    double StaysWithinDeg,
    double LeanDeg,
    double Overlap,
    double Agreement,
    Outcome Off,
    Outcome Roll,
    PictureShare? Agreed,
    ImmutableArray<PictureShare> Horizon
)
{
    /// <summary>How far the lens bends lines at the left and right edge, as a share of the half width; null: nothing tells.</summary>
    public double? Bend { get; init; }

    /// <summary>That was known by an earlier picture, and not read in this one.</summary>
    public bool IsBendGiven { get; init; }

    /// <summary>Names of inputs that are read again.</summary>
    internal const string AgreedField = "agreed_horizontal_deg",
        AgreedTilt = "agreed_tilt_deg",
        Pan = "pan_deg",
        Uncertainty = "uncertainty_deg",
        AgreedX = "agreed_x_share",
        AgreedY = "agreed_y_share",
        BendRead = "lens_bend_share",
        BendGiven = "lens_bend_before_share",
        HorizonLeft = "horizon_left_share",
        HorizonRight = "horizon_right_share";

    /// <summary>What turned it since another picture, as whoever turns would undo it.</summary>
    /// <param name="before">Of the other picture.</param>
    /// <param name="agreedTiltDeg">Of the agreed view.</param>
    public AimMoved Since(AimMeasure before, double agreedTiltDeg) =>
        new(
            AimLook.Between(agreedTiltDeg - TiltDeg, agreedTiltDeg - before.TiltDeg, PanDeg - before.PanDeg),
            AimLook.StepsOf(PanDeg - before.PanDeg, TiltDeg - before.TiltDeg, RollDeg - before.RollDeg, UncertaintyDeg, RollUncertaintyDeg)
        );

    /// <summary>Figures that a reading of it keeps, so that it can be made again.</summary>
    /// <param name="horizontalDeg">Field of the agreed view.</param>
    /// <param name="tiltDeg">Of the agreed view.</param>
    public ImmutableSortedDictionary<string, double> Inputs(double horizontalDeg, double tiltDeg)
    {
        var inputs = new Dictionary<string, double>
        {
            [AgreedField] = horizontalDeg,
            [AgreedTilt] = tiltDeg,
            [Pan] = Math.Round(PanDeg, 4),
            ["tilt_deg"] = Math.Round(TiltDeg, 4),
            ["roll_deg"] = Math.Round(RollDeg, 4),
            ["off_deg"] = Math.Round(OffDeg, 4),
            [Uncertainty] = Math.Round(UncertaintyDeg, 4),
            ["overlap"] = Math.Round(Overlap, 4),
            ["agreement"] = Math.Round(Agreement, 4),
        };
        // What was given is given again as it was; what was read is read again.
        if (Bend is { } bend)
            inputs[IsBendGiven ? BendGiven : BendRead] = IsBendGiven ? bend : Math.Round(bend, 4);
        if (Agreed is { } at)
            (inputs[AgreedX], inputs[AgreedY]) = (Math.Round(at.X, 5), Math.Round(at.Y, 5));
        if (Horizon is [var left, var right])
            (inputs[HorizonLeft], inputs[HorizonRight]) = (Math.Round(left.Y, 5), Math.Round(right.Y, 5));
        return inputs.ToImmutableSortedDictionary();
    }
}

/// <summary>What something moved, such as the tightening of screws.</summary>
/// <param name="Degrees">Of the axis.</param>
/// <param name="Steps">How to undo it.</param>
public sealed record AimMoved(double Degrees, ImmutableArray<AimStep> Steps);

/// <summary>One picture against the agreed view: what to do, how far it is off, and how sure that is.</summary>
/// <param name="State">What to do.</param>
/// <param name="Why">Why nothing can be told, or what has to be done first; null where steps say all.</param>
/// <param name="Stands">How the picture stands against the agreed one.</param>
/// <param name="Steps">The largest first, its roll last; empty where there is nothing to turn.</param>
/// <param name="Measured">The figures; null where nothing can be told.</param>
public sealed record AimLook(AimState State, Message? Why, Orientation Stands, ImmutableArray<AimStep> Steps, AimMeasure? Measured)
{
    /// <summary>What measures.</summary>
    public const string Algorithm = "aim";

    /// <summary>Its edition: another one may read other figures in the same picture.</summary>
    public const int AlgorithmVersion = 2;

    /// <summary>Zoom beyond this share is said: then the field is not the agreed one.</summary>
    private const double ZoomOff = 0.03;

    /// <param name="target">The agreed view.</param>
    /// <param name="now">A picture of the same head.</param>
    /// <param name="tolerance">How far it may be off.</param>
    /// <param name="wasStopped">The picture before it said "stop".</param>
    /// <param name="hand">How far hands that laid the picture flat may have moved it, degrees of the axis and about it (<see
    /// cref="MonitorCorners"/>).</param>
    /// <param name="bend">How far the lens bends lines, by an earlier picture; null: not known (<see cref="CameraTurn.Bend"/>).</param>
    public static AimLook Of(
        AimTarget target,
        GreyRaster now,
        AimTolerance tolerance,
        bool wasStopped = false,
        (double OffDeg, double RollDeg) hand = default,
        double? bend = null
    )
    {
        if (target.Sized(now) is not { } sized)
            return Nothing(Orientation.Undecided, new("aim.other-shape"));
        if (EmptyPicture.Of(sized) is { } nothing)
            return Nothing(Orientation.Undecided, new($"aim.{nothing.ToString().ToLowerInvariant()}"));
        CameraTurn Laid(GreyRaster picture) => CameraTurn.Of(target.Picture, new(picture), target.HorizontalDeg, target.TiltDeg, bend);
        var (stands, turn) = PictureStanding.Of(Laid(sized), () => Laid(sized.Mirrored()));
        return stands switch
        {
            Orientation.AsReference => Told(
                target,
                sized,
                turn with
                {
                    UncertaintyDeg = double.Hypot(turn.UncertaintyDeg, hand.OffDeg),
                    RollUncertaintyDeg = double.Hypot(turn.RollUncertaintyDeg, hand.RollDeg),
                },
                tolerance,
                wasStopped,
                bend is not null
            ),
            Orientation.UpsideDown => Nothing(stands, new("aim.upside-down")),
            Orientation.Mirrored => Nothing(stands, new("aim.mirrored")),
            Orientation.Flipped => Nothing(stands, new("aim.flipped")),
            _ => Nothing(stands, new("aim.no-match")),
        };
    }

    private static AimLook Told(
        AimTarget target,
        GreyRaster now,
        CameraTurn turn,
        AimTolerance tolerance,
        bool wasStopped,
        bool isBendGiven
    )
    {
        var tiltNow = target.TiltDeg - turn.TiltDeg;
        var lens = Lens.Of(now.Width, target.HorizontalDeg, turn.Bend ?? 0);
        var off = Between(target.TiltDeg, tiltNow, turn.PanDeg);
        var (isAimed, isLevel) = (
            off <= tolerance.StopsWithin(turn.UncertaintyDeg, wasStopped),
            Math.Abs(turn.RollDeg) <= tolerance.RollStopsWithin(turn.RollUncertaintyDeg, wasStopped)
        );
        var against = Decision.Within(off, turn.UncertaintyDeg, tolerance.OffDeg);
        return new(
            isAimed && isLevel ? AimState.Stop : AimState.Turn,
            Math.Abs(turn.Zoom - 1) > ZoomOff
                ? new Message(turn.Zoom > 1 ? "aim.zoomed-in" : "aim.zoomed-out", Message.Number(Math.Abs(turn.Zoom - 1) * 100, 0))
                : null,
            Orientation.AsReference,
            isAimed && isLevel
                ? []
                : StepsOf(
                    isAimed ? 0 : turn.PanDeg,
                    isAimed ? 0 : turn.TiltDeg,
                    turn.RollDeg,
                    turn.UncertaintyDeg,
                    turn.RollUncertaintyDeg
                ),
            new(
                turn.PanDeg,
                turn.TiltDeg,
                turn.RollDeg,
                off,
                turn.UncertaintyDeg,
                turn.RollUncertaintyDeg,
                against == Outcome.TooClose ? null : tolerance.OffDeg - off,
                tolerance.StopsWithin(turn.UncertaintyDeg, true),
                Math.Abs(turn.RollDeg) <= turn.RollUncertaintyDeg ? 0 : turn.RollDeg,
                turn.Overlap,
                turn.Agreement,
                against,
                Decision.Within(Math.Abs(turn.RollDeg), turn.RollUncertaintyDeg, tolerance.RollDeg),
                Seen(now, lens, tiltNow, -turn.RollDeg, turn.PanDeg, target.TiltDeg),
                HorizonOf(now, lens, tiltNow, -turn.RollDeg)
            )
            {
                Bend = turn.Bend,
                IsBendGiven = isBendGiven,
            }
        );
    }

    /// <summary>What has to be turned: pan and tilt, the larger first, then the roll. What the measurement cannot see is no step.</summary>
    public static ImmutableArray<AimStep> StepsOf(
        double panDeg,
        double tiltDeg,
        double rollDeg,
        double uncertaintyDeg,
        double rollUncertaintyDeg
    )
    {
        var steps = new List<AimStep>(3);
        if (Math.Abs(panDeg) > uncertaintyDeg)
            steps.Add(new(panDeg > 0 ? AimWay.Right : AimWay.Left, Math.Abs(panDeg)));
        if (Math.Abs(tiltDeg) > uncertaintyDeg)
            steps.Add(new(tiltDeg > 0 ? AimWay.Down : AimWay.Up, Math.Abs(tiltDeg)));
        steps.Sort(static (a, b) => b.Degrees.CompareTo(a.Degrees));
        if (Math.Abs(rollDeg) > rollUncertaintyDeg)
            steps.Add(new(rollDeg > 0 ? AimWay.Clockwise : AimWay.CounterClockwise, Math.Abs(rollDeg)));
        return [.. steps];
    }

    /// <summary>Between two axes, by their tilts and the pan between them.</summary>
    public static double Between(double tiltDeg, double otherTiltDeg, double panDeg) =>
        // By the chord: small angles keep their figures.
        2
        * Deg(
            Math.Asin(
                Math.Min(
                    1,
                    Math.Sqrt(
                        Math.Pow(Sin((tiltDeg - otherTiltDeg) / 2), 2) + Cos(tiltDeg) * Cos(otherTiltDeg) * Math.Pow(Sin(panDeg / 2), 2)
                    )
                )
            )
        );

    private static PictureShare? Seen(GreyRaster picture, Lens lens, double tilt, double roll, double asideDeg, double downDeg) =>
        Seen(picture.Width, picture.Height, lens, tilt, roll, asideDeg, downDeg);

    /// <summary>Where a direction lies in the picture of a camera that hangs so; null: behind it.</summary>
    internal static PictureShare? Seen(int wide, int high, Lens lens, double tilt, double roll, double asideDeg, double downDeg)
    {
        // The direction against the camera's heading: right, down, ahead of the level camera; then tilted, then rolled.
        var (x, y, z) = (Cos(downDeg) * Sin(asideDeg), Sin(downDeg), Cos(downDeg) * Cos(asideDeg));
        (y, z) = (y * Cos(tilt) - z * Sin(tilt), z * Cos(tilt) + y * Sin(tilt));
        if (z < 0.05)
            return null;
        var (u, v) = (x / z, y / z);
        (u, v) = (u * Cos(roll) + v * Sin(roll), v * Cos(roll) - u * Sin(roll));
        return lens.Bent(u * lens.Focal, v * lens.Focal) is var (across, under) ? new(0.5 + across / wide, 0.5 + under / high) : null;
    }

    /// <summary>Both ends of the horizon at the borders of the picture; empty where it is far outside.</summary>
    private static ImmutableArray<PictureShare> HorizonOf(GreyRaster picture, Lens lens, double tilt, double roll)
    {
        if (Seen(picture, lens, tilt, roll, -5, 0) is not { } a || Seen(picture, lens, tilt, roll, 5, 0) is not { } b)
            return [];
        var slope = (b.Y - a.Y) / (b.X - a.X);
        if (!double.IsFinite(slope) || Math.Abs(slope) > 20)
            return [];
        var (left, right) = (a.Y - slope * a.X, a.Y + slope * (1 - a.X));
        return Math.Max(left, right) < -0.5 || Math.Min(left, right) > 1.5 ? [] : [new(0, left), new(1, right)];
    }

    private static AimLook Nothing(Orientation stands, Message why) => new(AimState.Look, why, stands, [], null);
}
