using System.IO.Compression;
using System.Security.Cryptography;
using System.Text.Json;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Cabling;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Sealing;
using Walkdown.Storage;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Tests;

/// <summary>Jobs made by chance go out as a bundle and come back as they were.</summary>
public sealed class BundleTests : IDisposable
{
    private readonly string _root = Directory.CreateTempSubdirectory("walkdown-bundle-").FullName;
    private readonly SealKey _key = SealKey.Create();

    public void Dispose()
    {
        _key.Dispose();
        SqliteConnection.ClearAllPools();
        Directory.Delete(_root, true);
    }

    [Fact]
    public async Task AnyJobComesBackEqualIntoAnEmptyInstallationAndIntoOneThatHasOthers()
    {
        for (var seed = 1; seed <= 8; seed++)
        {
            var (from, evidence) = Folder($"from{seed}");
            var jobId = await Fill(from, evidence, new Random(seed), seed);
            await Fill(from, evidence, new Random(seed + 500), seed + 500);
            var first = await Out(from, evidence, jobId, $"a{seed}.zip");
            var (empty, emptyEvidence) = Folder($"empty{seed}");
            var outcome = await Take(empty, emptyEvidence, first);
            Assert.True(outcome.IsNew);
            Assert.Empty(outcome.Conflicts);
            Assert.Equal(Contents(first), Contents(await Out(empty, emptyEvidence, jobId, $"b{seed}.zip")));
            var (busy, busyEvidence) = Folder($"busy{seed}");
            await Fill(busy, busyEvidence, new Random(seed + 900), seed + 900);
            await Take(busy, busyEvidence, first);
            Assert.Equal(Contents(first), Contents(await Out(busy, busyEvidence, jobId, $"c{seed}.zip")));
            Assert.Empty((await Take(busy, busyEvidence, first)).Added);
        }
    }

    /// <summary>Two people went on apart from the same job: whoever takes whose bundle first, every Card ends the same.</summary>
    [Fact]
    public async Task WhatTwoPeopleDidApartEndsTheSameInEitherOrder()
    {
        for (var seed = 21; seed <= 24; seed++)
        {
            var (home, homeEvidence) = Folder($"home{seed}");
            var jobId = await Fill(home, homeEvidence, new Random(seed), seed);
            var shared = await Out(home, homeEvidence, jobId, $"shared{seed}.zip");
            var apart = new List<string>();
            foreach (var name in new[] { "ina", "olav" })
            {
                var (mine, evidence) = Folder($"{name}{seed}");
                await Take(mine, evidence, shared);
                await GoOn(mine, jobId, new Random(seed * 7 + name.Length));
                apart.Add(await Out(mine, evidence, jobId, $"{name}{seed}.zip"));
            }
            var ends = new List<string>();
            foreach (var order in new[] { new[] { 0, 1 }, [1, 0], [0, 1, 0, 1], [1, 1, 0] })
            {
                var (folder, evidence) = Folder($"end{seed}-{ends.Count}");
                foreach (var i in order)
                    await Take(folder, evidence, apart[i]);
                ends.Add(await Judged(folder, jobId));
            }
            Assert.All(ends, end => Assert.Equal(ends[0], end));
            Assert.Matches(":[0-9a-f]{8}-", ends[0]);
        }
    }

