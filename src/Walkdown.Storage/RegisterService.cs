using System.Collections.Immutable;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Measures;
using Walkdown.Core.Register;
using Walkdown.Storage.Entities;

namespace Walkdown.Storage;

/// <summary>One cell that was found or done otherwise on site.</summary>
/// <param name="Field">A column of the register, or <c>standing</c> with <c>cancelled</c> or nothing.</param>
/// <param name="Text">As typed; null or empty: not there.</param>
public sealed record RegisterEdit(Guid DeviceId, string Field, string? Text);

/// <summary>A cell that cannot be taken.</summary>
public sealed record EditProblem(Guid DeviceId, string Field, Message What, Message Mend);

public sealed record EditResult(LedgerResult Ledger, int Changed, ImmutableArray<EditProblem> Problems);

/// <summary>One row of the register.</summary>
/// <param name="Values">By column.</param>
/// <param name="Planned">Of the columns that are built otherwise: what was planned, empty where nothing was.</param>
public sealed record RegisterRow(
    Guid Id,
    IReadOnlyDictionary<string, string> Values,
    ImmutableDictionary<string, string> Planned,
    ImmutableDictionary<string, string> Notes,
    bool Cancelled,
    bool Added
);

public sealed record RegisterTable(IReadOnlyList<RegisterRow> Rows, ImmutableArray<Finding> Findings, IReadOnlyList<Cabinet> Cabinets);

/// <summary>The register of a job: read as rows, and changed on site with its history kept.</summary>
public sealed class RegisterService(Ledger ledger, TimeProvider time)
{
    /// <summary>The column that says whether a device is still of the job.</summary>
    public const string Standing = "standing";
    public const string Cancelled = "cancelled";

    /// <summary>Device kinds by the words people use, in plain notation; <c>cabinet</c> among them.</summary>
    /// <param name="nameOf">The text of a kind, for people.</param>
    public static Dictionary<string, string> KindWords(Catalogue catalogue, Func<DeviceKind, string> nameOf)
    {
        var words = new Dictionary<string, string>();
        foreach (var word in new[] { "cabinet", "rack", "comms cabinet", "node cabinet" })
            words[word] = SchedulePlan.CabinetKind;
        foreach (var kind in catalogue.Kinds)
        foreach (var word in kind.Words.Append(nameOf(kind)).Append(kind.Id))
            words[CellText.Plain(word)] = kind.Id;
        return words;
    }

    public async Task<RegisterTable> Table(Guid jobId, Catalogue catalogue)
    {
        await using var db = ledger.OpenDb();
        var book = await RegisterBook.Load(db, jobId, time.GetUtcNow(), catalogue, readOnly: true);
        var changes = (
            await db.RegisterChanges.AsNoTracking().Where(c => c.JobId == jobId).OrderBy(c => c.Sequence).ToListAsync()
        ).ToLookup(c => c.DeviceId);
        var rows = book
            .Devices.OrderBy(d => d.Label, NaturalOrder.Instance)
            .Select(d =>
            {
                var values = book.Values(d);
                return (
                    Device: d,
                    Row: new RegisterRow(
                        d.Id,
                        values,
                        changes.Contains(d.Id)
                            ? RegisterValues.Differences(d, values, changes[d.Id]).ToImmutableDictionary(x => x.Field, x => x.Planned ?? "")
                            : ImmutableDictionary<string, string>.Empty,
                        RegisterValues.Read(d.NotesJson),
                        d.Cancelled,
                        changes[d.Id].Any(c => c is { Field: Standing, To: "added" })
                    )
                );
            })
            .ToList();
        var fed = book.Cabinets.ToDictionary(
            c => c.Label,
            c => c.FedFromId is { } id ? book.Cabinets.FirstOrDefault(x => x.Id == id)?.Label : null,
            Labels.Comparer
        );
        return new RegisterTable(
            [.. rows.Select(r => r.Row)],
            RegisterFindings.Of(
                [.. rows.Where(r => !r.Device.Cancelled).Select(r => ScheduleImport.Entry(r.Device, r.Row.Values, catalogue))],
                fed
            ),
            [.. book.Cabinets.OrderBy(c => c.Label, NaturalOrder.Instance)]
        );
    }

