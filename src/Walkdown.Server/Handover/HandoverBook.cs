using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Handover;
using Walkdown.Core.Sealing;
using Walkdown.Formats;
using Walkdown.Reports;
using Walkdown.Server.Cards;
using Walkdown.Server.Power;
using Walkdown.Server.Shared;
using Walkdown.Server.Walk;
using Walkdown.Storage;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Handover;

/// <summary>Where the handover of a job stands: what is counted, what is shown to who signs, and the revisions.</summary>
public sealed class HandoverBook(
    Ledger ledger,
    CatalogueStore catalogue,
    WalkBoards boards,
    KeyFile key,
    DataFolder folder,
    ConcessionWatch lapsed,
    TimeProvider time
)
{
    private const int MostListed = 100;

    /// <summary>What a seal writes by itself is no news.</summary>
    private static readonly string[] Quiet = ["summaries-rebuilt", "revision", "bundle-in"];

    /// <summary>Where the pack of a revision lies: by its id alone. A name that came with a row is never a path.</summary>
    public string PathOf(Revision revision) => Path.Combine(folder.PacksPath, $"{revision.Id:N}.zip");

    public async Task<HandoverAnswer?> Get(Guid jobId)
    {
        var inForce = catalogue.Catalogue;
        await Settled(jobId, inForce);
        await using var db = ledger.OpenDb();
        // One look at the record: what is counted and what is shown are of the same moment.
        await db.Database.OpenConnectionAsync();
        await using var snapshot = ((SqliteConnection)db.Database.GetDbConnection()).BeginTransaction(deferred: true);
        db.Database.UseTransaction(snapshot);
        if (await db.Jobs.FirstOrDefaultAsync(j => j.Id == jobId) is not { } job)
            return null;
        var sequence = await SequenceOf(db, jobId);
        var revisions = await db.Revisions.Where(r => r.JobId == jobId).OrderByDescending(r => r.Sequence).ToListAsync();
        var newest = revisions.Where(r => r.DeviceId is null).MaxBy(r => r.Number);
        var shown = await ShownCards(db, jobId, null);
        var cards = shown.Where(c => !c.Cancelled).ToList();
        int Count(Verdict v) => cards.Count(c => c.Verdict == v);
        var now = new HandoverSummary(
            Count(Verdict.Accepted),
            Count(Verdict.AcceptedWithNote),
            Count(Verdict.Refused),
            Count(Verdict.Open),
            cards.Sum(c => c.OpenFaults),
            await db.Pictures.CountAsync(p => p.JobId == jobId && !db.Erasures.Any(e => e.PictureId == p.Id)),
            await db.Readings.CountAsync(r => db.Devices.Any(d => d.Id == r.DeviceId && d.JobId == jobId)),
            null,
            null
        );
        return new HandoverAnswer(
            CoverOf(job),
            sequence,
            newest?.Number ?? 0,
            newest is null || newest.UpTo < sequence,
            now,
            key.Key.Fingerprint,
            [.. revisions.Select(LineOf)],
            Texts.Languages,
            ShownDigest.Of(shown, job.CoverJson ?? "", Ledger.SignatureOf(job, inForce))
        );
    }

    /// <summary>One Card alone, as it would be sealed; null where the job has none such.</summary>
    public async Task<ShownAnswer?> Shown(Guid jobId, Guid deviceId)
    {
        var inForce = catalogue.Catalogue;
        await Settled(jobId, inForce);
        await using var db = ledger.OpenDb();
        return await db.Jobs.FirstOrDefaultAsync(j => j.Id == jobId) is { } job && await ShownCards(db, jobId, deviceId) is [var card]
            ? new ShownAnswer(
                await SequenceOf(db, jobId),
                card.Verdict,
                card.OpenFaults,
                ShownDigest.Of([card], job.CoverJson ?? "", Ledger.SignatureOf(job, inForce))
            )
            : null;
    }

    /// <summary>Nobody is shown what another catalogue, another program or a day that is over said.</summary>
    internal async Task Settled(Guid jobId, Catalogue inForce)
    {
        await ledger.Refresh(jobId, inForce);
        await lapsed.Look(jobId);
    }

    internal static async Task<List<ShownCard>> ShownCards(WalkdownDb db, Guid jobId, Guid? deviceId) =>
        [
            .. (
                await db
                    .Cards.Where(c => c.JobId == jobId && (deviceId == null || c.DeviceId == deviceId))
                    .Join(
                        db.Devices,
                        c => c.DeviceId,
                        d => d.Id,
                        (c, d) =>
                            new
                            {
                                c.DeviceId,
                                c.Verdict,
                                c.OpenFaults,
                                c.Unexpected,
                                c.Taken,
                                c.Total,
                                d.Cancelled,
                            }
                    )
                    .ToListAsync()
            ).Select(c => new ShownCard(c.DeviceId, c.Verdict, c.OpenFaults, c.Unexpected, c.Taken, c.Total, c.Cancelled)),
        ];

    /// <summary>How a number of the handover page came about, with the Cards that make it up; null where nothing is counted so.</summary>
    public async Task<SumAnswer?> Sum(Guid jobId, string of)
    {
        await Settled(jobId, catalogue.Catalogue);
        await using var db = ledger.OpenDb();
        var pictures = await db
            .Pictures.Where(p => p.JobId == jobId && !db.Erasures.Any(e => e.PictureId == p.Id))
            .GroupBy(p => p.DeviceId)
            .Select(g => new { g.Key, Count = g.Count() })
            .ToDictionaryAsync(g => g.Key, g => g.Count);
        var order = (await boards.Of(jobId))!.Order.Select((s, i) => (s.Id, i)).ToDictionary(s => s.Id, s => s.i);
        var cards = (
            await db
                .Cards.Where(c => c.JobId == jobId)
                .Join(
                    db.Devices,
                    c => c.DeviceId,
                    d => d.Id,
                    (c, d) =>
                        new
                        {
                            d.Id,
                            d.Label,
                            d.Name,
                            c.Verdict,
                            c.OpenFaults,
                            d.Cancelled,
                        }
                )
                .ToListAsync()
        ).Select(c => (c.Id, c.Name, Counted: new CountedCard(c.Label, c.Verdict, c.OpenFaults, pictures.GetValueOrDefault(c.Id), c.Cancelled))).ToList();
        cards =
        [
            .. cards
                .OrderBy(c => order.GetValueOrDefault(c.Id, int.MaxValue))
                .ThenBy(c => c.Counted.Label, Core.Register.NaturalOrder.Instance),
        ];
        var sum =
            of == "readings"
                ? await Readings(db, jobId)
                : SumTrace.Counts([.. cards.Select(c => c.Counted)]).FirstOrDefault(s => s.Of == of);
        if (sum is null)
            return null;
        var these = cards.Where(c => SumTrace.Makes(of, c.Counted)).ToList();
        var people = await db.People.Where(p => p.JobId == jobId).Select(p => new ReportPerson(p.Id, p.Name, p.Role)).ToListAsync();
        var words = new Wording(catalogue.Texts, (await db.Jobs.FirstAsync(j => j.Id == jobId)).TimeZone, people, []);
        var shown = these.Take(MostListed).ToList();
        var judged = (await CardFactsLoader.Load(db, [.. shown.Select(c => c.Id)], time.GetUtcNow())).ToDictionary(
            c => c.Facts.Place.Id,
            c => CardExceptions.Of(Card.Judge(c.Facts, catalogue.Catalogue))
        );
        return new SumAnswer(
            sum,
            [
                .. shown.Select(c => new SumCard(
                    c.Id,
                    c.Counted.Label,
                    c.Name,
                    c.Counted.Verdict,
                    [.. judged[c.Id].Select(words.Exception)],
                    c.Counted.Pictures
                )),
            ],
            these.Count - shown.Count,
            ReportService.CoreVersion
        );
    }

    private async Task<SumTrace> Readings(WalkdownDb db, Guid jobId)
    {
        var readBy = await db
            .Readings.Where(r => db.Devices.Any(d => d.Id == r.DeviceId && d.JobId == jobId))
            .GroupBy(r => r.By)
            .Select(g => new { g.Key, Count = g.Count() })
            .ToListAsync();
        var names = await db.People.Where(p => p.JobId == jobId).ToDictionaryAsync(p => p.Id, p => p.Name);
        // Which of them are withdrawn is Core's word: only Cards on which something was, are asked.
        var asked = await db
            .CardEvents.Where(e =>
                e.BodyJson.Contains("\"kind\":\"withdrawal\"") && db.Devices.Any(d => d.Id == e.DeviceId && d.JobId == jobId)
            )
            .Select(e => e.DeviceId)
            .Distinct()
            .ToListAsync();
        var withdrawn = new HashSet<Guid>();
        foreach (var some in asked.Chunk(100))
        foreach (var card in await CardFactsLoader.Load(db, some, time.GetUtcNow()))
            withdrawn.UnionWith(
                Card.Judge(card.Facts, catalogue.Catalogue)
                    .Rows.SelectMany(r => r.Attempts)
                    .Where(a => a.Standing == Standing.Withdrawn)
                    .Select(a => a.ReadingId)
            );
        return SumTrace.Readings(
            readBy.Sum(r => r.Count),
            withdrawn.Count,
            readBy.OrderByDescending(r => r.Count).Select(r => (names.GetValueOrDefault(r.Key, ""), r.Count))
        );
    }

    public static HandoverCover CoverOf(Job job) => Stored.Read<HandoverCover>(job.CoverJson) ?? new HandoverCover();

    internal static async Task<long> SequenceOf(WalkdownDb db, Guid jobId) =>
        await db.Journal.Where(j => j.JobId == jobId && !Quiet.Contains(j.Kind)).MaxAsync(j => (long?)j.Sequence) ?? 0;

    /// <summary>A revision for the list. One whose summary cannot be read is still there, by its number and hash.</summary>
    public RevisionLine LineOf(Revision r) =>
        (
            Stored.Read<RevisionLine>(r.SummaryJson) is { Summary: not null, Signatures.IsDefault: false, Reports.IsDefault: false } line
            && line.Reports.All(IsReport)
                ? line
                : new RevisionLine(
                    r.Id,
                    r.DeviceId,
                    null,
                    r.Number,
                    r.Hash,
                    r.PreviousHash,
                    r.Key,
                    r.At,
                    new HandoverSummary(0, 0, 0, 0, 0, 0, 0, null, null),
                    [],
                    "",
                    [],
                    0
                )
        ) with
        {
            Id = r.Id,
            DeviceId = r.DeviceId,
            Number = r.Number,
            Hash = r.Hash,
            Key = r.Key,
            Bytes = File.Exists(PathOf(r)) ? new FileInfo(PathOf(r)).Length : 0,
        };

    private static bool IsReport(string? file) =>
        file is { Length: > 4 and < 60 }
        && file.All(c => char.IsAsciiLetterOrDigit(c) || c is '.' or '-')
        && file.EndsWith(".pdf", StringComparison.Ordinal);
}
