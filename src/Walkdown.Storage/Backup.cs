using System.IO.Compression;
using System.Security.Cryptography;
using System.Text.Json;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;

namespace Walkdown.Storage;

/// <summary>What a backup holds: its own list with a hash of every file.</summary>
public sealed record BackupManifest(
    string Format,
    DateTimeOffset MadeAt,
    string? NewestMigration,
    IReadOnlyDictionary<string, string> Files
);

/// <summary>The file is no backup, or not a whole one.</summary>
public sealed class BackupException(string message) : Exception(message);

/// <summary>
/// One file with the database (SQLite's online backup, so the server may be at work), the evidence and the company's own catalogue.
/// Restoring checks every hash and the database's integrity before anything is touched, and keeps what was there.
/// </summary>
public static class Backup
{
    private const string Format = "walkdown-backup/1";

    /// <summary>Writes a backup beside its name and moves it there when it is whole.</summary>
    public static async Task<BackupManifest> Write(DataFolder data, string file, DateTimeOffset now, CancellationToken cancel = default)
    {
        if (!File.Exists(data.DatabaseFile))
            throw new BackupException($"There is no database in {data.Root}.");
        var draft = file + ".part";
        var copy = Path.Combine(data.Root, $"backup-{Guid.NewGuid():N}.db");
        try
        {
            using (var from = new SqliteConnection($"Data Source={data.DatabaseFile};Mode=ReadOnly;Pooling=False"))
            using (var to = new SqliteConnection($"Data Source={copy};Pooling=False"))
            {
                from.Open();
                to.Open();
                from.BackupDatabase(to);
                Execute(to, "PRAGMA journal_mode=DELETE;");
            }
            var files = new SortedDictionary<string, string>(StringComparer.Ordinal);
            string? migration;
            using (var db = new SqliteConnection($"Data Source={copy};Mode=ReadOnly;Pooling=False"))
            {
                db.Open();
                if (Execute(db, "PRAGMA integrity_check;") is not "ok")
                    throw new BackupException(
                        "The copy of the database is not sound; no backup was made. Start Walkdown again: it checks "
                            + "the database and says more."
                    );
                migration = Execute(db, "SELECT max(MigrationId) FROM __EFMigrationsHistory;");
            }
            BackupManifest manifest;
            await using (var stream = new FileStream(draft, FileMode.Create, FileAccess.ReadWrite))
            {
                using (var zip = new ZipArchive(stream, ZipArchiveMode.Create, leaveOpen: true))
                {
                    files["walkdown.db"] = await Add(zip, "walkdown.db", copy, cancel);
                    foreach (
                        var (folder, name) in new[]
                        {
                            (data.FilesPath, "evidence"),
                            (data.CatalogueFolder, "catalogue"),
                            (data.PacksPath, "packs"),
                        }
                    )
                        if (Directory.Exists(folder))
                            foreach (
                                var path in Directory.EnumerateFiles(folder, "*", SearchOption.AllDirectories).Order(StringComparer.Ordinal)
                            )
                            {
                                // What is still coming in, and what an erasure took away meanwhile.
                                if (Path.GetFileName(path).StartsWith('.') || !File.Exists(path))
                                    continue;
                                var entry = $"{name}/{Path.GetRelativePath(folder, path).Replace('\\', '/')}";
                                try
                                {
                                    files[entry] = await Add(zip, entry, path, cancel);
                                }
                                catch (FileNotFoundException)
                                {
                                    // Erased in the same moment: it is to be nowhere.
                                }
                            }
                    manifest = new BackupManifest(Format, now, migration, files);
                    await using var list = zip.CreateEntry("manifest.json").Open();
                    await JsonSerializer.SerializeAsync(list, manifest, cancellationToken: cancel);
                }
                stream.Flush(flushToDisk: true);
            }
            File.Move(draft, file, overwrite: true);
            return manifest;
        }
        finally
        {
            File.Delete(copy);
            File.Delete(draft);
        }
    }

