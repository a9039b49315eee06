using Walkdown.Core.Acceptance;

namespace Walkdown.Storage.Entities;

/// <summary>A reading as kept. Rows are only added; triggers refuse anything else.</summary>
public sealed class ReadingRecord
{
    public Guid Id { get; set; }
    public Guid DeviceId { get; set; }
    public required string CheckId { get; set; }
    public SubjectKind SubjectKind { get; set; }
    public Guid SubjectId { get; set; }
    public required string Part { get; set; }
    public Condition Under { get; set; }
    public Guid? UnitId { get; set; }
    public required string ValueJson { get; set; }
    public Condition Found { get; set; }
    public Guid? InstrumentId { get; set; }
    public ReadingSource Source { get; set; }
    public Guid By { get; set; }
    public DateTimeOffset TakenAt { get; set; }
    public DateTimeOffset ReceivedAt { get; set; }
    public long Sequence { get; set; }

    /// <summary>How far the phone's clock was behind the server's when it was taken, milliseconds.</summary>
    public double ClockOffsetMs { get; set; }

    /// <summary>The limits that it was kept under, as JSON of Core's shape; null where there were none.</summary>
    public string? SeenJson { get; set; }

    /// <summary>Version of the check's definition that it was taken by.</summary>
    public int CheckVersion { get; set; }

    /// <summary>The answer of tester or switch that it cites.</summary>
    public Guid? ObservationId { get; set; }

    /// <summary>What it was seen or measured in, as JSON of Core's shape; null where nothing was.</summary>
    public string? EvidenceJson { get; set; }
}

/// <summary>What tester or switch answered when it was asked for a row: kept before anybody saves a reading of it. Rows are only
/// added.</summary>
public sealed class ObservationRecord
{
    public Guid Id { get; set; }
    public Guid JobId { get; set; }

    /// <summary>The place; null where nobody could tell whose it is.</summary>
    public Guid? DeviceId { get; set; }

    /// <summary>The row that was asked for, as Cards name it; null where no row asked.</summary>
    public string? Row { get; set; }
    public ReadingSource Source { get; set; }

    /// <summary>Serial number of who answered; empty where it gave none.</summary>
    public string Serial { get; set; } = "";

    /// <summary>The answer as it came.</summary>
    public required string RawJson { get; set; }

    /// <summary>By what it was found, as JSON of Core's shape; null where a row asked.</summary>
    public string? FoundJson { get; set; }

    /// <summary>What was read of it: values by row, as JSON of Core's shape.</summary>
    public required string ValuesJson { get; set; }

    /// <summary>By the server's clock.</summary>
    public DateTimeOffset At { get; set; }
}

/// <summary>An act, withdrawal, exemption, concession or note, as JSON of Core's shape.</summary>
public sealed class CardEventRecord
{
    public Guid Id { get; set; }
    public Guid DeviceId { get; set; }

    /// <summary>The run it concerns, where it concerns one.</summary>
    public Guid? SubjectId { get; set; }
    public required string BodyJson { get; set; }
    public long Sequence { get; set; }
}

public sealed class Fault
{
    public Guid Id { get; set; }
    public Guid DeviceId { get; set; }
    public required string CheckId { get; set; }
    public SubjectKind SubjectKind { get; set; }
    public Guid SubjectId { get; set; }
    public required string Part { get; set; }
    public Condition Under { get; set; }
    public Guid? FromReading { get; set; }
    public required string Title { get; set; }
    public Severity Severity { get; set; }
    public string? CauseId { get; set; }
    public Guid RaisedBy { get; set; }
    public DateTimeOffset RaisedAt { get; set; }
    public long Sequence { get; set; }
}

/// <summary>A word added to a Fault.</summary>
public sealed class FaultStep
{
    public Guid Id { get; set; }
    public Guid FaultId { get; set; }
    public required string Text { get; set; }
    public Guid By { get; set; }
    public DateTimeOffset At { get; set; }
    public long Sequence { get; set; }
}

/// <summary>The order in which everything was kept. The id is the writer's; the hash tells a repeat from another body.</summary>
public sealed class JournalEntry
{
    public long Sequence { get; set; }
    public Guid Id { get; set; }
    public Guid JobId { get; set; }
    public Guid? DeviceId { get; set; }
    public required string Kind { get; set; }
    public required byte[] BodyHash { get; set; }
    public Guid? By { get; set; }
    public DateTimeOffset At { get; set; }
}

/// <summary>A cached summary of a judged Card, for the Walk. It can be rebuilt at any time, and a test compares.</summary>
public sealed class CardSummary
{
    public Guid DeviceId { get; set; }
    public Guid JobId { get; set; }
    public Verdict Verdict { get; set; }
    public required string LegsJson { get; set; }
    public int Taken { get; set; }
    public int Total { get; set; }
    public int OpenFaults { get; set; }
    public long LastSequence { get; set; }

    /// <summary>What holds the Card up, as JSON of Core's shape; null where nothing does.</summary>
    public string? BlockJson { get; set; }

    /// <summary>Rows that are unexpected and not explained.</summary>
    public int Unexpected { get; set; }

    /// <summary>When something can be done again, where all that is left waits.</summary>
    public DateTimeOffset? WaitsUntil { get; set; }

    /// <summary>Code of what is waited for, where all that is left waits.</summary>
    public string? WaitsFor { get; set; }

    /// <summary>When what can be done now no longer can, such as at dawn: then it is judged anew.</summary>
    public DateTimeOffset? WaitsEnds { get; set; }

    /// <summary>What it was judged by: catalogue, program and practice. Of another signature it is judged anew before anybody sees
    /// it.</summary>
    public string Signature { get; set; } = "";
}
