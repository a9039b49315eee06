using System.Collections.Immutable;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Measures;
using Walkdown.Core.Register;
using Walkdown.Storage.Entities;

namespace Walkdown.Storage;

/// <summary>A column of one device that the schedule changes.</summary>
/// <param name="Kept">True where the plan changes, but what was built on site stays.</param>
public sealed record ScheduleChange(string Field, string? From, string? To, bool Kept);

/// <summary>What the schedule does to one device. No changes: it is new.</summary>
public sealed record ScheduleDevice(string Label, int Row, bool Added, ImmutableArray<ScheduleChange> Changes);

/// <summary>What a schedule does, before or after it is taken.</summary>
/// <param name="Same">Devices that it leaves alone.</param>
/// <param name="NotInFile">Devices of the register that it does not name; they stay.</param>
/// <param name="Created">Cabinets and recorders that are only named, and get a row.</param>
/// <param name="Basis">The register that it was compared with.</param>
public sealed record ScheduleOutcome(
    int Added,
    int Changed,
    int Same,
    int NotInFile,
    ImmutableArray<ScheduleDevice> Devices,
    ImmutableArray<string> Created,
    ImmutableArray<CellProblem> Problems,
    ImmutableArray<Finding> Findings,
    long Basis
)
{
    public bool Taken => Problems.IsEmpty;
}

/// <summary>Takes a schedule into the register: whole, or not at all. Taking it twice changes nothing; what was built on site stays as
/// built.</summary>
public sealed class ScheduleImport(Ledger ledger, TimeProvider time)
{
    /// <summary>What the plan would do; nothing is kept.</summary>
    public async Task<ScheduleOutcome> Preview(Guid jobId, SchedulePlan plan, Catalogue catalogue)
    {
        await using var db = ledger.OpenDb();
        return await Apply(db, jobId, plan, catalogue, null, 0, null);
    }

    /// <summary>Takes the plan, then judges every Card anew.</summary>
    /// <param name="basis">The register that the preview was compared with; null: whatever is there.</param>
    /// <returns>Null where the register has changed since the preview.</returns>
    public async Task<ScheduleOutcome?> Take(
        Guid jobId,
        SchedulePlan plan,
        Catalogue catalogue,
        long? basis,
        Guid? by,
        IProgress<(int Done, int Of)>? progress = null,
        CancellationToken cancel = default
    )
    {
        if (!plan.Problems.IsEmpty)
            return new ScheduleOutcome(0, 0, 0, 0, [], [], plan.Problems, [], 0);
        var total = plan.Rows.Length * 2;
        var result = await ledger.Change(
            jobId,
            "schedule-taken",
            async (db, sequence) =>
            {
                if (basis is { } was && was != await BasisOf(db, jobId))
                    return (null, false);
                var outcome = await Apply(
                    db,
                    jobId,
                    plan,
                    catalogue,
                    by,
                    sequence,
                    progress is null ? null : n => progress.Report((n, total))
                );
                cancel.ThrowIfCancellationRequested();
                if (outcome.Problems.Length > 0)
                    return (outcome, false);
                db.ChangeTracker.DetectChanges();
                if (!db.ChangeTracker.HasChanges())
                    return (outcome, false);
                await Ledger.Unjudge(db, jobId);
                return ((ScheduleOutcome?)outcome, true);
            }
        );
        // From here on it is kept: what follows only judges, and is finished whatever happens to the request.
        if (result is { Taken: true } && result.Added + result.Changed + result.Created.Length > 0)
            await ledger.AfterChange(
                jobId,
                null,
                catalogue,
                progress is null
                    ? null
                    : new Progress<(int Done, int Of)>(p =>
                        progress.Report((plan.Rows.Length + (int)(plan.Rows.Length * (double)p.Done / Math.Max(1, p.Of)), total))
                    )
            );
        return result;
    }

    /// <summary>The journal's line at which the register last changed.</summary>
    public static async Task<long> BasisOf(WalkdownDb db, Guid jobId) =>
        await db
            .Journal.Where(j =>
                j.JobId == jobId
                && (
                    j.Kind == "schedule-taken"
                    || j.Kind == "register"
                    || j.Kind == "act"
                    || j.Kind == "path"
                    || j.Kind == "source"
                    || j.Kind == "bundle-in"
                )
            )
            .MaxAsync(j => (long?)j.Sequence)
        ?? 0;

