namespace Walkdown.Core.Links;

/// <summary>What probes say.</summary>
public enum LossVerdict
{
    /// <summary>Little enough is lost.</summary>
    Pass,

    /// <summary>Too much is.</summary>
    Fail,

    /// <summary>Too few to tell.</summary>
    NeedMoreProbes,
}
