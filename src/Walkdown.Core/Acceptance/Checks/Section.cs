namespace Walkdown.Core.Acceptance;

/// <summary>Part of the work, in its order.</summary>
public enum Section
{
    /// <summary>Before anybody climbs.</summary>
    Before,

    /// <summary>On the bench.</summary>
    Bench,

    /// <summary>The run.</summary>
    Cable,

    /// <summary>Fixing.</summary>
    Fixing,

    /// <summary>Power.</summary>
    Power,

    /// <summary>Link.</summary>
    Link,

    /// <summary>Address and login.</summary>
    Address,

    /// <summary>Clock.</summary>
    Time,

    /// <summary>Recorder and channel.</summary>
    Recorder,

    /// <summary>View and aim.</summary>
    Aim,

    /// <summary>Focus.</summary>
    Focus,

    /// <summary>By night.</summary>
    Night,

    /// <summary>Number plates: lane, trial drive.</summary>
    Plates,

    /// <summary>The end of the visit.</summary>
    Finish,
}
