using System.IO.Compression;
using System.Security.Cryptography;
using System.Text.Json;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Cabling;
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
            var outcome = await Bundle.Read(empty, emptyEvidence, first, null, default);
            Assert.True(outcome.IsNew);
            Assert.Empty(outcome.Conflicts);
            Assert.Equal(Contents(first), Contents(await Out(empty, emptyEvidence, jobId, $"b{seed}.zip")));
            var (busy, busyEvidence) = Folder($"busy{seed}");
            await Fill(busy, busyEvidence, new Random(seed + 900), seed + 900);
            await Bundle.Read(busy, busyEvidence, first, null, default);
            Assert.Equal(Contents(first), Contents(await Out(busy, busyEvidence, jobId, $"c{seed}.zip")));
            Assert.Empty((await Bundle.Read(busy, busyEvidence, first, null, default)).Added);
        }
    }

    /// <summary>Sealed anew by whoever altered it, so that every hash is right: what the rows themselves say is still looked at, and all or nothing is taken.</summary>
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
        var refused = await Assert.ThrowsAsync<BundleException>(() => Bundle.Read(to, there, forged, null, default));
        Assert.Equal(code, refused.What.Code);
        await using var db = new WalkdownDb(to.Options);
        Assert.False(await db.Jobs.AnyAsync() || await db.Readings.AnyAsync() || await db.Journal.AnyAsync());
    }

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

    private (DataFolder, EvidenceFolder) Folder(string name)
    {
        var folder = new DataFolder(Path.Combine(_root, name));
        folder.Open();
        return (folder, new EvidenceFolder(folder));
    }

    private async Task<string> Out(DataFolder folder, EvidenceFolder evidence, Guid jobId, string name)
    {
        var file = Path.Combine(_root, name);
        await using var db = new WalkdownDb(folder.Options);
        await Bundle.Write(folder, evidence, db, jobId, file, _key, DateTimeOffset.UnixEpoch, null, default);
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
    private static async Task<Guid> Fill(DataFolder folder, EvidenceFolder evidence, Random random, int seed)
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
            }
        );
        foreach (var device in devices)
        {
            var unit = new Walkdown.Storage.Entities.Unit
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
