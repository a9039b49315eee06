using System.Collections.Concurrent;
using System.Collections.Immutable;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;
using Walkdown.Core.Results;
using Walkdown.Devices;
using Walkdown.Formats;
using Walkdown.Reports;
using Walkdown.Server.Shared;
using Walkdown.Storage;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Readings;

/// <param name="Fates">Which are taken; only in, too close and out can be.</param>
public sealed record TakeResultsRequest(Guid Id, Guid By, DateTimeOffset TakenAt, double ClockOffsetMs, ImmutableArray<IntakeFate> Fates)
    : Core.Entries.IEntry;
