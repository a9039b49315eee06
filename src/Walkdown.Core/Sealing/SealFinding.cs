namespace Walkdown.Core.Sealing;

/// <summary>What a look at a sealed document says.</summary>
/// <param name="Changed">Parts that are not what was sealed; empty where nothing more can be said than that it was altered.</param>
/// <param name="Key">Fingerprint of the key it was sealed with.</param>
/// <param name="Hash">Of the content, as it was sealed.</param>
/// <param name="Outcome">What came of it.</param>
/// <param name="SealedAt">When; null: not known.</param>
public sealed record SealFinding(SealOutcome Outcome, ImmutableArray<string> Changed, string? Key, string? Hash, DateTimeOffset? SealedAt)
{
    /// <summary>A finding without more to say.</summary>
    public static SealFinding Of(SealOutcome outcome) => new(outcome, [], null, null, null);
}
