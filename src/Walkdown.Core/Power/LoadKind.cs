namespace Walkdown.Core.Power;

/// <summary>How a device draws: a linear regulator keeps its current, a switched-mode supply keeps its power.</summary>
public enum LoadKind
{
    /// <summary>The same current at any voltage.</summary>
    ConstantCurrent,

    /// <summary>The same power at any voltage.</summary>
    ConstantPower,
}
