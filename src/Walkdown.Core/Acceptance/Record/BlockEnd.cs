namespace Walkdown.Core.Acceptance;

/// <summary>What held the Card up is gone.</summary>
public sealed record BlockEnd : CardEvent
{
    /// <summary>The hindrance that is gone.</summary>
    public required Guid Of { get; init; }
}
