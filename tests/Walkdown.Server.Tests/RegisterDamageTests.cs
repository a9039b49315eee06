using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Walkdown.Storage;

namespace Walkdown.Server.Tests;

/// <summary>Bad sectors in the register's own tables: whatever cell is hit, the job opens, says so, and accepts nothing for it.</summary>
public sealed class RegisterDamageTests(Site site) : IClassFixture<Site>
{
    private string Job => $"/api/jobs/{site.JobId}";

    /// <summary>Every column of every table of the register, as the model has them: none is left out by hand.</summary>
    public static TheoryData<string, string, bool> Cells()
    {
        using var db = new WalkdownDb(new DbContextOptionsBuilder<WalkdownDb>().UseSqlite("Data Source=:memory:").Options);
        var cells = new TheoryData<string, string, bool>();
        foreach (var type in RegisterDamage.Tables(db.Model))
        foreach (var property in type.GetProperties())
            cells.Add(type.GetTableName()!, property.GetColumnName(), property.ClrType == typeof(string));
        return cells;
    }

    private void Sql(string text, params (string Name, object? Value)[] with)
    {
        using var db = new SqliteConnection($"Data Source={Path.Combine(site.Data, "walkdown.db")};Pooling=False;Foreign Keys=False");
        db.Open();
        using var command = db.CreateCommand();
        command.CommandText = text;
        foreach (var (name, value) in with)
            command.Parameters.AddWithValue(name, value ?? DBNull.Value);
        Assert.Equal(1, command.ExecuteNonQuery());
    }

    private (long Row, object? Was) Last(string table, string column)
    {
        using var db = new SqliteConnection($"Data Source={Path.Combine(site.Data, "walkdown.db")};Pooling=False");
        db.Open();
        using var command = db.CreateCommand();
        command.CommandText = $"SELECT rowid, \"{column}\" FROM \"{table}\" ORDER BY rowid DESC LIMIT 1";
        using var found = command.ExecuteReader();
        return found.Read() ? (found.GetInt64(0), found.IsDBNull(1) ? null : found.GetValue(1)) : default;
    }

    /// <summary>What is kept in memory is forgotten by any change of the job.</summary>
    private async Task Touch(bool known = true) =>
        Assert.Equal(
            known ? 200 : 404,
            (
                await site.Post(
                    $"{Job}/people",
                    new
                    {
                        id = Guid.NewGuid(),
                        name = "Somebody",
                        role = "",
                        mayWitness = false,
                    }
                )
            ).Status
        );

    [Theory]
    [MemberData(nameof(Cells))]
    public async Task ADamagedCellIsNamedAndEveryPageOpens(string table, string column, bool isText)
    {
        var (row, was) = Last(table, column);
        if (row == 0)
            return; // The demo has no drawing's scale and the like: the cells of a table without rows cannot be hit.
        // Text is bytes that are no text; anything else is a word that is none.
        Sql(
            $"UPDATE \"{table}\" SET \"{column}\" = $bad WHERE rowid = $row",
            ("$bad", isText ? (object)new byte[] { 0xFF, 0xFE } : "{broken"),
            ("$row", row)
        );
        try
        {
            await Touch(known: (table, column) != ("Jobs", "Id"));
            // As a page asks at first.
            var jobs = Site.Json(await site.Http.GetStringAsync("/api/jobs")).AsArray();
            Assert.Contains(jobs, j => j!["damaged"]?.AsArray().Any(c => c!.ToString().Split(' ')[0] == $"{table}.{column}") == true);
            foreach (var page in new[] { "walk", "register", "kit", "power", "handover", "handover/sums/open", "practice" })
            {
                using var answer = await site.Http.GetAsync($"{Job}/{page}");
                Assert.True(
                    answer.IsSuccessStatusCode
                        || table == "Jobs" && column == "Id" && (int)answer.StatusCode == 404
                        || page.StartsWith("handover/sums", StringComparison.Ordinal) && (int)answer.StatusCode == 404,
                    $"{page}: {(int)answer.StatusCode} {await answer.Content.ReadAsStringAsync()}"
                );
            }
            foreach (var label in new[] { "BW-01", "GT-05", "NR-1" }.Where(site.Stops.ContainsKey))
            {
                using var answer = await site.Http.GetAsync($"/api/cards/{site.Stops[label]}");
                Assert.True((int)answer.StatusCode is 200 or 404, $"{label}: {await answer.Content.ReadAsStringAsync()}");
            }
        }
        finally
        {
            Sql($"UPDATE \"{table}\" SET \"{column}\" = $was WHERE rowid = $row", ("$was", was), ("$row", row));
            await Touch();
        }
        Assert.All(Site.Json(await site.Http.GetStringAsync("/api/jobs")).AsArray(), j => Assert.Null(j!["damaged"]));
    }

