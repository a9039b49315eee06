using System.Text.Json.Serialization;

namespace Walkdown.Core.Acceptance;

/// <summary>A condition on a device, as data. Empty holds always.</summary>
public sealed record Rule
{
    /// <summary>All of these hold.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public ImmutableArray<Rule>? All { get; init; }

    /// <summary>One of these holds.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public ImmutableArray<Rule>? Any { get; init; }

    /// <summary>This does not hold.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public Rule? Not { get; init; }

    /// <summary>A feature that the device has.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public string? Feature { get; init; }

    /// <summary>A kind that the device is.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public string? Kind { get; init; }

    /// <summary>Always, or never.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public bool? Always { get; init; }

    /// <summary>Whether it holds for a device; a rule that says nothing holds.</summary>
    public bool Holds(string kind, IReadOnlySet<string> features) =>
        Always != false
        && (Feature is null || features.Contains(Feature))
        && (Kind is null || Kind == kind)
        && (Not is null || !Not.Holds(kind, features))
        && (All is not { } all || all.All(rule => rule.Holds(kind, features)))
        && (Any is not { } any || any.Any(rule => rule.Holds(kind, features)));
}
