using Walkdown.Core.Cabling;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>Everything one Card needs to be planned and judged. Core asks for nothing else.</summary>
public sealed record CardFacts
{
    public required PlaceFacts Place { get; init; }
    public UnitFacts? Unit { get; init; }
    public ImmutableArray<HeadFacts> Heads { get; init; } = [];
    public ImmutableArray<RunFacts> Runs { get; init; } = [];
    public ImmutableArray<ChannelFacts> Channels { get; init; } = [];
    public required Practice Practice { get; init; }
    public ImmutableArray<Instrument> Instruments { get; init; } = [];
    public ImmutableArray<Reading> Readings { get; init; } = [];
    public ImmutableArray<CardEvent> Events { get; init; } = [];
    public ImmutableArray<FaultRecord> Faults { get; init; } = [];
    public required DateTimeOffset Now { get; init; }
}

/// <summary>A place of the schedule.</summary>
/// <param name="Kind">Id of the device kind.</param>
/// <param name="Features">Features of the place beside those of its kind.</param>
/// <param name="Height">Metres above the ground, where planned.</param>
public sealed record PlaceFacts(
    Guid Id, string Label, string Name, string Area, string Kind, string Model, ImmutableArray<string> Features, int? PowerClass,
    double? WattsInfraredOff, double? WattsInfraredOn, int? SpeedMbps, string? Address, double? HeightMetres);

/// <summary>The unit hanging at the place now.</summary>
public sealed record UnitFacts(Guid Id, string Serial, string? HardwareAddress, DateTimeOffset From);

public sealed record HeadFacts(Guid Id, int Number);

public sealed record ChannelFacts(Guid Id, string Recorder, int Number);

/// <summary>One cable run with its ends, as planned or as built.</summary>
/// <param name="LengthMetres">The fixed cable, without cords.</param>
/// <param name="CordsMetres">Cords in the path, both ends together; 0 for a permanent link.</param>
public sealed record RunFacts(
    Guid Id, string Label, LinkConfiguration Configuration, Sourced<double> LengthMetres, Sourced<double> GaugeAwg, Sourced<ConductorMaterial> Material,
    bool Screened, Sourced<double> TemperatureC, double CordsMetres, double CordGaugeAwg, WiringScheme Scheme, PortFacts? Port)
{
    /// <summary>Fixed cable and cords together.</summary>
    public double TotalPlannedMetres => LengthMetres.Value + CordsMetres;
}

/// <summary>The switch port or injector that a run ends at.</summary>
public sealed record PortFacts(Guid Id, string Cabinet, int Number, Sourced<double> SourceVolts, int SpeedMbps, bool AutoCrossover = true);

/// <summary>How this job works where practitioners differ.</summary>
public sealed record Practice(DecisionRule Rule, WiringScheme Scheme);

/// <summary>An instrument with the accuracy of each of its functions by unit.</summary>
public sealed record Instrument(
    Guid Id, string Name, string Serial, ImmutableDictionary<Unit, Accuracy> AccuracyByUnit, DateOnly? CalibratedOn, DateOnly? CalibrationDue);
