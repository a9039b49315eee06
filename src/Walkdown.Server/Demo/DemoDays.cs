using System.Collections.Immutable;
using System.Globalization;
using System.Net.Http.Json;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Cabling;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Clocks;
using Walkdown.Core.Entries;
using Walkdown.Core.Measures;
using Walkdown.Core.Optics;
using Walkdown.Crew;
using Walkdown.Server.Handover;
using Walkdown.Server.Shared;
using Walkdown.Storage;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Demo;

/// <summary>
/// The days that a made-up crew has worked at the made-up site, told step by step in a file: what is done by whom at which devices. Each
/// entry goes through the one door that a phone's goes through; what is not told otherwise is as it should be.
/// </summary>
public sealed class DemoDays(Ledger ledger, CatalogueStore catalogue, PictureIntake pictures, IHttpClientFactory http, TimeProvider time)
{
    /// <param name="Presences">What was there, and from when to when.</param>
    /// <param name="Steps">In the order of time.</param>
    private sealed record Days(ImmutableArray<There> Presences, ImmutableArray<Step> Steps);

    private sealed record There(string Id, string From, string? Until = null);

    /// <param name="On">Days from today and the clock on the site's wall: "-2 07:30".</param>
    /// <param name="Who">The name of who did it.</param>
    /// <param name="At">Labels of the devices, one after another.</param>
    /// <param name="Take">Rows are taken.</param>
    /// <param name="EveryMinutes">How long one device takes.</param>
    /// <param name="Most">Rows after which somebody leaves.</param>
    /// <param name="Until">The part of the work after which somebody leaves.</param>
    /// <param name="Says">Answers that are not as they should be, by check.</param>
    /// <param name="Again">Checks that are taken once more where they failed.</param>
    /// <param name="Work">Work on the device, for the Fault that stands there.</param>
    /// <param name="World">Likewise in the simulated world: act and end.</param>
    /// <param name="Agree">Who agreed to the view of each head at the trial aim, by name.</param>
    /// <param name="Targets">What agreed views must show, by label.</param>
    private sealed record Step(
        string On,
        string Who,
        ImmutableArray<string> At,
        bool Take = false,
        double EveryMinutes = 45,
        int? Most = null,
        Section? Until = null,
        ImmutableSortedDictionary<string, ReadingValue>? Says = null,
        ImmutableArray<string> Again = default,
        Failing? Fault = null,
        Done? Work = null,
        DemoWork? World = null,
        Allowed? Concede = null,
        Hindrance? Blocked = null,
        string? Note = null,
        string? Agree = null,
        ImmutableSortedDictionary<string, ImmutableArray<ViewTarget>>? Targets = null
    )
    {
        public ImmutableArray<ViewTarget> TargetsOf(string label) =>
            Targets is not null && Targets.TryGetValue(label, out var named) ? named : [];
    }

    private sealed record Failing(string Check, string Title, Severity Severity, string? Cause = null);

    private sealed record Done(string Kind, string Text, CableEnd? End = null);

    private sealed record Allowed(string Check, string By, string Reason, int? Days = null);

    private sealed record Hindrance(string? By, string Reason);

    /// <summary>Who and what the steps name.</summary>
    private sealed record Site(
        Job Job,
        DateOnly Today,
        ImmutableDictionary<string, Guid> People,
        ImmutableDictionary<string, Guid> Devices,
        ImmutableDictionary<Guid, double> Bearings,
        ImmutableDictionary<string, byte[]> Pictures
    )
    {
        public DateTimeOffset Moment(string said)
        {
            var (day, clock) = (said.Split(' ')[0], TimeOnly.Parse(said.Split(' ')[1], CultureInfo.InvariantCulture));
            return SiteTime.FromWall(Job.TimeZone, Today.AddDays(int.Parse(day, CultureInfo.InvariantCulture)).ToDateTime(clock));
        }
    }

