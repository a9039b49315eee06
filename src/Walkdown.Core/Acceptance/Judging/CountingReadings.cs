using System.Runtime.InteropServices;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>
/// Which readings count, derived from the events and never stored: the newest of a row whose unit is still installed, that is not
/// withdrawn, whose instrument was in calibration, whose conditions cover the row's, and that no later act voids.
/// </summary>
internal sealed class CountingReadings
{
    private static readonly List<Act> NoActs = [];
    private readonly CardFacts _facts;
    private readonly Catalogue _catalogue;
    private readonly Dictionary<Guid, Withdrawal>? _withdrawn;
    private readonly Dictionary<CheckKey, Row> _rows;
    private readonly List<Act> _acts = NoActs;
    private readonly Dictionary<CheckKey, Exemption>? _exemptions;
    private readonly Dictionary<CheckKey, Concession>? _concessions;
    private readonly Dictionary<CheckKey, Ruling>? _rulings;
    private readonly Dictionary<Guid, FaultEnd>? _ends;
    private readonly Dictionary<CheckKey, List<Note>>? _notes;
    private readonly List<(ChannelFacts Channel, List<Act> Acts)>? _recorders;

    /// <summary>Readings of one row: as they came, and once somebody asks, in order with their standing.</summary>
    private sealed class Row
    {
        public readonly List<Reading> Came = new(2);
        public (Reading Reading, Standing Standing)[]? Stand;
    }

    /// <summary>Looks through the entries of a Card; what each reading's standing is, is worked out for the rows that are asked for. May
    /// be asked by several at once.</summary>
    public CountingReadings(CardFacts facts, Catalogue catalogue, Reading? preview = null)
    {
        _facts = facts;
        _catalogue = catalogue;
        CheckKey Now(CheckKey key) => facts.KeyNow(key, catalogue);
        // Newest first: a withdrawal that was taken back itself takes nothing back.
        foreach (var withdrawal in facts.Events.OfType<Withdrawal>().OrderByDescending(w => w.At).ThenByDescending(w => w.Sequence))
            if (!IsWithdrawn(withdrawal.Id))
                (_withdrawn ??= [])[withdrawal.Of] = withdrawal;
        foreach (var e in facts.Events)
        {
            if (e is Note { Key: { } on } note)
            {
                _notes ??= [];
                var key = Now(on);
                (_notes.TryGetValue(key, out var list) ? list : _notes[key] = []).Add(note);
                continue;
            }
            if (IsWithdrawn(e.Id))
                continue;
            switch (e)
            {
                case Act act:
                    if (ReferenceEquals(_acts, NoActs))
                        _acts = [];
                    _acts.Add(act);
                    break;
                // Of several for a row the newest stands.
                case Exemption exemption:
                    Newest(_exemptions ??= [], Now(exemption.Key), exemption);
                    break;
                case Concession concession:
                    Newest(_concessions ??= [], Now(concession.Key), concession);
                    break;
                case Ruling ruling:
                    Newest(_rulings ??= [], Now(ruling.Key), ruling);
                    break;
                case FaultEnd end:
                    Newest(_ends ??= [], end.FaultId, end);
                    break;
            }
        }
        _recorders = WorkAtRecorders(facts, catalogue);
        _rows = new(facts.Readings.Length / 2 + 8);
        foreach (var reading in facts.Readings)
            Take(reading);
        if (preview is not null)
            Take(preview);

        void Take(Reading reading)
        {
            ref var row = ref CollectionsMarshal.GetValueRefOrAddDefault(_rows, Now(reading.Key), out _);
            (row ??= new()).Came.Add(reading);
        }

        static void Newest<TKey, TEvent>(Dictionary<TKey, TEvent> all, TKey key, TEvent e)
            where TKey : notnull
            where TEvent : CardEvent
        {
            ref var known = ref CollectionsMarshal.GetValueRefOrAddDefault(all, key, out var there);
            if (!there || IsNewer(e, known!))
                known = e;
        }
    }

