using Walkdown.Core.Acceptance;
using Walkdown.Core.Cabling;
using Walkdown.Core.Measures;

namespace Walkdown.Storage.Entities;

/// <summary>One handover.</summary>
public sealed class Job
{
    public Guid Id { get; set; }
    public required string Name { get; set; }
    public required string TimeZone { get; set; }
    public DecisionRule Rule { get; set; }
    public WiringScheme Scheme { get; set; } = WiringScheme.T568B;

    /// <summary>True for demo data: every page says so.</summary>
    public bool Simulated { get; set; }
    public DateTimeOffset CreatedAt { get; set; }
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
    public double? X { get; set; }
    public double? Y { get; set; }
}

public sealed class Port
{
    public Guid Id { get; set; }
    public Guid CabinetId { get; set; }
    public Cabinet Cabinet { get; set; } = null!;
    public int Number { get; set; }
    public double SourceVolts { get; set; }
    public int SpeedMbps { get; set; }
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
}

public sealed class Unit
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
    public Unit Unit { get; set; } = null!;
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
    public double GaugeAwg { get; set; } = 24;
    public ConductorMaterial Material { get; set; }
    public bool Screened { get; set; }
    public double? TemperatureC { get; set; }
    public double CordsMetres { get; set; }
    public double CordGaugeAwg { get; set; } = 24;
    public WiringScheme? Scheme { get; set; }
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
}

public sealed class Person
{
    public Guid Id { get; set; }
    public Guid JobId { get; set; }
    public required string Name { get; set; }
    public required string Role { get; set; }
}

/// <summary>An instrument; <see cref="AccuracyJson"/> holds accuracy by unit.</summary>
public sealed class InstrumentRecord
{
    public Guid Id { get; set; }
    public Guid JobId { get; set; }
    public required string Name { get; set; }
    public required string Serial { get; set; }
    public required string AccuracyJson { get; set; }
    public DateOnly? CalibratedOn { get; set; }
    public DateOnly? CalibrationDue { get; set; }
}
