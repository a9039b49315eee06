namespace Walkdown.Core.Acceptance;

/// <summary>Ends a Fault that no reading can close any more, or that was raised by a slip: with who and why.</summary>
public sealed record FaultEnd : CardEvent
{
    /// <summary>The Fault.</summary>
    public required Guid FaultId { get; init; }

    /// <summary>Why it ends.</summary>
    public required string Reason { get; init; }
}
