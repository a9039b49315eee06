using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;
using Walkdown.Core.Topics;

namespace Walkdown.Core.Radio;

/// <summary>Devices on the air.</summary>
internal static class RadioTopic
{
    /// <inheritdoc cref="Topic"/>
    public static readonly Topic Topic = new()
    {
        Judges =
        [
            new("radio-budget", RadioJudges.BudgetOf, EntryKind.Form),
            new("radio-path", RadioJudges.Path, EntryKind.Form) { LeansOn = [RadioJudges.Budget] },
            new("radio-level", RadioJudges.Level, EntryKind.Number) { LeansOn = [RadioJudges.Budget] },
            new("radio-load", RadioJudges.Load, EntryKind.Form),
        ],
        Expectations = [new("radio-level", Unit.DecibelMilliwatt, RadioJudges.Expected) { LeansOn = [RadioJudges.Budget] }],
        Figures =
        [
            "radio.margin-db",
            "radio.zone-share",
            "radio.level-db",
            "radio.meter-db",
            "radio.strong-minus-dbm",
            "radio.efficiency-percent",
            "radio.headroom-percent",
        ],
    };
}
