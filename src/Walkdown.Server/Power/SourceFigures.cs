using System.Collections.Immutable;
using Walkdown.Core.Handover;
using Walkdown.Core.Power;
using Walkdown.Storage;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Power;

/// <summary>What a source can give. Null: not known.</summary>
public sealed record SourceFigures(
    SourceKind Kind,
    Guid? CabinetId,
    string Label,
    string Model,
    SourceMode Mode,
    double? BudgetWatts,
    double ReservePercent,
    double? PortLimitWatts,
    SupplyRange Range,
    double? Volts,
    double RegulationPercent,
    double? RatedAmperes,
    double? FuseAmperes,
    double? CableAmperes,
    double? WireGaugeAwg,
    double? WireAreaMm2,
    double? TemperatureC
);

public sealed record PowerSwitch(
    Guid Id,
    string Cabinet,
    SourceFigures Figures,
    SourceBudget Budget,
    ImmutableArray<PowerPort> Ports,
    ImmutableArray<SourceChange> Changes,
    SumTrace Why
);
