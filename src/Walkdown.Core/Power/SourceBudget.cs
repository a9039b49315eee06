namespace Walkdown.Core.Power;

/// <summary>The budget of one switch or injector (CAPABILITIES C09).</summary>
/// <param name="UsableWatts">Null where nobody knows what it can give.</param>
/// <param name="Measured">Powered ports whose draw was measured.</param>
/// <param name="FirstToDrop">Port that goes first when the budget is gone; null where nothing draws.</param>
/// <param name="ByClass">By class.</param>
/// <param name="ByDraw">By draw.</param>
/// <param name="Powered">Ports that get power.</param>
/// <param name="Findings">What is wrong with it, as codes.</param>
/// <param name="InOrder">Ports in the order in which they are served.</param>
public sealed record SourceBudget(
    double? UsableWatts,
    BudgetView ByClass,
    BudgetView ByDraw,
    int Powered,
    int Measured,
    int? FirstToDrop,
    ImmutableArray<PortFinding> Findings,
    ImmutableArray<PortShare> InOrder
);