    /// <summary>Works the days of a file. A job that somebody has worked at is left alone.</summary>
    /// <param name="file">The days; pictures lie beside it in a folder.</param>
    /// <param name="standIns">The simulated world, where its state follows; null: nobody is told.</param>
    public async Task Work(string file, Uri? standIns, CancellationToken cancel = default)
    {
        var days = JsonSerializer.Deserialize<Days>(await File.ReadAllTextAsync(file, cancel), CoreJson.Options)!;
        if (await SiteOf(file, cancel) is not { } site)
            return;
        await ledger.Change(
            site.Job.Id,
            "practice",
            async (db, _) =>
            {
                var job = await db.Jobs.AsTracking().FirstAsync(j => j.Id == site.Job.Id);
                KeptPractice.Keep(job, KeptPractice.Of(job) with { Scope = WorkScope.Whole });
                KeptSite.Keep(
                    job,
                    KeptSite.Of(job) with
                    {
                        Presences = days.Presences.ToImmutableSortedDictionary(
                            p => p.Id,
                            p => new Stay(site.Moment(p.From), p.Until is { } until ? site.Moment(until) : null)
                        ),
                    }
                );
                return (true, true);
            }
        );
        foreach (var step in days.Steps)
            await Parallel.ForEachAsync(
                step.At.Select((label, n) => (Label: label, At: site.Moment(step.On).AddMinutes(n * step.EveryMinutes))),
                cancel,
                async (here, stop) => await Do(step, site, here.Label, here.At, standIns, stop)
            );
        await ledger.AfterChange(site.Job.Id, null, catalogue.Catalogue);
    }

    private async Task<Site?> SiteOf(string file, CancellationToken cancel)
    {
        await using var db = ledger.OpenDb();
        if (await db.Jobs.FirstOrDefaultAsync(j => j.Simulated, cancel) is not { } job || await db.Readings.AnyAsync(cancel))
            return null;
        var folder = Path.Combine(Path.GetDirectoryName(Path.GetFullPath(file))!, "pictures");
        var devices = await db.Devices.Where(d => d.JobId == job.Id).ToListAsync(cancel);
        return new(
            job,
            SiteTime.DayOf(job.TimeZone, time.GetUtcNow()),
            (await db.People.Where(p => p.JobId == job.Id).ToListAsync(cancel)).ToImmutableDictionary(p => p.Name, p => p.Id),
            devices.ToImmutableDictionary(d => d.Label, d => d.Id),
            BearingsOf(devices),
            (Directory.Exists(folder) ? Directory.GetFiles(folder, "*.jpg") : []).ToImmutableDictionary(
                f => Path.GetFileNameWithoutExtension(f),
                File.ReadAllBytes
            )
        );
    }

    /// <summary>Each place looks to the middle of its area on the plan, where north is up: whole tens of degrees.</summary>
    private static ImmutableDictionary<Guid, double> BearingsOf(List<Device> devices) =>
        devices
            .Where(d => d is { X: not null, Y: not null })
            .GroupBy(d => d.AreaId)
            .SelectMany(area =>
            {
                var (x, y) = (area.Average(d => d.X!.Value), area.Average(d => d.Y!.Value));
                return area.Select(d =>
                {
                    var bearing = Math.Atan2(x - d.X!.Value, d.Y!.Value - y) * 180 / Math.PI;
                    return (d.Id, (Math.Round(bearing / 10) * 10 + 360) % 360);
                });
            })
            .ToImmutableDictionary(b => b.Id, b => b.Item2);

