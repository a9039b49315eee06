using System.Collections.Immutable;
using Walkdown.Core.Cabling;
using Walkdown.Core.Measures;
using Walkdown.Core.Power;

namespace Walkdown.Storage.Entities;

/// <summary>One handover.</summary>
public sealed class Job
{
    public Guid Id { get; set; }
    public required string Name { get; set; }
    public required string TimeZone { get; set; }
    public DecisionRule Rule { get; set; }
    public WiringScheme Scheme { get; set; } = WiringScheme.T568B;

    /// <summary>The side taken, by school, as JSON; null in a job whose schools are still the four columns below.</summary>
    public string? SidesJson { get; set; }

    /// <summary>What of the work is covered, as JSON; null: nobody has said it.</summary>
    public string? ScopeJson { get; set; }

    /// <summary>Where the site is, and what is there that rows wait for, as JSON; null: nobody has said anything.</summary>
    public string? SiteJson { get; set; }

    /// <summary>The plan of its network, as JSON of Core's shape; null: nobody has made one.</summary>
    public string? NetworkJson { get; set; }

    /// <summary>What of its plan matters to views, as JSON of Core's shape; null: nobody has drawn anything.</summary>
    public string? GroundJson { get; set; }

    /// <summary>School "scheme" of jobs from before schools were data; read where there is no <see cref="SidesJson"/>.</summary>
    public bool MatchFarEnd { get; set; }

    /// <summary>School "first-try", likewise.</summary>
    public bool BenchFirst { get; set; }

    /// <summary>School "start-up", likewise.</summary>
    public bool SwitchFirst { get; set; }

    /// <summary>School "unexpected", likewise.</summary>
    public bool UnexpectedRefuses { get; set; }

    /// <summary>True for demo data: every page says so.</summary>
    public bool Simulated { get; set; }
    public DateTimeOffset CreatedAt { get; set; }

    /// <summary>What the pack's cover says: contract, specification, companies; as JSON of the report's shape.</summary>
    public string? CoverJson { get; set; }
}

public sealed class Area
{
    public Guid Id { get; set; }
    public Guid JobId { get; set; }
    public required string Name { get; set; }
    public int Order { get; set; }
}

public sealed class Cabinet
{
    public Guid Id { get; set; }
    public Guid JobId { get; set; }
    public required string Label { get; set; }
    public required string Name { get; set; }

    /// <summary>The cabinet that its uplink comes from.</summary>
    public Guid? FedFromId { get; set; }
    public double? X { get; set; }
    public double? Y { get; set; }
}

public sealed class Port
{
    public Guid Id { get; set; }
    public Guid CabinetId { get; set; }
    public Cabinet Cabinet { get; set; } = null!;

    /// <summary>The switch in the cabinet, where there are several.</summary>
    public string Switch { get; set; } = "";
    public int Number { get; set; }
    public double SourceVolts { get; set; }
    public int SpeedMbps { get; set; }

    /// <summary>What comes first when the budget runs short.</summary>
    public PortPriority Priority { get; set; } = PortPriority.Low;

    /// <summary>Kept for an uplink: no camera belongs there.</summary>
    public bool Uplink { get; set; }
}

/// <summary>A switch, an injector or a low-voltage supply, with what it can give. Figures that nobody knows are null.</summary>
public sealed class PowerSource
{
    public Guid Id { get; set; }
    public Guid JobId { get; set; }
    public SourceKind Kind { get; set; }

    /// <summary>The cabinet of a switch or an injector.</summary>
    public Guid? CabinetId { get; set; }

    /// <summary>Name of the switch in its cabinet; label of a supply.</summary>
    public required string Label { get; set; }
    public string Model { get; set; } = "";

    /// <summary>How it powers, for a switch or an injector.</summary>
    public SourceMode Mode { get; set; }
    public double? BudgetWatts { get; set; }
    public double ReservePercent { get; set; }

    /// <summary>Most that one port gives.</summary>
    public double? PortLimitWatts { get; set; }

    /// <summary>What follows is of a supply.</summary>
    public SupplyRange Range { get; set; }
    public double? Volts { get; set; }
    public double RegulationPercent { get; set; }
    public double? RatedAmperes { get; set; }
    public double? FuseAmperes { get; set; }
    public double? CableAmperes { get; set; }
    public double? WireGaugeAwg { get; set; }
    public double? WireAreaMm2 { get; set; }
    public double? TemperatureC { get; set; }
}

