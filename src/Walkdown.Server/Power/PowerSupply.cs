using System.Collections.Immutable;
using Walkdown.Core.Handover;
using Walkdown.Core.Power;

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
