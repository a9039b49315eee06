using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;
using Walkdown.Core.Topics;

namespace Walkdown.Core.Cabling;

/// <summary>The run: label, map, length, resistance, delay.</summary>
internal static class CablingTopic
{
    /// <inheritdoc cref="Topic"/>
    public static readonly Topic Topic = new()
    {
        Judges =
        [
            new("wire-map", CableJudges.Map, EntryKind.WireMap) { LeansOn = Rows.Length },
            new("loop", CableJudges.Loop, EntryKind.Number) { LeansOn = Rows.Loops },
            new("delay", CableJudges.Delay, EntryKind.Number) { LeansOnItself = true },
            new("tone", CableJudges.Tone, EntryKind.Choice) { LeansOn = Rows.Map },
            new("scheme", CableJudges.Scheme, EntryKind.Choice),
            new("termination-order", CableJudges.Order, EntryKind.Form),
        ],
        Limits =
        [
            new("run-length", Unit.Metre, CableLimits.RunLength),
            new("length-agrees-with-plan", Unit.Metre, CableLimits.LengthAgreesWithPlan) { Missing = "missing.length" },
            new("loop-of-configuration", Unit.Ohm, CableLimits.LoopOfConfiguration),
            new("loop-agrees-with-cable", Unit.Ohm, CableLimits.LoopAgreesWithCable) { Missing = "missing.length", LeansOn = Rows.Length },
            new("delay-of-configuration", Unit.Nanosecond, CableLimits.DelayOfConfiguration),
            new("unbalance-within", Unit.Ohm, CableLimits.UnbalanceWithin) { LeansOn = Rows.LengthAndLoops },
        ],
        Expectations =
        [
            new("straight-map", null, CableExpectations.StraightMap),
            new("planned-length", Unit.Metre, CableExpectations.PlannedLength),
            new("loop-of-cable", Unit.Ohm, CableExpectations.LoopOfCable) { LeansOn = Rows.Length },
            new("delay-of-length", Unit.Nanosecond, CableExpectations.Delay) { LeansOn = Rows.Length },
        ],
        Evidence = CableEvidence.All,
        Figures =
        [
            "agree.length-percent",
            "agree.length-metres",
            "agree.loop-percent",
            "agree.loop-ohms",
            "unbalance.within-percent",
            "unbalance.within-ohms",
            "unbalance.between-percent",
            "unbalance.between-ohms",
            "contact.connector-ohms",
            "contact.sharing-adapter-ohms",
            "contact.protector-ohms",
            "expect.measured-length-percent",
            "expect.as-built-percent",
            "expect.as-built-metres",
            "expect.assumed-temperature-kelvin",
            "expect.measured-temperature-kelvin",
            "expect.velocity-percent",
        ],
    };
}
