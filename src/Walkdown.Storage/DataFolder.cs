using System.Reflection;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

namespace Walkdown.Storage;

/// <summary>The data folder: the database beside an evidence folder and the company's own catalogue files.</summary>
public sealed class DataFolder(string path) : IDisposable
{
    private FileStream? _lock;

    public string Root { get; } = Path.GetFullPath(path);
    public string DatabaseFile => Path.Combine(Root, "walkdown.db");
    public string FilesPath => Path.Combine(Root, "evidence");
    public string PacksPath => Path.Combine(Root, "packs");

    /// <summary>Of folders in <see cref="PacksPath"/> that hold drafts; a start takes them away.</summary>
    public const string DraftPrefix = "draft-";
    public string CatalogueFolder => Path.Combine(Root, "catalogue");

    /// <summary>WAL, synchronous=FULL and foreign keys: an answered reading survives a pulled plug.</summary>
    public DbContextOptions<WalkdownDb> Options => _options ??= Configured();

    private DbContextOptions<WalkdownDb>? _options;

    private DbContextOptions<WalkdownDb> Configured() =>
        new DbContextOptionsBuilder<WalkdownDb>()
            .UseSqlite(ConnectionString, Lists)
            .AddInterceptors(new SynchronousFull())
            .UseQueryTrackingBehavior(QueryTrackingBehavior.NoTracking)
            .Options;

    /// <summary>A list of ids goes in as one value: as a value each, naming them takes the square of their number.</summary>
    internal static void Lists(SqliteDbContextOptionsBuilder sqlite) =>
        sqlite.UseParameterizedCollectionMode(ParameterTranslationMode.Parameter);

    /// <summary>Nothing can be written just now, as on a full disk: what is on record can be read all the same.</summary>
    public bool ReadOnly { get; private set; }

    private string ConnectionString =>
        new SqliteConnectionStringBuilder
        {
            DataSource = DatabaseFile,
            ForeignKeys = true,
            Pooling = true,
            DefaultTimeout = 10,
        }.ToString();

    /// <summary>Lies in the folder while a server has it open: where one lies at the start, the last was stopped in the middle.</summary>
    private string Marker => Path.Combine(Root, ".open");

    /// <summary>Lets another server have the folder.</summary>
    public void Dispose()
    {
        if (_lock is not null)
            try
            {
                File.Delete(Marker);
            }
            catch (Exception problem) when (problem is IOException or UnauthorizedAccessException)
            {
                // The next start looks through the file once more than it must.
            }
        _lock?.Dispose();
        _lock = null;
    }

    /// <summary>Creates or migrates the database; before a migration of an existing file a copy is kept beside it.</summary>
    /// <exception cref="DataFolderException">The folder cannot be written, or the database is not one.</exception>
    public void Open()
    {
        // What is made from here on is its owner's alone.
        if (!OperatingSystem.IsWindows())
            OwnersAlone.Umask();
        try
        {
            Directory.CreateDirectory(Root);
            OwnersAlone.Close(Root);
            Take();
            Directory.CreateDirectory(CatalogueFolder);
            Directory.CreateDirectory(FilesPath);
            Directory.CreateDirectory(PacksPath);
            if (!CheckWritable())
                return;
            ClearDrafts();
            foreach (var file in Directory.EnumerateFiles(Root))
                OwnersAlone.Close(file);
            // Without the mapper: what it takes to know that all is as it was is three questions.
            using var connection = new SqliteConnection(ConnectionString);
            if (File.Exists(DatabaseFile) && new FileInfo(DatabaseFile).Length > 0)
            {
                connection.Open();
                if (File.Exists(Marker))
                    CheckIntegrity(connection);
            }
            File.WriteAllText(Marker, "");
            if (LastMigration(connection) != NewestMigration)
            {
                connection.Close();
                Migrate();
                connection.Open();
            }
            Ask(connection, "PRAGMA journal_mode=WAL;");
            ClearOrphanPacks(connection);
        }
        catch (Exception problem) when (problem is IOException or UnauthorizedAccessException or SqliteException)
        {
            throw new DataFolderException($"The data folder {Root} cannot be used: {problem.Message}", problem);
        }
    }

