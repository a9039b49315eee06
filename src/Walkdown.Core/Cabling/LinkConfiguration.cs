namespace Walkdown.Core.Cabling;

/// <summary>What was measured: the fixed cable alone, or the fixed cable with its cords.</summary>
public enum LinkConfiguration
{
    /// <summary>With cords, from device to device.</summary>
    Channel,

    /// <summary>Without cords, from panel to outlet.</summary>
    PermanentLink,
}
