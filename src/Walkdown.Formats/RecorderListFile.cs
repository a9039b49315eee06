using System.Globalization;
using Walkdown.Core.Measures;
using Walkdown.Core.Recording;

namespace Walkdown.Formats;

/// <summary>A recorder's list as somebody exported it (docs/formats.md, "Recorder list"): a table with headings, CSV or XLSX.</summary>
public static class RecorderListFile
{
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
    public static IReadOnlyList<WrittenChannel> Read(byte[] file, CancellationToken cancel = default)
    {
        var lines = new List<WrittenChannel>();
        foreach (
            var (number, of) in HeadedTable.Read(file, Headings, ["channel"], cancel) ?? throw new SheetException(new("list.no-headings"))
        )
        {
            if (!int.TryParse(of("channel"), NumberStyles.None, CultureInfo.InvariantCulture, out var channel) || channel == 0)
                throw new SheetException(
                    new("list.no-channel", number.ToString(CultureInfo.InvariantCulture), Message.Said(of("channel")))
                );
            lines.Add(new(channel, of("name"), of("address"), of("serial"), of("mac")));
        }
        return lines;
    }
}
