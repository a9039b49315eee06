using Walkdown.Core.Acceptance;
using Walkdown.Core.Cabling;

namespace Walkdown.Server.Cards;

/// <summary>What every entry carries: an id made in the browser, who, and when by the browser's clock with its measured offset to the
/// server.</summary>
public interface IEntry
{
    Guid Id { get; }
    Guid By { get; }
    DateTimeOffset TakenAt { get; }
    double ClockOffsetMs { get; }
}

/// <param name="Row">The row's id, as the Card names it.</param>
/// <param name="Value">The value, or null where <paramref name="Text"/> is given.</param>
/// <param name="Text">A number as it was typed, with or without its unit.</param>
/// <param name="Source">No longer asked: what was typed is typed, and what was heard is cited.</param>
/// <param name="Found">Conditions found; null for those of the row.</param>
/// <param name="ObservationId">The answer of tester or switch that it is, as the server kept it; its value, its moment and its instrument
/// are then the server's.</param>
public sealed record ReadingRequest(
    Guid Id,
    string Row,
    ReadingSource Source,
    Guid By,
    DateTimeOffset TakenAt,
    double ClockOffsetMs,
    ReadingValue? Value = null,
    string? Text = null,
    Condition? Found = null,
    Guid? InstrumentId = null,
    Guid? ObservationId = null
) : IEntry;

public sealed record PreviewRequest(
    string Row,
    ReadingValue? Value = null,
    string? Text = null,
    Condition? Found = null,
    Guid? InstrumentId = null
);

public sealed record TesterRequest(string Row);

public sealed record ActRequest(
    Guid Id,
    string Kind,
    Guid By,
    DateTimeOffset TakenAt,
    double ClockOffsetMs,
    Guid? RunId = null,
    CableEnd? End = null,
    string? Text = null,
    string? NewSerial = null,
    Guid? FaultId = null
) : IEntry;

public sealed record WithdrawalRequest(Guid Id, Guid Of, string Reason, Guid By, DateTimeOffset TakenAt, double ClockOffsetMs) : IEntry;

public sealed record ExemptionRequest(Guid Id, string Row, string Reason, Guid By, DateTimeOffset TakenAt, double ClockOffsetMs) : IEntry;

/// <param name="Until">The last day on which it holds; null: for good.</param>
public sealed record ConcessionRequest(
    Guid Id,
    string Row,
    string AllowedBy,
    string Reason,
    Guid By,
    DateTimeOffset TakenAt,
    double ClockOffsetMs,
    DateOnly? Until = null
) : IEntry;

/// <param name="RuledBy">The name of who looked.</param>
public sealed record RulingRequest(
    Guid Id,
    string Row,
    RulingSays Says,
    string RuledBy,
    string Reason,
    Guid By,
    DateTimeOffset TakenAt,
    double ClockOffsetMs
) : IEntry;

public sealed record FaultEndRequest(Guid Id, string Reason, Guid By, DateTimeOffset TakenAt, double ClockOffsetMs) : IEntry;

public sealed record NoteRequest(Guid Id, string Text, Guid By, DateTimeOffset TakenAt, double ClockOffsetMs, string? Row = null) : IEntry;

/// <param name="BlockedBy">Who holds it up; not asked for where it is set aside.</param>
public sealed record BlockRequest(
    Guid Id,
    Guid By,
    DateTimeOffset TakenAt,
    double ClockOffsetMs,
    string Reason,
    bool SetAside = false,
    string? BlockedBy = null,
    DateOnly? Until = null
) : IEntry;

public sealed record BlockEndRequest(Guid Id, Guid Of, Guid By, DateTimeOffset TakenAt, double ClockOffsetMs) : IEntry;

/// <summary>One cell of the register as it was built.</summary>
public sealed record BuiltCell(string Field, string? Text);

public sealed record BuiltRequest(
    Guid Id,
    Guid By,
    DateTimeOffset TakenAt,
    double ClockOffsetMs,
    System.Collections.Immutable.ImmutableArray<BuiltCell> Cells,
    string? Why = null
) : IEntry;

public sealed record FaultRequest(
    Guid Id,
    string Row,
    string Title,
    Severity Severity,
    Guid By,
    DateTimeOffset TakenAt,
    double ClockOffsetMs,
    string? CauseId = null
) : IEntry;

public sealed record FaultStepRequest(Guid Id, string Text, Guid By, DateTimeOffset TakenAt, double ClockOffsetMs) : IEntry;