    /// <summary>One server on a folder: two would number their entries the same and keep what the other changed. Held until it is
    /// disposed of.</summary>
    /// <exception cref="DataFolderException">Another holds it.</exception>
    public void Take()
    {
        Directory.CreateDirectory(Root);
        if (_lock is not null)
            return;
        try
        {
            _lock = new FileStream(Path.Combine(Root, ".lock"), FileMode.OpenOrCreate, FileAccess.ReadWrite, FileShare.None);
        }
        catch (IOException problem)
            when (problem.HResult is not (28 or unchecked((int)0x80070070))
                && problem is not (DirectoryNotFoundException or PathTooLongException)
            )
        {
            throw new DataFolderException(
                $"The data folder {Root} is in use by another Walkdown. Stop that one first, or choose another folder with --data.",
                problem
            );
        }
    }

    /// <summary>
    /// A folder that cannot be written is told at once, not at the first reading. Where the disk is full and the record is whole and of
    /// this edition, it is opened to be read.
    /// </summary>
    /// <returns>False where it can only be read.</returns>
    private bool CheckWritable()
    {
        var probe = Path.Combine(Root, ".writable");
        try
        {
            using (var file = new FileStream(probe, FileMode.Create, FileAccess.Write))
            {
                // SQLite needs this much room before it takes a word.
                file.Write(new byte[256 * 1024]);
                file.Flush(flushToDisk: true);
            }
            ReadOnly = false;
            return true;
        }
        catch (IOException full) when (full.HResult is 28 or unchecked((int)0x80070070) && File.Exists(DatabaseFile))
        {
            using var db = new WalkdownDb(Options);
            if (db.Database.GetPendingMigrations().Any())
                throw new DataFolderException(
                    $"The disk of {Root} is full, and the record must be brought to this edition first. Make room and "
                        + $"start again. Nothing was changed.",
                    full
                );
            ReadOnly = true;
            Console.Error.WriteLine(
                $"The disk of {Root} is full: what is on record can be read, nothing can be added. Make room and start again."
            );
            return false;
        }
        finally
        {
            File.Delete(probe);
        }
    }

    /// <summary>What a pack, a backup or a restore was being made of when it was stopped is none. A server that holds the folder knows that
    /// nobody works on it.</summary>
    private void ClearDrafts()
    {
        static bool Is(string path, string from, string to) =>
            Path.GetFileName(path) is var name
            && name.StartsWith(from, StringComparison.Ordinal)
            && name.Contains(to, StringComparison.Ordinal);
        // Names are looked at one by one: to the patterns of the system "*.*" is every file there is.
        foreach (
            var draft in Directory
                .EnumerateFileSystemEntries(PacksPath)
                .Where(p => Is(p, ".", "") || Is(p, "bundle-", ".zip.") || Is(p, DraftPrefix, ""))
                .Concat(Directory.EnumerateFileSystemEntries(Root).Where(p => Is(p, "backup-", ".db") || Is(p, "restore-", "")))
                .ToList()
        )
            if (Directory.Exists(draft))
                Directory.Delete(draft, recursive: true);
            else if (File.GetLastWriteTimeUtc(draft) < DateTime.UtcNow.AddMinutes(-1) || Path.GetDirectoryName(draft) == PacksPath)
                File.Delete(draft);
        foreach (var draft in Directory.EnumerateFiles(FilesPath, "*", SearchOption.AllDirectories).Where(KeptFiles.IsDraft).ToList())
            File.Delete(draft);
    }

    /// <summary>The newest edition of the database that this program knows.</summary>
    private static readonly string NewestMigration = typeof(WalkdownDb)
        .Assembly.GetTypes()
        .Select(t => t.GetCustomAttribute<MigrationAttribute>()?.Id)
        .OfType<string>()
        .Max(StringComparer.Ordinal)!;

    /// <summary>The edition that the file is of; null where it holds nothing yet.</summary>
    private static string? LastMigration(SqliteConnection connection) =>
        connection.State == System.Data.ConnectionState.Open
        && Ask(connection, "SELECT name FROM sqlite_master WHERE name = '__EFMigrationsHistory'") is not null
            ? Ask(connection, "SELECT max(MigrationId) FROM __EFMigrationsHistory") as string
            : null;

    private static object? Ask(SqliteConnection connection, string sql)
    {
        using var command = connection.CreateCommand();
        command.CommandText = sql;
        return command.ExecuteScalar();
    }