    /// <summary>
    /// Puts a backup in the place of what is there. The database is written over in one transaction of SQLite, so a server on it sees the
    /// old or the new one, never half.
    /// What was there is kept beside it as a backup of its own.
    /// </summary>
    /// <returns>The file with what was there before; null where nothing was.</returns>
    public static async Task<string?> Restore(DataFolder data, string file, DateTimeOffset now, CancellationToken cancel = default)
    {
        Directory.CreateDirectory(data.Root);
        var unpacked = Path.Combine(data.Root, $"restore-{Guid.NewGuid():N}");
        try
        {
            await Unpack(file, unpacked, cancel);
            string? kept = null;
            if (File.Exists(data.DatabaseFile))
            {
                kept = Path.Combine(data.Root, $"before-restore-{now.UtcDateTime:yyyyMMdd-HHmmss}.zip");
                await Write(data, kept, now, cancel);
            }
            // Evidence first: it is only ever added to. Then the database, last the catalogue.
            Copy(Path.Combine(unpacked, "evidence"), data.FilesPath);
            Copy(Path.Combine(unpacked, "packs"), data.PacksPath);
            using (var from = new SqliteConnection($"Data Source={Path.Combine(unpacked, "walkdown.db")};Mode=ReadOnly;Pooling=False"))
            using (var to = new SqliteConnection($"Data Source={data.DatabaseFile};Pooling=False;Default Timeout=20"))
            {
                from.Open();
                to.Open();
                from.BackupDatabase(to);
                Execute(to, "PRAGMA journal_mode=WAL;");
            }
            if (Directory.Exists(data.CatalogueFolder))
                Directory.Delete(data.CatalogueFolder, true);
            Directory.CreateDirectory(data.CatalogueFolder);
            Copy(Path.Combine(unpacked, "catalogue"), data.CatalogueFolder);
            return kept;
        }
        finally
        {
            if (Directory.Exists(unpacked))
                Directory.Delete(unpacked, true);
        }
    }

    private static async Task Unpack(string file, string into, CancellationToken cancel)
    {
        BackupManifest manifest;
        try
        {
            Directory.CreateDirectory(into);
            using var zip = ZipFile.OpenRead(file);
            await using (
                var list = (
                    zip.GetEntry("manifest.json") ?? throw new BackupException("This is no backup of Walkdown: it has no manifest.")
                ).Open()
            )
                manifest =
                    await JsonSerializer.DeserializeAsync<BackupManifest>(list, cancellationToken: cancel)
                    ?? throw new BackupException("The backup's manifest is empty.");
            if (manifest.Format != Format)
                throw new BackupException(
                    $"The backup is of another edition ({manifest.Format}). Restore it with the Walkdown that made it."
                );
            foreach (var (name, hash) in manifest.Files)
            {
                var path = Path.GetFullPath(Path.Combine(into, name));
                if (!path.StartsWith(Path.GetFullPath(into) + Path.DirectorySeparatorChar, StringComparison.Ordinal))
                    throw new BackupException($"The backup names a file outside itself: {name}.");
                var entry =
                    zip.GetEntry(name) ?? throw new BackupException($"The backup is not whole: {name} is missing. Nothing was changed.");
                Directory.CreateDirectory(Path.GetDirectoryName(path)!);
                entry.ExtractToFile(path);
                await using var content = File.OpenRead(path);
                if (Convert.ToHexStringLower(await SHA256.HashDataAsync(content, cancel)) != hash)
                    throw new BackupException($"The backup is damaged: {name} is not what it was. Nothing was changed.");
            }
        }
        catch (InvalidDataException)
        {
            throw new BackupException("The file cannot be opened as a backup: it is cut off, or of another kind. Nothing was changed.");
        }
        catch (JsonException)
        {
            throw new BackupException("The backup's manifest cannot be read. Nothing was changed.");
        }
        using var db = new SqliteConnection($"Data Source={Path.Combine(into, "walkdown.db")};Mode=ReadOnly;Pooling=False");
        try
        {
            db.Open();
            if (Execute(db, "PRAGMA integrity_check;") is not "ok")
                throw new BackupException("The database in the backup is not sound. Nothing was changed.");
        }
        catch (SqliteException)
        {
            throw new BackupException("The database in the backup cannot be opened. Nothing was changed.");
        }
        using var known = new WalkdownDb(new DbContextOptionsBuilder<WalkdownDb>().UseSqlite("Data Source=:memory:").Options);
        if (
            Execute(db, "SELECT max(MigrationId) FROM __EFMigrationsHistory;") is { } newest
            && !known.Database.GetMigrations().Contains(newest)
        )
            throw new BackupException("The backup was made by a newer Walkdown. Restore it with that one. Nothing was changed.");
    }

    private static void Copy(string from, string to)
    {
        if (!Directory.Exists(from))
            return;
        foreach (var path in Directory.EnumerateFiles(from, "*", SearchOption.AllDirectories))
        {
            var target = Path.Combine(to, Path.GetRelativePath(from, path));
            Directory.CreateDirectory(Path.GetDirectoryName(target)!);
            File.Copy(path, target, overwrite: true);
        }
    }

    private static async Task<string> Add(ZipArchive zip, string name, string path, CancellationToken cancel)
    {
        await using var content = File.OpenRead(path);
        await using (var entry = zip.CreateEntry(name, CompressionLevel.Fastest).Open())
            await content.CopyToAsync(entry, cancel);
        content.Position = 0;
        return Convert.ToHexStringLower(await SHA256.HashDataAsync(content, cancel));
    }

    private static string? Execute(SqliteConnection db, string sql)
    {
        using var command = db.CreateCommand();
        command.CommandText = sql;
        return command.ExecuteScalar()?.ToString();
    }
}
