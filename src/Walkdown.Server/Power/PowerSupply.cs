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

/// <param name="LongestMetres">Of this conductor for its heaviest device alone.</param>
public sealed record PowerSupply(
    Guid Id,
    SourceFigures Figures,
    double? MinVolts,
    double? MaxVolts,
    bool Solved,
    double? SupplyAmperes,
    double? UsableAmperes,
    bool? SupplyOk,
    FuseVerdict Fuse,
    double? LongestMetres,
    ImmutableArray<PowerTap> Taps,
    ImmutableArray<SourceChange> Changes,
    SumTrace? Why
);

public sealed record PowerAnswer(ImmutableArray<PowerSwitch> Switches, ImmutableArray<PowerSupply> Supplies);
