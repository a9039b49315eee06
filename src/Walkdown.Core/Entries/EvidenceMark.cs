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
    /// <summary>Inputs that say how large the picture was that was measured in, pixels.</summary>
    public const string Wide = "picture_wide_px",
        High = "picture_high_px";

    /// <summary>Inputs that say how far hands may have moved a picture that they laid flat.</summary>
    public const string HandOff = "corners_off_deg",
        HandRoll = "corners_roll_deg";

    /// <summary>A veil of less is not drawn.</summary>
    private const double LeastVeil = 0.1;

    /// <summary>What a measurement says of its picture; empty where a person looked, or what was kept does not say.</summary>
    /// <param name="evidence">As kept.</param>
    public static ImmutableArray<EvidenceMark> Of(ReadingEvidence evidence)
    {
        var inputs = evidence.Inputs;
        double? In(string name) => inputs.TryGetValue(name, out var value) ? value : null;
        var marks = ImmutableArray.CreateBuilder<EvidenceMark>();
        var size = (In(Wide), In(High)) is ({ } w and > 0, { } h and > 0) ? (Wide: w, High: h) : ((double Wide, double High)?)null;
        PictureShare At(double x, double y) => new(x / size!.Value.Wide, y / size.Value.High);
        if (size is not null && evidence.Region is { } r && evidence.Algorithm is FocusLook.Algorithm or NightLook.Algorithm)
            marks.Add(new(EvidenceMarkKind.Target, At(evidence.Region!.X, evidence.Region.Y), At(r.X + r.Width, r.Y + r.Height)));
        switch (evidence.Algorithm)
        {
            case AimTouch.Algorithm
                when size is not null && (In("x1_px"), In("y1_px"), In("x2_px"), In("y2_px")) is ({ } x, { } y, { } u, { } v):
                marks.Add(new(EvidenceMarkKind.Line, At(x, y), At(u, v)));
                break;
            case AimLook.Algorithm when (In("agreed_x_share"), In("agreed_y_share")) is ({ } x, { } y):
                if ((In("horizon_left_share"), In("horizon_right_share")) is ({ } left, { } right))
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
