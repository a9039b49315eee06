using System.Collections.Immutable;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Sealing;
using Walkdown.Reports;
using Walkdown.Server.Cards;
using Walkdown.Server.Power;
using Walkdown.Server.Shared;
using Walkdown.Storage;

namespace Walkdown.Server.Handover;

/// <summary>One Card of a sum, with what keeps it from being clean.</summary>
/// <param name="Exceptions">In words, worst first.</param>
public sealed record SumCard(Guid Id, string Label, string Name, Verdict Verdict, ImmutableArray<string> Exceptions, int Pictures);
