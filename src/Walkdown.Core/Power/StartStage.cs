namespace Walkdown.Core.Power;

/// <summary>One step of the start-up: switched on together, waited for, then the next.</summary>
/// <param name="Cabinet">Label, for a cabinet's own step.</param>
/// <param name="WaitLeastSeconds">Before that, a dark device is no fault: wait.</param>
/// <param name="WaitMostSeconds">After that, a dark device is a fault; null where nothing in the step is timed.</param>
/// <param name="Kind">Its kind.</param>
/// <param name="Devices">Its devices, by label.</param>
public sealed record StartStage(
    StartStageKind Kind,
    string? Cabinet,
    double? WaitLeastSeconds,
    double? WaitMostSeconds,
    ImmutableArray<StartedDevice> Devices
);
