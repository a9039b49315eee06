using System.Collections.Concurrent;
using NodaTime.TimeZones;
using Walkdown.Core.Measures;
using static Walkdown.Core.Measures.Angle;

namespace Walkdown.Core.Clocks;

/// <summary>Where the sun stands, and when it is dark (docs/calculations.md, M). Solar equations after Meeus as NOAA publishes them;
/// valid 1901 to 2099; longitude east positive. Rise and set are good to about a minute in the open; hills and buildings matter
/// more.</summary>
public static class Sun
{
    private const double RiseAndSet = -0.833,
        Civil = -6;

    /// <summary>Where the sun stands, degrees; azimuth from north clockwise.</summary>
    /// <param name="AzimuthDeg">From north clockwise.</param>
    /// <param name="ElevationDeg">Above the horizon, without refraction.</param>
    /// <param name="ApparentElevationDeg">With refraction.</param>
    /// <param name="DeclinationDeg">Declination.</param>
    /// <param name="EquationOfTimeMinutes">By which a sundial is ahead of the clock.</param>
    /// <param name="HourAngleDeg">From the transit, afternoon positive.</param>
    public readonly record struct Place(
        double AzimuthDeg,
        double ElevationDeg,
        double ApparentElevationDeg,
        double DeclinationDeg,
        double EquationOfTimeMinutes,
        double HourAngleDeg
    );

    /// <summary>How a day goes.</summary>
    public enum Course
    {
        /// <summary>It rises and sets; of the civil day: there is a dusk and a dawn.</summary>
        Both,

        /// <summary>It stays above.</summary>
        AlwaysAbove,

        /// <summary>It stays below.</summary>
        AlwaysBelow,
    }

    /// <summary>The moments of one day; null where there is none. A moment may fall on another date in UTC.</summary>
    /// <param name="Noon">The transit.</param>
    /// <param name="NoonElevationDeg">How high it stands then.</param>
    /// <param name="Sun">Whether it rises and sets.</param>
    /// <param name="Sunrise">At -0.833 degrees.</param>
    /// <param name="Sunset">At -0.833 degrees.</param>
    /// <param name="CivilLight">Whether there is a dusk and a dawn.</param>
    /// <param name="Dawn">At -6 degrees.</param>
    /// <param name="Dusk">At -6 degrees.</param>
    public sealed record Day(
        DateTimeOffset Noon,
        double NoonElevationDeg,
        Course Sun,
        DateTimeOffset? Sunrise,
        DateTimeOffset? Sunset,
        Course CivilLight,
        DateTimeOffset? Dawn,
        DateTimeOffset? Dusk
    );

    /// <summary>Declination and equation of time.</summary>
    private static (double DeclinationDeg, double EquationOfTime) Core(double julianDay)
    {
        var t = (julianDay - 2451545) / 36525;
        var l0 = (280.46646 + t * (36000.76983 + 0.0003032 * t)) % 360;
        var m = 357.52911 + t * (35999.05029 - 0.0001537 * t);
        var e = 0.016708634 - t * (0.000042037 + 0.0000001267 * t);
        var c = Sin(m) * (1.914602 - t * (0.004817 + 0.000014 * t)) + Sin(2 * m) * (0.019993 - 0.000101 * t) + Sin(3 * m) * 0.000289;
        var node = 125.04 - 1934.136 * t;
        var apparent = l0 + c - 0.00569 - 0.00478 * Sin(node);
        var obliquity = 23 + (26 + (21.448 - t * (46.815 + t * (0.00059 - t * 0.001813))) / 60) / 60 + 0.00256 * Cos(node);
        var declination = Deg(Math.Asin(Sin(obliquity) * Sin(apparent)));
        var y = Math.Pow(Math.Tan(Rad(obliquity / 2)), 2);
        var equation =
            4
            * Deg(
                y * Sin(2 * l0) - 2 * e * Sin(m) + 4 * e * y * Sin(m) * Cos(2 * l0) - 0.5 * y * y * Sin(4 * l0) - 1.25 * e * e * Sin(2 * m)
            );
        return (declination, equation);
    }

    /// <summary>Where the sun stands at a moment.</summary>
    /// <exception cref="BadInputException">A place that is none on earth, or a year that the equations do not reach.</exception>
    public static Place At(double latitudeDeg, double longitudeDeg, DateTimeOffset moment)
    {
        Check(latitudeDeg, longitudeDeg, moment.UtcDateTime.Year);
        return Unchecked(latitudeDeg, longitudeDeg, moment);
    }

