using System.Collections.Immutable;

namespace Walkdown.Server.Cards;

/// <summary>Some of a job's Cards, in the order of the Walk, for a device that takes the job along.</summary>
/// <param name="Of">Cards that were asked for in all.</param>
/// <param name="Sequence">The journal as it was when they were read; what came since is asked for by the Walk's changes.</param>
public sealed record CardsPage(ImmutableArray<CardAnswer> Cards, int Of, long Sequence);
