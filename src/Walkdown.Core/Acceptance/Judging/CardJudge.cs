using Walkdown.Core.Catalogues;
using Walkdown.Core.Diagnosis;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>Plans and judges one Card. Pure: the same facts and catalogue give the same Card.</summary>
/// <param name="plan">Where it is known already.</param>
/// <param name="watch">Told which check's readings are looked at for which row; for the tests of the map of dependence.</param>
/// <param name="facts">What it is judged from.</param>
/// <param name="catalogue">What it is judged by.</param>
internal sealed class CardJudge(CardFacts facts, Catalogue catalogue, CheckPlan? plan = null, Action<PlannedRow, CheckId>? watch = null)
{
    private readonly CheckPlan _plan = plan ?? CheckPlan.For(facts, catalogue);

    public CheckPlan Plan => _plan;

    private JudgeMemo NewMemo() => new(_plan.Features, facts, catalogue);

    /// <param name="before">The Card as it was judged from the same plan, before its last entries.</param>
    /// <param name="touched">Rows that the entries since may have changed; the others stay as they are.</param>
    public Card Judge(Card? before = null, Func<PlannedRow, bool>? touched = null)
    {
        var counting = new CountingReadings(facts, catalogue);
        var memo = NewMemo();
        var rows = new CardRow[_plan.Rows.Length];
        for (var i = 0; i < rows.Length; i++)
            rows[i] = before is not null && !touched!(_plan.Rows[i]) ? before.Rows[i] : JudgeRow(_plan.Rows[i], counting, memo);
        foreach (var order in _plan.Orders)
        {
            var row = rows[order.Row];
            var gates = Standing(rows, order.Gates, static state => state == State.Out);
            var holds = Standing(rows, order.Holds, static state => state is not (State.In or State.NotApplicable));
            if (gates.AsSpan().SequenceEqual(row.WaitsFor.AsSpan()) && holds.AsSpan().SequenceEqual(row.HeldBy.AsSpan()))
                continue;
            // One of the Card before belongs to that Card as well.
            if (before is not null && ReferenceEquals(row, before.Rows[order.Row]))
                rows[order.Row] = row with { WaitsFor = gates, HeldBy = holds };
            else
                (row.WaitsFor, row.HeldBy) = (gates, holds);
        }
        ImmutableArray<FaultOnCard> faults = facts.Faults.IsEmpty
            ? []
            :
            [
                .. facts
                    .Faults.OrderBy(f => f.RaisedAt)
                    .ThenBy(f => f.Sequence)
                    .Select(f => facts.KeyNow(f.Key, catalogue) is var key && key == f.Key ? f : f with { Key = key })
                    .Select(fault => Standing(fault, Array.Find(rows, row => row.Key == fault.Key), counting)),
            ];
        var settled = System.Runtime.InteropServices.ImmutableCollectionsMarshal.AsImmutableArray(rows);
        var blocked = BlockOf(counting);
        var verdict = VerdictOf(settled, faults, blocked, facts, _plan.Features.Contains(PracticeFeatures.UnexpectedRefuses));
        // What may be taken, and was not, is no debt.
        var (taken, total, unexplained) = (0, 0, 0);
        CardRow? next = null;
        RowWait? waits = null;
        DateTimeOffset? changes = null;
        foreach (var row in settled)
        {
            if (row.Wait?.ChangesAfter(facts.Now) is { } moment && (changes is null || moment < changes))
                changes = moment;
            if (row.State != State.NotApplicable && (row.Required || IsTaken(row)))
                total++;
            if (row.State != State.NotApplicable && IsTaken(row))
                taken++;
            if (row.IsUnexplained)
                unexplained++;
            if (row.AsksAt(facts.Now))
                next ??= row;
            // What cannot be taken yet is passed over, and comes back by itself.
            else if (
                row is { Required: true, State: State.NotTaken or State.Stale, Wait: { } wait }
                && (waits is null || Ending(wait) < Ending(waits))
            )
                waits = wait;
        }
        return new Card(
            settled,
            Legs(settled, facts.Now),
            verdict,
            faults,
            [.. facts.Events.OfType<Act>().OrderBy(a => a.At).ThenBy(a => a.Sequence)],
            next?.Id,
            taken,
            total,
            facts.Practice.Rule,
            catalogue.LimitSet.Edition,
            blocked,
            UpdateRunning(counting)
        )
        {
            Unexpected = unexplained,
            WaitsUntil = next is null && waits is { Until: { } until } && until > facts.Now ? until : null,
            WaitsFor = next is null ? waits?.For : null,
            WaitsEnds = next is null ? waits?.Ends : next.Wait?.Ends,
            WaitsChangeAt = changes,
            MostLikely = Diagnosis.Causes.OfCard(settled),
            WorstRow = WorstOf(settled)?.Id,
            Tools = ToolsOf(settled),
            CautionsSaid = CautionsOf(settled),
            Unreadable = facts.Events.OfType<UnreadableEvent>().Count() + facts.Damaged.Length,
        };
    }

