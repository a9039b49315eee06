using Walkdown.Core.Acceptance;

namespace Walkdown.Core.Topics;

/// <summary>Checks that functions of several topics look at.</summary>
internal static class Rows
{
    public static readonly ImmutableArray<CheckId> Length = [KnownChecks.Length],
        Loops = [KnownChecks.LoopResistance],
        LengthAndLoops = [KnownChecks.Length, KnownChecks.LoopResistance],
        WattsLengthAndLoops = [KnownChecks.WattsAtDevice, KnownChecks.Length, KnownChecks.LoopResistance],
        Map = [KnownChecks.WireMap, KnownChecks.Length],
        Watts = [KnownChecks.WattsAtPort, KnownChecks.WattsAtDevice],
        Mode = [KnownChecks.ModeSwitch],
        Stray = [KnownChecks.SupplyStray];
}
