using System.Collections.Immutable;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;
using Walkdown.Core.Results;
using Walkdown.Reports;
using Walkdown.Server.Shared;
using Walkdown.Storage;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Readings;

/// <summary>Finds the row of each proposed reading, and judges every Card with all that it would get.</summary>
public sealed class IntakeMatcher(Ledger ledger, CatalogueStore catalogue, TimeProvider time)
{
    private sealed record KnownDevice(Guid Id, string Label);

    /// <summary>Finds the row of each result and judges every Card with all that it would get.</summary>
    internal async Task Match(IntakeDraft draft, IProgress<(int, int)> progress, CancellationToken cancel)
    {
        await using var db = ledger.OpenDb();
        var devices = await db
            .Devices.Where(d => d.JobId == draft.JobId && !d.Cancelled)
            .Select(d => new KnownDevice(d.Id, d.Label))
            .ToListAsync(cancel);
        var byId = devices.ToDictionary(d => d.Id);
        var ends = await db
            .RunEnds.Where(e => e.DeviceId != null && db.Runs.Any(r => r.Id == e.RunId && r.JobId == draft.JobId))
            .Select(e => new { e.DeviceId, db.Runs.First(r => r.Id == e.RunId).Label })
            .ToListAsync(cancel);
        // A run's own label goes before a device's: where they differ, the tester read the cable.
        var places = new Dictionary<string, Guid?>();
        foreach (var d in devices)
            places[ResultValue.Key(d.Label)] = places.ContainsKey(ResultValue.Key(d.Label)) ? null : d.Id;
        foreach (var group in ends.Where(e => byId.ContainsKey(e.DeviceId!.Value)).GroupBy(e => ResultValue.Key(e.Label)))
            places[group.Key] = group.OrderBy(e => byId[e.DeviceId!.Value].Label).First().DeviceId;
        var kit = await CardFactsLoader.Instruments(db, draft.JobId);
        var bySerial = kit.GroupBy(i => ResultValue.Key(i.Serial)).ToDictionary(g => g.Key, g => g.First());
        foreach (var e in draft.Entries)
        {
            // Whose serial answered is whose accuracy judges; where a serial is given that nobody knows, no accuracy is.
            e.Instrument =
                bySerial.TryGetValue(ResultValue.Key(e.Result.Instrument), out var named) ? named.Id
                : e.Result.Instrument.Length > 0 && !draft.Said ? null
                : draft.Instrument;
            if (draft.Origin == IntakeOrigin.Sweep)
                continue;
            var key = ResultValue.Key(e.Result.Where);
            e.Device = draft.Assigned.TryGetValue(key, out var assigned) ? assigned : places.GetValueOrDefault(key);
            e.Label = e.Device is { } device ? byId.GetValueOrDefault(device)?.Label : null;
            (e.Key, e.Value, e.Fate, e.Why) = (
                null,
                null,
                IntakeFate.Unmatched,
                key.Length == 0 || draft.Assigned.ContainsKey(key)
                    ? []
                    : [new("result.unmatched", e.Result.Where.Length > 40 ? e.Result.Where[..40] : e.Result.Where)]
            );
            if (e.Result.Trouble is { } trouble)
                (e.Fate, e.Why) = (IntakeFate.Refused, [trouble]);
        }
        var matched = draft.Entries.Where(e => e.Device is not null).GroupBy(e => e.Device!.Value).ToList();
        var done = 0;
        foreach (var some in matched.Chunk(250))
        {
            cancel.ThrowIfCancellationRequested();
            var cards = (await CardFactsLoader.Load(db, [.. some.Select(g => g.Key)], time.GetUtcNow())).ToDictionary(c =>
                c.Facts.Place.Id
            );
            foreach (var group in some)
                Judge(cards[group.Key], [.. group]);
            progress.Report((done += some.Length, matched.Count));
        }
    }