    private static CardRow? WorstOf(ImmutableArray<CardRow> rows)
    {
        CardRow? worst = null;
        foreach (var row in rows)
            if (
                row is { IsFailing: true, Conceded: null }
                && (
                    worst is null
                    || row.State == State.Out && worst.State != State.Out
                    || row.State == worst.State && (row.Spare?.Share ?? 0) < (worst.Spare?.Share ?? 0)
                )
            )
                worst = row;
        return worst;
    }

    private ImmutableArray<string> ToolsOf(ImmutableArray<CardRow> rows)
    {
        Dictionary<string, int>? wanted = null;
        foreach (var row in rows)
            if (!row.Check.Tools.IsEmpty && row.AsksAt(facts.Now))
                foreach (var tool in row.Check.Tools)
                    (wanted ??= [])[tool] = wanted.GetValueOrDefault(tool) + 1;
        return wanted is null ? [] : [.. wanted.OrderByDescending(w => w.Value).Select(w => w.Key)];
    }

    private static ImmutableArray<string> CautionsOf(ImmutableArray<CardRow> rows)
    {
        HashSet<string>? said = null;
        foreach (var row in rows)
            if (!row.Check.Cautions.IsEmpty && IsTaken(row))
                foreach (var caution in row.Check.Cautions)
                    (said ??= []).Add(caution);
        return said is null ? [] : [.. said];
    }

    private DateTimeOffset Ending(RowWait wait) => wait.Until is { } until && until > facts.Now ? until : DateTimeOffset.MaxValue;

    /// <summary>Runs one part of judging a row. What throws spoils this row and no other: the sentence says so.</summary>
    private static T Alone<TArg, T>(TArg arg, Func<TArg, T> part, Func<TArg, Message, T> spoiled)
    {
        try
        {
            return part(arg);
        }
        catch (Exception problem) when (problem is not (OutOfMemoryException or OperationCanceledException))
        {
            return spoiled(arg, new Message("because.cannot-judge", problem is BadInputException bad ? bad.Field : problem.GetType().Name));
        }
    }

    public CardRow Preview(CheckKey key, ReadingValue value, Condition found, Guid? instrumentId, bool seen)
    {
        var planned = _plan.Rows.First(row => row.Key == key);
        var reading = new Reading(
            Guid.Empty,
            key,
            facts.Unit?.Id,
            value,
            found,
            catalogue.ReadWith(planned.Check, facts.Instruments, instrumentId),
            ReadingSource.Typed,
            Guid.Empty,
            facts.Now,
            facts.Now,
            long.MaxValue
        )
        {
            Evidence = seen ? [new Entries.ReadingEvidence(Guid.Empty, "")] : [],
        };
        return JudgeRow(planned, new CountingReadings(facts, catalogue, reading), NewMemo());
    }

    /// <summary>State of the first row of a check; null where the Card has none.</summary>
    internal State? StateOf(CheckId check) =>
        _plan.Rows.FirstOrDefault(row => row.Key.Check == check) is { } planned
            ? JudgeRow(planned, new CountingReadings(facts, catalogue), NewMemo()).State
            : null;

    /// <summary>What should be done before a row, elsewhere, and is not.</summary>
    private static ImmutableArray<Message> NeedsOf(RowContext context)
    {
        if (context.Check.Needs.IsEmpty)
            return [];
        var open = ImmutableArray.CreateBuilder<Message>();
        foreach (var need in context.Check.Needs)
        {
            if (need.Act is { } act && context.Counting.LastAct(act) is null)
                open.Add(new("needs.act", "@act." + act));
            if (need.Recorder is { } check)
                foreach (var channel in context.Facts.Channels.DistinctBy(c => c.Recorder))
                    if (
                        channel.RecorderFacts is { } recorder
                        && context.Memo.RecorderState(recorder, check) is not (null or State.In or State.NotApplicable)
                    )
                        open.Add(new("needs.recorder", Message.Said(channel.Recorder), "@check." + check.Value));
        }
        return open.DrainToImmutable();
    }

