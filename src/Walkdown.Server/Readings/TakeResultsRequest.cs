using System.Collections.Immutable;
using Walkdown.Core.Acceptance;
using Walkdown.Storage;

namespace Walkdown.Server.Readings;

/// <param name="Fates">Which are taken; only in, too close and out can be.</param>
public sealed record TakeResultsRequest(Guid Id, Guid By, DateTimeOffset TakenAt, double ClockOffsetMs, ImmutableArray<IntakeFate> Fates)
    : Core.Entries.IEntry;
