using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;

namespace Walkdown.Access;

/// <summary>The file of accounts cannot be used; the message is for whoever starts Walkdown.</summary>
public sealed class AccessStoreException(string message, Exception inner) : Exception(message, inner);

/// <summary>The file of accounts in the data folder; made when the first account is.</summary>
/// <param name="root">The data folder.</param>
public sealed class AccessStore(string root)
{
    private readonly Lock _lock = new();
    private bool _isReady;

    private string PathOf => Path.Combine(root, "accounts.db");

    /// <summary>Nobody was ever let in: the one at this machine is alone.</summary>
    public bool IsMissing => !File.Exists(PathOf);

    /// <summary>What the mapper needs to know.</summary>
    public void Configure(DbContextOptionsBuilder options) =>
        options
            .UseSqlite($"Data Source={PathOf};Foreign Keys=True;Default Timeout=10")
            .UseApplicationServiceProvider(AccessDb.WithPasskeys);

    /// <summary>The file, brought to this edition.</summary>
    public AccessDb Open()
    {
        MakeReady();
        var options = new DbContextOptionsBuilder<AccessDb>();
        Configure(options);
        return new AccessDb(options.Options);
    }

    /// <summary>Makes or migrates the file, once.</summary>
    public void MakeReady()
    {
        lock (_lock)
        {
            if (_isReady)
                return;
            var options = new DbContextOptionsBuilder<AccessDb>();
            Configure(options);
            using var db = new AccessDb(options.Options);
            try
            {
                db.Database.Migrate();
                // Kept with the file; each write is flushed as SQLite does unasked (synchronous = FULL), so that who was shut out stays so.
                db.Database.ExecuteSqlRaw("PRAGMA journal_mode=WAL;");
            }
            catch (SqliteException problem)
            {
                // Nobody is let in by a file that cannot be read: not even as if there were none.
                throw new AccessStoreException(
                    $"The file of accounts {PathOf} cannot be read: {problem.Message} Put back a copy of it, or take it away: then the first "
                        + "account is made anew, and everybody is invited again. Nothing of the record is in it.",
                    problem
                );
            }
            if (!OperatingSystem.IsWindows())
                File.SetUnixFileMode(PathOf, UnixFileMode.UserRead | UnixFileMode.UserWrite);
            _isReady = true;
        }
    }
}