    private static async Task GoOn(DataFolder folder, Guid jobId, Random random)
    {
        await using var db = new WalkdownDb(folder.Options);
        var devices = await db.Devices.Where(d => d.JobId == jobId).ToListAsync();
        var by = await db.People.Where(p => p.JobId == jobId).Select(p => p.Id).FirstAsync();
        var runs = (await db.RunEnds.Where(e => e.DeviceId != null).ToListAsync()).ToDictionary(e => e.DeviceId!.Value, e => e.RunId);
        var sequence = await db.Journal.MaxAsync(j => (long?)j.Sequence) ?? 0;
        foreach (var device in devices.OrderBy(_ => random.Next()))
        {
            var unit = await db.Installations.Where(i => i.DeviceId == device.Id).Select(i => i.UnitId).FirstAsync();
            for (var n = random.Next(1, 4); n > 0; n--)
            {
                var taken = new DateTimeOffset(2026, 10, 16, 8, 0, 0, TimeSpan.Zero).AddTicks(random.NextInt64(TimeSpan.TicksPerDay));
                var key = new CheckKey(new CheckId("cable.length"), new Subject(SubjectKind.Run, runs[device.Id]), Condition.Any);
                var bytes = new byte[16];
                random.NextBytes(bytes);
                sequence++;
                object row = random.Next(4) switch
                {
                    0 => (
                        (CardEvent)
                            new Act
                            {
                                Id = new Guid(bytes),
                                By = by,
                                At = taken,
                                Sequence = sequence,
                                ActKind = "cable-replaced",
                                On = key.On,
                            }
                    ).ToRecord(device.Id),
                    1 => (
                        (CardEvent)
                            new Exemption
                            {
                                Id = new Guid(bytes),
                                By = by,
                                At = taken,
                                Sequence = sequence,
                                Key = key,
                                Reason = "r",
                            }
                    ).ToRecord(device.Id),
                    _ => new Reading(
                        new Guid(bytes),
                        key,
                        unit,
                        new NumberValue(20 + random.NextDouble() * 90, Core.Measures.Unit.Metre),
                        Condition.Any,
                        null,
                        ReadingSource.Typed,
                        by,
                        taken,
                        taken,
                        sequence,
                        null,
                        0
                    ).ToRecord(device.Id),
                };
                db.Add(row);
                db.Add(
                    new JournalEntry
                    {
                        Sequence = sequence,
                        Id = new Guid(bytes),
                        JobId = jobId,
                        DeviceId = device.Id,
                        Kind = "x",
                        BodyHash = [1],
                        By = by,
                        At = taken,
                    }
                );
            }
        }
        await db.SaveChangesAsync();
    }

    /// <summary>Each Card by label, as it is judged: its Verdict, and of each row the state and the reading that counts.</summary>
    private static async Task<string> Judged(DataFolder folder, Guid jobId)
    {
        await using var db = new WalkdownDb(folder.Options);
        var ids = await db.Devices.Where(d => d.JobId == jobId).OrderBy(d => d.Label).Select(d => d.Id).ToListAsync();
        var loaded = await CardFactsLoader.Load(db, ids, new DateTimeOffset(2026, 10, 20, 8, 0, 0, TimeSpan.Zero));
        return string.Join(
            '\n',
            loaded
                .OrderBy(c => c.Facts.Place.Label, StringComparer.Ordinal)
                .Select(c =>
                    Card.Judge(c.Facts, Shipped) is var card
                        ? $"{c.Facts.Place.Label} {card.Verdict.Verdict} {string.Join(' ', card.Rows.Select(r => $"{r.State}:{r.Counts}"))}"
                        : ""
                )
        );
    }

    /// <summary>Every field of every row exchanged for what no installation writes, and sealed by a stranger: refused in words or taken as
    /// a job that can be judged, and nothing of another job is touched.</summary>
    [Fact]
    public async Task ABundleOfPoisonedRowsTouchesNothingOfAnotherJob()
    {
        var (from, evidence) = Folder("from");
        var jobId = await Fill(from, evidence, new Random(5), 5);
        var whole = await Out(from, evidence, jobId, "whole.zip");
        var (to, there) = Folder("to");
        var other = await Fill(to, there, new Random(6), 6);
        var before = Contents(await Out(to, there, other, "before.zip"));
        var otherDevice = await Devices(to, other);
        var dice = new Random(33);
        object?[] strange =
        [
            null,
            "",
            "../../x",
            "\0",
            new string('x', 5000),
            -1,
            long.MaxValue,
            1e308,
            "0001-01-01T00:00:00Z",
            "00000000-0000-0000-0000-000000000000",
            other,
            otherDevice,
            jobId,
            true,
            new object[] { 1 },
            "[",
            "{\"kind\":\"number\"}",
        ];
        using var zip = ZipFile.OpenRead(whole);
        var tables = zip
            .Entries.Where(e => e.FullName.StartsWith("data/", StringComparison.Ordinal))
            .Select(e =>
            {
                using var stream = e.Open();
                return (e.FullName, Rows: System.Text.Json.Nodes.JsonNode.Parse(stream)!.AsArray());
            })
            .Where(t => t.Rows.Count > 0)
            .ToList();
        for (var n = 0; n < 150; n++)
        {
            var (name, rows) = tables[dice.Next(tables.Count)];
            var poisoned = rows.DeepClone().AsArray();
            var row = poisoned[dice.Next(poisoned.Count)]!.AsObject();
            row[row.ElementAt(dice.Next(row.Count)).Key] = System.Text.Json.Nodes.JsonNode.Parse(
                JsonSerializer.Serialize(strange[dice.Next(strange.Length)])
            );
            var forged = Forged(whole, name, poisoned.ToJsonString());
            try
            {
                await Take(to, there, forged);
                Assert.NotEmpty(await Judged(to, jobId));
            }
            catch (BundleException refused)
            {
                Assert.StartsWith("bundle.", refused.What.Code, StringComparison.Ordinal);
            }
            finally
            {
                File.Delete(forged);
            }
        }
        Assert.Equal(before, Contents(await Out(to, there, other, "after.zip")));
        Assert.All(
            Directory.EnumerateFiles(_root, "*", SearchOption.TopDirectoryOnly),
            f => Assert.EndsWith(".zip", f, StringComparison.Ordinal)
        );
    }