    /// <summary>The same, hours beyond the years of the equations included: a local year begins and ends in another one by UTC.</summary>
    internal static Place Unchecked(double latitudeDeg, double longitudeDeg, DateTimeOffset moment)
    {
        var (declination, equation) = Core(JulianDay(moment));
        var minutes = moment.UtcDateTime.TimeOfDay.TotalMinutes;
        var solar = (((minutes + equation + 4 * longitudeDeg) % 1440) + 1440) % 1440;
        var hour = solar / 4 - 180;
        var elevation = Deg(
            Math.Asin(Math.Clamp(Sin(latitudeDeg) * Sin(declination) + Cos(latitudeDeg) * Cos(declination) * Cos(hour), -1, 1))
        );
        var azimuth =
            (Deg(Math.Atan2(Sin(hour), Cos(hour) * Sin(latitudeDeg) - Math.Tan(Rad(declination)) * Cos(latitudeDeg))) + 180) % 360;
        return new(azimuth, elevation, elevation + RefractionDeg(elevation), declination, equation, hour);
    }

    /// <summary>The moments of a date by a clock with a fixed offset.</summary>
    /// <exception cref="BadInputException">A place that is none on earth, or a year that the equations do not reach.</exception>
    public static Day On(double latitudeDeg, double longitudeDeg, DateOnly date, double utcOffsetMinutes)
    {
        Check(latitudeDeg, longitudeDeg, date.Year);
        var clockNoon = new DateTimeOffset(date.ToDateTime(new TimeOnly(12, 0)), TimeSpan.Zero).AddMinutes(-utcOffsetMinutes);
        var noon = clockNoon;
        // The transit nearest to noon by the clock.
        for (var i = 0; i < 4; i++)
        {
            var solar = noon.TimeOfDay.TotalMinutes + Core(JulianDay(noon)).EquationOfTime + 4 * longitudeDeg;
            var off = ((solar - 720 + 720) % 1440 + 1440) % 1440 - 720;
            noon = noon.AddMinutes(-off);
        }
        if ((noon - clockNoon).TotalMinutes > 720)
            noon = noon.AddMinutes(-1440);
        else if ((noon - clockNoon).TotalMinutes < -720)
            noon = noon.AddMinutes(1440);
        var (sun, rise, set) = Crossing(RiseAndSet);
        var (civil, dawn, dusk) = Crossing(Civil);
        return new Day(noon, At(latitudeDeg, longitudeDeg, noon).ElevationDeg, sun, rise, set, civil, dawn, dusk);

        // Each is found for itself: at the edge of a polar season a day may have one without the other. The word follows the evening.
        (Course, DateTimeOffset?, DateTimeOffset?) Crossing(double altitude)
        {
            var (morning, _) = Event(altitude, -1);
            var (evening, course) = Event(altitude, 1);
            return (course, morning, evening);
        }

        (DateTimeOffset?, Course) Event(double altitude, int side)
        {
            var at = noon;
            for (var i = 0; i < 6; i++)
            {
                var declination = Core(JulianDay(at)).DeclinationDeg;
                var cos = (Sin(altitude) - Sin(latitudeDeg) * Sin(declination)) / (Cos(latitudeDeg) * Cos(declination));
                if (cos > 1)
                    return (null, Course.AlwaysBelow);
                if (cos < -1)
                    return (null, Course.AlwaysAbove);
                var minutes = side * 4 * Deg(Math.Acos(cos));
                // The transit moves by the equation of time between noon and the event.
                var drift = Core(JulianDay(noon)).EquationOfTime - Core(JulianDay(at)).EquationOfTime;
                at = noon.AddMinutes(minutes + drift);
            }
            return (at, Course.Both);
        }
    }

    /// <summary>The dark of one night: from civil dusk and a while after to civil dawn.</summary>
    /// <param name="From">Dark enough from here.</param>
    /// <param name="Until">Until here; null: longer than the next days.</param>
    public sealed record Night(DateTimeOffset From, DateTimeOffset? Until);

    /// <summary>Whether it is dark at a moment: the sun is at least six degrees down.</summary>
    public static bool IsDark(double latitudeDeg, double longitudeDeg, DateTimeOffset moment) =>
        At(latitudeDeg, longitudeDeg, moment).ElevationDeg <= Civil;

