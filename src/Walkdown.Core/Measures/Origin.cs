namespace Walkdown.Core.Measures;

/// <summary>Where a figure comes from; shown beside every expectation.</summary>
public enum Origin
{
    /// <summary>From the plan.</summary>
    Planned,

    /// <summary>As it was built.</summary>
    AsBuilt,

    /// <summary>As measured.</summary>
    Measured,

    /// <summary>Assumed; nobody said.</summary>
    Assumed,
}
