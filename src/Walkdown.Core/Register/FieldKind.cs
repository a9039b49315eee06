namespace Walkdown.Core.Register;

/// <summary>How a cell is read.</summary>
public enum FieldKind
{
    /// <summary>Words.</summary>
    Text,

    /// <summary>A number.</summary>
    Number,

    /// <summary>A whole number.</summary>
    Whole,

    /// <summary>One of a few words.</summary>
    Word,

    /// <summary>An IPv4 address.</summary>
    Address,

    /// <summary>A hardware address.</summary>
    HardwareAddress,

    /// <summary>Recorder channels.</summary>
    Channels,

    /// <summary>A kind of device.</summary>
    DeviceKind,
}
