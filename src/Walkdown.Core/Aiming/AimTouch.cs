using System.Text.Json.Serialization;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Entries;
using Walkdown.Core.Measures;
using Walkdown.Core.Optics;

namespace Walkdown.Core.Aiming;

/// <summary>What somebody touched in a picture.</summary>
public enum TouchedThing
{
    /// <summary>Something level and far: the horizon, a quay, an eave.</summary>
    Horizon,

    /// <summary>Something upright near the middle: a pole, a corner.</summary>
    Upright,

    /// <summary>Something of a known length, square to the view, where the target will be.</summary>
    Length,

    /// <summary>Targets of the planned view: the first at one grip, the second, where there is one, at the other.</summary>
    Target,

    /// <summary>A lamp in the view: both grips around it.</summary>
    Lamp,

    /// <summary>A mirror, glass or water in the view: both grips around it.</summary>
    Mirror,
}

/// <summary>Two touched points of a picture, and what is between them.</summary>
/// <param name="Thing">What it is.</param>
/// <param name="From">One end.</param>
/// <param name="To">The other end.</param>
/// <param name="Metres">How long it is, where that is what is known.</param>
/// <param name="MetresOff">That may be off by so much.</param>
/// <param name="FacesDeg">Which way a mirror faces, from north clockwise, 0 to 360; null: not said, or no mirror.</param>
public sealed record AimTouch(
    TouchedThing Thing,
    PictureShare From,
    PictureShare To,
    double? Metres = null,
    double MetresOff = 0,
    double? FacesDeg = null
)
{
    /// <summary>It shines, or throws light back: the picture itself is looked at there.</summary>
    [JsonIgnore]
    public bool IsLight => Thing is TouchedThing.Lamp or TouchedThing.Mirror;

    /// <summary>What measures.</summary>
    public const string Algorithm = "touch";

    /// <summary>Its edition.</summary>
    public const int AlgorithmVersion = 1;

    /// <summary>A grip that is set by hand is off by so much, pixels of the picture.</summary>
    private const double TouchPixels = 1;

    private const double MostMetres = 100;

    private static readonly CheckId Detail = new("aim.detail");

    /// <summary>That what it says is told in.</summary>
    internal int Places => Thing == TouchedThing.Length ? 1 : 2;

    /// <summary>Why it measures nothing, and which field; null where it does.</summary>
    public (Message Why, string Field)? Refuse()
    {
        static bool IsIn(PictureShare p) => p is { X: >= 0 and <= 1, Y: >= 0 and <= 1 };
        if (!Enum.IsDefined(Thing))
            return (new("touch.thing"), "thing");
        if (Thing == TouchedThing.Target)
            return !IsIn(From) || !IsIn(To) ? (new("touch.points"), "to")
                : MetresOff is >= 0 and <= MostMetres ? null
                : (new("touch.off"), "metresOff");
        if (!IsIn(From) || !IsIn(To) || double.Hypot(From.X - To.X, From.Y - To.Y) < 0.01)
            return (new("touch.points"), "to");
        if (Thing == TouchedThing.Mirror && FacesDeg is { } faces && !(faces is >= 0 and <= 360))
            return (new("touch.faces"), "facesDeg");
        if (Thing == TouchedThing.Length && !(Metres is > 0 and <= MostMetres))
            return (new("touch.length", Message.Number(MostMetres, 0)), "metres");
        return Thing == TouchedThing.Length && !(MetresOff >= 0 && MetresOff < Metres) ? (new("touch.off"), "metresOff") : null;
    }

    /// <summary>What two points say of lengths and lines.</summary>
    /// <param name="pixelsWide">Of the picture that was touched.</param>
    /// <param name="pixelsHigh">Of the picture that was touched.</param>
    /// <param name="recordedWide">Of the picture that is recorded: detail is told in its pixels.</param>
    /// <param name="view">Whose targets are touched; null: none was planned.</param>
    /// <returns>Null: targets were touched that nobody planned, or that no camera at that height sees there; or a light, of which only the
    /// picture tells (<see cref="TouchedLight"/>).</returns>
    public TouchMeasure? Measure(int pixelsWide, int pixelsHigh, int recordedWide, ViewDesign? view = null)
    {
        if (IsLight)
            return null;
        if (Thing == TouchedThing.Target)
            return OfTargets(pixelsWide, pixelsHigh, view);
        var (x1, y1, x2, y2) = (From.X * pixelsWide, From.Y * pixelsHigh, To.X * pixelsWide, To.Y * pixelsHigh);
        if (Thing == TouchedThing.Length)
        {
            var times = (double)recordedWide / pixelsWide;
            var density = MeasuredDensity.Of(x1, y1, x2, y2, Metres!.Value, MetresOff);
            return new(
                Detail,
                new(Math.Round(density.PerMetre * times, Places), Unit.PixelPerMetre),
                density.Expanded * times,
                density.LengthPixels,
                density.IsTooShort
            );
        }
        var kind = Thing == TouchedThing.Horizon ? LineKind.Horizontal : LineKind.Vertical;
        var roll = CameraRoll.Of(x1, y1, x2, y2, kind, touchPixels: TouchPixels);
        var length = double.Hypot(x2 - x1, y2 - y1);
        return new(
            AimRows.Roll,
            new(Math.Round(roll.RollDeg, Places), Unit.Degree),
            roll.UncertaintyDeg,
            length,
            length < MeasuredDensity.Least
        );
    }

    private TouchMeasure? OfTargets(int pixelsWide, int pixelsHigh, ViewDesign? view)
    {
        if (view is not { Targets: [var first, .. var others] })
            return null;
        var hangs = LandmarkAim.Of(
            view,
            (first, From),
            others is [var second, ..] ? (second, To) : null,
            pixelsWide,
            pixelsHigh,
            MetresOff,
            TouchPixels
        );
        return hangs is null
            ? null
            : new(
                AimRows.Off,
                new(Math.Round(hangs.OffDeg, Places), Unit.Degree),
                hangs.UncertaintyDeg,
                double.Hypot((To.X - From.X) * pixelsWide, (To.Y - From.Y) * pixelsHigh),
                false
            )
            {
                Doubt = hangs.IsOther
                    ? new("touch.other-target", Message.Number(hangs.ApartDeg!.Value, 1), Message.Number(hangs.PlannedApartDeg!.Value, 1))
                    : null,
                Steps = AimLook.StepsOf(hangs.PanDeg, hangs.TiltDeg, hangs.RollDeg ?? 0, hangs.UncertaintyDeg, hangs.UncertaintyDeg),
            };
    }

    /// <summary>The part of the picture that was touched.</summary>
    public PictureRegion Region(int pixelsWide, int pixelsHigh)
    {
        var (left, top) = ((int)(Math.Min(From.X, To.X) * pixelsWide), (int)(Math.Min(From.Y, To.Y) * pixelsHigh));
        return new(
            left,
            top,
            Math.Max(1, (int)Math.Ceiling(Math.Max(From.X, To.X) * pixelsWide) - left),
            Math.Max(1, (int)Math.Ceiling(Math.Max(From.Y, To.Y) * pixelsHigh) - top)
        );
    }

    /// <summary>Figures that a reading of it keeps, so that it can be made again.</summary>
    /// <param name="pixelsWide">Of the picture that was touched.</param>
    /// <param name="pixelsHigh">Of the picture that was touched.</param>
    /// <param name="recordedWide">Of the picture that is recorded.</param>
    /// <param name="view">Whose targets were touched.</param>
    public ImmutableSortedDictionary<string, double> Inputs(int pixelsWide, int pixelsHigh, int recordedWide, ViewDesign? view = null)
    {
        var inputs = new Dictionary<string, double>
        {
            [X1] = Math.Round(From.X * pixelsWide, 2),
            [Y1] = Math.Round(From.Y * pixelsHigh, 2),
            [X2] = Math.Round(To.X * pixelsWide, 2),
            [Y2] = Math.Round(To.Y * pixelsHigh, 2),
        };
        if (IsLight)
        {
            inputs[IsMirror] = Thing == TouchedThing.Mirror ? 1 : 0;
            if (FacesDeg is { } faces)
                inputs[Faces] = faces;
        }
        else if (Thing == TouchedThing.Length)
            (inputs[Length], inputs[LengthOff], inputs[Recorded]) = (Metres!.Value, MetresOff, recordedWide);
        else if (Thing == TouchedThing.Target)
            (inputs[TargetsOff], inputs[Targets]) = (MetresOff, view?.Targets.Length > 1 ? 2 : 1);
        else
            inputs[IsUpright] = Thing == TouchedThing.Upright ? 1 : 0;
        if (Measure(pixelsWide, pixelsHigh, recordedWide, view) is { } measured)
            inputs[Measured] = measured.Value.Value;
        return inputs.ToImmutableSortedDictionary();
    }

    private const string X1 = "x1_px",
        Y1 = "y1_px",
        X2 = "x2_px",
        Y2 = "y2_px",
        Length = "target_length_m",
        LengthOff = "target_length_uncertainty_m",
        IsUpright = "is_upright",
        TargetsOff = "targets_uncertainty_m",
        IsMirror = "is_mirror",
        Faces = "mirror_faces_deg";

    /// <summary>So many targets were touched: of one alone the other grip says nothing.</summary>
    internal const string Targets = "targets";

    /// <summary>Names of inputs that are read again.</summary>
    internal const string Measured = "measured",
        Recorded = "recorded_wide_px";

    /// <summary>What was touched, by what <see cref="Inputs"/> kept of it; null: it is not whole.</summary>
    /// <param name="inputs">As kept.</param>
    /// <param name="pixelsWide">Of the picture that was touched.</param>
    /// <param name="pixelsHigh">Of the picture that was touched.</param>
    internal static AimTouch? Of(ImmutableSortedDictionary<string, double> inputs, double pixelsWide, double pixelsHigh)
    {
        double? In(string name) => inputs.TryGetValue(name, out var value) ? value : null;
        if ((In(X1), In(Y1), In(X2), In(Y2)) is not ({ } x, { } y, { } u, { } v))
            return null;
        var touch = new AimTouch(
            In(IsMirror) is { } mirror ? (mirror == 1 ? TouchedThing.Mirror : TouchedThing.Lamp)
                : In(Length) is not null ? TouchedThing.Length
                : In(TargetsOff) is not null ? TouchedThing.Target
                : In(IsUpright) == 1 ? TouchedThing.Upright
                : TouchedThing.Horizon,
            new(x / pixelsWide, y / pixelsHigh),
            new(u / pixelsWide, v / pixelsHigh),
            In(Length),
            In(LengthOff) ?? In(TargetsOff) ?? 0,
            In(Faces)
        );
        return touch.Refuse() is null ? touch : null;
    }
}

/// <summary>What two touched points say.</summary>
/// <param name="Check">Of the row that it answers.</param>
/// <param name="Value">The camera's roll, clockwise as it looks; pixels of the recorded picture to a metre; or degrees of its axis off the
/// planned one.</param>
/// <param name="Uncertainty">Of that, in its unit.</param>
/// <param name="LengthPixels">Between the points.</param>
/// <param name="IsTooShort">Too near each other to be trusted.</param>
public sealed record TouchMeasure(CheckId Check, NumberValue Value, double Uncertainty, double LengthPixels, bool IsTooShort)
{
    /// <summary>What has to be turned, the largest first; of what says nothing of that, empty.</summary>
    public ImmutableArray<AimStep> Steps { get; init; } = [];

    /// <summary>Why it is not to be trusted, and is not kept; null: it is.</summary>
    public Message? Doubt { get; init; }
}