    private (Reading Reading, Standing Standing)[] StandOf(Row row)
    {
        if (row.Stand is { } known)
            return known;
        // The check as it is: a reading of one that the catalogue no longer has counts for nothing.
        if (_catalogue.Compiled(row.Came[0].Key.Check) is not { } check)
            return row.Stand = [];
        var stand = new (Reading Reading, Standing Standing)[row.Came.Count];
        for (var i = 0; i < stand.Length; i++)
            stand[i] = (row.Came[i], StandingOf(row.Came[i], check));
        // Readings come in the order they were taken; only late ones, sent from an outbox, make sorting needed.
        for (var i = 1; i < stand.Length; i++)
            if (Order(stand[i - 1], stand[i]) > 0)
            {
                Array.Sort(stand, Order);
                break;
            }
        var counts = AttemptHistory.Counting<(Reading, Standing Standing)>(stand, static entry => entry.Standing == Standing.Counts);
        for (var i = 0; i < counts; i++)
            if (stand[i].Standing == Standing.Counts)
                stand[i].Standing = Standing.Superseded;
        return row.Stand = stand;

        static int Order((Reading Reading, Standing) a, (Reading Reading, Standing) b) =>
            AttemptHistory.Order(a.Reading.TakenAt, a.Reading.Sequence, b.Reading.TakenAt, b.Reading.Sequence);
    }

    /// <summary>Readings of a row in order, each with its standing.</summary>
    public ReadOnlySpan<(Reading Reading, Standing Standing)> Of(CheckKey key)
    {
        Watch?.Invoke(key.Check);
        return _rows.TryGetValue(key, out var row) ? StandOf(row) : [];
    }

    /// <summary>Told of each check whose readings are asked for.</summary>
    internal Action<CheckId>? Watch { get; set; }

    public Reading? Counts(CheckKey key)
    {
        var stand = Of(key);
        for (var i = stand.Length - 1; i >= 0; i--)
            if (stand[i].Standing == Standing.Counts)
                return stand[i].Reading;
        return null;
    }

    public ReadingValue? Value(CheckId check, Subject on, Condition under = Condition.Any) => Counts(new CheckKey(check, on, under))?.Value;

    public double? Number(CheckId check, Subject on, Condition under = Condition.Any) =>
        Value(check, on, under) is NumberValue number ? number.Value : null;

    private static bool IsNewer(CardEvent a, CardEvent b) => a.At > b.At || a.At == b.At && a.Sequence >= b.Sequence;

    public Exemption? ExemptionOf(CheckKey key) => _exemptions?.GetValueOrDefault(key);

    public Concession? ConcessionOf(CheckKey key) => _concessions?.GetValueOrDefault(key);

    /// <summary>The newest word of a named person on a row's reading.</summary>
    public Ruling? RulingOf(CheckKey key) => _rulings?.GetValueOrDefault(key);

    /// <summary>The word that ended a Fault.</summary>
    public FaultEnd? EndOf(Guid faultId) => _ends?.GetValueOrDefault(faultId);

    public ImmutableArray<Note> NotesOf(CheckKey key) =>
        _notes is not null && _notes.TryGetValue(key, out var list) ? [.. list.OrderBy(n => n.At)] : [];

    public Reading? Reading(Guid id) => _facts.Readings.FirstOrDefault(r => r.Id == id);

    /// <summary>The newest act of a kind that stands.</summary>
    public Act? LastAct(string kind) => _acts.Where(a => a.ActKind == kind).OrderBy(a => a.At).ThenBy(a => a.Sequence).LastOrDefault();

    /// <summary>Whether any work was recorded between two moments that may have changed what the row is of: anything but work on another
    /// run.</summary>
    public bool WorkedBetween(CheckKey key, DateTimeOffset from, DateTimeOffset to)
    {
        foreach (var act in _acts)
            if (act.At >= from && act.At <= to && (act.On.Kind != key.On.Kind || act.On.Id == key.On.Id))
                return true;
        return false;
    }

    public bool IsWithdrawn(Guid id) => _withdrawn is not null && _withdrawn.ContainsKey(id);

    public Withdrawal? WithdrawalOf(Guid id) => _withdrawn?.GetValueOrDefault(id);

    public Instrument? InstrumentOf(Reading reading)
    {
        // A job has a handful.
        if (reading.InstrumentId is { } id)
            foreach (var instrument in _facts.Instruments)
                if (instrument.Id == id)
                    return instrument;
        return null;
    }

    /// <summary>Acts recorded as repairs of a Fault, in order.</summary>
    public ImmutableArray<Act> RepairsOf(Guid faultId) =>
        [.. _acts.Where(act => act.FaultId == faultId).OrderBy(act => act.At).ThenBy(act => act.Sequence)];

