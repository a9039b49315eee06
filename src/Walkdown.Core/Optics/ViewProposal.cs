using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogues;

namespace Walkdown.Core.Optics;

/// <summary>Where to begin where nobody has planned a view: what schedule and model say, and a usual tilt. It is nobody's plan until it
/// is kept.</summary>
public static class ViewProposal
{
    private const double UsualHeight = 3.5,
        UsualTilt = 25,
        UsualField = 90;

    /// <summary>Where plates are usually read: so far along the lane and aside of it, at that height, metres.</summary>
    internal const double PlateAhead = 7,
        PlateAside = 2,
        PlateHeight = 0.5;

    /// <summary>With less built-in infrared lights the camera's own cover.</summary>
    private const double LeastTilt = 10;

    /// <param name="place">From the schedule.</param>
    /// <param name="model">Null: not known.</param>
    /// <param name="readsPlates">It looks along a lane at plates, and not at the ground.</param>
    public static ViewDesign Of(PlaceFacts place, DeviceModel? model, bool readsPlates = false)
    {
        var away = Math.Round(double.Hypot(PlateAhead, PlateAside), 1);
        var metres = place.HeightMetres is { } height and > 0 and <= 200 ? height : UsualHeight;
        var usual = readsPlates
            ? Math.Max(LeastTilt, Math.Round(Measures.Angle.Deg(Math.Atan2(metres - PlateHeight, away)), 1))
            : UsualTilt;
        var field = model?.Lens?.WidestDeg is { } widest and < 170 ? widest : UsualField;
        return new(
            metres,
            Math.Clamp(usual, model?.TiltLeast ?? usual, Math.Max(model?.TiltLeast ?? usual, model?.TiltGreatest ?? usual)),
            field,
            model?.Pixels?.Wide ?? 1920,
            model?.Pixels?.High ?? 1080,
            null,
            readsPlates ? [new(NameOf(place), away, 0, PlateHeight, DetailLevel.Identify)] : [],
            Use: readsPlates ? "plates" : null
        );
    }

    private static string NameOf(PlaceFacts place)
    {
        var name = place.Name.Trim().Length > 0 ? place.Name.Trim() : place.Label;
        return name.Length > ViewDesign.MostName ? name[..ViewDesign.MostName] : name;
    }
}
