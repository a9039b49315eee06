namespace Walkdown.Core.Cabling;

/// <summary>Which colours sit on 1-2 and 3-6. Judged is the pair of ends, not the letter.</summary>
public enum WiringScheme
{
    /// <summary>Green pair on 1-2.</summary>
    T568A,

    /// <summary>Orange pair on 1-2.</summary>
    T568B,
}
