using System.Collections.Immutable;
using System.IO.Compression;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using Walkdown.Core;
using Walkdown.Core.Measures;
using Walkdown.Core.Sealing;

namespace Walkdown.Reports;

/// <summary>What became of one part of a document. Erased: taken out lawfully. Redrawn: a report without what was taken out. Both are told
/// by tombstones.</summary>
public enum PartState
{
    Untouched,
    Changed,
    Missing,
    Added,
    Erased,
    Redrawn,
}

/// <param name="Note">Who erased it and why, or which member of a record was changed.</param>
public sealed record CheckedPart(string Name, PartState State, string Note = "");

/// <summary>What a document in hand is: untouched, or which part was changed; by whom it was signed, when, which revision.</summary>
/// <param name="Kind">json, pdf or zip.</param>
/// <param name="Parts">Of a pack every file; of a record those that were changed.</param>
/// <param name="Key">Fingerprint of the key.</param>
public sealed record RecordVerdict(
    string Kind,
    SealOutcome Outcome,
    string? Key,
    DateTimeOffset? SealedAt,
    string? Job,
    string? Of,
    int? Revision,
    string? Hash,
    string? Previous,
    string? CoreVersion,
    bool Simulated,
    ImmutableArray<SignedBy> Signatures,
    string Reservations,
    ImmutableArray<CheckedPart> Parts,
    Message? Why
)
{
    /// <summary>An outcome of which nothing else is known.</summary>
    public static RecordVerdict Bare(string kind, SealOutcome outcome, Message why) =>
        new(kind, outcome, null, null, null, null, null, null, null, null, false, [], "", [], why);

    public int FilesChecked { get; init; }

    /// <summary>The key that it must have was given whole, or is this installation's own. Else all that is known is that nothing was
    /// changed since somebody sealed it.</summary>
    public bool KeyKnown { get; init; }
}

public sealed record SignedBy(string Role, string Name, string Position, string Place, DateTimeOffset At, bool Typed = false);

/// <summary>Checks a record, a report or a pack against its seal. Needs no network, no database and no secret; files are read as
/// streams.</summary>
public static class RecordCheck
{
    private const int MostRecord = 128 * 1024 * 1024,
        MostEntries = 100_000;

    /// <param name="file">Can be read from any place.</param>
    /// <param name="trusted">Whole fingerprint of the key it must be sealed with; null: any, which is named and not known.</param>
    public static RecordVerdict Of(
        Stream file,
        string? trusted = null,
        IProgress<(int Done, int Of)>? progress = null,
        CancellationToken cancel = default
    )
    {
        var verdict = Look(file, trusted, progress, cancel);
        if (trusted is not null || verdict.Outcome is not (SealOutcome.Untouched or SealOutcome.ErasedElsewhere))
            return verdict with { KeyKnown = trusted is not null };
        // Anybody can make a key and seal: without knowing whose it is, whole is all that can be said.
        return verdict with { Why = new("verify.unknown-key", SealKey.Short(verdict.Key!)), KeyKnown = false };
    }

    /// <summary>A fingerprint as it was typed, blanks taken out; null where it is not whole: the beginning of one is found by trial in
    /// seconds.</summary>
    public static string? WholeKey(string typed)
    {
        var key = string.Concat(typed.Where(c => !char.IsWhiteSpace(c))).ToLowerInvariant();
        return key.Length == 64 && key.All(char.IsAsciiHexDigitLower) ? key : null;
    }

    private static RecordVerdict Look(Stream file, string? trusted, IProgress<(int Done, int Of)>? progress, CancellationToken cancel)
    {
        var head = new byte[4];
        file.Position = 0;
        var read = file.ReadAtLeast(head, 4, throwOnEndOfStream: false);
        if (read == 4 && head is [(byte)'P', (byte)'K', 3, 4])
            return Zip(file, trusted, progress, cancel);
        if (read == 4 && head is [(byte)'%', (byte)'P', (byte)'D', (byte)'F'])
            return Pdf(file, trusted, cancel);
        if (file.Length > MostRecord)
            return RecordVerdict.Bare("json", SealOutcome.Unreadable, new("verify.too-large"));
        var bytes = new byte[file.Length];
        file.Position = 0;
        file.ReadExactly(bytes);
        return Json(bytes, trusted);
    }

