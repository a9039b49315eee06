namespace Walkdown.Core.Acceptance;

/// <summary>A word beside a row, or beside the whole Card.</summary>
public sealed record Note : CardEvent
{
    /// <summary>The row; null: the Card.</summary>
    public CheckKey? Key { get; init; }

    /// <summary>The word.</summary>
    public required string Text { get; init; }
}
