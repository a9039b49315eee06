using System.Globalization;
using Walkdown.Core.Clocks;
using Walkdown.Core.Measures;

namespace Walkdown.Formats;

/// <summary>Times as files write them.</summary>
internal static class SheetTime
{
    /// <summary>A moment; a day and a month that could change places are refused, unless one of both lies near.</summary>
    /// <param name="text">As it stands there.</param>
    /// <param name="zone">Of clocks that say none.</param>
    /// <param name="near">When it must have been, more or less; null: nobody knows.</param>
    public static (DateTimeOffset? At, Message? Trouble) Of(string text, string zone, DateTimeOffset? near = null)
    {
        if (text.Length == 0)
            return (null, null);
        if (
            text.Length > 10
            && (text.EndsWith('Z') || text.LastIndexOfAny(['+', '-']) > 10)
            && DateTimeOffset.TryParse(text, CultureInfo.InvariantCulture, DateTimeStyles.None, out var moment)
        )
            return (moment, null);
        string[] sure =
        [
            "yyyy-MM-dd HH:mm:ss.fff",
            "yyyy-MM-dd HH:mm:ss",
            "yyyy-MM-dd HH:mm",
            "yyyy-MM-ddTHH:mm:ss",
            "yyyy-MM-ddTHH:mm",
            "yyyy-MM-dd",
            "yyyy/MM/dd HH:mm:ss",
            "yyyy/MM/dd HH:mm",
            "d.M.yyyy HH:mm:ss",
            "d.M.yyyy HH:mm",
            "d.M.yyyy",
            "d MMM yyyy HH:mm",
            "d MMM yyyy",
        ];
        if (DateTime.TryParseExact(text, sure, CultureInfo.InvariantCulture, DateTimeStyles.None, out var local))
            return (In(local), null);
        string[] slashes = ["d/M/yyyy HH:mm:ss", "d/M/yyyy HH:mm", "d/M/yyyy"],
            turned = ["M/d/yyyy HH:mm:ss", "M/d/yyyy HH:mm", "M/d/yyyy"];
        bool day = DateTime.TryParseExact(text, slashes, CultureInfo.InvariantCulture, DateTimeStyles.None, out local),
            month = DateTime.TryParseExact(text, turned, CultureInfo.InvariantCulture, DateTimeStyles.None, out var other);
        if (day && month && local != other)
            return near is not { } about ? (null, new("result.time-two-ways", text))
                : (In(local) - about).Duration() <= (In(other) - about).Duration() ? (In(local), null)
                : (In(other), null);
        return day ? (In(local), null)
            : month ? (In(other), null)
            : (null, new("result.time", text.Length > 30 ? text[..30] : text));

        DateTimeOffset In(DateTime at) => SiteTime.FromWall(zone, at);
    }
}
