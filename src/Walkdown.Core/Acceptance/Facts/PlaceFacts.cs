namespace Walkdown.Core.Acceptance;

/// <summary>A place of the schedule.</summary>
/// <param name="Kind">Id of the device kind.</param>
/// <param name="Features">Features of the place beside those of its kind.</param>
/// <param name="Id">Its id.</param>
/// <param name="Label">Its label.</param>
/// <param name="Name">Its name.</param>
/// <param name="Area">The area that it is in.</param>
/// <param name="Model">Its model; empty: not known.</param>
/// <param name="PowerClass">Power over Ethernet class, 0 to 8; null: not fed so.</param>
/// <param name="WattsInfraredOff">Watts with infrared off; null: not known.</param>
/// <param name="WattsInfraredOn">Watts with infrared on; null: not known.</param>
/// <param name="SpeedMbps">Planned speed, Mb/s; null: not planned.</param>
/// <param name="Address">IPv4 address; null: not planned.</param>
/// <param name="HeightMetres">Metres above ground; null: not known.</param>
/// <param name="Mount">What it hangs on; null: not said.</param>
/// <param name="CableEntry">Where the cable goes in; null: not said.</param>
public sealed record PlaceFacts(
    Guid Id,
    string Label,
    string Name,
    string Area,
    string Kind,
    string Model,
    ImmutableArray<string> Features,
    int? PowerClass,
    double? WattsInfraredOff,
    double? WattsInfraredOn,
    int? SpeedMbps,
    string? Address,
    double? HeightMetres,
    string? Mount = null,
    string? CableEntry = null
);
