namespace Walkdown.Core.Power;

/// <summary>A device of a stage with its time.</summary>
/// <param name="Id">The place.</param>
/// <param name="Label">Its label.</param>
/// <param name="LeastSeconds">Seconds, at least.</param>
/// <param name="MostSeconds">Seconds, at most.</param>
/// <param name="Seconds">As timed; null: nobody did.</param>
/// <param name="Timing">The word.</param>
public readonly record struct StartedDevice(
    Guid Id,
    string Label,
    double LeastSeconds,
    double MostSeconds,
    double? Seconds,
    StartTiming Timing
);
