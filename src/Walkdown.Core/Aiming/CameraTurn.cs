using Walkdown.Core.Measures;
using Walkdown.Core.Pictures;
using static Walkdown.Core.Measures.Angle;

namespace Walkdown.Core.Aiming;

/// <summary>How a camera must be turned so that its picture is the agreed one, measured in the pictures themselves: a camera turned about
/// itself, and zoomed, is what is laid on the agreed view, not a picture that was shifted (docs/calculations.md, L and N).</summary>
/// <param name="IsMatch">The pictures show the same; nothing else is told where they do not.</param>
/// <param name="PanDeg">Turn right by so much; negative: left.</param>
/// <param name="TiltDeg">Turn down by so much; negative: up.</param>
/// <param name="RollDeg">Turn it clockwise about its axis, as it looks; negative: against the clock.</param>
/// <param name="Zoom">Its picture shows things so many times as large as the agreed one.</param>
/// <param name="UncertaintyDeg">Of pan and tilt.</param>
/// <param name="RollUncertaintyDeg">Of roll.</param>
/// <param name="Correlation">Of what agrees, up to 1.</param>
/// <param name="Overlap">Share of the agreed view that is in the picture.</param>
/// <param name="Agreement">Share of what has detail that agrees.</param>
/// <param name="Bend">How far its lens bends lines at the left and right edge, as a share of the half width; null: nothing tells.</param>
public sealed record CameraTurn(
    bool IsMatch,
    double PanDeg,
    double TiltDeg,
    double RollDeg,
    double Zoom,
    double UncertaintyDeg,
    double RollUncertaintyDeg,
    double Correlation,
    double Overlap,
    double Agreement,
    double? Bend = null
) : ILaid
{
    double ILaid.TurnedDeg => RollDeg;

    private static readonly CameraTurn None = new(false, 0, 0, 0, 1, 0, 0, 0, 0, 0);

    /// <summary>Of the smallest picture that is worked in, pixels: what a match is good to.</summary>
    private const double GoodToPixels = 0.12;

    /// <summary>A lens of a wider field is looked at as one that bends lines by so much too, where it does not lie as one that bends
    /// none.</summary>
    private const double WideDeg = 60,
        WideBend = 0.09;

    /// <summary>What the bend of a lens, where nothing tells it, may be off by: nothing at the narrower field, all of it at the wider
    /// one.</summary>
    private const double UnknownBend = 0.05,
        StraightDeg = 30,
        WidestDeg = 90;

    /// <param name="agreed">The agreed view.</param>
    /// <param name="now">Of the same size.</param>
    /// <param name="horizontalDeg">Field of the agreed view, above 0 and under 180.</param>
    /// <param name="tiltDeg">The agreed view looks down by so much, -90 to 90: of a camera that looks down the bracket must turn further
    /// than the picture suggests.</param>
    /// <param name="bend">How far its lens bends lines at the left and right edge, as a share of the half width, where that is known; null:
    /// it is looked for where the camera turned far enough to tell.</param>
    public static CameraTurn Of(PicturePyramid agreed, PicturePyramid now, double horizontalDeg, double tiltDeg = 0, double? bend = null)
    {
        Require.Consistent(agreed.Width == now.Width && agreed.Height == now.Height, "new_image");
        Require.Number(tiltDeg, "camera_tilt_deg", -90, 90);
        Lens Behind(double atEdge) => Lens.Of(agreed.Levels[0].Width, horizontalDeg, atEdge);
        PictureRegistration.Found<TurnMove>? Laid(double atEdge)
        {
            var through = Behind(atEdge);
            return PictureRegistration.Find(agreed, now, (rough, size) => TurnMove.Of(rough, through.Sized(size)));
        }
        var (found, told) = (Laid(bend ?? 0), bend);
        if (bend is null)
        {
            (found, told) = Unbent(agreed, now, found, Behind, 0);
            // A wide lens may bend so far that hardly anything lies on what it was.
            if (
                horizontalDeg >= WideDeg
                && !(found?.Agreement >= PictureStanding.Surely)
                && Unbent(agreed, now, Laid(WideBend), Behind, WideBend) is { Found: { } other } bent
            )
                if (found is null || other.Agreement > found.Agreement)
                    (found, told) = bent;
        }
        if (found is null)
            return None;
        var lens = Behind(told ?? 0);
        var focal = lens.Focal;
        var move = found.Move;
        // Rows of the rotation: a ray of the agreed camera as the camera now meets it.
        var r = move.Rotation;
        // The agreed camera hangs in the world with its tilt and no roll: right, down, forward by world right, world down, world ahead.
        var (s, c) = (Sin(tiltDeg), Cos(tiltDeg));
        double[] hung = [1, 0, 0, 0, c, -s, 0, s, c];
        var held = TurnMove.Times(r, hung);
        // Its axis, and where its right side points, in the world.
        double ahead = held[8],
            aside = held[6],
            under = held[7];
        var pan = Deg(Math.Atan2(aside, ahead));
        var tilt = Deg(Math.Atan2(under, double.Hypot(aside, ahead)));
        // Level right of that axis; the camera's own right against it is its roll.
        var level = double.Hypot(aside, ahead);
        var roll =
            level < 1e-9
                ? 0
                : Deg(
                    Math.Atan2(
                        held[1] * level - under * (held[0] * aside + held[2] * ahead) / level,
                        (held[0] * ahead - held[2] * aside) / level
                    )
                );
        var off = double.Hypot(pan * Cos(tilt), tiltDeg - tilt);
        var scale = 1 / Math.Max(0.2, Math.Sqrt(found.Overlap * found.Agreement));
        // Of a lens that nothing is known of each degree may be some hundredths more, or less.
        var unknown = told is null ? UnknownBend * Math.Clamp((horizontalDeg - StraightDeg) / (WidestDeg - StraightDeg), 0, 1) * off : 0;
        var uncertainty = double.Hypot(Deg(Math.Atan(GoodToPixels * scale / focal)), unknown);
        return new(
            true,
            -pan,
            tiltDeg - tilt,
            -roll,
            move.Scale,
            uncertainty / Math.Max(0.2, Cos(tilt)),
            Deg(GoodToPixels * scale / (agreed.Levels[0].Width / 4.0)),
            found.Correlation,
            found.Overlap,
            found.Agreement,
            told
        );
    }

    /// <summary>The same with the bend that lays them best, where the pictures tell it.</summary>
    private static (PictureRegistration.Found<TurnMove>? Found, double? Bend) Unbent(
        PicturePyramid agreed,
        PicturePyramid now,
        PictureRegistration.Found<TurnMove>? found,
        Func<double, Lens> behind,
        double begin
    ) =>
        found is null ? (null, null)
        : LensBend.Of(agreed, now, found, behind, begin) is var (bent, atEdge) ? (bent, atEdge)
        // Laid with a bend that nothing tells: as if there were none.
        : begin != 0 ? (null, null)
        : (found, null);
}
