using System.Collections.Immutable;
using Walkdown.Core.Addressing;
using Walkdown.Core.Measures;
using Walkdown.Core.Recording;

namespace Walkdown.Devices.Recorders;

/// <summary>A recorder that says who is on which channel by a list that a person exported there (docs/formats.md, "Recorder list"). It says
/// nothing of what runs.</summary>
/// <param name="label">As the register names it.</param>
/// <param name="list">Reads the list; what is no list throws there.</param>
public sealed class ListedRecorder(string label, Func<CancellationToken, IReadOnlyList<WrittenChannel>> list) : IRecorder
{
    /// <inheritdoc/>
    public string Label => label;

    /// <inheritdoc/>
    public async Task<(RecorderReading? Reading, Message? Trouble)> Read(CancellationToken cancel) =>
        WrittenLines.Told(label, await Task.Run(() => list(cancel), cancel));
}

/// <summary>A recorder whose channels somebody read off its page and typed: nothing else is known of it.</summary>
/// <param name="label">As the register names it.</param>
/// <param name="lines">A line for each channel of which something was typed.</param>
public sealed class TypedRecorder(string label, IReadOnlyList<WrittenChannel> lines) : IRecorder
{
    /// <inheritdoc/>
    public string Label => label;

    /// <inheritdoc/>
    public Task<(RecorderReading? Reading, Message? Trouble)> Read(CancellationToken cancel) =>
        Task.FromResult(WrittenLines.Told(label, lines));
}

/// <summary>Channels as a person wrote them down: bounded, each once.</summary>
internal static class WrittenLines
{
    private const int Most = 10_000,
        MostChannel = 99_999;

    public static (RecorderReading? Reading, Message? Trouble) Told(string label, IReadOnlyList<WrittenChannel> lines)
    {
        if (lines.Count > Most)
            return (null, new("list.too-long", Message.Number(Most, 0)));
        if (lines.FirstOrDefault(l => l.Channel is <= 0 or > MostChannel) is { } odd)
            return (null, new("list.channel-odd", Message.Said(label), Message.Number(odd.Channel), Message.Number(MostChannel)));
        if (lines.GroupBy(l => l.Channel).FirstOrDefault(g => g.Count() > 1) is { } twice)
            return (null, new("list.channel-twice", Message.Said(label), Message.Number(twice.Key)));
        ImmutableArray<RegisteredDevice> kept =
        [
            .. lines
                .OrderBy(l => l.Channel)
                .Select(l => new RegisteredDevice(
                    label,
                    l.Channel,
                    Short(l.Name, 60),
                    Short(l.HardwareAddress, 40),
                    Short(l.Serial, 60),
                    Short(l.Address, 40)
                )),
        ];
        return (RecorderReading.OfList(kept), null);
    }

    private static string Short(string? text, int most) =>
        text?.Trim() is not { } said ? ""
        : said.Length > most ? said[..most]
        : said;
}
