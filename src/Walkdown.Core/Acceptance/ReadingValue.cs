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
[JsonDerivedType(typeof(ListValue), "list")]
[JsonDerivedType(typeof(TextValue), "text")]
[JsonDerivedType(typeof(ProbesValue), "probes")]
[JsonDerivedType(typeof(CountersValue), "counters")]
[JsonDerivedType(typeof(UnreadableValue), "unreadable")]
public abstract record ReadingValue;

/// <summary>What stands on record and cannot be read any more. Its row is not judged; nothing else suffers.</summary>
public sealed record UnreadableValue : ReadingValue;

/// <param name="Value">In the check's own unit.</param>
public sealed record NumberValue(double Value, Unit Unit) : ReadingValue;

public sealed record YesNoValue(bool Yes) : ReadingValue;

public sealed record ChoiceValue(string Choice) : ReadingValue;

/// <summary>Items of a list that are the exception: missing from a pack, in the way of the work, not confirmed. Empty: all is
/// well.</summary>
public sealed record ListValue(ImmutableArray<string> Marked) : ReadingValue
{
    public bool Equals(ListValue? other) => other is not null && Marked.AsSpan().SequenceEqual(other.Marked.AsSpan());

    public override int GetHashCode() => Marked.Length;
}

/// <summary>A word as it was read off, such as a version.</summary>
public sealed record TextValue(string Text) : ReadingValue;

/// <summary>Probes sent to the device and answers received.</summary>
/// <param name="RoundTripsMs">Milliseconds of the last probes in the order sent, up to 2,000, null for a lost one; absent where the tester
/// only counts.</param>
public sealed record ProbesValue(int Sent, int Received, ImmutableArray<double?>? RoundTripsMs = null) : ReadingValue;

/// <summary>One look at the counters of a port.</summary>
public readonly record struct CounterLook(long Packets, long Errors);

/// <summary>Two looks at the counters of a port, some time apart.</summary>
public sealed record CountersValue(CounterLook First, CounterLook Second, double IntervalSeconds, int Bits = 32) : ReadingValue
{
    /// <summary>Errors between both looks, a counter that began anew at zero taken on; null where it was reset in between.</summary>
    public decimal? ErrorsBetween() =>
        Links.InterfaceErrors.Between(new(First.Packets, First.Errors), new(Second.Packets, Second.Errors), IntervalSeconds, Bits).Errors;
}

/// <summary>Which unit of the tester the order of pins was read from. Only the far one is evidence: the main unit always counts 1 to
/// 8.</summary>
public enum MapReadAt
{
    FarUnit,
    MainUnit,
}

/// <summary>A wire map: for near pins 1 to 8, in order, the far pins each shows on (none for open).</summary>
/// <param name="OpenDistanceMetres">Metres from the near end by near pin, where the tester gives them.</param>
/// <param name="ShieldArrives">Whether the shield shows at the far end; null where it was not measured.</param>
/// <param name="TwistedPairs">Pins twisted with each other, where the tester made a pair test; without one a split pair cannot be
/// seen.</param>
/// <param name="RemoteLabel">The label found at the far end, where it was read.</param>
public sealed record WireMapValue(
    ImmutableArray<ImmutableArray<int>> NearToFar,
    MapReadAt ReadAt,
    ImmutableDictionary<string, double>? OpenDistanceMetres = null,
    string? RemoteLabel = null,
    bool? ShieldArrives = null,
    ImmutableArray<ImmutableArray<int>>? TwistedPairs = null
) : ReadingValue
{
    /// <summary>The map as Core analyses it.</summary>
    /// <exception cref="BadInputException">Not eight near pins, or a pin that does not exist.</exception>
    public WireMapReading ToReading() =>
        NearToFar is { IsDefault: false, Length: 8 }
            ? new WireMapReading(
                NearToFar
                    .Select((far, i) => (Near: i + 1, Far: far))
                    .Concat(
                        ShieldArrives is { } shield
                            ? [(WireMapReading.Shield, shield ? [WireMapReading.Shield] : ImmutableArray<int>.Empty)]
                            : []
                    )
                    .ToDictionary(p => p.Near, p => (IReadOnlyCollection<int>)(p.Far.IsDefault ? [] : [.. p.Far]))
            )
            : throw new BadInputException(BadInputReason.Missing, "near_to_far");
}
