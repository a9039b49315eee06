using System.Text.Json.Serialization;
using Walkdown.Core.Clocks;

namespace Walkdown.Core.Acceptance;

/// <summary>Where a site is, and what is there that rows wait for.</summary>
/// <param name="LatitudeDeg">North positive; null: nobody has said where the site is.</param>
/// <param name="LongitudeDeg">East positive.</param>
/// <param name="Presences">Since when, or from when on, what rows wait for is there, by its id (<see cref="Catalogues.Presence"/>).</param>
public sealed record SiteFacts(double? LatitudeDeg, double? LongitudeDeg, ImmutableSortedDictionary<string, Stay> Presences)
{
    /// <summary>Nobody has said anything.</summary>
    public static readonly SiteFacts Unsaid = new(null, null, ImmutableSortedDictionary<string, Stay>.Empty);

    /// <summary>One text for each site: what was judged for another says nothing.</summary>
    [JsonIgnore]
    public string Signature =>
        this == Unsaid
            ? ""
            : string.Create(CultureInfo.InvariantCulture, $" {LatitudeDeg},{LongitudeDeg}")
                + string.Concat(Presences.Select(p => $" {p.Key}:{p.Value.From.ToUnixTimeSeconds()}-{p.Value.Until?.ToUnixTimeSeconds()}"));

    /// <summary>The place of its zone where nobody has said a nearer one; null where the zone has none.</summary>
    public (double LatitudeDeg, double LongitudeDeg, string? ByZone)? Where(string zone) =>
        LatitudeDeg is { } latitude && LongitudeDeg is { } longitude ? (latitude, longitude, null)
        : Sun.OfZone(zone) is { } of ? (of.LatitudeDeg, of.LongitudeDeg, of.Place)
        : null;

    /// <summary>By what it says.</summary>
    public bool Equals(SiteFacts? other) =>
        ReferenceEquals(this, other)
        || other is not null
            && LatitudeDeg == other.LatitudeDeg
            && LongitudeDeg == other.LongitudeDeg
            && Presences.SequenceEqual(other.Presences);

    /// <summary>By what it says.</summary>
    public override int GetHashCode() => HashCode.Combine(LatitudeDeg, LongitudeDeg, Presences.Count);
}

/// <summary>A span in which something is there.</summary>
/// <param name="From">From here on.</param>
/// <param name="Until">Until here; null: nobody has said an end.</param>
public sealed record Stay(DateTimeOffset From, DateTimeOffset? Until);