    /// <summary>Whichever row of a table it is, and all of them at once.</summary>
    [Theory]
    [MemberData(nameof(Cells))]
    public async Task OneRowOrAWholeColumnEveryPageOpens(string table, string column, bool isText)
    {
        var rows = All(table, column);
        if (rows.Count == 0 || column is "Id" or "JobId")
            return;
        // Each its own, where a column holds nothing twice.
        object Bad(long row) => isText ? new byte[] { 0xFF, 0xFE, (byte)row } : "{broken " + row;
        foreach (var hit in new[] { rows.Take(1).ToList(), rows })
        {
            foreach (var (row, _) in hit)
                Sql($"UPDATE \"{table}\" SET \"{column}\" = $bad WHERE rowid = $row", ("$bad", Bad(row)), ("$row", row));
            try
            {
                await site.Http.GetStringAsync("/api/jobs");
                foreach (var page in new[] { "walk", "register", "kit", "power", "power/start", "handover", "practice" })
                {
                    using var answer = await site.Http.GetAsync($"{Job}/{page}");
                    Assert.True(answer.IsSuccessStatusCode, $"{page}, {hit.Count} rows: {await answer.Content.ReadAsStringAsync()}");
                }
            }
            finally
            {
                foreach (var (row, was) in hit)
                    Sql($"UPDATE \"{table}\" SET \"{column}\" = $was WHERE rowid = $row", ("$was", was), ("$row", row));
                await site.Http.GetStringAsync("/api/jobs");
            }
        }
        await Touch();
    }

    private List<(long Row, object? Was)> All(string table, string column)
    {
        using var db = new SqliteConnection($"Data Source={Path.Combine(site.Data, "walkdown.db")};Pooling=False");
        db.Open();
        using var command = db.CreateCommand();
        // As many as tell whether one of them leads elsewhere.
        command.CommandText = $"SELECT rowid, \"{column}\" FROM \"{table}\" ORDER BY rowid LIMIT 12";
        using var found = command.ExecuteReader();
        var rows = new List<(long, object?)>();
        while (found.Read())
            rows.Add((found.GetInt64(0), found.IsDBNull(1) ? null : found.GetValue(1)));
        return rows;
    }

    /// <summary>The Card does not look healthy meanwhile, nothing is written out as something else, and writing the cell anew in the
    /// register mends it.</summary>
    [Theory]
    [InlineData("Material", "material", "solid-copper")]
    [InlineData("Configuration", "configuration", "permanent-link")]
    [InlineData("LengthMetres", "length_m", "41")]
    public async Task WhatLeansOnADamagedRunIsNotJudgedUntilItIsWrittenAnew(string column, string field, string text)
    {
        const string Label = "GT-02";
        var whole = await site.ReadAll(Label);
        var wire = Site.Row(whole, "cable.wire-map")["id"]!.ToString();
        string State(System.Text.Json.Nodes.JsonNode answer) =>
            answer["card"]!["rows"]!.AsArray().Single(r => r!["id"]!.ToString() == wire)!["state"]!.ToString();
        var before = State(whole);
        Assert.NotEqual("notJudged", before);
        using (var db = new SqliteConnection($"Data Source={Path.Combine(site.Data, "walkdown.db")};Pooling=False"))
        {
            db.Open();
            using var command = db.CreateCommand();
            command.CommandText = $"UPDATE Runs SET {column} = '{{broken' WHERE Id IN (SELECT RunId FROM RunEnds WHERE DeviceId = $device)";
            command.Parameters.AddWithValue("$device", Guid.Parse(site.Stops[Label]).ToByteArray(bigEndian: true));
            Assert.Equal(1, command.ExecuteNonQuery());
        }
        await site.Get("/api/jobs");
        await Touch();
        var card = await site.Card(Label);
        Assert.Equal("notJudged", State(card));
        Assert.Equal("open", card["card"]!["verdict"]!["verdict"]!.ToString());
        Assert.Contains($"Runs.{column}", card["card"]!["rows"]!.ToJsonString());
        Assert.NotEqual("notJudged", Site.Row(await site.ReadAll("GT-03"), "cable.wire-map")["state"]!.ToString());

        var work = await site.Post($"{Job}/bundle", new { });
        Assert.True(work.Status is 200 or 202, work.Body.ToJsonString());
        System.Text.Json.Nodes.JsonNode progress;
        do progress = await site.Get($"/api/progress/{work.Body["id"]}");
        while (progress["state"]!.ToString() is "running");
        Assert.Equal("failed", progress["state"]!.ToString());
        Assert.Contains($"Runs.{column}", progress["why"]!.ToString());

        var edit = site.Entry(
            new
            {
                edits = new[]
                {
                    new
                    {
                        deviceId = site.Stops[Label],
                        field,
                        text,
                    },
                },
                asBuilt = false,
                why = "written anew",
            }
        );
        var (status, answer) = await site.Post($"{Job}/register/edits", edit);
        Assert.True(status == 200, answer.ToJsonString());
        Assert.Equal(before, State(await site.Card(Label)));
        Assert.All(Site.Json(await site.Http.GetStringAsync("/api/jobs")).AsArray(), j => Assert.Null(j!["damaged"]));
    }
}
