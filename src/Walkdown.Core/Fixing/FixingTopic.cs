using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;
using Walkdown.Core.Topics;

namespace Walkdown.Core.Fixing;

/// <summary>How and where a device is fixed.</summary>
internal static class FixingTopic
{
    /// <inheritdoc cref="Topic"/>
    public static readonly Topic Topic = new()
    {
        Judges =
        [
            new("hole", FixingJudges.Hole, EntryKind.Form),
            new("mount-resolver", FixingJudges.Mount, EntryKind.Form),
            new("tilt", FixingJudges.Tilt, EntryKind.Number) { LeansOn = [KnownChecks.Height] },
            new("bearing", FixingJudges.Bearing, EntryKind.Number),
        ],
        Limits =
        [
            new("tilt-window", Unit.Degree, FixingLimits.TiltWindow) { Missing = "missing.model-tilt" },
            new("pan-window", Unit.Degree, FixingLimits.PanWindow) { Missing = "missing.model-stops" },
            new("roll-window", Unit.Degree, FixingLimits.RollWindow) { AsksFor = ["roll-tolerant"] },
            new("bearing-window", Unit.Degree, FixingLimits.BearingWindow) { Missing = "missing.agreed-bearing" },
            new("slack", Unit.Metre, FixingLimits.Slack) { Missing = "missing.model-slack" },
            new("height-window", Unit.Metre, FixingLimits.HeightWindow) { Missing = "missing.model-height" },
        ],
        Expectations =
        [
            new("planned-height", Unit.Metre, FixingExpectations.PlannedHeight),
            new("planned-mount", null, FixingExpectations.PlannedMount),
            new("agreed-bearing", Unit.Degree, FixingExpectations.AgreedBearing),
        ],
        Figures =
        [
            "tilt.infrared-least",
            "pan.spare",
            "bearing.off",
            "sway.stays",
            "roll.horizon",
            "roll.tolerant",
            "roll.plates",
            "passage.bare-cable",
            "passage.plug",
            "passage.plug-boot",
            "passage.cap",
            "passage.tail",
            "passage.clearance",
        ],
    };
}
