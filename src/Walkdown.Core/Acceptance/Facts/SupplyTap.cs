namespace Walkdown.Core.Acceptance;

/// <summary>One device on a supply's run.</summary>
/// <param name="Metres">From the supply along the run.</param>
/// <param name="DeviceId">The place.</param>
/// <param name="Label">Its label.</param>
/// <param name="Kind">Its kind.</param>
/// <param name="Model">Its model; empty: not known.</param>
/// <param name="WattsInfraredOff">Watts with infrared off; null: not known.</param>
/// <param name="WattsInfraredOn">Watts with infrared on; null: not known.</param>
public sealed record SupplyTap(
    Guid DeviceId,
    string Label,
    string Kind,
    string Model,
    double Metres,
    double? WattsInfraredOff,
    double? WattsInfraredOn
);
