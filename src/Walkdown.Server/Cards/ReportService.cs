using System.Collections.Immutable;
using System.Reflection;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Handover;
using Walkdown.Reports;
using Walkdown.Server.Shared;
using Walkdown.Server.Walk;
using Walkdown.Storage;

namespace Walkdown.Server.Cards;

/// <summary>Gathers the record of one device; the PDF and the JSON are both made of it.</summary>
public sealed class ReportService(Ledger ledger, CatalogueStore catalogue, WalkBoards boards, KeptFiles keptFiles, TimeProvider time)
{
    public static readonly string CoreVersion =
        typeof(Card).Assembly.GetCustomAttribute<AssemblyInformationalVersionAttribute>()?.InformationalVersion ?? "0";

    public async Task<ReportRecord?> Record(Guid deviceId)
    {
        if (await ledger.Load(deviceId) is not { } loaded)
            return null;
        await using var db = ledger.OpenDb();
        var order = (await boards.Of(loaded.Job.Id))!.Order.Select(s => s.Id).ToList();
        var people = await db.People.Where(x => x.JobId == loaded.Job.Id).Select(x => new ReportPerson(x.Id, x.Name, x.Role)).ToListAsync();
        var record = Of(loaded, Card.Judge(loaded.Facts, catalogue.Catalogue), catalogue.Catalogue, people);
        ImmutableArray<HandoverPicture> pictures = [.. (await PicturesOf(db, loaded.Job.Id, deviceId))[deviceId]];
        var by = pictures.Select(p => p.By).ToHashSet();
        return record with
        {
            CardNumber = order.IndexOf(deviceId) + 1,
            CardCount = order.Count,
            MadeAt = time.GetUtcNow(),
            Pictures = pictures,
            People = [.. record.People.Union(people.Where(p => by.Contains(p.Id))).OrderBy(p => p.Name, StringComparer.Ordinal)],
        };
    }

    /// <summary>Pictures by device, in the order in which they were taken; erased ones with who had them erased.</summary>
    /// <param name="deviceId">One device only.</param>
    public static async Task<ILookup<Guid, HandoverPicture>> PicturesOf(WalkdownDb db, Guid jobId, Guid? deviceId = null)
    {
        var erased = await db.Erasures.Where(e => e.JobId == jobId).ToDictionaryAsync(e => e.PictureId);
        return (
            await db
                .Pictures.Where(p => p.JobId == jobId && (deviceId == null || p.DeviceId == deviceId))
                .OrderBy(p => p.TakenAt)
                .ThenBy(p => p.Sequence)
                .ToListAsync()
        ).ToLookup(
            p => p.DeviceId,
            p => new HandoverPicture(
                p.Hash,
                p.ShownHash,
                p.MediaType,
                p.Caption,
                p.By,
                p.TakenAt,
                erased.GetValueOrDefault(p.Id) is { } gone ? new HandoverErasure(gone.By, gone.Reason, gone.At) : null
            )
            {
                Moment = p.Moment,
                Id = p.Id,
            }
        );
    }

    public static ReportJob JobOf(Storage.Entities.Job job)
    {
        var practice = KeptPractice.Of(job);
        return new(
            job.Id,
            job.Name,
            job.TimeZone,
            job.Simulated,
            practice.Rule,
            practice.Scheme,
            practice.Sides.GetValueOrDefault("scheme") == "far-end"
        );
    }

    /// <summary>The record of a judged Card. The same entries give the same record, whenever and wherever it is made.</summary>
    public static ReportRecord Of(LoadedCard loaded, Card card, Catalogue catalogue, IReadOnlyCollection<ReportPerson> people)
    {
        var facts = loaded.Facts;
        var p = facts.Place;
        var last = facts
            .Readings.Select(r => r.ReceivedAt)
            .Concat(facts.Events.Select(e => e.At))
            .Concat(facts.Faults.Select(f => f.RaisedAt))
            .Concat(loaded.FaultWords.Select(w => w.At))
            .Concat(loaded.Changes.Select(c => c.At))
            .DefaultIfEmpty(loaded.Job.CreatedAt)
            .Max();
        // Only who and what it names, so that a person who joins the job later leaves it as it is.
        var names = facts
            .Readings.Select(r => r.By)
            .Concat(facts.Events.Select(e => e.By))
            .Concat(facts.Faults.Select(f => f.RaisedBy))
            .Concat(loaded.FaultWords.Select(w => w.By))
            .Concat(loaded.Changes.Select(c => c.By).OfType<Guid>())
            .ToHashSet();
        var used = facts.Readings.Select(r => r.InstrumentId).OfType<Guid>().ToHashSet();
        return new ReportRecord(
            "walkdown-card/1",
            JobOf(loaded.Job),
            0,
            0,
            new ReportPlace(
                p.Id,
                p.Label,
                p.Name,
                p.Area,
                p.Kind,
                p.Model,
                facts.Unit?.Serial,
                facts.Unit?.HardwareAddress,
                p.Address,
                p.PowerClass ?? catalogue.Kind(p.Kind)?.PowerClass,
                [.. facts.Runs.Select(r => r.Label)],
                [.. facts.Runs.Where(r => r.Port is not null).Select(r => $"{r.Port!.Cabinet} port {r.Port.Number}")],
                [.. facts.Channels.Select(c => $"{c.Recorder} channel {c.Number}")],
                [.. loaded.Differences.Select(d => new ReportDifference(d.Field, d.Planned, d.AsBuilt, d.Why, d.By, d.At))],
                loaded.Cancelled,
                loaded.AddedOnSite,
                loaded.Notes
            ),
            card,
            [.. people.Where(x => names.Contains(x.Id)).OrderBy(x => x.Name, StringComparer.Ordinal)],
            [.. facts.Instruments.Where(i => used.Contains(i.Id))],
            [.. loaded.FaultWords.Select(w => new ReportWord(w.FaultId, w.Text, w.By, w.At))],
            last,
            CoreVersion
        )
        {
            Traces = [.. card.Rows.Where(r => r.Counts is not null).Select(r => Trace.Of(r, card.Rule, facts.Instruments))],
        };
    }

    public byte[] Pdf(ReportRecord record) => CardReport.Draw(record, catalogue.Texts, keptFiles.Read);
}
