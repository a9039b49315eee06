using System.Collections.Immutable;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Entries;
using Walkdown.Core.Measures;
using Walkdown.Storage;

namespace Walkdown.Server.Cards;

/// <summary>A run as the Card's head shows it.</summary>
public sealed record CardRun(Guid Id, string Label, string? Port, string Scheme, double PlannedMetres);

/// <summary>What stands at the head of a Card.</summary>
/// <param name="Records">Devices on its channels: none but a recorder has any.</param>
public sealed record CardPlace(
    Guid Id,
    Guid JobId,
    string Label,
    string Name,
    string Area,
    string Kind,
    string Model,
    string? Serial,
    string? Address,
    int? PowerClass,
    ImmutableArray<CardRun> Runs,
    ImmutableArray<string> Channels,
    bool Infrared,
    ImmutableArray<PlanDifference> Differences,
    bool Cancelled,
    bool AddedOnSite,
    ImmutableArray<string> Unknown,
    int Records
);

/// <summary>The device's row of the register.</summary>
/// <param name="Planned">As the newest schedule says, by column.</param>
/// <param name="Changes">Every change of it, oldest first.</param>
public sealed record CardRegisterAnswer(
    IReadOnlyDictionary<string, string> Values,
    ImmutableDictionary<string, string> Planned,
    ImmutableDictionary<string, string> Notes,
    ImmutableArray<PlanDifference> Differences,
    ImmutableArray<RegisterLineChange> Changes,
    ImmutableArray<CardUnit> Units,
    ImmutableArray<Jobs.FieldAnswer> Columns,
    ImmutableArray<string> Kinds
);

/// <summary>A unit that hangs or hung here.</summary>
public sealed record CardUnit(string Serial, string? HardwareAddress, DateTimeOffset From, DateTimeOffset? Until);

/// <param name="AsBuilt">True: on site. False: the plan changed.</param>
public sealed record RegisterLineChange(string Field, string? From, string? To, bool AsBuilt, string? Why, Guid? By, DateTimeOffset At);

/// <summary>The judged Card with its place.</summary>
/// <param name="Definitions">Version of the definitions that its rows' checks are of (<see cref="DefinitionsAnswer"/>).</param>
public sealed record CardAnswer(CardPlace Place, Card Card, ImmutableArray<FaultWord> FaultWords, long Sequence, string Definitions);

/// <summary>What a kept entry is answered with: what it changed, or the whole Card.</summary>
/// <param name="Sequence">The Card's newest entry.</param>
/// <param name="Changed">For whoever holds the Card as it was before; null where the whole is given.</param>
public sealed record SavedAnswer(long Sequence, EntryChange? Changed, CardAnswer? Whole);

/// <summary>What an entry changed of its Card.</summary>
/// <param name="Follows">The Card's newest entry before it: who holds another takes the whole Card.</param>
/// <param name="Rows">Rows that are otherwise now.</param>
public sealed record EntryChange(
    long Follows,
    ImmutableArray<RowChange> Rows,
    ImmutableArray<LegSummary> Legs,
    CardVerdict Verdict,
    ImmutableArray<FaultOnCard> Faults,
    ImmutableArray<Act> Acts,
    string? NextRow,
    int Taken,
    int Total,
    Block? Blocked,
    Message? Hold,
    int Unexpected,
    int Unreadable,
    CardCause? MostLikely,
    DateTimeOffset? WaitsUntil,
    string? WaitsFor,
    string? WorstRow,
    ImmutableArray<string> Tools,
    ImmutableArray<string> CautionsSaid,
    ImmutableArray<FaultWord> FaultWords
);

/// <summary>A row of the Card as it is now, without what the check itself says of it.</summary>
public sealed record RowChange(
    string Id,
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
    ImmutableArray<CheckId> HeldBy,
    bool IsDue,
    ImmutableArray<Message> Unexpected,
    Ruling? Ruling,
    bool IsForTheEye,
    bool IsFailing,
    bool IsUnexplained,
    RowWait? Wait,
    bool Required,
    Message? DueBecause,
    bool IsOneTouch
)
{
    public static RowChange Of(CardRow r) =>
        new(
            r.Id,
            r.State,
            r.Counts,
            r.Window,
            r.Expected,
            r.Spare,
            r.Because,
            r.Attempts,
            r.WaitsFor,
            r.ExemptedBecause,
            r.Conceded,
            r.Notes,
            r.Causes,
            r.HeldBy,
            r.IsDue,
            r.Unexpected,
            r.Ruling,
            r.IsForTheEye,
            r.IsFailing,
            r.IsUnexplained,
            r.Wait,
            r.Required,
            r.DueBecause,
            r.IsOneTouch
        );
}

/// <summary>A row as it would be judged; nothing was kept.</summary>
/// <param name="WillNotCount">Why a reading with this instrument would not count; null where it would.</param>
/// <param name="Unexpected">Further from what is expected than both uncertainties allow, and what would explain it.</param>
public sealed record PreviewAnswer(
    ReadingValue? Value,
    State? State,
    Spare? Spare,
    double? HalfWidth,
    ImmutableArray<Message> Because,
    Core.Cabling.WireMapAnalysis? Map,
    Message? Refused,
    Message? WillNotCount,
    ImmutableArray<Message> Unexpected
);

/// <summary>What tester or switch answered, row by row; the server keeps the answer, and no reading of it yet.</summary>
/// <param name="ObservationId">By which a reading cites it.</param>
/// <param name="Serial">Of who answered; empty where it gave none.</param>
/// <param name="InstrumentId">The instrument of the Kit with that serial; null where there is none: then no accuracy is known.</param>
public sealed record TesterAnswer(
    Guid ObservationId,
    ReadingSource Source,
    string Serial,
    Guid? InstrumentId,
    string? InstrumentName,
    ImmutableArray<TesterRow> Rows
);

/// <summary>What one row was answered, and how it would be judged.</summary>
/// <param name="State">Null where a reading of it would not count.</param>
public sealed record TesterRow(string Row, ReadingValue Value, State? State);

/// <summary>Why one row says what it says.</summary>
public sealed record TraceAnswer(string Label, CardRow Row, Core.Handover.Trace Trace, string Edition, string CoreVersion);