    private static async Task<Guid> Devices(DataFolder folder, Guid jobId)
    {
        await using var db = new WalkdownDb(folder.Options);
        return await db.Devices.Where(d => d.JobId == jobId).Select(d => d.Id).FirstAsync();
    }

    /// <summary>Sealed anew by whoever altered it, so that every hash is right: what the rows themselves say is still looked at, and all or
    /// nothing is taken.</summary>
    [Theory]
    [InlineData("data/Device.json", "[]", "bundle.leans")]
    [InlineData("data/ReadingRecord.json", "[{\"Id\":\"00000000-0000-0000-0000-000000000001\"}]", "bundle.edition")]
    [InlineData("data/CardEventRecord.json", "[", "bundle.edition")]
    [InlineData("data/Fault.json", "[null]", "bundle.edition")]
    [InlineData("data/Job.json", "[]", "bundle.altered")]
    [InlineData("data/Job.json", "{", "bundle.edition")]
    public async Task RowsThatCannotBeAreRefusedWhole(string name, string content, string code)
    {
        var (from, evidence) = Folder("from");
        var jobId = await Fill(from, evidence, new Random(3), 3);
        var forged = Forged(await Out(from, evidence, jobId, "whole.zip"), name, content);
        var (to, there) = Folder("to");
        var refused = await Assert.ThrowsAsync<BundleException>(() => Take(to, there, forged));
        Assert.Equal(code, refused.What.Code);
        await using var db = new WalkdownDb(to.Options);
        Assert.False(await db.Jobs.AnyAsync() || await db.Readings.AnyAsync() || await db.Journal.AnyAsync());
    }

    /// <summary>Looked at first, as a person does, and taken with the key that was seen.</summary>
    private static async Task<BundleOutcome> Take(DataFolder folder, KeptFiles evidence, string file)
    {
        var look = await BundleLooker.Look(folder, file, null, default);
        return await BundleReader.Read(folder, evidence, file, look.Key, Shipped, DateTimeOffset.UtcNow, null, default);
    }

    private static readonly Catalogue Shipped = Catalogue.Read(Catalogue.Shipped, Reports.Texts.Shipped("en").Keys.ToHashSet()).Catalogue!;

    /// <summary>With a file changed, listed and sealed by a stranger's key.</summary>
    private string Forged(string file, string name, string content)
    {
        var forged = file + ".forged";
        using var stranger = SealKey.Create();
        using var zip = ZipFile.OpenRead(file);
        using var to = ZipFile.Open(forged, ZipArchiveMode.Create);
        foreach (var entry in zip.Entries.Where(e => e.FullName != "bundle.json"))
        {
            using var stream = to.CreateEntry(entry.FullName).Open();
            if (entry.FullName == name)
                stream.Write(System.Text.Encoding.UTF8.GetBytes(content));
            else
            {
                using var was = entry.Open();
                was.CopyTo(stream);
            }
        }
        using var list = zip.GetEntry("bundle.json")!.Open();
        var head = JsonSerializer.Deserialize<BundleHead>(list, CoreJson.Options)!;
        var bytes = System.Text.Encoding.UTF8.GetBytes(content);
        using var document = JsonDocument.Parse(
            CanonicalJson.Of(
                head with
                {
                    Files = [.. head.Files.Select(f => f.Name == name ? new BundleFile(name, bytes.Length, RecordSeal.HashOf(bytes)) : f)],
                }
            )
        );
        using (var stream = to.CreateEntry("bundle.json").Open())
            stream.Write(RecordSeal.Seal(document.RootElement, stranger, DateTimeOffset.UnixEpoch));
        return forged;
    }

