namespace Walkdown.Core.Results;

/// <summary>What a column of an instrument's results says.</summary>
public enum ResultField
{
    /// <summary>Label of the run.</summary>
    Run,

    /// <summary>The tester's function.</summary>
    Function,

    /// <summary>Part, such as a pair.</summary>
    Part,

    /// <summary>Condition.</summary>
    Condition,

    /// <summary>Value.</summary>
    Value,

    /// <summary>Unit.</summary>
    Unit,

    /// <summary>When.</summary>
    Time,

    /// <summary>Serial number of the instrument.</summary>
    Instrument,

    /// <summary>Label of the far unit.</summary>
    RemoteLabel,

    /// <summary>A whole reading in one cell.</summary>
    Reading,

    /// <summary>Probes sent.</summary>
    Sent,

    /// <summary>Probes received.</summary>
    Received,
}
