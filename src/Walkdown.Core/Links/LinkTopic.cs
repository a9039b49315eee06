using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;
using Walkdown.Core.Topics;

namespace Walkdown.Core.Links;

/// <summary>What the link carries, and what it loses.</summary>
internal static class LinkTopic
{
    /// <inheritdoc cref="Topic"/>
    public static readonly Topic Topic = new()
    {
        Judges =
        [
            new("link-speed", LinkJudges.Speed, EntryKind.Choice) { LeansOn = Rows.Map },
            new("duplex", LinkJudges.Duplex, EntryKind.Choice),
            new("probes", LinkJudges.Probes, EntryKind.Probes),
            new("counters", LinkJudges.Counters, EntryKind.Counters),
            new("light", LinkJudges.Light, EntryKind.Light),
            new("port-role", LinkJudges.PortRole, EntryKind.Choice),
        ],
        Expectations =
        [
            new("planned-speed", Unit.MegabitPerSecond, LinkExpectations.PlannedSpeed),
            new("link-connected", null, _ => LinkExpectations.Connected),
        ],
        Evidence = LinkEvidence.All,
        Figures = ["loss.wired-percent", "loss.wireless-percent", "round-trip.wired-ms", "round-trip.wireless-ms", "errors.ppm"],
    };
}
