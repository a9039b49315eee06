namespace Walkdown.Core.Acceptance;

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
