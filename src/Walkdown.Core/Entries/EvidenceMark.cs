using Walkdown.Core.Aiming;
using Walkdown.Core.Focusing;
using Walkdown.Core.Nights;

namespace Walkdown.Core.Entries;

/// <summary>What is drawn into a picture that was measured in.</summary>
public enum EvidenceMarkKind
{
    /// <summary>The camera's axis: the middle of the picture.</summary>
    Axis,

    /// <summary>The middle of the agreed view.</summary>
    Agreed,

    /// <summary>The horizon, by the agreed tilt.</summary>
    Horizon,

    /// <summary>Between two points that somebody touched.</summary>
    Line,

    /// <summary>A point that somebody touched.</summary>
    Point,

    /// <summary>The part that was measured.</summary>
    Target,

    /// <summary>A part that light lies over in the dark, with how much of its light that is.</summary>
    Veil,
}

/// <summary>One thing that is drawn into a picture, so that whoever looks sees what was measured.</summary>
/// <param name="Kind">What it is.</param>
/// <param name="From">A point, an end, or the upper left corner.</param>
/// <param name="To">The other end, or the lower right corner; the same point where it is a point.</param>
/// <param name="Share">Of a veil, 0 to 1; null: it has none.</param>
public sealed record EvidenceMark(EvidenceMarkKind Kind, PictureShare From, PictureShare To, double? Share = null)
{
    /// <summary>Inputs that say how far hands may have moved a picture that they laid flat.</summary>
    internal const string HandOff = "corners_off_deg",
        HandRoll = "corners_roll_deg";

    private const string Wide = "picture_wide_px",
        High = "picture_high_px";

    /// <summary>Whether an input says something of the picture, and not what was read in it.</summary>
    internal static bool IsOfPicture(string input) => input is Wide or High or HandOff or HandRoll;

    /// <summary>Figures with the picture that they were read in.</summary>
    /// <param name="inputs">Of a measurement.</param>
    /// <param name="wide">Of its picture, pixels.</param>
    /// <param name="high">Of its picture, pixels.</param>
    /// <param name="hand">How far hands that laid it flat may have moved it, degrees; 0: nobody did.</param>
    public static ImmutableSortedDictionary<string, double> With(
        ImmutableSortedDictionary<string, double> inputs,
        int wide,
        int high,
        (double OffDeg, double RollDeg) hand = default
    )
    {
        inputs = inputs.SetItem(Wide, wide).SetItem(High, high);
        return hand.OffDeg > 0
            ? inputs.SetItem(HandOff, Math.Round(hand.OffDeg, 6)).SetItem(HandRoll, Math.Round(hand.RollDeg, 6))
            : inputs;
    }

    /// <summary>Of the picture, pixels; null: it was not kept.</summary>
    internal static (int Wide, int High)? SizeOf(ImmutableSortedDictionary<string, double> inputs) =>
        inputs.TryGetValue(Wide, out var wide) && inputs.TryGetValue(High, out var high) && wide >= 1 && high >= 1
            ? ((int)wide, (int)high)
            : null;

    /// <summary>A veil of less is not drawn.</summary>
    private const double LeastVeil = 0.1;

    /// <summary>What a measurement says of its picture; empty where a person looked, or what was kept does not say.</summary>
    /// <param name="evidence">As kept.</param>
    public static ImmutableArray<EvidenceMark> Of(ReadingEvidence evidence)
    {
        var inputs = evidence.Inputs;
        double? In(string name) => inputs.TryGetValue(name, out var value) ? value : null;
        var marks = ImmutableArray.CreateBuilder<EvidenceMark>();
        var size = SizeOf(inputs);
        if (size is var (wide, high) && evidence is { Region: { } r, Algorithm: FocusLook.Algorithm or NightLook.Algorithm })
            marks.Add(
                new(
                    EvidenceMarkKind.Target,
                    new((double)r.X / wide, (double)r.Y / high),
                    new((double)(r.X + r.Width) / wide, (double)(r.Y + r.Height) / high)
                )
            );
        switch (evidence.Algorithm)
        {
            case AimTouch.Algorithm when size is var (w, h) && AimTouch.Of(inputs, w, h) is { } touch:
                if (touch.IsLight)
                    marks.Add(
                        new(
                            EvidenceMarkKind.Target,
                            new(Math.Min(touch.From.X, touch.To.X), Math.Min(touch.From.Y, touch.To.Y)),
                            new(Math.Max(touch.From.X, touch.To.X), Math.Max(touch.From.Y, touch.To.Y))
                        )
                    );
                else if (touch.Thing != TouchedThing.Target)
                    marks.Add(new(EvidenceMarkKind.Line, touch.From, touch.To));
                else
                    foreach (var at in In(AimTouch.Targets) > 1 ? new[] { touch.From, touch.To } : [touch.From])
                        marks.Add(new(EvidenceMarkKind.Point, at, at));
                break;
            case AimLook.Algorithm when (In(AimMeasure.AgreedX), In(AimMeasure.AgreedY)) is ({ } x, { } y):
                if ((In(AimMeasure.HorizonLeft), In(AimMeasure.HorizonRight)) is ({ } left, { } right))
                    marks.Add(new(EvidenceMarkKind.Horizon, new(0, left), new(1, right)));
                var middle = new PictureShare(0.5, 0.5);
                marks.Add(new(EvidenceMarkKind.Axis, middle, middle));
                marks.Add(new(EvidenceMarkKind.Agreed, new(x, y), new(x, y)));
                break;
            case NightLook.Algorithm:
                for (var row = 0; row < NightLook.VeilDown; row++)
                for (var column = 0; column < NightLook.VeilAcross; column++)
                    if (In(NightLook.VeilInput(row, column)) is { } share and >= LeastVeil)
                        marks.Add(
                            new(
                                EvidenceMarkKind.Veil,
                                new((double)column / NightLook.VeilAcross, (double)row / NightLook.VeilDown),
                                new((column + 1.0) / NightLook.VeilAcross, (row + 1.0) / NightLook.VeilDown),
                                share
                            )
                        );
                break;
        }
        return marks.ToImmutable();
    }
}
