namespace Walkdown.Core.Walking;

/// <summary>A Stop as the round needs it; positions in metres on the plan.</summary>
public readonly record struct RoundStop(Guid Id, string Label, int AreaOrder, bool HeadEnd, double? X, double? Y);
