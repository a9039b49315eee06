using NodaTime;

namespace Walkdown.Storage;

/// <summary>Days are the site's: a concession that holds until the 20th ends when that day ends there.</summary>
public static class SiteTime
{
    /// <summary>A moment with the offset of a zone; in UTC where nobody knows the zone.</summary>
    /// <param name="zone">Name in the tz database.</param>
    public static DateTimeOffset In(string zone, DateTimeOffset moment) =>
        DateTimeZoneProviders.Tzdb.GetZoneOrNull(zone) is { } known
            ? Instant.FromDateTimeOffset(moment).InZone(known).ToDateTimeOffset()
            : moment.ToUniversalTime();
}
