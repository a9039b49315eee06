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
}

/// <summary>Two touched points of a picture, and what is between them.</summary>
/// <param name="Thing">What it is.</param>
/// <param name="From">One end.</param>
/// <param name="To">The other end.</param>
/// <param name="Metres">How long it is, where that is what is known.</param>
/// <param name="MetresOff">That may be off by so much.</param>
public sealed record AimTouch(TouchedThing Thing, PictureShare From, PictureShare To, double? Metres = null, double MetresOff = 0)
{
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
        if (!IsIn(From) || !IsIn(To) || double.Hypot(From.X - To.X, From.Y - To.Y) < 0.01)
            return (new("touch.points"), "to");
        if (Thing == TouchedThing.Length && !(Metres is > 0 and <= MostMetres))
            return (new("touch.length", Message.Number(MostMetres, 0)), "metres");
        return Thing == TouchedThing.Length && !(MetresOff >= 0 && MetresOff < Metres) ? (new("touch.off"), "metresOff") : null;
    }

    /// <summary>What it says.</summary>
    /// <param name="pixelsWide">Of the picture that was touched.</param>
    /// <param name="pixelsHigh">Of the picture that was touched.</param>
    /// <param name="recordedWide">Of the picture that is recorded: detail is told in its pixels.</param>
    public TouchMeasure Measure(int pixelsWide, int pixelsHigh, int recordedWide)
    {
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
    public ImmutableSortedDictionary<string, double> Inputs(int pixelsWide, int pixelsHigh, int recordedWide)
    {
        var inputs = new Dictionary<string, double>
        {
            [X1] = Math.Round(From.X * pixelsWide, 2),
            [Y1] = Math.Round(From.Y * pixelsHigh, 2),
            [X2] = Math.Round(To.X * pixelsWide, 2),
            [Y2] = Math.Round(To.Y * pixelsHigh, 2),
        };
        if (Thing == TouchedThing.Length)
            (inputs[Length], inputs[LengthOff], inputs[Recorded]) = (Metres!.Value, MetresOff, recordedWide);
        else
            inputs[IsUpright] = Thing == TouchedThing.Upright ? 1 : 0;
        inputs[Measured] = Measure(pixelsWide, pixelsHigh, recordedWide).Value.Value;
        return inputs.ToImmutableSortedDictionary();
    }

    private const string X1 = "x1_px",
        Y1 = "y1_px",
        X2 = "x2_px",
        Y2 = "y2_px",
        Length = "target_length_m",
        LengthOff = "target_length_uncertainty_m",
        IsUpright = "is_upright";

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
            In(Length) is not null ? TouchedThing.Length
                : In(IsUpright) == 1 ? TouchedThing.Upright
                : TouchedThing.Horizon,
            new(x / pixelsWide, y / pixelsHigh),
            new(u / pixelsWide, v / pixelsHigh),
            In(Length),
            In(LengthOff) ?? 0
        );
        return touch.Refuse() is null ? touch : null;
    }
}

/// <summary>What two touched points say.</summary>
/// <param name="Check">Of the row that it answers.</param>
/// <param name="Value">The camera's roll, clockwise as it looks; or pixels of the recorded picture to a metre.</param>
/// <param name="Uncertainty">Of that, in its unit.</param>
/// <param name="LengthPixels">Between the points.</param>
/// <param name="IsTooShort">Too near each other to be trusted.</param>
public sealed record TouchMeasure(CheckId Check, NumberValue Value, double Uncertainty, double LengthPixels, bool IsTooShort);
