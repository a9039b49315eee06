namespace Walkdown.Core.Power;

/// <summary>A device that has to come up.</summary>
/// <param name="Cabinet">Where its run ends; null where it has none.</param>
/// <param name="Seconds">Its time to picture by the reading that counts; null: not timed.</param>
/// <param name="Id">Its id.</param>
/// <param name="Kind">Its kind.</param>
/// <param name="Label">Its label.</param>
/// <param name="Model">Its model; empty: not known.</param>
public readonly record struct StartDevice(Guid Id, string Label, string Kind, string Model, Guid? Cabinet, double? Seconds);
