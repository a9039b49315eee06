namespace Walkdown.Core.Acceptance;

/// <summary>How the wait of a row stands.</summary>
/// <param name="For">Code of what it waits for, such as <c>check.fixing.seals</c> or <c>act.resealed</c>.</param>
/// <param name="Begun">When it was begun; null: not yet.</param>
/// <param name="Until">When the row can be taken; null: not known before it is begun.</param>
/// <param name="Minutes">How long it is.</param>
/// <param name="Source">Where the time comes from.</param>
public sealed record RowWait(string For, DateTimeOffset? Begun, DateTimeOffset? Until, double Minutes, string Source)
{
    /// <summary>Whether a reading of this moment came too early.</summary>
    public bool IsTooEarly(DateTimeOffset takenAt) => Until is not { } until || takenAt < until;
}
