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

/// <summary>An edition of a source's figures: who changed them, and why.</summary>
public sealed record SourceChange(int Version, string By, string Why, DateTimeOffset At);
