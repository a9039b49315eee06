using Walkdown.Core.Acceptance;

namespace Walkdown.Core.Handover;

/// <summary>One reading as the honesty marks look at it.</summary>
/// <param name="X">Of its place on the plan, metres, where known.</param>
/// <param name="Place">The place.</param>
/// <param name="Label">Its label.</param>
/// <param name="By">Who.</param>
/// <param name="Source">Where it comes from.</param>
/// <param name="Standing">Whether it counts, and why not.</param>
/// <param name="At">When.</param>
/// <param name="ClockOffsetMs">How far the device's clock was off, milliseconds.</param>
/// <param name="Y">Where it lies on the plan, metres.</param>
public readonly record struct HonestReading(
    Guid Place,
    string Label,
    Guid By,
    ReadingSource Source,
    Standing Standing,
    DateTimeOffset At,
    double ClockOffsetMs,
    double? X,
    double? Y
);
