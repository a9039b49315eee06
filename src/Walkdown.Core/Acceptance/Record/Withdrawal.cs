namespace Walkdown.Core.Acceptance;

/// <summary>Takes back a reading or an event: wrong Card, or a slip. Both stay to be seen.</summary>
public sealed record Withdrawal : CardEvent
{
    /// <summary>What is taken back.</summary>
    public required Guid Of { get; init; }

    /// <summary>Why.</summary>
    public required string Reason { get; init; }
}
