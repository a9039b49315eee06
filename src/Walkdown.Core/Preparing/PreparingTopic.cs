using Walkdown.Core.Acceptance;
using Walkdown.Core.Diagnosis;
using Walkdown.Core.Measures;
using Walkdown.Core.Topics;

namespace Walkdown.Core.Preparing;

/// <summary>Before anybody climbs: the pack, the damage, the firmware, the way up, the bench.</summary>
internal static class PreparingTopic
{
    /// <inheritdoc cref="Topic"/>
    public static readonly Topic Topic = new()
    {
        Judges = [new("way-up", PreparingJudges.WayUp, EntryKind.Choice) { LeansOn = [KnownChecks.Access, KnownChecks.Height] }],
        Figures = ["way.floor-most", "way.steps-most", "way.ladder-most"],
        Limits =
        [
            new("box-session", Unit.Minute, PreparingLimits.BoxSession) { Missing = "missing.model-box", LeansOn = [KnownChecks.Ambient] },
        ],
        Evidence =
        [
            new("says", (_, _) => null) { BySaying = true },
            new("bench-worked", (c, _) => Causes.Bench(c) == true ? new("bench.worked") : null) { LeansOn = Causes.BenchRows },
            new("bench-failed", (c, _) => Causes.Bench(c) == false ? new("bench.failed") : null) { LeansOn = Causes.BenchRows },
        ],
        Expectations = [new("firmware-baseline", null, PreparingExpectations.Firmware)],
    };
}