    private void Judge(LoadedCard card, List<IntakeEntry> entries)
    {
        var facts = card.Facts;
        var now = facts.Now;
        var inForce = catalogue.Catalogue;
        var rows = CheckPlan.For(facts, inForce).Rows;
        var before = Card.Judge(facts, inForce).Rows.ToDictionary(r => r.Key);
        var added = new List<(IntakeEntry Entry, Reading Reading)>();
        var seen = new Dictionary<CheckKey, (DateTimeOffset? At, IntakeEntry Entry)>();
        foreach (var e in entries)
        {
            if (e.Result.Trouble is { } trouble)
            {
                Refuse(e, trouble);
                continue;
            }
            if (e.Key is null && !Find(e, rows))
                continue;
            var check = rows.First(r => r.Key == e.Key).Check;
            var (value, refused) = ResultValue.Read(check, e.Result);
            if (refused is not null)
            {
                Refuse(e, refused);
                continue;
            }
            e.Value = value;
            if (e.Result.At is { } future && future > now.AddMinutes(10))
            {
                Refuse(e, new("result.future"));
                continue;
            }
            if (!before[e.Key!.Value].HeldBy.IsEmpty)
            {
                Refuse(e, new("hold.until", "@check." + before[e.Key.Value].HeldBy[0].Value));
                continue;
            }
            // A day without a time stands before or after the work of that day: nobody knows.
            if (
                e.Result is { DayOnly: true, At: { } day }
                && facts.Events.OfType<Act>().Any(a => facts.DayOf(a.At) == facts.DayOf(day) && check.IsVoidedBy(a, e.Key.Value.On))
            )
            {
                Refuse(e, new("result.day-of-work"));
                continue;
            }
            if (
                e.Instrument is { } by
                && facts.Instruments.FirstOrDefault(i => i.Id == by) is { RetiredAt: { } retired } gone
                && ResultIntake.TakenAt(e, now) > retired
            )
            {
                Refuse(e, new("problem.instrument-retired", Message.Said(gone.Name)));
                continue;
            }
            if (seen.TryGetValue(e.Key!.Value, out var twin) && twin.At == e.Result.At)
            {
                Refuse(e, new("result.twice", twin.Entry.Result.Line.ToString(System.Globalization.CultureInfo.InvariantCulture)));
                continue;
            }
            seen[e.Key.Value] = (e.Result.At, e);
            if (facts.Readings.Any(r => r.Key == e.Key && r.TakenAt == ResultIntake.TakenAt(e, now) && Same(r.Value, value!)))
            {
                (e.Fate, e.Why) = (IntakeFate.Known, []);
                continue;
            }
            e.UnitId = facts.UnitAt(ResultIntake.TakenAt(e, now))?.Id;
            e.CheckVersion = check.Version;
            added.Add(
                (
                    e,
                    new Reading(
                        e.ReadingId,
                        e.Key.Value,
                        e.UnitId,
                        value!,
                        e.Key.Value.Under,
                        e.Instrument,
                        e.Source,
                        Guid.Empty,
                        ResultIntake.TakenAt(e, now),
                        now,
                        long.MaxValue
                    )
                )
            );
        }
        if (added.Count == 0)
            return;
        var after = Card.Judge(facts with { Readings = facts.Readings.AddRange(added.Select(a => a.Reading)) }, inForce)
            .Rows.ToDictionary(r => r.Key);
        foreach (var (e, _) in added)
        {
            var attempt = after[e.Key!.Value].Attempts.First(a => a.ReadingId == e.ReadingId);
            e.Fate = attempt.State switch
            {
                State.In => IntakeFate.In,
                State.Out => IntakeFate.Out,
                State.NotJudged => IntakeFate.NotJudged,
                _ => IntakeFate.TooClose,
            };
            e.Why = attempt.State == State.In ? [] : attempt.Because;
            if (attempt.Standing is Standing.VoidedByAct or Standing.UnitGone)
                e.Why = e.Why.Add(new("result.older-than-work"));
            e.Counts = attempt.Standing is not (Standing.OutOfCalibration or Standing.InstrumentInDoubt);
            if (!e.Counts)
                e.Why = e.Why.Add(new("result.instrument-out"));
            if (after[e.Key.Value] is { Counts: var counting, Unexpected: { IsEmpty: false } odd } && counting == e.ReadingId)
                e.Why = e.Why.AddRange(odd);
            var was = before[e.Key.Value];
            e.Was = was.State;
            e.Window = after[e.Key.Value].Window;
            e.WasText = was.Counting is { } counted
                ? ValueText.Of(catalogue.Texts, counted.Value, catalogue.Catalogue.CheckById.GetValueOrDefault(was.Key.Check))
                : null;
        }
    }

    private static bool Same(ReadingValue a, ReadingValue b) =>
        System.Text.Json.JsonSerializer.Serialize(a, Core.CoreJson.Options)
        == System.Text.Json.JsonSerializer.Serialize(b, Core.CoreJson.Options);

    private static void Refuse(IntakeEntry e, Message why) => (e.Fate, e.Why) = (IntakeFate.Refused, [why]);

    private static bool Find(IntakeEntry e, ImmutableArray<PlannedRow> rows)
    {
        var r = e.Result;
        var fit = rows.Where(row =>
                row.Check.Tester == r.Function && (r.Part.Length == 0 && row.Check.PartsFrom is null || row.Key.On.Part == r.Part)
            )
            .ToList();
        if (fit.Count == 0)
        {
            Refuse(e, rows.Any(row => row.Check.Tester == r.Function) ? new("result.which-pair") : new("result.no-such-check", r.Function));
            return false;
        }
        var under = fit.Where(row => row.Key.Under == r.Under || row.Key.Under == Condition.Any).ToList();
        if (under.Count != 1)
        {
            Refuse(e, new(r.Under == Condition.Any ? "result.which-condition" : "result.no-such-condition"));
            return false;
        }
        e.Key = under[0].Key;
        return true;
    }
}
