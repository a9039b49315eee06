namespace Walkdown.Core.Measures;

/// <summary>Distance from a reading to the nearest limit: negative when beyond it.</summary>
/// <param name="Value">In the reading's unit.</param>
/// <param name="ShareOfSpan">As a share of the span between both limits, where there are two.</param>
/// <param name="ShareOfLimit">As a share of the nearest limit, where there is one nearest and it is not 0.</param>
/// <param name="Nearest">Which limit is nearest.</param>
public sealed record Spare(double Value, double? ShareOfSpan, double? ShareOfLimit, NearestLimit Nearest)
{
    /// <summary>The share used to compare rows: of the span where there is one, else of the limit.</summary>
    public double Share => ShareOfSpan ?? ShareOfLimit ?? 0;
}
