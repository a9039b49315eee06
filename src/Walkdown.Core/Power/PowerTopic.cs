using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;
using Walkdown.Core.Topics;

namespace Walkdown.Core.Power;

/// <summary>What feeds a device, and whether it is enough.</summary>
internal static class PowerTopic
{
    /// <inheritdoc cref="Topic"/>
    public static readonly Topic Topic = new()
    {
        Judges =
        [
            new("feed", PowerJudges.Feed, EntryKind.Choice),
            new("poe-class", PowerJudges.GrantedClass, EntryKind.Choice) { LeansOn = Rows.Mode },
            new("mode-switch", PowerJudges.ModeSwitch, EntryKind.Choice) { LeansOn = Rows.Mode },
            new("poe-volts", PowerJudges.PoeVolts, EntryKind.Number) { LeansOn = Rows.WattsLengthAndLoops },
            new("supply-volts", PowerJudges.SupplyVolts, EntryKind.Number) { LeansOn = Rows.Stray },
            new("boot", PowerJudges.Boot, EntryKind.Number),
            new("supply-plate", PowerJudges.Plate, EntryKind.Form),
            new("tester-outlet", PowerJudges.Outlet, EntryKind.Form),
            new("budget", PowerJudges.Budget, EntryKind.Derived) { LeansOn = Rows.Watts },
        ],
        Limits =
        [
            new("poe-class-volts", Unit.Volt, PowerLimits.PoeClassVolts) { Missing = "missing.power-class" },
            new("poe-class-watts", Unit.Watt, PowerLimits.PoeClassWatts) { Missing = "missing.power-class" },
            new("port-watts", Unit.Watt, PowerLimits.PortWatts) { Missing = "missing.port-limit" },
            new("supply-range", Unit.Volt, PowerLimits.SupplyRangeOf) { Missing = "missing.supply" },
            new("source-volts", Unit.Volt, PowerLimits.SourceVolts) { Missing = "missing.power-class" },
            new("boot-time", Unit.Second, PowerLimits.BootTime),
        ],
        Expectations =
        [
            new("poe-volts", Unit.Volt, PowerExpectations.PoeVolts) { LeansOn = Rows.LengthAndLoops },
            new("planned-watts", Unit.Watt, PowerExpectations.PlannedWatts),
            new("watts-at-port", Unit.Watt, PowerExpectations.WattsAtPort) { LeansOn = Rows.LengthAndLoops },
            new("supply-volts", Unit.Volt, PowerExpectations.SupplyVolts),
            new("source-volts", Unit.Volt, PowerExpectations.SourceVolts),
            new("planned-feed", null, PowerExpectations.Feed),
            new("planned-class", null, PowerExpectations.GrantedClass),
            new("mode-of-source", null, PowerExpectations.ModeSwitch),
        ],
        Evidence = PowerEvidence.All,
        Figures =
        [
            "splitter.efficiency-percent",
            "supply.derating",
            "supply.fuse-load",
            "tester.poe-watts",
            "tester.dc-amperes",
            "boot.least-seconds",
            "boot.most-seconds",
            "expect.source-volts",
            "expect.draw-percent",
        ],
    };
}