    /// <summary>The sun is so far down where it is dark enough for a camera, degrees: dusk is known to minutes, and what was read within a
    /// few of it was dark enough for whoever stood there.</summary>
    public const double DarkEnough = -4;

    private static readonly ConcurrentDictionary<(double, double, DateOnly, double), Day> Days = new();

    /// <summary>A day that was worked out already: every Card of a site asks for the same few.</summary>
    private static Day Known(double latitudeDeg, double longitudeDeg, DateOnly date, double utcOffsetMinutes)
    {
        var key = (latitudeDeg, longitudeDeg, date, utcOffsetMinutes);
        if (Days.TryGetValue(key, out var known))
            return known;
        if (Days.Count > 2000)
            Days.Clear();
        return Days[key] = On(latitudeDeg, longitudeDeg, date, utcOffsetMinutes);
    }

    /// <summary>The dark that holds at a moment, else the next one within ten days; null: there is none so soon.</summary>
    public static Night? NightAt(double latitudeDeg, double longitudeDeg, DateTimeOffset moment, double settleMinutes)
    {
        // By the sun's own clock at the place, whatever the zone says.
        var offset = Math.Round(4 * longitudeDeg);
        var today = DateOnly.FromDateTime(moment.UtcDateTime.AddMinutes(offset));
        DateTimeOffset? dusk = null;
        for (var day = -1; day < 11; day++)
        {
            var here = Known(latitudeDeg, longitudeDeg, today.AddDays(day), offset);
            if (dusk is { } from && here.Dawn is { } dawn && dawn > moment && dawn > from)
                return new Night(from, dawn);
            dusk = here.CivilLight switch
            {
                Course.AlwaysBelow => dusk ?? here.Noon.AddMinutes(-720),
                Course.Both => here.Dusk!.Value.AddMinutes(settleMinutes),
                _ => null,
            };
        }
        return dusk is { } begins ? new Night(begins, null) : null;
    }

    /// <summary>Latitude and longitude of the principal place of a zone of the tz database; null where the zone has none, such as
    /// UTC.</summary>
    public static (double LatitudeDeg, double LongitudeDeg, string Place)? OfZone(string zone) => Zones.GetOrAdd(zone, Located);

    private static readonly ConcurrentDictionary<string, (double, double, string)?> Zones = new();

    private static (double, double, string)? Located(string zone)
    {
        var source = TzdbDateTimeZoneSource.Default;
        var id = source.CanonicalIdMap.TryGetValue(zone, out var canonical) ? canonical : zone;
        return source.ZoneLocations?.FirstOrDefault(l => l.ZoneId == zone || l.ZoneId == id) is { } at
            ? (at.Latitude, at.Longitude, at.ZoneId[(at.ZoneId.LastIndexOf('/') + 1)..].Replace('_', ' '))
            : null;
    }

    /// <summary>NOAA's piecewise refraction, degrees.</summary>
    private static double RefractionDeg(double elevation)
    {
        if (elevation > 85)
            return 0;
        var tan = Math.Tan(Rad(elevation));
        var seconds =
            elevation > 5 ? 58.1 / tan - 0.07 / Math.Pow(tan, 3) + 0.000086 / Math.Pow(tan, 5)
            : elevation > -0.575 ? 1735 + elevation * (-518.2 + elevation * (103.4 + elevation * (-12.79 + elevation * 0.711)))
            : -20.772 / tan;
        return seconds / 3600;
    }

    private static double JulianDay(DateTimeOffset moment) => moment.ToUnixTimeMilliseconds() / 86_400_000.0 + 2440587.5;

    /// <exception cref="BadInputException">A place that is none on earth, or a year that the equations do not reach.</exception>
    internal static void Check(double latitude, double longitude, int year)
    {
        Within(latitude, 90, "latitude_deg");
        Within(longitude, 180, "longitude_deg");
        if (year is < 1901 or > 2099)
            throw new BadInputException(year < 1901 ? BadInputReason.BelowMinimum : BadInputReason.AboveMaximum, "date");

        static void Within(double value, double most, string field)
        {
            if (!double.IsFinite(value))
                throw new BadInputException(BadInputReason.NotANumber, field);
            if (Math.Abs(value) > most)
                throw new BadInputException(value < 0 ? BadInputReason.BelowMinimum : BadInputReason.AboveMaximum, field);
        }
    }
}
