using Walkdown.Core.Cabling;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>A wire map: for near pins 1 to 8, in order, the far pins each shows on (none for open).</summary>
/// <param name="OpenDistanceMetres">Metres from the near end by near pin, where the tester gives them.</param>
/// <param name="ShieldArrives">Whether the shield shows at the far end; null where it was not measured.</param>
/// <param name="TwistedPairs">Pins twisted with each other, where the tester made a pair test; without one a split pair cannot be
/// seen.</param>
/// <param name="RemoteLabel">The label found at the far end, where it was read.</param>
/// <param name="NearToFar">Far pins by near pin, eight of them; 9 is the shield.</param>
/// <param name="ReadAt">Where it was read.</param>
public sealed record WireMapValue(
    ImmutableArray<ImmutableArray<int>> NearToFar,
    MapReadAt ReadAt,
    ImmutableDictionary<string, double>? OpenDistanceMetres = null,
    string? RemoteLabel = null,
    bool? ShieldArrives = null,
    ImmutableArray<ImmutableArray<int>>? TwistedPairs = null
) : ReadingValue
{
    /// <inheritdoc/>
    public override bool Suits(EntryKind entry) => entry == EntryKind.WireMap;

    /// <inheritdoc/>
    public override Message? Refuse(CheckDefinition check)
    {
        if (ReadAt == MapReadAt.MainUnit)
            return new Message("reading.main-unit");
        if (RemoteLabel is { Length: > 60 })
            return new Message("reading.label-too-long");
        if (
            OpenDistanceMetres is { } distances
            && distances.Any(d => d.Key is not [>= '1' and <= '8'] || d.Value is not (>= 0 and <= 2000))
        )
            return new Message("reading.map-distance");
        if (
            TwistedPairs is { } twists
            && (
                twists.Any(p => p.Length != 2 || p.Any(pin => pin is < 1 or > 8))
                || twists.SelectMany(p => p).Distinct().Count() != twists.Length * 2
            )
        )
            return new Message("reading.map-twists");
        try
        {
            ToReading();
            return null;
        }
        catch (BadInputException)
        {
            return new Message("reading.map-pins");
        }
    }

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
