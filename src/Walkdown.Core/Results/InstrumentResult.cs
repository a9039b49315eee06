using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Results;

/// <summary>One result as an instrument's file gives it, before it is matched to a Card.</summary>
/// <param name="Line">Line of the file, from 1.</param>
/// <param name="Where">Label of the run or the device, as it stands there.</param>
/// <param name="Trouble">Why it cannot be taken, whatever it is matched to.</param>
/// <param name="Function">The tester's function.</param>
/// <param name="Part">The part; empty: none.</param>
/// <param name="Under">The condition.</param>
/// <param name="Text">As it stands.</param>
/// <param name="UnitText">The unit as it stands.</param>
/// <param name="At">When.</param>
/// <param name="Instrument">Serial number of the instrument.</param>
/// <param name="RemoteLabel">Label of the far unit.</param>
/// <param name="Value">The value.</param>
public sealed record InstrumentResult(
    int Line,
    string Where,
    string Function,
    string Part,
    Condition Under,
    string Text,
    string UnitText,
    DateTimeOffset? At,
    string Instrument,
    string RemoteLabel,
    ReadingValue? Value,
    Message? Trouble
)
{
    /// <summary>The file gives the day and no time.</summary>
    public bool DayOnly { get; init; }
}