    private (DataFolder, KeptFiles) Folder(string name)
    {
        var folder = new DataFolder(Path.Combine(_root, name));
        folder.Open();
        return (folder, new KeptFiles(folder));
    }

    private async Task<string> Out(DataFolder folder, KeptFiles evidence, Guid jobId, string name)
    {
        var file = Path.Combine(_root, name);
        await using var db = new WalkdownDb(folder.Options);
        await BundleWriter.Write(folder, evidence, db, jobId, file, _key, DateTimeOffset.UnixEpoch, null, default);
        return file;
    }

    private static List<string> Contents(string file)
    {
        using var zip = ZipFile.OpenRead(file);
        return
        [
            .. zip
                .Entries.Where(e => e.FullName != "bundle.json")
                .Select(e =>
                {
                    using var stream = e.Open();
                    return $"{e.FullName} {Convert.ToHexStringLower(SHA256.HashData(stream))}";
                })
                .Order(StringComparer.Ordinal),
        ];
    }

    /// <summary>A job with some of everything, in no order that a person would make it in.</summary>
    private static async Task<Guid> Fill(DataFolder folder, KeptFiles evidence, Random random, int seed)
    {
        Guid New()
        {
            var bytes = new byte[16];
            random.NextBytes(bytes);
            return new Guid(bytes);
        }

        T Pick<T>(IReadOnlyList<T> some) => some[random.Next(some.Count)];
        double? Maybe(double most) => random.Next(2) == 0 ? null : random.NextDouble() * most;
        var at = new DateTimeOffset(2026, 10, 14, 8, 0, 0, TimeSpan.Zero);
        var sequence = random.Next(1, 900);
        await using var db = new WalkdownDb(folder.Options);
        var job = new Job
        {
            Id = New(),
            Name = $"Job {seed} \u00fc\u4e2d",
            TimeZone = "Europe/Oslo",
            Rule = Core.Measures.DecisionRule.Simple,
            CreatedAt = at,
            CoverJson = random.Next(2) == 0 ? null : "{}",
        };
        db.Add(job);
        var people = Enumerable
            .Range(0, random.Next(1, 4))
            .Select(i => new Person
            {
                Id = New(),
                JobId = job.Id,
                Name = $"P {i}",
                Role = "",
                Left = random.Next(2) == 0,
            })
            .ToList();
        var areas = Enumerable
            .Range(0, random.Next(1, 4))
            .Select(i => new Area
            {
                Id = New(),
                JobId = job.Id,
                Name = $"A {i}",
                Order = i,
            })
            .ToList();
        var cabinets = Enumerable
            .Range(0, random.Next(1, 3))
            .Select(i => new Cabinet
            {
                Id = New(),
                JobId = job.Id,
                Label = $"K{i}",
                Name = "",
                X = Maybe(99),
            })
            .ToList();
        var ports = cabinets
            .SelectMany(c =>
                Enumerable
                    .Range(1, 4)
                    .Select(n => new Port
                    {
                        Id = New(),
                        CabinetId = c.Id,
                        Number = n,
                        SourceVolts = 54,
                        SpeedMbps = 1000,
                        Uplink = random.Next(4) == 0,
                    })
            )
            .ToList();
        var devices = Enumerable
            .Range(0, random.Next(1, 9))
            .Select(i => new Device
            {
                Id = New(),
                JobId = job.Id,
                AreaId = Pick(areas).Id,
                Label = $"C-{i}",
                Name = "\"quay\"\n",
                Kind = "bullet",
                Model = "",
                HeightMetres = Maybe(9),
                Cancelled = random.Next(5) == 0,
            })
            .ToList();
        db.AddRange(people);
        db.AddRange(areas);
        db.AddRange(cabinets);
        db.AddRange(ports);
        db.AddRange(devices);
        db.Add(
            new InstrumentRecord
            {
                Id = New(),
                JobId = job.Id,
                Name = "Meter",
                Serial = "M",
                AccuracyJson = "[]",
                CalibratedOn = new DateOnly(2026, 1, 2),
                CalibrationDue = new DateOnly(2027, 1, 2),
            }
        );
        foreach (var device in devices)
        {
            var unit = new Walkdown.Storage.Entities.InstalledUnit
            {
                Id = New(),
                JobId = job.Id,
                Serial = $"S{device.Label}",
            };
            var run = new Run
            {
                Id = New(),
                JobId = job.Id,
                Label = device.Label,
                LengthMetres = random.NextDouble() * 90,
                Material = ConductorMaterial.SolidCopper,
            };
            db.Add(unit);
            db.Add(
                new Installation
                {
                    Id = New(),
                    DeviceId = device.Id,
                    UnitId = unit.Id,
                    From = at,
                }
            );
            db.Add(
                new Head
                {
                    Id = New(),
                    DeviceId = device.Id,
                    Number = 1,
                }
            );
            db.Add(run);
            db.Add(
                new RunEnd
                {
                    Id = New(),
                    RunId = run.Id,
                    Side = CableEnd.Far,
                    DeviceId = device.Id,
                }
            );
            if (random.Next(3) > 0)
                db.Add(
                    new RunEnd
                    {
                        Id = New(),
                        RunId = run.Id,
                        Side = CableEnd.Near,
                        PortId = Pick(ports).Id,
                    }
                );
            for (var i = random.Next(6); i > 0; i--)
            {
                sequence += random.Next(1, 5);
                var by = Pick(people).Id;
                var key = new CheckKey(new CheckId("cable.length"), new Subject(SubjectKind.Run, run.Id), Condition.Any);
                var taken = at.AddSeconds(random.Next(90_000));
                object row = random.Next(5) switch
                {
                    0 => new Reading(
                        New(),
                        key,
                        unit.Id,
                        new NumberValue(random.NextDouble() * 90, Core.Measures.Unit.Metre),
                        Condition.Any,
                        null,
                        ReadingSource.Typed,
                        by,
                        taken,
                        taken,
                        sequence,
                        null,
                        random.Next(900)
                    ).ToRecord(device.Id),
                    1 => (
                        (CardEvent)
                            new Concession
                            {
                                Id = New(),
                                By = by,
                                At = taken,
                                Sequence = sequence,
                                Key = key,
                                AllowedBy = "M. Holm",
                                Reason = "r",
                                Until = random.Next(2) == 0 ? null : new DateOnly(2027, 1, 1),
                            }
                    ).ToRecord(device.Id),
                    2 => (
                        (CardEvent)
                            new Act
                            {
                                Id = New(),
                                By = by,
                                At = taken,
                                Sequence = sequence,
                                ActKind = "re-crimp",
                                On = key.On,
                                End = CableEnd.Far,
                            }
                    ).ToRecord(device.Id),
                    3 => new FaultRecord(New(), key, null, "open", Severity.Major, null, by, taken, sequence).ToRecord(device.Id),
                    _ => new RegisterChange
                    {
                        Id = New(),
                        JobId = job.Id,
                        DeviceId = device.Id,
                        Field = "length_m",
                        To = "4.5",
                        AsBuilt = true,
                        By = by,
                        At = taken,
                        Sequence = sequence,
                    },
                };
                db.Add(row);
                db.Add(
                    new JournalEntry
                    {
                        Sequence = (seed * 1_000_000L) + sequence,
                        Id = New(),
                        JobId = job.Id,
                        DeviceId = device.Id,
                        Kind = "x",
                        BodyHash = [1, 2],
                        By = by,
                        At = taken,
                    }
                );
            }
            if (random.Next(3) > 0)
                continue;
            var content = new byte[200];
            random.NextBytes(content);
            var picture = new Picture
            {
                Id = New(),
                JobId = job.Id,
                DeviceId = device.Id,
                Hash = await evidence.Put(content),
                ShownHash = await evidence.Put([.. content, 1]),
                MediaType = "image/jpeg",
                By = people[0].Id,
                TakenAt = at,
                Sequence = ++sequence,
            };
            db.Add(picture);
            if (random.Next(2) == 0)
            {
                db.Add(
                    new Erasure
                    {
                        Id = New(),
                        JobId = job.Id,
                        PictureId = picture.Id,
                        By = "M. Holm",
                        Reason = "face",
                        At = at,
                        Sequence = ++sequence,
                    }
                );
                evidence.Erase(picture.Hash);
                evidence.Erase(picture.ShownHash);
            }
        }
        await db.SaveChangesAsync();
        return job.Id;
    }
}
