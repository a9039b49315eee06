using System.Runtime.InteropServices;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>
/// Which readings count, derived from the events and never stored: the newest of a row whose unit is still installed, that is not
/// withdrawn, whose
/// instrument was in calibration, whose conditions cover the row's, and that no later act voids.
/// </summary>
internal sealed class CountingReadings
{
    private readonly CardFacts _facts;
    private readonly Dictionary<Guid, Withdrawal> _withdrawn;
    private readonly Dictionary<Guid, Instrument> _instruments;
    private readonly Dictionary<CheckKey, List<(Reading Reading, Standing Standing)>> _byRow = [];
    private readonly List<Act> _acts;
    private readonly Dictionary<CheckKey, Exemption> _exemptions = [];
    private readonly Dictionary<CheckKey, Concession> _concessions = [];
    private readonly Dictionary<CheckKey, Ruling> _rulings = [];
    private readonly Dictionary<Guid, FaultEnd> _ends = [];
    private readonly Dictionary<CheckKey, List<Note>> _notes = [];

    public CountingReadings(CardFacts facts, Catalogue.Catalogue catalogue, Reading? preview = null)
    {
        _facts = facts;
        _withdrawn = [];
        // Newest first: a withdrawal that was taken back itself takes nothing back.
        foreach (var withdrawal in facts.Events.OfType<Withdrawal>().OrderByDescending(w => w.At).ThenByDescending(w => w.Sequence))
            if (!_withdrawn.ContainsKey(withdrawal.Id))
                _withdrawn[withdrawal.Of] = withdrawal;
        _instruments = facts.Instruments.DistinctBy(i => i.Id).ToDictionary(i => i.Id);
        _acts = [.. facts.Events.OfType<Act>().Where(act => !_withdrawn.ContainsKey(act.Id))];
        foreach (var e in facts.Events)
        {
            if (_withdrawn.ContainsKey(e.Id))
                continue;
            // Of several for a row the newest stands.
            if (e is Exemption exemption && (!_exemptions.TryGetValue(exemption.Key, out var x) || IsNewer(exemption, x)))
                _exemptions[exemption.Key] = exemption;
            else if (e is Concession concession && (!_concessions.TryGetValue(concession.Key, out var c) || IsNewer(concession, c)))
                _concessions[concession.Key] = concession;
            else if (e is Ruling ruling && (!_rulings.TryGetValue(ruling.Key, out var r) || IsNewer(ruling, r)))
                _rulings[ruling.Key] = ruling;
            else if (e is FaultEnd end && (!_ends.TryGetValue(end.FaultId, out var f) || IsNewer(end, f)))
                _ends[end.FaultId] = end;
        }
        foreach (var note in facts.Events.OfType<Note>())
            if (note.Key is { } on)
                (_notes.TryGetValue(on, out var list) ? list : _notes[on] = []).Add(note);
        foreach (var reading in facts.Readings)
            Take(reading);
        if (preview is not null)
            Take(preview);
        foreach (var list in _byRow.Values)
        {
            // Readings come in the order they were taken; only late ones, sent from an outbox, make sorting needed.
            for (var i = 1; i < list.Count; i++)
                if (Order(list[i - 1], list[i]) > 0)
                {
                    list.Sort(Order);
                    break;
                }
            var counts = AttemptHistory.Counting(list, static entry => entry.Standing == Standing.Counts);
            for (var i = 0; i < counts; i++)
                if (list[i].Standing == Standing.Counts)
                    list[i] = (list[i].Reading, Standing.Superseded);
        }

        void Take(Reading reading)
        {
            if (!catalogue.CheckById.TryGetValue(reading.Key.Check, out var check))
                return;
            ref var list = ref CollectionsMarshal.GetValueRefOrAddDefault(_byRow, reading.Key, out _);
            (list ??= new(2)).Add((reading, StandingOf(reading, check)));
        }

        static int Order((Reading Reading, Standing) a, (Reading Reading, Standing) b) =>
            AttemptHistory.Order(a.Reading.TakenAt, a.Reading.Sequence, b.Reading.TakenAt, b.Reading.Sequence);
    }

    public IReadOnlyList<(Reading Reading, Standing Standing)> Of(CheckKey key) => _byRow.TryGetValue(key, out var list) ? list : [];

    public Reading? Counts(CheckKey key) =>
        _byRow.TryGetValue(key, out var list) ? list.FindLast(static e => e.Standing == Standing.Counts).Reading : null;

    public ReadingValue? Value(CheckId check, Subject on, Condition under = Condition.Any) => Counts(new CheckKey(check, on, under))?.Value;

