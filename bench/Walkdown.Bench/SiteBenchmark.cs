using System.Diagnostics;
using System.Globalization;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using MiniExcelLibs;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Cabling;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Measures;
using Walkdown.Core.Register;
using Walkdown.Formats;
using Walkdown.Reports;
using Walkdown.Storage;
using Walkdown.Storage.Entities;

namespace Walkdown.Bench;

/// <summary>A made-up site of any size: its schedule as a workbook, readings on every Card, and what the server makes of it.</summary>
internal static class SiteBenchmark
{
    private static readonly string[] Kinds = ["Turret", "Dome", "Bullet", "Varifocal dome", "PTZ", "Multi sensor"];

    /// <summary>Makes the data folder: imports the workbook and fills in readings, all with a seed.</summary>
    /// <param name="folder">The data folder.</param>
    /// <param name="devices">How many.</param>
    /// <param name="readings">How many, on the runs.</param>
    /// <param name="every">Devices of every kind of the catalogue, in a job that covers all of the work; else six kinds of camera, and what
    /// jobs covered before they said it.</param>
    /// <param name="found">With a look at its network, and its recorders' lists.</param>
    public static async Task Make(string folder, int devices, int readings, bool every = false, bool found = false)
    {
        var data = new DataFolder(folder);
        data.Open();
        using var ledger = new Ledger(data, TimeProvider.System);
        var catalogue = Catalogue.Read(Catalogue.Shipped, Texts.Shipped("en").Keys.ToHashSet()).Catalogue!;
        Guid job = Guid.CreateVersion7(),
            person = Guid.CreateVersion7(),
            meter = Guid.CreateVersion7();
        await ledger.Change(
            job,
            "job-added",
            (db, _) =>
            {
                var site = new Job
                {
                    Id = job,
                    Name = $"Ternhaven, {devices} devices",
                    TimeZone = "Europe/London",
                    Rule = DecisionRule.Guarded,
                    Scheme = WiringScheme.T568B,
                    Simulated = true,
                    CreatedAt = DateTimeOffset.UtcNow,
                };
                if (every)
                    KeptPractice.Keep(site, KeptPractice.Of(site) with { Scope = WorkScope.Whole });
                db.Add(site);
                db.Add(
                    new Person
                    {
                        Id = person,
                        JobId = job,
                        Name = "Ina Solberg",
                        Role = "technician",
                    }
                );
                db.Add(
                    new InstrumentRecord
                    {
                        Id = meter,
                        JobId = job,
                        Name = "Camera tester 1",
                        Serial = "CT-1140",
                        AccuracyJson = """
                        [{"unit":"ohm","accuracy":{"percentOfReading":1},"upTo":null},
                         {"unit":"metre","accuracy":{"percentOfReading":2},"upTo":null},
                         {"unit":"volt","accuracy":{"percentOfReading":1},"upTo":null}]
                        """,
                        CalibratedOn = new(2026, 1, 1),
                        CalibrationDue = new(2027, 12, 31),
                    }
                );
                return Task.FromResult((true, true));
            }
        );
        var random = new Random(46);
        var texts = new Texts("en");
        var kinds = catalogue.Kinds.ToArray();
        var rows = Enumerable
            .Range(0, devices)
            .Select(i =>
            {
                var (area, n) = (i / 100, i % 100);
                var kind = every ? kinds[i % kinds.Length] : null;
                bool Has(string feature) => kind is null || kind.Features.Contains(feature);
                return new Dictionary<string, object>
                {
                    ["Cam No"] = $"Z{area:00}-{n + 1:000}",
                    ["Description"] = $"Zone {area + 1}, point {n + 1}",
                    ["Zone"] = $"Zone {area + 1}",
                    ["Type"] = kind is null ? Kinds[random.Next(Kinds.Length)] : texts[kind.TextKey],
                    ["Model"] = kind is null ? "Skerry B4" : "",
                    ["Serial No"] = $"TH{100000 + i}",
                    ["MAC"] = $"02:46:{i >> 16 & 255:X2}:{i >> 8 & 255:X2}:{i & 255:X2}:01",
                    ["IP"] = $"10.{46 + i / 50000}.{i / 200 % 250}.{i % 200 + 10}",
                    ["Rack"] = Has("cable") ? $"K{i / 40 + 1}" : "",
                    ["Port"] = Has("cable") ? i % 40 + 1 : "",
                    ["NVR"] = Has("camera") ? $"R-{i / 60 + 1}" : "",
                    ["Ch"] = Has("camera") ? i % 60 + 1 : "",
                    ["Length m"] = Has("cable") ? 12 + random.Next(700) / 10.0 : "",
                    ["x"] = area % 8 * 130 + n % 10 * 11.0,
                    ["y"] = area / 8 * 130 + n / 10 * 11.0,
                };
            });
        using var stream = new MemoryStream();
        stream.SaveAs(rows);
        var file = stream.ToArray();
        var clock = Stopwatch.StartNew();
        var sheet = SheetReader.Read(file)[0];
        var mapping = HeadingMatch.Propose(sheet.Rows, new Dictionary<string, string>(), new Dictionary<string, string>());
        var plan = SchedulePlan.Of(sheet.Rows, mapping, RegisterService.KindWords(catalogue, k => texts[k.TextKey]), catalogue.Records);
        var read = clock.Elapsed;
        var import = new ScheduleImport(ledger, TimeProvider.System);
        var preview = await import.Preview(job, plan, catalogue);
        var looked = clock.Elapsed;
        var outcome = (await import.Take(job, plan, catalogue, preview.Basis, person))!;
        var took = clock.Elapsed - looked;
        if (outcome.Problems.Length > 0)
            throw new InvalidOperationException(outcome.Problems[0].ToString());
        Console.WriteLine(
            $"XLSX of {devices} rows, {file.Length / 1024} KB: read and checked {read.TotalSeconds:F2} s, "
                + $"preview {(looked - read).TotalSeconds:F2} s, taken with every Card judged {took.TotalSeconds:F2} s: "
                + $"{devices / (read + took).TotalSeconds:F0} rows a second; {outcome.Added} new, {outcome.Findings.Length} findings"
        );
        clock.Restart();
        var again = await import.Preview(job, plan, catalogue);
        Console.WriteLine($"the same again: {again.Same} left alone, {clock.Elapsed.TotalSeconds:F2} s");
        if (readings > 0)
            await Readings(data, job, person, meter, readings, random);
        if (found)
            await AddressBenchmark.Fill(ledger, job);
        ledger.Forget();
        clock.Restart();
        await ledger.AfterChange(job, null, catalogue);
        Console.WriteLine($"every Card judged anew with {readings} readings: {clock.Elapsed.TotalSeconds:F2} s");
    }

