using System.Collections.Immutable;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Cabling;
using Walkdown.Core.Handover;
using Walkdown.Core.Measures;

namespace Walkdown.Reports;

/// <summary>The acceptance record of one device, as data: the PDF is drawn from this and from nothing else.</summary>
/// <param name="Format">Name and version of this shape (docs/formats.md).</param>
/// <param name="CardNumber">Place of the Card in the round, of how many.</param>
public sealed record ReportRecord(
    string Format,
    ReportJob Job,
    int CardNumber,
    int CardCount,
    ReportPlace Place,
    Card Card,
    ImmutableArray<ReportPerson> People,
    ImmutableArray<Instrument> Instruments,
    ImmutableArray<ReportWord> FaultWords,
    DateTimeOffset MadeAt,
    string CoreVersion
)
{
    /// <summary>Why each row that was read says what it says.</summary>
    public ImmutableArray<Trace> Traces { get; init; } = [];

    /// <summary>In the order in which they were taken. Empty in a pack: there they stand in its own record, so that one that is erased
    /// leaves the Card's as it was.</summary>
    public ImmutableArray<HandoverPicture> Pictures { get; init; } = [];
}

public sealed record ReportJob(
    Guid Id,
    string Name,
    string TimeZone,
    bool Simulated,
    DecisionRule Rule,
    WiringScheme Scheme,
    bool MatchFarEnd
);

public sealed record ReportPlace(
    Guid Id,
    string Label,
    string Name,
    string Area,
    string Kind,
    string Model,
    string? Serial,
    string? HardwareAddress,
    string? Address,
    int? PowerClass,
    ImmutableArray<string> Runs,
    ImmutableArray<string> Ports,
    ImmutableArray<string> Channels,
    ImmutableArray<ReportDifference> Differences,
    bool Cancelled,
    bool AddedOnSite,
    ImmutableDictionary<string, string> Notes
);

/// <summary>A column of the register that is built otherwise than planned.</summary>
public sealed record ReportDifference(string Field, string? Planned, string? AsBuilt, string? Why, Guid? By, DateTimeOffset? At);

public sealed record ReportPerson(Guid Id, string Name, string Role);

public sealed record ReportWord(Guid FaultId, string Text, Guid By, DateTimeOffset At);
