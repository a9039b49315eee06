using System.Collections.Immutable;
using Walkdown.Core.Addressing;
using Walkdown.Core.Measures;
using Walkdown.Formats;
using Walkdown.Server.Shared;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Addresses;

/// <summary>Recorders' own lists, from files that a person exported there.</summary>
public sealed class RecorderLists(AddressBook book, RecorderLists.At at)
{
    /// <param name="Address">Where recorders answer; null: nowhere.</param>
    public sealed record At(Uri? Address);

    private const int MostLines = 10_000;

    public bool CanRead => at.Address is not null;

    /// <summary>Reads a list with headings, as CSV or XLSX: channel, name, address, serial, hardware address.</summary>
    public async Task<LookAnswer> Upload(Guid jobId, string label, string by, byte[] file, CancellationToken cancel)
    {
        if (label.Trim() is not { Length: > 0 and <= 60 } recorder)
            throw new Refusal(new("list.unknown-recorder", Message.Said(label)));
        var lines = await Task.Run(() => RecorderListFile.Read(file, cancel), cancel);
        if (lines.Count > MostLines)
            throw new Refusal(new("list.too-long", Message.Number(MostLines, 0)));
        if (lines.GroupBy(l => l.Channel).FirstOrDefault(g => g.Count() > 1) is { } twice)
            throw new Refusal(new("list.channel-twice", recorder, Message.Number(twice.Key, 0)));
        static string Short(string text, int most) => text.Trim() is var said && said.Length > most ? said[..most] : said;
        var kept = lines
            .Where(l => l.Channel is > 0 and < 100_000)
            .OrderBy(l => l.Channel)
            .Select(l => new RegisteredDevice(
                recorder,
                l.Channel,
                Short(l.Name, 60),
                Short(l.HardwareAddress, 40),
                Short(l.Serial, 60),
                Short(l.Address, 40)
            ))
            .ToImmutableArray();
        await book.Keep(jobId, LookKind.List, recorder, by, kept);
        return new(kept.Length, [new("list.read", recorder, Message.Number(kept.Length, 0))]);
    }
}
