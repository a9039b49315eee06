using System.Globalization;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;
using Walkdown.Core.Register;

namespace Walkdown.Formats;

/// <summary>A reader's list as somebody exported it (docs/formats.md, "Plate list"): a table with headings, CSV or XLSX. What it gives
/// holds
/// other people's plates: they are made unreadable before anything is kept.</summary>
public static class PlateListFile
{
    private const int HeaderWithin = 20;
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
        foreach (var sheet in SheetReader.Read(file, cancel).Where(s => !s.Hidden))
        {
            var head = Enumerable
                .Range(0, Math.Min(HeaderWithin, sheet.Rows.Count))
                .FirstOrDefault(i => Columns(sheet.Rows[i]) is var c && c.ContainsKey("plate") && c.ContainsKey("time"), -1);
            if (head < 0)
                continue;
            var columns = Columns(sheet.Rows[head]);
            var lines = new List<(DateTimeOffset, string)>();
            for (var i = head + 1; i < sheet.Rows.Count; i++)
            {
                var row = sheet.Rows[i];
                string Of(string column) =>
                    columns.TryGetValue(column, out var at) && at < row.Count ? SheetReader.Unguarded(row[at].Text?.Trim() ?? "") : "";
                if (row.All(c => c.IsEmpty))
                    continue;
                var said = Of("date") is { Length: > 0 } date ? $"{date} {Of("time")}" : Of("time");
                if (SheetTime.Of(said, zone, near) is not ({ } moment, _))
                    throw new SheetException(
                        new(
                            "plates.no-time",
                            (i + 1).ToString(CultureInfo.InvariantCulture),
                            Message.Said(said.Length > 30 ? said[..30] : said)
                        )
                    );
                // A line without a plate is one that was not read: it is a line all the same.
                var text = Of("plate");
                lines.Add((moment, text.Length > LongestText ? text[..LongestText] : text));
                if (lines.Count > PlateList.Most)
                    throw new SheetException(new("problem.list-long", Message.Number(PlateList.Most)));
            }
            return lines;
        }
        throw new SheetException(new("plates.no-headings"));
    }

    private static Dictionary<string, int> Columns(IReadOnlyList<Cell> row)
    {
        var columns = new Dictionary<string, int>();
        for (var i = 0; i < row.Count; i++)
            if (Headings.TryGetValue((row[i].Text ?? "").Trim().Replace('_', ' ').TrimEnd('.'), out var column))
                columns.TryAdd(column, i);
        return columns;
    }
}
