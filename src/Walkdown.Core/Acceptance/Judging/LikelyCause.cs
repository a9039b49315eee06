using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>A likely cause with its evidence on this Card, and what to try.</summary>
public sealed record LikelyCause(string Id, Message Evidence, Severity Severity, int Minutes);

/// <summary>One cause for several rows of a Card.</summary>
/// <param name="Id">Of the catalogue.</param>
/// <param name="Severity">The gravest of its rows.</param>
/// <param name="Rows">Ids of the rows that it explains.</param>
/// <param name="Of">Rows that have likely causes at all.</param>
/// <param name="Minutes">What it takes to try.</param>
public sealed record CardCause(string Id, ImmutableArray<string> Rows, int Of, Severity Severity, int Minutes);
