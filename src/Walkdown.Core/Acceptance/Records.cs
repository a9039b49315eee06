using System.Text.Json.Serialization;
using Walkdown.Core.Cabling;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>Where a reading comes from. Only what the server itself asked and kept counts as tester or switch.</summary>
public enum ReadingSource
{
    Typed,
    Tester,
    Imported,
    Simulated,
    Switch,
}

/// <summary>One reading, as it was taken. Never changed; withdrawn or voided by what is added later.</summary>
/// <param name="UnitId">The unit hanging there when it was taken.</param>
/// <param name="Found">Conditions found at the reading.</param>
/// <param name="TakenAt">By the phone's clock, corrected by its measured offset.</param>
/// <param name="Sequence">The journal's order, which decides between equal times.</param>
/// <param name="ClockOffsetMs">How far the phone's clock was behind the server's; already in <paramref name="TakenAt"/>.</param>
public sealed record Reading(
    Guid Id,
    CheckKey Key,
    Guid? UnitId,
    ReadingValue Value,
    Condition Found,
    Guid? InstrumentId,
    ReadingSource Source,
    Guid By,
    DateTimeOffset TakenAt,
    DateTimeOffset ReceivedAt,
    long Sequence,
    LimitSeen? Seen = null,
    double ClockOffsetMs = 0
)
{
    /// <summary>Version of the check's definition that it was taken by; 0 where none was kept.</summary>
    public int CheckVersion { get; init; }

    /// <summary>The answer of tester or switch that it cites, as the server kept it.</summary>
    public Guid? ObservationId { get; init; }

    /// <summary>What it was seen or measured in.</summary>
    public ImmutableArray<Entries.ReadingEvidence> Evidence { get; init; } = [];
}

/// <summary>The limits as they stood when a reading was kept, so that a later edition can say what it changed.</summary>
public sealed record LimitSeen(string Edition, double? Min, double? Max);

/// <summary>What happened to a Card beside readings. Append-only.</summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "kind")]
[JsonDerivedType(typeof(Act), "act")]
[JsonDerivedType(typeof(Withdrawal), "withdrawal")]
[JsonDerivedType(typeof(Exemption), "exemption")]
[JsonDerivedType(typeof(Concession), "concession")]
[JsonDerivedType(typeof(Note), "note")]
[JsonDerivedType(typeof(Block), "block")]
[JsonDerivedType(typeof(BlockEnd), "blockEnd")]
[JsonDerivedType(typeof(Ruling), "ruling")]
[JsonDerivedType(typeof(FaultEnd), "faultEnd")]
[JsonDerivedType(typeof(UnreadableEvent), "unreadable")]
public abstract record CardEvent
{
    public required Guid Id { get; init; }
    public required Guid By { get; init; }
    public required DateTimeOffset At { get; init; }
    public long Sequence { get; init; }
}

/// <summary>A repair, a swap, a re-crimp: work after which some readings no longer count.</summary>
public sealed record Act : CardEvent
{
    /// <summary>Id in the catalogue, such as <c>re-crimp</c>.</summary>
    public required string ActKind { get; init; }
    public required Subject On { get; init; }
    public CableEnd? End { get; init; }
    public string? Text { get; init; }

    /// <summary>Serial number of the new unit, where one was fitted.</summary>
    public string? NewSerial { get; init; }

    /// <summary>The Fault that it is a repair of.</summary>
    public Guid? FaultId { get; init; }
}

/// <summary>Takes back a reading or an event: wrong Card, or a slip. Both stay to be seen.</summary>
public sealed record Withdrawal : CardEvent
{
    public required Guid Of { get; init; }
    public required string Reason { get; init; }
}

/// <summary>A row that does not apply here, with its reason.</summary>
public sealed record Exemption : CardEvent
{
    public required CheckKey Key { get; init; }
    public required string Reason { get; init; }
}

/// <summary>A row accepted although it is out or too close; by a named person, with a reason.</summary>
public sealed record Concession : CardEvent
{
    public required CheckKey Key { get; init; }
    public required string AllowedBy { get; init; }
    public required string Reason { get; init; }

    /// <summary>The last day on which it holds; null: for good.</summary>
    public DateOnly? Until { get; init; }
}

/// <summary>The Card cannot be worked on: by whom it is held up, why, and until when. Set aside: put off by the technician's own
/// choice.</summary>
public sealed record Block : CardEvent
{
    /// <summary>Who holds it up; the technician's own choice where <see cref="SetAside"/>.</summary>
    public required string BlockedBy { get; init; }
    public required string Reason { get; init; }

    /// <summary>When it should be free again, where somebody said so.</summary>
    public DateOnly? Until { get; init; }
    public bool SetAside { get; init; }
}

/// <summary>What held the Card up is gone.</summary>
public sealed record BlockEnd : CardEvent
{
    public required Guid Of { get; init; }
}

public enum RulingSays
{
    In,
    Out,
    Explained,
}

/// <summary>What a named person says of one reading: in or out by eye, where no rule judges it; or why an unexpected one is right. It holds
/// for that reading alone.</summary>
public sealed record Ruling : CardEvent
{
    public required CheckKey Key { get; init; }

    /// <summary>The reading that was looked at.</summary>
    public required Guid Of { get; init; }
    public required RulingSays Says { get; init; }
    public required string RuledBy { get; init; }
    public required string Reason { get; init; }
}

/// <summary>Ends a Fault that no reading can close any more, or that was raised by a slip: with who and why.</summary>
public sealed record FaultEnd : CardEvent
{
    public required Guid FaultId { get; init; }
    public required string Reason { get; init; }
}

/// <summary>An entry on record that cannot be read any more. It is counted and told, and changes nothing else.</summary>
public sealed record UnreadableEvent : CardEvent;

public sealed record Note : CardEvent
{
    public CheckKey? Key { get; init; }
    public required string Text { get; init; }
}

/// <summary>A Fault as it was raised. Whether it is open is derived: it is closed by a later reading of its row that is in and
/// counts.</summary>
public sealed record FaultRecord(
    Guid Id,
    CheckKey Key,
    Guid? FromReading,
    string Title,
    Severity Severity,
    string? CauseId,
    Guid RaisedBy,
    DateTimeOffset RaisedAt,
    long Sequence
);
