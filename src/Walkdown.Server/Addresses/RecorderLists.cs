using System.Collections.Immutable;
using Walkdown.Core.Measures;
using Walkdown.Devices.Recorders;
using Walkdown.Formats;
using Walkdown.Server.Shared;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Addresses;

/// <summary>Recorders' own lists: exported there by a person, or typed off their page.</summary>
public sealed class RecorderLists(AddressBook book, RecorderLists.At at)
{
    /// <param name="Address">Where recorders answer; null: nowhere.</param>
    public sealed record At(Uri? Address);

    public bool CanRead => at.Address is not null;

    /// <summary>Reads a list with headings, as CSV or XLSX: channel, name, address, serial, hardware address.</summary>
    public Task<LookAnswer> Upload(Guid jobId, string label, string by, byte[] file, CancellationToken cancel) =>
        Keep(jobId, new ListedRecorder(label.Trim(), stop => RecorderListFile.Read(file, stop)), by, cancel);

    /// <summary>Takes what somebody typed.</summary>
    public Task<LookAnswer> Type(Guid jobId, TypedListRequest request, CancellationToken cancel) =>
        Keep(jobId, new TypedRecorder(request.Recorder.Trim(), request.Channels), request.By, cancel);

    private async Task<LookAnswer> Keep(Guid jobId, IRecorder recorder, string by, CancellationToken cancel)
    {
        if (recorder.Label is not { Length: > 0 and <= 60 })
            throw new Refusal(new("list.unknown-recorder", Message.Said(recorder.Label)));
        var (reading, trouble) = await recorder.Read(cancel);
        if (reading is null)
            throw new Refusal(trouble!);
        var kept = reading.ListOf(recorder.Label);
        await book.Keep(jobId, LookKind.List, recorder.Label, by, kept);
        return new(kept.Length, [new("list.read", Message.Number(kept.Length, 0), Message.Said(recorder.Label))]);
    }
}