    /// <summary>Brings the file to this edition; a copy of what was is kept beside it.</summary>
    private void Migrate()
    {
        using var db = new WalkdownDb(Options);
        var pending = db.Database.GetPendingMigrations().ToList();
        if (pending.Count > 0 && File.Exists(DatabaseFile) && db.Database.GetAppliedMigrations().Any())
        {
            db.Database.OpenConnection();
            using var copy = new SqliteConnection($"Data Source={DatabaseFile}.before-{pending[^1]}");
            copy.Open();
            ((SqliteConnection)db.Database.GetDbConnection()).BackupDatabase(copy);
        }
        db.Database.Migrate();
    }

    /// <summary>Packs without a row: sealed files that a stop left behind before they were on record. No erasure would ever reach
    /// them.</summary>
    private void ClearOrphanPacks(SqliteConnection connection)
    {
        var packs = Directory.EnumerateFiles(PacksPath).Where(p => p.EndsWith(".zip", StringComparison.Ordinal)).ToList();
        if (packs.Count == 0)
            return;
        var known = new HashSet<Guid>();
        using (var command = connection.CreateCommand())
        {
            command.CommandText = "SELECT Id FROM Revisions";
            using var rows = command.ExecuteReader();
            while (rows.Read())
                if (rows.GetValue(0) is byte[] id)
                    known.Add(IdBytes.ReadOrNobody(id));
        }
        foreach (var pack in packs)
            if (Guid.TryParseExact(Path.GetFileNameWithoutExtension(pack), "N", out var id) && !known.Contains(id))
                File.Delete(pack);
    }

    /// <summary>Brings the write-ahead log into the file as far as nobody reads from it; writers go on.</summary>
    public void Settle()
    {
        using var connection = new SqliteConnection(ConnectionString);
        connection.Open();
        Ask(connection, "PRAGMA wal_checkpoint(PASSIVE);");
    }

    /// <summary>The file was looked through since the start, and is damaged.</summary>
    public bool IsDamaged { get; private set; }

    /// <summary>Looks through the whole file while others work. False where it is damaged.</summary>
    public Task<bool> LookThrough() =>
        Task.Run(() =>
        {
            using var connection = new SqliteConnection(ConnectionString);
            connection.Open();
            return !(IsDamaged = Ask(connection, "PRAGMA quick_check(1);")?.ToString() is not "ok");
        });

    /// <summary>A file that may be damaged is looked through before anything is added to it.</summary>
    private void CheckIntegrity(SqliteConnection connection)
    {
        if (Ask(connection, "PRAGMA quick_check(1);")?.ToString() is not "ok")
            throw new DataFolderException(
                $"The database {DatabaseFile} is damaged. Nothing was changed. Restore the newest backup: ./walkdown restore FILE",
                new InvalidDataException()
            );
    }

    /// <summary>Files and folders that only their owner may look into.</summary>
    internal static class OwnersAlone
    {
        private const UnixFileMode FileMode = UnixFileMode.UserRead | UnixFileMode.UserWrite,
            FolderMode = FileMode | UnixFileMode.UserExecute;

        [System.Runtime.InteropServices.DllImport("libc", EntryPoint = "umask")]
        private static extern uint SetUmask(uint mask);

        public static void Umask() => SetUmask(0x3F);

        public static void Close(string path)
        {
            if (OperatingSystem.IsWindows())
                return;
            try
            {
                File.SetUnixFileMode(path, Directory.Exists(path) ? FolderMode : FileMode);
            }
            catch (Exception problem) when (problem is IOException or UnauthorizedAccessException)
            {
                // A folder that belongs to somebody else stays as they made it.
            }
        }
    }

    /// <summary>Each connection of the pool is set once.</summary>
    private sealed class SynchronousFull : Microsoft.EntityFrameworkCore.Diagnostics.DbConnectionInterceptor
    {
        public override void ConnectionOpened(
            System.Data.Common.DbConnection connection,
            Microsoft.EntityFrameworkCore.Diagnostics.ConnectionEndEventData data
        )
        {
            using var command = connection.CreateCommand();
            command.CommandText = "PRAGMA synchronous=FULL;";
            command.ExecuteNonQuery();
        }

        public override Task ConnectionOpenedAsync(
            System.Data.Common.DbConnection connection,
            Microsoft.EntityFrameworkCore.Diagnostics.ConnectionEndEventData data,
            CancellationToken cancel = default
        )
        {
            ConnectionOpened(connection, data);
            return Task.CompletedTask;
        }
    }
}

/// <summary>The data folder cannot be used; the message is for whoever starts Walkdown.</summary>
public sealed class DataFolderException(string message, Exception inner) : Exception(message, inner);
