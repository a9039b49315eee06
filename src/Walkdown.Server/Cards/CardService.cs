using System.Collections.Immutable;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Clocks;
using Walkdown.Core.Measures;
using Walkdown.Server.Shared;
using Walkdown.Storage;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Cards;

/// <summary>An entry at the door: the Card as it is and as it is judged, and the entry's place in the order.</summary>
/// <param name="At">When it was done, by the server's clock.</param>
public sealed record Entering(LoadedCard Loaded, JudgedCard Judged, long Sequence, DateTimeOffset At)
{
    public CardFacts Facts => Loaded.Facts;

    public Core.Catalogue.Catalogue Catalogue => Judged.Catalogue;

    public PlannedRow? Row(string? id) => Judged.Row(id);

    public Card Card => Judged.Card;
}

/// <summary>Turns a request into what the ledger adds. Judging is Core's; this only fetches, checks the shape and passes on.</summary>
public sealed class CardService(Ledger ledger, CatalogueStore catalogue, TimeProvider time)
{
    public Core.Catalogue.Catalogue Catalogue => catalogue.Catalogue;

    public async Task<CardAnswer?> Get(Guid deviceId) =>
        await Judged(deviceId) is var (loaded, judged) ? Answer(loaded, judged.Card, judged.Catalogue) : null;

    /// <summary>The Card as it is and as it is judged by the catalogue in force.</summary>
    public Task<(LoadedCard Loaded, JudgedCard Judged)?> Judged(Guid deviceId) => ledger.Judge(deviceId, catalogue.Catalogue);

    public Task<LoadedCard?> Loaded(Guid deviceId) => ledger.Load(deviceId);

    public async Task<CardFacts?> Facts(Guid deviceId) => (await ledger.Load(deviceId))?.Facts;

    /// <summary>Appends and answers with the judged Card, or with the ledger's refusal.</summary>
    public async Task<(SavedAnswer? Answer, LedgerResult Result)> Append<T>(
        Guid deviceId,
        string kind,
        T request,
        Func<Entering, Task<LedgerAddition>> add,
        CancellationToken cancel = default
    )
        where T : class, IEntry
    {
        if (request.Id == Guid.Empty)
            return (null, new LedgerResult(Kept.Refused, new Message("problem.no-id"), "id"));
        if (TakenAt(request) is not { } at)
            return (null, new LedgerResult(Kept.Refused, new Message("problem.time"), "takenAt"));
        // One catalogue for one entry: plan, judgement and summary never look at two.
        var inForce = catalogue.Catalogue;
        var result = await ledger.Append(
            deviceId,
            request.Id,
            kind,
            request,
            request.By,
            inForce,
            async (loaded, judged, sequence) =>
                MayWrite(loaded, request.By, at) is { } refused
                    ? LedgerAddition.Refuse(refused, "by")
                    : await add(new Entering(loaded, judged, sequence, at)),
            cancel
        );
        return (result.Judged is null ? null : Saved(result), result);
    }

    /// <summary>Whether somebody may write an entry of this moment: people of the job, until they left it. Null where they may.</summary>
    public static Message? MayWrite(LoadedCard loaded, Guid by, DateTimeOffset at) =>
        Writers.Refuse(loaded.People.TryGetValue(by, out var left), left, at);

    /// <summary>What tester or switch answered before, for a reading of this row; null where it was never asked so.</summary>
    public async Task<(Observation Kept, ReadingValue Value)?> Observed(Guid deviceId, Guid id, string row)
    {
        await using var db = ledger.OpenDb();
        if (await db.Observations.FirstOrDefaultAsync(o => o.Id == id && o.DeviceId == deviceId) is not { } kept)
            return null;
        return Stored.Read<Dictionary<string, ReadingValue>>(kept.ValuesJson)?.GetValueOrDefault(row) is { } value ? (kept, value) : null;
    }

    /// <summary>Keeps an answer of tester or switch, so that readings can cite it.</summary>
    public Task<bool> Keep(Observation observation) =>
        ledger.Quiet(async () =>
        {
            await using var db = ledger.OpenDb();
            db.Add(observation);
            await db.SaveChangesAsync();
            return true;
        });

    /// <summary>The moment by the phone's clock, corrected by its offset; never later than now. Null where it cannot be.</summary>
    public DateTimeOffset? TakenAt(IEntry entry)
    {
        if (!double.IsFinite(entry.ClockOffsetMs) || Math.Abs(entry.ClockOffsetMs) > 1e13 || entry.TakenAt.Year is < 1971 or > 9000)
            return null;
        var corrected = WholeMilliseconds.Of(entry.TakenAt.ToUniversalTime().AddMilliseconds(entry.ClockOffsetMs));
        var now = time.GetUtcNow();
        return corrected > now ? now
            : corrected.Year < 2020 ? null
            : corrected;
    }

    /// <summary>The value of a request for a row: as given, or parsed from what was typed.</summary>
    public static (ReadingValue? Value, Message? Refused) ValueOf(PlannedRow row, ReadingValue? value, string? text)
    {
        if (value is null && text is not null && row.Check.Entry == EntryKind.Number)
        {
            var parsed = QuantityText.Parse(text, row.Check.Unit);
            if (parsed.Refused is not null)
                return (null, parsed.Refused);
            value = new NumberValue(parsed.Value!.Value.Value, row.Check.Unit);
        }
        if (value is null)
            return (null, new Message("number.empty"));
        return (value, ReadingRules.Refuse(row.Check, value));
    }

