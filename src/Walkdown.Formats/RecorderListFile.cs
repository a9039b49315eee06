using System.Globalization;
using Walkdown.Core.Measures;
using Walkdown.Core.Register;

namespace Walkdown.Formats;

/// <summary>One line of a recorder's own list.</summary>
/// <param name="Channel">From 1.</param>
/// <param name="Name">Of the channel; empty where the list has none.</param>
/// <param name="Address">Likewise, as it is written.</param>
/// <param name="Serial">Likewise.</param>
/// <param name="HardwareAddress">Likewise.</param>
public sealed record RecorderListLine(int Channel, string Name, string Address, string Serial, string HardwareAddress);

/// <summary>A recorder's list as somebody exported it (docs/formats.md, "Recorder list"): a table with headings, CSV or XLSX.</summary>
public static class RecorderListFile
{
    private const int HeaderWithin = 20;

    private static readonly Dictionary<string, string> Headings = new(StringComparer.OrdinalIgnoreCase)
    {
        ["channel"] = "channel",
        ["ch"] = "channel",
        ["channel no"] = "channel",
        ["channel number"] = "channel",
        ["kanal"] = "channel",
        ["name"] = "name",
        ["channel name"] = "name",
        ["camera"] = "name",
        ["camera name"] = "name",
        ["kamera"] = "name",
        ["address"] = "address",
        ["ip"] = "address",
        ["ip address"] = "address",
        ["adresse"] = "address",
        ["serial"] = "serial",
        ["serial number"] = "serial",
        ["serial no"] = "serial",
        ["seriennummer"] = "serial",
        ["mac"] = "mac",
        ["mac address"] = "mac",
        ["hardware address"] = "mac",
    };

    /// <summary>Reads it whole.</summary>
    /// <exception cref="SheetException">It is no such list, or a line has no channel.</exception>
    public static IReadOnlyList<RecorderListLine> Read(byte[] file, CancellationToken cancel = default)
    {
        foreach (var sheet in SheetReader.Read(file, cancel).Where(s => !s.Hidden))
        {
            var head = Enumerable
                .Range(0, Math.Min(HeaderWithin, sheet.Rows.Count))
                .FirstOrDefault(i => Columns(sheet.Rows[i]).ContainsKey("channel"), -1);
            if (head < 0)
                continue;
            var columns = Columns(sheet.Rows[head]);
            var lines = new List<RecorderListLine>();
            for (var i = head + 1; i < sheet.Rows.Count; i++)
            {
                var row = sheet.Rows[i];
                string Of(string column) => columns.TryGetValue(column, out var at) && at < row.Count ? row[at].Text?.Trim() ?? "" : "";
                if (row.All(c => c.IsEmpty))
                    continue;
                if (!int.TryParse(Of("channel"), NumberStyles.None, CultureInfo.InvariantCulture, out var channel) || channel == 0)
                    throw new SheetException(
                        new("list.no-channel", (i + 1).ToString(CultureInfo.InvariantCulture), Message.Said(Of("channel")))
                    );
                lines.Add(new(channel, Of("name"), Of("address"), Of("serial"), Of("mac")));
            }
            return lines;
        }
        throw new SheetException(new("list.no-headings"));
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
