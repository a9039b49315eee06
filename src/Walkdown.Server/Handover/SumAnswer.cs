using System.Collections.Immutable;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Handover;
using Walkdown.Reports;
using Walkdown.Server.Cards;
using Walkdown.Server.Power;

namespace Walkdown.Server.Handover;

/// <param name="More">Cards of the sum that are not listed.</param>
public sealed record SumAnswer(SumTrace Sum, ImmutableArray<SumCard> Cards, int More, string CoreVersion);
