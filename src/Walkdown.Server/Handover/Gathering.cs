using System.Collections.Immutable;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Handover;
using Walkdown.Core.Sealing;
using Walkdown.Reports;
using Walkdown.Server.Cards;
using Walkdown.Server.Power;
using Walkdown.Server.Shared;
using Walkdown.Storage;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Handover;

/// <summary>What is kept of each Card while the pack is made.</summary>
internal sealed class Gathering(Earlier? before)
{
    private readonly Dictionary<Guid, (int Readings, int Acts, DateTimeOffset From, DateTimeOffset Until)> _work = [];
    private readonly ImmutableArray<CardChange>.Builder _changes = ImmutableArray.CreateBuilder<CardChange>();

    public List<HandoverCard> Cards { get; } = [];
    public List<HonestReading> Honest { get; } = [];
    public HashSet<Guid> Instruments { get; } = [];
    public List<ShownCard> Shown { get; } = [];
    public HashSet<Section> Asked { get; } = [];
    public int OutThenIn { get; private set; }
    public int OpenFaults { get; private set; }
    public DateTimeOffset? First { get; private set; }
    public DateTimeOffset? Last { get; private set; }

    public void Add(
        LoadedCard loaded,
        Card card,
        ReportRecord record,
        PackFile file,
        double? x,
        double? y,
        int number,
        IEnumerable<HandoverPicture> pictures
    )
    {
        var facts = loaded.Facts;
        var standing = card.Rows.SelectMany(r => r.Attempts).ToDictionary(a => a.ReadingId, a => a.Standing);
        foreach (var reading in facts.Readings)
        {
            // A run that two devices share stands on both Cards; its readings are counted where they were taken.
            if (!standing.TryGetValue(reading.Id, out var stands))
                continue;
            Honest.Add(
                new HonestReading(
                    facts.Place.Id,
                    facts.Place.Label,
                    reading.By,
                    reading.Source,
                    stands,
                    reading.TakenAt,
                    reading.ClockOffsetMs,
                    x,
                    y
                )
            );
            if (reading.InstrumentId is { } instrument)
                Instruments.Add(instrument);
            Did(reading.By, reading.TakenAt, 1, 0);
            First = First is { } f && f <= reading.TakenAt ? f : reading.TakenAt;
            Last = Last is { } l && l >= reading.TakenAt ? l : reading.TakenAt;
        }
        foreach (var e in facts.Events)
            Did(e.By, e.At, 0, 1);
        foreach (var f in facts.Faults)
            Did(f.RaisedBy, f.RaisedAt, 0, 1);
        Asked.UnionWith(AcceptanceScope.Asked(card));
        OutThenIn += card.Rows.Count(r => r.Because.Any(m => m.Code == "because.out-then-in"));
        OpenFaults += card.Faults.Count(f => f.Open);
        var p = record.Place;
        var line = new HandoverCard(
            facts.Place.Id,
            number,
            p.Label,
            p.Name,
            p.Area,
            p.Kind,
            p.Model,
            p.Serial,
            p.HardwareAddress,
            p.Address,
            string.Join(", ", p.Ports),
            string.Join(", ", p.Channels),
            card.Verdict.Verdict,
            file.Sha256,
            file.Name,
            card.Taken,
            card.Total,
            CardExceptions.Of(card),
            [.. facts.Runs.Select(run => CableSummary.Of(run, card))],
            [.. pictures],
            p.Differences.Length,
            p.Cancelled
        );
        Cards.Add(line);
        Shown.Add(
            new ShownCard(
                facts.Place.Id,
                card.Verdict.Verdict,
                card.Faults.Count(f => f.Open),
                card.Unexpected,
                card.Taken,
                card.Total,
                p.Cancelled
            )
        );
        if (before is null)
            return;
        var was = before.Cards.GetValueOrDefault(line.Id);
        if (was?.Hash == line.Hash)
            return;
        var change =
            _changes.Count < PackSealer.MostDetailed
                ? CardDifference.Of(line.Label, was is null ? null : before.Card(was), card)
                : new CardChange(line.Label, was?.Verdict, line.Verdict, []);
        change = change with { BuiltOtherwise = was is not null && !Register(was).Equals(Register(line)) };
        // Written by another Walkdown, a record may differ though nothing in it does.
        if (change.Before != change.After || !change.Rows.IsEmpty || change.BuiltOtherwise)
            _changes.Add(change);
    }

    private static object Register(HandoverCard c) =>
        (
            c.Label,
            c.Name,
            c.Area,
            (c.Kind, c.Model, c.Serial, c.HardwareAddress),
            (c.Address, c.Port, c.Channel, c.Differences),
            c.Cancelled,
            c.Pictures.Count(p => p.Erased is null)
        );

    public ImmutableArray<CardChange> Changes(List<HandoverCard> now)
    {
        var here = now.Select(c => c.Id).ToHashSet();
        foreach (var gone in before?.Cards.Values.Where(c => !here.Contains(c.Id)) ?? [])
            _changes.Add(new CardChange(gone.Label, gone.Verdict, null, []));
        return _changes.ToImmutable();
    }

    public ImmutableArray<HandoverWork> WorkDone() =>
        [
            .. _work
                .OrderByDescending(w => w.Value.Readings)
                .Select(w => new HandoverWork(w.Key, w.Value.Readings, w.Value.Acts, w.Value.From, w.Value.Until)),
        ];

    private void Did(Guid by, DateTimeOffset at, int readings, int acts)
    {
        var w = _work.TryGetValue(by, out var known) ? known : (0, 0, at, at);
        _work[by] = (w.Item1 + readings, w.Item2 + acts, at < w.Item3 ? at : w.Item3, at > w.Item4 ? at : w.Item4);
    }
}