    private async Task Do(Step step, Site site, string label, DateTimeOffset at, Uri? standIns, CancellationToken cancel)
    {
        var (device, by) = (site.Devices[label], site.People[step.Who]);
        if (step.Take)
            await Take(step, site, device, by, at, cancel);
        var facts = await FactsOf(device, at, cancel);
        var card = Card.Judge(facts, catalogue.Catalogue);
        CardRow Row(string check) =>
            card.Rows.FirstOrDefault(r => r.Check.Id.Value == check && r.IsFailing)
            ?? throw new InvalidDataException(
                $"{label}: {check} is not failing on {step.On}, it is "
                    + string.Join(
                        ", ",
                        card.Rows.Where(r => r.Check.Id.Value == check).Select(r => $"{r.State} {r.Because.FirstOrDefault()}")
                    )
            );
        if (step.Note is { } note)
            await Enter(device, new NoteRequest(Guid.CreateVersion7(at), note, by, at, 0), cancel);
        if (step.Fault is { } fault)
            await Enter(
                device,
                new FaultRequest(Guid.CreateVersion7(at), Row(fault.Check).Id, fault.Title, fault.Severity, by, at, 0, fault.Cause),
                cancel
            );
        if (step.Work is { } work)
            await Enter(
                device,
                new ActRequest(
                    Guid.CreateVersion7(at),
                    work.Kind,
                    by,
                    at,
                    0,
                    facts.Runs.IsEmpty ? null : facts.Runs[0].Id,
                    work.End,
                    work.Text,
                    null,
                    card.Faults.FirstOrDefault(f => f.Open)?.Fault.Id
                ),
                cancel
            );
        // All of a check: the four pairs of one cable are conceded together.
        if (step.Concede is { } allowed)
            foreach (var row in card.Rows.Where(r => r.Check.Id == Row(allowed.Check).Check.Id && r.IsFailing))
                await Enter(
                    device,
                    new ConcessionRequest(
                        Guid.CreateVersion7(at),
                        row.Id,
                        allowed.By,
                        allowed.Reason,
                        by,
                        at,
                        0,
                        allowed.Days is { } left ? site.Today.AddDays(left) : null
                    ),
                    cancel
                );
        if (step.Blocked is { } blocked)
            await Enter(
                device,
                new BlockRequest(Guid.CreateVersion7(at), by, at, 0, blocked.Reason, blocked.By is null, blocked.By),
                cancel
            );
        if (step.Agree is { } name)
            await Agree(site, facts, name, step.TargetsOf(label), by, at, standIns, cancel);
        if (step.World is { } world && standIns is not null)
            using (
                await http.CreateClient("stand-ins")
                    .PostAsJsonAsync(new Uri(standIns, $"panel/runs/{Uri.EscapeDataString(label)}/work"), world, cancel)
            ) { }
    }

    /// <summary>The trial aim: each head's view is agreed, with its picture where the simulated world shows one.</summary>
    private async Task Agree(
        Site site,
        CardFacts facts,
        string name,
        ImmutableArray<ViewTarget> targets,
        Guid by,
        DateTimeOffset at,
        Uri? standIns,
        CancellationToken cancel
    )
    {
        var (device, label) = (facts.Place.Id, facts.Place.Label);
        var begin = ViewProposal.Of(facts.Place, ViewRules.Of(facts, catalogue.Catalogue)) with
        {
            AzimuthDeg = site.Bearings.TryGetValue(device, out var bearing) ? bearing : null,
            Targets = targets,
        };
        foreach (var head in facts.Heads)
        {
            Guid? shown = null;
            if (await TrialPicture(label, head.Number, standIns, cancel) is { } file)
            {
                var picture = new NewPicture(Guid.CreateVersion7(at), device, by, at, file, "Trial aim");
                if (await pictures.Take(picture, cancel) is var (_, why, _))
                    throw new InvalidDataException($"{label}, trial aim: {why.Code}");
                shown = picture.Id;
            }
            await Enter(
                device,
                new ViewRequest(Guid.CreateVersion7(at), head.Id, Looking(begin, head.Number, facts.Heads.Length), by, at, 0, name, shown),
                cancel
            );
        }
    }

    /// <summary>Heads of one camera look evenly round it, the first to the north.</summary>
    private static ViewDesign Looking(ViewDesign begin, int head, int heads) =>
        heads == 1 ? begin : begin with { AzimuthDeg = (head - 1) * 360.0 / heads };

    /// <summary>What the simulated world showed at the trial aim; null where it shows nothing, or takes too long: then the view is agreed
    /// without it.</summary>
    private async Task<byte[]?> TrialPicture(string label, int head, Uri? standIns, CancellationToken cancel)
    {
        if (standIns is null)
            return null;
        try
        {
            using var answer = await http.CreateClient("stand-ins")
                .GetAsync(new Uri(standIns, $"panel/views/{Uri.EscapeDataString(label)}/{head}/agreed.jpg"), cancel);
            return answer.IsSuccessStatusCode ? await answer.Content.ReadAsByteArrayAsync(cancel) : null;
        }
        catch (HttpRequestException)
        {
            return null;
        }
        catch (OperationCanceledException) when (!cancel.IsCancellationRequested)
        {
            return null;
        }
    }

