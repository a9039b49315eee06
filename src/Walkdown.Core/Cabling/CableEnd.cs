namespace Walkdown.Core.Cabling;

/// <summary>An end of a run.</summary>
public enum CableEnd
{
    /// <summary>At the port.</summary>
    Near,

    /// <summary>At the device.</summary>
    Far,
}
