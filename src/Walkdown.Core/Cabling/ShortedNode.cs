namespace Walkdown.Core.Cabling;

/// <summary>One electrical node with more than one pin at an end.</summary>
public sealed record ShortedNode(ImmutableArray<int> NearPins, ImmutableArray<int> FarPins, ShortLies Lies)
{
    /// <summary>The shield is part of it.</summary>
    public bool ShieldInvolved => NearPins.Contains(WireMapReading.Shield) || FarPins.Contains(WireMapReading.Shield);
}
