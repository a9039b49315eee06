using Walkdown.Core.Cabling;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Acceptance;

/// <summary>How this job works where practitioners differ.</summary>
/// <param name="BenchFirst">Each device is tried on the bench before it is fixed; else it is mounted first and tried there.</param>
/// <param name="SwitchFirst">Power comes up at the switch, the recorder, the monitor; else at the recorder, then the cameras.</param>
/// <param name="MatchFarEnd">New plugs follow what is found at the far end, in the place of one scheme for the job; a run that says its own
/// keeps it.</param>
/// <param name="UnexpectedRefuses">A required reading that is in, and further from what was expected than both uncertainties, refuses until
/// somebody explains it.</param>
/// <param name="Rule">How a value is held against its limits.</param>
/// <param name="Scheme">Wiring scheme.</param>
public sealed record Practice(
    DecisionRule Rule,
    WiringScheme Scheme,
    bool BenchFirst = false,
    bool MatchFarEnd = false,
    bool SwitchFirst = false,
    bool UnexpectedRefuses = false
)
{
    /// <summary>What the school of work adds to every device, for the rules of checks.</summary>
    public ImmutableArray<string> Features =>
        (BenchFirst, SwitchFirst) switch
        {
            (true, true) => BenchAndSwitch,
            (true, false) => BenchAndRecorder,
            (false, true) => Switch,
            _ => Recorder,
        };

    private static readonly ImmutableArray<string> BenchAndSwitch = ["bench-first", "switch-first"],
        BenchAndRecorder = ["bench-first", "recorder-first"],
        Switch = ["switch-first"],
        Recorder = ["recorder-first"];
}
