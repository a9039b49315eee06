using Walkdown.Core.Optics;
using static Walkdown.Core.Measures.Angle;

namespace Walkdown.Core.Aiming;

/// <summary>How a camera hangs by where planned targets lie in its picture: for a view that was agreed without one.</summary>
/// <param name="PanDeg">Turn right by so much; negative: left.</param>
/// <param name="TiltDeg">Turn down by so much; negative: up.</param>
/// <param name="RollDeg">Turn clockwise about its axis by so much; null: one target alone does not say.</param>
/// <param name="OffDeg">Of its axis from the planned one.</param>
/// <param name="UncertaintyDeg">Of that: of the touch, and of where the target truly stands.</param>
/// <param name="ApartDeg">Both were touched so far apart, seen from the lens; null: one alone.</param>
/// <param name="PlannedApartDeg">By the plan, however the camera hangs; null likewise.</param>
public sealed record LandmarkAim(
    double PanDeg,
    double TiltDeg,
    double? RollDeg,
    double OffDeg,
    double UncertaintyDeg,
    double? ApartDeg,
    double? PlannedApartDeg
)
{
    /// <param name="view">As planned.</param>
    /// <param name="first">A target of it, and where its top was touched.</param>
    /// <param name="second">Another one; null: none.</param>
    /// <param name="pixelsWide">Of the picture that was touched.</param>
    /// <param name="pixelsHigh">Of the picture that was touched.</param>
    /// <param name="metresOff">A target may stand beside its plan by so much, never negative.</param>
    /// <param name="touchPixels">A touch is off by so much.</param>
    /// <returns>Null: no camera at that height sees it there, however it hangs.</returns>
    public static LandmarkAim? Of(
        ViewDesign view,
        (ViewTarget Target, PictureShare At) first,
        (ViewTarget Target, PictureShare At)? second,
        int pixelsWide,
        int pixelsHigh,
        double metresOff,
        double touchPixels
    )
    {
        var focal = Pinhole.FocalPixels(pixelsWide, view.HorizontalDeg);
        var (planned, down, away) = Direction(view, first.Target);
        double heading = 0,
            tilt = view.TiltDeg,
            roll = 0;
        for (var i = 0; i < Rounds; i++)
        {
            var (u, v) = Ray(first.At);
            // The ray lies as deep under the horizon as the target: that fixes the tilt; then its bearing fixes the pan.
            var sine = Math.Sqrt(1 + u * u + v * v) * Sin(down) / Math.Sqrt(1 + v * v);
            if (Math.Abs(sine) > 1)
                return null;
            tilt = Deg(Math.Asin(sine) - Math.Atan(v));
            heading = planned - Deg(Math.Atan2(u, Cos(tilt) - v * Sin(tilt)));
            // The other target then lies turned about the first: that is the roll, and the first is looked at anew.
            if (
                second is not { } other
                || Seen(view, other.Target, heading, tilt) is not { } there
                || Seen(view, first.Target, heading, tilt) is not { } here
            )
                break;
            var (u2, v2) = Ray(other.At);
            var turned = Deg(Math.Atan2(v2 - v, u2 - u) - Math.Atan2(there.V - here.V, there.U - here.U));
            roll += turned - 360 * Math.Round(turned / 360);
        }
        var pan = -heading - 360 * Math.Round(-heading / 360);
        return new(
            pan,
            view.TiltDeg - tilt,
            second is null ? null : roll,
            AimLook.Between(view.TiltDeg, tilt, pan),
            double.Hypot(Deg(touchPixels / focal), Deg(Math.Atan2(metresOff, away))),
            second is { } far ? Between(Ray(first.At), Ray(far.At)) : null,
            second is { } planned2 ? Apart(view, first.Target, planned2.Target) : null
        );

        static double Between((double U, double V) a, (double U, double V) b) =>
            Deg(
                Math.Acos(
                    Math.Clamp(
                        (a.U * b.U + a.V * b.V + 1) / (double.Hypot(double.Hypot(a.U, a.V), 1) * double.Hypot(double.Hypot(b.U, b.V), 1)),
                        -1,
                        1
                    )
                )
            );

        // Of a point, in focal lengths from the middle, as it would lie if the camera were level. What lies turned clockwise in the picture
        // is seen by a camera that is turned against the clock.
        (double U, double V) Ray(PictureShare at)
        {
            var (x, y) = ((at.X - 0.5) * pixelsWide / focal, (at.Y - 0.5) * pixelsHigh / focal);
            return (x * Cos(roll) + y * Sin(roll), y * Cos(roll) - x * Sin(roll));
        }
    }

    /// <summary>Each takes what is left of the roll out; of a hand's turn three leave nothing.</summary>
    private const int Rounds = 6;

    /// <summary>What was touched is not what was planned: they lie further from each other, or nearer, than any camera there sees
    /// them.</summary>
    public bool IsOther =>
        ApartDeg is { } seen && PlannedApartDeg is { } planned && Math.Abs(seen - planned) > Math.Max(1, 2 * UncertaintyDeg);

    private static double Apart(ViewDesign view, ViewTarget one, ViewTarget other)
    {
        var (a, b) = (Direction(view, one), Direction(view, other));
        return AimLook.Between(a.DownDeg, b.DownDeg, a.AsideDeg - b.AsideDeg);
    }

    /// <summary>Bearing right of the planned axis, depth under the horizon, and distance, of a target's top.</summary>
    private static (double AsideDeg, double DownDeg, double Metres) Direction(ViewDesign view, ViewTarget target)
    {
        var (along, drop) = (double.Hypot(target.GroundMetres, target.AsideMetres), view.HeightMetres - target.HeightMetres);
        return (
            Deg(Math.Atan2(target.AsideMetres, target.GroundMetres)),
            Deg(Math.Atan2(drop, along)),
            Math.Max(0.1, double.Hypot(along, drop))
        );
    }

    /// <summary>Where a target lies before a camera that hangs so, in focal lengths; null: beside or behind it.</summary>
    private static (double U, double V)? Seen(ViewDesign view, ViewTarget target, double heading, double tilt)
    {
        var (aside, down, _) = Direction(view, target);
        var (right, under, ahead) = (Cos(down) * Sin(aside - heading), Sin(down), Cos(down) * Cos(aside - heading));
        var (y, z) = (under * Cos(tilt) - ahead * Sin(tilt), ahead * Cos(tilt) + under * Sin(tilt));
        return z < 0.05 ? null : (right / z, y / z);
    }
}
