namespace Walkdown.Core.Acceptance;

/// <summary>What a value would come to, were it read.</summary>
/// <param name="Row">The row as it would be.</param>
/// <param name="Attempt">The reading among its attempts.</param>
public sealed record Foretold(CardRow Row, Attempt Attempt)
{
    /// <summary>It would be the row's reading; else its standing says why not.</summary>
    public bool Counts => Attempt.Standing is Standing.Counts or Standing.Superseded;

    internal static Foretold Of(CardRow row) => new(row, row.Attempts.Last(a => a.ReadingId == Guid.Empty));
}
