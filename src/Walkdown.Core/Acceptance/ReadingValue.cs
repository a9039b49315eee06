using System.Text.Json.Serialization;
using Walkdown.Core.Cabling;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>What was read, by way of entering.</summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "kind")]
[JsonDerivedType(typeof(NumberValue), "number")]
[JsonDerivedType(typeof(YesNoValue), "yesNo")]
[JsonDerivedType(typeof(ChoiceValue), "choice")]
[JsonDerivedType(typeof(WireMapValue), "wireMap")]
public abstract record ReadingValue;

/// <param name="Value">In the check's own unit.</param>
public sealed record NumberValue(double Value, Unit Unit) : ReadingValue;

public sealed record YesNoValue(bool Yes) : ReadingValue;

public sealed record ChoiceValue(string Choice) : ReadingValue;

/// <summary>Which unit of the tester the order of pins was read from. Only the far one is evidence: the main unit always counts 1 to 8.</summary>
public enum MapReadAt { FarUnit, MainUnit }

/// <summary>A wire map: for near pins 1 to 8, in order, the far pins each shows on (none for open).</summary>
/// <param name="OpenDistanceMetres">Metres from the near end by near pin, where the tester gives them.</param>
/// <param name="RemoteLabel">The label found at the far end, where it was read.</param>
public sealed record WireMapValue(
    ImmutableArray<ImmutableArray<int>> NearToFar, MapReadAt ReadAt, ImmutableDictionary<string, double>? OpenDistanceMetres = null, string? RemoteLabel = null) : ReadingValue
{
    /// <summary>The map as Core analyses it.</summary>
    /// <exception cref="BadInputException">Not eight near pins, or a pin that does not exist.</exception>
    public WireMapReading ToReading() =>
        NearToFar is { IsDefault: false, Length: 8 }
            ? new WireMapReading(NearToFar.Select((far, i) => (Near: i + 1, Far: far)).ToDictionary(p => p.Near, p => (IReadOnlyCollection<int>)(p.Far.IsDefault ? [] : [.. p.Far])))
            : throw new BadInputException(BadInputReason.Missing, "near_to_far");
}
