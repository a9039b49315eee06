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

/// <summary>The order in which the site is switched on.</summary>
public sealed record StartAnswer(bool SwitchFirst, ImmutableArray<StartStage> Stages);
