using System.Collections.Immutable;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Entries;
using Walkdown.Core.Measures;
using Walkdown.Server.Shared;
using Walkdown.Storage;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Cards;

/// <summary>Turns a request into what the ledger adds. Judging is Core's; this only fetches, checks the shape and passes on.</summary>
public sealed class CardService(Ledger ledger, CatalogueStore catalogue, TimeProvider time)
{
    public Catalogue Catalogue => catalogue.Catalogue;

    public async Task<CardAnswer?> Get(Guid deviceId) =>
        await Judged(deviceId) is var (loaded, judged) ? Answer(loaded, judged.Card, judged.Catalogue) : null;

    /// <summary>Cards of several devices, judged by one catalogue and as of one moment; devices that are gone are left out.</summary>
    public async Task<ImmutableArray<CardAnswer>> Of(IReadOnlyList<Guid> deviceIds)
    {
        var inForce = catalogue.Catalogue;
        return [.. (await Judged(deviceIds, inForce)).Select(c => Answer(c.Loaded, c.Card, inForce))];
    }

    /// <summary>The same as they are judged, in the order asked for. Read some hundreds at once and not put on the shelf: whoever asks for
    /// many does not open them next.</summary>
    public async Task<List<(LoadedCard Loaded, Card Card)>> Judged(
        IReadOnlyList<Guid> deviceIds,
        Catalogue? by = null,
        CancellationToken cancel = default
    )
    {
        var (inForce, now) = (by ?? catalogue.Catalogue, time.GetUtcNow());
        var cards = new List<(LoadedCard, Card)>(deviceIds.Count);
        foreach (var some in deviceIds.Chunk(250))
        {
            cancel.ThrowIfCancellationRequested();
            await using var db = ledger.OpenDb();
            var loaded = (await CardFactsLoader.Load(db, some, now)).ToDictionary(c => c.Facts.Place.Id);
            cards.AddRange(
                some.Where(loaded.ContainsKey).AsParallel().AsOrdered().Select(id => (loaded[id], Card.Judge(loaded[id].Facts, inForce)))
            );
        }
        return cards;
    }

    /// <summary>The Card as it is and as it is judged by the catalogue in force.</summary>
    public Task<(LoadedCard Loaded, JudgedCard Judged)?> Judged(Guid deviceId) => ledger.Judge(deviceId, catalogue.Catalogue);

    /// <summary>The name of who may write in a job now.</summary>
    /// <exception cref="Refusal">Nobody of that id may.</exception>
    public async Task<string> NameOf(Guid jobId, Guid by, CancellationToken cancel)
    {
        await using var db = ledger.OpenDb();
        var (name, why) = await Writers.Named(db, jobId, by, time.GetUtcNow(), cancel);
        return name ?? throw new Refusal(why!);
    }

    /// <summary>Whoever sets or starts a device while it is being updated may lose it.</summary>
    /// <exception cref="Refusal">An update of it is on record and not over.</exception>
    public async Task NotWhileUpdating(Guid deviceId, string label)
    {
        if ((await Judged(deviceId))?.Judged.Card.Hold is not null)
            throw new Refusal(new("lan.updating", Message.Said(label)));
    }

    public Task<LoadedCard?> Loaded(Guid deviceId) => ledger.Load(deviceId);

    public async Task<CardFacts?> Facts(Guid deviceId) => (await ledger.Load(deviceId))?.Facts;

    /// <summary>Appends and answers with what changed of the Card, or with the ledger's refusal.</summary>
    public async Task<(SavedAnswer? Answer, LedgerResult Result)> Append(
        Guid deviceId,
        EntryRequest request,
        CancellationToken cancel = default
    )
    {
        // One catalogue for one entry: plan, judgement and summary never look at two.
        var result = await ledger.Append(deviceId, request, catalogue.Catalogue, cancel);
        return (result.Judged is null ? null : Saved(result), result);
    }

    /// <summary>What is wrong with an entry whatever it is about; null where nothing is.</summary>
    public ProblemHttpResult? Malformed(IEntry entry) =>
        EntryDoor.Malformed(entry, time.GetUtcNow()) is var (why, field) ? Problems.Of(422, why, field) : null;

    /// <inheritdoc cref="EntryDoor.TakenAt(IEntry, DateTimeOffset)"/>
    public DateTimeOffset? TakenAt(IEntry entry) => EntryDoor.TakenAt(entry, time.GetUtcNow());

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
                card.MostLikely,
                card.WaitsUntil,
                card.WaitsFor,
                card.WorstRow,
                card.Tools,
                card.CautionsSaid,
                loaded.FaultWords
            ),
            null
        );
    }

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

    private static CardAnswer Answer(LoadedCard loaded, Card card, Catalogue inForce)
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
                inForce.Model(p.Model)?.Unknown ?? [],
                loaded.Serves.Length
            ),
            card,
            loaded.FaultWords,
            SequenceOf(loaded),
            inForce.Hash
        );
    }
}