    /// <summary>Rows are taken as the Card asks for them; each part of the work that asks for a picture gets one.</summary>
    private async Task Take(Step step, Site site, Guid device, Guid by, DateTimeOffset at, CancellationToken cancel)
    {
        var facts = await FactsOf(device, at, cancel);
        var (inForce, answers) = (catalogue.Catalogue, new GoodAnswers(catalogue.Catalogue, "Odile Farrow", "2.6.1"));
        var today = SiteTime.DayOf(site.Job.TimeZone, at);
        var taken = new Visit(inForce, answers, by).Do(
            facts,
            [.. facts.Instruments.Where(i => i.CalibrationDue >= today)],
            step.Says,
            step.Again.IsDefault ? [] : step.Again,
            step.Most ?? int.MaxValue,
            step.Until
        );
        var seen = new Dictionary<Section, Guid>();
        foreach (var row in taken)
        {
            var section = row.Check.Section;
            if (row.Seen && !seen.ContainsKey(section) && PictureOf(site, facts, section) is { } file)
            {
                var picture = new NewPicture(Guid.CreateVersion7(row.At), device, by, row.At, file, CaptionOf(section));
                if (await pictures.Take(picture, cancel) is var (_, why, _))
                    throw new InvalidDataException($"{facts.Place.Label}, picture: {why.Code}");
                seen[section] = picture.Id;
            }
        }
        // Each in its order, and none waits for the one before: what waits together is made durable together.
        await Task.WhenAll(
            taken.Select(row =>
                Enter(
                    device,
                    new ReadingRequest(
                        Guid.CreateVersion7(row.At),
                        row.Row,
                        ReadingSource.Typed,
                        by,
                        row.At,
                        0,
                        row.Value,
                        InstrumentId: row.InstrumentId,
                        Evidence: row.Seen && seen.TryGetValue(row.Check.Section, out var picture) ? [new EvidenceRequest(picture)] : null
                    ),
                    cancel
                )
            )
        );
    }

    /// <summary>The picture of an area as its cameras see it, or of a part of the work; null where none ships.</summary>
    private static byte[]? PictureOf(Site site, CardFacts facts, Section section)
    {
        var area = facts.Place.Area.ToLowerInvariant().Replace(' ', '-');
        string[] names = section switch
        {
            Section.Aim or Section.Focus or Section.Plates or Section.Recorder => [area],
            Section.Night => [$"{area}-night"],
            Section.Before or Section.Bench => ["bench"],
            Section.Finish => ["finish"],
            _ => ["fixing"],
        };
        return names.Select(n => site.Pictures.GetValueOrDefault(n)).FirstOrDefault(f => f is not null);
    }

    private static string CaptionOf(Section section) =>
        section switch
        {
            Section.Aim => "Aim",
            Section.Focus => "Focus, at the far edge",
            Section.Plates => "A plate in the lane",
            Section.Recorder => "As the recorder shows it",
            Section.Night => "After dark",
            Section.Fixing => "As fixed",
            Section.Finish => "As left",
            _ => "",
        };

    private async Task<CardFacts> FactsOf(Guid device, DateTimeOffset at, CancellationToken cancel)
    {
        cancel.ThrowIfCancellationRequested();
        await using var db = ledger.OpenDb();
        return (await CardFactsLoader.Load(db, device, at))!.Facts;
    }

    private async Task Enter(Guid device, EntryRequest entry, CancellationToken cancel)
    {
        var result = await ledger.Append(device, entry, catalogue.Catalogue, cancel);
        if (result.Kept == Kept.Refused)
            throw new InvalidDataException($"{device}, {entry}: {result.Why?.Code} {string.Join(", ", result.Why?.Args ?? [])}");
    }
}
