namespace Walkdown.Core.Cabling;

/// <summary>What resistance and length say together.</summary>
public enum MaterialVerdict
{
    /// <summary>As expected.</summary>
    ConsistentWithExpected,

    /// <summary>Too little for the length.</summary>
    ResistanceTooLowForLength,

    /// <summary>Too much, and no material explains it.</summary>
    ExcessResistanceNoMaterialFits,

    /// <summary>Another material or gauge is likely.</summary>
    WrongMaterialOrGaugeSuspected,
}
