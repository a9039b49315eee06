using Walkdown.Core.Catalogues;

namespace Walkdown.Core.Acceptance;

/// <summary>
/// A Card with what it was judged from, so that an entry is judged from where it touches: the rows that it is about, and those that lean on
/// them (<see cref="Topics.Registry.LeansOn"/>). The same entries give the same Card, judged at once or one after another.
/// </summary>
public sealed class JudgedCard
{
    private readonly CheckPlan _plan;

    private JudgedCard(CardFacts facts, Catalogue catalogue, CheckPlan plan, Card card)
    {
        (Facts, Catalogue, _plan, Card) = (facts, catalogue, plan, card);
    }

    /// <summary>What it was judged from.</summary>
    public CardFacts Facts { get; }

    /// <summary>What it was judged by.</summary>
    public Catalogue Catalogue { get; }

    /// <summary>The Card.</summary>
    public Card Card { get; }

    /// <summary>The rows that the Card has, judged or not.</summary>
    public ImmutableArray<PlannedRow> Plan => _plan.Rows;

    /// <summary>Plans and judges all of it.</summary>
    public static JudgedCard Of(CardFacts facts, Catalogue catalogue)
    {
        var judge = new CardJudge(facts, catalogue);
        return new JudgedCard(facts, catalogue, judge.Plan, judge.Judge());
    }

    /// <summary>The row of an id; null where the Card has none such.</summary>
    public PlannedRow? Row(string? id)
    {
        foreach (var row in _plan.Rows)
            if (row.Id == id)
                return row;
        return null;
    }

    /// <summary>The limits of a row as they stand, to be kept beside a reading.</summary>
    public LimitSeen? LimitOf(CheckKey key)
    {
        foreach (var row in Card.Rows)
            if (row.Key == key)
                return row.Window is { } window ? new LimitSeen(Catalogue.LimitSet.Edition, window.Min, window.Max) : null;
        return null;
    }

    /// <summary>The Card after more entries, or at another moment. What the entries do not touch is not judged again.</summary>
    public JudgedCard At(CardFacts next) =>
        ReferenceEquals(next, Facts) ? this
        : !IsSameDesign(next) ? Of(next, Catalogue)
        : TouchedBy(next) is { } touched
            ? touched.IsNothing && !HasWaitChanged(next.Now) && next.Faults == Facts.Faults && next.Events == Facts.Events
                    ? new JudgedCard(next, Catalogue, _plan, Card)
                : new JudgedCard(
                    next,
                    Catalogue,
                    _plan,
                    new CardJudge(next, Catalogue, _plan).Judge(
                        Card,
                        HasWaitChanged(next.Now) ? row => row.Check.Wait is not null || touched.Touches(row) : touched.Touches
                    )
                )
        : Of(next, Catalogue);

    /// <summary>Something that a row waited for has passed, or is here no longer.</summary>
    private bool HasWaitChanged(DateTimeOffset now) => Card.WaitsChangeAt is { } moment && moment <= now;

    /// <summary>Everything but the entries is the very same, and so is the day, on which concessions may end.</summary>
    private bool IsSameDesign(CardFacts next) =>
        ReferenceEquals(next.Place, Facts.Place)
        && ReferenceEquals(next.Unit, Facts.Unit)
        && next.Units == Facts.Units
        && next.Heads == Facts.Heads
        && next.Runs == Facts.Runs
        && next.Channels == Facts.Channels
        && ReferenceEquals(next.Supply, Facts.Supply)
        && next.Practice == Facts.Practice
        && next.Site == Facts.Site
        && next.Instruments == Facts.Instruments
        && next.Damaged == Facts.Damaged
        && next.TimeZone == Facts.TimeZone
        && next.Now.Date == Facts.Now.Date
        && StartsWith(next.Readings, Facts.Readings)
        && StartsWith(next.Events, Facts.Events);

    private static bool StartsWith<T>(ImmutableArray<T> all, ImmutableArray<T> first)
        where T : class
    {
        if (all.Length < first.Length)
            return false;
        for (var i = 0; i < first.Length; i++)
            if (!ReferenceEquals(all[i], first[i]))
                return false;
        return true;
    }

    /// <summary>What the new entries touch; null where that may be anything.</summary>
    private Touched? TouchedBy(CardFacts next)
    {
        var touched = new Touched();
        for (var i = Facts.Readings.Length; i < next.Readings.Length; i++)
            touched.Reading(Now(next.Readings[i].Key));
        for (var i = Facts.Events.Length; i < next.Events.Length; i++)
            switch (next.Events[i])
            {
                case Exemption e:
                    touched.Row(Now(e.Key));
                    break;
                case Concession e:
                    touched.Row(Now(e.Key));
                    break;
                case Ruling e:
                    touched.Row(Now(e.Key));
                    break;
                case Note { Key: { } key }:
                    touched.Row(Now(key));
                    break;
                case Note or Block or BlockEnd or FaultEnd or PlateDrive or PlatePassed or PlateList or EventPressed:
                    break;
                case Withdrawal e when next.Readings.FirstOrDefault(r => r.Id == e.Of) is { } reading:
                    touched.Reading(Now(reading.Key));
                    break;
                // Work voids what it voids, and a withdrawal may bring any of this back.
                default:
                    return null;
            }
        return touched;

        CheckKey Now(CheckKey key) => next.KeyNow(key, Catalogue);
    }

    /// <summary>A handful as a rule: looked through one by one, which asks no hash of every row.</summary>
    private sealed class Touched
    {
        private readonly List<CheckKey> _rows = [];
        private readonly List<CheckId> _checks = [];

        public bool IsNothing => _rows.Count == 0;

        public void Row(CheckKey key)
        {
            if (!_rows.Contains(key))
                _rows.Add(key);
        }

        public void Reading(CheckKey key)
        {
            Row(key);
            if (!_checks.Contains(key.Check))
                _checks.Add(key.Check);
        }

        public bool Touches(PlannedRow row)
        {
            foreach (var check in _checks)
                if (row.Compiled.LeansOn.Contains(check))
                    return true;
            foreach (var key in _rows)
                if (key == row.Key)
                    return true;
            return false;
        }
    }
}