    /// <summary>Readings straight into the table, as the ledger would keep them.</summary>
    private static async Task Readings(DataFolder data, Guid job, Guid person, Guid meter, int readings, Random random)
    {
        await using var db = new WalkdownDb(data.Options);
        var runs = await db.Runs.Include(r => r.Ends).Where(r => r.JobId == job).ToListAsync();
        var at = new DateTimeOffset(2026, 10, 14, 7, 0, 0, TimeSpan.Zero);
        using var connection = new SqliteConnection(db.Database.GetConnectionString());
        connection.Open();
        using var transaction = connection.BeginTransaction();
        using var insert = connection.CreateCommand();
        insert.CommandText =
            "INSERT INTO Readings (Id, DeviceId, CheckId, SubjectKind, SubjectId, Part, Under, UnitId, "
            + "ValueJson, Found, InstrumentId, Source, By, TakenAt, ReceivedAt, Sequence) "
            + "VALUES ($a,$b,$c,'Run',$d,$e,'Any',NULL,$f,'Any',$g,'Typed',$h,$i,$i,$j)";
        using var journal = connection.CreateCommand();
        journal.CommandText =
            "INSERT INTO Journal (Sequence, Id, JobId, DeviceId, Kind, BodyHash, By, At) VALUES ($j,$a,$k,$b,'reading',x'00',$h,$i)";
        foreach (var name in "abcdefghijk")
            insert.Parameters.AddWithValue("$" + name, DBNull.Value);
        foreach (var name in "jakbhi")
            journal.Parameters.AddWithValue("$" + name, DBNull.Value);
        var sequence = await db.Journal.MaxAsync(j => j.Sequence);
        string[] parts = ["1-2", "3-6", "4-5", "7-8"];
        for (var n = 0; n < readings; n++)
        {
            var run = runs[n % runs.Count];
            var kind = n / runs.Count % 6;
            Guid id = Guid.CreateVersion7(),
                device = run.Ends.First(e => e.DeviceId is not null).DeviceId!.Value;
            var metres = run.LengthMetres * (1 + (random.NextDouble() - 0.5) / 30);
            var (check, part, value) = kind switch
            {
                0 => ("cable.label", "", """{"kind":"yesNo","yes":true}"""),
                1 => (
                    "cable.length",
                    "",
                    $$"""{"kind":"number","value":{{metres.ToString("F1", CultureInfo.InvariantCulture)}},"unit":"metre"}"""
                ),
                _ => (
                    "cable.loop-resistance",
                    parts[kind - 2],
                    $$"""{"kind":"number","value":{{(0.18 * metres).ToString("F2", CultureInfo.InvariantCulture)}},"unit":"ohm"}"""
                ),
            };
            var milliseconds = at.AddSeconds(n).ToUnixTimeMilliseconds();
            foreach (
                var (key, to) in new (string, object)[]
                {
                    ("$a", id),
                    ("$b", device),
                    ("$c", check),
                    ("$d", run.Id),
                    ("$e", part),
                    ("$f", value),
                    ("$g", kind == 0 ? DBNull.Value : meter),
                    ("$h", person),
                    ("$i", milliseconds),
                    ("$j", ++sequence),
                }
            )
                insert.Parameters[key].Value = Kept(to);
            foreach (
                var (key, to) in new (string, object)[]
                {
                    ("$a", id),
                    ("$b", device),
                    ("$h", person),
                    ("$i", milliseconds),
                    ("$j", sequence),
                    ("$k", job),
                }
            )
                journal.Parameters[key].Value = Kept(to);
            insert.ExecuteNonQuery();
            journal.ExecuteNonQuery();
        }
        transaction.Commit();
    }

