using System.Collections.Immutable;
using Walkdown.Core.Addressing;
using Walkdown.Core.Measures;
using Walkdown.Devices;
using Walkdown.Formats;
using Walkdown.Server.Readings;
using Walkdown.Server.Shared;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Addresses;

/// <summary>Recorders' own lists: asked for where the recorder answers, else from a file that a person exported there.</summary>
public sealed class RecorderLists(AddressBook book, IHttpClientFactory clients, RecorderLists.At at)
{
    /// <param name="Address">Where recorders answer; null: nowhere.</param>
    public sealed record At(Uri? Address);

    private const int MostLines = 10_000;
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(5);

    public bool CanRead => at.Address is not null;

    private sealed record Line(int Channel, string? Name, string? Mac, string? Serial, string? Address);

    /// <summary>Asks a recorder.</summary>
    public async Task<LookAnswer> Read(Guid jobId, ListRequest request, CancellationToken cancel)
    {
        if (at.Address is null)
            throw new Refusal(new("list.no-recorder"));
        if (await book.Load(jobId) is not { } known || !known.Recorders.Contains(request.Recorder))
            throw new Refusal(new("list.unknown-recorder", Message.Said(request.Recorder)));
        var (lines, trouble) = await JsonTable.Get<Line>(
            clients.CreateClient(Sources.Recorders),
            $"recorder/{Uri.EscapeDataString(request.Recorder)}/list",
            Patience,
            cancel
        );
        if (trouble != TableTrouble.None)
            throw new Refusal(new(trouble == TableTrouble.Silent ? "list.unreachable" : "list.nonsense", request.Recorder));
        return await Keep(jobId, request.Recorder, request.By, lines);
    }

    /// <summary>Reads a list with headings, as CSV or XLSX: channel, name, address, serial, hardware address.</summary>
    public async Task<LookAnswer> Upload(Guid jobId, string recorder, string by, byte[] file, CancellationToken cancel)
    {
        if (recorder.Trim().Length is 0 or > 60)
            throw new Refusal(new("list.unknown-recorder", Message.Said(recorder)));
        var lines = await Task.Run(() => RecorderListFile.Read(file, cancel), cancel);
        return await Keep(
            jobId,
            recorder.Trim(),
            by,
            [.. lines.Select(l => new Line(l.Channel, l.Name, l.HardwareAddress, l.Serial, l.Address))]
        );
    }

    private async Task<LookAnswer> Keep(Guid jobId, string recorder, string by, IReadOnlyList<Line> lines)
    {
        if (lines.Count > MostLines)
            throw new Refusal(new("list.too-long", Message.Number(MostLines, 0)));
        if (lines.GroupBy(l => l.Channel).FirstOrDefault(g => g.Count() > 1) is { } twice)
            throw new Refusal(new("list.channel-twice", recorder, Message.Number(twice.Key, 0)));
        static string Short(string? text, int most) =>
            text is null ? ""
            : text.Trim() is var said && said.Length > most ? said[..most]
            : said;
        var kept = lines
            .Where(l => l.Channel is > 0 and < 100_000)
            .OrderBy(l => l.Channel)
            .Select(l => new RegisteredDevice(
                recorder,
                l.Channel,
                Short(l.Name, 60),
                Short(l.Mac, 40),
                Short(l.Serial, 60),
                Short(l.Address, 40)
            ))
            .ToImmutableArray();
        await book.Keep(jobId, LookKind.List, recorder, by, kept);
        return new(kept.Length, [new("list.read", recorder, Message.Number(kept.Length, 0))]);
    }
}
