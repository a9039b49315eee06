using System.Globalization;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;

namespace Walkdown.Formats;

/// <summary>A reader's list as somebody exported it (docs/formats.md, "Plate list"): a table with headings, CSV or XLSX. What it gives
/// holds other people's plates: they are made unreadable before anything is kept.</summary>
public static class PlateListFile
{
    private const int LongestText = 60;

    private static readonly Dictionary<string, string> Headings = new(StringComparer.OrdinalIgnoreCase)
    {
        ["time"] = "time",
        ["date time"] = "time",
        ["date/time"] = "time",
        ["date and time"] = "time",
        ["timestamp"] = "time",
        ["captured"] = "time",
        ["capture time"] = "time",
        ["zeit"] = "time",
        ["zeitpunkt"] = "time",
        ["date"] = "date",
        ["datum"] = "date",
        ["plate"] = "plate",
        ["plate number"] = "plate",
        ["plate no"] = "plate",
        ["number plate"] = "plate",
        ["licence plate"] = "plate",
        ["license plate"] = "plate",
        ["registration"] = "plate",
        ["vehicle"] = "plate",
        ["kennzeichen"] = "plate",
    };

    /// <summary>Reads it whole.</summary>
    /// <param name="file">Its bytes.</param>
    /// <param name="zone">Of clocks that say none.</param>
    /// <param name="near">When the drive was: tells day from month.</param>
    /// <exception cref="SheetException">It is no such list, is too long, or a line has no time.</exception>
    public static IReadOnlyList<(DateTimeOffset At, string Text)> Read(
        byte[] file,
        string zone,
        DateTimeOffset near,
        CancellationToken cancel = default
    )
    {
        var lines = new List<(DateTimeOffset, string)>();
        foreach (
            var (number, of) in HeadedTable.Read(file, Headings, ["plate", "time"], cancel)
                ?? throw new SheetException(new("plates.no-headings"))
        )
        {
            var said = of("date") is { Length: > 0 } date ? $"{date} {of("time")}" : of("time");
            if (SheetTime.Of(said, zone, near) is not ({ } moment, _))
                throw new SheetException(
                    new("plates.no-time", number.ToString(CultureInfo.InvariantCulture), Message.Said(said.Length > 30 ? said[..30] : said))
                );
            // A line without a plate is one that was not read: it is a line all the same.
            var text = of("plate");
            lines.Add((moment, text.Length > LongestText ? text[..LongestText] : text));
            if (lines.Count > PlateList.Most)
                throw new SheetException(new("problem.list-long", Message.Number(PlateList.Most)));
        }
        return lines;
    }
}
