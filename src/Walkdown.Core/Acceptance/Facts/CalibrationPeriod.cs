namespace Walkdown.Core.Acceptance;

/// <summary>A calibration before the present one.</summary>
public sealed record CalibrationPeriod(DateOnly From, DateOnly Until, string Certificate);
