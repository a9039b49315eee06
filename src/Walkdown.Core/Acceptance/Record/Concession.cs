namespace Walkdown.Core.Acceptance;

/// <summary>A row accepted although it is out or too close; by a named person, with a reason.</summary>
public sealed record Concession : CardEvent
{
    /// <summary>The row.</summary>
    public required CheckKey Key { get; init; }

    /// <summary>The name of who allows it.</summary>
    public required string AllowedBy { get; init; }

    /// <summary>Why.</summary>
    public required string Reason { get; init; }

    /// <summary>The last day on which it holds; null: for good.</summary>
    public DateOnly? Until { get; init; }
}
