using Walkdown.Core.Acceptance;
using Walkdown.Core.Cabling;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Diagnosis;

/// <summary>What pieces of evidence have in common.</summary>
internal static class Telling
{
    internal static double Number(Attempt a) => a.Value is NumberValue n ? n.Value : 0;

    internal static bool Over(Attempt a) => a.Spare is { } s && s.Nearest == NearestLimit.Max && a.State != State.In;

    internal static bool Low(Attempt a) => a.Spare is { } s && s.Nearest == NearestLimit.Min && a.State != State.In;

    internal static bool Has(Attempt a, WireMapClass what) => a.Map?.Classes.Contains(what) == true;

    internal static string Pins(WireMapAnalysis m) => string.Join(", ", m.OpenNearPins.IsEmpty ? m.CrossedPins : m.OpenNearPins);
}
