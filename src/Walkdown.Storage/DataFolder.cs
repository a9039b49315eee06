using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Infrastructure;

namespace Walkdown.Storage;

/// <summary>The data folder: the database beside an evidence folder and the company's own catalogue files.</summary>
public sealed class DataFolder(string path)
{
    public string Root { get; } = Path.GetFullPath(path);
    public string DatabaseFile => Path.Combine(Root, "walkdown.db");
    public string EvidencePath => Path.Combine(Root, "evidence");
    public string PacksPath => Path.Combine(Root, "packs");
    public string CatalogueFolder => Path.Combine(Root, "catalogue");

    /// <summary>WAL, synchronous=FULL and foreign keys: an answered reading survives a pulled plug.</summary>
    public DbContextOptions<WalkdownDb> Options =>
        new DbContextOptionsBuilder<WalkdownDb>()
            .UseSqlite(
                new SqliteConnectionStringBuilder
                {
                    DataSource = DatabaseFile,
                    ForeignKeys = true,
                    Pooling = true,
                    DefaultTimeout = 10,
                }.ToString(),
                Lists
            )
            .AddInterceptors(new SynchronousFull())
            .UseQueryTrackingBehavior(QueryTrackingBehavior.NoTracking)
            .Options;

    /// <summary>A list of ids goes in as one value: as a value each, naming them takes the square of their number.</summary>
    internal static void Lists(SqliteDbContextOptionsBuilder sqlite) =>
        sqlite.UseParameterizedCollectionMode(ParameterTranslationMode.Parameter);

    /// <summary>Creates or migrates the database; before a migration of an existing file a copy is kept beside it.</summary>
    /// <exception cref="DataFolderException">The folder cannot be written, or the database is not one.</exception>
    public void Open()
    {
        try
        {
            Directory.CreateDirectory(Root);
            Directory.CreateDirectory(CatalogueFolder);
            Directory.CreateDirectory(EvidencePath);
            Directory.CreateDirectory(PacksPath);
            CheckWritable();
            ClearDrafts();
            using var db = new WalkdownDb(Options);
            CheckIntegrity(db);
            var pending = db.Database.GetPendingMigrations().ToList();
            if (pending.Count > 0 && File.Exists(DatabaseFile) && db.Database.GetAppliedMigrations().Any())
            {
                db.Database.OpenConnection();
                using var copy = new SqliteConnection($"Data Source={DatabaseFile}.before-{pending[^1]}");
                copy.Open();
                ((SqliteConnection)db.Database.GetDbConnection()).BackupDatabase(copy);
            }
            db.Database.Migrate();
            db.Database.ExecuteSqlRaw("PRAGMA journal_mode=WAL;");
        }
        catch (Exception problem) when (problem is IOException or UnauthorizedAccessException or SqliteException)
        {
            throw new DataFolderException($"The data folder {Root} cannot be used: {problem.Message}", problem);
        }
    }

    /// <summary>A folder that cannot be written is told at once, not at the first reading.</summary>
    private void CheckWritable()
    {
        var probe = Path.Combine(Root, ".writable");
        File.WriteAllText(probe, "");
        File.Delete(probe);
    }

    /// <summary>What a pack was being made of when the server was stopped is no pack.</summary>
    private void ClearDrafts()
    {
        foreach (var draft in Directory.EnumerateFileSystemEntries(PacksPath, ".*"))
            if (Directory.Exists(draft))
                Directory.Delete(draft, recursive: true);
            else
                File.Delete(draft);
    }

    /// <summary>A damaged file is told before anything is added to it.</summary>
    private void CheckIntegrity(WalkdownDb db)
    {
        if (!File.Exists(DatabaseFile) || new FileInfo(DatabaseFile).Length == 0)
            return;
        db.Database.OpenConnection();
        using var command = db.Database.GetDbConnection().CreateCommand();
        command.CommandText = "PRAGMA quick_check(1);";
        if (command.ExecuteScalar()?.ToString() is not "ok")
            throw new DataFolderException(
                $"The database {DatabaseFile} is damaged. Nothing was changed. Restore the newest backup: ./walkdown restore FILE",
                new InvalidDataException()
            );
        db.Database.CloseConnection();
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
