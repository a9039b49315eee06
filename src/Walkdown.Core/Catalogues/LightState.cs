namespace Walkdown.Core.Catalogues;

/// <summary>What a device's status light can say.</summary>
public enum LightState
{
    /// <summary>No link.</summary>
    NoLink,

    /// <summary>Starting.</summary>
    Starting,

    /// <summary>Looking for an address.</summary>
    LookingForAddress,

    /// <summary>Has an address, no recorder.</summary>
    AddressHeldNoRecorder,

    /// <summary>Pairing.</summary>
    Pairing,

    /// <summary>Updating.</summary>
    Updating,

    /// <summary>Connected.</summary>
    Connected,

    /// <summary>A fault.</summary>
    Fault,
}
