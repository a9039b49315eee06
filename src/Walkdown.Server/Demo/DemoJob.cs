using System.Collections.Immutable;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Addressing;
using Walkdown.Core.Cabling;
using Walkdown.Core.Measures;
using Walkdown.Core.Optics;
using Walkdown.Core.Power;
using Walkdown.Server.Jobs;
using Walkdown.Server.Shared;
using Walkdown.Storage;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Demo;

/// <summary>Loads the made-up site into an empty data folder; a folder that holds a job is left alone.</summary>
public sealed class DemoJob(Ledger ledger, ImportService import, KeptFiles keptFiles, CatalogueStore catalogue, TimeProvider time)
{
    private sealed record File(
        string Name,
        string TimeZone,
        DecisionRule Rule,
        WiringScheme Scheme,
        ImmutableArray<FilePerson> People,
        ImmutableArray<FileInstrument> Instruments,
        ImmutableArray<FileSource> Sources,
        NetworkPlan? Network = null,
        SiteGround? Ground = null
    );

    private sealed record FileSource(
        string Label,
        SourceKind Kind,
        string? Cabinet = null,
        string Model = "",
        SourceMode Mode = SourceMode.Standard,
        double? BudgetWatts = null,
        double ReservePercent = 0,
        double? PortLimitWatts = null,
        SupplyRange Range = SupplyRange.V12Dc,
        double? Volts = null,
        double RegulationPercent = 0,
        double? RatedAmperes = null,
        double? FuseAmperes = null,
        double? CableAmperes = null,
        double? WireGaugeAwg = null,
        double? WireAreaMm2 = null,
        double? TemperatureC = null
    );

    private sealed record FilePerson(string Name, string Role, bool MayWitness = false);

    private sealed record FileInstrument(
        string Name,
        string Serial,
        DateOnly CalibratedOn,
        DateOnly CalibrationDue,
        ImmutableArray<InstrumentFunction> Functions,
        string Kind = "",
        string Certificate = ""
    );

    public async Task Load(string folder)
    {
        var file = JsonSerializer.Deserialize<File>(
            await System.IO.File.ReadAllTextAsync(Path.Combine(folder, "job.json")),
            CoreJson.Options
        )!;
        var id = Guid.CreateVersion7();
        var isNew = await ledger.Change(
            id,
            "job-added",
            async (db, _) =>
            {
                if (await db.Jobs.AnyAsync())
                    return (false, false);
                db.Add(
                    new Job
                    {
                        Id = id,
                        Name = file.Name,
                        TimeZone = file.TimeZone,
                        Rule = file.Rule,
                        Scheme = file.Scheme,
                        NetworkJson = file.Network is { } network ? JsonSerializer.Serialize(network, CoreJson.Options) : null,
                        GroundJson = file.Ground is { } ground ? JsonSerializer.Serialize(ground, CoreJson.Options) : null,
                        Simulated = true,
                        CreatedAt = time.GetUtcNow(),
                    }
                );
                foreach (var person in file.People)
                    db.Add(
                        new Person
                        {
                            Id = Guid.CreateVersion7(),
                            JobId = id,
                            Name = person.Name,
                            Role = person.Role,
                            MayWitness = person.MayWitness,
                        }
                    );
                foreach (var i in file.Instruments)
                    db.Add(
                        new InstrumentRecord
                        {
                            Id = Guid.CreateVersion7(),
                            JobId = id,
                            Name = i.Name,
                            Serial = i.Serial,
                            AccuracyJson = JsonSerializer.Serialize(i.Functions, CoreJson.Options),
                            Kind = i.Kind,
                            Certificate = i.Certificate,
                            CalibratedOn = i.CalibratedOn,
                            CalibrationDue = i.CalibrationDue,
                        }
                    );
                return (true, true);
            }
        );
        if (!isNew)
            return;
        var taken = await import.TakeStrict(
            id,
            await System.IO.File.ReadAllBytesAsync(Path.Combine(folder, "schedule.csv")),
            CancellationToken.None
        );
        var cabinets = new Dictionary<string, Guid>();
        await using (var db = ledger.OpenDb())
            cabinets = await db.Cabinets.Where(c => c.JobId == id).ToDictionaryAsync(c => c.Label, c => c.Id);
        await ledger.Change(
            id,
            "source",
            async (db, _) =>
            {
                foreach (var s in file.Sources.IsDefault ? [] : file.Sources)
                {
                    var cabinet = s.Cabinet is null ? (Guid?)null : cabinets[s.Cabinet];
                    var source = await db
                        .Sources.AsTracking()
                        .FirstOrDefaultAsync(x => x.JobId == id && x.CabinetId == cabinet && x.Label == s.Label);
                    if (source is null)
                        db.Add(
                            source = new PowerSource
                            {
                                Id = Guid.CreateVersion7(),
                                JobId = id,
                                Label = s.Label,
                                CabinetId = cabinet,
                            }
                        );
                    (source.Kind, source.Model, source.Mode, source.BudgetWatts, source.ReservePercent, source.PortLimitWatts) = (
                        s.Kind,
                        s.Model,
                        s.Mode,
                        s.BudgetWatts,
                        s.ReservePercent,
                        s.PortLimitWatts
                    );
                    (source.Range, source.Volts, source.RegulationPercent, source.RatedAmperes, source.FuseAmperes, source.CableAmperes) = (
                        s.Range,
                        s.Volts,
                        s.RegulationPercent,
                        s.RatedAmperes,
                        s.FuseAmperes,
                        s.CableAmperes
                    );
                    (source.WireGaugeAwg, source.WireAreaMm2, source.TemperatureC) = (s.WireGaugeAwg, s.WireAreaMm2, s.TemperatureC);
                }
                return (true, true);
            }
        );
        await ledger.AfterChange(id, null, catalogue.Catalogue);
        var plan = await System.IO.File.ReadAllBytesAsync(Path.Combine(folder, "plan.svg"));
        var hash = await keptFiles.Put(plan);
        // The made-up drawing has 0.1 m a pixel, and its corner lies ten metres north of the site's.
        await ledger.Change(
            id,
            "plan",
            (db, _) =>
            {
                db.Add(
                    new PlanDrawing
                    {
                        JobId = id,
                        Hash = hash,
                        MediaType = "image/svg+xml",
                        Name = "plan.svg",
                        WidthPixels = 2300,
                        HeightPixels = 1560,
                        MetresPerPixel = 0.1,
                        LeftMetres = 0,
                        TopMetres = -10,
                    }
                );
                return Task.FromResult((true, true));
            }
        );
        if (taken.ProblemCount > 0)
            throw new InvalidDataException(
                "The demo schedule was refused: " + string.Join("; ", taken.Problems.Select(p => $"row {p.Row} {p.Column}: {p.What}"))
            );
    }
}
