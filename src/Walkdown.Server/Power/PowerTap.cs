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

/// <param name="Watts">At its heaviest.</param>
/// <param name="Volts">Worked out with every device on the run at its heaviest; null where there is no solution.</param>
public sealed record PowerTap(
    Guid DeviceId,
    string Label,
    string Name,
    double Metres,
    bool MetresKnown,
    double? Watts,
    double? Volts,
    bool OutOfRange
);
