namespace Walkdown.Core.Power;

/// <summary>A budget by one way of counting.</summary>
/// <param name="Refused">Ports that get nothing.</param>
/// <param name="DemandWatts">Watts asked.</param>
/// <param name="LeftWatts">Watts left; negative: short.</param>
public sealed record BudgetView(double DemandWatts, double? LeftWatts, ImmutableArray<int> Refused);
