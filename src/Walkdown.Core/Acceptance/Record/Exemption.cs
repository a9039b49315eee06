namespace Walkdown.Core.Acceptance;

/// <summary>A row that does not apply here, with its reason.</summary>
public sealed record Exemption : CardEvent
{
    /// <summary>The row.</summary>
    public required CheckKey Key { get; init; }

    /// <summary>Why it does not apply.</summary>
    public required string Reason { get; init; }
}
