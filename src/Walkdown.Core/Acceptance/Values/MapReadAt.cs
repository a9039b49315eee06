namespace Walkdown.Core.Acceptance;

/// <summary>Which unit of the tester the order of pins was read from. Only the far one is evidence: the main unit always counts 1 to
/// 8.</summary>
public enum MapReadAt
{
    /// <summary>Read off the far unit's pins.</summary>
    FarUnit,

    /// <summary>Read at the main unit, which shows something else.</summary>
    MainUnit,
}
