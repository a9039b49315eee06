using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;
using Walkdown.Storage;

namespace Walkdown.Server.Tests;

/// <summary>A database of the edition that kept ids as text becomes one that keeps them as bytes, and loses nothing by it.</summary>
public sealed class IdBytesTests : IDisposable
{
    private const string Before = "20261127045229_Evidence";

    private readonly Site _site = new();

    public void Dispose() => _site.Dispose();

    private static WalkdownDb Open(string file) =>
        new(new DbContextOptionsBuilder<WalkdownDb>().UseSqlite($"Data Source={file};Pooling=False").Options);

    private static List<string> Ask(string file, string sql)
    {
        using var connection = new SqliteConnection($"Data Source={file};Pooling=False");
        connection.Open();
        using var command = connection.CreateCommand();
        command.CommandText = sql;
        using var rows = command.ExecuteReader();
        var found = new List<string>();
        while (rows.Read())
            found.Add(string.Join('|', Enumerable.Range(0, rows.FieldCount).Select(i => Text(rows.GetValue(i)))));
        return found;
    }

    private static string Text(object value) => value is byte[] bytes ? "x" + Convert.ToHexString(bytes) : $"{value}";

    [Fact]
    public async Task AnOlderFileKeepsEveryRowEveryGuardAndWhatWasDamaged()
    {
        foreach (var label in new[] { "CC-01", "CC-07" })
            await _site.ReadAll(label);
        // As it lies on disk while the server has it open, and a file of its own.
        var file = Path.Combine(_site.Data, "older.db");
        Ask(Path.Combine(_site.Data, "walkdown.db"), $"VACUUM INTO '{file}'");
        // What older files have no place for cannot come back from one.
        Ask(file, "UPDATE Jobs SET NetworkJson = NULL, GroundJson = NULL");
        using var db = Open(file);
        var tables = db.Model.GetEntityTypes().Select(t => t.GetTableName()!).Distinct().Order(StringComparer.Ordinal).ToList();
        // Columns by name: a later step back and forth may put them into another order.
        string Columns(string table) =>
            string.Join(", ", Ask(file, $"SELECT '\"' || name || '\"' FROM pragma_table_info('{table}') ORDER BY name"));
        Dictionary<string, List<string>> Rows() =>
            tables.ToDictionary(t => t, t => Ask(file, $"SELECT {Columns(t)} FROM \"{t}\" ORDER BY rowid"));
        const string Shape = """
            SELECT m.type, m.name, m.tbl_name, CASE m.type WHEN 'table'
                THEN (SELECT group_concat(c.name || ' ' || c.type || ' ' || c."notnull" || ' ' || c.pk) FROM
                    (SELECT * FROM pragma_table_info(m.name) ORDER BY name) c)
                ELSE m.sql END
            FROM sqlite_master m ORDER BY m.type, m.name
            """;
        var (rows, shape) = (Rows(), Ask(file, Shape));
        Assert.True(rows["Readings"].Count > 10 && rows["Devices"].Count > 40, $"{rows["Readings"].Count} {rows["Devices"].Count}");

        var migrator = db.GetService<IMigrator>();
        migrator.Migrate(Before);
        var device = Ask(file, "SELECT Id FROM Devices WHERE Label = 'CC-01'").Single();
        Assert.True(Guid.TryParse(device, out _));
        Assert.Equal(device.ToUpperInvariant(), device);
        // One id that no program wrote: it is kept as it was found.
        Ask(file, "UPDATE Instruments SET JobId = 'nobody''s' WHERE rowid = (SELECT max(rowid) FROM Instruments)");
        migrator.Migrate();

        Assert.Equal("nobody's", Ask(file, "SELECT JobId FROM Instruments ORDER BY rowid DESC LIMIT 1").Single());
        Ask(
            file,
            "UPDATE Instruments SET JobId = (SELECT Id FROM Jobs ORDER BY rowid LIMIT 1) WHERE rowid = (SELECT max(rowid) FROM Instruments)"
        );
        var after = Rows();
        Assert.All(tables, t => Assert.Equal(rows[t], after[t]));
        Assert.Equal(shape, Ask(file, Shape));
        Assert.Empty(Ask(file, "PRAGMA foreign_key_check"));
        Assert.Equal("ok", Ask(file, "PRAGMA integrity_check").Single());
        Assert.Equal(Guid.Parse(device), db.Devices.Single(d => d.Label == "CC-01").Id);
    }

    /// <summary>Also in a table that comes later.</summary>
    [Fact]
    public void EveryIdIsSixteenBytesInEveryTable()
    {
        var file = Path.Combine(_site.Data, "walkdown.db");
        using var db = Open(file);
        var looked = 0;
        foreach (var type in db.Model.GetEntityTypes())
        foreach (var id in type.GetProperties().Where(p => (Nullable.GetUnderlyingType(p.ClrType) ?? p.ClrType) == typeof(Guid)))
        {
            var (table, column) = (type.GetTableName(), id.GetColumnName());
            Assert.Equal("BLOB", Ask(file, $"SELECT type FROM pragma_table_info('{table}') WHERE name = '{column}'").Single());
            Assert.Equal(
                "0",
                Ask(
                        file,
                        $"SELECT count(*) FROM \"{table}\" WHERE \"{column}\" IS NOT NULL AND (typeof(\"{column}\") "
                            + $"<> 'blob' OR length(\"{column}\") <> 16)"
                    )
                    .Single()
            );
            looked++;
        }
        Assert.True(looked > 70);
    }
}
