using System.Collections.Concurrent;
using System.Collections.Immutable;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;
using Walkdown.Core.Results;
using Walkdown.Devices;
using Walkdown.Reports;
using Walkdown.Server.Shared;
using Walkdown.Storage;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Readings;

/// <summary>Asks the sources of measurements for everything that can be read in an area, several Stops at once.</summary>
public sealed class Sweeper(Ledger ledger, CatalogueStore catalogue, MeasureSources sources, Observations observations, TimeProvider time)
{
    /// <summary>A part that did not come while others of its check did, such as a preset that is not reached.</summary>
    internal static Message NoPart(SourceAnswer answer) => new("tester.no-part", Message.Number(answer.Readings.Length, 0));

    /// <summary>Asks tester and switch for everything that can be read in an area, several Stops at once.</summary>
    internal async Task<IntakeDraft> Sweep(Guid jobId, SweepRequest request, IProgress<(int, int)> progress, CancellationToken cancel)
    {
        List<Guid> ids;
        await using (var db = ledger.OpenDb())
        {
            ids = await db
                .Devices.Where(d => d.JobId == jobId && !d.Cancelled && (request.Area == null || d.Area.Name == request.Area))
                .Select(d => d.Id)
                .ToListAsync(cancel);
            if (request.Cabinet is { } cabinet)
            {
                var on = await db
                    .RunEnds.Where(e =>
                        e.DeviceId != null
                        && db.RunEnds.Any(n =>
                            n.RunId == e.RunId && n.Port != null && n.Port.Cabinet.Label == cabinet && n.Port.Cabinet.JobId == jobId
                        )
                    )
                    .Select(e => e.DeviceId!.Value)
                    .ToListAsync(cancel);
                ids = [.. ids.Intersect(on)];
            }
        }
        if (ids.Count == 0)
            throw new Refusal(new("sweep.nothing"));
        var asks = new List<(LoadedCard Card, PlannedRow Row, ImmutableArray<PlannedRow> Siblings)>();
        foreach (var some in ids.Chunk(250))
        {
            await using var db = ledger.OpenDb();
            foreach (var card in await CardFactsLoader.Load(db, some, time.GetUtcNow()))
            {
                var judged = Card.Judge(card.Facts, catalogue.Catalogue);
                if (judged.Hold is not null || judged.Blocked is not null)
                    continue;
                var state = judged.Rows.ToDictionary(r => r.Key, r => r);
                foreach (
                    var group in CheckPlan
                        .For(card.Facts, catalogue.Catalogue)
                        .Rows.Where(r => r.Check.Tester is not null && (r.Key.Under == Condition.Any || r.Key.Under == request.Under))
                        .Where(r => state[r.Key].State != State.NotApplicable && state[r.Key].HeldBy.IsEmpty)
                        .GroupBy(r => (r.Check.Id, r.Key.On.Id, r.Key.Under))
                )
                    // Due is what the Card asks for: a session of readings does not raise what is owed.
                    if (!request.OnlyDue || group.Any(r => state[r.Key] is { IsDue: true, State: State.NotTaken or State.Stale }))
                        asks.Add((card, group.First(), [.. group]));
            }
        }
        if (asks.Count == 0)
            throw new Refusal(new("sweep.nothing-due"));
        var entries = new ConcurrentBag<(int Order, IntakeEntry Entry)>();
        var done = 0;
        progress.Report((0, asks.Count));
        var known = observations.Devices(jobId);
        await Parallel.ForEachAsync(
            asks.Select((ask, order) => (ask, order)),
            new ParallelOptions { MaxDegreeOfParallelism = ResultIntake.InFlight, CancellationToken = cancel },
            async (item, stop) =>
            {
                var (card, row, siblings) = item.ask;
                var facts = card.Facts;
                var question = SourceQuestion.Of(facts, row);
                var outcome = await sources.Ask(question, stop);
                var at = time.GetUtcNow();
                if (await observations.Found(jobId, row.Check, outcome, known) is { } found)
                    await observations.Keep(found);
                var heard = outcome.Trouble is null ? observations.Of(jobId, facts, row, siblings, outcome) : null;
                IntakeEntry Of(PlannedRow to, ReadingValue? value, Message? trouble) =>
                    new(
                        new InstrumentResult(
                            0,
                            question.Label,
                            row.Check.Tester!,
                            to.Key.On.Part,
                            row.Key.Under,
                            "",
                            "",
                            at,
                            outcome.Serial,
                            "",
                            value,
                            trouble
                        )
                    )
                    {
                        Device = facts.Place.Id,
                        Label = facts.Place.Label,
                        Key = to.Key,
                        Source = heard?.Source ?? ReadingSource.Tester,
                        Heard = heard,
                    };
                if (outcome.Trouble is { } why)
                    entries.Add((item.order, Of(row, null, why)));
                else
                    foreach (var to in siblings)
                        entries.Add(
                            outcome.Readings.FirstOrDefault(r => r.Part == to.Key.On.Part) is { } reading
                                ? (item.order, Of(to, reading.Value, null))
                                : (item.order, Of(to, null, NoPart(outcome)))
                        );
                progress.Report((Interlocked.Increment(ref done), asks.Count));
            }
        );
        return new IntakeDraft(
            jobId,
            IntakeOrigin.Sweep,
            request.Area ?? request.Cabinet ?? "",
            [.. entries.OrderBy(e => e.Order).Select(e => e.Entry)]
        )
        {
            Instrument = request.InstrumentId,
        };
    }
}
