using Walkdown.Core.Catalogues;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>One row of a Card with its judgement.</summary>
/// <param name="Counts">The reading that the state rests on.</param>
/// <param name="Window">Limits, intersected.</param>
/// <param name="WaitsFor">Gates that are out.</param>
/// <param name="HeldBy">Hold points that are not in yet: the step waits for them.</param>
/// <param name="Id">Its id.</param>
/// <param name="Key">Which row.</param>
/// <param name="Check">What its check says.</param>
/// <param name="Required">It must be in before the Card can be accepted.</param>
/// <param name="State">The state.</param>
/// <param name="Expected">What it should read; null: nothing says.</param>
/// <param name="Spare">How much is left to the nearest limit; null: no limit.</param>
/// <param name="Because">Why it is what it is.</param>
/// <param name="Attempts">Every reading of it, oldest first.</param>
/// <param name="ExemptedBecause">Why it does not apply; null: it does.</param>
/// <param name="Conceded">Who conceded it; null: nobody.</param>
/// <param name="Notes">Words beside it.</param>
/// <param name="Causes">Likely causes, at most three.</param>
/// <param name="Items">Items of a list, as they apply here.</param>
/// <param name="Lights">The model's lights.</param>
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
    ImmutableArray<LightPattern> Lights,
    ImmutableArray<CheckId> HeldBy
)
{
    /// <summary>Gates that are out.</summary>
    public ImmutableArray<CheckId> WaitsFor { get; internal set; } = WaitsFor;

    /// <summary>Hold points that are not in yet: the step waits for them.</summary>
    public ImmutableArray<CheckId> HeldBy { get; internal set; } = HeldBy;

    private string? _id = Id;

    /// <summary>The key in one word.</summary>
    public string Id
    {
        get => _id ??= Key.ToString();
        init => _id = value;
    }

    /// <summary>The reading that counts, as it is judged; null: none does.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public Attempt? Counting => Counts is { } id ? Attempts.FirstOrDefault(a => a.ReadingId == id) : null;

    private ImmutableArray<Message> _because = Because;

    /// <summary>Why the row is what it is.</summary>
    public ImmutableArray<Message> Because
    {
        get => _because.IsDefault ? _because = Past?.Because() ?? [] : _because;
        init => _because = value;
    }

    private ImmutableArray<Attempt> _attempts = Attempts;

    /// <summary>Every reading of the row, oldest first; those that no longer count are judged when somebody looks at them.</summary>
    public ImmutableArray<Attempt> Attempts
    {
        get => _attempts.IsDefault ? _attempts = Past?.Attempts() ?? [] : _attempts;
        init => _attempts = value;
    }

    /// <summary>Gives <see cref="Because"/> and <see cref="Attempts"/> where the row was made without.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    internal RowPast? Past { get; init; }

    /// <summary>The attempt that the state rests on; null where none does, or the Card came from a record.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    internal Attempt? Counted { get; init; }

    /// <summary>Due, or touched though it need not be; the rest is what may be taken and was not.</summary>
    public bool IsDue => Required || !Attempts.IsEmpty || !Notes.IsEmpty || ExemptedBecause is not null || Conceded is not null;

    /// <summary>The reading is further from what was expected than both uncertainties allow: that, and what would explain it. Empty where
    /// it is as expected, or nothing was. What would explain it is looked for when somebody reads it.</summary>
    public ImmutableArray<Message> Unexpected
    {
        get => _unexpected.IsDefault ? _unexpected = CardJudge.Explained(Counted!, Expected!) : _unexpected;
        init => _unexpected = value;
    }

    private ImmutableArray<Message> _unexpected = [];

    /// <summary>What a named person said of the reading that counts: judged by eye where nothing else judges it, or an unexpected one
    /// explained.</summary>
    public Ruling? Ruling { get; init; }

    /// <summary>Of which it is where the Card has several: the head, the run, the port, the channel; null where there is one.</summary>
    public Message? Of { get; init; }

    /// <summary>Time that has to pass before it can be taken; null: none.</summary>
    public RowWait? Wait { get; init; }

    /// <summary>How long the window of its check stays open, seconds; null where it has none.</summary>
    public double? CountdownSeconds { get; init; }

    /// <summary>What should be done before it elsewhere, and is not: work, or a check at its recorder.</summary>
    public ImmutableArray<Message> Needs { get; init; } = [];

    /// <summary>What the model's template says of it; looked up when somebody reads the row.</summary>
    public ImmutableArray<Message> Sheet
    {
        get => _sheet.IsDefault ? _sheet = [.. Check.Sheet.SelectMany(topic => ModelSheet.Of(SheetModel, topic, Key.On.Part))] : _sheet;
        init => _sheet = value;
    }

    private ImmutableArray<Message> _sheet = Check.Sheet.IsEmpty ? [] : default;

    /// <summary>The template that <see cref="Sheet"/> is read from.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    internal DeviceModel? SheetModel { get; init; }

    /// <summary>What made it due, where a reading, work or a day did; null: it is due by itself, or not at all.</summary>
    public Message? DueBecause { get; init; }

    /// <summary>No rule judges the reading that counts: a named person may say what it is, and may say it anew.</summary>
    public bool IsForTheEye => State == State.NotJudged || Ruling?.Says is RulingSays.In or RulingSays.Out;

    /// <summary>Out, or too close to tell: a Fault may be raised for it, and a named person may concede it.</summary>
    public bool IsFailing => State is State.Out or State.TooClose;

    /// <summary>It is due, nothing on record counts for it, and nothing has to be waited for.</summary>
    /// <param name="now">The moment that is asked about.</param>
    public bool AsksAt(DateTimeOffset now) => Required && State is (State.NotTaken or State.Stale) && Wait?.IsWaiting(now) != true;

    /// <summary>A yes by one touch is honest, once nothing is waited for: it asks yes or no and is due, nothing holds it or should be in
    /// first, no picture belongs to it, and no caution stands at it. A no says why, and is entered.</summary>
    public bool IsOneTouch =>
        Required
        && State is State.NotTaken or State.Stale
        && Check is { Entry: EntryKind.YesNo, Picture: false, Cautions.IsEmpty: true }
        && HeldBy.IsEmpty
        && WaitsFor.IsEmpty
        && Needs.IsEmpty;

    /// <summary>Unexpected, and nobody has explained it yet.</summary>
    public bool IsUnexplained => (_unexpected.IsDefault || !_unexpected.IsEmpty) && Ruling?.Says != RulingSays.Explained;
}