public enum SourceKind
{
    Switch,
    Injector,
    Supply,
}

/// <summary>A place of the schedule. The unit that hangs there comes and goes.</summary>
public sealed class Device
{
    public Guid Id { get; set; }
    public Guid JobId { get; set; }
    public Guid AreaId { get; set; }
    public Area Area { get; set; } = null!;
    public required string Label { get; set; }
    public required string Name { get; set; }
    public required string Kind { get; set; }
    public required string Model { get; set; }

    /// <summary>Features beside those of the kind, separated by blanks.</summary>
    public string Features { get; set; } = "";

    /// <summary>The same, one by one.</summary>
    public ImmutableArray<string> OwnFeatures() => [.. Features.Split(' ', StringSplitOptions.RemoveEmptyEntries)];

    public int? PowerClass { get; set; }
    public double? WattsInfraredOff { get; set; }
    public double? WattsInfraredOn { get; set; }
    public int? SpeedMbps { get; set; }
    public string? Address { get; set; }
    public double? X { get; set; }
    public double? Y { get; set; }
    public double? HeightMetres { get; set; }

    /// <summary>ground, ladder or lift.</summary>
    public string Reach { get; set; } = "ground";

    /// <summary>What feeds it, where the port does not.</summary>
    public string? Supply { get; set; }

    /// <summary>Metres from the supply along its run.</summary>
    public double? SupplyMetres { get; set; }
    public string? Mount { get; set; }
    public string? CableEntry { get; set; }

    /// <summary>The row of the newest schedule, by column id; null for a device that was added on site.</summary>
    public string? PlannedJson { get; set; }

    /// <summary>What stood in columns that the register does not know, by heading.</summary>
    public string? NotesJson { get; set; }

    /// <summary>Taken off the job; its history stays.</summary>
    public bool Cancelled { get; set; }
}

/// <summary>A unit by its serial number, wherever it hangs.</summary>
public sealed class InstalledUnit
{
    public Guid Id { get; set; }
    public Guid JobId { get; set; }
    public required string Serial { get; set; }
    public string? HardwareAddress { get; set; }
}

/// <summary>A unit at a place, from, until.</summary>
public sealed class Installation
{
    public Guid Id { get; set; }
    public Guid DeviceId { get; set; }
    public Guid UnitId { get; set; }
    public InstalledUnit Unit { get; set; } = null!;
    public DateTimeOffset From { get; set; }
    public DateTimeOffset? Until { get; set; }
}

/// <summary>One picture of a device.</summary>
public sealed class Head
{
    public Guid Id { get; set; }
    public Guid DeviceId { get; set; }
    public int Number { get; set; }
}

public sealed class Channel
{
    public Guid Id { get; set; }
    public Guid RecorderId { get; set; }
    public Device Recorder { get; set; } = null!;
    public int Number { get; set; }
    public Guid HeadId { get; set; }
    public Head Head { get; set; } = null!;
}

/// <summary>One cable end to end.</summary>
public sealed class Run
{
    public Guid Id { get; set; }
    public Guid JobId { get; set; }
    public required string Label { get; set; }
    public LinkConfiguration Configuration { get; set; }
    public double LengthMetres { get; set; }

    /// <summary>True where no schedule gave a length: the number is a guess.</summary>
    public bool LengthAssumed { get; set; }
    public double GaugeAwg { get; set; } = 24;
    public ConductorMaterial Material { get; set; }
    public bool Screened { get; set; }
    public double? TemperatureC { get; set; }
    public double CordsMetres { get; set; }
    public double CordGaugeAwg { get; set; } = 24;
    public WiringScheme? Scheme { get; set; }

    /// <summary>What lies between both ends: panels, couplers, protectors.</summary>
    public string? Path { get; set; }

    /// <summary>The path piece by piece as somebody drew it, as JSON of Core's shape; null: what the length and the cords give.</summary>
    public string? PiecesJson { get; set; }
    public List<RunEnd> Ends { get; set; } = [];
}

