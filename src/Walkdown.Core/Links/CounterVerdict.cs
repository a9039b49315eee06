namespace Walkdown.Core.Links;

/// <summary>What counters say.</summary>
public enum CounterVerdict
{
    /// <summary>Few enough errors.</summary>
    Pass,

    /// <summary>Too many.</summary>
    Fail,

    /// <summary>Too little traffic to tell.</summary>
    NeedMoreTraffic,

    /// <summary>None at all.</summary>
    NoTraffic,

    /// <summary>A counter was reset: read again.</summary>
    CounterResetReadAgain,
}
