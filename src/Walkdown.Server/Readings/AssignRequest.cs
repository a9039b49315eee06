using System.Collections.Immutable;
using Walkdown.Core.Acceptance;
using Walkdown.Reports;
using Walkdown.Server.Shared;
using Walkdown.Storage;

namespace Walkdown.Server.Readings;

/// <param name="Labels">Label of the file to the device it is of; null leaves it out.</param>
public sealed record AssignRequest(ImmutableDictionary<string, Guid?> Labels, Guid? InstrumentId);
