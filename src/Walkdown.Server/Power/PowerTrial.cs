using Walkdown.Core.Acceptance;
using Walkdown.Core.Power;
using Walkdown.Server.Shared;
using Walkdown.Storage;

namespace Walkdown.Server.Power;

/// <summary>One source as it would be with other figures; nothing is kept.</summary>
public sealed record PowerTrial(PowerSwitch? Switch, PowerSupply? Supply);
