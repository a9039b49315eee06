namespace Walkdown.Core.Cabling;

/// <summary>What conductors are made of.</summary>
public enum ConductorMaterial
{
    /// <summary>Solid copper.</summary>
    SolidCopper,

    /// <summary>Stranded copper.</summary>
    StrandedCopper,

    /// <summary>Aluminium with a skin of copper.</summary>
    CopperCladAluminium,
}
