using Walkdown.Core.Cabling;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>State of a row. Stale: it was read, and what came after voids the reading. NotJudged: it was read, and nothing says what is
/// right.</summary>
public enum State
{
    In,
    TooClose,
    Out,
    NotTaken,
    Stale,
    NotApplicable,
    NotJudged,
}

/// <summary>Whether one reading counts, and if not, why not.</summary>
public enum Standing
{
    Counts,
    Superseded,
    Withdrawn,
    VoidedByAct,
    UnitGone,
    OutOfCalibration,
    ConditionsDiffer,
    InstrumentInDoubt,
}

/// <summary>A figure an expectation rests on, with its origin.</summary>
/// <param name="PlusMinus">How far it may be off, with its unit; null where that is not known or does not enter.</param>
/// <param name="HalfFrom">Where that half width comes from.</param>
public readonly record struct Term(string Name, string Value, Origin Origin, string? PlusMinus = null, Message? HalfFrom = null);

/// <summary>What the reading should be, computed from the design. <paramref name="WhyNone"/> says why there is no number.</summary>
public sealed record Expectation(
    Quantity? Value,
    double? PlusMinus,
    string? Word,
    string Method,
    ImmutableArray<Term> From,
    Message? WhyNone = null
)
{
    private ImmutableArray<Term> _from = From;

    /// <summary>What it rests on; put into words when somebody reads it.</summary>
    public ImmutableArray<Term> From
    {
        get => _from.IsDefault ? _from = InWords?.Invoke() ?? [] : _from;
        init => _from = value;
    }

    /// <summary>Gives <see cref="From"/> where it was made without.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    internal Func<ImmutableArray<Term>>? InWords { get; init; }

    /// <summary>The interval that the inputs allow; null where there is no number.</summary>
    public Band? Between { get; init; }

    /// <summary>What would bring it to a reading, in its own terms; asked for only where a reading is not met.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    internal Func<double, ImmutableArray<Message>>? Explain { get; init; }

    public bool Equals(Expectation? other) =>
        other is not null
        && Value == other.Value
        && PlusMinus == other.PlusMinus
        && Word == other.Word
        && Method == other.Method
        && Between == other.Between
        && Equals(WhyNone, other.WhyNone)
        && From.AsSpan().SequenceEqual(other.From.AsSpan());

    public override int GetHashCode() => HashCode.Combine(Value, PlusMinus, Word, Method);
}

/// <summary>One reading as judged today.</summary>
public sealed record Attempt(
    Guid ReadingId,
    ReadingValue Value,
    State State,
    Standing Standing,
    Spare? Spare,
    double? HalfWidth,
    Condition Found,
    ReadingSource Source,
    Guid By,
    Guid? InstrumentId,
    DateTimeOffset TakenAt,
    DateTimeOffset ReceivedAt,
    ImmutableArray<Message> Because,
    WireMapAnalysis? Map,
    string? WithdrawnBecause
)
{
    /// <summary>What it was seen or measured in.</summary>
    public ImmutableArray<Entries.ReadingEvidence> Evidence { get; init; } = [];
}

/// <summary>One row of a Card with its judgement.</summary>
/// <param name="Counts">The reading that the state rests on.</param>
/// <param name="Window">Limits, intersected.</param>
/// <param name="WaitsFor">Gates that are out.</param>
/// <param name="HeldBy">Hold points that are not in yet: the step waits for them.</param>
public sealed record CardRow(
    string Id,
    CheckKey Key,
    CheckDefinition Check,
    bool Required,
    State State,
    Guid? Counts,
    LimitWindow? Window,
    Expectation? Expected,
    Spare? Spare,
    ImmutableArray<Message> Because,
    ImmutableArray<Attempt> Attempts,
    ImmutableArray<CheckId> WaitsFor,
    string? ExemptedBecause,
    Concession? Conceded,
    ImmutableArray<Note> Notes,
    ImmutableArray<LikelyCause> Causes,
    ImmutableArray<CardItem> Items,
    ImmutableArray<Catalogue.LightPattern> Lights,
    ImmutableArray<CheckId> HeldBy
)
{
    private string? _id = Id;

    /// <summary>The key in one word.</summary>
    public string Id
    {
        get => _id ??= Key.ToString();
        init => _id = value;
    }

    private ImmutableArray<Message> _because = Because;

    /// <summary>Why the row is what it is.</summary>
    public ImmutableArray<Message> Because
    {
        get => _because.IsDefault ? _because = SayBecause?.Invoke() ?? [] : _because;
        init => _because = value;
    }

    /// <summary>Gives <see cref="Because"/> where it was made without.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    internal Func<ImmutableArray<Message>>? SayBecause { get; init; }

    private ImmutableArray<Attempt> _attempts = Attempts;

    /// <summary>Every reading of the row, oldest first; those that no longer count are judged when somebody looks at them.</summary>
    public ImmutableArray<Attempt> Attempts
    {
        get => _attempts.IsDefault ? _attempts = JudgeAttempts?.Invoke() ?? [] : _attempts;
        init => _attempts = value;
    }

    /// <summary>Gives <see cref="Attempts"/> where it was made without.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    internal Func<ImmutableArray<Attempt>>? JudgeAttempts { get; init; }

    /// <summary>The attempt that the state rests on; null where none does, or the Card came from a record.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    internal Attempt? Counted { get; init; }

    /// <summary>Due, or touched though it need not be; the rest is what may be taken and was not.</summary>
    public bool IsDue => Required || !Attempts.IsEmpty || !Notes.IsEmpty || ExemptedBecause is not null || Conceded is not null;

    /// <summary>The reading is further from what was expected than both uncertainties allow: that, and what would explain it. Empty where
    /// it is as expected, or nothing was.</summary>
    public ImmutableArray<Message> Unexpected
    {
        get => _unexpected.IsDefault ? _unexpected = ExplainUnexpected?.Invoke() ?? [] : _unexpected;
        init => _unexpected = value;
    }

    private ImmutableArray<Message> _unexpected = [];

    /// <summary>Gives <see cref="Unexpected"/> of a row that is; what would explain it is looked for when somebody reads it.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    internal Func<ImmutableArray<Message>>? ExplainUnexpected { get; init; }

    /// <summary>What a named person said of the reading that counts: judged by eye where nothing else judges it, or an unexpected one
    /// explained.</summary>
    public Ruling? Ruling { get; init; }

    /// <summary>No rule judges the reading that counts: a named person may say what it is, and may say it anew.</summary>
    public bool IsForTheEye => State == State.NotJudged || Ruling?.Says is RulingSays.In or RulingSays.Out;

    /// <summary>Out, or too close to tell: a Fault may be raised for it, and a named person may concede it.</summary>
    public bool IsFailing => State is State.Out or State.TooClose;

    /// <summary>Unexpected, and nobody has explained it yet.</summary>
    public bool IsUnexplained => (ExplainUnexpected is not null || !Unexpected.IsEmpty) && Ruling?.Says != RulingSays.Explained;
}

