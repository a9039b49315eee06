namespace Walkdown.Core.Optics;

/// <summary>A view of a head that hangs at a place of the plan.</summary>
/// <param name="DeviceId">Its device.</param>
/// <param name="Label">Of the device.</param>
/// <param name="Head">From 1.</param>
/// <param name="At">Where it hangs.</param>
/// <param name="Design">How it looks; its azimuth is said.</param>
/// <param name="IsAgreed">Somebody agreed to it; false: it is planned and no more.</param>
public sealed record PlacedView(Guid DeviceId, string Label, int Head, PlanPoint At, ViewDesign Design, bool IsAgreed);