    private async Task<ScheduleOutcome> Apply(
        WalkdownDb db,
        Guid jobId,
        SchedulePlan plan,
        Catalogue catalogue,
        Guid? by,
        long sequence,
        Action<int>? progress
    )
    {
        var basis = await BasisOf(db, jobId);
        var now = time.GetUtcNow();
        var book = await RegisterBook.Load(db, jobId, now, catalogue);
        var problems = plan.Problems.ToList();
        var built = (
            await db
                .RegisterChanges.Where(c => c.JobId == jobId && c.AsBuilt)
                .Select(c => new { c.DeviceId, c.Field })
                .Distinct()
                .ToListAsync()
        ).ToLookup(c => c.DeviceId, c => c.Field);
        problems.AddRange(Unknown(plan, book));
        var created = plan
            .Rows.Where(r => r.Row == 0 && (r.IsCabinet ? book.FindCabinet(r.Label) is null : book.Find(r.Label) is null))
            .Select(r => r.Label)
            .ToImmutableArray();
        foreach (var row in plan.Rows.Where(r => r.IsCabinet))
            book.Cabinet(row.Label);
        foreach (var row in plan.Rows.Where(r => r.IsCabinet && r.Row > 0))
            book.SetCabinet(row);
        var devices = ImmutableArray.CreateBuilder<ScheduleDevice>();
        var named = new HashSet<Guid>();
        int added = 0,
            same = 0,
            done = 0;
        // Recorders first: channels point at them.
        foreach (var row in plan.Rows.Where(r => !r.IsCabinet).OrderBy(r => catalogue.Records(r.Kind) ? 0 : 1))
        {
            if (++done % 200 == 0)
                progress?.Invoke(done);
            var device = book.Find(row.Label);
            // A recorder that is only named is there already, or is made; it changes nothing.
            if (row.Row == 0 && device is not null)
            {
                named.Add(device.Id);
                continue;
            }
            // A file that does not say what its rows are adds to what is there: who is not, is told as a problem.
            if (device is null && row.Kind.Length == 0)
                continue;
            var isNew = device is null;
            device ??= book.Add(row.Label, row.Kind);
            named.Add(device.Id);
            var planned = RegisterValues.Read(device.PlannedJson);
            var own = built[device.Id].ToHashSet();
            var changes = row
                .Values.Where(v => planned.GetValueOrDefault(v.Key) != v.Value)
                .Select(v => new ScheduleChange(v.Key, planned.GetValueOrDefault(v.Key), v.Value, own.Contains(v.Key)))
                .ToImmutableArray();
            if (
                !isNew
                && device.PlannedJson is not null
                && changes.IsEmpty
                && row.Notes.All(n => RegisterValues.Read(device.NotesJson).GetValueOrDefault(n.Key) == n.Value)
            )
            {
                same++;
                continue;
            }
            var set = changes.Where(c => !c.Kept).ToDictionary(c => c.Field, c => c.To);
            if (isNew)
                set.TryAdd("area", row["area"]);
            if (book.Set(device, set) is { } refused)
            {
                // What the sheet itself shows is said once.
                if (!problems.Any(p => p.Row == row.Row && p.Column == refused.Field))
                    problems.Add(new CellProblem(row.Row, refused.Field, refused.What, new("cell.register-mend")));
                continue;
            }
            device.PlannedJson = JsonSerializer.Serialize(planned.SetItems(row.Values));
            if (row.Notes.Count > 0)
                device.NotesJson = JsonSerializer.Serialize(RegisterValues.Read(device.NotesJson).SetItems(row.Notes));
            if (isNew)
                added++;
            else
                foreach (var change in changes)
                    db.Add(
                        new RegisterChange
                        {
                            Id = Guid.CreateVersion7(),
                            JobId = jobId,
                            DeviceId = device.Id,
                            Field = change.Field,
                            From = change.From,
                            To = change.To,
                            AsBuilt = false,
                            By = by,
                            At = now,
                            Sequence = sequence,
                        }
                    );
            devices.Add(new ScheduleDevice(row.Label, row.Row, isNew, isNew ? [] : changes));
        }
        var entries = book.Devices.Where(d => !d.Cancelled).Select(d => Entry(d, book.Values(d), catalogue)).ToList();
        var fed = book.Cabinets.ToDictionary(
            c => c.Label,
            c => c.FedFromId is { } id ? book.Cabinets.FirstOrDefault(x => x.Id == id)?.Label : null,
            Labels.Comparer
        );
        return new ScheduleOutcome(
            added,
            devices.Count - added,
            same,
            book.Devices.Count(d => !named.Contains(d.Id)),
            devices.ToImmutable(),
            created,
            [.. problems.OrderBy(p => p.Row)],
            RegisterFindings.Of(entries, fed),
            basis
        );
    }

    /// <summary>Rows that the register does not know, of a file that does not say what they are: each, or the column where it knows
    /// none.</summary>
    private static IEnumerable<CellProblem> Unknown(SchedulePlan plan, RegisterBook book)
    {
        if (plan.WithoutKind is not { } header)
            return [];
        var own = plan.Rows.Where(r => r.Row > 0).ToList();
        var unknown = own.Where(r => book.Find(r.Label) is null).ToList();
        return unknown.Count == own.Count && unknown.Count > 0
            ? [new CellProblem(header, "kind", new("cell.no-column", "kind"), new("cell.no-column.mend", "kind"))]
            : unknown.Select(r => new CellProblem(
                r.Row,
                "label",
                // A cabinet has nothing that a device has.
                new(book.FindCabinet(r.Label) is null ? "cell.unknown-without-kind" : "cell.cabinet-without-kind", Message.Said(r.Label)),
                new("cell.unknown-without-kind.mend")
            ));
    }

    internal static RegisterEntry Entry(Device d, IReadOnlyDictionary<string, string> values, Catalogue catalogue) =>
        new(d.Id, d.Label, d.Kind, catalogue.FeaturesOf(d.Kind, d.OwnFeatures()), values);
}