    public double? Number(CheckId check, Subject on, Condition under = Condition.Any) =>
        Value(check, on, under) is NumberValue number ? number.Value : null;

    private static bool IsNewer(CardEvent a, CardEvent b) => a.At > b.At || a.At == b.At && a.Sequence >= b.Sequence;

    public Exemption? ExemptionOf(CheckKey key) => _exemptions.GetValueOrDefault(key);

    public Concession? ConcessionOf(CheckKey key) => _concessions.GetValueOrDefault(key);

    /// <summary>The newest word of a named person on a row's reading.</summary>
    public Ruling? RulingOf(CheckKey key) => _rulings.GetValueOrDefault(key);

    /// <summary>The word that ended a Fault.</summary>
    public FaultEnd? EndOf(Guid faultId) => _ends.GetValueOrDefault(faultId);

    public ImmutableArray<Note> NotesOf(CheckKey key) => _notes.TryGetValue(key, out var list) ? [.. list.OrderBy(n => n.At)] : [];

    public Reading? Reading(Guid id) => _facts.Readings.FirstOrDefault(r => r.Id == id);

    /// <summary>The newest act of a kind that stands.</summary>
    public Act? LastAct(string kind) => _acts.Where(a => a.ActKind == kind).OrderBy(a => a.At).ThenBy(a => a.Sequence).LastOrDefault();

    /// <summary>Whether any work was recorded on the row's subject, or on the place, between two moments.</summary>
    public bool WorkedBetween(CheckKey key, DateTimeOffset from, DateTimeOffset to) =>
        _acts.Any(act =>
            act.At >= from && act.At <= to && (act.On.Kind == SubjectKind.Place || act.On.Kind == key.On.Kind && act.On.Id == key.On.Id)
        );

    public bool IsWithdrawn(Guid id) => _withdrawn.ContainsKey(id);

    public Withdrawal? WithdrawalOf(Guid id) => _withdrawn.GetValueOrDefault(id);

    public Instrument? InstrumentOf(Reading reading) => reading.InstrumentId is { } id ? _instruments.GetValueOrDefault(id) : null;

    /// <summary>Acts recorded as repairs of a Fault, in order.</summary>
    public ImmutableArray<Act> RepairsOf(Guid faultId) =>
        [.. _acts.Where(act => act.FaultId == faultId).OrderBy(act => act.At).ThenBy(act => act.Sequence)];

    /// <summary>The act that voids a reading, if one does.</summary>
    public Act? VoidedBy(Reading reading, CheckDefinition check)
    {
        foreach (var act in _acts)
            if (
                IsLater(act, reading)
                && (act.On.Kind == SubjectKind.Place || act.On.Kind == reading.Key.On.Kind && act.On.Id == reading.Key.On.Id)
                && check.VoidedBy.Contains(act.ActKind)
            )
                return act;
        return null;
    }

    private static bool IsLater(Act act, Reading reading) =>
        act.At > reading.TakenAt || (act.At == reading.TakenAt && act.Sequence > reading.Sequence);

    private Standing StandingOf(Reading reading, CheckDefinition check)
    {
        if (_withdrawn.ContainsKey(reading.Id))
            return Standing.Withdrawn;
        if (check.OfUnit && !IsOfPresentUnit(reading))
            return Standing.UnitGone;
        if (VoidedBy(reading, check) is not null)
            return Standing.VoidedByAct;
        if ((reading.Found & reading.Key.Under) != reading.Key.Under)
            return Standing.ConditionsDiffer;
        if (InstrumentOf(reading) is { } instrument)
        {
            if (!instrument.CalibratedAt(_facts.DayOf(reading.TakenAt)))
                return Standing.OutOfCalibration;
            if (instrument.Unreadable || instrument.InDoubt(check.Unit, reading.TakenAt))
                return Standing.InstrumentInDoubt;
        }
        return Standing.Counts;
    }

    /// <summary>A reading belongs to the unit that hung there when it was taken: by the intervals on record, whatever was thought when it
    /// was kept.</summary>
    private bool IsOfPresentUnit(Reading reading)
    {
        if (reading.UnitId is { } kept && !_facts.Units.IsDefaultOrEmpty && kept != _facts.Unit?.Id && _facts.Units.All(u => u.Id != kept))
            return false;
        return (_facts.Units.IsDefaultOrEmpty ? reading.UnitId ?? _facts.Unit?.Id : _facts.UnitAt(reading.TakenAt)?.Id ?? reading.UnitId)
            == _facts.Unit?.Id;
    }
}