/// <summary>One item of a row that is a list, as it applies here.</summary>
/// <param name="Bring">Not in the pack: to be brought.</param>
public sealed record CardItem(string Id, bool Out, bool Bring, bool Loose);

/// <summary>A likely cause with its evidence on this Card, and what to try.</summary>
public sealed record LikelyCause(string Id, Message Evidence, Severity Severity, int Minutes);

/// <summary>A leg of the signal path: the worst of its checks.</summary>
/// <param name="TightestRow">The row of that state with the smallest spare as a share of its span.</param>
public sealed record LegSummary(Leg Leg, State State, int Taken, int Total, string? TightestRow);

/// <summary>A Fault with its derived standing.</summary>
/// <param name="ClosedBy">The reading that proves the repair.</param>
/// <param name="Ended">Who ended it with a word, where no reading could.</param>
/// <param name="MayEnd">Its row is not there any more, does not apply or says nothing against it: a word may end it.</param>
public sealed record FaultOnCard(FaultRecord Fault, bool Open, Guid? ClosedBy, DateTimeOffset? ClosedAt, ImmutableArray<Act> Repairs)
{
    public FaultEnd? Ended { get; init; }
    public bool MayEnd { get; init; }
}

public sealed record CardVerdict(
    Verdict Verdict,
    ImmutableArray<Message> Because,
    ImmutableArray<string> Failing,
    ImmutableArray<string> Incomplete,
    ImmutableArray<string> Conceded,
    ImmutableArray<string> Remarks
);

/// <summary>A Card, planned and judged.</summary>
/// <param name="Hold">What forbids power-off and configuration just now, such as an update that runs.</param>
public sealed record Card(
    ImmutableArray<CardRow> Rows,
    ImmutableArray<LegSummary> Legs,
    CardVerdict Verdict,
    ImmutableArray<FaultOnCard> Faults,
    ImmutableArray<Act> Acts,
    string? NextRow,
    int Taken,
    int Total,
    DecisionRule Rule,
    string LimitEdition,
    Block? Blocked,
    Message? Hold
)
{
    /// <summary>Rows whose reading is unexpected and not explained.</summary>
    public int Unexpected { get; init; }

    /// <summary>Entries on record that cannot be read any more: the Card cannot be accepted before somebody has looked.</summary>
    public int Unreadable { get; init; }

    /// <summary>Plans and judges the Card. With <see cref="CheckPlan.For"/> the only door into judgement.</summary>
    public static Card Judge(CardFacts facts, Catalogue.Catalogue catalogue) => new CardJudge(facts, catalogue).Judge();

    /// <summary>Numbers of a check that count, with their rows.</summary>
    public static IEnumerable<(CheckKey Key, double Value)> NumbersOf(CardFacts facts, Catalogue.Catalogue catalogue, CheckId check)
    {
        var counting = new CountingReadings(facts, catalogue);
        foreach (var key in facts.Readings.Where(r => r.Key.Check == check).Select(r => r.Key).Distinct())
            if (counting.Counts(key)?.Value is NumberValue number)
                yield return (key, number.Value);
    }

    /// <summary>Judges a value as if it were the newest reading of a row; nothing is kept.</summary>
    public static CardRow Preview(
        CardFacts facts,
        Catalogue.Catalogue catalogue,
        CheckKey key,
        ReadingValue value,
        Condition found,
        Guid? instrumentId
    ) => new CardJudge(facts, catalogue).Preview(key, value, found, instrumentId);
}