public sealed class RunEnd
{
    public Guid Id { get; set; }
    public Guid RunId { get; set; }
    public CableEnd Side { get; set; }
    public Guid? DeviceId { get; set; }
    public Guid? PortId { get; set; }
    public Port? Port { get; set; }

    /// <summary>Whose pairs lead to this port, where devices share a cable and each has a port of its own; null: the port of whoever
    /// has none of his own.</summary>
    public Guid? OfDeviceId { get; set; }
}

public sealed class Person
{
    public Guid Id { get; set; }
    public Guid JobId { get; set; }
    public required string Name { get; set; }
    public required string Role { get; set; }

    /// <summary>May sign as a witness.</summary>
    public bool MayWitness { get; set; }

    /// <summary>No longer on the job; what they did stays theirs.</summary>
    public bool Left { get; set; }

    /// <summary>Since when; what they did before and sent later is theirs.</summary>
    public DateTimeOffset? LeftAt { get; set; }
}

/// <summary>An instrument; <see cref="AccuracyJson"/> holds accuracy by function and range.</summary>
public sealed class InstrumentRecord
{
    public Guid Id { get; set; }
    public Guid JobId { get; set; }
    public required string Name { get; set; }
    public required string Serial { get; set; }
    public string Kind { get; set; } = "";
    public string Certificate { get; set; } = "";
    public bool Retired { get; set; }

    /// <summary>Since when; what it read before and was sent later counts.</summary>
    public DateTimeOffset? RetiredAt { get; set; }

    /// <summary>Calibrations before the present one, oldest first.</summary>
    public string EarlierJson { get; set; } = "[]";
    public required string AccuracyJson { get; set; }
    public DateOnly? CalibratedOn { get; set; }
    public DateOnly? CalibrationDue { get; set; }
}

/// <summary>One value of the register that changed: on site, or by a newer schedule. Rows are only added.</summary>
public sealed class RegisterChange
{
    public Guid Id { get; set; }
    public Guid JobId { get; set; }
    public Guid DeviceId { get; set; }
    public required string Field { get; set; }
    public string? From { get; set; }
    public string? To { get; set; }

    /// <summary>True: found or done on site. False: the plan itself changed.</summary>
    public bool AsBuilt { get; set; }
    public string? Why { get; set; }
    public Guid? By { get; set; }
    public DateTimeOffset At { get; set; }
    public long Sequence { get; set; }
}

/// <summary>What a heading or a word for a kind was taken for: <c>heading:cam no</c>, <c>kind:dome</c>.</summary>
public sealed class Remembered
{
    public required string Key { get; set; }
    public required string Value { get; set; }
}

/// <summary>The drawing behind the plan; the file lies among the evidence.</summary>
public sealed class PlanDrawing
{
    public Guid JobId { get; set; }
    public required string Hash { get; set; }
    public required string MediaType { get; set; }
    public required string Name { get; set; }
    public double WidthPixels { get; set; }
    public double HeightPixels { get; set; }

    /// <summary>Null until its scale is set by two points.</summary>
    public double? MetresPerPixel { get; set; }

    /// <summary>Site coordinates of the drawing's upper left corner.</summary>
    public double LeftMetres { get; set; }
    public double TopMetres { get; set; }
}

/// <summary>A reading of a known reference on site. Rows are only added.</summary>
public sealed class InstrumentCheck
{
    public Guid Id { get; set; }
    public Guid JobId { get; set; }
    public Guid InstrumentId { get; set; }
    public Unit Unit { get; set; }
    public double Reference { get; set; }
    public double Reading { get; set; }
    public Guid By { get; set; }
    public DateTimeOffset At { get; set; }
}

/// <summary>A kept edition of the company's own catalogue, or of a job's practice. Rows are only added.</summary>
public sealed class Edition
{
    public Guid Id { get; set; }

    /// <summary><c>own</c>; <c>practice:</c> with the job's id; <c>instrument:</c> or <c>source:</c> with its id; <c>proposal:</c> with the
    /// key of the bundle that brought it.</summary>
    public required string Of { get; set; }
    public int Version { get; set; }
    public required string Json { get; set; }
    public required string Why { get; set; }
    public required string By { get; set; }
    public DateTimeOffset At { get; set; }
}
