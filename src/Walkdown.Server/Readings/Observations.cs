using System.Collections.Immutable;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Entries;
using Walkdown.Devices;
using Walkdown.Storage;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Readings;

/// <summary>Something that was found and that no row asked for.</summary>
/// <param name="DeviceId">Whose it is; null where nobody can tell.</param>
/// <param name="MatchedBy">What told: serial, hardware-address, label or address; empty where nothing did.</param>
/// <param name="Candidates">Those that fit where several do.</param>
/// <param name="Against">Known figures of the device that the found ones contradict.</param>
public sealed record FoundLine(
    Guid Id,
    ReadingSource Source,
    string Serial,
    DateTimeOffset At,
    FoundIdentity Found,
    Guid? DeviceId,
    string MatchedBy,
    ImmutableArray<Guid> Candidates,
    ImmutableArray<string> Against
);

/// <summary>What sources of measurements answered: kept before anybody saves a reading of it, so that readings can cite it.</summary>
public sealed class Observations(Ledger ledger, MeasureSources sources, TimeProvider time)
{
    /// <summary>As many finds at most are listed, newest first.</summary>
    private const int MostShown = 500;

    /// <summary>The row of an answer for a row of a place; not kept yet.</summary>
    /// <param name="rows">Rows that the answer may be of: the one asked for, and those of the same check and subject.</param>
    public ObservationRecord Of(Guid jobId, CardFacts facts, PlannedRow row, IReadOnlyCollection<PlannedRow> rows, SourceAnswer answer)
    {
        var kept = New(jobId, row.Check, answer);
        (kept.DeviceId, kept.Row) = (facts.Place.Id, row.Id);
        kept.ValuesJson = JsonSerializer.Serialize(Values(row, rows, answer), CoreJson.Options);
        return kept;
    }

    /// <summary>The values of an answer by the row that each is for; parts that no row asks for are left out.</summary>
    public static Dictionary<string, ReadingValue> Values(PlannedRow row, IReadOnlyCollection<PlannedRow> rows, SourceAnswer answer) =>
        answer
            .Readings.Select(r =>
                (Row: rows.FirstOrDefault(s => s.Key == row.Key with { On = row.Key.On with { Part = r.Part } }), r.Value)
            )
            .Where(r => r.Row is not null)
            .ToDictionary(r => r.Row!.Id, r => r.Value);

    /// <summary>What was found though nobody asked for it, with the device that it is of where one can be told; not kept yet.</summary>
    /// <param name="known">The devices of the job; null: they are asked for where something was found.</param>
    public async Task<ObservationRecord?> Found(
        Guid jobId,
        CheckDefinition check,
        SourceAnswer answer,
        Lazy<Task<List<KnownIdentity>>>? known = null
    )
    {
        if (answer.Found is not { } found)
            return null;
        var kept = New(jobId, check, answer);
        kept.FoundJson = JsonSerializer.Serialize(found, CoreJson.Options);
        kept.DeviceId = FoundMatch.Of(found, await (known ?? Devices(jobId)).Value).Device;
        return kept;
    }

    /// <summary>By what the devices of a job can be told; asked for once, and only where something was found.</summary>
    public Lazy<Task<List<KnownIdentity>>> Devices(Guid jobId) =>
        new(async () =>
        {
            await using var db = ledger.OpenDb();
            return await Known(db, jobId);
        });

    /// <summary>Keeps it, so that readings can cite it.</summary>
    public Task<bool> Keep(ObservationRecord observation) =>
        ledger.Quiet(async () =>
        {
            await using var db = ledger.OpenDb();
            db.Add(observation);
            await db.SaveChangesAsync();
            return true;
        });

    /// <summary>Keeps what was measured in a picture of a place.</summary>
    /// <param name="values">By the row that each is for, one at least.</param>
    /// <param name="raw">All that was measured.</param>
    /// <param name="at">When the picture was taken.</param>
    /// <returns>Its id, by which readings cite it.</returns>
    public async Task<Guid> KeepSeen(
        Guid jobId,
        Guid deviceId,
        IReadOnlyDictionary<string, ReadingValue> values,
        object raw,
        DateTimeOffset at
    )
    {
        var kept = new ObservationRecord
        {
            Id = Guid.CreateVersion7(),
            JobId = jobId,
            DeviceId = deviceId,
            Row = values.Keys.First(),
            Source = ReadingSource.Picture,
            RawJson = JsonSerializer.Serialize(raw, CoreJson.Options),
            ValuesJson = JsonSerializer.Serialize(values, CoreJson.Options),
            At = at,
        };
        await Keep(kept);
        return kept.Id;
    }

    /// <summary>What was found in a job and asked for by no row, newest first, each held against the register as it is now.</summary>
    public async Task<ImmutableArray<FoundLine>> List(Guid jobId)
    {
        await using var db = ledger.OpenDb();
        var kept = await db
            .Observations.Where(o => o.JobId == jobId && o.FoundJson != null)
            .OrderByDescending(o => o.At)
            .Take(MostShown)
            .ToListAsync();
        var known = kept.Count == 0 ? [] : await Known(db, jobId);
        return
        [
            .. from o in kept
            let found = Stored.Read<FoundIdentity>(o.FoundJson!) ?? new FoundIdentity()
            let match = FoundMatch.Of(found, known)
            select new FoundLine(o.Id, o.Source, o.Serial, o.At, found, match.Device, match.By, match.Candidates, match.Against),
        ];
    }

    private static async Task<List<KnownIdentity>> Known(WalkdownDb db, Guid jobId)
    {
        var runs = (
            await db
                .RunEnds.Where(e => e.DeviceId != null && db.Runs.Any(r => r.Id == e.RunId && r.JobId == jobId))
                .Select(e => new { e.DeviceId, db.Runs.First(r => r.Id == e.RunId).Label })
                .ToListAsync()
        ).ToLookup(e => e.DeviceId!.Value, e => e.Label);
        var units = await UnitAtPlace.Of(db, jobId);
        return
        [
            .. from d in await db
                .Devices.Where(d => d.JobId == jobId && !d.Cancelled)
                .Select(d => new
                {
                    d.Id,
                    d.Label,
                    d.Address,
                })
                .ToListAsync()
            let unit = units.GetValueOrDefault(d.Id)
            select new KnownIdentity(d.Id, [d.Label, .. runs[d.Id]], unit.Serial ?? "", unit.HardwareAddress ?? "", d.Address ?? ""),
        ];
    }

    private ObservationRecord New(Guid jobId, CheckDefinition check, SourceAnswer answer) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            JobId = jobId,
            Source = sources.For(check)?.Marks ?? ReadingSource.Tester,
            Serial = answer.Serial,
            RawJson = answer.Raw,
            ValuesJson = "{}",
            At = time.GetUtcNow(),
        };
}
