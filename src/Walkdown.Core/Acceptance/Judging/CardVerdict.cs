using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>What a Card comes to, and why.</summary>
/// <param name="Verdict">The word.</param>
/// <param name="Because">Why, most weighty first.</param>
/// <param name="Failing">Rows that are out.</param>
/// <param name="Incomplete">Rows that are missing, too close or stale.</param>
/// <param name="Conceded">Rows that were conceded.</param>
/// <param name="Remarks">Rows that only remark.</param>
/// <param name="Parts">Parts of the work of which something is required that applies; of the others the
/// Verdict says nothing, be it that the job does not cover them, that nobody asks, or that all was exempted. None on a Card from a record
/// that was sealed before they were kept.</param>
public sealed record CardVerdict(
    Verdict Verdict,
    ImmutableArray<Message> Because,
    ImmutableArray<string> Failing,
    ImmutableArray<string> Incomplete,
    ImmutableArray<string> Conceded,
    ImmutableArray<string> Remarks,
    ImmutableArray<Section> Parts
)
{
    /// <summary>Parts of the work that it does not speak of.</summary>
    public ImmutableArray<Section> NotParts => Parts.IsDefault ? [] : Handover.AcceptanceScope.NotAsked(Parts);
}
