using NodaTime;

namespace Walkdown.Core.Clocks;

/// <summary>Days are the site's: a concession that holds until the 20th ends when that day ends there, and so does a calibration.</summary>
public static class SiteTime
{
    /// <summary>A moment with the offset of a zone; in UTC where nobody knows the zone.</summary>
    /// <param name="zone">Name in the tz database.</param>
    /// <param name="moment">Any moment.</param>
    public static DateTimeOffset In(string zone, DateTimeOffset moment) =>
        DateTimeZoneProviders.Tzdb.GetZoneOrNull(zone) is { } known
            ? Instant.FromDateTimeOffset(moment).InZone(known).ToDateTimeOffset()
            : moment.ToUniversalTime();

    /// <summary>The day that it is in a zone at a moment.</summary>
    public static DateOnly DayOf(string zone, DateTimeOffset moment) => DateOnly.FromDateTime(In(zone, moment).DateTime);

    /// <summary>Minutes of a zone's standard time, without any summer's hour, at a moment.</summary>
    public static int StandardOffsetMinutes(string zone, DateTimeOffset moment) =>
        (DateTimeZoneProviders.Tzdb.GetZoneOrNull(zone) ?? DateTimeZone.Utc)
            .GetZoneInterval(Instant.FromDateTimeOffset(moment))
            .StandardOffset.Seconds / 60;

    /// <summary>A clock on the wall as a moment. What the spring skips is taken later by the gap; of an hour that the autumn repeats, the
    /// first.</summary>
    public static DateTimeOffset FromWall(string zone, DateTime wall)
    {
        var local = LocalDateTime.FromDateTime(DateTime.SpecifyKind(wall, DateTimeKind.Unspecified));
        return (DateTimeZoneProviders.Tzdb.GetZoneOrNull(zone) ?? DateTimeZone.Utc).AtLeniently(local).ToDateTimeOffset();
    }

    /// <summary>Whether a zone of that name is known (IANA).</summary>
    public static bool IsKnown(string zone) => DateTimeZoneProviders.Tzdb.GetZoneOrNull(zone) is not null;
}
