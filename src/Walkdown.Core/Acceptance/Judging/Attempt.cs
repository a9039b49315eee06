using Walkdown.Core.Cabling;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

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