    private static RecordVerdict Json(byte[] bytes, string? trusted)
    {
        var finding = RecordSeal.Check(bytes, trusted);
        var parts = finding.Changed.Select(part => new CheckedPart(part, PartState.Changed)).ToImmutableArray();
        var why = finding.Outcome switch
        {
            SealOutcome.Untouched => new Message("verify.untouched"),
            SealOutcome.OtherKey => new Message("verify.other-key"),
            SealOutcome.Altered => parts.IsEmpty
                ? new Message("verify.altered")
                : new Message("verify.altered-parts", string.Join(", ", finding.Changed)),
            SealOutcome.NotSealed => new Message("verify.not-sealed"),
            _ => new Message("verify.unreadable"),
        };
        return About(
            bytes,
            RecordVerdict.Bare("json", finding.Outcome, why) with
            {
                Key = finding.Key,
                SealedAt = finding.SealedAt,
                Hash = finding.Hash,
                Parts = parts,
            }
        );
    }

    private static RecordVerdict Pdf(Stream file, string? trusted, CancellationToken cancel)
    {
        if (SealOf(file) is not { } seal)
            return RecordVerdict.Bare("pdf", SealOutcome.NotSealed, new("verify.pdf-not-sealed"));
        var outcome = seal.Judge(PackArchive.HashOf(file, file.Length - FileSeal.Length, cancel), trusted);
        var verdict = RecordVerdict.Bare("pdf", outcome, Word(outcome, "verify.pdf-altered")) with { Key = seal.Key };
        // Nothing is looked into before its seal holds: what was altered may be anything.
        if (outcome == SealOutcome.Altered)
            return verdict with { Parts = [new("pages", PartState.Changed)] };
        if (Attached(file) is not { } record)
            return outcome == SealOutcome.Untouched ? verdict : verdict with { Parts = [new("pages", PartState.Changed)] };
        var inside = RecordSeal.Check(record);
        var about = About(record, verdict with { SealedAt = inside.SealedAt, Hash = inside.Hash });
        var within =
            inside.Outcome == SealOutcome.Untouched
                ? new CheckedPart("record.json", PartState.Untouched)
                : new CheckedPart("record.json", PartState.Changed, string.Join(", ", inside.Changed));
        if (within.State == PartState.Changed)
            return about with { Outcome = SealOutcome.Altered, Parts = [within], Why = new("verify.altered-parts", within.Name) };
        // Genuine pages hold a record that the same key sealed; else somebody drew pages around another's record.
        return inside.Key == seal.Key
            ? about
            : about with
            {
                Outcome = SealOutcome.OtherKey,
                Key = inside.Key,
                Parts = [within, new("pages", PartState.Redrawn, seal.Key)],
                Why = new("verify.pdf-drawn-elsewhere", SealKey.Short(inside.Key!), SealKey.Short(seal.Key)),
            };
    }

    private static Message Word(SealOutcome outcome, string altered) =>
        new(
            outcome switch
            {
                SealOutcome.Untouched => "verify.untouched",
                SealOutcome.OtherKey => "verify.other-key",
                _ => altered,
            }
        );

