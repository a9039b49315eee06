namespace Walkdown.Core.Power;

/// <summary>What is found at a supply.</summary>
public enum PolarityVerdict
{
    /// <summary>As planned.</summary>
    Ok,

    /// <summary>Nothing.</summary>
    Dead,

    /// <summary>Direct where alternating is planned.</summary>
    DirectWhereAlternatingExpected,

    /// <summary>A direct part on alternating.</summary>
    DirectOffsetOnAlternatingSupply,

    /// <summary>Alternating where direct is planned.</summary>
    AlternatingWhereDirectExpected,

    /// <summary>Plus and minus exchanged.</summary>
    ReversedPolarity,

    /// <summary>Too low.</summary>
    Low,

    /// <summary>Too high.</summary>
    High,
}