    /// <summary>As the database file holds it: ids are bytes.</summary>
    private static object Kept(object value) => value is Guid id ? id.ToByteArray(bigEndian: true) : value;

    /// <summary>Answers of a running server on that folder.</summary>
    public static async Task Measure(Uri server, int process)
    {
        using var http = new HttpClient(new HttpClientHandler { AutomaticDecompression = System.Net.DecompressionMethods.GZip })
        {
            BaseAddress = server,
        };
        var job = JsonNode.Parse(await http.GetStringAsync("/api/jobs"))![0]!["id"]!.ToString();
        var clock = Stopwatch.StartNew();
        var text = await http.GetStringAsync($"/api/jobs/{job}/walk");
        Console.WriteLine($"first Walk after the start: {clock.Elapsed.TotalMilliseconds:F0} ms, {text.Length / 1024} KB of JSON");
        var walk = JsonNode.Parse(text)!;
        var person = JsonNode.Parse(await http.GetStringAsync($"/api/jobs/{job}/kit"))!["people"]![0]!["id"]!.ToString();
        var stops = walk["areas"]!.AsArray().SelectMany(a => a!["stops"]!.AsArray()).Select(s => s!["id"]!.ToString()).ToArray();
        var random = new Random(7);
        List<double> walks = [],
            changes = [],
            cold = [],
            warm = [],
            saves = [],
            finds = [];
        async Task<double> Get(string path)
        {
            var from = Stopwatch.GetTimestamp();
            (await http.GetByteArrayAsync(path)).GetHashCode();
            return Stopwatch.GetElapsedTime(from).TotalMilliseconds;
        }

        // The first from there on that has a cable.
        var (stop, row) = ("", "");
        for (var n = 200; row == ""; n++)
            (stop, row) = (
                stops[n],
                JsonNode.Parse(await http.GetStringAsync($"/api/cards/{stops[n]}"))!["card"]!["rows"]!
                    .AsArray()
                    .FirstOrDefault(r => r!["key"]!["check"]!.ToString() == "cable.length")
                    ?["id"]!.ToString()
                    ?? ""
            );
        for (var n = 0; n < 60; n++)
        {
            // Each whole Walk follows a save, so that nothing ready-made is measured.
            var from = Stopwatch.GetTimestamp();
            using var response = await http.PostAsJsonAsync(
                $"/api/cards/{stop}/readings",
                new
                {
                    id = Guid.CreateVersion7(),
                    row,
                    text = "41.5",
                    source = "typed",
                    by = person,
                    takenAt = DateTimeOffset.UtcNow,
                    clockOffsetMs = 0,
                }
            );
            var answer = JsonNode.Parse(await response.Content.ReadAsStringAsync())!;
            saves.Add(Stopwatch.GetElapsedTime(from).TotalMilliseconds);
            response.EnsureSuccessStatusCode();
            walks.Add(await Get($"/api/jobs/{job}/walk"));
            changes.Add(await Get($"/api/jobs/{job}/walk/changes?after={answer["sequence"]!.GetValue<long>() - 1}"));
        }
        for (var n = 0; n < 400; n++)
            cold.Add(await Get($"/api/cards/{stops[random.Next(stops.Length)]}"));
        for (var n = 0; n < 400; n++)
            warm.Add(await Get($"/api/cards/{stops[n % 100]}"));
        for (var n = 0; n < 40; n++)
            finds.Add(await Get($"/api/jobs/{job}/find?q=point {n}"));
        foreach (
            var (what, list) in new[]
            {
                ("whole Walk after a change", walks),
                ("what changed of the Walk", changes),
                ("any Card", cold),
                ("a Card seen before", warm),
                ("a save", saves),
                ("a search", finds),
            }
        )
        {
            list.Sort();
            Console.WriteLine($"{what}: median {list[list.Count / 2]:F1} ms, 95th {list[(int)(list.Count * 0.95)]:F1} ms");
        }
        var area = Uri.EscapeDataString(walk["areas"]![3]!["name"]!.ToString());
        Console.WriteLine(
            $"what to carry: an area {await Get($"/api/jobs/{job}/walk/load?area={area}"):F0} ms, "
                + $"the site {await Get($"/api/jobs/{job}/walk/load"):F0} ms"
        );
        clock.Restart();
        var register = await http.GetByteArrayAsync($"/api/jobs/{job}/register");
        Console.WriteLine($"the whole register: {clock.Elapsed.TotalMilliseconds:F0} ms, {register.Length / 1024} KB");
        foreach (
            var line in File.ReadLines($"/proc/{process}/status")
                .Where(l => l.StartsWith("VmRSS", StringComparison.Ordinal) || l.StartsWith("VmHWM", StringComparison.Ordinal))
        )
            Console.WriteLine($"server memory, {line}");
    }
}