    /// <summary>Records what was found or done on site: all cells or none. A run that moves to another port gets its act, so that earlier
    /// readings of its power are void.</summary>
    public async Task<EditResult> Edit(
        Guid jobId,
        Guid id,
        Guid by,
        DateTimeOffset at,
        string? why,
        IReadOnlyList<RegisterEdit> edits,
        object body,
        Catalogue catalogue,
        IReadOnlyDictionary<string, string> kinds
    )
    {
        var problems = new List<EditProblem>();
        var changed = 0;
        var result = await ledger.Edit(
            jobId,
            id,
            "register",
            body,
            by,
            catalogue,
            async (db, sequence) =>
            {
                var nothing = (IReadOnlyDictionary<Guid, List<object>>)new Dictionary<Guid, List<object>>();
                var ids = edits.Select(e => e.DeviceId).Distinct().ToList();
                if (await Writers.Refuse(db, jobId, by, at) is { } stranger)
                    return (stranger, "by", nothing);
                var book = await RegisterBook.Load(db, jobId, time.GetUtcNow(), catalogue, ids);
                var touched = new Dictionary<Guid, List<object>>();
                foreach (var group in edits.GroupBy(e => e.DeviceId))
                {
                    if (book.Find(group.Key) is not { } device || device.JobId != jobId)
                    {
                        problems.Add(new(group.Key, "", new("problem.unknown-card"), new("register.load-again")));
                        continue;
                    }
                    var set = new Dictionary<string, string?>();
                    var cancelled = device.Cancelled;
                    foreach (var edit in group)
                    {
                        if (edit.Field == Standing)
                        {
                            cancelled = edit.Text == Cancelled;
                            if (cancelled != device.Cancelled && string.IsNullOrWhiteSpace(why))
                                problems.Add(new(group.Key, Standing, new("register.why"), new("register.why.mend")));
                        }
                        else if (RegisterFields.Find(edit.Field) is not { } field)
                            problems.Add(new(group.Key, edit.Field, new("register.no-column", edit.Field), new("register.load-again")));
                        else
                        {
                            var read = CellText.Read(field, new Cell(edit.Text ?? ""), DecimalSign.Unknown, kinds);
                            if (read.What is not null)
                                problems.Add(new(group.Key, field.Id, read.What, read.Mend!));
                            else if (read.Value is null && field.Id is "label" or "kind")
                                problems.Add(new(group.Key, field.Id, new("cell.empty"), new("cell.empty.mend", "@field." + field.Id)));
                            else if (read.Value == SchedulePlan.CabinetKind)
                                problems.Add(new(group.Key, field.Id, new("cell.kind", edit.Text!), new("cell.kind.mend")));
                            else
                                set[field.Id] = read.Value;
                        }
                    }
                    if (problems.Count > 0)
                        continue;
                    var before = book.Values(device);
                    var port = book.RunOf(device) is { } r && r.Ends.PortEndOf(device.Id) is { } end ? end.PortId : null;
                    if (book.Set(device, set) is { } refused)
                    {
                        problems.Add(new(group.Key, refused.Field, refused.What, new("cell.register-mend")));
                        continue;
                    }
                    var after = book.Values(device);
                    var rows = new List<object>();
                    void Changed(string field, string? from, string? to) =>
                        rows.Add(
                            new RegisterChange
                            {
                                Id = Guid.CreateVersion7(),
                                JobId = jobId,
                                DeviceId = device.Id,
                                Field = field,
                                From = from,
                                To = to,
                                AsBuilt = true,
                                Why = why,
                                By = by,
                                At = at,
                                Sequence = sequence,
                            }
                        );
                    // What is confirmed as planned is recorded too: its origin is then as built.
                    foreach (
                        var field in RegisterFields.All.Where(f =>
                            set.ContainsKey(f.Id) || before.GetValueOrDefault(f.Id) != after.GetValueOrDefault(f.Id)
                        )
                    )
                        Changed(field.Id, before.GetValueOrDefault(field.Id), after.GetValueOrDefault(field.Id));
                    if (cancelled != device.Cancelled)
                    {
                        Changed(Standing, device.Cancelled ? Cancelled : null, cancelled ? Cancelled : null);
                        device.Cancelled = cancelled;
                    }
                    if (rows.Count == 0)
                        continue;
                    changed += rows.Count;
                    if (
                        book.RunOf(device) is { } run
                        && UnitOfPlace.IsPortMove(
                            port,
                            run.Ends.PortEndOf(device.Id)?.PortId,
                            await db.Readings.AnyAsync(x => x.SubjectId == run.Id)
                        )
                    )
                        rows.Add(
                            new Act
                            {
                                Id = Guid.CreateVersion7(),
                                By = by,
                                At = at,
                                Sequence = sequence,
                                ActKind = "port-moved",
                                On = new Subject(SubjectKind.Run, run.Id),
                                Text = why,
                            }
                        );
                    touched[device.Id] = rows;
                }
                if (problems.Count > 0)
                    return (problems[0].What, problems[0].Field, nothing);
                return (null, null, (IReadOnlyDictionary<Guid, List<object>>)touched);
            }
        );
        return new EditResult(result, changed, [.. problems]);
    }

