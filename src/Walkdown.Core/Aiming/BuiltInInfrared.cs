using Walkdown.Core.Measures;
using static Walkdown.Core.Measures.Angle;

namespace Walkdown.Core.Aiming;

/// <summary>A surface near a camera, which throws its own infrared back.</summary>
/// <param name="DistanceMetres">From the camera, at least 0.</param>
/// <param name="BearingDeg">From the camera's axis, right positive.</param>
/// <param name="DepressionDeg">Under the horizon.</param>
public sealed record NearSurface(double DistanceMetres, double BearingDeg, double DepressionDeg);

/// <summary>Infrared built into a camera, against its tilt and what is near it (docs/calculations.md, L).</summary>
/// <param name="SurfaceAnglesDeg">From the axis to each surface.</param>
/// <param name="TiltTooLow">It looks so far up that its light comes back from eaves or the cover's rim.</param>
/// <param name="Reflecting">Surfaces, by their place in the list, that throw light back into the lens.</param>
public sealed record BuiltInInfrared(ImmutableArray<double> SurfaceAnglesDeg, bool TiltTooLow, ImmutableArray<int> Reflecting)
{
    /// <summary>Nothing was found.</summary>
    public bool IsOk => !TiltTooLow && Reflecting.IsEmpty;

    /// <param name="tiltDeg">Of the camera, -90 to 90.</param>
    /// <param name="verticalDeg">Height of its field, above 0 and under 180.</param>
    /// <param name="surfaces">Near it.</param>
    /// <param name="leastTiltDeg">It should look down at least so much (practice).</param>
    /// <param name="halfAngleDeg">The light goes so far either way, above 0 and up to 90; null: half the field and 10.</param>
    /// <param name="nearMetres">Surfaces nearer than this count (practice).</param>
    public static BuiltInInfrared Of(
        double tiltDeg,
        double verticalDeg,
        IReadOnlyList<NearSurface> surfaces,
        double leastTiltDeg = 10,
        double? halfAngleDeg = null,
        double nearMetres = 1.5
    )
    {
        Require.Number(tiltDeg, "tilt_deg", -90, 90);
        Require.Positive(verticalDeg, "vertical_fov_deg", Math.BitDecrement(180));
        Require.Number(leastTiltDeg, "minimum_down_tilt_deg");
        Require.Number(nearMetres, "near_distance_m");
        var half = Require.Positive(halfAngleDeg ?? verticalDeg / 2 + 10, "infrared_half_angle_deg", 90);
        var angles = ImmutableArray.CreateBuilder<double>(surfaces.Count);
        var reflecting = ImmutableArray.CreateBuilder<int>();
        for (var i = 0; i < surfaces.Count; i++)
        {
            var s = surfaces[i];
            Require.Number(s.DistanceMetres, "surfaces.distance_m", 0);
            Require.Number(s.BearingDeg, "surfaces.bearing_deg", -180, 180);
            Require.Number(s.DepressionDeg, "surfaces.depression_deg", -90, 90);
            var cos = Cos(tiltDeg) * Cos(s.DepressionDeg) * Cos(s.BearingDeg) + Sin(tiltDeg) * Sin(s.DepressionDeg);
            var angle = Deg(Math.Acos(Math.Clamp(cos, -1, 1)));
            angles.Add(angle);
            if (angle <= half + 1e-9 && s.DistanceMetres <= nearMetres + 1e-9)
                reflecting.Add(i);
        }
        return new(angles.ToImmutable(), tiltDeg < leastTiltDeg - 1e-9, reflecting.ToImmutable());
    }
}