    /// <summary>Adds what a swap changes in the register: the unit that leaves, and the one that comes.</summary>
    public async Task<LedgerAddition> SwapUnit(LedgerAddition addition, CardFacts facts, string serial, DateTimeOffset at)
    {
        // A unit cannot leave before it came: then the moment is wrong, or another swap was recorded since.
        if (facts.Unit is { } hangs && at <= hangs.From)
            return LedgerAddition.Refuse(
                new Message(
                    "problem.swap-before",
                    hangs.Serial,
                    SiteTime.In(facts.TimeZone, hangs.From).ToString("yyyy-MM-dd HH:mm", System.Globalization.CultureInfo.InvariantCulture)
                ),
                "takenAt"
            );
        await using var db = ledger.OpenDb();
        var job = await db.Devices.Where(d => d.Id == facts.Place.Id).Select(d => d.JobId).FirstAsync();
        if (await db.Installations.FirstOrDefaultAsync(i => i.DeviceId == facts.Place.Id && i.Until == null) is { } leaving)
            addition.Ends = (leaving.Id, at);
        var unit = await db.Units.FirstOrDefaultAsync(u => u.JobId == job && u.Serial == serial);
        if (unit is not null && await db.Installations.AnyAsync(i => i.UnitId == unit.Id && i.Until == null))
            return LedgerAddition.Refuse(new Message("problem.unit-hangs-elsewhere", serial), "newSerial");
        if (unit is null)
            addition.Rows.Add(
                unit = new InstalledUnit
                {
                    Id = Guid.CreateVersion7(),
                    JobId = job,
                    Serial = serial,
                }
            );
        addition.Rows.Add(
            new Installation
            {
                Id = Guid.CreateVersion7(),
                DeviceId = facts.Place.Id,
                UnitId = unit.Id,
                From = at,
            }
        );
        return addition;
    }

    /// <summary>What an entry changed of its Card, for whoever holds it as it was before; the whole of it where the entry may have changed
    /// which rows there are, or was kept already.</summary>
    private static SavedAnswer Saved(LedgerResult result)
    {
        var (loaded, after) = (result.Loaded!, result.Judged!);
        if (
            result.Before is not { } before
            || before.Card.Rows.Length != after.Card.Rows.Length
            || !ReferenceEquals(before.Facts.Place, after.Facts.Place)
            || !ReferenceEquals(before.Facts.Unit, after.Facts.Unit)
            || result.Entry!.Kind == "act"
        )
            return new SavedAnswer(SequenceOf(loaded), null, Answer(loaded, after.Card, after.Catalogue));
        var rows = ImmutableArray.CreateBuilder<RowChange>();
        for (var i = 0; i < after.Card.Rows.Length; i++)
            if (!ReferenceEquals(before.Card.Rows[i], after.Card.Rows[i]))
                rows.Add(RowChange.Of(after.Card.Rows[i]));
        var card = after.Card;
        return new SavedAnswer(
            SequenceOf(loaded),
            new EntryChange(
                SequenceOf(loaded, before: result.Entry.Sequence),
                rows.ToImmutable(),
                card.Legs,
                card.Verdict,
                card.Faults,
                card.Acts,
                card.NextRow,
                card.Taken,
                card.Total,
                card.Blocked,
                card.Hold,
                card.Unexpected,
                card.Unreadable,
                WordsOf(loaded)
            ),
            null
        );
    }

    private static ImmutableArray<FaultWord> WordsOf(LoadedCard loaded) =>
        [.. loaded.FaultWords.Select(w => new FaultWord(w.FaultId, w.Text, w.By, w.At))];

    /// <summary>The newest entry of a Card, or the newest before one.</summary>
    private static long SequenceOf(LoadedCard loaded, long before = long.MaxValue)
    {
        var newest = 0L;
        void Take(long sequence)
        {
            if (sequence < before && sequence > newest)
                newest = sequence;
        }
        foreach (var r in loaded.Facts.Readings)
            Take(r.Sequence);
        foreach (var e in loaded.Facts.Events)
            Take(e.Sequence);
        foreach (var f in loaded.Facts.Faults)
            Take(f.Sequence);
        foreach (var w in loaded.FaultWords)
            Take(w.Sequence);
        return newest;
    }

    private static CardAnswer Answer(LoadedCard loaded, Card card, Core.Catalogue.Catalogue inForce)
    {
        var facts = loaded.Facts;
        var p = facts.Place;
        return new CardAnswer(
            new CardPlace(
                p.Id,
                loaded.Job.Id,
                p.Label,
                p.Name,
                p.Area,
                p.Kind,
                p.Model,
                facts.Unit?.Serial,
                p.Address,
                p.PowerClass,
                [
                    .. facts.Runs.Select(r => new CardRun(
                        r.Id,
                        r.Label,
                        r.Port is { } port ? $"{port.Cabinet} port {port.Number}" : null,
                        r.Scheme.ToString(),
                        r.TotalPlannedMetres
                    )),
                ],
                [.. facts.Channels.Select(c => $"{c.Recorder} channel {c.Number}")],
                card.Rows.Any(r => r.Key.Under == Condition.InfraredOn),
                loaded.Differences,
                loaded.Cancelled,
                loaded.AddedOnSite,
                inForce.Model(p.Model)?.Unknown ?? []
            ),
            card,
            WordsOf(loaded),
            SequenceOf(loaded)
        );
    }
}
