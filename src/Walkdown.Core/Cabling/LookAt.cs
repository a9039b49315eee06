namespace Walkdown.Core.Cabling;

/// <summary>Where to look first.</summary>
public enum LookAt
{
    /// <summary>Nowhere.</summary>
    Nowhere,

    /// <summary>At the port's end.</summary>
    NearEnd,

    /// <summary>At the device's end.</summary>
    FarEnd,

    /// <summary>At either end.</summary>
    EitherEnd,

    /// <summary>At both ends.</summary>
    BothEnds,

    /// <summary>Within the run.</summary>
    MidRun,
}