    /// <summary>A device that nobody planned and that hangs there: it gets a row, marked as added on site.</summary>
    public async Task<(EditResult Result, Guid? Device)> AddDevice(
        Guid jobId,
        Guid id,
        Guid by,
        DateTimeOffset at,
        string why,
        IReadOnlyDictionary<string, string?> values,
        object body,
        Catalogue catalogue,
        IReadOnlyDictionary<string, string> kinds
    )
    {
        var problems = new List<EditProblem>();
        Guid? added = null;
        var result = await ledger.Edit(
            jobId,
            id,
            "register",
            body,
            by,
            catalogue,
            async (db, sequence) =>
            {
                var nothing = (IReadOnlyDictionary<Guid, List<object>>)new Dictionary<Guid, List<object>>();
                if (await Writers.Refuse(db, jobId, by, at) is { } stranger)
                    return (stranger, "by", nothing);
                var set = new Dictionary<string, string?>();
                foreach (var (name, text) in values)
                {
                    if (RegisterFields.Find(name) is not { } field)
                    {
                        problems.Add(new(Guid.Empty, name, new("register.no-column", name), new("register.load-again")));
                        continue;
                    }
                    var read = CellText.Read(field, new Cell(text ?? ""), DecimalSign.Unknown, kinds);
                    if (read.What is not null)
                        problems.Add(new(Guid.Empty, field.Id, read.What, read.Mend!));
                    else if (read.Value is not null)
                        set[field.Id] = read.Value;
                }
                foreach (var needed in new[] { "label", "kind" })
                    if (!set.ContainsKey(needed) && problems.All(p => p.Field != needed))
                        problems.Add(new(Guid.Empty, needed, new("cell.empty"), new("cell.empty.mend", "@field." + needed)));
                if (problems.Count == 0)
                {
                    var book = await RegisterBook.Load(db, jobId, time.GetUtcNow(), catalogue, []);
                    if (book.Find(set["label"]!) is not null)
                        problems.Add(new(Guid.Empty, "label", new("register.label-taken", set["label"]!), new("cell.register-mend")));
                    else if (set["kind"] == SchedulePlan.CabinetKind)
                        problems.Add(new(Guid.Empty, "kind", new("cell.kind", set["kind"]!), new("cell.kind.mend")));
                    else
                    {
                        var device = book.Add(set["label"]!, set["kind"]!);
                        if (book.Set(device, set) is { } refused)
                            problems.Add(new(Guid.Empty, refused.Field, refused.What, new("cell.register-mend")));
                        else
                        {
                            added = device.Id;
                            RegisterChange Line(string field, string? to) =>
                                new()
                                {
                                    Id = Guid.CreateVersion7(),
                                    JobId = jobId,
                                    DeviceId = device.Id,
                                    Field = field,
                                    To = to,
                                    AsBuilt = true,
                                    Why = why,
                                    By = by,
                                    At = at,
                                    Sequence = sequence,
                                };
                            return (
                                null,
                                null,
                                new Dictionary<Guid, List<object>>
                                {
                                    [device.Id] = [Line(Standing, "added"), .. set.Select(v => Line(v.Key, v.Value))],
                                }
                            );
                        }
                    }
                }
                return (problems[0].What, problems[0].Field, nothing);
            }
        );
        return (new EditResult(result, added is null ? 0 : 1, [.. problems]), added);
    }

    /// <summary>The schedule as it is now, built as found, in rows by column with the notes as columns of their own; cabinets
    /// first.</summary>
    public async Task<(IReadOnlyList<IReadOnlyDictionary<string, string>> Rows, IReadOnlyList<string> Notes)> Schedule(
        Guid jobId,
        Catalogue catalogue
    )
    {
        var table = await Table(jobId, catalogue);
        var byId = table.Cabinets.ToDictionary(c => c.Id);
        var cabinets = table.Cabinets.Select(c =>
            (IReadOnlyDictionary<string, string>)
                new Dictionary<string, string?>
                {
                    ["label"] = c.Label,
                    ["name"] = c.Name,
                    ["kind"] = SchedulePlan.CabinetKind,
                    ["cabinet"] = c.FedFromId is { } from ? byId.GetValueOrDefault(from)?.Label : null,
                    ["x_m"] = c.X?.ToString("R", System.Globalization.CultureInfo.InvariantCulture),
                    ["y_m"] = c.Y?.ToString("R", System.Globalization.CultureInfo.InvariantCulture),
                }
                    .Where(v => v.Value is not null)
                    .ToDictionary(v => v.Key, v => v.Value!)
        );
        var live = table.Rows.Where(r => !r.Cancelled).ToList();
        return (
            [
                .. cabinets,
                .. live.Select(r =>
                    r.Values.Concat(r.Notes.Where(n => !r.Values.ContainsKey(n.Key))).ToDictionary(v => v.Key, v => v.Value)
                ),
            ],
            [.. live.SelectMany(r => r.Notes.Keys).Distinct()]
        );
    }
}
