using System.IO.Compression;
using System.Text.Json;
using Walkdown.Core;
using Walkdown.Core.Acceptance;
using Walkdown.Reports;
using Walkdown.Server.Cards;
using Walkdown.Server.Power;
using Walkdown.Server.Shared;
using Walkdown.Storage;

namespace Walkdown.Server.Handover;

/// <summary>The pack of the revision before, to say what has changed.</summary>
internal sealed class Earlier : IDisposable
{
    private readonly ZipArchive _zip;

    private Earlier(ZipArchive zip, HandoverRecord record) => (_zip, Cards) = (zip, record.Cards.ToDictionary(c => c.Id));

    public IReadOnlyDictionary<Guid, HandoverCard> Cards { get; }

    public static Earlier? Open(string path)
    {
        if (!File.Exists(path))
            return null;
        var zip = ZipFile.OpenRead(path);
        using var stream = zip.GetEntry(PackArchive.RecordName)!.Open();
        return new Earlier(zip, JsonSerializer.Deserialize<HandoverRecord>(stream, CoreJson.Options)!);
    }

    public Card? Card(HandoverCard line)
    {
        using var stream = _zip.GetEntry(line.File)?.Open();
        return stream is null ? null : JsonSerializer.Deserialize<ReportRecord>(stream, CoreJson.Options)!.Card;
    }

    public void Dispose() => _zip.Dispose();
}
