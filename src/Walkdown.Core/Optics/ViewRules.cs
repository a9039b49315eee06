using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogues;

namespace Walkdown.Core.Optics;

/// <summary>What a device itself asks of its view.</summary>
/// <param name="Model">Its model; null: not known.</param>
/// <param name="InfraredLeastDeg">Its built-in infrared asks for so much tilt; null: it has none.</param>
/// <param name="IsCamera">It looks at something.</param>
public sealed record ViewRules(DeviceModel? Model, double? InfraredLeastDeg, bool IsCamera = true)
{
    /// <param name="facts">Of its Card.</param>
    /// <param name="catalogue">In force.</param>
    public static ViewRules Of(CardFacts facts, Catalogue catalogue)
    {
        var features = CheckPlan.FeaturesOf(facts, catalogue);
        return new(
            catalogue.Model(facts.Place.Model),
            features.Contains("infrared") ? catalogue.Figure("tilt.infrared-least") : null,
            features.Contains("camera")
        );
    }
}
