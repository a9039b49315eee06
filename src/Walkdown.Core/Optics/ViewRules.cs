using Walkdown.Core.Acceptance;
using Walkdown.Core.Aiming;
using Walkdown.Core.Catalogues;

namespace Walkdown.Core.Optics;

/// <summary>What a device itself, and what it is for, ask of its view.</summary>
/// <param name="Model">Its model; null: not known.</param>
/// <param name="InfraredLeastDeg">Its built-in infrared asks for so much tilt; null: it has none.</param>
/// <param name="IsCamera">It looks at something.</param>
/// <param name="Mounting">How a camera should hang for a purpose.</param>
public sealed record ViewRules(DeviceModel? Model, double? InfraredLeastDeg, bool IsCamera, Func<string, MountingRule> Mounting)
{
    /// <summary>It looks at plates.</summary>
    public bool ReadsPlates { get; init; }

    /// <param name="facts">Of its Card.</param>
    /// <param name="catalogue">In force.</param>
    public static ViewRules Of(CardFacts facts, Catalogue catalogue)
    {
        var features = CheckPlan.FeaturesOf(facts, catalogue);
        return new(
            catalogue.Model(facts.Place.Model),
            features.Contains("infrared") ? catalogue.Figure("tilt.infrared-least") : null,
            features.Contains("camera"),
            purpose => MountingRule.Of(purpose, catalogue.Figure)
        )
        {
            ReadsPlates = features.Contains("plates"),
        };
    }
}
