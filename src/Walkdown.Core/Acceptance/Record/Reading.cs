namespace Walkdown.Core.Acceptance;

/// <summary>One reading, as it was taken. Never changed; withdrawn or voided by what is added later.</summary>
/// <param name="UnitId">The unit hanging there when it was taken.</param>
/// <param name="Found">Conditions found at the reading.</param>
/// <param name="TakenAt">By the phone's clock, corrected by its measured offset.</param>
/// <param name="Sequence">The journal's order, which decides between equal times.</param>
/// <param name="ClockOffsetMs">How far the phone's clock was behind the server's; already in <paramref name="TakenAt"/>.</param>
/// <param name="Id">Its id.</param>
/// <param name="Key">Which row.</param>
/// <param name="Value">The value.</param>
/// <param name="InstrumentId">What it was read with; null: nothing of the Kit.</param>
/// <param name="Source">Where it comes from.</param>
/// <param name="By">Who.</param>
/// <param name="ReceivedAt">When it came to the record.</param>
/// <param name="Seen">Limits as they stood; null: there were none.</param>
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
