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

    /// <param name="place">From the schedule.</param>
    /// <param name="rules">What the device itself asks for.</param>
    public static ViewDesign Of(PlaceFacts place, ViewRules rules)
    {
        var model = rules.Model;
        var metres = place.HeightMetres is { } height and > 0 and <= 200 ? height : UsualHeight;
        return new(
            metres,
            TiltOf(metres, model, rules.ReadsPlates, rules.InfraredLeastDeg),
            model?.Lens?.WidestDeg is { } widest and < 170 ? widest : UsualField,
            model?.Pixels?.Wide ?? 1920,
            model?.Pixels?.High ?? 1080,
            null,
            rules.ReadsPlates ? [new(NameOf(place), PlateAway, 0, PlateHeight, DetailLevel.Identify)] : [],
            Use: rules.ReadsPlates ? "plates" : null
        );
    }

    /// <summary>Where plates are usually read: so far from the camera.</summary>
    private static readonly double PlateAway = Math.Round(double.Hypot(PlateAhead, PlateAside), 1);

    /// <summary>A usual tilt: a plate reader looks along its lane, anything else at the ground.</summary>
    /// <param name="heightMetres">Of the lens.</param>
    /// <param name="model">Its mount stops there; null: not known.</param>
    /// <param name="readsPlates">It looks at plates.</param>
    /// <param name="infraredLeastDeg">Its built-in light asks for so much; null: it has none.</param>
    public static double TiltOf(double heightMetres, DeviceModel? model, bool readsPlates, double? infraredLeastDeg)
    {
        var usual = readsPlates
            ? Math.Max(infraredLeastDeg ?? 0, Math.Round(Measures.Angle.Deg(Math.Atan2(heightMetres - PlateHeight, PlateAway)), 1))
            : UsualTilt;
        return Math.Clamp(usual, model?.TiltLeast ?? usual, Math.Max(model?.TiltLeast ?? usual, model?.TiltGreatest ?? usual));
    }

    private static string NameOf(PlaceFacts place)
    {
        var name = place.Name.Trim().Length > 0 ? place.Name.Trim() : place.Label;
        return name.Length > ViewDesign.MostName ? name[..ViewDesign.MostName] : name;
    }
}
