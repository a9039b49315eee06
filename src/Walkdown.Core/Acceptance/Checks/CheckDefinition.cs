using Walkdown.Core.Catalogues;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>A check as data. The names of an expectation, limit function or judge point into Core's closed registries.</summary>
public sealed record CheckDefinition
{
    /// <summary>Id in the catalogue; never renamed.</summary>
    public required CheckId Id { get; init; }

    /// <summary>Raised when what is read, its unit or its meaning changes; kept with each reading.</summary>
    public required int Version { get; init; }

    /// <summary>Its part of the work.</summary>
    public required Section Section { get; init; }

    /// <summary>Leg of the signal path that it speaks for.</summary>
    public required Leg Leg { get; init; }

    /// <summary>How it is entered.</summary>
    public required EntryKind Entry { get; init; }

    /// <summary>Unit of its number; none where it is no number.</summary>
    public Unit Unit { get; init; }

    /// <summary>Decimals that a technician reads off; for display only.</summary>
    public int Decimals { get; init; } = 1;

    /// <summary>How finely it is read where no instrument of the Kit measures it, such as a clock by eye: half the width of what it may
    /// be, in its unit; null: nobody knows.</summary>
    public double? ReadTo { get; init; }

    /// <summary>What a reading may be at all; anything outside is a slip.</summary>
    public PlausibleRange? Plausible { get; init; }

    /// <summary>The words offered, for <see cref="EntryKind.Choice"/>.</summary>
    public ImmutableArray<string> Choices { get; init; } = [];

    /// <summary>Words of <see cref="Choices"/> that are right, for the judge <c>choice</c>; none: the word that is expected.</summary>
    public ImmutableArray<GoodWord> Good { get; init; } = [];

    /// <summary>The fields, for <see cref="EntryKind.Form"/>.</summary>
    public ImmutableArray<FormField> Fields { get; init; } = [];

    /// <summary>How many lines its form takes; null: one.</summary>
    public FormLines? Lines { get; init; }

    /// <summary>Its items are done one after another, in the order that they stand in.</summary>
    public bool InOrder { get; init; }

    /// <summary>What makes it due where <see cref="Required"/> does not.</summary>
    public ImmutableArray<Occasion> DueWhen { get; init; } = [];

    /// <summary>Parts of each subject that each make a row of their own, such as groups of fasteners; empty: none.</summary>
    public ImmutableArray<CheckPart> Parts { get; init; } = [];

    /// <summary>A picture belongs to it: a reading that was seen in none is not judged.</summary>
    public bool Picture { get; init; }

    /// <summary>It cannot be taken before a time has passed; null: it can.</summary>
    public Wait? Wait { get; init; }

    /// <summary>What one row is of.</summary>
    public required SubjectKind Per { get; init; }

    /// <summary>Name of the parts of each subject: <c>pairs</c>, or none.</summary>
    public string? PartsFrom { get; init; }

    /// <summary>Conditions that each make a row of their own.</summary>
    public ImmutableArray<Condition> Under { get; init; } = [Condition.Any];

    /// <summary>Where it is asked at all.</summary>
    public Rule Applies { get; init; } = new();

    /// <summary>Where it must be in before a Card can be accepted.</summary>
    public Rule Required { get; init; } = new();

    /// <summary>What it does to the Verdict where it need not be taken, was, and is out. A check that does not say refuses.</summary>
    public IfOut IfOut { get; init; } = IfOut.Refuse;

    /// <summary>The items, for <see cref="EntryKind.List"/>.</summary>
    public ImmutableArray<CheckItem> Items { get; init; } = [];

    /// <summary>Each item is confirmed by itself; there is no one press for all.</summary>
    public bool ConfirmEach { get; init; }

    /// <summary>The number is a time that a stopwatch may take.</summary>
    public bool Stopwatch { get; init; }

    /// <summary>A window of time that the row counts down; null: it has none.</summary>
    public Countdown? Countdown { get; init; }

    /// <summary>Hold points: the step is not to be made before each of these is in.</summary>
    public ImmutableArray<CheckId> HoldUntil { get; init; } = [];

    /// <summary>Checks that should be in first; a gate that is out stops only what names it.</summary>
    public ImmutableArray<CheckId> Gates { get; init; } = [];

    /// <summary>What should be done before it elsewhere: work, or a check of the recorder.</summary>
    public ImmutableArray<Need> Needs { get; init; } = [];

    /// <summary>Acts after which an earlier reading no longer counts.</summary>
    public ImmutableArray<string> VoidedBy { get; init; } = [];

    /// <summary>What makes it void only where it was done or said: at one end of the run, at the recorder, or by a later reading.</summary>
    public ImmutableArray<Voiding> VoidedWhere { get; init; } = [];

    /// <summary>Whether work on the device or its run makes a reading of this subject void. What was done on one run says nothing of what
    /// is of another; what is of the device as a whole, or of its parts, is touched by work on any of its runs.</summary>
    public bool IsVoidedBy(Act act, Subject on)
    {
        if (act.On.Kind != SubjectKind.Place && act.On.Kind == on.Kind && act.On.Id != on.Id)
            return false;
        foreach (var kind in VoidedBy)
            if (kind == act.ActKind)
                return true;
        foreach (var where in VoidedWhere)
            if (!where.AtRecorder && where.Act == act.ActKind && where.End == act.End)
                return true;
        return false;
    }

    /// <summary>Whether work on the recorder that shows the device does.</summary>
    public bool IsVoidedAtRecorderBy(Act act)
    {
        foreach (var where in VoidedWhere)
            if (where.AtRecorder && where.Act == act.ActKind)
                return true;
        return false;
    }

    /// <summary>True where a reading belongs to the unit hanging there, and goes with it.</summary>
    public bool OfUnit { get; init; }

    /// <summary><c>set:ID</c> from the limit set, or <c>fn:NAME</c> from the registry.</summary>
    public ImmutableArray<string> Limits { get; init; } = [];

    /// <summary>Name of its expectation in the topics; null: none.</summary>
    public string? Expect { get; init; }

    /// <summary>Name of its judge in the topics.</summary>
    public required string Judge { get; init; }

    /// <summary>The tester's function that reads it, if one does.</summary>
    public string? Tester { get; init; }

    /// <summary>Id of the source that is asked for it.</summary>
    public string ReadFrom { get; init; } = "tester";

    /// <summary>Cautions that stand at the step.</summary>
    public ImmutableArray<string> Cautions { get; init; } = [];

    /// <summary>Tools and small parts that it needs in the hand. Their words: <c>tool.ID</c>.</summary>
    public ImmutableArray<string> Tools { get; init; } = [];

    /// <summary>What of the model's template stands beside it: topics of <see cref="DeviceModel.Topics"/>.</summary>
    public ImmutableArray<string> Sheet { get; init; } = [];

    /// <summary>Minutes that it takes, as the walk plans.</summary>
    public int Minutes { get; init; } = 1;

    /// <summary>Code of its words.</summary>
    public string TextKey => "check." + Id.Value;
}