    private static bool IsTaken(CardRow row) => row.State is State.In or State.TooClose or State.Out or State.NotJudged;

    private void Watch(PlannedRow planned, CountingReadings counting)
    {
        if (watch is not null)
            Tell(planned, counting, watch);
    }

    private static void Tell(PlannedRow planned, CountingReadings counting, Action<PlannedRow, CheckId> of) =>
        counting.Watch = check => of(planned, check);

    private CardRow JudgeRow(PlannedRow planned, CountingReadings counting, JudgeMemo memo)
    {
        // A row that is watched is judged as if it were the only one: nothing that another has worked out is taken over.
        if (watch is not null)
            memo = NewMemo();
        Watch(planned, counting);
        var context = new RowContext(facts, catalogue, planned, counting, memo);
        var check = planned.Check;
        var (window, cannot) = Alone(
            context,
            static context => (WindowOf(context), (Message?)null),
            static (_, why) => ((LimitWindow?)null, why)
        );
        if (facts.DamageUnder(planned.Key.On) is { } damaged)
            cannot = new("because.register-damaged", damaged.Cells);
        var expected = planned.Compiled.Expect is not null
            ? Alone(
                context,
                static context => context.Row.Compiled.Expect!(context),
                static (context, why) => new Expectation(null, null, null, context.Check.Expect!, [], why)
            )
            : null;
        var read = counting.Of(planned.Key);
        var counted = LastOf(read, static standing => standing == Acceptance.Standing.Counts).Reading;
        var counts = counted is null ? null : AttemptOf(context, counted, Acceptance.Standing.Counts, window, cannot);
        var exemption = counting.ExemptionOf(planned.Key);
        var occasion = planned is { Required: false, MayBeDue: true } ? OccasionOf(context) : null;
        var because = ImmutableArray<Message>.Empty;
        var isUnexpected = false;
        Ruling? ruling = null;
        State state;
        if (exemption is not null)
            state = State.NotApplicable;
        else if (check.Entry == EntryKind.Derived)
            (state, because) = Derived(context, window, cannot);
        else if (counts is not null)
        {
            (state, because) = (counts.State, counts.Because);
            if (LimitChanged(counted?.Seen, window) is { } changed)
                because = because.Add(changed);
            // By eye, where no rule says what is right: a named person does, for this reading alone.
            if (counting.RulingOf(planned.Key) is { } said && said.Of == counts.ReadingId)
            {
                if (said.Says == RulingSays.Explained)
                    ruling = said;
                else if (state == State.NotJudged)
                {
                    ruling = said;
                    state = said.Says == RulingSays.In ? State.In : State.Out;
                    because = because.Insert(0, new Message("because.by-eye", Message.Said(said.RuledBy), Message.Said(said.Reason)));
                }
            }
            isUnexpected = IsUnexpected(counts, expected);
        }
        else if (LastOf(read, static standing => standing != Acceptance.Standing.Withdrawn) is { Reading: not null } last)
        {
            state = State.Stale;
            because = [StaleBecause(planned, last, counting)];
        }
        else
            state = State.NotTaken;
        var concession =
            state is State.Out or State.TooClose
            && counting.ConcessionOf(planned.Key) is { } allowed
            && (counts is null || allowed.At >= counts.TakenAt)
                ? allowed
                : null;
        // One that was given for a time holds no longer than that, and says so.
        if (concession?.Until is { } until && DateOnly.FromDateTime(facts.Now.DateTime) > until)
        {
            because = because.Add(
                new Message(
                    "because.concession-lapsed",
                    Message.Said(concession.AllowedBy),
                    until.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture)
                )
            );
            concession = null;
        }
        // What was out before is looked up when somebody reads the row: no state rests on it.
        var earlier = exemption is null && counts is { State: State.In } ? EarlierOf(context, counts, read) : default;
        return new CardRow(
            null!,
            planned.Key,
            check,
            planned.Required || occasion is not null,
            state,
            counts?.ReadingId,
            window,
            expected,
            counts?.Spare,
            earlier.Reading is null ? because : default,
            read.IsEmpty ? []
                : read.Length == 1 && counts is not null ? [counts]
                : default,
            [],
            exemption?.Reason,
            concession,
            counting.NotesOf(planned.Key),
            state is State.Out or State.TooClose && counts is not null
                ? Alone(
                    (context, counts),
                    static a => Causes.CausesOf(a.context, a.counts, a.context.Catalogue),
                    static (_, _) => ImmutableArray<LikelyCause>.Empty
                )
                : [],
            ItemsOf(context),
            check.Entry == EntryKind.Light ? context.Lights : [],
            []
        )
        {
            Unexpected = isUnexpected ? default : [],
            Ruling = ruling,
            Of = context.Facts.WhichOf(planned.Key.On),
            Wait = RowWait.Of(context),
            CountdownSeconds = check.Countdown is { } open ? context.Catalogue.Figure(open.Figure) : null,
            Needs = NeedsOf(context),
            SheetModel = context.Model,
            DueBecause = occasion,
            Counted = counts,
            Past =
                read.IsEmpty || read.Length == 1 && counts is not null
                    ? null
                    : new RowPast(this, planned, counting, counts, window, cannot, earlier, because),
        };
    }

    /// <summary>What nobody enters is worked out from what is on record.</summary>
    private static (State, ImmutableArray<Message>) Derived(RowContext context, LimitWindow? window, Message? cannot)
    {
        if (cannot is not null)
            return (State.NotJudged, [cannot]);
        var judged = Alone(
            (context, window),
            static a => a.context.Row.Compiled.Judge!(a.context, new UnreadableValue(), a.window, null, a.context.Facts.Now),
            static (_, why) => GeneralJudges.NotJudged(why)
        );
        return (judged.State, judged.Because);
    }

    /// <summary>What made a row due that is else only offered; null: nothing did.</summary>
    private static Message? OccasionOf(RowContext context)
    {
        foreach (var occasion in context.Check.DueWhen)
        {
            if (occasion.From is { } day && DateOnly.FromDateTime(context.Facts.Now.DateTime) >= day)
                return new("due.since", day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture));
            if (occasion.Act is { } act && context.Counting.LastAct(act) is not null)
                return new("due.after", "@act." + act);
            if (occasion.Check is not { } check)
                continue;
            var on =
                context.Catalogue.CheckById.GetValueOrDefault(check)?.Per == context.Key.On.Kind
                    ? context.Key.On with
                    {
                        Part = "",
                    }
                    : new Subject(SubjectKind.Place, context.Facts.Place.Id);
            if (
                context.Counting.Value(check, on) is { } value
                && (occasion.Says.IsEmpty || value.Words().Any(w => occasion.Says.Contains(w)))
            )
                return new("due.by", "@check." + check.Value);
        }
        return null;
    }

    /// <summary>Of a pack what its model's own does not hold is to be brought; the items of other rows are the same on every
    /// Card.</summary>
    private static ImmutableArray<CardItem> ItemsOf(RowContext context) =>
        context.Check.Id == KnownChecks.Pack && context.Model is { Contents: { IsEmpty: false } contents }
            ? Pack(context.Items, contents)
            : context.Row.CardItems;

    private static ImmutableArray<CardItem> Pack(ImmutableArray<CheckItem> items, ImmutableArray<string> contents) =>
        [.. items.Select(item => new CardItem(item.Id, item.Out, item.Bring || !contents.Contains(item.Id), item.Loose))];

    private static (Reading Reading, Standing Standing) LastOf(
        ReadOnlySpan<(Reading Reading, Standing Standing)> read,
        Func<Standing, bool> wanted
    )
    {
        for (var i = read.Length - 1; i >= 0; i--)
            if (wanted(read[i].Standing))
                return read[i];
        return default;
    }

    /// <summary>
    /// Further from what the run should read than both uncertainties allow (docs/calculations.md, W): that, and what would explain it in
    /// its own terms. In, too close or out stays what the limits say.
    /// </summary>
    private static bool IsUnexpected(Attempt counts, Expectation? expected) =>
        counts.Value is NumberValue number
        && expected is { Value: not null, Between: { } between }
        && !between.Meets(number.Value, counts.HalfWidth ?? 0);

    internal static ImmutableArray<Message> Explained(Attempt counts, Expectation expected)
    {
        var number = (NumberValue)counts.Value;
        var what = new Message(
            "unexpected.reads",
            Message.Number(number.Value),
            Message.Number(expected.Between!.Low),
            Message.Number(expected.Between.High),
            "@unit." + Codes.Of(expected.Value!.Value.Unit)
        );
        return [what, .. Alone((expected, number.Value), static a => a.expected.Explain?.Invoke(a.Value) ?? [], static (_, _) => [])];
    }

    /// <summary>The limits that the reading was kept under, where a later edition says otherwise.</summary>
    private Message? LimitChanged(LimitSeen? kept, LimitWindow? window)
    {
        if (kept is not { } seen || seen.Edition == catalogue.LimitSet.Edition)
            return null;
        if (Same(seen.Min, window?.Min) && Same(seen.Max, window?.Max))
            return null;
        return new Message(
            "because.limit-changed",
            seen.Min is { } min ? Message.Number(min) : "\u2013",
            seen.Max is { } max ? Message.Number(max) : "\u2013",
            seen.Edition
        );

        static bool Same(double? a, double? b) => a is null && b is null || a is { } x && b is { } y && Math.Abs(x - y) < 1e-6;
    }

    /// <summary>The attempt before the one that counts, where no work was recorded between them; nothing where there is none
    /// such.</summary>
    private static (Reading Reading, Standing Standing) EarlierOf(
        RowContext context,
        Attempt counts,
        ReadOnlySpan<(Reading Reading, Standing Standing)> read
    )
    {
        for (var i = read.Length - 1; i >= 0; i--)
            if (
                read[i].Reading.TakenAt <= counts.TakenAt
                && read[i].Reading.Id != counts.ReadingId
                && read[i].Standing is Acceptance.Standing.Superseded or Acceptance.Standing.VoidedByAct
            )
                return
                    read[i].Standing == Acceptance.Standing.Superseded
                    && !context.Counting.WorkedBetween(context.Key, read[i].Reading.TakenAt, counts.TakenAt)
                    ? read[i]
                    : default;
        return default;
    }

    /// <summary>Every reading of a row, oldest first.</summary>
    internal ReadOnlySpan<(Reading Reading, Standing Standing)> ReadOf(PlannedRow planned, CountingReadings counting)
    {
        Watch(planned, counting);
        return counting.Of(planned.Key);
    }

    /// <summary>One more reading of a row, judged as the row was.</summary>
    internal Attempt Again(
        PlannedRow planned,
        CountingReadings counting,
        (Reading Reading, Standing Standing) read,
        LimitWindow? window,
        Message? cannot
    )
    {
        Watch(planned, counting);
        return AttemptOf(new RowContext(facts, catalogue, planned, counting, NewMemo()), read.Reading, read.Standing, window, cannot);
    }

    /// <summary>An update that was begun and not ended: until then nobody pulls a plug or sets anything.</summary>
    private static Message? UpdateRunning(CountingReadings counting) =>
        counting.LastAct("update-started") is { } began
        && (counting.LastAct("updated") is not { } ended || ended.At < began.At || ended.At == began.At && ended.Sequence < began.Sequence)
            ? new("hold.updating")
            : null;

    /// <summary>Checks of these rows that stand so, each once.</summary>
    private static ImmutableArray<CheckId> Standing(CardRow[] rows, ImmutableArray<int> of, Func<State, bool> stands)
    {
        ImmutableArray<CheckId> checks = [];
        foreach (var i in of)
            if (stands(rows[i].State) && !checks.Contains(rows[i].Key.Check))
                checks = checks.Add(rows[i].Key.Check);
        return checks;
    }

    private T? Last<T>(CountingReadings counting, Func<T, bool> wanted)
        where T : CardEvent =>
        facts
            .Events.OfType<T>()
            .Where(e => wanted(e) && !counting.IsWithdrawn(e.Id))
            .OrderBy(e => e.At)
            .ThenBy(e => e.Sequence)
            .LastOrDefault();

    private static LimitWindow? WindowOf(RowContext context)
    {
        var compiled = context.Row.Compiled;
        if (compiled.Limits.IsEmpty || compiled.Window is not null)
            return compiled.Window;
        var limits = context.Memo.Limits;
        limits.Clear();
        foreach (var (given, made) in compiled.Limits)
            if (given is not null)
                limits.Add(given);
            else
                made!(context, limits);
        return LimitWindow.Intersect(limits);
    }

    private static Attempt AttemptOf(RowContext context, Reading reading, Standing standing, LimitWindow? window, Message? cannot)
    {
        var judged = Alone(
            (context, reading, window, cannot),
            static a => JudgedOf(a.context, a.reading, a.window, a.cannot),
            static (_, why) => GeneralJudges.NotJudged(why)
        );
        return new Attempt(
            reading.Id,
            reading.Value,
            judged.State,
            standing,
            judged.Spare,
            judged.HalfWidth,
            reading.Found,
            reading.Source,
            reading.By,
            reading.InstrumentId,
            reading.TakenAt,
            reading.ReceivedAt,
            judged.Because,
            judged.Map,
            context.Counting.WithdrawalOf(reading.Id)?.Reason
        )
        {
            Evidence = reading.Evidence,
        };
    }

    private static Judged JudgedOf(RowContext context, Reading reading, LimitWindow? window, Message? cannot)
    {
        if (reading.Value is UnreadableValue)
            return GeneralJudges.NotJudged(new Message("because.unreadable"));
        // Taken when the check asked for something else: the number stays, and nothing is made of it.
        if (ReadingRules.Mismatch(context.Check, reading.Value) is { } other)
            return GeneralJudges.NotJudged(other);
        if (cannot is not null)
            return GeneralJudges.NotJudged(cannot);
        var accuracy = reading.Value is NumberValue number
            ? context.Counting.InstrumentOf(reading)?.AccuracyAt(context.Check.Unit, number.Value) ?? context.Row.Compiled.AsRead
            : null;
        var judged = context.Row.Compiled.Judge!(context, reading.Value, window, accuracy, reading.TakenAt);
        if (judged.State is not (State.In or State.TooClose))
            return judged;
        // What is right may still say nothing: before its time, or seen by nobody who comes later.
        if (RowWait.Of(context)?.TooEarly(reading.TakenAt) is { } early)
            return judged with { State = State.NotJudged, Because = judged.Because.Insert(0, early) };
        if (context.Check.Picture && reading.Evidence.IsDefaultOrEmpty)
            return judged with { State = State.NotJudged, Because = judged.Because.Insert(0, new Message("because.no-picture")) };
        return judged;
    }

    private static Message StaleBecause(PlannedRow planned, (Reading Reading, Standing Standing) last, CountingReadings counting) =>
        last.Standing != Acceptance.Standing.VoidedByAct
            ? new Message("stale." + Codes.Of(last.Standing))
            : counting.VoidedBy(last.Reading, planned.Compiled)!;

    private static FaultOnCard Standing(FaultRecord fault, CardRow? row, CountingReadings counting)
    {
        var proof = row?.Counted;
        // By eye counts here too: a named person looked, after the Fault was raised.
        var closed =
            row is { State: State.In } && proof is not null && proof.ReadingId != fault.FromReading && proof.TakenAt > fault.RaisedAt;
        var ended = closed ? null : counting.EndOf(fault.Id);
        var repairs = counting.RepairsOf(fault.Id);
        return new FaultOnCard(
            fault,
            !closed && ended is null,
            closed ? proof!.ReadingId : null,
            closed ? proof!.TakenAt : ended?.At,
            repairs
        )
        {
            Ended = ended,
            // While its row says that something is wrong, only a reading, or a concession, speaks against it.
            MayEnd = !closed && ended is null && row is not { State: State.Out or State.TooClose },
        };
    }

    /// <summary>The newest hindrance that is neither over nor taken back. One whose day has passed still stands until somebody says it is
    /// over.</summary>
    private Block? BlockOf(CountingReadings counting)
    {
        var over = facts.Events.OfType<BlockEnd>().Where(e => !counting.IsWithdrawn(e.Id)).Select(e => e.Of).ToHashSet();
        return Last<Block>(counting, b => !over.Contains(b.Id));
    }

    private static readonly ImmutableArray<string> Numbers =
    [
        .. Enumerable.Range(0, 256).Select(n => n.ToString(CultureInfo.InvariantCulture)),
    ];

    /// <summary>Rows by their number: their names are long, and of most nothing is said.</summary>
    private static string NumberOf(int row) => row < Numbers.Length ? Numbers[row] : row.ToString(CultureInfo.InvariantCulture);

    private static CardVerdict VerdictOf(
        ImmutableArray<CardRow> rows,
        ImmutableArray<FaultOnCard> faults,
        Block? blocked,
        CardFacts facts,
        bool isStrict
    )
    {
        var lines = new List<DeviceVerdict.CheckLine>(rows.Length + 4);
        for (var i = 0; i < rows.Length; i++)
        {
            var row = rows[i];
            lines.Add(
                new(
                    NumberOf(i),
                    row.Required,
                    row.State switch
                    {
                        State.In => DeviceVerdict.CheckOutcome.In,
                        State.Out => DeviceVerdict.CheckOutcome.Out,
                        State.TooClose => DeviceVerdict.CheckOutcome.TooClose,
                        State.NotApplicable => DeviceVerdict.CheckOutcome.NotApplicable,
                        _ => DeviceVerdict.CheckOutcome.NotDone,
                    },
                    row.ExemptedBecause,
                    true,
                    row.Conceded?.AllowedBy,
                    row.Check.IfOut == IfOut.Refuse
                )
            );
        }
        // A reading that a named person judged in by eye is a departure that the Card names.
        for (var i = 0; i < lines.Count; i++)
            if (rows[i] is { State: State.In, Ruling: { Says: RulingSays.In } eye })
                lines[i] = lines[i] with { Outcome = DeviceVerdict.CheckOutcome.TooClose, ConcededBy = eye.RuledBy };
        if (isStrict)
            foreach (var row in rows)
                if (row is { Required: true, IsUnexplained: true, State: State.In or State.TooClose })
                    lines.Add(new("unexpected:" + row.Id, true, DeviceVerdict.CheckOutcome.Out));
        // Nobody knows how far such a number may be off: it is in by itself alone, and that is said. Asked of the reading that counts:
        // the row's own sentences are made only where somebody reads them.
        var vague = 0;
        foreach (var row in rows)
            if (row is { Required: true, State: State.In, Counted: { } counted } && Says(counted, "because.no-accuracy"))
            {
                vague++;
                lines.Add(new("accuracy:" + row.Id, false, DeviceVerdict.CheckOutcome.Out));
            }
        var unreadable = facts.Events.OfType<UnreadableEvent>().Count() + facts.Damaged.Length;
        if (unreadable > 0)
            lines.Add(new("unreadable", true, DeviceVerdict.CheckOutcome.NotDone));

        // A conceded row concedes the Fault raised from it: one departure is one concession.
        var conceded = new Dictionary<CheckKey, string>();
        foreach (var row in rows)
            if (row.Conceded is { } by)
                conceded.Add(row.Key, by.AllowedBy);
        var result = DeviceVerdict.OfDifferent(
            lines,
            [
                .. faults.Select(f => new DeviceVerdict.FaultLine(
                    "fault:" + f.Fault.Id,
                    f.Fault.Severity,
                    !f.Open ? DeviceVerdict.FaultStanding.Closed
                        : conceded.ContainsKey(f.Fault.Key) ? DeviceVerdict.FaultStanding.Conceded
                        : DeviceVerdict.FaultStanding.Open,
                    conceded.GetValueOrDefault(f.Fault.Key)
                )),
            ]
        );
        var count = new Count(rows);
        var because = ImmutableArray.CreateBuilder<Message>();
        var openFaults = faults.Count(f => f.Open && result.Failing.Contains("fault:" + f.Fault.Id));
        Say(
            "verdict.out",
            result.Failing.Count(id =>
                !id.StartsWith("fault:", StringComparison.Ordinal) && !id.StartsWith("unexpected:", StringComparison.Ordinal)
            )
        );
        Say("verdict.unexpected-refuses", result.Failing.Count(id => id.StartsWith("unexpected:", StringComparison.Ordinal)));
        Say("verdict.open-faults", openFaults);
        Say("verdict.not-taken", count.NotTaken);
        Say("verdict.stale", count.Stale);
        Say("verdict.not-judged", count.NotJudged);
        Say("verdict.unreadable", unreadable);
        Say("verdict.too-close", count.TooClose);
        if (blocked is not null && result.Verdict == Verdict.Open)
            because.Add(
                blocked.SetAside
                    ? new("verdict.set-aside", Message.Said(blocked.Reason))
                    : new("verdict.blocked", Message.Said(blocked.BlockedBy), Message.Said(blocked.Reason))
            );
        Say("verdict.conceded", conceded.Count);
        Say("verdict.by-eye", count.ByEye);
        Say("verdict.remarks", result.Remarks.Length - vague);
        Say("verdict.no-accuracy", vague);
        if (!isStrict)
            Say("verdict.unexpected", count.Unexplained);
        if (rows.IsEmpty)
            because.Add(new Message("verdict.no-checks"));
        if (result.Verdict == Verdict.Accepted)
            because.Add(new Message("verdict.all-in", count.In.ToString(CultureInfo.InvariantCulture)));
        return new CardVerdict(
            result.Verdict,
            because.ToImmutable(),
            Named(result.Failing),
            Named(result.Incomplete),
            Named(result.Conceded),
            Named(result.Remarks),
            [.. AllSections.Where(count.Covers)]
        );

        ImmutableArray<string> Named(ImmutableArray<string> ids) =>
            ids.IsEmpty
                ? ids
                : [.. ids.Select(id => int.TryParse(id, NumberStyles.None, CultureInfo.InvariantCulture, out var row) ? rows[row].Id : id)];

        void Say(string code, int count)
        {
            if (count > 0)
                because.Add(new Message(count == 1 ? code + ".one" : code, count.ToString(CultureInfo.InvariantCulture)));
        }
    }

    private static bool Says(Attempt counted, string code)
    {
        foreach (var because in counted.Because)
            if (because.Code == code)
                return true;
        return false;
    }

    /// <summary>How many rows stand how, counted in one pass.</summary>
    private readonly struct Count
    {
        private readonly uint _covered;

        public Count(ImmutableArray<CardRow> rows)
        {
            foreach (var row in rows)
            {
                if (row.IsUnexplained)
                    Unexplained++;
                if (row.State == State.In)
                    In++;
                if (row is { State: State.In, Ruling.Says: RulingSays.In })
                    ByEye++;
                if (!row.Required)
                    continue;
                if (row.State != State.NotApplicable)
                    _covered |= 1u << (int)row.Check.Section;
                switch (row.State)
                {
                    case State.NotTaken:
                        NotTaken++;
                        break;
                    case State.Stale:
                        Stale++;
                        break;
                    case State.NotJudged:
                        NotJudged++;
                        break;
                    case State.TooClose when row.Conceded is null:
                        TooClose++;
                        break;
                }
            }
        }

        public int In { get; }
        public int NotTaken { get; }
        public int Stale { get; }
        public int NotJudged { get; }
        public int TooClose { get; }
        public int ByEye { get; }
        public int Unexplained { get; }

        public bool Covers(Section section) => (_covered & (1u << (int)section)) != 0;
    }

    private static readonly Leg[] AllLegs = Enum.GetValues<Leg>();
    private static readonly Section[] AllSections = Enum.GetValues<Section>();

    private static ImmutableArray<LegSummary> Legs(ImmutableArray<CardRow> rows, DateTimeOffset now)
    {
        var sums = new LegSum[AllLegs.Length];
        foreach (var row in rows)
        {
            ref var sum = ref sums[(int)row.Check.Leg];
            sum.IsAsked |= row.Required;
            if (row.State == State.NotApplicable || !row.Required && !IsTaken(row))
                continue;
            sum.Total++;
            if (IsTaken(row))
                sum.Taken++;
            else if (row.Wait?.IsWaiting(now) == true)
                sum.Waiting++;
            var state = row.State == State.Stale ? State.NotTaken : row.State;
            if (Badness(state) > Badness(sum.Worst))
                (sum.Worst, sum.Tightest) = (state, null);
            if (row.State == sum.Worst && row.Spare is { } spare && (sum.Tightest is null || spare.Share < sum.Tightest.Spare!.Share))
                sum.Tightest = row;
        }
        return
        [
            .. AllLegs.Select(leg =>
                sums[(int)leg] is { Total: > 0 } sum
                    ? new LegSummary(leg, sum.Worst, sum.Taken, sum.Total, sum.Tightest?.Id, sum.IsAsked) { Waiting = sum.Waiting }
                    : new LegSummary(leg, State.NotApplicable, 0, 0, null, sums[(int)leg].IsAsked)
            ),
        ];

        static int Badness(State state) =>
            state switch
            {
                State.Out => 4,
                State.TooClose => 3,
                State.NotJudged => 2,
                State.NotTaken => 1,
                _ => 0,
            };
    }

    private struct LegSum
    {
        public int Total;
        public int Taken;
        public int Waiting;
        public State Worst;
        public CardRow? Tightest;
        public bool IsAsked;
    }
}
