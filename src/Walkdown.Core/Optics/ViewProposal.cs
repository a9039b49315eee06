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

    /// <param name="place">From the schedule.</param>
    /// <param name="model">Null: not known.</param>
    public static ViewDesign Of(PlaceFacts place, DeviceModel? model)
    {
        var field = model?.Lens?.WidestDeg is { } widest and < 170 ? widest : UsualField;
        return new(
            place.HeightMetres is { } height and > 0 and <= 200 ? height : UsualHeight,
            Math.Clamp(UsualTilt, model?.TiltLeast ?? UsualTilt, Math.Max(model?.TiltLeast ?? UsualTilt, model?.TiltGreatest ?? UsualTilt)),
            field,
            model?.Pixels?.Wide ?? 1920,
            model?.Pixels?.High ?? 1080,
            null,
            []
        );
    }
}
