using System.IO.Compression;
using System.Security.Cryptography;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core;
using Walkdown.Core.Sealing;
using Walkdown.Storage.Entities;
using static Walkdown.Storage.BundleTables;

namespace Walkdown.Storage;

/// <summary>Looks at a bundle before anything of it is believed: every file against the sealed list.</summary>
public static class BundleLooker
{
    /// <summary>Looks at a bundle: every file against the sealed list, and whose seal that is. Nothing is written.</summary>
    /// <exception cref="BundleException">No bundle, not whole, of another edition, or with a file outside itself.</exception>
    public static async Task<BundleLook> Look(
        DataFolder data,
        string file,
        IProgress<(int Done, int Of)>? progress,
        CancellationToken cancel
    )
    {
        using var zip = Opened(file);
        var (head, key) = HeadOf(zip);
        await Check(zip, head, progress, cancel);
        await using var db = new WalkdownDb(data.Options);
        if (!db.Database.GetMigrations().Contains(head.Migration))
            throw new BundleException(new("bundle.newer"));
        return new BundleLook(
            head.JobId,
            head.Name,
            head.MadeAt,
            key,
            !await db.Jobs.AnyAsync(j => j.Id == head.JobId, cancel),
            head.Files.Length,
            head.Files.Sum(f => f.Bytes),
            head.Files.Any(f => f.Name == OwnCatalogue)
        );
    }

    internal static ZipArchive Opened(string file)
    {
        try
        {
            var zip = ZipFile.OpenRead(file);
            return zip.Entries.Count <= MostFiles ? zip : throw new BundleException(new("bundle.too-large"));
        }
        catch (InvalidDataException)
        {
            throw new BundleException(new("bundle.broken"));
        }
    }

    internal static (BundleHead Head, string Key) HeadOf(ZipArchive zip)
    {
        if (zip.GetEntry(HeadName) is not { } entry)
            throw new BundleException(new("bundle.none"));
        if (entry.Length > 256 << 20)
            throw new BundleException(new("bundle.too-large"));
        using var stream = entry.Open();
        using var bytes = new MemoryStream();
        Bounded(stream, bytes, 256 << 20);
        try
        {
            var finding = RecordSeal.Check(bytes.ToArray());
            if (finding.Outcome != SealOutcome.Untouched)
                throw new BundleException(new("bundle.altered", HeadName));
            var head = JsonSerializer.Deserialize<BundleHead>(bytes.ToArray(), CoreJson.Options)!;
            if (head.Files.IsDefault || head.Files.Any(f => f is not { Name: not null, Sha256: not null }))
                throw new BundleException(new("bundle.altered", HeadName));
            return head.Format == Format
                ? (head, finding.Key!)
                : throw new BundleException(new("bundle.edition", head.Format.Length < 60 ? head.Format : "?"));
        }
        catch (JsonException)
        {
            throw new BundleException(new("bundle.edition", "?"));
        }
    }

    /// <summary>Every file against the list: named within the bundle, there, as long as listed and not a byte longer, and with its
    /// hash.</summary>
    internal static async Task Check(ZipArchive zip, BundleHead head, IProgress<(int Done, int Of)>? progress, CancellationToken cancel)
    {
        var names = new HashSet<string>();
        var done = 0;
        var buffer = new byte[81920];
        foreach (var listed in head.Files)
        {
            cancel.ThrowIfCancellationRequested();
            if (!IsSafe(listed.Name) || !names.Add(listed.Name))
                throw new BundleException(new("bundle.outside", listed.Name));
            if (zip.GetEntry(listed.Name) is not { } entry)
                throw new BundleException(new("bundle.missing", listed.Name));
            if (listed.Bytes < 0 || listed.Bytes > (listed.Name.StartsWith("data/", StringComparison.Ordinal) ? MostTable : MostFile))
                throw new BundleException(new("bundle.too-large"));
            using var hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
            var guard = new RowGuard();
            var isTable = listed.Name.StartsWith("data/", StringComparison.Ordinal);
            await using (var stream = entry.Open())
            {
                long total = 0;
                int read;
                while ((read = await stream.ReadAsync(buffer, cancel)) > 0)
                {
                    // What swells beyond what is listed is not read on.
                    if ((total += read) > listed.Bytes)
                        throw new BundleException(new("bundle.altered", listed.Name));
                    if (isTable && !guard.Takes(buffer.AsSpan(0, read)))
                        throw new BundleException(new("bundle.edition", listed.Name));
                    hash.AppendData(buffer, 0, read);
                }
            }
            var found = Convert.ToHexStringLower(hash.GetHashAndReset());
            if (
                found != listed.Sha256
                || listed.Name.StartsWith("evidence/", StringComparison.Ordinal) && listed.Name != "evidence/" + found
            )
                throw new BundleException(new("bundle.altered", listed.Name));
            progress?.Report((++done, head.Files.Length));
        }
        foreach (var table in Tables.Where(t => !Later.Contains(t.Name)))
            if (!names.Contains($"data/{table.Name}.json"))
                throw new BundleException(new("bundle.missing", $"data/{table.Name}.json"));
        try
        {
            await using var stream = zip.GetEntry("data/Job.json")!.Open();
            if (await JsonSerializer.DeserializeAsync<List<Job>>(stream, RowJson, cancel) is not [{ } job] || job.Id != head.JobId)
                throw new BundleException(new("bundle.altered", "data/Job.json"));
        }
        catch (JsonException)
        {
            throw new BundleException(new("bundle.edition", "data/Job.json"));
        }
    }

    internal static bool IsSafe(string name) =>
        name.Length is > 0 and < 200
        && !name.Contains('\\')
        && !name.StartsWith('/')
        && name.Split('/') is [("data" or "evidence" or "packs" or "catalogue"), { Length: > 0 } file]
        && file is not ("." or "..")
        && file.All(c => char.IsAsciiLetterOrDigit(c) || c is '.' or '-' or '_');

    internal static async Task<byte[]> Content(ZipArchive zip, BundleFile listed, CancellationToken cancel)
    {
        await using var stream = zip.GetEntry(listed.Name)!.Open();
        var bytes = new byte[listed.Bytes];
        await stream.ReadExactlyAsync(bytes, cancel);
        return bytes;
    }

    internal static void Bounded(Stream from, MemoryStream to, int most)
    {
        var buffer = new byte[81920];
        int read;
        while ((read = from.Read(buffer)) > 0)
        {
            to.Write(buffer, 0, read);
            if (to.Length > most)
                throw new BundleException(new("bundle.too-large"));
        }
    }
}
