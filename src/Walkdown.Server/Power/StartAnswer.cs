using System.Collections.Immutable;
using Walkdown.Core.Power;
using Walkdown.Server.Shared;
using Walkdown.Storage;

namespace Walkdown.Server.Power;

/// <summary>The order in which the site is switched on.</summary>
public sealed record StartAnswer(bool SwitchFirst, ImmutableArray<StartStage> Stages);
