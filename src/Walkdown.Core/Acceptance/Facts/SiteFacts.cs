using System.Text.Json.Serialization;
using Walkdown.Core.Clocks;
using Walkdown.Core.Measures;

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

    /// <summary>The dark that holds, or comes next; null where nobody can say when it is dark.</summary>
    /// <param name="zone">The site's zone.</param>
    /// <param name="moment">Any moment.</param>
    /// <param name="settleMinutes">How long after dusk it is dark enough.</param>
    public Sun.Night? NightAt(string zone, DateTimeOffset moment, double settleMinutes) =>
        Where(zone) is var (latitude, longitude, _) ? Sun.NightAt(latitude, longitude, moment, settleMinutes) : null;

    /// <summary>A place on earth, or none said.</summary>
    public static bool IsPlace(double? latitudeDeg, double? longitudeDeg) =>
        (latitudeDeg, longitudeDeg) is (null, null) or (>= -90 and <= 90, >= -180 and <= 180);

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
public sealed record Stay(DateTimeOffset From, DateTimeOffset? Until)
{
    /// <summary>Why it cannot be, and of which end; null where it can. A day that is ten years off is a slip of the keyboard.</summary>
    public (Message Why, string Field)? Refuse(DateTimeOffset now)
    {
        bool IsSlip(DateTimeOffset at) => Math.Abs((at - now).TotalDays) > 3660;
        return IsSlip(From) ? (new("problem.presence-when"), "from")
            : Until is { } slip && IsSlip(slip) ? (new("problem.presence-when"), "until")
            : Until <= From ? (new("problem.presence-ends"), "until")
            : null;
    }
}
