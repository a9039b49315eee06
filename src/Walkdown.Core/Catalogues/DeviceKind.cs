namespace Walkdown.Core.Catalogues;

/// <summary>What a kind of device brings: features that decide its checks, and figures used until the schedule gives better ones.</summary>
public sealed record DeviceKind
{
    /// <summary>Id; never renamed.</summary>
    public required string Id { get; init; }

    /// <summary>Features, by which rules ask.</summary>
    public ImmutableArray<string> Features { get; init; } = [];

    /// <summary>Power over Ethernet class, 0 to 8; null: not fed so.</summary>
    public int? PowerClass { get; init; }

    /// <summary>Watts with infrared off.</summary>
    public double? WattsInfraredOff { get; init; }

    /// <summary>Watts with infrared on.</summary>
    public double? WattsInfraredOn { get; init; }

    /// <summary>Mb/s of its link.</summary>
    public int? SpeedMbps { get; init; }

    /// <summary>What people call it in their schedules, in English.</summary>
    public ImmutableArray<string> Words { get; init; } = [];

    /// <summary>Code of its words.</summary>
    public string TextKey => "kind." + Id;
}
