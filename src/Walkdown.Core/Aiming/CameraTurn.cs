using Walkdown.Core.Measures;
using Walkdown.Core.Optics;
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
    double Agreement
) : ILaid
{
    double ILaid.TurnedDeg => RollDeg;

    private static readonly CameraTurn None = new(false, 0, 0, 0, 1, 0, 0, 0, 0, 0);

    /// <summary>Of the smallest picture that is worked in, pixels: what a match is good to.</summary>
    private const double GoodToPixels = 0.12;

    /// <param name="agreed">The agreed view.</param>
    /// <param name="now">Of the same size.</param>
    /// <param name="horizontalDeg">Field of the agreed view, above 0 and under 180.</param>
    /// <param name="tiltDeg">The agreed view looks down by so much, -90 to 90: of a camera that looks down the bracket must turn further
    /// than the picture suggests.</param>
    public static CameraTurn Of(PicturePyramid agreed, PicturePyramid now, double horizontalDeg, double tiltDeg = 0)
    {
        Require.Consistent(agreed.Width == now.Width && agreed.Height == now.Height, "new_image");
        Require.Number(tiltDeg, "camera_tilt_deg", -90, 90);
        var focal = Pinhole.FocalPixels(agreed.Levels[0].Width, horizontalDeg);
        if (PictureRegistration.Find(agreed, now, (rough, size) => TurnMove.Of(rough, focal * size)) is not { } found)
            return None;
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
        var scale = 1 / Math.Max(0.2, Math.Sqrt(found.Overlap * found.Agreement));
        var uncertainty = Deg(Math.Atan(GoodToPixels * scale / focal));
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
            found.Agreement
        );
    }
}
