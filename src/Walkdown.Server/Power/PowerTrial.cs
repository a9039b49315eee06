using System.Collections.Concurrent;
using System.Collections.Immutable;
using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Handover;
using Walkdown.Core.Measures;
using Walkdown.Core.Power;
using Walkdown.Core.Register;
using Walkdown.Server.Jobs;
using Walkdown.Server.Shared;
using Walkdown.Storage;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Power;

/// <summary>One source as it would be with other figures; nothing is kept.</summary>
public sealed record PowerTrial(PowerSwitch? Switch, PowerSupply? Supply);