    private static RecordVerdict Zip(Stream file, string? trusted, IProgress<(int Done, int Of)>? progress, CancellationToken cancel)
    {
        var seal = SealOf(file);
        var whole = seal?.Judge(PackArchive.HashOf(file, file.Length - FileSeal.Length, cancel)) ?? SealOutcome.NotSealed;
        try
        {
            file.Position = 0;
            using var zip = new ZipArchive(file, ZipArchiveMode.Read, leaveOpen: true);
            if (whole is SealOutcome.Altered or SealOutcome.NotSealed && zip.Entries.Count > 1000)
                return RecordVerdict.Bare("zip", SealOutcome.Altered, new("verify.zip-altered"));
            if (zip.Entries.Count > MostEntries)
                return RecordVerdict.Bare("zip", SealOutcome.Unreadable, new("verify.too-many"));
            if (zip.GetEntry(PackArchive.ManifestName) is not { } list)
                return RecordVerdict.Bare("zip", SealOutcome.NotSealed, new("verify.no-manifest"));
            var manifestBytes = PackArchive.Bytes(list, 64 * 1024 * 1024);
            var finding = RecordSeal.Check(manifestBytes);
            if (finding.Outcome is SealOutcome.NotSealed or SealOutcome.Unreadable)
                return RecordVerdict.Bare("zip", SealOutcome.Altered, new("verify.manifest")) with
                {
                    Parts = [new(PackArchive.ManifestName, PartState.Changed)],
                };
            var manifest = JsonSerializer.Deserialize<PackManifest>(manifestBytes, CoreJson.Options)!;
            var parts = ImmutableArray.CreateBuilder<CheckedPart>();
            if (finding.Outcome == SealOutcome.Altered)
                parts.Add(new(PackArchive.ManifestName, PartState.Changed, string.Join(", ", finding.Changed)));
            var (tombstones, erasedBy) = Tombstones(zip, parts);
            var entries = new Dictionary<string, ZipArchiveEntry>();
            foreach (var entry in zip.Entries)
                if (!entries.TryAdd(entry.FullName, entry))
                    parts.Add(new(entry.FullName, PartState.Added));
            entries.Remove(PackArchive.ManifestName);
            entries.Remove(PackArchive.TombstonesName);
            byte[]? record = null;
            var done = 0;
            foreach (var listed in manifest.Files)
            {
                cancel.ThrowIfCancellationRequested();
                var grave = tombstones.GetValueOrDefault((listed.Name, listed.Sha256));
                if (!entries.Remove(listed.Name, out var entry))
                {
                    parts.Add(
                        grave is { Now: null }
                            ? new(listed.Name, PartState.Erased, $"{grave.By}: {grave.Reason}")
                            : new(listed.Name, PartState.Missing)
                    );
                }
                else
                {
                    var hash = HashOf(
                        entry,
                        grave?.Now is null ? listed.Bytes : long.MaxValue,
                        listed.Name == PackArchive.RecordName,
                        out var content,
                        cancel
                    );
                    record ??= content;
                    if (hash == listed.Sha256)
                        parts.Add(new(listed.Name, PartState.Untouched));
                    else if (grave is { Now: { } now } && now == hash)
                        parts.Add(new(listed.Name, PartState.Redrawn, $"{grave.By}: {grave.Reason}"));
                    else
                        parts.Add(new(listed.Name, PartState.Changed));
                }
                done++;
                progress?.Report((done, manifest.Files.Length));
            }
            foreach (var other in entries.Keys)
                parts.Add(new(other, PartState.Added));
            var bad = parts.Where(p => p.State is PartState.Changed or PartState.Missing or PartState.Added).ToList();
            // Whoever took something out closed the archive again.
            var closedBy = erasedBy ?? finding.Key;
            var outcome =
                bad.Count > 0
                || finding.Outcome == SealOutcome.Altered
                || whole is SealOutcome.Altered or SealOutcome.NotSealed
                || seal!.Key != closedBy
                    ? SealOutcome.Altered
                : trusted is not null && trusted != finding.Key ? SealOutcome.OtherKey
                : closedBy != finding.Key ? SealOutcome.ErasedElsewhere
                : SealOutcome.Untouched;
            var why = outcome switch
            {
                SealOutcome.Untouched when parts.Any(p => p.State == PartState.Erased) => new Message(
                    "verify.untouched-erased",
                    parts.Count(p => p.State == PartState.Erased).ToString(System.Globalization.CultureInfo.InvariantCulture)
                ),
                SealOutcome.ErasedElsewhere => new Message(
                    "verify.erased-elsewhere",
                    parts.Count(p => p.State == PartState.Erased).ToString(System.Globalization.CultureInfo.InvariantCulture),
                    SealKey.Short(closedBy!)
                ),
                SealOutcome.Altered when bad.Count > 0 => new Message(
                    "verify.altered-parts",
                    string.Join(", ", bad.Take(5).Select(p => p.Name)) + (bad.Count > 5 ? ", ..." : "")
                ),
                SealOutcome.Altered => new Message("verify.zip-altered"),
                _ => Word(outcome, "verify.altered"),
            };
            var verdict = RecordVerdict.Bare("zip", outcome, why) with
            {
                Key = finding.Key,
                SealedAt = finding.SealedAt,
                Job = manifest.Job,
                Revision = manifest.Number,
                Hash = manifest.Record,
                Parts = parts.ToImmutable(),
                FilesChecked = done,
            };
            return record is null ? verdict : About(record, verdict);
        }
        catch (Exception problem)
            when (problem is InvalidDataException or JsonException or IOException or BadInputException or NotSupportedException)
        {
            return RecordVerdict.Bare("zip", seal is null ? SealOutcome.Unreadable : SealOutcome.Altered, new("verify.zip-broken"));
        }
    }

