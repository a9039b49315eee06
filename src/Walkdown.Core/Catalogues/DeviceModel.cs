namespace Walkdown.Core.Catalogues;

/// <summary>The template of one model: what its data sheet says, and what is not known of it (CAPABILITIES C02).</summary>
public sealed record DeviceModel
{
    /// <summary>The model's name as it stands in schedules.</summary>
    public required string Id { get; init; }

    /// <summary>The kind that it is of.</summary>
    public required string Kind { get; init; }

    /// <summary>Features beside those of the kind.</summary>
    public ImmutableArray<string> Features { get; init; } = [];

    /// <summary>Power over Ethernet class, 0 to 8.</summary>
    public int? PowerClass { get; init; }

    /// <summary>Watts with infrared off.</summary>
    public double? WattsInfraredOff { get; init; }

    /// <summary>Watts with infrared on.</summary>
    public double? WattsInfraredOn { get; init; }

    /// <summary>Mb/s of its link.</summary>
    public int? SpeedMbps { get; init; }

    /// <summary>Degrees below level that the mount allows, least and greatest.</summary>
    public double? TiltLeast { get; init; }

    /// <summary>Degrees from the horizontal, at most.</summary>
    public double? TiltGreatest { get; init; }

    /// <summary>Metres above ground, at least.</summary>
    public double? HeightLeastMetres { get; init; }

    /// <summary>Metres above ground, at most.</summary>
    public double? HeightGreatestMetres { get; init; }

    /// <summary>Longest session in the box, minutes.</summary>
    public double? BoxSessionMinutes { get; init; }

    /// <summary>Version that every unit should run.</summary>
    public string? Firmware { get; init; }

    /// <summary>Least version that the recorder needs for this model.</summary>
    public string? NeedsRecorder { get; init; }

    /// <summary>Shortest and longest time from power to picture, seconds.</summary>
    public double? BootSecondsLeast { get; init; }

    /// <summary>Seconds to start, at most.</summary>
    public double? BootSecondsMost { get; init; }

    /// <summary>Items of its pack, by id; empty: what its kind usually has.</summary>
    public ImmutableArray<string> Contents { get; init; } = [];

    /// <summary>What its status light shows, and what that says.</summary>
    public ImmutableArray<LightPattern> Lights { get; init; } = [];

    /// <summary>Figures that nobody knows yet: named, so that they are asked for and never guessed.</summary>
    public ImmutableArray<string> Unknown { get; init; } = [];

    /// <summary>Names that <see cref="Unknown"/> may hold.</summary>
    public static readonly ImmutableArray<string> Figures =
    [
        "powerClass",
        "wattsInfraredOff",
        "wattsInfraredOn",
        "speedMbps",
        "tiltLeast",
        "tiltGreatest",
        "heightLeastMetres",
        "heightGreatestMetres",
        "boxSessionMinutes",
        "bootSecondsLeast",
        "bootSecondsMost",
    ];
}
