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

/// <param name="Labels">Label of the file to the device it is of; null leaves it out.</param>
public sealed record AssignRequest(ImmutableDictionary<string, Guid?> Labels, Guid? InstrumentId);
