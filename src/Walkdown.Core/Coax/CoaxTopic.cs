using Walkdown.Core.Acceptance;
using Walkdown.Core.Topics;

namespace Walkdown.Core.Coax;

/// <summary>Video over coax.</summary>
internal static class CoaxTopic
{
    /// <inheritdoc cref="Topic"/>
    public static readonly Topic Topic = new()
    {
        Judges =
        [
            new("coax-reach", CoaxJudges.Reach, EntryKind.Form),
            new("coax-levels", CoaxJudges.Levels, EntryKind.Form) { LeansOn = [CoaxJudges.Cable] },
            new("coax-ends", CoaxJudges.Ends, EntryKind.Form) { LeansOn = [CoaxJudges.Cable, CoaxJudges.Level] },
            new("coax-hum", CoaxJudges.Hum, EntryKind.Number) { LeansOn = [CoaxJudges.Cable] },
        ],
        Figures =
        [
            "coax.level-percent",
            "coax.termination-percent",
            "coax.sync-mhz",
            "coax.burst-525-mhz",
            "coax.burst-625-mhz",
            "coax.ground-path-ohm",
            "coax.hum-ire",
        ],
    };
}
