namespace Walkdown.Core.Acceptance;

/// <summary>Where a reading comes from. Only what the server itself asked and kept counts as tester or switch.</summary>
public enum ReadingSource
{
    /// <summary>Typed by a person.</summary>
    Typed,

    /// <summary>A tester that the server asked.</summary>
    Tester,

    /// <summary>From an instrument's file.</summary>
    Imported,

    /// <summary>From a simulated site.</summary>
    Simulated,

    /// <summary>A switch that the server asked.</summary>
    Switch,

    /// <summary>The device itself, asked over the network.</summary>
    Network,

    /// <summary>Measured in a picture.</summary>
    Picture,
}