    /// <summary>What makes a reading void, in words; null where nothing does.</summary>
    public Message? VoidedBy(Reading reading, CompiledCheck check)
    {
        var definition = check.Definition;
        foreach (var act in _acts)
            if (IsLater(act.At, act.Sequence, reading) && definition.IsVoidedBy(act, reading.Key.On))
                return _catalogue.Acts.FirstOrDefault(a => a.Id == act.ActKind) is { Explained: true }
                    ? new("stale.voided", "@act." + act.ActKind, $"@act.{act.ActKind}.void")
                    : new("stale.voidedByAct", "@act." + act.ActKind);
        if (definition.VoidedWhere.IsEmpty)
            return null;
        foreach (var where in definition.VoidedWhere)
            if (where.Check is { } other && LaterReading(reading, other, where.Says))
                return new("stale.voidedByCheck", "@check." + other.Value);
        if (_recorders is not null)
            foreach (var (channel, acts) in _recorders)
                if (reading.Key.On.Kind != SubjectKind.Channel || reading.Key.On.Id == channel.Id)
                    foreach (var act in acts)
                        if (IsLater(act.At, act.Sequence, reading) && definition.IsVoidedAtRecorderBy(act))
                            return new("stale.voidedAt", "@act." + act.ActKind, Message.Said(channel.Recorder));
        return null;
    }

    /// <summary>Whether another check was read later, of the same subject or of the device as a whole, and said one of the words.</summary>
    private bool LaterReading(Reading reading, CheckId other, ImmutableArray<string> says)
    {
        if (!_catalogue.CheckById.TryGetValue(other, out var check))
            return false;
        var on = check.Per == reading.Key.On.Kind ? reading.Key.On with { Part = "" } : new Subject(SubjectKind.Place, _facts.Place.Id);
        foreach (var under in check.Under)
            if (
                Counts(new CheckKey(other, on, under)) is { } later
                && IsLater(later.TakenAt, later.Sequence, reading)
                && (says.IsEmpty || later.Value.Words().Any(says.Contains))
            )
                return true;
        return false;
    }

    /// <summary>Work on the recorders that show the device, where there was any; what was taken back is none.</summary>
    private static List<(ChannelFacts Channel, List<Act> Acts)>? WorkAtRecorders(CardFacts facts, Catalogue catalogue)
    {
        List<(ChannelFacts, List<Act>)>? all = null;
        foreach (var channel in facts.Channels)
            if (
                channel.RecorderFacts is { } recorder
                && recorder.Events.Any(static e => e is Act)
                && new CountingReadings(recorder with { Readings = [] }, catalogue)._acts is { Count: > 0 } acts
            )
                (all ??= []).Add((channel, acts));
        return all;
    }

    private static bool IsLater(DateTimeOffset at, long sequence, Reading reading) =>
        at > reading.TakenAt || (at == reading.TakenAt && sequence > reading.Sequence);

    private Standing StandingOf(Reading reading, CompiledCheck check)
    {
        if (IsWithdrawn(reading.Id))
            return Standing.Withdrawn;
        if (check.Definition.OfUnit && !IsOfPresentUnit(reading))
            return Standing.UnitGone;
        if (VoidedBy(reading, check) is not null)
            return Standing.VoidedByAct;
        if ((reading.Found & reading.Key.Under) != reading.Key.Under)
            return Standing.ConditionsDiffer;
        if (InstrumentOf(reading) is { } instrument)
        {
            if (!IsCalibrated(instrument, reading.TakenAt))
                return Standing.OutOfCalibration;
            if (instrument.Unreadable || instrument.InDoubt(check.Definition.Unit, reading.TakenAt))
                return Standing.InstrumentInDoubt;
        }
        return Standing.Counts;
    }

    private bool HungHere(Guid unit)
    {
        foreach (var one in _facts.Units)
            if (one.Id == unit)
                return true;
        return false;
    }

    /// <summary>By the day that it was at the site; its zone is asked only where a day more or less would matter.</summary>
    private bool IsCalibrated(Instrument instrument, DateTimeOffset takenAt)
    {
        var day = DateOnly.FromDateTime(takenAt.UtcDateTime);
        return day > DateOnly.MinValue
                && day < DateOnly.MaxValue
                && instrument.CalibratedAt(day.AddDays(-1))
                && instrument.CalibratedAt(day)
                && instrument.CalibratedAt(day.AddDays(1))
            || instrument.CalibratedAt(_facts.DayOf(takenAt));
    }

    /// <summary>A reading belongs to the unit that hung there when it was taken: by the intervals on record, whatever was thought when it
    /// was kept.</summary>
    private bool IsOfPresentUnit(Reading reading)
    {
        if (reading.UnitId is { } kept && !_facts.Units.IsDefaultOrEmpty && kept != _facts.Unit?.Id && !HungHere(kept))
            return false;
        return (_facts.Units.IsDefaultOrEmpty ? reading.UnitId ?? _facts.Unit?.Id : _facts.UnitAt(reading.TakenAt)?.Id ?? reading.UnitId)
            == _facts.Unit?.Id;
    }
}