    /// <summary>What was taken out, and the key that says so; null where nothing was. By another key than the pack's, it is told: else
    /// anybody could take anything out.</summary>
    private static (Dictionary<(string, string), PackTombstone> Of, string? Key) Tombstones(
        ZipArchive zip,
        ImmutableArray<CheckedPart>.Builder parts
    )
    {
        if (zip.GetEntry(PackArchive.TombstonesName) is not { } entry)
            return ([], null);
        var bytes = PackArchive.Bytes(entry, 64 * 1024 * 1024);
        if (RecordSeal.Check(bytes) is { Outcome: SealOutcome.Untouched, Key: { } key })
        {
            // Pictures go, and reports are drawn without them; nothing else ever does, and no report where no picture went.
            var all = JsonSerializer.Deserialize<PackTombstones>(bytes, CoreJson.Options)!.Of;
            var pictures = all.Where(t => t.Name.StartsWith("evidence/", StringComparison.Ordinal) && t.Now is null).ToList();
            var reports = pictures.Count == 0 ? [] : all.Where(t => t.Name.EndsWith(".pdf", StringComparison.Ordinal) && t.Now is not null);
            return (pictures.Concat(reports).ToDictionary(t => (t.Name, t.Was)), key);
        }
        parts.Add(new(PackArchive.TombstonesName, PartState.Changed));
        return ([], null);
    }

    /// <summary>Hash of an entry, read no further than it should be long: what swells is not the file that was listed.</summary>
    private static string HashOf(ZipArchiveEntry entry, long most, bool keep, out byte[]? content, CancellationToken cancel)
    {
        using var hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        using var stream = entry.Open();
        using var kept = keep ? new MemoryStream() : null;
        var buffer = new byte[1 << 16];
        long total = 0;
        int read;
        while ((read = stream.Read(buffer)) > 0)
        {
            cancel.ThrowIfCancellationRequested();
            hash.AppendData(buffer, 0, read);
            if (total <= MostRecord)
                kept?.Write(buffer, 0, read);
            if ((total += read) > most)
                break;
        }
        content = kept?.ToArray();
        return Convert.ToHexStringLower(hash.GetHashAndReset());
    }

    private static FileSeal? SealOf(Stream file)
    {
        if (file.Length < FileSeal.Length)
            return null;
        var end = new byte[FileSeal.Length];
        file.Position = file.Length - FileSeal.Length;
        file.ReadExactly(end);
        return FileSeal.Read(end);
    }

    /// <summary>The record that is attached to a report; null where it cannot be taken out.</summary>
    private static byte[]? Attached(Stream file)
    {
        try
        {
            file.Position = 0;
            using var document = PdfSharp.Pdf.IO.PdfReader.Open(file, PdfSharp.Pdf.IO.PdfDocumentOpenMode.Import);
            var names = document
                .Internals.Catalog.Elements.GetDictionary("/Names")
                ?.Elements.GetDictionary("/EmbeddedFiles")
                ?.Elements.GetArray("/Names");
            var stream = names?.Elements.GetDictionary(1)?.Elements.GetDictionary("/EF")?.Elements.GetDictionary("/F")?.Stream;
            if (stream is null)
                return null;
            using var packed = new ZLibStream(new MemoryStream(stream.Value), CompressionMode.Decompress);
            using var bytes = new MemoryStream();
            var buffer = new byte[1 << 16];
            int read;
            while ((read = packed.Read(buffer)) > 0)
            {
                bytes.Write(buffer, 0, read);
                if (bytes.Length > MostRecord)
                    return null;
            }
            return bytes.ToArray();
        }
        catch (Exception)
        {
            // A report that was changed may be broken in any way; then nothing of it is said.
            return null;
        }
    }

    /// <summary>What the record says of itself: job, revision, signatures.</summary>
    private static RecordVerdict About(byte[] record, RecordVerdict verdict)
    {
        try
        {
            using var document = JsonDocument.Parse(record);
            var root = document.RootElement;
            if (root.ValueKind != JsonValueKind.Object || !root.TryGetProperty("revision", out var revision))
                return verdict;
            var job = root.GetProperty("job");
            return verdict with
            {
                Job = job.GetProperty("name").GetString(),
                Simulated = job.GetProperty("simulated").GetBoolean(),
                Of = root.GetProperty("of").GetString(),
                Revision = revision.GetInt32(),
                Previous = root.GetProperty("previous").GetString(),
                CoreVersion = root.GetProperty("coreVersion").GetString(),
                Reservations = root.GetProperty("reservations").GetString() ?? "",
                Signatures =
                [
                    .. root.GetProperty("signatures")
                        .EnumerateArray()
                        .Select(s => new SignedBy(
                            s.GetProperty("role").GetString()!,
                            s.GetProperty("name").GetString()!,
                            s.GetProperty("position").GetString()!,
                            s.GetProperty("place").GetString()!,
                            s.GetProperty("at").GetDateTimeOffset(),
                            s.TryGetProperty("typed", out var typed) && typed.GetBoolean()
                        )),
                ],
            };
        }
        catch (Exception problem) when (problem is JsonException or KeyNotFoundException or InvalidOperationException or FormatException)
        {
            return verdict;
        }
    }
}
