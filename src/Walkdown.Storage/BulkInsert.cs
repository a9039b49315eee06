using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.ChangeTracking;
using Microsoft.EntityFrameworkCore.Metadata;
using Microsoft.EntityFrameworkCore.Storage;

namespace Walkdown.Storage;

/// <summary>
/// Writes many new rows by one prepared statement a table, in the transaction that is open: the mapper writes them a few at a time, each
/// with a look back. What it tracks as added is taken over whole, with the values and conversions of its own model; changed rows are left
/// to it.
/// </summary>
internal static class BulkInsert
{
    /// <summary>Beneath this the mapper is as quick.</summary>
    private const int Few = 500;

    /// <summary>Writes what is added, where it is much; changes have been looked for already.</summary>
    public static async Task Added(WalkdownDb db)
    {
        var added = db.ChangeTracker.Entries().Where(e => e.State == EntityState.Added).ToList();
        if (added.Count < Few)
            return;
        var connection = (SqliteConnection)db.Database.GetDbConnection();
        var transaction = (SqliteTransaction)db.Database.CurrentTransaction!.GetDbTransaction();
        // Rows may point at rows that come after them; all of them are there when the transaction ends.
        await db.Database.ExecuteSqlRawAsync("PRAGMA defer_foreign_keys = ON");
        foreach (var table in added.GroupBy(e => e.Metadata))
            Write(connection, transaction, table.Key, table);
        db.ChangeTracker.AutoDetectChangesEnabled = false;
        foreach (var entry in added)
            entry.State = EntityState.Unchanged;
        db.ChangeTracker.AutoDetectChangesEnabled = true;
    }

    private static void Write(SqliteConnection connection, SqliteTransaction transaction, IEntityType type, IEnumerable<EntityEntry> rows)
    {
        var properties = type.GetProperties().ToArray();
        var converters = properties.Select(p => p.GetTypeMapping().Converter).ToArray();
        using var command = connection.CreateCommand();
        command.Transaction = transaction;
        command.CommandText =
            $"INSERT INTO \"{type.GetTableName()}\" ({string.Join(", ", properties.Select(p => $"\"{p.GetColumnName()}\""))}) "
            + $"VALUES ({string.Join(", ", properties.Select((_, i) => "$" + i))})";
        for (var i = 0; i < properties.Length; i++)
            command.Parameters.Add(new SqliteParameter { ParameterName = "$" + i });
        command.Prepare();
        foreach (var row in rows)
        {
            var values = row.CurrentValues;
            for (var i = 0; i < properties.Length; i++)
            {
                var value = values[properties[i]];
                command.Parameters[i].Value =
                    (value is not null && converters[i] is { } c ? c.ConvertToProvider(value) : value) ?? DBNull.Value;
            }
            command.ExecuteNonQuery();
        }
    }
}
