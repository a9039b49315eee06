namespace Walkdown.Core.Acceptance;

/// <summary>What a named person says of one reading: in or out by eye, where no rule judges it; or why an unexpected one is right. It holds
/// for that reading alone.</summary>
public sealed record Ruling : CardEvent
{
    /// <summary>The row.</summary>
    public required CheckKey Key { get; init; }

    /// <summary>The reading that was looked at.</summary>
    public required Guid Of { get; init; }

    /// <summary>What is said.</summary>
    public required RulingSays Says { get; init; }

    /// <summary>The name of who looked.</summary>
    public required string RuledBy { get; init; }

    /// <summary>Why.</summary>
    public required string Reason { get; init; }
}
