namespace Walkdown.Core.Links;

/// <summary>What a negotiated link says.</summary>
public enum SpeedFinding
{
    /// <summary>There is none.</summary>
    NoLink,

    /// <summary>The ends say different speeds.</summary>
    EndsReportDifferentSpeed,

    /// <summary>The ends differ in duplex.</summary>
    DuplexMismatch,

    /// <summary>Slower than planned.</summary>
    SpeedBelowExpected,

    /// <summary>Slower, and missing pairs explain it.</summary>
    FallbackExplainedByMissingPairs,

    /// <summary>Slower: look at pairs 4-5 and 7-8.</summary>
    SuspectPairs45Or78,

    /// <summary>Faster than planned.</summary>
    SpeedAboveExpected,

    /// <summary>They take turns.</summary>
    HalfDuplex,
}
