using System.Reflection;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core.Acceptance;
using Walkdown.Reports;
using Walkdown.Server.Shared;
using Walkdown.Server.Walk;
using Walkdown.Storage;

namespace Walkdown.Server.Cards;

/// <summary>Gathers the record of one device; the PDF and the JSON are both made of it.</summary>
public sealed class ReportService(Ledger ledger, CatalogueStore catalogue, WalkBoards boards, TimeProvider time)
{
    public static readonly string CoreVersion = typeof(Card).Assembly.GetCustomAttribute<AssemblyInformationalVersionAttribute>()?.InformationalVersion ?? "0";

    public async Task<ReportRecord?> Record(Guid deviceId)
    {
        if (await ledger.Load(deviceId) is not { } loaded) return null;
        await using var db = ledger.OpenDb();
        var (facts, job) = (loaded.Facts, loaded.Job);
        var p = facts.Place;
        var order = (await boards.Of(job.Id))!.Order.Select(s => s.Id).ToList();
        return new ReportRecord("walkdown-card/1", new ReportJob(job.Id, job.Name, job.TimeZone, job.Simulated, job.Rule, job.Scheme, job.MatchFarEnd), order.IndexOf(deviceId) + 1, order.Count,
            new ReportPlace(p.Id, p.Label, p.Name, p.Area, p.Kind, p.Model, facts.Unit?.Serial, facts.Unit?.HardwareAddress, p.Address, p.PowerClass ?? catalogue.Catalogue.Kind(p.Kind)?.PowerClass,
                [.. facts.Runs.Select(r => r.Label)], [.. facts.Runs.Where(r => r.Port is not null).Select(r => $"{r.Port!.Cabinet} port {r.Port.Number}")],
                [.. facts.Channels.Select(c => $"{c.Recorder} channel {c.Number}")], [.. loaded.Differences.Select(d => new ReportDifference(d.Field, d.Planned, d.AsBuilt, d.Why, d.By, d.At))], loaded.Cancelled, loaded.AddedOnSite, loaded.Notes),
            Card.Judge(facts, catalogue.Catalogue), [.. await db.People.Where(x => x.JobId == job.Id).Select(x => new ReportPerson(x.Id, x.Name, x.Role)).ToListAsync()],
            facts.Instruments, [.. loaded.FaultWords.Select(w => new ReportWord(w.FaultId, w.Text, w.By, w.At))], time.GetUtcNow(), CoreVersion);
    }

    public byte[] Pdf(ReportRecord record) => CardReport.Draw(record, catalogue.Texts);
}
