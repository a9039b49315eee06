namespace Walkdown.Core.Acceptance;

/// <summary>One item of a check that is a list: part of a pack, hindrance, fact to be confirmed. Its words: <c>item.ID</c>, and
/// <c>item.ID.for</c> for what it is or calls for.</summary>
public sealed record CheckItem
{
    /// <summary>Id within its check; never renamed.</summary>
    public required string Id { get; init; }

    /// <summary>Where it is asked.</summary>
    public Rule Applies { get; init; } = new();

    /// <summary>Marked, it makes the reading out; else it only calls for care.</summary>
    public bool Out { get; init; }

    /// <summary>Does not come in the pack: to be brought.</summary>
    public bool Bring { get; init; }

    /// <summary>Small and easily lost.</summary>
    public bool Loose { get; init; }
}
